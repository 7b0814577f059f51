"""The plan as CSV tables for a spreadsheet: parts, wool, wires, cuts of stock, steps.

Headings and words are in the maker's language, numbers in the maker's units with a decimal point. Id columns
have the same keys as the JSON.
"""

from __future__ import annotations

import csv
import io
import unicodedata
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from bambola.core.armature import CutWire, StockCut
from bambola.core.bench import Making
from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.order.steps import made_fact
from bambola.core.plan import Sheet
from bambola.core.quantities import G_PER, MM_PER, show_length
from bambola.core.resize.laws import measure_fact
from bambola.core.words import Words

Row = Sequence[object]
Table = tuple[Row, Iterable[Row]]


@frozen
class Style:
    """The format of a table: separator, decimal sign, and a mark at the beginning."""

    between: str = ","
    decimal: str = "."
    mark: str = ""


PLAIN = Style()


def of_country(words: Words) -> Style:
    """Return the style in which the spreadsheets of the maker's country open a file by a double click: a
    decimal comma needs semicolons as separators, and other letters than English the mark of Unicode."""
    decimal = words.units.decimal
    return Style(";" if decimal == "," else ",", decimal, "\ufeff")


def plan_tables(plan: Sheet, words: Words, style: Style = PLAIN) -> dict[str, str]:
    """Return the CSV texts by file name."""
    scale = _Scale(words)
    tables = {
        "parts.csv": _part_table(plan, words, scale),
        "wool.csv": _wool_table(plan, words, scale),
        "wires.csv": _wire_table(plan.wires, words, scale),
        "cutting.csv": _cutting_table(plan.cutting, words, scale),
        "steps.csv": _step_table(plan, words),
    }
    return {name: write_csv(*table, style) for name, table in tables.items()}


class _Scale:
    """Numbers in the maker's units, and the names of these."""

    def __init__(self, words: Words) -> None:
        self.length, self.mass = words.units.length, words.units.mass
        self._mm, self._g = MM_PER[self.length], G_PER[self.mass]
        inches = self.length == "in"
        self.area = words.tr("sq in") if inches else words.tr("cm²")
        self.volume = words.tr("cu in") if inches else words.tr("cm³")
        self._cm = MM_PER["in" if inches else "cm"] / MM_PER["cm"]
        # Like all numbers here it is written with a point, whatever the maker's country writes.
        self._plain = replace(words.units, decimal=".")

    def mm(self, mm: float) -> float:
        return mm / self._mm

    def g(self, grams: float) -> float:
        return grams / self._g

    def sizes(self, mm: Iterable[float]) -> str:
        return " × ".join(show_length(each, self._plain, with_unit=False) for each in mm)

    def cm2(self, cm2: float) -> float:
        return cm2 / self._cm**2

    def cm3(self, cm3: float) -> float:
        return cm3 / self._cm**3


def _part_table(plan: Sheet, words: Words, scale: _Scale) -> Table:
    head = (
        words.tr("id"),
        words.tr("part"),
        words.tr("how many"),
        words.tr("made"),
        words.tr("rounds"),
        words.tr("firmness"),
        words.tr("measure"),
        words.tr("was, {unit}", unit=scale.length),
        words.tr("now, {unit}", unit=scale.length),
        words.tr("wool felted, {unit}", unit=scale.volume),
        words.tr("skin, {unit}", unit=scale.area),
    )
    return head, (
        (
            p.id,
            p.name,
            p.count,
            words.say(made_fact(p.made)),
            p.rounds,
            words.say(Fact(f"firmness.{p.firmness}")),
            words.say(measure_fact(name)),
            scale.mm(p.from_mm[name]),
            scale.mm(mm),
            scale.cm3(p.net_cm3),
            scale.cm2(p.exposed_cm2),
        )
        for p in plan.parts
        for name, mm in p.to_mm.items()
    )


def _wool_table(plan: Sheet, words: Words, scale: _Scale) -> Table:
    role = {
        "core": words.tr("core"),
        "coat": words.tr("coat"),
        "inset": words.tr("inset"),
        "fur": words.tr("fur"),
        "seam": words.tr("seam"),
        "fringe": words.tr("loose end"),
    }
    head = (
        words.tr("part id"),
        words.tr("how many"),
        words.tr("wool id"),
        words.tr("laid as"),
        words.tr("felted in each, {unit}", unit=scale.mass),
        words.tr("take, {unit}", unit=scale.mass),
        words.tr("reserve, {unit}", unit=scale.mass),
        words.tr("loose size, {unit}", unit=scale.length),
    )
    return head, (
        (
            p.id,
            p.count,
            w.wool,
            role[w.role],
            scale.g(w.grams),
            scale.g(w.take_g),
            scale.g(w.keep_by_g),
            scale.sizes(w.loose_mm.values()),
        )
        for p in plan.parts
        for w in p.portions
    )


def _wire_table(wires: Sequence[CutWire], words: Words, scale: _Scale) -> Table:
    head = (
        words.tr("id"),
        words.tr("wire"),
        words.tr("stock"),
        words.tr("thick, {unit}", unit="mm"),  # wire is sold by the millimetre everywhere
        words.tr("strands"),
        words.tr("path, {unit}", unit=scale.length),
        words.tr("for winding, {unit}", unit=scale.length),
        words.tr("for ends, {unit}", unit=scale.length),
        words.tr("cut, {unit}", unit=scale.length),
        words.tr("bends"),
    )
    return head, (
        (
            w.id,
            words.say(w.name),
            words.say(w.stock),
            w.diameter_mm,
            w.strands,
            scale.mm(w.path_mm),
            scale.mm(w.takeup_mm),
            scale.mm(sum(a.mm for a in w.allowances)),
            scale.mm(w.cut_mm),
            "; ".join(
                f"{scale.mm(b.at_mm):.2f} {scale.length} {b.angle_deg:.0f}°" for b in w.bends
            ),
        )
        for w in wires
    )


def _cutting_table(cutting: Sequence[StockCut], words: Words, scale: _Scale) -> Table:
    form = {"coil": words.tr("coil"), "stem": words.tr("stem"), "offcut": words.tr("offcut")}
    head = (
        words.tr("stock"),
        words.tr("comes as"),
        words.tr("length, {unit}", unit=scale.length),
        words.tr("cuts, {unit}", unit=scale.length),
        words.tr("wire ids"),
        words.tr("left, {unit}", unit=scale.length),
        words.tr("to buy"),
    )
    return head, (
        (
            words.say(c.stock),
            form[c.form],
            scale.mm(c.length_mm),
            "; ".join(f"{scale.mm(mm):.2f}" for mm in c.cuts),
            "; ".join(c.wires),
            scale.mm(c.waste_mm),
            words.tr("yes") if c.to_buy else words.tr("no"),
        )
        for c in cutting
    )


def _step_table(plan: Sheet, words: Words) -> Table:
    head = (
        words.tr("step"),
        words.tr("id"),
        words.tr("part id"),
        words.tr("what to do"),
        words.tr("after steps"),
        words.tr("needle"),
        words.tr("minutes"),
        words.tr("checks"),
        words.tr("cautions"),
    )
    return head, (
        (
            s.n,
            s.key,
            s.part or "",
            words.say(s.text),
            " ".join(map(str, s.after)),
            s.needle or "",
            s.minutes,
            "; ".join(map(words.say, s.checks)),
            "; ".join(map(words.say, s.cautions)),
        )
        for s in plan.steps
    )


def write_csv(head: Row, rows: Iterable[Row], style: Style = PLAIN) -> str:
    """Return a table as CSV text (RFC 4180)."""
    out = io.StringIO()
    out.write(style.mark)
    writer = csv.writer(out, delimiter=style.between, lineterminator="\r\n")
    writer.writerow(head)
    for row in rows:
        writer.writerow([_cell_text(cell, style) for cell in row])
    return out.getvalue()


def _cell_text(cell: object, style: Style) -> object:
    if isinstance(cell, float):
        return f"{round(cell, 3) + 0.0:.3f}".replace(".", style.decimal)
    return _escape_formula(cell)


def _escape_formula(cell: object) -> object:
    """Return a text so that a spreadsheet does not take it for a formula."""
    if not isinstance(cell, str):
        return cell
    # Some take those of full width for the same.
    first = unicodedata.normalize("NFKC", cell.lstrip()[:1])
    return f"'{cell}" if first and first in "=+-@" else cell


def makings_csv(makings: Mapping[str, Making], words: Words) -> str:
    """Return a row for each making: heights, days, hours, failures, what to do differently, price."""
    tr, unit = words.tr, words.units.length

    def long(mm: float | None) -> float | str:
        return "" if mm is None else mm / MM_PER[unit]

    head = (
        tr("id"),
        tr("figure"),
        tr("planned, {unit}", unit=unit),
        tr("reached, {unit}", unit=unit),
        tr("begun"),
        tr("finished"),
        tr("sold"),
        tr("hours"),
        tr("sittings"),
        tr("steps that failed"),
        tr("price"),
        tr("next time"),
    )
    rows = (
        (
            name,
            making.figure,
            long(making.height_mm),
            long(making.reached_mm),
            making.first_day,
            making.finished or "",
            making.sold or "",
            making.spent / 60,
            len(making.sittings),
            len(making.failed),
            "" if making.price is None else str(making.price),
            making.next_time,
        )
        for name, making in makings.items()
    )
    return write_csv(head, rows)

"""The cover: both figures on one ground line, what changes, what is needed, hours and cautions."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator

from bambola.core.export.drawn import (
    FAINT,
    MADDER,
    QUIET,
    DrawnText,
    Item,
    PaperPage,
    line,
    shift_items,
    wrap_text,
)
from bambola.core.export.felt import on_ground
from bambola.core.export.packet.columns import (
    GAP_MM,
    ColumnLine,
    column_pages,
    columns_of,
    head,
    keep_together,
    words_in,
)
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import sheet
from bambola.core.export.wool_text import fitting_size, fitting_stock
from bambola.core.facts import Fact
from bambola.core.methods.told import tools_to_lay_out
from bambola.core.plan import Plan
from bambola.core.plan.reading.stuff import material_fact
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.solids import place
from bambola.core.words import Words as Maker

_CAUTIONS = ("care.needle", "care.wire", "care.small")
_MOST_CHANGES = 9
_SIZE, _GAP_MM, _LEAST_PICTURE_MM = 3.5, 5.0, 60.0


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield one page; on small paper, or with much text, the needs continue on another."""
    words, plan, paper = job.words, job.plan, job.paper
    wide, high = paper.room
    items: list[Item] = [DrawnText(0, 11, plan.figure, 11, "title")]
    sizes = ", ".join(show_length(p.to_height_mm, words.units) for p in job.plans)
    lead = words.tr(
        "{before} becomes {sizes}, {datum}",
        before=show_length(plan.from_height_mm, words.units),
        sizes=sizes,
        datum=words.say(plan.datum),
    )
    items.append(DrawnText(0, 18, lead, 4.4))
    y = 22.0
    for text in filter(None, (job.maker, job.licence, job.note)):
        for row in wrap_text(text, 3.4, wide):
            items.append(DrawnText(0, y + 2, row, 3.4, colour=QUIET))
            y += 4.6
    shown = [place(job.figure), *(each.solids.placement for each in job.plans)]
    half = (wide - GAP_MM) / 2
    takes, changes = (
        keep_together(_lines_on_needs(job, half)),
        keep_together(_lines_on_changes(job, half)),
    )
    rest = keep_together([*_size_table_lines(job, wide), *_caution_lines(words, wide)])
    below = max(takes.high, changes.high) + _GAP_MM
    picture_high = high - y - 2 * _GAP_MM - below - rest.high
    fits = picture_high >= _LEAST_PICTURE_MM
    if not fits:
        picture_high = high - y - 2 * _GAP_MM
    items += on_ground(shown, job.bench, words, y, wide, picture_high)
    y += picture_high + 2 * _GAP_MM - 2
    if fits:
        items += shift_items(takes.items, 0, y)
        items += shift_items(changes.items, half + GAP_MM, y)
        items += shift_items(rest.items, 0, y + below)
    yield sheet(paper, items, "cover", words.tr("cover"), words)
    if not fits:
        column = columns_of(paper)[1]
        parts = (
            _lines_on_needs(job, column),
            _lines_on_changes(job, column),
            _size_table_lines(job, column),
        )
        lines = [*itertools.chain(*parts), *_caution_lines(words, column)]
        yield from column_pages(lines, paper, "cover", words.tr("cover"), words)


def _lines_on_needs(job: Job, wide: float) -> Iterator[ColumnLine]:
    """Yield lines on what is needed, and how long it takes."""
    yield head(job.words.tr("What it takes"))
    yield from _wrap_lines(_wool_lines(job), wide)
    yield head(job.words.tr("Time and weight"))
    yield from _wrap_lines(_wool_totals(job), wide)


def _lines_on_changes(job: Job, wide: float) -> Iterator[ColumnLine]:
    """Yield lines on what differs from before, open questions, and what to lay out first."""
    words, plan = job.words, job.plan
    changes = [words.say(c.text) for c in plan.changes[:_MOST_CHANGES]]
    if len(plan.changes) > _MOST_CHANGES:
        more = len(plan.changes) - _MOST_CHANGES
        changes.append(words.trn("and {n} more", "and {n} more", more))
    yield head(words.tr("What the new size changes"))
    yield from _wrap_lines(changes or [words.tr("It is made as before.")], wide)
    if plan.waiting:
        yield head(words.tr("Not decided yet"))
        yield from _wrap_lines([words.say(n.title) for n in plan.waiting], wide)
    yield head(words.tr("Lay out"))
    yield from _wrap_lines([words.say(tool) for tool in tools_to_lay_out(plan, job.bench)], wide)


def _wrap_lines(lines: Iterable[str], wide: float) -> Iterator[ColumnLine]:
    return (words_in(line, wide, _SIZE) for line in lines)


def _caution_lines(words: Maker, wide: float) -> Iterator[ColumnLine]:
    yield ColumnLine(4.0, (line(0, 2, wide, 2, colour=FAINT, width=0.3),))
    for caution in _CAUTIONS:
        yield words_in(words.say(Fact(caution)), wide, 3.1, colour=MADDER)


def _wool_lines(job: Job) -> list[str]:
    words, plan = job.words, job.plan
    found = []
    for total in plan.wools:
        grams = show_mass(total.grams, words.units)
        told = words.tr("{wool}: {grams}", wool=total.name, grams=grams)
        if total.packs:
            pack = show_mass(job.bench.wool_by_id[total.wool].pack_g, words.units)
            told += words.tr(", buy {packs} × {pack}", packs=total.packs, pack=pack)
        found.append(told)
    for fitting in plan.fittings:
        size = fitting_size(plan, fitting, fitting.use_mm, words.units)
        stock = fitting_stock(fitting, words)
        found.append(f"{fitting.count} × {fitting.name}, {size}{stock}")
    for row in plan.materials:
        show = show_mass if row.kind == "clay" else show_length
        short = words.tr(", {much} to buy", much=show(row.buy, words.units)) if row.buy > 0 else ""
        found.append(words.say(material_fact(row)) + short)
    return [*found, *_wire_lengths(plan, words)]


def _wire_lengths(plan: Plan, words: Maker) -> Iterator[str]:
    """Return the length of each kind of wire, whatever stock it is cut from."""
    by_id = {wire.id: wire for wire in plan.wires}
    kinds: dict[tuple[Fact, float], list[tuple[float, bool]]] = {}
    for cut in plan.cutting:  # of all the pieces that are made
        for mm, name in zip(cut.cuts, cut.wires, strict=True):
            kind = by_id[name].stock, by_id[name].diameter_mm
            kinds.setdefault(kind, []).append((mm, cut.to_buy))
    for (metal, thick), cuts in kinds.items():
        told = words.trn(
            "{metal:capital}, {thick}: {long}",
            "{metal:capital}, {thick}: {long} in {n} pieces",
            len(cuts),
            metal=metal,
            thick=show_bought(thick, words.units),
            long=show_length(sum(mm for mm, _ in cuts), words.units),
        )
        buy = any(to_buy for _, to_buy in cuts)
        yield words.tr("{wire}, to buy", wire=told) if buy else told


def _wool_totals(job: Job) -> list[str]:
    words, plan = job.words, job.plan
    return [
        words.tr(
            "{wool} of wool, about {hours:.0f} h, {n} steps",
            wool=show_mass(plan.wool_g, words.units),
            hours=plan.minutes / 60,
            n=len(plan.steps),
        )
    ]


def _size_table_lines(job: Job, wide: float) -> Iterator[ColumnLine]:
    """Yield every part's sizes at every height, if there are several."""
    words = job.words
    if len(job.plans) < 2:
        return
    yield head(words.tr("Sizes"))
    columns = [wide * 0.4 + i * wide * 0.6 / len(job.plans) for i in range(len(job.plans))]
    heights = [show_length(plan.to_height_mm, words.units) for plan in job.plans]
    yield ColumnLine(
        4.6,
        tuple(
            DrawnText(x, _SIZE, told, _SIZE, "bold")
            for x, told in zip(columns, heights, strict=True)
        ),
    )
    for part in job.plan.parts:
        row = [DrawnText(0, 3.4, part.name, 3.4)]
        for x, plan in zip(columns, job.plans, strict=True):
            sizes = plan.part(part.id).to_mm.values()
            told = " × ".join(show_length(mm, words.units, with_unit=False) for mm in sizes)
            row.append(DrawnText(x, 3.4, told, 3.2))
        yield ColumnLine(4.6, tuple(row))


def grey_safe(words: Maker) -> str:
    """Return a note on what only colour would tell; lines also differ by their dashes."""
    return words.tr("wire: heavy line · bends: dots · firm up to here: dashed")

"""Sizes and wool of every part, the wires with their bends, and what to buy: all numbers on few sheets."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.armature import StockCut
from bambola.core.armature.cuts import by_hand
from bambola.core.export.drawn import MADDER, QUIET, PaperPage
from bambola.core.export.packet.columns import (
    ColumnLine,
    column_pages,
    columns_of,
    head,
    keep_together,
    words_in,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import SMALL
from bambola.core.export.strips import wire_title
from bambola.core.export.wool_text import fitting_size
from bambola.core.plan import PartPlan, Plan
from bambola.core.plan.reading.stuff import piece_fact
from bambola.core.quantities import show_length
from bambola.core.wool import amount, kept_by, made_ready, portion_name
from bambola.core.words import Words as Maker
from bambola.core.words import kind


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield the pages, in two columns if the paper is wide enough."""
    for plan, height in each_plan(job):
        told = job.words.tr("sizes and wool") + height
        yield from column_pages(_size_lines(plan, job), job.paper, "sizes", told, job.words)


def _size_lines(plan: Plan, job: Job) -> Iterator[ColumnLine]:
    words, (_, wide) = job.words, columns_of(job.paper)
    yield head(words.tr("Parts and their wool"))
    for part in plan.parts:
        if part.count:
            yield _part_line(part, job, wide)
    if plan.wires:
        yield head(words.tr("Wire"))
    for wire in plan.wires:
        bends = "; ".join(words.say(bend.as_fact) for bend in by_hand(wire.bends))
        told = words.tr("From the first end: {bends}.", bends=bends) if bends else ""
        yield keep_together(
            (words_in(wire_title(wire, words), wide, face="bold"), words_in(told, wide, SMALL))
        )
    if plan.cutting:
        yield head(words.tr("Cut from"))
    for cut in plan.cutting:
        yield words_in(_cut_line(cut, words), wide, SMALL)
    if plan.fittings:
        yield head(words.tr("Fittings"))
    for row in plan.fittings:
        told = words.tr(
            "{count} × {name}, {use}; {wanted} would match",
            count=row.count,
            name=row.name,
            use=fitting_size(plan, row, row.use_mm, words.units),
            wanted=fitting_size(plan, row, row.wanted_mm, words.units),
        )
        yield words_in(told, wide)
    if plan.patterns:
        yield head(words.tr("Not of wool"))
    for pattern in plan.patterns:
        name = plan.part(pattern.part).name
        pieces = ", ".join(words.say(piece_fact(pattern, piece)) for piece in pattern.pieces)
        yield words_in(words.tr("{part}: {cut}", part=name, cut=pieces), wide)
    asked = [notice for notice in plan.notices if notice.level != "note"]
    if asked:
        yield head(words.tr("Questions"))
    for notice in asked:
        answer = next((o.label for o in notice.options if o.id == notice.answer), None)
        said = words.say(answer) if answer else words.tr("Not decided yet")
        title = words_in(words.say(notice.title), wide, face="bold")
        yield keep_together((title, words_in(f"{words.say(notice.text)} {said}.", wide, SMALL)))


SHOWS = 0.97
"""A piece that is shorter than its part by more than this says why. Judged."""


def _part_line(part: PartPlan, job: Job, wide: float) -> ColumnLine:
    words = job.words
    sizes, was = (
        " × ".join(show_length(mm, words.units, with_unit=False) for mm in of.values())
        for of in (part.to_mm, part.from_mm)
    )
    told = [words.say(kind("made", part.made))]
    drawn, shown = part.to_mm.get("length", part.to_mm.get("height", 0.0)), part.piece[0]
    if part.is_felted and shown < SHOWS * drawn:
        long = show_length(shown, words.units)
        told.append(words.tr("{long} long on the pad, the rest lies in its neighbours", long=long))
    if part.rounds > 1:
        told.append(words.tr("{rounds} rounds", rounds=part.rounds))
    if part.portions:
        told.append(words.say(kind("firmness", part.firmness)))
    count = f"{part.count} × " if part.count > 1 else ""
    measures = " × ".join(words.say(kind("measure", name)) for name in part.to_mm)
    rows = [
        words_in(f"{count}{part.name}, {sizes} {words.units.length}", wide, face="bold"),
        words_in(
            f"{measures}, {words.tr('was {was}', was=was)} · {' · '.join(told)}",
            wide,
            SMALL,
            colour=QUIET,
        ),
    ]
    for heap in part.heaps:
        if heap.grams <= 0:
            continue
        taken = words.tr("take {amount}", amount=words.say(amount(heap)))
        wool = f"{job.bench.wool_by_id[heap.wool].name}, {words.say(portion_name(heap))}"
        more = ", ".join(filter(None, (words.say(kept_by(heap)), words.say(made_ready(heap)))))
        rows.append(words_in(f"{wool}: {taken}", wide, 3.0, colour=MADDER, indent=2))
        if more:
            rows.append(words_in(more, wide, SMALL, indent=4))
    return keep_together(rows)


def _cut_line(cut: StockCut, words: Maker) -> str:
    stock = words.say(cut.stock)
    cuts = ", ".join(show_length(mm, words.units, with_unit=False) for mm in cut.cuts)
    told = words.tr(
        "{stock}, {long}: {cuts} {unit}",
        stock=words.tr("buy {stock}", stock=stock) if cut.to_buy else stock,
        long=show_length(cut.length_mm, words.units),
        cuts=cuts,
        unit=words.units.length,
    )
    if cut.form == "coil":
        return told
    return told + words.tr("; left {left}", left=show_length(cut.waste_mm, words.units))

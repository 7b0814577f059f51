"""For selling: a label with price and care for each figure, and a commission slip."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.book.costing import Cost, cost_of
from bambola.core.export.drawn import (
    FAINT,
    INK,
    QUIET,
    DrawnText,
    Item,
    PaperPage,
    box,
    line,
    wrap_text,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import Block, pack_blocks
from bambola.core.facts import Fact
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.words import Words as Maker

LABEL_MM, SLIP_MM = 84.0, 170.0
_LINE, _SMALL = 4.1, 2.9


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield a label for every figure, and a slip for each size."""
    words = job.words
    for plan, height in each_plan(job):
        cost = cost_of(plan, job.bench)
        blocks = [_stall_label(plan, cost, job) for _ in range(plan.count)]
        blocks.append(_commission_slip(plan, cost, job))
        told = words.tr("to sell it") + height
        yield from pack_blocks(blocks, job.paper, "selling", told, words, true_size=False)


def _price_text(cost: Cost, job: Job) -> str:
    """Return the price that covers the cost of one; a line to write on if hours or materials have no
    price."""
    if cost.work is None or cost.unpriced:
        return "…" * 6
    each = cost.money.no_less(cost.covers / cost.count)
    return job.bench.money_text(each, job.words.units)


def _made_of(plan: Plan, words: Maker) -> str:
    """Return the materials for the label."""
    wired = words.tr(" on a frame of wire") if plan.wires else ""
    others = [words.say(row.name) for row in plan.materials]
    also = words.tr(", with {things}", things=", ".join(others)) if others else ""
    return words.tr("Felted of wool by hand{wired}{also}.", wired=wired, also=also)


CARE = (
    Fact("care.ornament"),
    Fact("care.keep"),
    Fact("care.clean"),
)


def _stall_label(plan: Plan, cost: Cost, job: Job) -> Block:
    words = job.words
    high = show_length(plan.to_height_mm, words.units)
    heads = wrap_text(plan.figure, 5.6, LABEL_MM - 10, "title")
    items: list[Item] = [
        DrawnText(5, 9 + 6.4 * i, head, 5.6, "title") for i, head in enumerate(heads)
    ]
    y = 9 + 6.4 * len(heads)
    items.append(DrawnText(5, y, words.tr("{height} high", height=high), 3.2, colour=QUIET))
    items.append(DrawnText(LABEL_MM - 5, y, _price_text(cost, job), 5.2, "bold", INK, "right"))
    y += 6.5
    for text in (_made_of(plan, words), *map(words.say, CARE)):
        for told in wrap_text(text, _SMALL, LABEL_MM - 10):
            items.append(DrawnText(5, y, told, _SMALL))
            y += _LINE
    if job.maker:
        y += 1.5
        items.append(DrawnText(5, y, job.maker, 3.2, "bold"))
        y += _LINE
    tall = y + 1
    frame = box(0, 0, LABEL_MM, tall, colour=INK, width=0.25, dash=(2.0, 1.5))
    return Block(LABEL_MM, tall, (frame, *items))


def _commission_slip(plan: Plan, cost: Cost, job: Job) -> Block:
    """Return a slip for who ordered what, the price and the date, to be signed."""
    words, bench = job.words, job.bench
    wide = min(SLIP_MM, job.paper.room[0])
    high = show_length(plan.to_height_mm, words.units)
    items: list[Item] = [DrawnText(5, 10, words.tr("Commission"), 6.2, "title")]
    facts = [
        words.tr("{n} × {figure}, {height} high", n=plan.count, figure=plan.figure, height=high),
        _made_of(plan, words),
    ]
    forms = {wool.id: wool.form for wool in bench.wools}
    colours = ", ".join(total.name for total in plan.wools if forms.get(total.wool) != "core")
    facts.append(words.tr("Colours: {wools}", wools=colours))
    facts.append(words.tr("About {hours:.0f} h of work", hours=cost.minutes / 60))
    if cost.work is not None and not cost.unpriced:
        facts.append(words.tr("Price: {price}", price=bench.money_text(cost.covers, words.units)))
    y = 17.0
    for fact in facts:
        for told in wrap_text(fact, 3.4, wide - 10):
            items.append(DrawnText(5, y, told, 3.4))
            y += 5.0
    asked = (
        words.tr("for"), words.tr("price agreed, of that paid"), words.tr("ready by"),
        words.tr("to do differently"), words.tr("day, both names"),
    )  # fmt: skip
    for text in asked:
        y += 7.0
        items.append(DrawnText(5, y, text, 3.2, colour=QUIET))
        items.append(line(56, y + 0.6, wide - 5, y + 0.6, colour=FAINT, width=0.3))
    y += 7.0
    for told in wrap_text(words.say(Fact("care.law")), _SMALL, wide - 10):
        items.append(DrawnText(5, y, told, _SMALL, colour=QUIET))
        y += _LINE
    frame = box(0, 0, wide, y + 1, colour=INK, width=0.25)
    return Block(wide, y + 1, (frame, *items))

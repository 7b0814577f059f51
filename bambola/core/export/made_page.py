"""A page of the book on paper: a figure as planned and as it came out, its hours, what helped, its cost."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from bambola.core.bench import Bench, Making
from bambola.core.book.came_out import OffPlan
from bambola.core.book.costing import Cost
from bambola.core.export.drawn import QUIET, DrawnText, Item, shift_items
from bambola.core.export.felt import on_ground
from bambola.core.export.packet.build import pdf_of
from bambola.core.export.packet.columns import ColumnLine, head, in_columns, words_in
from bambola.core.export.packet.papers import PAPERS, Paper
from bambola.core.export.packet.sheet import number_pages, sheet
from bambola.core.plan import Plan
from bambola.core.quantities import show_length, show_mass
from bambola.core.solids import Placement
from bambola.core.words import Words as Maker
from bambola.core.words import kind
from bambola.translated import language_of

PICTURE_MM = 96.0
_SIZE = 3.4


def made_pdf(
    making: Making,
    plan: Plan,
    came: Placement | None,
    off: Sequence[OffPlan],
    cost: Cost,
    bench: Bench,
    words: Maker,
    paper: Paper = PAPERS["a4"],
) -> bytes:
    """Return the page as PDF, continued on further pages if needed."""
    wide, high = paper.room
    name = making.figure or plan.figure
    lead = [words.tr("planned {height}", height=show_length(plan.to_height_mm, words.units))]
    if making.finished:
        lead.append(words.tr("finished {day}", day=making.finished))
    if making.sold:
        lead.append(words.tr("sold {day}", day=making.sold))
    items: list[Item] = [DrawnText(0, 11, name, 11, "title")]
    items.append(DrawnText(0, 18, ", ".join(lead), 4.2, colour=QUIET))
    shown = [plan.solids.placement, *([came] if came else [])]
    tall = min(PICTURE_MM, high / 2)
    items += on_ground(shown, bench, words, 24, wide, tall)
    below = tall + 34.0
    lines = list(_page_lines(making, plan, off, cost, bench, words, wide))
    sheets, *_ = in_columns(lines, replace(paper, high=paper.high - below))
    pages = []
    for n, column in enumerate(sheets):
        placed = [*items, *shift_items(column, 0, below)] if n == 0 else list(column)
        pages.append(sheet(paper, placed, "made", words.tr("made"), words))
    title, language = words.tr("{figure}: made", figure=name), language_of(words.catalogue)
    return pdf_of(number_pages(pages, name, words), title, language=language)


def _page_lines(
    making: Making,
    plan: Plan,
    off: Sequence[OffPlan],
    cost: Cost,
    bench: Bench,
    words: Maker,
    wide: float,
) -> Iterator[ColumnLine]:
    half = wide / 2 - 4 if wide > 160 else wide
    steps = {str(step.key): words.say(step.text) for step in plan.steps}

    def said(text: str) -> ColumnLine:
        return words_in(text, half, _SIZE)

    yield head(words.tr("Hours"))
    told = {"hours": making.spent / 60, "planned": plan.minutes / 60}
    yield said(words.tr("{hours:.1f} h of work, {planned:.1f} h planned", **told))
    for sitting in making.sittings:
        yield said(words.tr("{day}: {minutes:.0f} min", day=sitting.day, minutes=sitting.minutes))
    if off:
        yield head(words.tr("Different from planned"))
    for row in off:
        show = show_mass if row.kind == "weight" else show_length
        what = words.say(kind("measure", row.what)) if row.what else words.tr("weight")
        yield said(
            words.tr(
                "{part}, {what}: {found} for {planned}",
                part=plan.part(row.part).name,
                what=what,
                found=show(row.found, words.units),
                planned=show(row.planned, words.units),
            )
        )
    if making.failed:
        yield head(words.tr("Failed, and what helped"))
    for key in making.failed:
        helped = "; ".join(making.mended.get(key, ()))
        yield said(f"{steps.get(key, key)}: {helped}" if helped else steps.get(key, key))
    notes = {key: note for key, note in making.notes.items() if note}
    if notes or making.next_time:
        yield head(words.tr("Notes"))
    for key, note in notes.items():
        yield said(f"{steps.get(key, key)}: {note}")
    if making.next_time:
        yield said(words.tr("Next time: {what}", what=making.next_time))
    yield head(words.tr("What it cost"))
    yield said(words.tr("together {amount}", amount=bench.money_text(cost.total, words.units)))
    if making.price is not None:
        sale = cost.sold_at(making.price)
        yield said(words.tr("price {amount}", amount=bench.money_text(making.price, words.units)))
        if sale.hourly is not None:
            yield said(
                words.tr(
                    "an hour earned {amount}", amount=bench.money_text(sale.hourly, words.units)
                )
            )

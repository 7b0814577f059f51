"""Several figures made at once, on paper: their wool, the splitting of hanks, the cutting of stock, one order
with a box for each figure, and labels for their bags."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence

from bambola.core.bench import Bench
from bambola.core.export.drawn import (
    FAINT,
    INK,
    QUIET,
    WOAD,
    DrawnText,
    Face,
    Item,
    PaperPage,
    box,
    line,
    shift_items,
    wrap_text,
)
from bambola.core.export.packet.build import pdf_of
from bambola.core.export.packet.pages.labels import bag_label
from bambola.core.export.packet.papers import PAPERS, Paper
from bambola.core.export.packet.sheet import number_pages, pack_blocks, sheet
from bambola.core.export.wool_text import split_title, tearing_lines
from bambola.core.plan.counter.together import CommonStep, Together, splits_together, wish_of
from bambola.core.quantities import show_length, show_mass
from bambola.core.wool import portion_name
from bambola.core.wool.splitting import SplitPlan
from bambola.core.words import Words as Maker
from bambola.translated import language_of

SIZE, LINE = 3.3, 5.0
_NAME_MM, _BOX_MM = 44.0, 6.0

Row = tuple[float, list[Item]]
"""How high it is, and what is drawn from its upper left corner."""


def variant_name(both: Together, i: int, words: Maker) -> str:
    """Return the name of figure ``i``: its variant, or that it is as made."""
    return both.names[i] or words.tr("as it was made")


def together_pdf(
    both: Together,
    bench: Bench,
    words: Maker,
    splits: Mapping[str, SplitPlan] | None = None,
    paper: Paper = PAPERS["a4"],
) -> bytes:
    """Return the sheets as PDF; ``splits`` are the trees over the portions of all figures, by wool."""
    pages = together_pages(both, bench, words, splits, paper)
    title = words.tr("{figure}: made together", figure=both.title)
    return pdf_of(pages, title, language=language_of(words.catalogue))


SPLIT_S = 3.0
"""So long the tree of a colour is looked for."""


def kits_pdf(
    both: Together, bench: Bench, words: Maker, stopped: Callable[[], bool] = lambda: False
) -> bytes:
    """Return the sheets as PDF, with the wool of every colour split once for all figures, unless
    ``stopped``."""
    splits = splits_together(both, bench, SPLIT_S, stopped)
    return together_pdf(both, bench, words, splits)


def together_pages(
    both: Together,
    bench: Bench,
    words: Maker,
    splits: Mapping[str, SplitPlan] | None = None,
    paper: Paper = PAPERS["a4"],
) -> list[PaperPage]:
    """Return the sheets as pages, with name and number."""
    pages = list(_together_pages(both, bench, words, splits or {}, paper))
    return number_pages(pages, both.title, words)


def _together_pages(
    both: Together, bench: Bench, words: Maker, splits: Mapping[str, SplitPlan], paper: Paper
) -> Iterator[PaperPage]:
    wide, _ = paper.room
    before = [
        *_wool_rows(both, words, wide),
        *_stock_rows(both, words, wide),
        *(
            row
            for wool, split in splits.items()
            for row in _split_rows(both, bench, wool, split, words, wide)
        ),
    ]
    yield from _flow_rows(before, paper, words.tr("made together"), words)
    yield from _flow_rows(
        list(_order_rows(both, words, wide)), paper, words.tr("one order for all"), words
    )
    plans = [plan for plan in both.plans for _ in range(plan.count)]
    blocks = [bag_label(bag, plan, words) for bag, plan in zip(both.bags, plans, strict=True)]
    told = words.tr("labels for bags")
    yield from pack_blocks(blocks, paper, "together", told, words, true_size=False)


def _flow_rows(rows: Sequence[Row], paper: Paper, told: str, words: Maker) -> Iterator[PaperPage]:
    """Yield rows on as many sheets as needed."""
    items: list[Item] = []
    y = 0.0
    for high, row in rows:
        if y + high > paper.room[1] and items:
            yield sheet(paper, items, "together", told, words)
            items, y = [], 0.0
        items += shift_items(row, 0, y)
        y += high
    yield sheet(paper, items, "together", told, words)


def _head_row(text: str) -> Row:
    return 11.0, [DrawnText(0, 8.0, text, 5.0, "title", WOAD)]


def _text_row(text: str, wide: float, face: Face = "text") -> Row:
    rows = wrap_text(text, SIZE, wide, face)
    return LINE * len(rows), [
        DrawnText(0, SIZE + LINE * i, row, SIZE, face) for i, row in enumerate(rows)
    ]


def _wool_rows(both: Together, words: Maker, wide: float) -> Iterator[Row]:
    """Yield what each figure takes of every wool, and the total."""
    yield _head_row(words.tr("Wool, with what is lost in the hand"))
    heads = [
        f"{variant_name(both, i, words)}, {show_length(plan.to_height_mm, words.units)}"
        for i, plan in enumerate(both.plans)
    ]
    heads += [words.tr("together"), words.tr("to buy")]
    column = (wide - _NAME_MM) / len(heads)
    cells = [wrap_text(head, SIZE, column - 2, "bold") for head in heads]
    yield (
        LINE * max(map(len, cells)) + 1,
        [
            DrawnText(_NAME_MM + column * i, SIZE + LINE * k, text, SIZE, "bold")
            for i, cell in enumerate(cells)
            for k, text in enumerate(cell)
        ],
    )
    for total in both.wools:
        told = [show_mass(both.grams(i, total.wool), words.units) for i in range(len(both.plans))]
        told.append(show_mass(total.taken_g, words.units))
        told.append(
            words.trn("{n} pack", "{n} packs", total.packs) if total.packs else "\N{EN DASH}"
        )
        yield (
            LINE + 0.6,
            [
                box(0, 0.4, 3.4, 3.4, colour=INK, width=0.2, fill=total.colour),
                DrawnText(5, SIZE, total.name, SIZE),
                *(
                    DrawnText(_NAME_MM + column * i, SIZE, text, SIZE)
                    for i, text in enumerate(told)
                ),
                line(0, LINE, wide, LINE, colour=FAINT, width=0.15),
            ],
        )


def _stock_rows(both: Together, words: Maker, wide: float) -> Iterator[Row]:
    if not both.cutting:
        return
    yield _head_row(words.tr("Wire, cut for all at once"))
    for cut in both.cutting:
        lengths = " + ".join(show_length(mm, words.units) for mm in cut.cuts)
        yield _text_row(f"{words.say(cut.stock)}: {lengths}", wide)


def _split_rows(
    both: Together, bench: Bench, wool: str, split: SplitPlan, words: Maker, wide: float
) -> Iterator[Row]:
    yield _head_row(split_title(bench.wool_by_id[wool].name, split, words))

    def title(to: str) -> str:
        whose, part, portion = wish_of(both, to)
        what = f"{part.name}, {words.say(portion_name(portion))}"
        return f"{what} ({whose})" if whose else what

    for text in tearing_lines(split, title, words):
        yield _text_row(text, wide)


def _order_rows(both: Together, words: Maker, wide: float) -> Iterator[Row]:
    """Yield the steps with a box for each figure they are done for."""
    boxes = _BOX_MM * len(both.plans)
    yield _head_row(words.tr("One order for all"))
    for i in range(len(both.plans)):
        yield _text_row(
            words.tr("box {n}: {name}", n=i + 1, name=variant_name(both, i, words)), wide
        )
    yield 2.0, []
    for n, act in enumerate(both.acts, 1):
        rows = wrap_text(f"{n}. {act_words(both, act, words)}", SIZE, wide - boxes - 2)
        items: list[Item] = [
            DrawnText(boxes + 2, SIZE + LINE * k, row, SIZE) for k, row in enumerate(rows)
        ]
        for i in act.figure_count:
            items.append(box(_BOX_MM * i, 0.2, 3.6, 3.6, colour=INK, width=0.25))
            items.append(
                DrawnText(_BOX_MM * i + 1.8, 3.1, str(i + 1), 2.4, colour=QUIET, at="middle")
            )
        yield LINE * len(rows) + 0.8, items


def act_words(both: Together, act: CommonStep, words: Maker) -> str:
    """Return a step of the common order as text, with the figures it is for if not for all."""
    told = words.say(act.step.text)
    if len(act.figure_count) == len(both.plans):
        return told
    names = ", ".join(variant_name(both, i, words) for i in act.figure_count)
    return words.tr("{step} ({names})", step=told, names=names)

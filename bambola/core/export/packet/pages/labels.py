"""Labels for bags: the wool of each figure and colour, eyes and fittings, cut wires."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import (
    INK,
    QUIET,
    DrawnText,
    Item,
    PaperPage,
    box,
    shift_items,
    wrap_text,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.papers import LabelSheet
from bambola.core.export.packet.sheet import Block, pack_blocks
from bambola.core.export.wool_text import fitting_size
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import Bag, bags_by_colour, bags_by_figure, with_reserve
from bambola.core.quantities import show_bought, show_length
from bambola.core.wool import is_plain_core, portion_name
from bambola.core.words import Words as Maker

LABEL_MM = 59.0
_LINE = 3.9
_IN_MM, _SIZE = 3.0, 2.7
"""On a sheet of labels print begins so far in from the edge, as sheets slip, and is so high."""


@frozen
class _Label:
    title: str
    rows: tuple[str, ...]


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield a label for each bag: packed on plain paper to be cut out, or on label sheets."""
    words = job.words
    for plan, height in each_plan(job):
        labels = list(_labels_of(plan, job))
        if job.labels is not None:
            yield from _on_labels(labels, plan, job.labels, job)
            continue
        blocks = [_label_block(label.title, list(label.rows), plan, words) for label in labels]
        told = words.tr("labels for bags") + height
        yield from pack_blocks(blocks, job.paper, "labels", told, words, true_size=False)


def _labels_of(plan: Plan, job: Job) -> Iterator[_Label]:
    words = job.words
    for bag in (*bags_by_figure(plan), *bags_by_colour(plan, job.bench)):
        yield _Label(words.say(bag.title), tuple(_bag_rows(bag, words)))
    things, wires = _thing_rows(plan, job), _wire_rows(plan, job)
    if things:
        yield _Label(words.tr("What is bought"), tuple(things))
    if wires:
        yield _Label(words.tr("Cut wires"), tuple(wires))


def _on_labels(
    labels: list[_Label], plan: Plan, sheet: LabelSheet, job: Job
) -> Iterator[PaperPage]:
    """Yield label sheets; a label with too much text continues on the next."""
    words, paper = job.words, job.paper
    told = words.tr("labels for bags")
    cells = [cell for label in labels for cell in _label_cells(label, plan, sheet, words)]
    each = sheet.columns * sheet.rows
    for start in range(0, len(cells), each):
        items: list[Item] = []
        for n, cell in enumerate(cells[start : start + each]):
            items += shift_items(cell, *sheet.corner(n))
        yield PaperPage(paper.wide, paper.high, tuple(items), told, "labels", foot=False)


def _label_cells(
    label: _Label, plan: Plan, sheet: LabelSheet, words: Maker
) -> Iterator[list[Item]]:
    wide = sheet.wide - 2 * _IN_MM
    rows = [
        (told, 0.0 if i == 0 else 2.0)
        for row in label.rows
        for i, told in enumerate(wrap_text(row, _SIZE, wide - 2))
    ]
    head = 2 * _IN_MM + 6.4
    most = max(1, int((sheet.high - head) / (_SIZE + 0.7)))
    parts = [rows[i : i + most] for i in range(0, len(rows), most)]
    under = f"{plan.figure}, {show_length(plan.to_height_mm, words.units)}"
    for n, part in enumerate(parts, 1):
        which = f" {n}/{len(parts)}" if len(parts) > 1 else ""
        (title, *_) = wrap_text(label.title, 3.8, wide - 8, "title")
        items: list[Item] = [
            DrawnText(_IN_MM, _IN_MM + 3.2, title + which, 3.8, "title"),
            DrawnText(_IN_MM, _IN_MM + 6.6, under, 2.5, colour=QUIET),
        ]
        y = _IN_MM + 6.4 + _SIZE + 0.9
        for told, indent in part:
            items.append(DrawnText(_IN_MM + indent, y, told, _SIZE))
            y += _SIZE + 0.7
        yield items


def bag_label(bag: Bag, plan: Plan, words: Maker) -> Block:
    """Return the label of a bag with its contents."""
    return _label_block(words.say(bag.title), _bag_rows(bag, words), plan, words)


def _bag_rows(bag: Bag, words: Maker) -> list[str]:
    rows = [
        words.tr(
            "use, and the reserve: {both}", both=words.say(with_reserve(bag.take_g, bag.keep_by_g))
        )
    ]
    for w in bag.weighings:
        role = "" if is_plain_core(w.portion) else f", {words.say(portion_name(w.portion))}"
        grams = words.say(with_reserve(w.portion.take_g, w.portion.keep_by_g))
        rows.append(f"{words.say(w.title)}{role}: {grams}")
    return rows


def _thing_rows(plan: Plan, job: Job) -> list[str]:
    return [
        f"{row.count * plan.count} × {row.name}, {fitting_size(plan, row, row.use_mm, job.words.units)}"
        for row in plan.fittings
    ]


def _wire_rows(plan: Plan, job: Job) -> list[str]:
    words = job.words
    return [
        words.tr(
            "{n} × {name}: {cut} of {stock}, {thick}",
            n=plan.count,
            name=words.say(wire.name),
            cut=show_length(wire.cut_mm, words.units),
            stock=words.say(wire.stock),
            thick=show_bought(wire.diameter_mm, words.units),
        )
        for wire in plan.wires
    ]


def _label_block(title: str, rows: list[str], plan: Plan, words: Maker) -> Block:
    """Return a label with its title, the figure and height, and its contents."""
    high = show_length(plan.to_height_mm, words.units)
    heads = wrap_text(title, 4.4, LABEL_MM - 8, "title")
    items: list[Item] = [
        DrawnText(4, 7 + 5 * i, head, 4.4, "title") for i, head in enumerate(heads)
    ]
    y = 11.4 + 5 * (len(heads) - 1)
    items.append(DrawnText(4, y, f"{plan.figure}, {high}", 3.0, colour=QUIET))
    y += 5
    for row in rows:
        for i, told in enumerate(wrap_text(row, 3.0, LABEL_MM - 10)):
            items.append(DrawnText(4 if i == 0 else 7, y, told, 3.0))
            y += _LINE
    tall = y + 1
    frame = box(0, 0, LABEL_MM, tall, colour=INK, width=0.25, dash=(2.0, 1.5))
    return Block(LABEL_MM, tall, (frame, *items))

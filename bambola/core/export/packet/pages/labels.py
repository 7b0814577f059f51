"""Labels for bags: the wool of each figure and colour, eyes and fittings, cut wires."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import INK, QUIET, Item, Page, Words, box, wrapped
from bambola.core.export.fitting_sizes import fitting_size
from bambola.core.export.packet.build import Job, each_plan
from bambola.core.export.packet.sheet import Block, packed
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import Bag, bags_by_colour, bags_by_figure
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.wool import called, is_plain_core
from bambola.core.words import Words as Maker

LABEL_MM = 59.0
_LINE = 3.9


def pages(job: Job) -> Iterator[Page]:
    """A label for each bag, packed."""
    words = job.words
    for plan, height in each_plan(job):
        blocks = [
            *(bag_label(bag, plan, words) for bag in bags_by_figure(plan)),
            *(bag_label(bag, plan, words) for bag in bags_by_colour(plan, job.bench)),
        ]
        things = _things(plan, job)
        if things:
            blocks.append(_label(words.tr("Eyes, beads and what is bought"), things, plan, words))
        wires = _wires(plan, job)
        if wires:
            blocks.append(_label(words.tr("Cut wires"), wires, plan, words))
        told = words.tr("labels for bags") + height
        yield from packed(blocks, job.paper, "labels", told, words, true_size=False)


def bag_label(bag: Bag, plan: Plan, words: Maker) -> Block:
    """The label of a bag with what goes in."""
    rows = []
    for w in bag.weighings:
        role = "" if is_plain_core(w.portion) else f", {words.say(called(w.portion))}"
        grams = show_mass(w.most_g, words.units)
        rows.append(f"{words.say(w.title)}{role}: {grams}")
    whole = words.tr("together {grams}", grams=show_mass(bag.grams, words.units))
    return _label(words.say(bag.title), [whole, *rows], plan, words)


def _things(plan: Plan, job: Job) -> list[str]:
    return [
        f"{row.count * plan.count} × {row.name}, {fitting_size(plan, row, row.use_mm, job.words.units)}"
        for row in plan.fittings
    ]


def _wires(plan: Plan, job: Job) -> list[str]:
    words = job.words
    return [
        words.tr(
            "{n} × {name}: {cut} of {stock}, {thick}",
            n=plan.count,
            name=words.say(wire.name),
            cut=show_length(wire.cut_mm, words.units),
            stock=wire.stock,
            thick=show_bought(wire.diameter_mm, words.units),
        )
        for wire in plan.wires
    ]


def _label(title: str, rows: list[str], plan: Plan, words: Maker) -> Block:
    """Its title, the figure with its height, and what is within."""
    high = show_length(plan.to_height_mm, words.units)
    heads = wrapped(title, 4.4, LABEL_MM - 8, "title")
    items: list[Item] = [Words(4, 7 + 5 * i, head, 4.4, "title") for i, head in enumerate(heads)]
    y = 11.4 + 5 * (len(heads) - 1)
    items.append(Words(4, y, f"{plan.figure}, {high}", 3.0, colour=QUIET))
    y += 5
    for row in rows:
        for i, told in enumerate(wrapped(row, 3.0, LABEL_MM - 10)):
            items.append(Words(4 if i == 0 else 7, y, told, 3.0))
            y += _LINE
    tall = y + 1
    frame = box(0, 0, LABEL_MM, tall, colour=INK, width=0.25, dash=(2.0, 1.5))
    return Block(LABEL_MM, tall, (frame, *items))

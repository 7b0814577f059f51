"""The illustrated cards of the steps, four to a page; rows of fur that differ only in number share a card. A
card has amount, needles, when to stop and its first sentences; at length, all sentences and checks."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from PIL import Image

from bambola.core.bench import Bench
from bambola.core.export.drawn import (
    FAINT,
    INK,
    MADDER,
    QUIET,
    DrawnPicture,
    DrawnText,
    Face,
    Item,
    PaperPage,
    box,
    dot,
    largest_fitting,
    shift_items,
    wrap_text,
)
from bambola.core.export.felt import encode_jpeg
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.papers import Paper
from bambola.core.export.packet.sheet import sheet
from bambola.core.export.step_drawn import SHEET, step_items
from bambola.core.facts import Fact
from bambola.core.methods import StepSheet, sheet_for
from bambola.core.methods.alike import alike_amount, alike_rows, alike_steps, alike_title
from bambola.core.methods.drawing import fills_of
from bambola.core.methods.slots import pinch_of
from bambola.core.methods.told import in_short, told
from bambola.core.order import Step
from bambola.core.order.keys import TaskKey
from bambola.core.order.steps import duration_fact
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import dress_told
from bambola.core.relief import Camera, Growing
from bambola.core.solids import Placement

DOTS_PER_MM = 5.0
"""Of so small a picture no more can be told apart; a card that is drawn in no time is worth more. Judged."""
GHOST = 0.16


class StandingPictures:
    """Small pictures of the figure after each step, joined parts over a ghost of the whole, at most ``wide``
    by ``high`` mm."""

    def __init__(self, plan: Plan, bench: Bench, wide: float, high: float) -> None:
        self.plan, self._course = plan, course_of(plan, bench)
        whole = plan.solids.placement
        most = wide * DOTS_PER_MM, high * DOTS_PER_MM
        self._growing = Growing(whole, Camera(turn=14, tip=3), most, bench.colours)
        self._ghost = _fade_picture(Image.fromarray(self._growing.picture(whole).pixels))
        share = min(wide / self._ghost.width, high / self._ghost.height)
        self.size = self._ghost.width * share, self._ghost.height * share
        self._known: dict[tuple[int, ...], bytes] = {}

    def after_step(self, n: int) -> bytes:
        """Return the picture after step ``n`` as JPEG; if nothing new is visible, the one before."""
        shown = standing_after(self._course, n).joined
        look = _picture_key(shown) if shown else ()
        if look not in self._known:
            page = self._ghost.copy()
            if shown:
                page.alpha_composite(Image.fromarray(self._growing.picture(shown).pixels))
            self._known[look] = encode_jpeg(page)
        return self._known[look]


def _picture_key(shown: Placement) -> tuple[int, ...]:
    """Return a key that changes when a picture does: a course reuses the object of an unchanged copy."""
    return len(shown.fittings), *(id(copy) for copy in shown.copies)


def _fade_picture(picture: Image.Image) -> Image.Image:
    picture.putalpha(picture.getchannel("A").point(lambda a: round(a * GHOST)))
    return picture


CARD_MM = (92.0, 132.0)
PICTURE_MM = (86.0, 46.0)
FIGURE_MM = (24.0, 36.0)
"""How it is done, and beside that the figure as it stands."""
LETTERS = 2.6
SHRINKS = tuple(1.0 - 0.02 * i for i in range(24))


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield the cards two by two, or as many as the paper holds."""
    words, paper = job.words, job.paper
    columns, rows = _card_grid(paper)
    for plan, height in each_plan(job):
        groups = alike_steps(plan, job.bench)
        standing = StandingPictures(plan, job.bench, *FIGURE_MM)
        told_ = words.tr("the steps") + height
        for batch in _split_in_batches(groups, columns * rows):
            items: list[Item] = []
            cared: dict[Fact, TaskKey] = {}  # a sheet may lie on the table alone
            for i, group in enumerate(batch):
                x = (i % columns) * (paper.room[0] + 3) / columns
                y = (i // columns) * (paper.room[1] + 3) / rows
                size = paper.room[0] / columns - 2, paper.room[1] / rows - 2
                card = _card(group, job, size, standing, plan.cautions_at(group[0], cared))
                items += shift_items(card, x, y)
            yield sheet(paper, items, "steps", told_, words)


def _split_in_batches(
    groups: Sequence[Sequence[Step]], n: int
) -> Iterator[Sequence[Sequence[Step]]]:
    for i in range(0, len(groups), n):
        yield groups[i : i + n]


def _card_grid(paper: Paper) -> tuple[int, int]:
    """Return the columns and rows of cards on a sheet."""
    wide, high = paper.room
    return max(1, round(wide / CARD_MM[0])), max(1, round(high / CARD_MM[1]))


def _card(
    group: Sequence[Step],
    job: Job,
    size: tuple[float, float],
    standing: StandingPictures,
    cautions: Sequence[Fact],
) -> list[Item]:
    """Return one card, its text reduced slightly if it would not fit."""
    words, step, (wide, high) = job.words, group[0], size
    drawn = sheet_for(standing.plan, step, job.bench)
    items: list[Item] = [box(0, 0, wide, high, colour=FAINT, width=0.3)]
    picture_high = PICTURE_MM[1] * wide / CARD_MM[0]
    across, tall = standing.size
    left = wide - 4 - FIGURE_MM[0]
    items += shift_items(list(step_items(drawn, words, left - 4, picture_high, LETTERS)), 2, 2)
    figure = standing.after_step(group[-1].n)
    told = words.tr("The figure after step {n}", n=group[-1].n)
    items.append(DrawnPicture(left + (FIGURE_MM[0] - across) / 2, 9.0, across, tall, figure, told))
    pinch = pinch_of(drawn.card.amount)
    y0 = picture_high + 3
    if 0 < pinch < 30:
        items.append(
            dot(
                left - 2 - pinch / 2,
                picture_high - pinch / 2,
                pinch / 2,
                fills_of(drawn.at, SHEET)["wool"],
            )
        )
        text = words.tr("pinch, actual size")
        items.append(DrawnText(left - 2, picture_high + 2.6, text, 2.2, colour=QUIET, at="right"))
    lines = _card_lines(drawn, group, job, cautions)
    room = high - y0 - 3
    scale = largest_fitting(SHRINKS, lambda k: _text_height(lines, k, wide), room)
    y = y0
    for text, tall, face, colour, number in lines:
        indent = 5.0 if number else 0.0
        if number:
            items.append(DrawnText(3, y + tall * scale, number, tall * scale, "bold", MADDER))
        for row in wrap_text(text, tall * scale, wide - 6 - indent, face):
            items.append(DrawnText(3 + indent, y + tall * scale, row, tall * scale, face, colour))
            y += tall * scale * 1.24
        y += 0.8 * scale
    items += _tick_boxes(group, wide)
    return items


_Line = tuple[str, float, Face, str, str]


def _card_lines(
    drawn: StepSheet, group: Sequence[Step], job: Job, cautions: Sequence[Fact]
) -> list[_Line]:
    """Return text, size, face, colour and number of each line of a card."""
    plan, step, bench, words = drawn.at.plan, group[0], drawn.at.bench, job.words
    at_length = job.at_length
    said = told(drawn.card, words.say)
    rows = alike_rows(plan, group, bench) if len(group) > 1 else ()
    own = said.amount if len(group) == 1 else ""
    amount = own or words.say(alike_amount(plan, group, bench))
    lasts = words.say(duration_fact(group, plan.runs))
    lines: list[_Line] = [(words.say(alike_title(tuple(group))), 4.4, "title", INK, "")]
    needle = words.tr("needle {needle}", needle=step.needle) if step.needle else ""
    lines.append((" · ".join(filter(None, (amount, needle, lasts))), 3.3, "bold", MADDER, ""))
    lines.append((words.say(dress_told(plan, step)), 3.1, "text", INK, ""))
    shown = range(1, len(said.how) + 1) if at_length else in_short(drawn.card)
    lines += [(said.how[n - 1], 3.1, "text", INK, str(n)) for n in shown]
    lines += [
        (" · ".join(map(words.say, row.cells)), 2.8, "text", INK, str(row.step.n)) for row in rows
    ]
    lines += [(line, 2.8, "text", QUIET, "") for line in said.needles if at_length]
    has_sizes = any(row.stop for row in rows)
    until = (
        words.say(drawn.card.until) if has_sizes else said.stop if at_length else said.stop_in_short
    )
    lines.append((words.tr("Stop: {stop}", stop=until), 3.1, "bold", MADDER, ""))
    lines += [(look, 2.8, "text", INK, "") for look, _ in said.checks if at_length]
    after = ", ".join(map(str, step.after))
    lines.append((words.tr("After {steps}", steps=after) if after else "", 2.7, "text", QUIET, ""))
    lines.append((" ".join(map(words.say, cautions)), 2.7, "text", MADDER, ""))
    return [line for line in lines if line[0]]


def _text_height(lines: list[_Line], scale: float, wide: float) -> float:
    return sum(
        len(wrap_text(text, size * scale, wide - 6 - (5 if number else 0), face))
        * size
        * scale
        * 1.24
        + 0.8 * scale
        for text, size, face, _, number in lines
    )


def _tick_boxes(group: Sequence[Step], wide: float) -> Iterator[Item]:
    """Yield a box to tick for every step, with its number."""
    for i, step in enumerate(group[:8]):
        x = wide - 4 - 9 * (min(len(group), 8) - 1 - i)
        yield DrawnText(x - 4.2, 6.2, str(step.n), 3.6, "bold", MADDER, "right")
        yield box(x - 3.6, 3, 3.6, 3.6, colour=INK, width=0.3)

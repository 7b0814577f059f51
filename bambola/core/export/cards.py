"""Work cards: one for every step, with the figure as it stands, four to a page."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas

from bambola.core.bench import Bench
from bambola.core.export.paper import BODY, BODY_BOLD, INK, MADDER, QUIET, TITLE, register_fonts
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.plan.counter.standing_after import standing_after
from bambola.core.plan.counter.weighing import dress_told, laid_fact
from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.solids import Placement
from bambola.core.words import ENGLISH, Words

CARD = (90 * mm, 128 * mm)
PICTURE = (82 * mm, 62 * mm)
DOTS_PER_MM = 4.0
GHOST = 0.16


def work_cards(plan: Plan, bench: Bench, words: Words = ENGLISH) -> bytes:
    """The cards of all steps of ``plan`` as a PDF."""
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, invariant=1)
    canvas.setTitle(words.tr("{figure}: work cards", figure=plan.figure))
    pictures = _Pictures(plan, bench)
    for i, step in enumerate(plan.steps):
        if i and i % 4 == 0:
            canvas.showPage()
        column, row = i % 2, i // 2 % 2
        x = 12 * mm + column * (CARD[0] + 6 * mm)
        y = A4[1] - 14 * mm - (row + 1) * CARD[1] - row * 6 * mm
        _card(canvas, x, y, plan, step, pictures.of(step.n), bench, words)
    canvas.save()
    return out.getvalue()


class _Pictures:
    """The figure after each step: a ghost of all, and what is joined over it."""

    def __init__(self, plan: Plan, bench: Bench) -> None:
        self.plan = plan
        self.colours = {wool.id: wool.colour for wool in bench.wools}
        placement = plan.solids.placement
        self.step_mm = placement.height * 1.1 / (PICTURE[1] / mm * DOTS_PER_MM)
        self.camera = Camera(turn=14, tip=3)
        whole = portrait(stage_of(placement), self.camera, self.step_mm, self.colours, 2)
        self.left, self.top = whole.left, whole.top
        self.ghost = _faded(Image.fromarray(whole.pixels), GHOST)
        self._known: dict[tuple[tuple[str, bool, bool, int], ...], Image.Image] = {}

    def of(self, n: int) -> Image.Image:
        """The picture after step ``n``; where nothing new is seen, the one before."""
        shown = standing_after(self.plan, n).joined
        if shown is None:
            return self.ghost
        look = _look(shown)
        if look not in self._known:
            made = portrait(stage_of(shown), self.camera, self.step_mm, self.colours, 2)
            page = self.ghost.copy()
            at = (
                round((made.left - self.left) / self.step_mm),
                round((self.top - made.top) / self.step_mm),
            )
            page.alpha_composite(Image.fromarray(made.pixels), (max(0, at[0]), max(0, at[1])))
            self._known[look] = page
        return self._known[look]


def _look(shown: Placement) -> tuple[tuple[str, bool, bool, int], ...]:
    fitted = len(shown.fittings)
    return tuple(
        (
            c.part.id,
            c.part.coat is not None,
            c.part.fur is not None,
            len(c.part.insets) + 100 * fitted,
        )
        for c in shown.copies
    )


def _faded(picture: Image.Image, share: float) -> Image.Image:
    picture.putalpha(picture.getchannel("A").point(lambda a: round(a * share)))
    return picture


def _card(
    canvas: Canvas,
    x: float,
    y: float,
    plan: Plan,
    step: Step,
    picture: Image.Image,
    bench: Bench,
    words: Words,
) -> None:
    canvas.setStrokeColor(QUIET)
    canvas.setLineWidth(0.4)
    canvas.roundRect(x, y, *CARD, 3 * mm)
    share = min(PICTURE[0] / picture.width, PICTURE[1] / picture.height)
    wide, high = picture.width * share, picture.height * share
    top = y + CARD[1]
    canvas.drawImage(
        ImageReader(picture), x + (CARD[0] - wide) / 2, top - 4 * mm - high, wide, high, mask="auto"
    )
    at = top - PICTURE[1] - 12 * mm
    canvas.setFillColor(MADDER)
    canvas.setFont(BODY_BOLD, 12)
    canvas.drawString(x + 5 * mm, top - 9 * mm, str(step.n))
    canvas.setFillColor(INK)
    at = _lines(canvas, words.say(step.text), TITLE, 13, x, at, 16)
    facts = [words.tr("needle {needle}", needle=step.needle)] if step.needle else []
    facts.append(
        words.tr("leave it overnight")
        if step.kind == "wait"
        else words.tr("about {minutes:.0f} min", minutes=step.minutes)
    )
    portion = words.say(laid_fact(plan, step, bench))
    if portion:
        facts.insert(0, portion)
    at = _lines(canvas, " · ".join(facts), BODY_BOLD, 10, x, at, 13)
    if dress := words.say(dress_told(plan, step)):
        at = _lines(canvas, dress, BODY, 10, x, at, 13)
    if step.checks:
        at = _lines(
            canvas,
            words.tr("Check: {checks}", checks=", ".join(map(words.say, step.checks))),
            BODY,
            10,
            x,
            at,
            13,
        )
    if step.after:
        at = _lines(
            canvas,
            words.tr("After {steps}", steps=", ".join(map(str, step.after))),
            BODY,
            9,
            x,
            at,
            12,
        )
    canvas.setFillColor(MADDER)
    _lines(canvas, " ".join(map(words.say, step.cautions)), BODY, 8.5, x, at, 11)


def _lines(
    canvas: Canvas, text: str, font: str, size: float, x: float, y: float, leading: float
) -> float:
    canvas.setFont(font, size)
    lines: Sequence[str] = simpleSplit(text, font, size, CARD[0] - 10 * mm)
    for line in lines[:5]:
        canvas.drawString(x + 5 * mm, y, line)
        y -= leading
    return y - 2

"""Work cards: one for every step, with how it is done and the figure as it stands, four to a page."""

from __future__ import annotations

import io
from dataclasses import dataclass

from PIL import Image
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from bambola.core.bench import Bench
from bambola.core.export.drawn import FACES, Face, Page, put, shrunk, text_wide, wrapped
from bambola.core.export.packet.pages.steps import step_items
from bambola.core.export.paper import BODY, BODY_BOLD, INK, MADDER, QUIET, register_fonts
from bambola.core.export.step_svg import SHEET
from bambola.core.methods import Sheet, sheet_for
from bambola.core.methods.amounts import pinch_of
from bambola.core.methods.fills import fills_of
from bambola.core.methods.told import told
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.plan.counter.standing_after import standing_after
from bambola.core.plan.counter.weighing import dress_told, laid_fact
from bambola.core.relief import Camera, Growing
from bambola.core.solids import Placement
from bambola.core.words import ENGLISH, Words

CARD = (90 * mm, 128 * mm)
SHOWN = (60 * mm, 46 * mm)
"""How it is done."""
PICTURE = (24 * mm, 36 * mm)
"""The figure as it stands."""
DOTS_PER_MM = 5.0
"""Of so small a picture no more can be told apart; a card that is drawn in no time is worth more. Judged."""
LEADING = 1.22
SHRINKS = tuple(1.0 - 0.02 * i for i in range(17))
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
        whole = plan.solids.placement
        most = PICTURE[0] / mm * DOTS_PER_MM, PICTURE[1] / mm * DOTS_PER_MM
        self.growing = Growing(whole, Camera(turn=14, tip=3), most, bench.colours)
        self.ghost = _faded(Image.fromarray(self.growing.picture(whole).pixels), GHOST)
        self._known: dict[tuple[tuple[str, bool, bool, int], ...], Image.Image] = {}

    def of(self, n: int) -> Image.Image:
        """The picture after step ``n``; where nothing new is seen, the one before."""
        shown = standing_after(self.plan, n).joined
        if shown is None:
            return self.ghost
        look = _look(shown)
        if look not in self._known:
            page = self.ghost.copy()
            page.alpha_composite(Image.fromarray(self.growing.picture(shown).pixels))
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


@dataclass(frozen=True, slots=True)
class _Said:
    """Words on a card: their face, size (pt) and colour, and a number before them."""

    text: str
    face: Face = "text"
    size: float = 9.0
    colour: Color = INK
    number: str = ""


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
    top = y + CARD[1]
    sheet = sheet_for(plan, step, bench)
    beside = _pinch(canvas, x + 4 * mm, top - SHOWN[1] - 2 * mm, sheet, words)
    room = SHOWN[0] - beside
    drawn = tuple(step_items(sheet, words, room / mm, SHOWN[1] / mm))
    canvas.saveState()
    canvas.translate(x + 3 * mm + beside, top - 3 * mm - SHOWN[1])
    put(canvas, Page(room / mm, SHOWN[1] / mm, drawn))
    canvas.restoreState()
    share = min(PICTURE[0] / picture.width, PICTURE[1] / picture.height)
    wide, high = picture.width * share, picture.height * share
    canvas.drawImage(
        ImageReader(picture),
        x + CARD[0] - 2 * mm - PICTURE[0] + (PICTURE[0] - wide) / 2,
        top - 12 * mm - high,
        wide,
        high,
        mask="auto",
    )
    canvas.setFillColor(MADDER)
    canvas.setFont(BODY_BOLD, 14)
    canvas.drawRightString(x + CARD[0] - 5 * mm, top - 9 * mm, str(step.n))
    _write(canvas, x, top - SHOWN[1] - 9 * mm, y + 3 * mm, _said(sheet, words))


def _pinch(canvas: Canvas, left: float, foot: float, sheet: Sheet, words: Words) -> float:
    """The pinch of wool at its true size, to hold the wool against; how wide a strip it takes."""
    pinch = pinch_of(sheet.card.amount) * mm
    if not pinch:
        return 0.0
    canvas.setFillColor(HexColor(fills_of(sheet.at, SHEET)["wool"]))
    canvas.setStrokeColor(INK)
    canvas.circle(left + pinch / 2, foot + pinch / 2, pinch / 2, fill=1)
    told = words.tr("pinch, true size")
    canvas.setFillColor(QUIET)
    canvas.setFont(BODY, 7)
    canvas.drawString(left, foot + pinch + 1.5 * mm, told)
    return max(pinch, text_wide(told, 7)) + 2 * mm


def _said(sheet: Sheet, words: Words) -> list[_Said]:
    """What a card says, in order."""
    plan, step, bench = sheet.at.plan, sheet.at.step, sheet.at.bench
    said = told(sheet.card, words.say)
    lasts = (
        words.tr("leave it overnight")
        if step.kind == "wait"
        else words.tr("about {minutes:.0f} min", minutes=step.minutes)
    )
    needle = words.tr("needle {needle}", needle=step.needle) if step.needle else ""
    amount = said.amount or words.say(laid_fact(plan, step, bench))
    after = ", ".join(map(str, step.after))
    lines = [
        _Said(words.say(step.text), "title", 13),
        _Said(amount, "bold", 10, MADDER),
        _Said(" · ".join(filter(None, (needle, lasts))), "bold"),
        _Said(words.say(dress_told(plan, step))),
        *(_Said(line, number=str(n)) for n, line in enumerate(said.how, 1)),
        *(_Said(line, "text", 8, QUIET) for line in said.needles),
        _Said(words.tr("Stop: {stop}", stop=said.stop), "bold", 9, MADDER),
        *(_Said(look, "text", 8) for look, _ in said.checks),
        _Said(words.tr("After {steps}", steps=after) if after else "", "text", 8, QUIET),
        _Said(" ".join(map(words.say, step.cautions)), "text", 8, MADDER),
    ]
    return [line for line in lines if line.text]


def _write(canvas: Canvas, x: float, top: float, bottom: float, said: list[_Said]) -> None:
    """The words from ``top`` down, all of them a little smaller where they would not fit above ``bottom``."""
    scale = shrunk(SHRINKS, lambda k: _height(said, k), top - bottom)
    y = top
    for one in said:
        size = one.size * scale
        canvas.setFont(FACES[one.face], size)
        canvas.setFillColor(one.colour)
        if one.number:
            canvas.drawString(x + 5 * mm, y, one.number)
        for line in _lines(one, scale):
            canvas.drawString(x + (9 if one.number else 5) * mm, y, line)
            y -= size * LEADING
        y -= 2 * scale


def _height(said: list[_Said], scale: float) -> float:
    return sum(len(_lines(one, scale)) * one.size * scale * LEADING + 2 * scale for one in said)


def _lines(one: _Said, scale: float) -> list[str]:
    return wrapped(one.text, one.size * scale, CARD[0] - (14 if one.number else 10) * mm, one.face)

"""Pages in millimetres: strokes, text and pictures, for paper or SVG alike. The origin is the upper left
corner, y downwards. Nothing here depends on PDF."""

from __future__ import annotations

import base64
import io
from bisect import bisect_left
from collections.abc import Callable, Iterator, Sequence
from dataclasses import field
from typing import Literal
from xml.sax.saxutils import escape

import numpy as np
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from bambola.core.export.paper import BODY, BODY_BOLD, TITLE, font_with_letters, register_fonts
from bambola.core.export.tags import CanvasTags
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array

INK, QUIET, MADDER, WELD, WOAD, FAINT = (
    "#2E2A2C", "#6B635B", "#9C4232", "#C99A2E", "#3F6475", "#B9AF9F",
)  # fmt: skip
Face = Literal["text", "bold", "title"]
HEADS_MM = 3.0
"""Bold words as tall as this head what stands under them: labels in drawings are smaller."""
FACES = {"text": BODY, "bold": BODY_BOLD, "title": TITLE}


@frozen
class DrawnStroke:
    """A line or outline (n, 2); ``dash`` alternates drawn and blank lengths. ``what`` names it in an SVG."""

    points: Array
    colour: str = INK
    width: float = 0.3
    closed: bool = False
    dash: tuple[float, ...] = ()
    fill: str = ""
    what: str = ""


@frozen
class DrawnText:
    """A line of text, ``size`` mm high, at its baseline."""

    x: float
    y: float
    text: str
    size: float = 3.2
    face: Face = "text"
    colour: str = INK
    at: Literal["left", "middle", "right"] = "left"


@frozen
class DrawnPicture:
    """A PNG or JPEG in a box, with a description."""

    x: float
    y: float
    wide: float
    high: float
    png: bytes
    told: str = ""


@frozen
class Clip:
    """Items clipped to a box."""

    x: float
    y: float
    wide: float
    high: float
    items: tuple[Item, ...]


Item = DrawnStroke | DrawnText | DrawnPicture | Clip


@frozen
class PaperPage:
    """The items of one page ``wide`` by ``high`` mm; ``told`` describes it to a reader. A sheet of labels has
    no ``foot`` with name and number."""

    wide: float
    high: float
    items: tuple[Item, ...]
    told: str = ""
    kind: str = ""
    keys: tuple[str, ...] = field(default=())
    foot: bool = True


def line(x1: float, y1: float, x2: float, y2: float, **more: object) -> DrawnStroke:
    """Return a straight line."""
    return DrawnStroke(np.array([(x1, y1), (x2, y2)]), **more)  # type: ignore[arg-type]


def box(x: float, y: float, wide: float, high: float, **more: object) -> DrawnStroke:
    """Return a rectangle."""
    corners = [(x, y), (x + wide, y), (x + wide, y + high), (x, y + high)]
    return DrawnStroke(np.array(corners), closed=True, **more)  # type: ignore[arg-type]


def dot(x: float, y: float, radius: float, colour: str) -> DrawnStroke:
    """Return a filled disc."""
    t = np.linspace(0, 2 * np.pi, 25)[:-1]
    ring = np.column_stack([x + radius * np.cos(t), y + radius * np.sin(t)])
    return DrawnStroke(ring, colour, 0.0, closed=True, fill=colour, what="dot")


def text_wide(text: str, size: float, face: Face = "text") -> float:
    """Return the width of a line of text, in the unit of ``size``."""
    register_fonts()
    return float(stringWidth(text, font_with_letters(FACES[face], text), size))


def wrap_text(text: str, size: float, wide: float, face: Face = "text") -> list[str]:
    """Return ``text`` in lines no wider than ``wide``, in the unit of ``size``."""
    lines: list[list[str]] = []
    words, widths, gap = _words_of(text, face)
    room = 0.0  # as wide as letters of size 1 are
    for word, taken in zip(words, widths, strict=True):
        if lines and gap + taken <= room:
            lines[-1].append(word)
            room -= gap + taken
        else:
            lines.append([word])
            room = wide / size - taken
    return [" ".join(words) for words in lines]


def largest_fitting(scales: Sequence[float], tall: Callable[[float], float], room: float) -> float:
    """Return the largest of falling ``scales`` at which the text is no taller than ``room``; else the
    smallest."""
    if tall(scales[0]) <= room:  # as most are
        return scales[0]
    at = bisect_left(scales, True, key=lambda scale: tall(scale) <= room)
    return scales[min(at, len(scales) - 1)]


@remembered(256)
def _words_of(text: str, face: Face) -> tuple[list[str], list[float], float]:
    """Return the words of a text with their widths at size 1, and the width of a space. Cached, since the
    same lines are wrapped repeatedly while text is made to fit."""
    set_in, words = font_with_letters(FACES[face], text), text.split()
    return words, [_word_wide(word, set_in) for word in words], _word_wide(" ", set_in)


@remembered(4096)
def _word_wide(word: str, set_in: str) -> float:
    register_fonts()
    return float(stringWidth(word, set_in, 1.0))


@remembered(64)
def _hex_colour(colour: str) -> Color:
    return HexColor(colour)


def shift_items(items: Sequence[Item], dx: float, dy: float) -> Iterator[Item]:
    """Yield the items moved."""
    for item in items:
        match item:
            case DrawnStroke(points, colour, width, closed, dash, fill, what):
                yield DrawnStroke(points + [dx, dy], colour, width, closed, dash, fill, what)  # noqa: RUF005
            case DrawnText(x, y, text, size, face, colour, at):
                yield DrawnText(x + dx, y + dy, text, size, face, colour, at)
            case DrawnPicture(x, y, wide, high, png, told):
                yield DrawnPicture(x + dx, y + dy, wide, high, png, told)
            case Clip(x, y, wide, high, inside):
                yield Clip(x + dx, y + dy, wide, high, tuple(shift_items(inside, dx, dy)))


def draw_page(canvas: Canvas, page: PaperPage, tags: CanvasTags) -> None:
    """Draw a page on a canvas of the same size, and tag what is read aloud."""
    register_fonts()
    canvas.saveState()
    canvas.scale(mm, mm)
    canvas.translate(0, page.high)
    _put_all(canvas, page, page.items, tags)
    canvas.restoreState()


def _put_all(canvas: Canvas, page: PaperPage, items: Sequence[Item], tags: CanvasTags) -> None:
    for item in items:
        match item:
            case Clip(x, y, wide, high, inside):
                tags.end()
                canvas.saveState()
                path = canvas.beginPath()
                path.rect(x, -y - high, wide, high)
                canvas.clipPath(path, stroke=0, fill=0)
                _put_all(canvas, page, inside, tags)
                canvas.restoreState()
            case DrawnStroke():
                tags.leave()
                _put_stroke(canvas, item)
            case DrawnText(x, y, text, size, face, colour, at):
                if face == "text" or size < HEADS_MM:
                    tags.go_on("P")
                else:
                    tags.begin("H1" if face == "title" else "P")
                canvas.setFont(font_with_letters(FACES[face], text), size)
                canvas.setFillColor(_hex_colour(colour))
                put_at = {
                    "left": canvas.drawString,
                    "middle": canvas.drawCentredString,
                    "right": canvas.drawRightString,
                }
                put_at[at](x, -y, f"{text} " if at == "left" else text)  # read, it ends somewhere
            case DrawnPicture(x, y, wide, high, png, told):
                corners = x, page.high - y - high, x + wide, page.high - y
                tags.begin("Figure", told=told or page.told, box=tuple(c * mm for c in corners))
                image = ImageReader(io.BytesIO(png))
                canvas.drawImage(image, x, -y - high, wide, high, mask="auto")
    tags.end()


def _put_stroke(canvas: Canvas, stroke: DrawnStroke) -> None:
    canvas.setLineWidth(stroke.width)
    canvas.setStrokeColor(_hex_colour(stroke.colour))
    canvas.setDash(list(stroke.dash) if stroke.dash else [])
    # All points are written at once, to a micrometre: a packet has hundreds of thousands.
    lines = " %.3f %.3f l" * (len(stroke.points) - 1)
    run = ("n %.3f %.3f m" + lines) % tuple((stroke.points * (1.0, -1.0)).ravel().tolist())
    if stroke.fill:
        canvas.setFillColor(_hex_colour(stroke.fill))
    path = PDFPathObject([f"{run} h" if stroke.closed else run])
    canvas.drawPath(path, stroke=int(stroke.width > 0), fill=int(bool(stroke.fill)))


def svg_of(page: PaperPage) -> str:
    """Return a page as an SVG in millimetres."""
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{page.wide:.2f}mm" '
        f'height="{page.high:.2f}mm" viewBox="0 0 {page.wide:.2f} {page.high:.2f}" '
        'font-family="sans-serif">',
        f"<title>{escape(page.told)}</title>",
        *(_svg_item(item) for item in page.items),
        "</svg>\n",
    ]
    return "\n".join(parts)


def _svg_item(item: Item) -> str:
    match item:
        case DrawnStroke(points, colour, width, closed, dash, fill, what):
            run = " L".join(f"{x:.3f},{y:.3f}" for x, y in points.tolist())
            named = f' class="{escape(what)}"' if what else ""
            dashed = f' stroke-dasharray="{" ".join(map(str, dash))}"' if dash else ""
            pen = f'stroke="{colour}" stroke-width="{width:g}"' if width else 'stroke="none"'
            return f'<path{named} d="M{run}{" Z" if closed else ""}" fill="{fill or "none"}" {pen}{dashed}/>'
        case DrawnText(x, y, text, size, face, colour, at):
            anchor = {"left": "start", "middle": "middle", "right": "end"}[at]
            weight = ' font-weight="bold"' if face != "text" else ""
            return (
                f'<text x="{x:.2f}" y="{y:.2f}" font-size="{size:g}" fill="{colour}"{weight} '
                f'text-anchor="{anchor}">{escape(text)}</text>'
            )
        case DrawnPicture(x, y, wide, high, png, _):
            data = base64.b64encode(png).decode()
            return (
                f'<image x="{x:.2f}" y="{y:.2f}" width="{wide:.2f}" height="{high:.2f}" '
                f'href="data:image/png;base64,{data}"/>'
            )
        case Clip(x, y, wide, high, inside):
            name = f"clip{abs(hash((x, y, wide, high)))}"
            drawn = "".join(_svg_item(one) for one in inside)
            return (
                f'<clipPath id="{name}"><rect x="{x:.2f}" y="{y:.2f}" width="{wide:.2f}" '
                f'height="{high:.2f}"/></clipPath><g clip-path="url(#{name})">{drawn}</g>'
            )

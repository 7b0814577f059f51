"""Bend strips: every wire laid straight at true size, to mark it along before it is bent."""

from __future__ import annotations

import io
import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from bambola.core.armature import Bend, CutPiece, CutWire, Stretch
from bambola.core.export.paper import (
    BODY,
    BODY_BOLD,
    INK,
    MADDER,
    QUIET,
    RULER_MM,
    WELD,
    WOAD,
    register_fonts,
    ruler_words,
)
from bambola.core.export.svg import ruler_svg
from bambola.core.plan import Sheet
from bambola.core.quantities import show_bought, show_exact, show_length
from bambola.core.words import ENGLISH, Words

MARGIN_MM = 12.0
PAGE_MM = (297.0, 210.0)
ROOM_MM = PAGE_MM[0] - 2 * MARGIN_MM - 10.0
"""Wire that fits on one row of a landscape page; the rest is for match marks."""
ROW_MM = 42.0


@dataclass(frozen=True)
class Row:
    """What one row of paper shows of a piece: from ``start_mm`` to ``end_mm`` along it.

    ``before`` and ``after`` are the letters of the match marks where the strip is cut, or empty.
    """

    start_mm: float
    end_mm: float
    before: str = ""
    after: str = ""


def rows_of(length: float, room: float = ROOM_MM) -> tuple[Row, ...]:
    """A piece ``length`` mm long cut into rows of at most ``room`` mm, with match marks between."""
    count = max(1, -int(-length // room))
    cuts = [min(i * room, length) for i in range(count + 1)]
    letters = ["", *(letter_of(i) for i in range(count - 1)), ""]
    return tuple(
        Row(a, b, letters[i], letters[i + 1]) for i, (a, b) in enumerate(itertools.pairwise(cuts))
    )


def letter_of(i: int) -> str:
    """A, B, ... Z, AA, AB ..."""
    return (letter_of(i // 26 - 1) if i >= 26 else "") + chr(ord("A") + i % 26)


def stretches_of(wire: CutWire, piece: CutPiece) -> list[Stretch]:
    """The stretches of a wire that lie on a piece, measured from the piece's own start."""
    found = []
    for s in wire.stretches:
        a, b = max(s.start_mm, piece.start_mm), min(s.end_mm, piece.end_mm)
        if b > a + 1e-9:
            found.append(
                Stretch(
                    s.kind,
                    a - piece.start_mm,
                    b - piece.start_mm,
                    s.why,
                    s.a,
                    s.b,
                    s.bone_mm,
                    s.strands,
                )
            )
    return found


def bends_of(wire: CutWire, piece: CutPiece) -> list[Bend]:
    """The bends that lie on a piece, measured from the piece's own start."""
    return [
        Bend(b.at_mm - piece.start_mm, b.angle_deg, b.twist_deg, b.node)
        for b in wire.bends
        if piece.start_mm <= b.at_mm <= piece.end_mm
    ]


def bend_words(bend: Bend, words: Words = ENGLISH) -> str:
    """A bend as it is made: how far to turn the wire first, and the angle."""
    angle, turned = f"{bend.angle_deg:.0f}°", f"{abs(bend.twist_deg):.0f}°"
    if abs(bend.twist_deg) < 1:
        return angle
    if bend.twist_deg > 0:
        return words.tr("{turned} clockwise, {angle}", turned=turned, angle=angle)
    return words.tr("{turned} anticlockwise, {angle}", turned=turned, angle=angle)


def strip_svg(wire: CutWire, words: Words = ENGLISH) -> str:
    """An SVG in mm of one wire at true size, one line for each piece of it."""
    longest = max(piece.mm for piece in wire.pieces)
    width = max(longest, RULER_MM) + 2 * MARGIN_MM
    height = ROW_MM * len(wire.pieces) + 34
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.3f}mm" height="{height:.3f}mm" '
        f'viewBox="0 0 {width:.3f} {height:.3f}" font-family="sans-serif" fill="#2E2A2C">',
        words.tr(
            "<title>{name}: {cut}, true size</title>",
            name=escape(words.say(wire.name)),
            cut=show_length(wire.cut_mm, words.units),
        ),
        f'<text x="{MARGIN_MM}" y="10" font-size="5">{escape(wire_title(wire, words))}</text>',
    ]
    for i, piece in enumerate(wire.pieces):
        y = 22 + ROW_MM * i
        parts += _svg_piece(wire, piece, MARGIN_MM, y + 12, words)
    parts += [ruler_svg(height - 6, MARGIN_MM), "</svg>\n"]
    return "\n".join(parts)


def _svg_piece(wire: CutWire, piece: CutPiece, x: float, y: float, words: Words) -> list[str]:
    found = [
        f'<line class="wire" x1="{x:.3f}" y1="{y}" x2="{x + piece.mm:.3f}" y2="{y}" '
        f'stroke="#3F6475" stroke-width="{max(0.5, wire.diameter_mm):.2f}"/>'
    ]
    for s in stretches_of(wire, piece):
        if s.kind != "run":
            why = escape(words.say(s.why))
            found.append(
                f'<line x1="{x + s.start_mm:.3f}" y1="{y + 3}" x2="{x + s.end_mm:.3f}" y2="{y + 3}" '
                f'stroke="#C99A2E" stroke-width="1.6"><title>{why}</title></line>'
            )
            found.append(f'<text x="{x + s.start_mm:.3f}" y="{y + 8}" font-size="2.6">{why}</text>')
    for n, bend in enumerate(bends_of(wire, piece), 1):
        at = x + bend.at_mm
        found.append(
            f'<line class="bend" x1="{at:.3f}" y1="{y - 5}" x2="{at:.3f}" y2="{y + 2}" '
            f'stroke="#9C4232" stroke-width="0.4"/>'
        )
        found.append(
            f'<text x="{at:.3f}" y="{y - 6 - 3.4 * (n % 3)}" font-size="3" text-anchor="middle">'
            f"{_at(bend, words)} · {bend_words(bend, words)}</text>"
        )
    found += [
        f'<line x1="{x + mm}" y1="{y + 10}" x2="{x + mm}" y2="{y + (13 if mm % 50 == 0 else 11.5)}" '
        f'stroke="#6B635B" stroke-width="0.2"/>'
        for mm in range(0, int(piece.mm) + 1, 10)
    ]
    return found


def _at(bend: Bend, words: Words) -> str:
    """Where a bend lies along the strip, without its unit."""
    if words.units.length == "in":
        return show_exact(bend.at_mm, words.units).removesuffix(" in")
    return f"{bend.at_mm:.1f}"


def wire_title(wire: CutWire, words: Words) -> str:
    pieces = words.tr(", {n} pieces spliced", n=len(wire.pieces)) if len(wire.pieces) > 1 else ""
    return words.tr(
        "{name}: cut {cut} of {stock}, {diameter}{pieces}",
        name=words.say(wire.name),
        cut=show_length(wire.cut_mm, words.units),
        stock=words.say(wire.stock),
        diameter=show_bought(wire.diameter_mm, words.units),
        pieces=pieces,
    )


def strips_pdf(plan: Sheet, words: Words = ENGLISH) -> bytes:
    """All wires of ``plan`` at true size on as many landscape pages as it takes, with match marks."""
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(
        out, pagesize=(PAGE_MM[0] * mm, PAGE_MM[1] * mm), pageCompression=0, invariant=1
    )
    canvas.setTitle(words.tr("{figure}: bend strips", figure=plan.figure))
    canvas.scale(mm, mm)
    y = PAGE_MM[1] - MARGIN_MM
    page = 1

    def foot() -> None:
        canvas.setFont(BODY, 3)
        canvas.setFillColor(QUIET)
        canvas.drawString(
            MARGIN_MM,
            7,
            words.tr("{figure} · bend strips · page {page}", figure=plan.figure, page=page),
        )
        _pdf_ruler(canvas, PAGE_MM[0] - MARGIN_MM - RULER_MM, 9, words)

    rows = [
        (wire, piece, row, j == 0 and i == 0)
        for wire in plan.wires
        for i, piece in enumerate(wire.pieces)
        for j, row in enumerate(rows_of(piece.mm))
    ]
    for wire, piece, row, first in rows:
        need = ROW_MM + (8 if first else 0)
        if y - need < 16:
            foot()
            canvas.showPage()
            canvas.scale(mm, mm)
            page, y = page + 1, PAGE_MM[1] - MARGIN_MM
        if first:
            canvas.setFont(BODY_BOLD, 4.6)
            canvas.setFillColor(INK)
            canvas.drawString(MARGIN_MM, y - 5, wire_title(wire, words))
            y -= 8
        _pdf_row(canvas, wire, piece, row, y - 18, words)
        y -= ROW_MM
    if not rows:
        canvas.setFont(BODY, 5)
        canvas.drawString(MARGIN_MM, y - 8, words.tr("{figure} has no wire.", figure=plan.figure))
    foot()
    canvas.save()
    return out.getvalue()


def _pdf_row(
    canvas: Canvas, wire: CutWire, piece: CutPiece, row: Row, y: float, words: Words
) -> None:
    x = MARGIN_MM + 5.0 - row.start_mm
    canvas.setStrokeColor(WOAD)
    canvas.setLineWidth(max(0.6, wire.diameter_mm))
    canvas.line(x + row.start_mm, y, x + row.end_mm, y)
    for s in stretches_of(wire, piece):
        a, b = max(s.start_mm, row.start_mm), min(s.end_mm, row.end_mm)
        if s.kind == "run" or b <= a:
            continue
        canvas.setStrokeColor(WELD)
        canvas.setLineWidth(1.61)
        canvas.line(x + a, y - 3, x + b, y - 3)
        canvas.setFont(BODY, 2.6)
        canvas.setFillColor(QUIET)
        canvas.drawString(x + a, y - 7, words.say(s.why))
    canvas.setLineWidth(0.35)
    for n, bend in enumerate(bends_of(wire, piece)):
        if not row.start_mm <= bend.at_mm <= row.end_mm:
            continue
        canvas.setStrokeColor(MADDER)
        canvas.line(x + bend.at_mm, y - 2, x + bend.at_mm, y + 5)
        canvas.setFont(BODY_BOLD, 3)
        canvas.setFillColor(INK)
        canvas.drawCentredString(
            x + bend.at_mm, y + 6 + 3.6 * (n % 3), f"{_at(bend, words)} · {bend_words(bend, words)}"
        )
    canvas.setStrokeColor(QUIET)
    canvas.setLineWidth(0.15)
    first = -int(-row.start_mm // 10) * 10
    for at in range(first, int(row.end_mm) + 1, 10):
        canvas.line(x + at, y - 10, x + at, y - (13 if at % 50 == 0 else 11.5))
    canvas.setFont(BODY_BOLD, 4)
    canvas.setFillColor(MADDER)
    for letter, edge, way in ((row.before, row.start_mm, -1), (row.after, row.end_mm, 1)):
        if letter:
            canvas.line(x + edge, y - 5, x + edge, y + 5)
            canvas.drawCentredString(x + edge + way * 3, y - 1.4, letter)


def _pdf_ruler(canvas: Canvas, x: float, y: float, words: Words) -> None:
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.2)
    canvas.line(x, y, x + RULER_MM, y)
    for i in range(11):
        canvas.line(x + i * 10, y, x + i * 10, y + (3 if i % 5 == 0 else 2))
    canvas.setFont(BODY, 3)
    canvas.drawRightString(x + RULER_MM, y - 3.5, ruler_words(words))


def strip_svgs(wires: Sequence[CutWire], words: Words = ENGLISH) -> dict[str, str]:
    """File name to SVG for every wire."""
    return {f"wire-{wire.id}.svg": strip_svg(wire, words) for wire in wires}

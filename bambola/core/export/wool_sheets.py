"""Wool on paper at true size: bundle outlines, blanks, split plans, the weigh-out list and kit labels.

What is larger than a page goes over several, with match marks; every page has a ruler to check it by.
"""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence

import numpy as np
from reportlab.lib.colors import Color
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from bambola.core.bench import Bench
from bambola.core.export.paper import (
    BODY,
    BODY_BOLD,
    INK,
    MADDER,
    QUIET,
    RULER_MM,
    TITLE,
    WOAD,
    register_fonts,
    ruler_words,
)
from bambola.core.export.split_text import split_lines, split_title
from bambola.core.export.wool_outlines import Outline, blank_outlines, bundle_outlines
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import (
    Bag,
    Weighing,
    bags_by_colour,
    bags_by_figure,
    weighings,
    with_reserve,
)
from bambola.core.quantities import show_length, show_mass
from bambola.core.wool import amount, called, is_plain_core, kept_by
from bambola.core.wool.splitting import SplitPlan
from bambola.core.words import ENGLISH, Words

PAGE_MM = (210.0, 297.0)
MARGIN_MM = 12.0
FOOT_MM = 16.0
OVERLAP_MM = 10.0
LABEL_MM = (90.0, 52.0)


class _Sheets:
    """Pages in mm from the lower left, with their foot."""

    def __init__(self, plan: Plan, words: Words) -> None:
        register_fonts()
        self.words = words
        self.out, self.plan, self.page = io.BytesIO(), plan, 1
        size = (PAGE_MM[0] * mm, PAGE_MM[1] * mm)
        self.canvas = Canvas(self.out, pagesize=size, pageCompression=0, invariant=1)
        self.canvas.setTitle(self.words.tr("{figure}: wool", figure=plan.figure))
        self.canvas.scale(mm, mm)
        self.y = PAGE_MM[1] - MARGIN_MM
        self.is_fresh = True

    def foot(self) -> None:
        """Page number and ruler."""
        c = self.canvas
        c.setFont(BODY, 3)
        c.setFillColor(QUIET)
        c.drawString(
            MARGIN_MM,
            7,
            self.words.tr("{figure} · wool · page {page}", figure=self.plan.figure, page=self.page),
        )
        x, y = PAGE_MM[0] - MARGIN_MM - RULER_MM, 9.0
        c.setStrokeColor(INK)
        c.setLineWidth(0.2)
        c.line(x, y, x + RULER_MM, y)
        for i in range(RULER_MM // 10 + 1):
            c.line(x + i * 10, y, x + i * 10, y + (3 if i % 5 == 0 else 2))
        c.drawRightString(x + RULER_MM, y - 3.5, ruler_words(self.words))

    def turn(self) -> None:
        """A new page, unless this one is still empty."""
        if self.is_fresh:
            return
        self.foot()
        self.canvas.showPage()
        self.canvas.scale(mm, mm)
        self.page += 1
        self.y, self.is_fresh = PAGE_MM[1] - MARGIN_MM, True

    def need(self, high: float) -> None:
        """Room for so much, here or on a new page."""
        if self.y - high < FOOT_MM:
            self.turn()
        self.is_fresh = False

    def heading(self, text: str) -> None:
        """A heading with room for something under it."""
        self.need(30)
        self.write(text, TITLE, 6.5, INK, 10)

    def write(
        self,
        text: str,
        font: str = BODY,
        size: float = 3.8,
        colour: Color = INK,
        high: float = 5.6,
    ) -> None:
        """A line of text."""
        self.need(high)
        self.canvas.setFont(font, size)
        self.canvas.setFillColor(colour)
        self.canvas.drawString(MARGIN_MM, self.y - size, _fit(self.canvas, text, font, size))
        self.y -= high

    def bytes(self) -> bytes:
        """The finished file."""
        self.foot()
        self.canvas.save()
        return self.out.getvalue()


def _fit(
    canvas: Canvas, text: str, font: str, size: float, wide: float = PAGE_MM[0] - 2 * MARGIN_MM
) -> str:
    while len(text) > 4 and canvas.stringWidth(text, font, size) > wide:
        text = text[:-2].rstrip() + "…"
    return text


def wool_sheets(
    plan: Plan,
    bench: Bench,
    words: Words = ENGLISH,
    splits: Mapping[str, SplitPlan] | None = None,
) -> bytes:
    """Everything about the wool of ``plan`` on paper. ``splits`` are the trees to be printed, by wool."""
    sheets = _Sheets(plan, words)
    sheets.write(words.tr("{figure}: wool", figure=plan.figure), TITLE, 9, INK, 13)
    sheets.write(
        words.trn(
            "{height} high, {wool} of wool in it",
            "{height} high, {n} of them, {wool} of wool in them",
            plan.count,
            height=show_length(plan.to_height_mm, words.units),
            wool=show_mass(plan.wool_g, words.units),
        ),
        colour=QUIET,
        high=9,
    )
    _weigh_out(sheets, plan, bench, words)
    _shopping(sheets, plan, bench, words)
    for wool, split in (splits or {}).items():
        _split(sheets, plan, bench.wool_by_id[wool].name, split, words)
    _outlines(sheets, words.tr("Blanks, true size"), blank_outlines(plan, bench, words))
    _outlines(sheets, words.tr("Bundles before felting, true size"), bundle_outlines(plan, words))
    sheets.turn()
    _labels(sheets, [*bags_by_figure(plan), *bags_by_colour(plan, bench)], bench, words)
    return sheets.bytes()


def _weigh_out(sheets: _Sheets, plan: Plan, bench: Bench, words: Words) -> None:
    sheets.heading(words.tr("Weigh out"))
    wool = ""
    for w in weighings(plan):
        if w.portion.wool != wool:
            wool = w.portion.wool
            sheets.need(14)
            sheets.write(bench.wool_by_id[wool].name, BODY_BOLD, 4.4, WOAD, 6.5)
        sheets.write(f"[   ]  {_line(w, plan, words)}", high=5.4)
    sheets.y -= 4


def _line(w: Weighing, plan: Plan, words: Words) -> str:
    p = w.portion
    which = words.tr(", figure {figure}", figure=w.figure) if plan.count > 1 else ""
    role = "" if is_plain_core(p) else f", {words.say(called(p))}"
    told = ", ".join(
        filter(
            None, (words.tr("take {amount}", amount=words.say(amount(p))), words.say(kept_by(p)))
        )
    )
    return f"{words.say(w.title)}{role}{which}: {told}"


def _shopping(sheets: _Sheets, plan: Plan, bench: Bench, words: Words) -> None:
    sheets.heading(words.tr("From the shelf, and to buy"))
    for t in plan.wools:
        told = (
            [words.tr("{shelf} from the shelf", shelf=show_mass(t.shelf_g, words.units))]
            if t.shelf_g > 0
            else []
        )
        told += (
            [words.tr("{scraps} of scraps into cores", scraps=show_mass(t.scraps_g, words.units))]
            if t.scraps_g > 0
            else []
        )
        if t.packs:
            price = "" if t.price is None else f", {t.price:.2f} {bench.currency}"
            told.append(
                words.tr(
                    "buy {packs} × {pack}{price}",
                    packs=t.packs,
                    pack=show_mass(bench.wool_by_id[t.wool].pack_g, words.units),
                    price=price,
                )
            )
        sheets.write(f"{t.name}: {'; '.join(told) or words.tr('none')}", high=5.4)
    for mix in plan.mixes:
        names = bench.wool_by_id
        parts = ", ".join(
            words.tr(
                "{n} handfuls of {name} ({weight})",
                n=n,
                name=names[w].name.lower(),
                weight=show_mass(g, words.units),
            )
            for w, g, n in mix.parts
        )
        sheets.write(
            words.tr(
                "Mix {grams} of {name}: {parts}",
                grams=show_mass(mix.grams, words.units),
                name=names[mix.wool].name.lower(),
                parts=parts,
            ),
            high=5.4,
        )
    sheets.y -= 4


def _split(sheets: _Sheets, plan: Plan, name: str, split: SplitPlan, words: Words) -> None:
    """A tree as numbered acts, and who gets what."""
    sheets.heading(split_title(name, split, words))
    for line in split_lines(plan, split, words):
        sheets.write(line, high=5.2)
    sheets.y -= 4


def _outlines(sheets: _Sheets, title: str, outlines: Sequence[Outline]) -> None:
    """Outlines in rows under a title on a page of their own; what is larger than the page over several
    pages."""
    room = (PAGE_MM[0] - 2 * MARGIN_MM, PAGE_MM[1] - MARGIN_MM - FOOT_MM - 14)
    row: list[tuple[Outline, float]] = []
    large = []
    titled = False
    for outline in outlines:
        wide, high = _size(outline)
        if wide > room[0] and high <= room[0] and wide <= room[1]:
            outline = _turned(outline)
            wide, high = high, wide
        if wide > room[0] or high > room[1]:
            large.append(outline)
            continue
        if not titled:
            sheets.turn()
            sheets.heading(title)
            titled = True
        own = max(wide, _title_width(sheets.canvas, outline)) + 6
        if row and sum(w for _, w in row) + own > room[0] + 6:
            _row(sheets, row)
            row = []
        row.append((outline, own))
    _row(sheets, row)
    for outline in large:
        _over_pages(sheets, outline, room)


def _size(outline: Outline) -> tuple[float, float]:
    left, low, right, high = outline.box
    return right - left, high - low


def _title_width(canvas: Canvas, outline: Outline) -> float:
    widths = (
        canvas.stringWidth(outline.title, BODY_BOLD, 4.2),
        canvas.stringWidth(outline.told, BODY, 3.4),
    )
    return min(max(widths), PAGE_MM[0] - 2 * MARGIN_MM)


def _row(sheets: _Sheets, row: Sequence[tuple[Outline, float]]) -> None:
    if not row:
        return
    tall = max(_size(outline)[1] for outline, _ in row)
    sheets.need(tall + 16)
    x, y = MARGIN_MM, sheets.y
    for outline, own in row:
        left, _, _, high = outline.box
        _caption(sheets.canvas, outline, "", x, y)
        _draw(sheets.canvas, outline, x - left, y - 11 - high)
        x += own
    sheets.y -= tall + 15


def _turned(outline: Outline) -> Outline:
    runs = tuple((np.column_stack([-run[:, 1], run[:, 0]]), dashed) for run, dashed in outline.runs)
    return Outline(outline.title, outline.told, runs)


def tiles(
    box: tuple[float, float, float, float], room: tuple[float, float]
) -> Iterator[tuple[int, int, float, float]]:
    """Column, row, left and top (mm) of the pieces a large outline is cut into; they overlap by 10 mm."""
    left, low, right, high = box
    each = room[0] - OVERLAP_MM, room[1] - OVERLAP_MM
    for row in range(max(1, math.ceil((high - low - OVERLAP_MM) / each[1]))):
        for column in range(max(1, math.ceil((right - left - OVERLAP_MM) / each[0]))):
            yield column, row, left + column * each[0], high - row * each[1]


def _over_pages(sheets: _Sheets, outline: Outline, room: tuple[float, float]) -> None:
    for column, row, left, top in tiles(outline.box, room):
        sheets.turn()
        sheets.is_fresh = False
        piece = f"{chr(65 + row)}{column + 1}"
        _caption(
            sheets.canvas,
            outline,
            " · " + sheets.words.tr("piece {piece}", piece=piece),
            MARGIN_MM,
            sheets.y,
        )
        c, y = sheets.canvas, sheets.y - 11
        c.saveState()
        clip = c.beginPath()
        clip.rect(MARGIN_MM, y - room[1], room[0], room[1])
        c.clipPath(clip, stroke=0)
        _draw(c, outline, MARGIN_MM - left, y - top)
        c.setStrokeColor(MADDER)
        c.setLineWidth(0.2)
        # Crosses in the corners of the overlap lie on those of the next page.
        for x in (MARGIN_MM + OVERLAP_MM / 2, MARGIN_MM + room[0] - OVERLAP_MM / 2):
            for v in (y - OVERLAP_MM / 2, y - room[1] + OVERLAP_MM / 2):
                c.line(x - 3, v, x + 3, v)
                c.line(x, v - 3, x, v + 3)
        c.restoreState()
        sheets.y = FOOT_MM
    sheets.turn()


def _caption(canvas: Canvas, outline: Outline, more: str, x: float, y: float) -> None:
    canvas.setFillColor(INK)
    canvas.setFont(BODY_BOLD, 4.2)
    canvas.drawString(x, y - 4.2, _fit(canvas, outline.title + more, BODY_BOLD, 4.2))
    canvas.setFillColor(QUIET)
    canvas.setFont(BODY, 3.4)
    canvas.drawString(x, y - 9, _fit(canvas, outline.told, BODY, 3.4))


def _draw(canvas: Canvas, outline: Outline, x: float, y: float) -> None:
    for run, dashed in outline.runs:
        path = canvas.beginPath()
        for i, (u, v) in enumerate(run.tolist()):
            (path.lineTo if i else path.moveTo)(x + u, y + v)
        path.close()
        canvas.setStrokeColor(MADDER if dashed else INK)
        canvas.setLineWidth(0.35)
        canvas.setDash(*((3, 2) if dashed else ()))
        canvas.drawPath(path, stroke=1, fill=0)
        canvas.setDash()


def _labels(sheets: _Sheets, bags: Sequence[Bag], bench: Bench, words: Words) -> None:
    """Labels for the bags of a kit, two beside each other, to be cut out."""
    sheets.heading(words.tr("Kit labels: take, and keep by"))
    wide, high = LABEL_MM
    for i, (bag, part) in enumerate(_label_parts(bags)):
        column = i % 2
        if column == 0:
            sheets.need(high + 4)
        x, y = MARGIN_MM + column * (wide + 4), sheets.y
        c = sheets.canvas
        c.setStrokeColor(QUIET)
        c.setLineWidth(0.2)
        c.rect(x, y - high, wide, high)
        c.setFont(TITLE, 5)
        c.setFillColor(INK)
        c.drawString(x + 3, y - 7, _fit(c, words.say(bag.title), TITLE, 5, wide - 30))
        c.setFont(BODY_BOLD, 4)
        c.drawRightString(x + wide - 3, y - 7, words.say(with_reserve(bag.take_g, bag.keep_by_g)))
        c.setFont(BODY, 2.9)
        for n, w in enumerate(part):
            wool = bench.wool_by_id[w.portion.wool].name
            told = f"{words.say(w.title)}, {words.say(called(w.portion))}, {wool.lower()}"
            c.drawString(x + 3, y - 12.5 - 3.9 * n, _fit(c, told, BODY, 2.9, wide - 34))
            grams = words.say(with_reserve(w.portion.take_g, w.portion.keep_by_g))
            c.drawRightString(x + wide - 3, y - 12.5 - 3.9 * n, grams)
        if column == 1:
            sheets.y -= high + 4


def _label_parts(bags: Iterable[Bag]) -> Iterator[tuple[Bag, tuple[Weighing, ...]]]:
    """Bags whose list is longer than a label go over several."""
    rows = 10
    for bag in bags:
        for start in range(0, max(1, len(bag.weighings)), rows):
            yield bag, bag.weighings[start : start + rows]

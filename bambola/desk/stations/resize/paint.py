"""Paints the table: ground, figures, levels, dimensions, captions and flags."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap, QRadialGradient

from bambola.core.plan import Plan
from bambola.core.quantities import Units, show_length
from bambola.core.solids import Placement
from bambola.core.words import Words, growth_phrase, standing_phrase
from bambola.desk.kit.painters.marks import paint_dimension, paint_flag, paint_span, paint_tape
from bambola.desk.kit.pictures import RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import base_of
from bambola.desk.stations.resize.layout import NEW, OLD, DimensionLine, TableLayout
from bambola.desk.stations.resize.marks import MarkPainter, TapeMarks
from bambola.language import current_catalogue, tr


@dataclass(frozen=True)
class TableScene:
    """Everything the table shows at one moment. ``marked`` are the pictures with their outlines.

    ``heights`` (mm) are those that are shown: while the flag is pulled the plan may be a moment behind.
    ``lines`` are the dimension lines of the part in hand, as planned, ``turns`` what is marked beside the
    tape. ``pulled`` says that the flag is in the hand: speed counts for more than smoothness.
    """

    theme: Theme
    units: Units
    plan: Plan
    layout: TableLayout
    placements: Mapping[str, Placement]
    heights: Mapping[str, float]
    prints: Mapping[str, RenderResult]
    marked: Mapping[str, QPixmap]
    selected: str | None
    focused: bool
    pulled: bool
    ratio: float
    area: QRectF
    lines: tuple[DimensionLine, ...]
    turns: TapeMarks
    marks: MarkPainter

    @property
    def ahead(self) -> float:
        """How much larger the shown figure is than the planned one, during a drag."""
        return self.heights[NEW] / self.plan.to_height_mm


def paint_scene(painter: QPainter, scene: TableScene) -> None:
    """Paint the whole table."""
    layout, theme = scene.layout, scene.theme
    from_top = layout.camera.tip > 60
    if not from_top:
        painter.setPen(QPen(theme.dyes.edge.darker(108), theme.px(1.6)))
        left, right = layout.tape.left() - theme.px(8), scene.area.right() - theme.px(8)
        painter.drawLine(QPointF(left, layout.ground_y), QPointF(right, layout.ground_y))
    for name in layout.spots:
        if not from_top:
            _paint_shadow(painter, scene, name)
        _paint_figure(painter, scene, name)
    paint_tape(painter, layout.tape, layout.mm_px, scene.units.length, theme, scene.ratio)
    if not from_top:
        _paint_levels(painter, scene)
    _paint_dimensions(painter, scene)
    _paint_captions(painter, scene)
    new = layout.flag(scene.heights[NEW])
    if not from_top:
        flags = (layout.flag(scene.plan.from_height_mm), new)
        mm = scene.heights[NEW]
        scene.marks.paint(painter, scene.turns, layout, flags, mm, scene.units)
    for mm, filled in ((scene.plan.from_height_mm, False), (scene.heights[NEW], True)):
        if not filled and layout.flag(mm).intersects(new):
            continue  # what both say lies on each other: the one in hand counts
        told = show_length(mm, scene.units)
        paint_flag(painter, layout.flag(mm), told, filled, filled and scene.focused, theme)


def _paint_levels(painter: QPainter, scene: TableScene) -> None:
    layout, d = scene.layout, scene.theme.dyes
    for mm, colour, name, share in (
        (scene.plan.from_height_mm, d.woad, OLD, 0.6),
        (scene.heights[NEW], d.madder, NEW, 1.0),
    ):
        if name not in layout.spots:
            continue
        y, spot = layout.y_of(mm), layout.spots[name]
        end = spot.axis + spot.right * share * layout.mm_px
        painter.setPen(QPen(colour, 1.3, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(layout.flag(mm).right(), y), QPointF(end, y))


def _paint_figure(painter: QPainter, scene: TableScene, name: str) -> None:
    made = scene.prints.get(name)
    if made is None:
        return
    box, pixmap = scene.layout.picture_box(name, made, scene.heights[name]), scene.marked[name]
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, not scene.pulled)
    if abs(box.width() * scene.ratio - pixmap.width()) < 1.0:
        # At its own size a picture is laid pixel on pixel, which is far quicker than stretching it.
        pixmap.setDevicePixelRatio(scene.ratio)
        painter.drawPixmap(box.topLeft().toPoint(), pixmap)
    else:
        pixmap.setDevicePixelRatio(1.0)
        painter.drawPixmap(box, pixmap, QRectF(pixmap.rect()))


def _paint_shadow(painter: QPainter, scene: TableScene, name: str) -> None:
    spot = scene.layout.spots[name]
    wide = (spot.right - spot.left) * scene.layout.mm_px * 0.62
    box = QRectF(
        scene.layout.middle(name) - wide,
        scene.layout.ground_y - wide * 0.055,
        2 * wide,
        wide * 0.11,
    )
    shade = _shadow_picture(scene.theme.dark)
    painter.drawPixmap(box, shade, QRectF(shade.rect()))


@lru_cache(maxsize=2)
def _shadow_picture(dark: bool) -> QPixmap:
    """Return a soft round shadow, to be stretched under a figure."""
    side = 256
    pixmap = QPixmap(side, side)
    pixmap.fill(Qt.GlobalColor.transparent)
    glow = QRadialGradient(QPointF(side / 2, side / 2), side / 2)
    glow.setColorAt(0.0, QColor(0, 0, 0, 120 if dark else 70))
    glow.setColorAt(1.0, QColor(0, 0, 0, 0))
    painter = QPainter(pixmap)
    painter.fillRect(pixmap.rect(), glow)
    painter.end()
    return pixmap


def _paint_dimensions(painter: QPainter, scene: TableScene) -> None:
    if scene.selected is None or (scene.ahead != 1 and not scene.plan.resized.even):
        return  # what follows other rules is told when it is planned
    layout, theme, units = scene.layout, scene.theme, scene.units
    placement, spot = scene.placements[NEW], layout.spots[NEW]
    base, s = base_of(placement, layout.camera), layout.mm_px * scene.ahead
    inside = scene.area.adjusted(layout.tape.right(), 0, 0, 0)
    old = scene.plan.part(scene.selected).from_mm
    for line in scene.lines:
        start, end = (
            QPointF(spot.axis + x * s, layout.ground_y - (y - base) * s)
            for x, y in (line.start, line.end)
        )
        text = f"{show_length(line.mm * scene.ahead, units)} {line.word}"
        clear = line.clear * s + theme.px(20)
        beside = max(start.x(), end.x()) + clear + theme.px(90)
        if line.across or (line.away[0] > 0 and beside > inside.right()):
            paint_span(painter, start, end, text, theme)
            continue
        offset = QPointF(line.away[0], -line.away[1]) * clear
        was = tr("was {old}", old=show_length(old[line.measure], units))
        paint_dimension(painter, start, end, offset, text, was, theme, inside)


def _paint_captions(painter: QPainter, scene: TableScene) -> None:
    layout, theme = scene.layout, scene.theme
    painter.setFont(theme.text(14))
    painter.setPen(theme.dyes.quiet)
    y, right = layout.ground_y + theme.px(8), scene.area.right() - 6
    taken = layout.tape.right()
    captions = {OLD: (tr("as made"),), NEW: _new_captions(scene)}
    for name in layout.spots:
        texts = captions[name]
        # The fullest caption that fits under its figure.
        wides = [painter.fontMetrics().horizontalAdvance(text) for text in texts]
        text, wide = next(
            ((t, w) for t, w in zip(texts, wides, strict=True) if w <= right - taken),
            (texts[-1], wides[-1]),
        )
        x = max(min(layout.middle(name) - wide / 2, right - wide), taken)
        painter.drawText(QRectF(x, y, wide + 2, theme.px(22)), Qt.AlignmentFlag.AlignLeft, text)
        taken = x + wide + theme.px(16)


def _new_captions(scene: TableScene) -> tuple[str, ...]:
    """Return the captions of the new figure, the longest first."""
    plan, words = scene.plan, Words(scene.units, current_catalogue())
    size = words.say(growth_phrase(plan.scale * scene.ahead))
    how = words.say(standing_phrase(plan.balance.stands, plan.balance.tip_angle_deg))
    stance = f"; {how}" if plan.resized.figure.stance != "hanging" else ""
    return (f"{size}, {words.say(plan.datum)}{stance}", f"{size}{stance}", size)

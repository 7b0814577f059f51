"""Paints a picture on the board with its background veiled and its outline drawn."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, ClassVar, Protocol

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath, QPen, QPixmap, QTransform

from bambola.core.figure import Framing
from bambola.desk.kit.theme import Theme

if TYPE_CHECKING:
    from bambola.core.sight.silhouette import Silhouette
    from bambola.desk.stations.measure.sighting import LoadedPicture


@dataclass(frozen=True, slots=True)
class BoardLayout:
    """``scale`` is pixels a mm; ``x``, ``y`` is the place of u = 0, v = 0 on the board."""

    scale: float
    x: float
    y: float

    def to_screen(self, u: float, v: float) -> QPointF:
        """Return a place in mm in pixels of the board."""
        return QPointF(self.x + u * self.scale, self.y - v * self.scale)

    def to_mm(self, at: QPointF) -> tuple[float, float]:
        """Return a place on the board in mm."""
        return (at.x() - self.x) / self.scale, (self.y - at.y()) / self.scale


def fit_box(box: tuple[float, float, float, float], area: QRectF) -> BoardLayout:
    """Return the mapping that shows ``box`` (left, bottom, right, top in mm) as large as ``area`` allows."""
    left, bottom, right, top = box
    wide, high = max(right - left, 1e-6), max(top - bottom, 1e-6)
    scale = min(area.width() / wide, area.height() / high)
    x = area.center().x() - (left + right) / 2 * scale
    y = area.center().y() + (bottom + top) / 2 * scale
    return BoardLayout(scale, x, y)


def zoomed(lay: BoardLayout, at: QPointF, factor: float) -> BoardLayout:
    """Return the mapping ``lay`` enlarged by ``factor`` about a place on the board."""
    scale = min(max(lay.scale * factor, 0.02), 400.0)
    f = scale / lay.scale
    return BoardLayout(scale, at.x() + (lay.x - at.x()) * f, at.y() + (lay.y - at.y()) * f)


def picture_box(framing: Framing) -> tuple[float, float, float, float]:
    """Return left, bottom, right and top (mm) of the visible part of a picture."""
    left, top, right, bottom = framing.crop or (
        0.0,
        0.0,
        float(framing.width),
        float(framing.height),
    )
    (u1, v1), (u2, v2) = framing.to_mm(left, top), framing.to_mm(right, bottom)
    return min(u1, u2), min(v1, v2), max(u1, u2), max(v1, v2)


def picture_to_screen(framing: Framing, lay: BoardLayout) -> QTransform:
    """Return the transform from pixels of the picture file to the board."""

    def at(x: float, y: float) -> QPointF:
        return lay.to_screen(*framing.to_mm(*framing.straightened(x, y)))

    o, a, b = at(0, 0), at(1, 0), at(0, 1)
    return QTransform(a.x() - o.x(), a.y() - o.y(), b.x() - o.x(), b.y() - o.y(), o.x(), o.y())


class PictureLook(Protocol):
    """How the current tool wants the picture shown."""

    dims_outside: ClassVar[bool]
    shows_sureness: ClassVar[bool]


def paint_picture(
    painter: QPainter,
    laid: LoadedPicture,
    framing: Framing,
    lay: BoardLayout,
    looks: PictureLook | None,
    theme: Theme,
) -> None:
    """Paint the picture in its crop, the background veiled, and the outline, sure and unsure."""
    painter.save()
    u1, v1, u2, v2 = picture_box(framing)
    painter.setClipRect(QRectF(lay.to_screen(u1, v2), lay.to_screen(u2, v1)))
    to_screen = picture_to_screen(framing, lay)
    whole = QRectF(0, 0, framing.width, framing.height)
    painter.setTransform(to_screen)
    painter.drawPixmap(whole, laid.shown, QRectF(laid.shown.rect()))
    if laid.silhouette is not None and (looks is None or looks.dims_outside):
        veil = _veil_picture(_Same(laid.silhouette), theme.dyes.ground.name())
        painter.drawPixmap(whole, veil, QRectF(veil.rect()))
    painter.resetTransform()
    if laid.silhouette is not None:
        bold = looks is not None and looks.shows_sureness
        _draw_outline(painter, laid.silhouette, framing, lay, bold, theme)
    painter.restore()


def _draw_outline(
    painter: QPainter,
    silhouette: Silhouette,
    framing: Framing,
    lay: BoardLayout,
    bold: bool,
    theme: Theme,
) -> None:
    to_screen = picture_to_screen(framing, lay)
    sure, unsure = _outline_paths(_Same(silhouette))
    d = theme.dyes
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for path, colour, style in (
        (sure, d.lichen if bold else d.paper, Qt.PenStyle.SolidLine),
        (unsure, d.madder if bold else d.paper, Qt.PenStyle.DotLine),
    ):
        painter.setPen(QPen(colour, theme.px(2.6 if bold else 1.2), style))
        painter.drawPath(to_screen.map(path))


def paint_progress(painter: QPainter, area: QRectF, share: float, told: str, theme: Theme) -> None:
    """Paint progress, as described by ``told``, on a scrap of paper in the middle."""
    d, px = theme.dyes, theme.px
    middle = area.center()
    box = QRectF(middle.x() - px(150), middle.y() - px(28), px(300), px(56))
    painter.setPen(QPen(d.edge, 1))
    painter.setBrush(d.paper)
    painter.drawRoundedRect(box, px(10), px(10))
    painter.setPen(d.ink)
    painter.setFont(theme.text(15))
    words = box.adjusted(0, px(4), 0, -px(18))
    painter.drawText(words, Qt.AlignmentFlag.AlignCenter, told)
    rail = QRectF(box.left() + px(16), box.bottom() - px(15), box.width() - px(32), px(5))
    painter.setPen(Qt.PenStyle.NoPen)
    for wide, colour in ((rail.width(), d.edge), (rail.width() * share, d.madder)):
        painter.setBrush(colour)
        painter.drawRoundedRect(QRectF(rail.left(), rail.top(), wide, rail.height()), 2, 2)


class _Same:
    """A key that is equal only to the very same silhouette."""

    def __init__(self, value: Silhouette) -> None:
        self.value = value

    def __hash__(self) -> int:
        return id(self.value)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self.value is other.value


@lru_cache(maxsize=8)
def _veil_picture(of: _Same, colour: str) -> QPixmap:
    """Return the veiled background of a silhouette as a picture of its own."""
    cover = of.value.cover[::2, ::2]
    tint = QColor(colour)
    rows, columns = cover.shape
    pixels = np.empty((rows, columns, 4), dtype=np.uint8)
    pixels[..., :3] = (tint.red(), tint.green(), tint.blue())
    pixels[..., 3] = ((1 - cover) * 165).astype(np.uint8)
    image = QImage(pixels.tobytes(), columns, rows, 4 * columns, QImage.Format.Format_RGBA8888)
    return QPixmap.fromImage(image.copy())


@lru_cache(maxsize=8)
def _outline_paths(of: _Same) -> tuple[QPainterPath, QPainterPath]:
    """Return the silhouette's outline in pixels of the picture: where it is sure, and where it is not."""
    import cv2

    silhouette = of.value
    runs, _ = cv2.findContours(
        (silhouette.cover > 0.5).astype(np.uint8), cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE
    )
    sure, unsure = QPainterPath(), QPainterPath()
    for run in runs:
        points = run[::3, 0] if len(run) > 12 else run[:, 0]
        good = silhouette.sureness[points[:, 1], points[:, 0]] > 0.5
        places = (points + 0.5) / silhouette.scale
        for i in range(len(places)):
            path = sure if good[i] else unsure
            a, b = places[i - 1], places[i]
            path.moveTo(QPointF(a[0], a[1]))
            path.lineTo(QPointF(b[0], b[1]))
    return sure, unsure


class BoardTool:
    """How a tool wants the board shown, and the input it gets; the base does nothing."""

    whole_picture: ClassVar[bool] = False
    shows_figure: ClassVar[bool] = True
    dims_outside: ClassVar[bool] = True
    shows_sureness: ClassVar[bool] = False
    cursor: ClassVar[Qt.CursorShape] = Qt.CursorShape.ArrowCursor

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        """Handle a pressed button."""

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        """Handle a moved pointer, with or without a button."""

    def release(self, at: QPointF, button: Qt.MouseButton) -> None:
        """Handle a released button."""

    def double(self, at: QPointF) -> None:
        """Handle a double click."""

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        """Handle a key; return whether it meant anything."""
        return False

    def give_up(self) -> None:
        """Drop what was begun."""

    def paint(self, painter: QPainter) -> None:
        """Paint the tool's handles."""

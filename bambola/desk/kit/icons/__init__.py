"""Our own line icons, drawn in the ink of the theme."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

from PyQt6.QtCore import QByteArray, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtSvg import QSvgRenderer

_SIDE = 96


@lru_cache(maxsize=64)
def _load_icon(name: str, colour: str) -> QIcon:
    text = (files("bambola.desk.kit.icons") / f"{name}.svg").read_text(encoding="utf-8")
    return QIcon(rendered(text.replace("currentColor", colour), QSize(_SIDE, _SIDE)))


def rendered(svg: str, size: QSize) -> QPixmap:
    """Return an SVG rendered on a transparent background at this size."""
    pixmap = QPixmap(size)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    QSvgRenderer(QByteArray(svg.encode())).render(painter, QRectF(pixmap.rect()))
    painter.end()
    return pixmap


def icon(name: str, colour: QColor) -> QIcon:
    """Return the icon ``name`` in ``colour``."""
    return _load_icon(name, colour.name())

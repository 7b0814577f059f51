"""Our own line icons, drawn in the ink of the theme."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

from PyQt6.QtCore import QByteArray, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtSvg import QSvgRenderer

_SIDE = 96


@lru_cache(maxsize=64)
def _icon(name: str, colour: str) -> QIcon:
    text = (files("bambola.desk.kit.icons") / f"{name}.svg").read_text(encoding="utf-8")
    renderer = QSvgRenderer(QByteArray(text.replace("currentColor", colour).encode()))
    pixmap = QPixmap(_SIDE, _SIDE)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    renderer.render(painter, QRectF(0, 0, _SIDE, _SIDE))
    painter.end()
    return QIcon(pixmap)


def icon(name: str, colour: QColor) -> QIcon:
    """The icon ``name`` in ``colour``."""
    return _icon(name, colour.name())

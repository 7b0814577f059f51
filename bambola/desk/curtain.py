"""The curtain: the figure's last picture, shown at once while the workshop behind it is set up.

Loading the sums takes longer than opening a window. Until they are there the maker sees the figure
that is being opened, without anything to press. Only Qt is needed here, and nothing else may be.
"""

from __future__ import annotations

import contextlib
import hashlib
from pathlib import Path

from PyQt6.QtCore import QByteArray, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import QWidget

from bambola.desk.theme import Theme, cache_folder

SHIPPED = Path(__file__).parents[1] / "demo"


class Curtain(QWidget):
    """A window with a picture and a name, where the real window will stand."""

    def __init__(
        self, picture: QPixmap, name: str, theme: Theme, geometry: QByteArray | None
    ) -> None:
        super().__init__()
        self.picture, self.name, self.theme = picture, name, theme
        self.setWindowTitle("Bambola")
        self.setAccessibleName(f"Opening {name}")
        self.resize(1280, 800)
        if geometry is not None:
            self.restoreGeometry(geometry)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        d, px = self.theme.dyes, self.theme.px
        painter.fillRect(self.rect(), d.ground)
        tall = self.height() * 0.66
        wide = tall * self.picture.width() / max(1, self.picture.height())
        box = QRectF((self.width() - wide) / 2, self.height() * 0.80 - tall, wide, tall)
        painter.drawPixmap(box, self.picture, QRectF(self.picture.rect()))
        painter.setPen(d.ink)
        painter.setFont(self.theme.title(28))
        line = QRectF(0, self.height() * 0.82, self.width(), px(44))
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, self.name)
        painter.setPen(d.quiet)
        painter.setFont(self.theme.text(15))
        painter.drawText(
            line.translated(0, px(36)), Qt.AlignmentFlag.AlignCenter, "Laying out wool and wire…"
        )


def curtain_for(design: Path, theme: Theme, geometry: QByteArray | None) -> Curtain | None:
    """A curtain with the design's last picture, if there is one."""
    picture = QPixmap()
    for path in (picture_path(design), design.with_name(f"{_stem(design)}.png")):
        if path.is_file() and picture.load(str(path)):
            return Curtain(picture, _stem(design).replace("-", " ").capitalize(), theme, geometry)
    return None


def keep_picture(design: Path, picture: QPixmap) -> None:
    """Keep ``picture`` for the next time ``design`` is opened, if there is room for it."""
    path = picture_path(design)
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        picture.save(str(path))


def picture_path(design: Path) -> Path:
    """Where a design's last picture is kept, in the user's cache."""
    name = hashlib.sha256(str(design.resolve()).encode()).hexdigest()[:24]
    return cache_folder() / "pictures" / f"{name}.png"


def _stem(design: Path) -> str:
    return design.name.split(".")[0]

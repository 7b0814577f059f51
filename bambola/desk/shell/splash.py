"""The splash screen: the design's last picture, shown at once while the rest loads.

Loading takes longer than opening a window. Until then the maker sees the figure being opened, without
anything to press. Only Qt may be imported here.
"""

from __future__ import annotations

import contextlib
import hashlib
import time
from pathlib import Path

from PyQt6.QtCore import QByteArray, QEventLoop, QRectF, QSize, Qt
from PyQt6.QtGui import QGuiApplication, QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import QApplication, QWidget

from bambola.desk.kit.theme import Theme, cache_folder
from bambola.language import tr

PROGRAM = "Bambola"
_USUAL = QSize(1280, 800)
_FRAME = QSize(4, 44)
"""About what a window manager puts round a window, px."""
_PATIENCE_S = 1.0
"""A window that is not seen by then is not waited for: it may lie under another, or on another desk."""
SHIPPED = Path(__file__).parents[2] / "demo"


class SplashScreen(QWidget):
    """A picture, if there is one, and a name: first in a window of its own where the real window will be,
    then over that window until its figures are painted."""

    def __init__(self, picture: QPixmap | None, name: str, theme: Theme) -> None:
        super().__init__()
        self.picture, self.name, self.theme = picture, name, theme
        self.is_painted = False
        self.setWindowTitle("Bambola")
        self.setAccessibleName(
            tr("Opening {name}", name=name) if name != PROGRAM else tr("Bambola starts")
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        d, px = self.theme.dyes, self.theme.px
        painter.fillRect(self.rect(), d.ground)
        words = self.height() * (0.82 if self.picture else 0.44)
        if self.picture:
            tall = self.height() * 0.66
            wide = tall * self.picture.width() / max(1, self.picture.height())
            box = QRectF((self.width() - wide) / 2, self.height() * 0.80 - tall, wide, tall)
            painter.drawPixmap(box, self.picture, QRectF(self.picture.rect()))
        painter.setPen(d.ink)
        painter.setFont(self.theme.title(28))
        line = QRectF(0, words, self.width(), px(44))
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, self.name)
        painter.setPen(d.quiet)
        painter.setFont(self.theme.text(15))
        painter.drawText(
            line.translated(0, px(36)),
            Qt.AlignmentFlag.AlignCenter,
            tr("Laying out wool and wire…"),
        )
        self.is_painted = True

    def hang_over(self, window: QWidget) -> SplashScreen:
        """Cover ``window``, which is not shown yet, and return the splash screen that covers it; this one
        closes."""
        window.restoreGeometry(self.saveGeometry())
        over = SplashScreen(self.picture, self.name, self.theme)
        over.setParent(window)
        window.show()
        over.setGeometry(window.rect())
        over.raise_()
        over.show()
        wait_until_seen(over)
        over.setGeometry(window.rect())  # a window manager may have made it larger meanwhile
        self.close()
        return over


def usual_size() -> QSize:
    """Return the size of a first window: as the screen allows, with room for its frame."""
    screen = QGuiApplication.primaryScreen()
    free = screen.availableSize() - _FRAME if screen is not None else _USUAL
    return _USUAL.boundedTo(free).expandedTo(QSize(860, 560))


def wait_until_seen(splash: SplashScreen) -> None:
    """Wait until the splash screen is painted: a window appears only some events after it is shown, and
    blocking work would leave it black."""
    app, end = QApplication.instance(), time.monotonic() + _PATIENCE_S
    assert app is not None
    while not splash.is_painted and time.monotonic() < end:
        app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
    app.processEvents()
    QGuiApplication.sync()


def splash_for(design: Path | None, theme: Theme, geometry: QByteArray | None) -> SplashScreen:
    """Return a splash screen with the design's last picture, if there is one."""
    shown, name = None, PROGRAM
    if design is not None:
        name = design_name(design)
        picture = QPixmap()
        for path in (picture_path(design), design.with_name(f"{_design_stem(design)}.png")):
            if path.is_file() and picture.load(str(path)):
                shown = picture
                break
    splash = SplashScreen(shown, name, theme)
    splash.resize(usual_size())
    if geometry is not None:
        splash.restoreGeometry(geometry)
    return splash


def keep_picture(design: Path, picture: QPixmap) -> None:
    """Cache ``picture`` for the next time ``design`` is opened, if there is room."""
    path = picture_path(design)
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        picture.save(str(path))


def picture_path(design: Path) -> Path:
    """Return the path of a design's cached picture."""
    name = hashlib.sha256(str(design.resolve()).encode()).hexdigest()[:24]
    return cache_folder() / "pictures" / f"{name}.png"


def design_name(design: Path) -> str:
    """Return what a design is called by its file: “wool-hare.bambola.json” is “Wool hare”."""
    return _design_stem(design).replace("-", " ").capitalize()


def _design_stem(design: Path) -> str:
    return design.name.split(".")[0]

"""A small picture for each symptom: the piece in ink, dashed where it should be, and in red what is wrong."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QWidget

from bambola.core.methods.drawing import rod
from bambola.desk.kit.icons import rendered
from bambola.desk.kit.theme import Theme

WIDE, HIGH = 36, 24


def _rod(x: float, y: float, wide: float, high: float) -> str:
    """Return a piece with round ends, as an SVG path."""
    r = min(wide, high) / 2
    across, down = wide - 2 * r, high - 2 * r
    turn = f"a{r},{r},0,0,1,"
    return "".join(
        (
            f"M{x + r},{y}h{across}",
            f"{turn}{r},{r}v{down}",
            f"{turn}{-r},{r}h{-across}",
            f"{turn}{-r},{-r}v{-down}",
            f"{turn}{r},{-r}z",
        )
    )


def _ball(x: float, y: float, r: float) -> str:
    return _rod(x - r, y - r, 2 * r, 2 * r)


_ROD = _rod(4, 4, 28, 16)
_HEAD = _ball(18, 12, 10.5)
_EYES = _ball(14, 10, 1.4) + _ball(22, 10, 1.4)
_LEAF = "M8 21L18 3L28 21z"
_FIGURE = _ball(18, 5.5, 4) + _rod(13, 9, 10, 10) + "M15 19v4M21 19v4"

MARKS: dict[str, tuple[str, str, str]] = {
    # symptom: in ink, dashed, in red
    "too-long": ("", _rod(8, 7, 20, 10), _rod(2, 7, 32, 10)),
    "too-short": ("", _rod(2, 7, 32, 10), _rod(8, 7, 20, 10)),
    "too-thick": ("", _rod(4, 8, 28, 8), _rod(4, 2, 28, 20)),
    "too-thin": ("", _rod(4, 2, 28, 20), _rod(4, 8, 28, 8)),
    "too-big": ("", _rod(10, 8, 16, 8), _rod(3, 2, 30, 20)),
    "too-small": ("", _rod(3, 2, 30, 20), _rod(10, 8, 16, 8)),
    "long-and-thin": ("", _rod(8, 3, 20, 18), _rod(2, 8, 32, 8)),
    "uneven": (_rod(3, 2, 30, 8), _rod(3, 14, 30, 8), _rod(3, 14, 20, 8)),
    "too-soft": ("M4 12a8 8 0 0 1 8-8h1q5 11 10 0h1a8 8 0 0 1 0 16h-12a8 8 0 0 1-8-8z", "", "M18 0v7"),
    "too-firm": (_rod(4, 9, 28, 13), "", "M12 0l4 8l-5-1M24 0l-4 8l5-1"),
    "dented": ("M12 20a8 8 0 0 1 0-16h2q4 8 8 0h2a8 8 0 0 1 0 16z", _ROD, "M14 4q4 8 8 0"),
    "flattened": ("M4 19v-5a10 10 0 0 1 10-10h8a10 10 0 0 1 10 10v5", "", "M3 19.5h30"),
    "crack": (_ROD, "", "M15 4l4 5l-4 4l4 7"),
    "hole": (_ROD, "", _ball(18, 12, 4.5)),
    "floppy": ("M9 23C6 10 14 2 25 6", "M9 23V1", "M25 6q6 3 5 11M27 14l3 3l3-3"),
    "blunt-point": ("", "M7 22L18 1L29 22", "M7 22L14 9q4-5 8 0L29 22"),
    "will-not-felt": ("", "", "M3 6q8-7 15 0t15 0M3 13q8-7 15 0t15 0M3 20q8-7 15 0t15 0"),
    "stuck": (_rod(7, 2, 22, 12) + "M2 21h32", "", "M12 14v7M18 14v7M24 14v7"),
    "core-shows": (_ROD, "", _ball(12, 10, 2.5) + _ball(19, 14, 3) + _ball(26, 9, 2)),
    "colour-through": (_ROD, "", "M11 8v-7M11 1l-2 2M18 6v-6M18 0l-2 2M25 8v-7M25 1l-2 2"),
    "pits": (_ROD, "", "".join(_ball(x, y, 1) for x, y in ((10, 9), (15, 15), (19, 8), (24, 14), (28, 10)))),
    "hairy": (_rod(6, 7, 24, 10), "", "M9 7l-3-6M15 7l-1-6M21 7l2-6M27 7l4-5M9 17l-4 5M16 17v6M23 17l3 5"),
    "wrong-colour": (_ROD, "", _rod(19, 7, 10, 10) + "M22 7v10M25.5 7v10"),
    "dirty": (_ROD, "", "M10 9l3 3m0-3l-3 3M18 13l3 3m0-3l-3 3M24 7l3 3m0-3l-3 3"),
    "ran-out": ("", _ROD, "M18 4h-6a8 8 0 0 0 0 16h6z"),
    "wrong-place": (_rod(2, 8, 32, 15), _ball(12, 6, 4.5), _ball(26, 6, 4.5)),
    "joint-shows": (_rod(1, 4, 17, 16) + _rod(18, 7, 17, 10), "", "M18 4v16"),
    "head-wobbles": (_ball(18, 7, 5) + _rod(11, 13, 14, 11), "", "M9 3q-4 4 0 8M27 3q4 4 0 8"),
    "neck-long": (_ball(18, 5, 4) + _rod(11, 16, 14, 7), "", "M16.5 9v7M19.5 9v7"),
    "legs-thin": (_rod(10, 1, 16, 12), "M12 13v10h4V13M20 13v10h4V13", "M14 13v10M22 13v10"),
    "face-crooked": (_HEAD + _EYES, "M18 2v20", "M13 2l10 20"),
    "eyes-differ": (_HEAD, "", _ball(13.5, 10, 1.3) + _ball(22.5, 10, 3.2)),
    "eye-loose": (_HEAD + _ball(14, 10, 1.4), "", _ball(23, 15, 2) + "M22 9v4"),
    "mouth-crooked": (_HEAD + _EYES, "M14 16q4 3 8 0", "M13 15q5 0 9 4"),
    "hair-sheds": (_rod(4, 2, 28, 9), "", "M9 13q-2 4 0 9M15 13q2 4 0 9M21 13q-2 4 0 9M27 13q2 4 0 9"),
    "wire-shows": (_rod(2, 4, 24, 16), "", "M22 12h12M31 9l3 3l-3 3"),
    "wool-spins": (_rod(8, 5, 20, 14) + "M1 12h34", "", "M22 8a6 6 0 1 0 1 7M23 4v4h-4"),
    "leans": ("M4 23h28", _FIGURE, _ball(26, 6, 3.6) + "M23 9l-9 13M28.5 10l-5.5 13"),
    "falls": (_ball(7, 15, 4) + _rod(10, 11, 11, 9) + "M21 14h9m0 4h-9M2 22h32", "", "M27 2q7 2 6 9l-3-3"),
    "needle-broke": ("M3 3l12 7M6 1l-5 4", "", "M20 14l3-3M21 15l11 7M15 10l1 3"),
}  # fmt: skip


def mark(symptom: str, theme: Theme) -> QIcon:
    """Return the picture in the colours of the theme, and in one colour for a selected row."""
    d = theme.dyes
    found = QIcon()
    for mode, colours in (
        (QIcon.Mode.Normal, (d.ink, d.woad, d.madder)),
        (QIcon.Mode.Selected, (d.on_dye, d.on_dye, d.on_dye)),
    ):
        found.addPixmap(_drawn_mark(symptom, colours, mark_size(theme) * 2), mode)
    return found


def _drawn_mark(symptom: str, colours: tuple[QColor, QColor, QColor], size: QSize) -> QPixmap:
    dashes = ("", "stroke-dasharray='2.2 1.8'", "")
    paths = "".join(
        f"<path d='{path}' fill='none' stroke='{colour.name()}' stroke-width='1.7' "
        f"stroke-linecap='round' stroke-linejoin='round' {dash}/>"
        for path, colour, dash in zip(MARKS[symptom], colours, dashes, strict=True) if path
    )  # fmt: skip
    svg = f"<svg xmlns='http://www.w3.org/2000/svg' viewBox='-1 -1 {WIDE + 2} {HIGH + 2}'>{paths}</svg>"
    return rendered(svg, size)


def mark_size(theme: Theme) -> QSize:
    """Return the size of a picture, pixels."""
    return QSize(theme.px(42), theme.px(28))


class OutlineOverlay(QWidget):
    """The piece as it should be, dashed, and as measured over it, at one scale."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._wanted: tuple[float, float] | None = None
        self._now: tuple[float, float] | None = None
        self._seen: NDArray[np.float64] | None = None
        self.setFixedHeight(theme.px(84))

    def show_sizes(
        self, wanted: tuple[float, float] | None, now: tuple[float, float] | None
    ) -> None:
        """Show length and thickness (mm) of both; None if unknown."""
        self._wanted, self._now = wanted, now
        if now is None:
            self._seen = None
        self.setVisible(wanted is not None)
        self.update()

    def show_seen(self, outline: NDArray[np.float64]) -> None:
        """Show the outline (n, 2) of a piece from its picture over the wanted one."""
        own = outline - outline.mean(axis=0)
        _, _, axes = np.linalg.svd(own, full_matrices=False)
        own = own @ axes.T
        self._seen = own / float(np.ptp(own[:, 0]))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._wanted is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        both = [size for size in (self._wanted, self._now) if size]
        scale = min(
            (self.width() - px(20)) / max(long for long, _ in both),
            (self.height() - px(10)) / max(thick for _, thick in both),
        )
        middle = QPointF(self.width() / 2, self.height() / 2)
        for size, pen, fill in (
            (self._now, QPen(d.madder, px(2)), d.shade),
            (self._wanted, QPen(d.woad, px(2), Qt.PenStyle.DashLine), None),
        ):
            if size is None:
                continue
            run = rod(size[0] * scale, size[1] * scale)
            if size is self._now and self._seen is not None:
                run = self._seen * size[0] * scale
            painter.setPen(pen)
            painter.setBrush(fill or Qt.BrushStyle.NoBrush)
            painter.drawPolygon(QPolygonF([QPointF(x, y) + middle for x, y in run.tolist()]))

"""The planned figure and the made one on one ground line, with the differences marked on the parts."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFont,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
)

from bambola.core.quantities import show_length, show_mass
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.core.words import kind
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.painters.marks import outline_parts
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import base_of, extent_in_view
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.book.reading import OpenPage
from bambola.language import tr

PLANNED, CAME = "book:planned", "book:came"
_CAMERA = Camera(turn=14, tip=3)
GAP = 30
"""Between the figures, px."""
MOST_SAID = 0.3
"""Of its height, for what is said."""
_WRAPPED = int(Qt.AlignmentFlag.AlignCenter) | int(Qt.TextFlag.TextWordWrap)


class MadeView(Painted):
    """Both figures at one scale; click a part, or use the arrow keys, to select it."""

    part_taken = pyqtSignal(str)

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("As planned, and as it came out"))
        self.studio, self.darkroom = studio, darkroom
        self.page: OpenPage | None = None
        self.part = ""
        self._placements: dict[str, Placement] = {}
        self._prints: dict[str, RenderResult] = {}
        self._marked: dict[str, tuple[RenderResult, str, QPixmap]] = {}
        self._soon = one_shot_timer(self, 60)
        self._soon.timeout.connect(self._request_pictures)
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self.show_changed)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(420), self.theme.px(420))

    def minimumSizeHint(self) -> QSize:
        return QSize(160, 200)

    def show_page(self, page: OpenPage) -> None:
        """Show a making, as planned and as it came out."""
        shown, self.page = self.page.name if self.page else None, page
        old, self._placements = self._placements, {}
        if page.plan is not None:
            self._placements[PLANNED] = page.plan.solids.placement
            if page.came is not None:
                self._placements[CAME] = page.came
        for name in (PLANNED, CAME):
            if old.get(name) is not self._placements.get(name):
                self._prints.pop(name, None)
        parts = self._part_names
        if page.name != shown or self.part not in parts:
            self.part = page.off[0].part if page.off else parts[0] if parts else ""
        self._soon.start()
        self.show_changed()

    @property
    def _part_names(self) -> list[str]:
        plan = self.page.plan if self.page else None
        return [part.id for part in plan.parts if part.is_felted] if plan else []

    def describe(self) -> str:
        plan = self.page.plan if self.page else None
        if plan is None or self.page is None:
            return tr("Its design was not kept.")
        name = plan.part(self.part).name if self.part else ""
        return ". ".join((name, *self._difference_slips().values()))

    def _difference_slips(self) -> dict[str, str]:
        """Return the differences of each part as text."""
        plan, units = self.page.plan if self.page else None, self.studio.units
        found: dict[str, list[str]] = {}
        for off in self.page.off if self.page and plan else ():
            show = show_mass if off.kind == "weight" else show_length
            now = show(off.found, units).rpartition(" ")[0]
            then = show(off.planned, units)
            what = self.studio.say(kind("measure", off.what)) if off.what else tr("weight")
            said = tr("{what} {found} for {planned}", what=what, found=now, planned=then)
            found.setdefault(off.part, []).append(said)
        return {part: ", ".join(said) for part, said in self._by_part(found).items()}

    def _in_short(self) -> dict[str, str]:
        """Return the largest difference of each part as text."""
        found: dict[str, list[str]] = {}
        for off in sorted(self.page.off if self.page else (), key=lambda off: -abs(off.share)):
            if off.part not in found:
                found[off.part] = [tr("{off:+.0f} %", off=off.share * 100)]
        return {part: said[0] for part, said in self._by_part(found).items()}

    def _by_part(self, said: dict[str, list[str]]) -> dict[str, list[str]]:
        plan = self.page.plan if self.page else None
        return {
            part: [tr("{part}: {what}", part=plan.part(part).name, what=words[0]), *words[1:]]
            for part, words in said.items()
            if plan is not None
        }

    # Pictures

    def resizeEvent(self, event: object) -> None:
        self._soon.start()

    def showEvent(self, event: object) -> None:
        self._soon.start()

    def _mm_per_pixel(self) -> float:
        """Return millimetres to a pixel so that both figures fit; 0 if there is none."""
        reaches = [extent_in_view(p, _CAMERA) for p in self._placements.values()]
        px = self.theme.px
        wide = sum(right - left for left, right, _ in reaches)
        high = max((top for *_, top in reaches), default=0.0)
        across = max(60, self.width() - px(20) - px(GAP) * len(reaches))
        slips = self._slip_boxes()
        over = px(16) + (slips[-1][2].bottom() if slips else 0)
        return max(wide / across, high / max(60, self.height() - px(70) - over))

    def _request_pictures(self) -> None:
        if not self.isVisible() or not self._placements:
            return
        step = self._mm_per_pixel() / self.devicePixelRatioF()
        for name, placement in self._placements.items():
            had = self._prints.get(name)
            if had is None or had.shot.placement is not placement or had.shot.step != step:
                self.darkroom.request(name, RenderRequest(placement, _CAMERA, step, 2))

    def _developed(self, name: str, made: RenderResult) -> None:
        if self._placements.get(name) is made.shot.placement:
            self._prints[name] = made
            self.update()

    # Painting

    def _figure_areas(self) -> dict[str, QRectF]:
        """Return the area of each figure above the ground line, px, as wide as the figure and its caption."""
        mm, px, metrics = self._mm_per_pixel(), self.theme.px, QFontMetrics(self._caption_font)
        wides = {}
        for name, placement in self._placements.items():
            left, right, _ = extent_in_view(placement, _CAMERA)
            said = metrics.horizontalAdvance(self._caption_of(name)) + px(6)
            wides[name] = max((right - left) / mm, said)
        gap = px(GAP) if sum(wides.values()) + px(GAP) < self.width() else 0
        x = (self.width() - sum(wides.values()) - gap * (len(wides) - 1)) / 2
        found = {}
        for name, wide in wides.items():
            found[name] = QRectF(x, 0, wide, self.height() - px(58))
            x += wide + gap
        return found

    def _picture_boxes(self) -> dict[str, QRectF]:
        """Return the place of each picture, px: side by side on the ground line."""
        mm, found = self._mm_per_pixel(), {}
        for name, slot in self._figure_areas().items():
            made = self._prints.get(name)
            if made is None:
                continue
            left, right, _ = extent_in_view(self._placements[name], _CAMERA)
            seen = made.picture
            rows, columns = seen.owner.shape
            up = seen.top - base_of(self._placements[name], _CAMERA)
            found[name] = QRectF(
                slot.center().x() + (seen.left - (left + right) / 2) / mm,
                slot.bottom() - up / mm,
                columns * seen.step / mm,
                rows * seen.step / mm,
            )
        return found

    @property
    def _caption_font(self) -> QFont:
        return self.theme.text(16, bold=True)

    def _caption_of(self, name: str) -> str:
        """Return the height of a figure, and which of the two it is if there is room."""
        high = show_length(self._placements[name].height, self.studio.units)
        if self.width() < self.theme.px(300) * len(self._placements) / 2:
            return high
        if name == PLANNED:
            return tr("planned {height}", height=high)
        return tr("came out {height}", height=high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        d, px = self.theme.dyes, self.theme.px
        if self.page is None or not self._placements:
            painter.setPen(d.quiet)
            painter.setFont(self.theme.text(16))
            words = self.describe() if self.page else ""
            painter.drawText(self.rect().adjusted(20, 0, -20, 0), _WRAPPED, words)
            return
        ground = self.height() - px(58)
        painter.setPen(QPen(d.edge, px(2)))
        painter.drawLine(QPointF(px(10), ground), QPointF(self.width() - px(10), ground))
        if CAME in self._placements:  # how high it was to be, over both
            level = ground - self._placements[PLANNED].height / self._mm_per_pixel()
            painter.setPen(QPen(d.woad, px(1.4), Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(px(10), level), QPointF(self.width() - px(10), level))
        for name, box in self._picture_boxes().items():
            painter.drawPixmap(box, self._picture(name), QRectF(self._prints[name].pixmap.rect()))
        painter.setPen(d.ink)
        painter.setFont(self._caption_font)
        for name, slot in self._figure_areas().items():
            under = QRectF(slot.left(), ground + px(8), slot.width(), px(24))
            painter.drawText(under, Qt.AlignmentFlag.AlignCenter, self._caption_of(name))
        self._paint_off(painter)

    def _picture(self, name: str) -> QPixmap:
        made = self._prints[name]
        colour = self.theme.dyes.madder if self.hasFocus() else self.theme.dyes.weld
        known = self._marked.get(name)
        key = f"{self.part}{colour.name()}"
        if known is None or known[0] is not made or known[1] != key:
            ratio = 2.0 if self.hasFocus() else 1.4
            self._marked[name] = known = (
                made,
                key,
                outline_parts(made, ((self.part, colour),), ratio),
            )
        return known[2]

    def _paint_off(self, painter: QPainter) -> None:
        """Paint the differences over the figures, with a line from each to its part."""
        name = CAME if CAME in self._prints else PLANNED
        if name not in self._prints:
            return
        d, px, made = self.theme.dyes, self.theme.px, self._prints[name]
        box = self._picture_boxes()[name]
        painter.setFont(self._slip_font)
        for part, words, slip in self._slip_boxes():
            spot = self._visible_spot(made, part, box)
            left = min(max(px(8), spot.x() - slip.width() / 2), self.width() - slip.width() - px(8))
            slip.moveLeft(round(left))
            painter.setPen(QPen(d.madder, px(1.4)))
            painter.drawLine(QPointF(spot.x(), slip.bottom()), spot)
            painter.setBrush(d.madder)
            painter.drawEllipse(spot, px(3), px(3))
            painter.setBrush(d.paper)
            painter.drawRoundedRect(QRectF(slip), px(7), px(7))
            painter.setPen(d.madder)
            painter.drawText(slip.adjusted(px(7), px(3), -px(7), -px(3)), _WRAPPED, words)

    @property
    def _slip_font(self) -> QFont:
        return self.theme.text(14, bold=True)

    def _slip_boxes(self) -> list[tuple[str, str, QRect]]:
        """Return every part with a difference, the text and its box, one below the other; short texts if the
        figures would have too little room."""
        found = self._place_slips(self._difference_slips())
        if found and found[-1][2].bottom() > MOST_SAID * self.height():
            return self._place_slips(self._in_short())
        return found

    def _place_slips(self, slips: dict[str, str]) -> list[tuple[str, str, QRect]]:
        px, metrics = self.theme.px, QFontMetrics(self._slip_font)
        found, y = [], px(6)
        for part, words in slips.items():
            room = QRect(0, 0, min(px(320), self.width() - px(30)), px(400))
            said = metrics.boundingRect(room, _WRAPPED, words)
            slip = QRect(0, y, said.width() + px(14) + 2, said.height() + px(6))
            found.append((part, words, slip))
            y = slip.bottom() + px(4)
        return found

    def _visible_spot(self, made: RenderResult, part: str, box: QRectF) -> QPointF:
        """Return the visible point of a part nearest to its middle."""
        seen = made.picture
        at = seen.parts.index(part) if part in seen.parts else -2
        rows, columns = (seen.owner == at).nonzero()
        if not len(rows):
            return box.center()
        high, wide = seen.owner.shape
        n = int(np.hypot(rows - rows.mean(), columns - columns.mean()).argmin())
        return QPointF(
            box.left() + (columns[n] + 0.5) / wide * box.width(),
            box.top() + (rows[n] + 0.5) / high * box.height(),
        )

    # Hands

    def select_part(self, part: str) -> None:
        """Select a part."""
        if part in self._part_names and part != self.part:
            self.part = part
            self.part_taken.emit(part)
            self.show_changed()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for name, box in self._picture_boxes().items():
            if box.contains(event.position()):
                seen, at = self._prints[name].picture, event.position() - box.topLeft()
                rows, columns = seen.owner.shape
                x = seen.left + at.x() / box.width() * columns * seen.step
                y = seen.top - at.y() / box.height() * rows * seen.step
                if part := seen.part_at(x, y):
                    self.select_part(part)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        ways = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Up: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: 1,
        }
        parts = self._part_names
        if event is None or not parts or (by := ways.get(Qt.Key(event.key()))) is None:
            super().keyPressEvent(event)
            return
        self.select_part(parts[(parts.index(self.part) + by) % len(parts)])

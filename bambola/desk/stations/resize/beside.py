"""Several sizes of the figure on one ground line, each with what it takes."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent

from bambola.core.heights.whole import Size, SizeSeries
from bambola.core.quantities import show_bought, show_length, show_mass
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import base_of, extent_in_view
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_CAMERA = Camera()
_NAMED, _COARSE = "beside-", 2.2
_WORDS = 5
"""So many lines stand under a figure."""


class SizesBeside(Painted):
    """Left and right select a size, Delete removes it."""

    chosen = pyqtSignal(float)
    dropped = pyqtSignal(float)

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("Sizes beside each other"))
        self.studio, self.darkroom = studio, darkroom
        self.sizes: SizeSeries | None = None
        self.at = 0
        self._placements: tuple[Placement, ...] = ()
        self._prints: dict[int, RenderResult] = {}
        self.setMinimumSize(theme.px(190), theme.px(220))
        darkroom.developed.connect(self._developed)

    def show_sizes(self, sizes: SizeSeries, placements: Sequence[Placement], mm: float) -> None:
        """Show these sizes, the one nearest to ``mm`` selected."""
        self.sizes, self._placements = sizes, tuple(placements)
        rows = sizes.rows
        self.at = min(range(len(rows)), key=lambda i: abs(rows[i].height_mm - mm), default=0)
        self._request_pictures()
        self.setToolTip(self.describe())  # where it is narrow, not all of it can be read below
        self.show_changed()

    @property
    def in_hand(self) -> Size | None:
        """The selected size."""
        return self.sizes.rows[self.at] if self.sizes and self.sizes.rows else None

    def describe(self) -> str:
        if self.sizes is None:
            return ""
        rows = ["; ".join(self._row_words(row)) for row in self.sizes.rows]
        chosen = self.sizes.rows[self.at].height_mm if self.sizes.rows else 0.0
        told = tr("chosen: {height}", height=show_length(chosen, self.studio.units))
        return ". ".join([*rows, told])

    def _row_words(self, row: Size) -> tuple[str, ...]:
        units, bench = self.studio.units, self.studio.bench
        wires = ", ".join(show_bought(mm, units) for mm in row.wires)
        asked = [self.studio.say(title) for title in row.questions]
        return (
            show_length(row.height_mm, units),
            tr(
                "{wool}, {hours:.0f} h",
                wool=show_mass(row.wool_g, units),
                hours=row.minutes / 60,
            ),
            bench.money_text(row.cost, units),
            tr("wire {sizes}", sizes=wires) if wires else tr("no wire"),
            "; ".join(asked) or tr("nothing to decide"),
        )

    # Laying out and painting

    def _figure_places(self) -> tuple[float, list[tuple[float, float]]]:
        """Return pixels a mm, and for each figure the place of its axis and its width, px."""
        assert self.sizes is not None
        px = self.theme.px
        reaches = [extent_in_view(each, _CAMERA) for each in self._placements]
        least = min(float(px(104)), self.width() / max(1, len(reaches)) - px(8))
        high = self._ground_y - px(12)
        scale = high / max(top for *_, top in reaches)
        wide = [right - left for left, right, _ in reaches]
        room = self.width() - px(10)
        for _ in range(12):  # words under small figures take more room than they do
            widths = [max(mm * scale + px(12), least) for mm in wide]
            if sum(widths) <= room:
                break
            scale *= max(0.5, room / sum(widths)) * 0.98
        spare = max(0.0, room - sum(widths)) / len(widths)
        x, spots = float(px(5)), []
        for (left, right, _), width in zip(reaches, widths, strict=True):
            width += spare
            spots.append((x + width / 2 - (left + right) / 2 * scale, width))
            x += width
        return scale, spots

    @property
    def _ground_y(self) -> float:
        return self.height() - self.theme.px(22) * _WORDS - self.theme.px(14)

    def _request_pictures(self) -> None:
        """Request pictures: coarse ones first, then fine ones."""
        if self._placements and self.width() > 50 and self._ground_y > 30:
            pixel = 1 / (self._figure_places()[0] * self.devicePixelRatioF())
            for i, placement in enumerate(self._placements):
                had = self._prints.get(i)
                is_coarse = had is None or had.shot.placement is not placement
                shot = RenderRequest(
                    placement, _CAMERA, pixel * (_COARSE if is_coarse else 1), 1 + (not is_coarse)
                )
                if is_coarse or had is None or (had.shot.step, had.shot.smooth) != (shot.step, 2):
                    self.darkroom.request(f"{_NAMED}{i}", shot)

    def _developed(self, name: str, made: RenderResult) -> None:
        if name.startswith(_NAMED):
            self._prints[int(name.removeprefix(_NAMED))] = made
            if made.shot.smooth == 1:
                self._request_pictures()
            self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._request_pictures()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._placements or self.sizes is None or self._ground_y < 30:
            return
        painter = QPainter(self)
        hints = QPainter.RenderHint
        painter.setRenderHints(hints.Antialiasing | hints.SmoothPixmapTransform)
        d, px, ground = self.theme.dyes, self.theme.px, self._ground_y
        painter.setPen(QPen(d.edge.darker(108), px(1.6)))
        painter.drawLine(QPointF(0, ground), QPointF(self.width(), ground))
        scale, spots = self._figure_places()
        for i, (row, (axis, width)) in enumerate(zip(self.sizes.rows, spots, strict=True)):
            made = self._prints.get(i)
            placement = self._placements[i]
            if made is not None and made.shot.placement is placement:
                picture = made.picture
                rows, columns = picture.owner.shape
                base, step = base_of(placement, _CAMERA), picture.step * scale
                top = ground - (picture.top - base) * scale
                box = QRectF(axis + picture.left * scale, top, columns * step, rows * step)
                painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))
            left, right, _ = extent_in_view(placement, _CAMERA)
            middle = axis + (left + right) / 2 * scale
            self._paint_caption(
                painter, row, QRectF(middle - width / 2, ground, width, 0), i == self.at
            )

    def _paint_caption(self, painter: QPainter, row: Size, room: QRectF, chosen: bool) -> None:
        d, px = self.theme.dyes, self.theme.px
        y = room.top() + px(8)
        for n, text in enumerate(self._row_words(row)):
            painter.setFont(self.theme.text(17 if n == 0 else 13, bold=n == 0))
            decide = n == _WORDS - 1 and row.questions
            painter.setPen(
                d.madder if (chosen and n == 0) or decide else d.ink if n < 2 else d.quiet
            )
            wide = round(room.width() - px(6))
            text = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, wide)
            box = QRectF(room.left(), y, room.width(), px(22))
            painter.drawText(box, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, text)
            y += px(22)
        if chosen:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            pen = QPen(d.madder, px(1.6))
            pen.setStyle(Qt.PenStyle.DotLine if self.hasFocus() else Qt.PenStyle.SolidLine)
            painter.setPen(pen)
            painter.drawLine(
                QPointF(room.center().x() - px(30), room.top() + px(30)),
                QPointF(room.center().x() + px(30), room.top() + px(30)),
            )

    # Hands

    def choose(self, i: int) -> None:
        """Select a size by its index."""
        if self.sizes and 0 <= i < len(self.sizes.rows):
            self.at = i
            self.show_changed()
            self.chosen.emit(self.sizes.rows[i].height_mm)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._placements and self.sizes is not None:
            _, spots = self._figure_places()
            x = event.position().x()
            reached = 0.0
            for i, (_, width) in enumerate(spots):
                reached += width
                if x <= reached:
                    self.choose(i)
                    return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.choose(self.at + (1 if event.key() == Qt.Key.Key_Right else -1))
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.in_hand:
            self.dropped.emit(self.in_hand.height_mm)
        else:
            super().keyPressEvent(event)

"""What the board shows: a picture with the figure over it, or the figure in relief."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
)

from bambola.core.figure import Figure, Framing, Sight, Survey
from bambola.core.relief import Camera
from bambola.core.solids import AXES, Copy, Placement, outline_of_copy
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.painters.marks import outline_parts
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.chalk import paint_run, paint_tag
from bambola.desk.stations.measure.photograph import (
    BoardLayout,
    BoardTool,
    fit_box,
    paint_picture,
    paint_progress,
    picture_box,
    zoomed,
)
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import tr

CAMERAS: dict[Sight, Camera] = {
    "front": Camera(),
    "side": Camera(turn=90),
    "back": Camera(turn=180),
    "top": Camera(tip=90),
}
PRINT = "measure"


class BoardView(Painted):
    """One view of the figure as made, laid out and painted; the current tool paints over it."""

    view_changed = pyqtSignal()

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, sighting: Sighting
    ) -> None:
        super().__init__(theme, tr("Board with the figure"))
        self.studio, self.darkroom, self.sighting = studio, darkroom, sighting
        self.view: Sight = "front"
        self.lay: BoardLayout | None = None
        self.hand: BoardTool | None = None
        self.shows_picture = True
        self._own_lay = False
        self._origin: tuple[Figure, Survey, NDArray[np.float64]] | None = None
        self._print: RenderResult | None = None
        self._marked: tuple[RenderResult, object, QPixmap] | None = None
        self._progress: dict[str, float] = {}
        self._settle = one_shot_timer(self, 120)
        self._settle.timeout.connect(self._request_picture)
        self.setMinimumSize(340, 240)
        studio.survey_changed.connect(self.refresh)
        studio.figure_changed.connect(self._new_figure)
        studio.selection.part_changed.connect(self._on_part_selected)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.update)
        sighting.changed.connect(self._on_silhouette)
        sighting.progress.connect(self._show_progress)
        darkroom.developed.connect(self._developed)

    # What is shown

    @property
    def framing(self) -> Framing | None:
        """The framing of this view's picture, if there is one and it is wanted."""
        return self.studio.survey.framing(self.view) if self.shows_picture else None

    @property
    def axes(self) -> NDArray[np.float64]:
        """Unit vectors of the view as rows: right, up, towards the viewer."""
        return AXES[self.view]

    @property
    def origin(self) -> NDArray[np.float64]:
        """The figure's origin in the pictures' axes."""
        from bambola.core.sight.build import origin_of

        figure = self.studio.figure
        assert figure is not None
        known = self._origin
        if known is None or known[0] is not figure or known[1] is not self.studio.survey:
            known = self._origin = (
                figure,
                self.studio.survey,
                origin_of(figure, self.studio.survey),
            )
        return known[2]

    def placement(self) -> Placement:
        """Return the placement of the present figure."""
        return self.studio.placement_as_made()

    def seen_from(self, point: NDArray[np.float64]) -> tuple[float, float]:
        """Return a place (3,) of the figure as (u, v) on the board, mm."""
        u, v = self.axes[:2] @ (point + self.origin)
        return float(u), float(v)

    def outline(self, copy: Copy) -> list[tuple[float, float]]:
        """Return the outline of a copy in this view, mm."""
        points = outline_of_copy(copy, self.view, self.origin)
        return [(float(u), float(v)) for u, v in points]

    def turn_to(self, view: Sight) -> None:
        """Show another view."""
        if view != self.view:
            self.view = view
            self._own_lay = False
            self._print = None
            if self.hand:
                self.hand.give_up()
            self.refresh()
            self.view_changed.emit()

    def use(self, hand: BoardTool) -> None:
        """Switch to another tool."""
        if self.hand is not None:
            self.hand.give_up()
        self.hand = hand
        self._own_lay = False
        self.setCursor(hand.cursor)
        self.refresh()

    def refresh(self) -> None:
        """Update everything."""
        if self.studio.figure is None or not self.isVisible():
            return
        self._fit_to_window()
        self._settle.start()
        self.update()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._own_lay = False
        self.refresh()

    def _new_figure(self) -> None:
        self._print, self._own_lay = None, False
        if self.hand:
            self.hand.give_up()
        self.refresh()

    def _on_part_selected(self) -> None:
        if self.hand:
            self.hand.give_up()
        self.update()

    def _on_silhouette(self, view: str) -> None:
        if view == self.view:
            self.refresh()

    def _show_progress(self, view: str, share: float) -> None:
        self._progress[view] = share
        if view == self.view:
            self.update()

    def hold_still(self) -> None:
        """Keep the scale and offset during a drag."""
        self._own_lay = True

    def let_go(self) -> None:
        """Let the scale and offset follow again."""
        self._own_lay = False
        self.refresh()

    def fit_all(self) -> None:
        """Show everything again after zooming."""
        self._own_lay = False
        self.refresh()

    def zoom(self, factor: float) -> None:
        """Zoom about the middle."""
        if self.lay:
            self.lay = zoomed(self.lay, QPointF(self.width() / 2, self.height() / 2), factor)
            self._own_lay = True
            self._settle.start()
            self.update()

    def _fit_to_window(self) -> None:
        if self._own_lay and self.lay is not None:
            return
        px = self.theme.px
        area = QRectF(self.rect()).adjusted(px(20), px(18), -px(20), -px(24))
        framing = self.framing
        if framing is not None and (self.hand is None or self.hand.whole_picture):
            self.lay = fit_box(picture_box(framing), area)
            return
        seen = self._seen_box()
        if seen is not None:
            self.lay = fit_box(seen, area)
            return
        right, up = self.axes[:2]
        copies = self.placement().copies
        shift = (float(right @ self.origin), float(up @ self.origin))
        reach = [c.reaches(np.stack([-right, right, -up, up])) for c in copies]
        left, most, low, high = np.max(reach, axis=0)
        pad = 0.06 * max(left + most, low + high)
        self.lay = fit_box(
            (
                shift[0] - left - pad,
                shift[1] - low - pad,
                shift[0] + most + pad,
                shift[1] + high + pad,
            ),
            area,
        )

    def _seen_box(self) -> tuple[float, float, float, float] | None:
        """Return left, bottom, right and top (mm) of the figure in this view's picture, with a margin. It
        does not depend on what is drawn, so that the picture stands still."""
        framing, silhouette = self.framing, self.sighting.silhouette(self.view)
        if framing is None or silhouette is None or silhouette.is_empty:
            return None
        left, top, right, bottom = silhouette.box()
        corners = ((left, top), (right, top), (left, bottom), (right, bottom))
        seen = [framing.to_mm(*framing.straightened(*corner)) for corner in corners]
        us, vs = zip(*seen, strict=True)
        pad = 0.06 * max(max(us) - min(us), max(vs) - min(vs))
        return min(us) - pad, min(vs) - pad, max(us) + pad, max(vs) + pad

    # The figure's own picture

    def _request_picture(self) -> None:
        if self.studio.figure is None or self.lay is None or not self.isVisible():
            return
        pixel = 1 / (self.lay.scale * self.devicePixelRatioF())
        whole = self.placement()
        step = max(pixel, whole.height / 1400)
        self.darkroom.request(
            PRINT, RenderRequest(whole, CAMERAS[self.view], step, 2 if step < 1 else 1)
        )

    def _developed(self, name: str, made: RenderResult) -> None:
        if name == PRINT and made.shot.camera == CAMERAS[self.view]:
            self._print = made
            self.update()

    @property
    def is_pictured(self) -> bool:
        """Whether a picture of the present figure is rendered for this view."""
        return self._print is not None and self._print.shot.placement is self.placement()

    def part_at(self, at: QPointF) -> str | None:
        """Return the part shown at a place on the board."""
        if self._print is None or self.lay is None:
            return None
        u, v = self.lay.to_mm(at)
        shift = self.axes[:2] @ self.origin
        return self._print.picture.part_at(u - float(shift[0]), v - float(shift[1]))

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.studio.figure is None or self.lay is None:
            return
        painter = QPainter(self)
        hints = QPainter.RenderHint
        painter.setRenderHints(hints.Antialiasing | hints.SmoothPixmapTransform)
        framing = self.framing
        if framing is not None:
            laid = self.sighting.laid.get(self.view)
            if laid is not None:
                paint_picture(painter, laid, framing, self.lay, self.hand, self.theme)
        elif self.view != "top":
            d = self.theme.dyes
            ground = self.lay.to_screen(
                0, self.seen_from(np.array([0, 0, self.placement().ground]))[1]
            )
            painter.setPen(QPen(d.edge.darker(108), self.theme.px(1.6)))
            painter.drawLine(QPointF(8, ground.y()), QPointF(self.width() - 8, ground.y()))
        if self.hand is None or self.hand.shows_figure:
            if framing is None:
                self._paint_relief(painter)
            else:
                self._paint_outlines(painter)
        if self.hand is not None:
            self.hand.paint(painter)
        share = self._progress.get(self.view, 1.0)
        if share < 1.0:
            told = tr("Cutting the figure out… Esc stops")
            if self.sighting.looks_for_parts:
                told = tr("Looking for its parts… Esc stops")
            paint_progress(painter, QRectF(self.rect()), share, told, self.theme)
        if self.hasFocus():
            painter.setPen(QPen(self.theme.dyes.woad, 1.2, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(2, 2, -2, -2), 8, 8)

    def _paint_relief(self, painter: QPainter) -> None:
        if self._print is None or self.lay is None:
            return
        picture = self._print.picture
        rows, columns = picture.owner.shape
        du, dv = (float(x) for x in self.axes[:2] @ self.origin)
        corner = self.lay.to_screen(picture.left + du, picture.top + dv)
        size = picture.step * self.lay.scale
        pixmap = self._with_marks()
        painter.drawPixmap(
            QRectF(corner.x(), corner.y(), columns * size, rows * size),
            pixmap,
            QRectF(pixmap.rect()),
        )

    def _with_marks(self) -> QPixmap:
        made = self._print
        assert made is not None
        key = self.studio.selection.part, self.theme.dyes.madder.name()
        known = self._marked
        if known is None or known[0] is not made or known[1] != key:
            ratio = self.devicePixelRatioF() * self.theme.scale
            lines = [(self.studio.selection.part, self.theme.dyes.madder)]
            self._marked = known = (made, key, outline_parts(made, lines, ratio))
        return known[2]

    def _paint_outlines(self, painter: QPainter) -> None:
        d = self.theme.dyes
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for copy in self.placement().copies:
            mine = copy.part.id == self.studio.selection.part
            self.draw_run(
                painter, self.outline(copy), d.madder if mine else d.woad, 2.4 if mine else 1.3
            )

    def draw_run(
        self,
        painter: QPainter,
        points: list[tuple[float, float]],
        colour: QColor,
        thick: float,
        closed: bool = True,
        style: Qt.PenStyle = Qt.PenStyle.SolidLine,
    ) -> None:
        """Draw a line through ``points`` (mm), with a light line beneath it on a picture."""
        assert self.lay is not None
        run = [self.lay.to_screen(*point) for point in points]
        pen = QPen(colour, self.theme.px(thick), style)
        paint_run(painter, run, pen, self.theme, closed, self.framing is not None)

    def tag(
        self, painter: QPainter, at: QPointF, text: str, colour: QColor | None = None
    ) -> QRectF:
        """Draw a label on a scrap of paper beside ``at``, kept on the board, and return its box."""
        return paint_tag(painter, QRectF(self.rect()), at, text, colour, self.theme)

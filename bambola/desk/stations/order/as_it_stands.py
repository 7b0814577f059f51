"""The figure after the selected step: joined parts solid, the current one outlined, the rest as a ghost."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRectF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent, QPixmap
from PyQt6.QtWidgets import QWidget

from bambola.core.piece.standing import Course, Standing, course_of, standing_after
from bambola.core.plan import Plan
from bambola.core.relief import Camera
from bambola.desk.kit.painters.marks import outline_of
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

CAMERA = Camera(turn=14, tip=3)
GHOST, BESIDE = 0.16, 0.5


class StandingView(QWidget):
    """Three pictures on top of each other: a ghost of everything, finished parts lying beside, joined
    parts."""

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, name: str
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom, self.name = studio, theme, darkroom, name
        self.n = 0
        self._plan: Plan | None = None
        self._course: Course | None = None
        self._standing: Standing | None = None
        self._prints: dict[str, RenderResult] = {}
        self._outline: tuple[QPoint, QPixmap] | None = None
        self._settle = one_shot_timer(self, 90)
        self._settle.timeout.connect(self._request_picture)
        darkroom.developed.connect(self._developed)
        studio.plan_changed.connect(self._refresh_soon)
        theme.changed.connect(self._refresh_soon)
        self.setAccessibleName(tr("The figure as it stands"))

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), 300)

    def show_step(self, n: int) -> None:
        """Show the figure after step ``n``."""
        self.n = n
        self._refresh_soon()

    def _refresh_soon(self) -> None:
        if self.isVisible():
            self._settle.start()

    def showEvent(self, event: object) -> None:
        self._settle.start()

    def resizeEvent(self, event: object) -> None:
        self._refresh_soon()

    def _request_picture(self) -> None:
        plan = self.studio.plan
        if plan is None or not self.isVisible() or self.height() < 60:
            return
        placement = plan.solids.placement
        step = 1.16 * placement.height / self.height() / self.devicePixelRatioF()
        step = max(step, 1.5 * placement.height / max(60, self.width()) / 2.0)
        if self._course is None or plan is not self._plan:
            self._plan, self._course = plan, course_of(plan, self.studio.bench)
        self._standing = standing_after(self._course, self.n)
        self._outline = None
        ghost = self._prints.get("ghost")
        if ghost is None or ghost.shot.placement is not placement or ghost.shot.step != step:
            self._prints.pop("ghost", None)
            self.darkroom.request(f"{self.name}:ghost", RenderRequest(placement, CAMERA, step, 2))
        for layer, shown in (("made", self._standing.made), ("joined", self._standing.joined)):
            self._prints.pop(layer, None)
            if shown is not None:
                self.darkroom.request(f"{self.name}:{layer}", RenderRequest(shown, CAMERA, step, 2))
        told = [p for p, s in self._standing.states.items() if s == "joined"]
        self.setAccessibleDescription(
            tr("{n} of {of} parts joined", n=len(told), of=len(self._standing.states))
        )
        self.update()

    def _developed(self, name: str, made: RenderResult) -> None:
        own, _, layer = name.partition(":")
        if own != self.name or self._standing is None or self._plan is None:
            return
        wanted = {
            "ghost": self._plan.solids.placement,
            "made": self._standing.made,
            "joined": self._standing.joined,
        }[layer]
        if made.shot.placement is wanted:
            self._prints[layer] = made
            self._outline = None
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        ghost = self._prints.get("ghost")
        if ghost is None or self._standing is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        seen = ghost.picture
        rows, columns = seen.owner.shape
        wide, high = columns * seen.step, rows * seen.step
        share = min(self.width() / wide, (self.height() - 16) / high)
        left, top = (self.width() - wide * share) / 2, (self.height() - high * share) / 2

        def place(made: RenderResult) -> QRectF:
            """Return where a picture lies: all are in the same millimetres as seen."""
            own = made.picture
            return QRectF(
                left + (own.left - seen.left) * share,
                top + (seen.top - own.top) * share,
                own.owner.shape[1] * own.step * share,
                own.owner.shape[0] * own.step * share,
            )

        for layer, opacity in (("ghost", GHOST), ("made", BESIDE), ("joined", 1.0)):
            made = self._prints.get(layer)
            if made is not None:
                painter.setOpacity(opacity)
                painter.drawPixmap(place(made), made.pixmap, QRectF(made.pixmap.rect()))
        painter.setOpacity(1.0)
        part = self._standing.in_hand
        if part is not None:
            if self._outline is None:
                self._outline = outline_of(seen, part, self.theme.dyes.madder, 2)
            if self._outline is not None:
                at, line = self._outline
                box, a_pixel = place(ghost), seen.step * share
                where = QRectF(
                    box.left() + at.x() * a_pixel,
                    box.top() + at.y() * a_pixel,
                    line.width() * a_pixel,
                    line.height() * a_pixel,
                )
                painter.drawPixmap(where, line, QRectF(line.rect()))

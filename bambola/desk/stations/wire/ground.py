"""The figure from above with its contacts, and leaning to where it would tip; or as it hangs."""

from __future__ import annotations

import math

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)

from bambola.core.balance import WARN_DEG, Balance, Remedy
from bambola.core.facts import Fact
from bambola.core.plan import Plan
from bambola.core.plan.judging.small_notices import remedy_fact
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.words import kind, standing_phrase
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.painters.marks import paint_caption, paint_label
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import extent_in_view
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

ABOVE = Camera(tip=90)
GHOST = 0.45


class GroundView(Painted):
    """Two pictures and a verdict. Up and down change the wished steadiness."""

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("How it stands"))
        self.studio, self.darkroom = studio, darkroom
        self._prints: dict[str, RenderResult] = {}
        self._gesture = studio.new_gesture()
        self._settle = one_shot_timer(self, 150)
        self._settle.timeout.connect(self._wish_pictures)
        self.setMinimumSize(300, 240)
        darkroom.developed.connect(self._developed)
        studio.plan_changed.connect(self._plan_changed)
        studio.figure_changed.connect(self._prints.clear)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self.update)

    # What is shown

    def _current_balance(self) -> Balance | None:
        return self.studio.plan.balance if self.studio.plan else None

    @property
    def hangs(self) -> bool:
        """Whether the figure hangs rather than stands."""
        return self.studio.figure is not None and self.studio.figure.stance == "hanging"

    def leaning_camera(self) -> Camera:
        """Return the camera from which the figure tips to the right."""
        balance = self._current_balance()
        if balance is None or self.hangs or len(balance.edge_mm) < 2:
            return Camera(turn=90)
        (ax, ay), (bx, by) = balance.edge_mm
        # The contacts run counter-clockwise: outwards is to the right of the edge.
        return Camera(turn=round(math.degrees(math.atan2(ax - bx, by - ay)), 3) % 360)

    def _side_towards(self, balance: Balance) -> str:
        return self.studio.say(kind("side", balance.towards))

    def describe(self) -> str:
        """Return the verdict as a sentence."""
        balance, units = self._current_balance(), self.studio.units
        if balance is None:
            return ""
        if self.hangs:
            if balance.loop_mm is None:
                return tr("It hangs, but there is no skin right above its weight to fix a loop to.")
            at = show_length(balance.loop_mm[2], units)
            return tr(
                "Sew the loop {at} above its lowest point, right over its weight: it then hangs "
                "nodding {hang_tilt:.0f}° forwards.",
                at=at,
                hang_tilt=self.studio.brief.hang_tilt,
            )
        if not balance.stands:
            return tr(
                "It falls over its {towards}: its weight lies outside its feet.",
                towards=self._side_towards(balance),
            )
        told = self.studio.say(Fact(f"it-{standing_phrase(True, balance.tip_angle_deg).kind}"))
        lean = tr(
            "it tips over its {towards} once it leans by {tip_angle:.0f}°",
            towards=self._side_towards(balance),
            tip_angle=balance.tip_angle_deg,
        )
        if balance.tip_angle_deg < self.studio.brief.steady:
            return tr(
                "{told}: {lean}; you asked for {steady:.0f}°.",
                told=told,
                lean=lean,
                steady=self.studio.brief.steady,
            )
        return f"{told}: {lean}."

    # Pictures

    def _plan_changed(self) -> None:
        if self.isVisible():
            self.show_changed()
            self._settle.start()

    def showEvent(self, event: object) -> None:
        self._settle.start()
        self.show_changed()

    def resizeEvent(self, event: object) -> None:
        self._settle.start()

    def _picture_boxes(self) -> tuple[QRectF, QRectF]:
        """Return the places of the picture from above and the leaning one."""
        px = self.theme.px
        top, bottom = px(66), self.height() - px(34 + 26 * max(1, len(self._balance_lines())))
        high = max(px(90), bottom - top)
        half = self.width() / 2
        return QRectF(px(14), top, half - px(24), high), QRectF(
            half + px(10), top, half - px(24), high
        )

    def _scale_for(self, plan: Plan, camera: Camera, box: QRectF) -> float:
        left, right, top = extent_in_view(plan.solids.placement, camera)
        margin = 1.25 if camera != ABOVE else 1.12
        return float(min(box.width() / ((right - left) * margin), box.height() / (top * margin)))

    def _wish_pictures(self) -> None:
        plan = self.studio.plan
        if plan is None or not self.isVisible() or self.height() < 120:
            return
        for name, camera, box in zip(
            ("ground", "lean"), (ABOVE, self.leaning_camera()), self._picture_boxes(), strict=True
        ):
            step = 1 / (self._scale_for(plan, camera, box) * self.devicePixelRatioF())
            self.darkroom.request(name, RenderRequest(plan.solids.placement, camera, step, 1))

    def _developed(self, name: str, made: RenderResult) -> None:
        if name in ("ground", "lean"):
            self._prints[name] = made
            self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan, balance = self.studio.plan, self._current_balance()
        if plan is None or balance is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        d, px = self.theme.dyes, self.theme.px
        painter.setFont(self.theme.title(20))
        safe = self.hangs or (balance.stands and balance.tip_angle_deg >= WARN_DEG)
        painter.setPen(d.ink if safe else d.madder)
        words = QRectF(px(16), px(9), self.width() - px(32), px(58))
        painter.drawText(words, Qt.TextFlag.TextWordWrap, self.describe())
        above, aside = self._picture_boxes()
        self._paint_above(painter, plan, balance, above)
        if self.hangs:
            self._paint_hanging(painter, plan, balance, aside)
        else:
            self._paint_leaning(painter, plan, balance, aside)
        self._paint_lines(painter, balance)
        if self.hasFocus():
            painter.setPen(QPen(d.edge, px(1.6)))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(2, 2, -2, -2), px(12), px(12))

    def _paint_picture(
        self, painter: QPainter, name: str, origin: QPointF, scale: float, plan: Plan
    ) -> None:
        made = self._prints.get(name)
        camera = ABOVE if name == "ground" else self.leaning_camera()
        if made is None or made.shot.camera != camera:
            return
        grown = plan.solids.placement.height / made.shot.placement.height * scale
        picture = made.picture
        rows, columns = picture.owner.shape
        box = QRectF(
            origin.x() + picture.left * grown,
            origin.y() - picture.top * grown,
            columns * picture.step * grown,
            rows * picture.step * grown,
        )
        painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))

    def _paint_above(self, painter: QPainter, plan: Plan, balance: Balance, box: QRectF) -> None:
        """Paint the contacts, their hull, the plumb point and the nearest edge."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        left, right, _ = extent_in_view(plan.solids.placement, ABOVE)
        scale = self._scale_for(plan, ABOVE, box)
        down, up = _view_depths(plan)
        origin = QPointF(
            box.center().x() - (left + right) / 2 * scale,
            box.center().y() + (down + up) / 2 * scale,
        )
        painter.setOpacity(GHOST)
        self._paint_picture(painter, "ground", origin, scale, plan)
        painter.setOpacity(1.0)

        def seen(x: float, y: float) -> QPointF:
            return QPointF(origin.x() + x * scale, origin.y() - y * scale)

        plumb = seen(*balance.centre_mm[:2])
        if balance.contact_mm and not self.hangs:
            fill = QColor(d.weld)
            fill.setAlpha(70)
            painter.setBrush(fill)
            painter.setPen(QPen(d.weld, px(2)))
            painter.drawPolygon(QPolygonF([seen(x, y) for x, y in balance.contact_mm]))
            self._paint_remedies(painter, balance, seen, scale)
        if len(balance.edge_mm) == 2 and not self.hangs:
            (ax, ay), (bx, by) = balance.edge_mm
            foot = _nearest_on_segment(
                np.array(balance.centre_mm[:2]), np.array([ax, ay]), np.array([bx, by])
            )
            end = seen(float(foot[0]), float(foot[1]))
            painter.setPen(QPen(d.madder, px(3)))
            painter.drawLine(seen(ax, ay), seen(bx, by))
            painter.setPen(QPen(d.madder, px(1.6), Qt.PenStyle.DashLine))
            painter.drawLine(plumb, end)
            far = math.dist(balance.centre_mm[:2], (float(foot[0]), float(foot[1])))
            short = math.hypot(end.x() - plumb.x(), end.y() - plumb.y()) < px(40)
            aside = QPointF(px(58), 0) if short else QPointF()
            paint_label(painter, self.theme, (plumb + end) / 2 + aside, show_length(far, units))
        painter.setPen(QPen(d.ink, px(2)))
        painter.setBrush(d.slip)
        painter.drawEllipse(plumb, px(6), px(6))
        painter.drawLine(plumb - QPointF(px(11), 0), plumb + QPointF(px(11), 0))
        painter.drawLine(plumb - QPointF(0, px(11)), plumb + QPointF(0, px(11)))
        paint_caption(
            painter, self.theme, box, tr("from above, with the face at the bottom of the page")
        )

    def _paint_remedies(
        self, painter: QPainter, balance: Balance, seen: object, scale: float
    ) -> None:
        """Paint a third contact as a ring, a stand as a circle."""
        d, px = self.theme.dyes, self.theme.px
        assert callable(seen)
        for remedy in balance.remedies:
            if remedy.at_mm is None:
                continue
            at = seen(*remedy.at_mm)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if remedy.kind == "contact":
                painter.setPen(QPen(d.woad, px(2.4)))
                painter.drawEllipse(at, px(7), px(7))
            elif remedy.kind == "stand":
                painter.setPen(QPen(d.quiet, px(1.4), Qt.PenStyle.DotLine))
                radius = remedy.value / 2 * scale
                painter.drawEllipse(at, radius, radius)

    def _paint_leaning(self, painter: QPainter, plan: Plan, balance: Balance, box: QRectF) -> None:
        """Paint the figure leaning about its tipping edge until its centre is over that edge."""
        d, px = self.theme.dyes, self.theme.px
        camera = self.leaning_camera()
        right_way, _, _ = camera.axes()
        left, right, _ = extent_in_view(plan.solids.placement, camera)
        scale = self._scale_for(plan, camera, box)
        ground_y = box.bottom() - px(14)
        origin = QPointF(
            box.center().x() - (left + right) / 2 * scale,
            ground_y + plan.solids.placement.ground * scale,
        )
        painter.setPen(QPen(d.weld, px(1.6)))
        painter.drawLine(QPointF(box.left(), ground_y), QPointF(box.right(), ground_y))
        if not balance.edge_mm:
            return
        edge = float(right_way[:2] @ np.array(balance.edge_mm[0]))
        pivot = QPointF(origin.x() + edge * scale, ground_y)
        centre = QPointF(
            origin.x() + float(right_way[:2] @ np.array(balance.centre_mm[:2])) * scale,
            ground_y - balance.centre_mm[2] * scale,
        )
        lean = max(0.0, balance.tip_angle_deg)
        painter.save()
        painter.setOpacity(GHOST * 0.6)
        self._paint_picture(painter, "lean", origin, scale, plan)
        painter.setOpacity(1.0)
        painter.translate(pivot)
        painter.rotate(lean)
        painter.translate(-pivot)
        self._paint_picture(painter, "lean", origin, scale, plan)
        painter.setPen(QPen(d.ink, px(2)))
        painter.setBrush(d.slip)
        painter.drawEllipse(centre, px(6), px(6))
        painter.restore()
        painter.setPen(QPen(d.madder, px(2), Qt.PenStyle.DashLine))
        reach = math.hypot(centre.x() - pivot.x(), centre.y() - pivot.y())
        painter.drawLine(pivot, QPointF(pivot.x(), pivot.y() - reach * 1.25))
        painter.setPen(QPen(d.quiet, px(1.6)))
        painter.drawLine(pivot, centre)
        top = QPointF(pivot.x(), pivot.y() - reach * 1.3)
        paint_label(painter, self.theme, top, f"{balance.tip_angle_deg:.0f}°")
        told = tr(
            "leaning {lean:.0f}°, about to tip over its {towards}",
            lean=lean,
            towards=self._side_towards(balance),
        )
        paint_caption(painter, self.theme, box, told)

    def _paint_hanging(self, painter: QPainter, plan: Plan, balance: Balance, box: QRectF) -> None:
        """Paint the figure hanging by its loop, nodding as wished, with the plumb line through its centre."""
        d, px = self.theme.dyes, self.theme.px
        camera = self.leaning_camera()
        right_way, _, _ = camera.axes()
        _, _, top = extent_in_view(plan.solids.placement, camera)
        scale = self._scale_for(plan, camera, box) * 0.9
        middle = QPointF(box.center().x(), box.top() + top * scale * 0.62)
        x, high = float(right_way[:2] @ np.array(balance.centre_mm[:2])), balance.centre_mm[2]
        origin = QPointF(
            middle.x() - x * scale, middle.y() + (high + plan.solids.placement.ground) * scale
        )
        painter.save()
        painter.translate(middle)
        # Seen from its left the figure faces left: nodding forwards turns it against the clock.
        painter.rotate(-self.studio.brief.hang_tilt)
        painter.translate(-middle)
        self._paint_picture(painter, "lean", origin, scale, plan)
        painter.restore()
        reach = (math.dist(balance.loop_mm, balance.centre_mm) if balance.loop_mm else high) * scale
        painter.setPen(QPen(d.madder, px(2), Qt.PenStyle.DashLine))
        painter.drawLine(middle, QPointF(middle.x(), middle.y() - reach - px(26)))
        painter.setPen(QPen(d.ink, px(2)))
        painter.setBrush(d.slip)
        painter.drawEllipse(middle, px(6), px(6))
        painter.drawEllipse(QPointF(middle.x(), middle.y() - reach), px(5), px(5))
        paint_caption(painter, self.theme, box, tr("as it hangs, from its left"))

    def _balance_lines(self) -> list[str]:
        balance = self._current_balance()
        if balance is None:
            return []
        found = [self.studio.say(remedy_fact(r)) for r in balance.remedies]
        return found or [tr("Nothing to do.")]

    def _paint_lines(self, painter: QPainter, balance: Balance) -> None:
        """Paint the remedies as text, each with its mark in the picture."""
        d, px = self.theme.dyes, self.theme.px
        lines = self._balance_lines()
        y = self.height() - px(8 + 26 * len(lines))
        marks: list[Remedy | None] = [*balance.remedies] or [None]
        painter.setFont(self.theme.text(15))
        for told, remedy in zip(lines, marks, strict=True):
            mark = QPointF(px(28), y + px(12))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if remedy is not None and remedy.kind == "contact":
                painter.setPen(QPen(d.woad, px(2.4)))
                painter.drawEllipse(mark, px(6), px(6))
            elif remedy is not None and remedy.kind == "stand":
                painter.setPen(QPen(d.quiet, px(1.4), Qt.PenStyle.DotLine))
                painter.drawEllipse(mark, px(7), px(7))
            else:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(d.weld if remedy else d.lichen)
                painter.drawEllipse(mark, px(4), px(4))
            painter.setPen(d.ink)
            painter.drawText(
                QRectF(px(44), y, self.width() - px(56), px(24)),
                Qt.AlignmentFlag.AlignVCenter,
                told,
            )
            y += px(26)

    # Hands

    def wish_by(self, degrees: float) -> None:
        """Ask for a larger or smaller tipping angle (hanging figures: a larger or smaller nod)."""
        brief = self.studio.brief
        if self.hangs:
            tilt = max(-90.0, min(90.0, brief.hang_tilt + degrees))
            self.studio.change_wish(tr("Tilt what hangs"), self._gesture, hang_tilt=tilt)
        else:
            steady = max(0.0, min(45.0, brief.steady + degrees))
            self.studio.change_wish(tr("Make it steadier"), self._gesture, steady=steady)

    def wish_words(self) -> str:
        """Return the wished angle as text for between the buttons."""
        brief = self.studio.brief
        return (
            tr("nods {hang_tilt:.0f}°", hang_tilt=brief.hang_tilt)
            if self.hangs
            else tr("steady to {steady:.0f}°", steady=brief.steady)
        )

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.wish_by(step)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self.wish_by(1.0 if event.angleDelta().y() > 0 else -1.0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._gesture = self.studio.new_gesture()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        self._gesture = self.studio.new_gesture()


def _view_depths(plan: Plan) -> tuple[float, float]:
    """Return the figure's reach towards the viewer and away, mm."""
    ways = np.array([[0.0, -1.0, 0.0], [0.0, 1.0, 0.0]])
    near, far = np.max([copy.reaches(ways) for copy in plan.solids.placement.copies], axis=0)
    return -float(near), float(far)


def _nearest_on_segment(point: np.ndarray, a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """Return the point on the segment a to b nearest to a point."""
    along = b - a
    share = float(np.clip((point - a) @ along / max(float(along @ along), 1e-12), 0, 1))
    found: np.ndarray = a + along * share
    return found

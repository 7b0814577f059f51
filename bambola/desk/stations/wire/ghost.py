"""The skeleton inside the ghost of the new figure, and the walk of each wire over it."""

from __future__ import annotations

import math
import time
from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF

from bambola.core.armature import CutWire
from bambola.core.armature.cuts import by_hand
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import base_of, extent_in_view
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wire.lines import (
    clear_of,
    distance,
    perpendicular_offset,
    wire_colours,
    wire_offsets,
)
from bambola.desk.stations.wire.walk import Walk, node_words
from bambola.language import tr

GHOST = 0.34
"""How much of the figure is seen through which its wire shows."""
POSE_DEG = 5.0
SLIDE = 0.02
"""A press of a key bends a limb by so many degrees, or moves a joint by this share of its part."""
_BURST_S = 0.9


class GhostView(Painted):
    """Click a bone, walk a wire with the arrow keys, bend a limb; the numbers are at the nodes."""

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, walk: Walk
    ) -> None:
        super().__init__(theme, tr("Skeleton and wires"))
        self.studio, self.darkroom, self.walk = studio, darkroom, walk
        self.camera = Camera(turn=0)
        self._print: RenderResult | None = None
        self._pressed: QPointF | None = None
        self._bending = False
        self._gesture, self._last_key = studio.new_gesture(), 0.0
        self._settle = one_shot_timer(self, 140)
        self._settle.timeout.connect(self._request_picture)
        self.setMouseTracking(True)
        self.setMinimumSize(280, 220)
        darkroom.developed.connect(self._developed)
        studio.plan_changed.connect(self._plan_changed)
        studio.units_changed.connect(self.update)
        self._reach: tuple[Placement, Camera, tuple[float, float, float], float] | None = None
        studio.figure_changed.connect(self._forget_picture)
        walk.changed.connect(self._update_description)
        theme.changed.connect(self._plan_changed)

    # Geometry

    def turn_to(self, camera: Camera) -> None:
        """Look from another side."""
        self.camera = camera
        self._print = None
        self._plan_changed()

    def _current_plan(self) -> Plan | None:
        return self.studio.plan

    def _scale_and_origin(self, placement: Placement) -> tuple[float, QPointF]:
        """Return pixels a mm, and the place of the figure's origin."""
        known = self._reach
        if known is None or known[0] is not placement or known[1] != self.camera:
            # It is asked for once for every point of every wire.
            seen = extent_in_view(placement, self.camera), base_of(placement, self.camera)
            known = self._reach = (placement, self.camera, *seen)
        (left, right, top), base = known[2:]
        px = self.theme.px
        room = QRectF(self.rect()).adjusted(px(50), px(70), -px(50), -px(26))
        wide, high = max(right - left, 1e-6), max(top, 1e-6)
        scale = max(1e-6, min(room.width() / wide, room.height() / high))
        x = room.center().x() - (left + right) / 2 * scale
        return scale, QPointF(x, room.bottom() + base * scale)

    def place_of(self, point: Sequence[float] | np.ndarray) -> QPointF:
        """Return the place of a point of the figure (mm) on the screen."""
        plan = self._current_plan()
        assert plan is not None
        scale, origin = self._scale_and_origin(plan.solids.placement)
        right, up, _ = self.camera.axes()
        at = np.asarray(point)
        return origin + QPointF(float(right @ at) * scale, -float(up @ at) * scale)

    # Pictures

    def _forget_picture(self) -> None:
        self._print = None

    def _plan_changed(self) -> None:
        if self.isVisible():
            self._settle.start()
            self._update_description()

    def showEvent(self, event: object) -> None:
        self._settle.start()
        self._update_description()

    def resizeEvent(self, event: object) -> None:
        self._settle.start()

    def _request_picture(self) -> None:
        plan = self._current_plan()
        if plan is None or not self.isVisible() or self.height() < 80:
            return
        placement = plan.solids.placement
        scale, _ = self._scale_and_origin(placement)
        step = 1 / (scale * self.devicePixelRatioF())
        self.darkroom.request("ghost", RenderRequest(placement, self.camera, step, 1))

    def _developed(self, name: str, made: RenderResult) -> None:
        if name == "ghost" and made.shot.camera == self.camera:
            self._print = made
            self.update()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self._current_plan()
        if plan is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        self._paint_ghost(painter, plan)
        if not plan.resized.figure.bones:
            self._paint_teaching(painter)
            return
        self._paint_bare_bones(painter, plan)
        wires, here = self.walk.wires, self.walk.wire
        colours = wire_colours(self.theme)
        beside = wire_offsets(wires)
        for i, wire in enumerate(wires):
            if wire is not here:
                self._paint_wire(painter, wire, colours[i % len(colours)], beside, False)
        for peg in plan.wires:
            if peg.id not in plan.gauges:
                self._paint_peg(painter, peg)
        if here is not None:
            colour = colours[wires.index(here) % len(colours)]
            self._paint_wire(painter, here, colour, beside, True)
            self._paint_numbers(painter, here, colour)
            self._paint_telling(painter, here, colour)
        if self.hasFocus():
            painter.setPen(QPen(self.theme.dyes.edge, self.theme.px(1.6)))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(2, 2, -2, -2), 12, 12)

    def _paint_ghost(self, painter: QPainter, plan: Plan) -> None:
        made, placement = self._print, plan.solids.placement
        scale, origin = self._scale_and_origin(placement)
        if made is not None:
            grown = placement.height / made.shot.placement.height * scale
            picture = made.picture
            rows, columns = picture.owner.shape
            box = QRectF(
                origin.x() + picture.left * grown,
                origin.y() - picture.top * grown,
                columns * picture.step * grown,
                rows * picture.step * grown,
            )
            painter.setOpacity(GHOST)
            painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))
            painter.setOpacity(1.0)
        painter.setPen(QPen(self.theme.dyes.weld, self.theme.px(1.4)))
        if self.camera.tip < 60:
            y = origin.y() - base_of(placement, self.camera) * scale
            painter.drawLine(
                QPointF(self.theme.px(30), y), QPointF(self.width() - self.theme.px(30), y)
            )

    def _paint_teaching(self, painter: QPainter) -> None:
        painter.setFont(self.theme.text(16))
        painter.setPen(self.theme.dyes.ink)
        box = QRectF(self.rect()).adjusted(
            self.theme.px(40), self.theme.px(16), -self.theme.px(40), 0
        )
        painter.drawText(
            box,
            Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
            tr(
                "This figure has no bones. Draw them at Measure, step Wire: click along a limb "
                "from end to end."
            ),
        )

    def _paint_bare_bones(self, painter: QPainter, plan: Plan) -> None:
        """Paint the bones without wire."""
        painter.setPen(QPen(self.theme.dyes.quiet, self.theme.px(2), Qt.PenStyle.DotLine))
        nodes = plan.solids.placement.nodes
        for bone in plan.bones:
            if not bone.strands:
                painter.drawLine(self.place_of(nodes[bone.a]), self.place_of(nodes[bone.b]))

    def _paint_wire(
        self,
        painter: QPainter,
        wire: CutWire,
        colour: QColor,
        beside: dict[tuple[str, int], float],
        here: bool,
    ) -> None:
        px = self.theme.px
        runs = [s for s in wire.stretches if s.kind == "run"]
        for i, run in enumerate(runs):
            a, b = self.place_of(wire.points_mm[i]), self.place_of(wire.points_mm[i + 1])
            shift = perpendicular_offset(a, b, beside[(wire.id, i)] * px(5), run.a > run.b)
            a, b = a + shift, b + shift
            in_hand = here and i == self.walk.step
            if in_hand:
                painter.setPen(QPen(self.theme.dyes.slip, px(12), cap=Qt.PenCapStyle.RoundCap))
                painter.drawLine(a, b)
            line = QPen(colour, px(4.5) if here else px(2.6), cap=Qt.PenCapStyle.RoundCap)
            if not here:
                faint = QColor(colour)
                faint.setAlpha(150)
                line.setColor(faint)
            painter.setPen(line)
            painter.drawLine(a, b)
            if in_hand:
                self._paint_arrow(painter, a, b)
        for s in wire.stretches:
            if s.kind == "loop":
                end = next((i for i, run in enumerate(runs) if s.a in (run.a, run.b)), 0)
                at = self.place_of(wire.points_mm[end if runs[end].a == s.a else end + 1])
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(colour, px(2)))
                painter.drawEllipse(at + QPointF(0, px(7)), px(9), px(5))

    def _paint_peg(self, painter: QPainter, peg: CutWire) -> None:
        painter.setPen(QPen(self.theme.dyes.ink, self.theme.px(4), cap=Qt.PenCapStyle.RoundCap))
        painter.drawLine(self.place_of(peg.points_mm[0]), self.place_of(peg.points_mm[-1]))

    def _paint_arrow(self, painter: QPainter, a: QPointF, b: QPointF) -> None:
        length = math.hypot(b.x() - a.x(), b.y() - a.y())
        if length < 8:
            return
        way = (b - a) / length
        across, tip, px = (
            QPointF(-way.y(), way.x()),
            (a + b) / 2 + way * self.theme.px(7),
            self.theme.px,
        )
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.dyes.ink)
        back = tip - way * px(12)
        painter.drawPolygon(QPolygonF([tip, back + across * px(6), back - across * px(6)]))

    def _paint_numbers(self, painter: QPainter, wire: CutWire, colour: QColor) -> None:
        """Paint the stops of the walk at their nodes; a node passed twice has both numbers."""
        px, d = self.theme.px, self.theme.dyes
        stops: dict[tuple[int, int], list[int]] = {}
        for n, point in enumerate(wire.points_mm, 1):
            at = self.place_of(point)
            stops.setdefault((round(at.x() / 4), round(at.y() / 4)), []).append(n)
        painter.setFont(self.theme.text(13, bold=True))
        taken: list[QRectF] = []
        for numbers in stops.values():
            at = self.place_of(wire.points_mm[numbers[0] - 1])
            told = (
                "·".join(map(str, numbers)) if len(numbers) < 4 else f"{numbers[0]}…{numbers[-1]}"
            )
            wide = max(px(20), painter.fontMetrics().horizontalAdvance(told) + px(10))
            box = clear_of(taken, QRectF(at.x() - wide / 2, at.y() - px(10), wide, px(20)), px(3))
            taken.append(box)
            painter.setPen(QPen(colour, px(1.4)))
            painter.drawLine(at, box.center())
            here = self.walk.step + 1 in numbers or self.walk.step + 2 in numbers
            painter.setPen(QPen(colour, px(2)))
            painter.setBrush(d.slip if here else d.paper)
            painter.drawRoundedRect(box, px(10), px(10))
            painter.setPen(d.ink)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, told)

    def _paint_telling(self, painter: QPainter, wire: CutWire, colour: QColor) -> None:
        d, px, left = self.theme.dyes, self.theme.px, Qt.AlignmentFlag.AlignLeft
        painter.setFont(self.theme.title(20))
        painter.setPen(d.ink)
        box = QRectF(px(16), px(8), self.width() - px(32), px(28))
        painter.drawText(box, left | Qt.AlignmentFlag.AlignVCenter, self.studio.say(wire.name))
        painter.setFont(self.theme.text(15))
        painter.setPen(d.quiet)
        under = QRectF(box.left(), box.bottom(), box.width(), px(40))
        painter.drawText(under, left | Qt.TextFlag.TextWordWrap, self.describe())

    def describe(self) -> str:
        """Return the current step of the walk as text."""
        wire, run, units = self.walk.wire, self.walk.run, self.studio.units
        if wire is None or run is None:
            return ""
        bend = next((b for b in wire.bends if math.isclose(b.at_mm, run.end_mm)), None)
        told = tr(
            "Step {step} of {n}: from {start} to {end}, {length}",
            step=self.walk.step + 1,
            n=len(self.walk.runs),
            start=node_words(run.a),
            end=node_words(run.b),
            length=show_length(run.mm, units),
        )
        if run.strands > 1:
            told += tr(" ({strands} strands)", strands=run.strands)
        if bend is not None:
            then = next((self.studio.say(b.as_fact) for b in by_hand((bend,))), "")
            return tr("{told}; then {bend}", told=told, bend=then) if then else told
        return told

    def _update_description(self) -> None:
        if not self.isVisible():
            return
        self.show_changed()

    # Hands

    def _run_at(self, at: QPointF) -> tuple[str, int] | None:
        """Return the wire and run nearest to a place, the selected wire first if several coincide."""
        best: tuple[float, str, int] | None = None
        for wire in self.walk.wires:
            for i in range(len(wire.points_mm) - 1):
                a, b = self.place_of(wire.points_mm[i]), self.place_of(wire.points_mm[i + 1])
                away = distance(at, a, b) - (1.0 if wire is self.walk.wire else 0.0)
                if away < self.theme.px(14) and (best is None or away < best[0]):
                    best = (away, wire.id, i)
        return best[1:] if best else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        hit = self._run_at(event.position())
        if hit is not None:
            self._bending = False
            self._pressed = event.position()
            self._gesture = self.studio.new_gesture()
            self.walk.select_wire(*hit)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._pressed is None:
            over = self._run_at(event.position()) is not None
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor
            )
            return
        moved = event.position() - self._pressed
        if self._bending or math.hypot(moved.x(), moved.y()) > self.theme.px(8):
            self._bending = True
            self._bend_to(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pressed, self._bending = None, False

    def _bend_to(self, at: QPointF) -> None:
        """Bend the limb so that the selected bone points at the pointer."""
        bone, plan = self.walk.bone, self._current_plan()
        if bone is None or plan is None or self._pressed is None:
            return
        pivot = self.place_of(plan.solids.placement.nodes[bone.a])
        was, now = self._pressed - pivot, at - pivot
        turn = math.degrees(math.atan2(was.y(), was.x()) - math.atan2(now.y(), now.x()))
        turn = (turn + 180) % 360 - 180
        if abs(turn) >= 1.0:
            self._pressed = at
            self._turn_limb(turn, self._gesture)

    def _turn_limb(self, degrees: float, gesture: int) -> None:
        toward = self.camera.axes()[2]
        x, y, z = (float(v) for v in toward)
        self.walk.pose(degrees, (x, y, z), gesture)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, text = Qt.Key(event.key()), event.text()
        shifted = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and shifted:
            now = time.monotonic()
            if now - self._last_key > _BURST_S:
                self._gesture = self.studio.new_gesture()
            self._last_key = now
            self._turn_limb(POSE_DEG if key == Qt.Key.Key_Left else -POSE_DEG, self._gesture)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.walk.walk(1 if key == Qt.Key.Key_Right else -1)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.walk.next_wire(1 if key == Qt.Key.Key_Down else -1)
        elif text in ("+", "-"):
            self.walk.ask_strands(1 if text == "+" else -1)
        elif text in ("[", "]"):
            self.walk.slide_node(SLIDE if text == "]" else -SLIDE)
        elif text in (">", "<", "."):
            self.walk.ask_gauge({">": 1, "<": -1, ".": 0}[text])
        else:
            super().keyPressEvent(event)

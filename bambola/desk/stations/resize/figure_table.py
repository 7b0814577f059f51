"""The table: a standing tape and the two figures, old and new, on one ground line."""

from __future__ import annotations

import time

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap, QResizeEvent

from bambola.core.figure.shapes import LEAST_MM
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.relief import Camera
from bambola.desk.kit.menu_action import presses_button
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.pictures import RenderQueue, RenderResult
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import at_most_every, one_shot_timer, start_unless_running
from bambola.desk.session.height_desk import HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.height_entry import HeightEntry
from bambola.desk.stations.resize.layout import NEW, OLD, TableLayout, lay_out
from bambola.desk.stations.resize.marks import MarkPainter, TurnMarks, first_past_turn
from bambola.desk.stations.resize.paint import TableScene, paint_scene
from bambola.desk.stations.resize.two_figures import TwoFigures
from bambola.language import tr

_SETTLE_MS = 150
_REDRAW_MS = 600
_BURST_S = 0.9


class FigureTable(Painted):
    """Drag the flag, type, or step by key; click a part; rotate the figures by dragging."""

    camera_changed = pyqtSignal()

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, heights: HeightDesk
    ) -> None:
        super().__init__(theme, tr("Figures and measuring tape"))
        self.studio, self.darkroom, self.heights = studio, darkroom, heights
        self.camera = Camera()
        self.layout_: TableLayout | None = None
        self.figures = TwoFigures(studio, darkroom)
        self._drag: str | None = None
        self._press, self._press_turn, self._grab = QPointF(), 0.0, 0.0
        self._gesture, self._last_key = studio.new_gesture(), 0.0
        self._hover: str | None = None
        self.turns = TurnMarks(studio, heights, theme)
        self._marks = MarkPainter(theme)
        self._settle = one_shot_timer(self, _SETTLE_MS)
        self._settle.timeout.connect(self._on_settled)
        self._redraw = at_most_every(
            self, _REDRAW_MS, lambda: self._request_pictures(fine=False, only=NEW)
        )
        self._entry = HeightEntry(self)
        self._entry.given_up.connect(self._close_entry)
        self._entry.returnPressed.connect(self._accept_typed)
        self._entry.editingFinished.connect(self._leave_entry)
        self.setMouseTracking(True)
        self.setMinimumSize(360, 260)
        studio.figure_changed.connect(self._new_figure)
        studio.plan_changed.connect(self._plan_changed)
        studio.height_pulled.connect(self._on_dragged)
        studio.file_changed.connect(lambda: self.figures.keep_for_next_time(OLD, NEW))
        studio.selection.part_changed.connect(self.update)
        studio.units_changed.connect(self.update)
        theme.changed.connect(self._restyle)
        darkroom.developed.connect(self._developed)
        heights.changed.connect(self._heights_changed)

    # Looking

    def turn_to(self, camera: Camera) -> None:
        """Rotate both figures to ``camera``."""
        if camera != self.camera:
            self.camera = camera
            self._lay_out()
            self._request_pictures(fine=False)
            self._settle.start()
            self.update()
            self.camera_changed.emit()

    @property
    def is_pictured(self) -> bool:
        """Whether both figures are rendered."""
        return self.figures.are_pictured

    @property
    def picture(self) -> QPixmap | None:
        """The new figure's picture, once rendered."""
        made = self.figures.prints.get(NEW)
        return made.pixmap if made else None

    def turn_by(self, degrees: float) -> None:
        """Rotate both figures about their vertical axis."""
        self.turn_to(
            Camera(
                (self.camera.turn + degrees) % 360, 0.0 if self.camera.tip > 60 else self.camera.tip
            )
        )

    def _new_figure(self) -> None:
        self.figures.forget()
        self.layout_ = None
        self.camera = Camera()
        self.camera_changed.emit()

    def _plan_changed(self) -> None:
        self.turns.another_height()
        self._lay_out()
        if not self.figures.prints and self.isVisible():
            self._request_pictures(fine=False)
        plan = self.studio.plan
        if plan is not None and not plan.resized.even:
            # What does not just grow cannot be stretched for long.
            start_unless_running(self._redraw)
        self._settle.start()
        self.update()

    def _on_dragged(self) -> None:
        self._lay_out()
        self.update()

    def _on_settled(self) -> None:
        self.setAccessibleDescription(self._describe_table())
        self._request_pictures(fine=True)

    def _restyle(self) -> None:
        self.figures.forget_marks()
        self._lay_out()
        self._settle.start()
        self.update()

    def _describe_table(self) -> str:
        plan, units = self.studio.plan, self.studio.units
        if plan is None:
            return ""
        told = tr(
            "{figure}, made at {from_height}, wanted at {height}, {datum}",
            figure=plan.figure,
            from_height=show_length(plan.from_height_mm, units),
            height=show_length(plan.to_height_mm, units),
            datum=self.studio.say(plan.datum),
        )
        mark = self.turns.marked.pointed
        return f"{told}. {mark.describe(self.studio.words)}" if mark else told

    def _request_pictures(self, fine: bool, only: str | None = None) -> None:
        if self.layout_ is not None:
            pixel = 1 / (self.layout_.mm_px * self.devicePixelRatioF())
            self.figures.request_pictures(self.camera, pixel, fine, only)

    def _developed(self, name: str, made: RenderResult) -> None:
        if self.figures.keep_picture(name, made):
            self.update()

    # Laying out and painting

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._lay_out()
        self._settle.start()

    def showEvent(self, event: object) -> None:
        self._lay_out()
        if not self.figures.prints:
            self._request_pictures(fine=False)
            self._settle.start()

    def _lay_out(self) -> None:
        if self.studio.plan is None:
            return
        # While the flag is pulled the scale stays, so that it keeps under the hand.
        least = self.layout_.range_mm if self.layout_ and self._drag == "flag" else 0.0
        size = (self.width(), self.height())
        self.layout_ = lay_out(
            self.theme,
            size,
            self.camera,
            self.figures.heights(),
            self.figures.extents(self.camera),
            least,
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.studio.plan is None or self.layout_ is None:
            return
        painter = QPainter(self)
        hints = QPainter.RenderHint
        painter.setRenderHints(hints.Antialiasing | hints.SmoothPixmapTransform)
        figures, studio, ratio = self.figures, self.studio, self.devicePixelRatioF()
        pointed = (
            (self._hover, self.theme.dyes.woad),
            (studio.selection.part, self.theme.dyes.madder),
        )
        scene = TableScene(
            self.theme,
            studio.units,
            self.studio.plan,
            self.layout_,
            figures.placements(),
            figures.heights(),
            figures.prints,
            figures.marked(pointed, ratio * self.theme.scale),
            studio.selection.part,
            self.hasFocus(),
            self._drag == "flag",
            ratio,
            QRectF(self.rect()),
            figures.lines(self.camera, self.layout_.spots[NEW].right),
            self.turns.marked,
            self._marks,
        )
        paint_scene(painter, scene)

    # What turns at other heights

    def _heights_changed(self) -> None:
        self.turns.update_marks()
        self.update()

    def go_to_turn(self, up: bool) -> None:
        """Move the flag just past the next turn that needs a decision, and say what it is."""
        if self.studio.plan is None:
            return
        if self.heights.swept is None:
            self.heights.sweep()
            return
        mark = self.turns.next(up)
        if mark is None:
            return
        self._gesture = self.studio.new_gesture()
        if self.studio.set_height(
            first_past_turn(mark.mm, up, self.studio.units.grain_mm), self._gesture
        ):
            self.turns.point(mark)
            self.setAccessibleDescription(self._describe_table())
            self.update()

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        flag = self._own_flag()
        if event.button() != Qt.MouseButton.LeftButton or flag is None or self.layout_ is None:
            return
        at = event.position()
        self._press, self._press_turn = at, self.camera.turn
        if flag.adjusted(-8, -6, 8, 6).contains(at):
            self._drag, self._grab = "flag", at.y() - flag.center().y()
            self._gesture = self.studio.new_gesture()
        elif self.layout_.tape.adjusted(-6, -8, 6, 8).contains(at):
            self._drag, self._grab = "flag", 0.0
            self._gesture = self.studio.new_gesture()
            self._pull_to(at.y(), fine=False)
        else:
            self._drag = "maybe turn"

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        if self._drag == "flag":
            fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._pull_to(at.y() - self._grab, fine)
        elif self._drag in ("maybe turn", "turn"):
            if abs(at.x() - self._press.x()) > 6:
                self._drag = "turn"
            if self._drag == "turn":
                self.turn_to(
                    Camera((self._press_turn - (at.x() - self._press.x()) * 0.6) % 360, 0.0)
                )
        else:
            self._hover_at(at)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        was, self._drag = self._drag, None
        if was == "maybe turn":
            part = self._part_at(event.position())
            if part:
                self.studio.selection.select_part(part)
        elif was == "flag":
            self.studio.follow_hand()
            self._lay_out()
            self._settle.start()
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        flag = self._own_flag()
        if flag is not None and flag.contains(event.position()):
            self._drag = None
            self.type_height()

    def leaveEvent(self, event: object) -> None:
        self._hover = None
        self.turns.point(None)
        self.update()

    def _hover_at(self, at: QPointF) -> None:
        if self.layout_ is not None and self.turns.point_at(at, self.layout_):
            self.setToolTip(self.turns.describe())
            self.update()
        if self.turns.marked.pointed is not None and self.turns.marked.closer:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
            return
        plan, flag = self.studio.plan, self._own_flag()
        part = self._part_at(at)
        shapes = Qt.CursorShape
        on_tape = self.layout_ is not None and self.layout_.tape.contains(at)
        if on_tape or (flag is not None and flag.contains(at)):
            self.setCursor(shapes.SizeVerCursor)
        else:
            self.setCursor(shapes.PointingHandCursor if part else shapes.ArrowCursor)
        if part != self._hover:
            self._hover = part
            self.setToolTip(plan.part(part).name if plan and part else "")
            self.update()

    def _part_at(self, at: QPointF) -> str | None:
        return self.figures.part_at(at, self.layout_) if self.layout_ is not None else None

    def _pull_to(self, y: float, fine: bool) -> None:
        if self.layout_ is None:
            return
        mm = self.layout_.mm_at(y)
        grain = self.studio.units.grain_mm / (10 if fine else 1)
        mm = max(grain, round(mm / grain) * grain)
        self.studio.pull_height(mm, self._gesture)

    def _own_flag(self) -> QRectF | None:
        """Return the flag of the new height."""
        have = self.studio.plan is not None and self.layout_ is not None
        return self.layout_.flag(self.studio.height_mm) if have and self.layout_ else None

    def nudge(self, grains: float) -> None:
        """Move the flag by so many steps; one burst of keys is one step of undo."""
        plan = self.studio.plan
        if plan is None:
            return
        now = time.monotonic()
        if now - self._last_key > _BURST_S:
            self._gesture = self.studio.new_gesture()
        self._last_key = now
        mm = max(
            self.studio.units.grain_mm, self.studio.height_mm + grains * self.studio.units.grain_mm
        )
        if plan.resized.even:
            self.studio.set_height(mm, self._gesture)
        else:  # that takes longer than keys repeat
            self.studio.pull_height(mm, self._gesture)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        nudges = {
            Qt.Key.Key_Up: 1.0,
            Qt.Key.Key_Down: -1.0,
            Qt.Key.Key_PageUp: 10.0,
            Qt.Key.Key_PageDown: -10.0,
        }
        turns = {Qt.Key.Key_Left: -15.0, Qt.Key.Key_Right: 15.0}
        key, alt = Qt.Key(event.key()), Qt.KeyboardModifier.AltModifier
        if presses_button(event):
            return
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and event.modifiers() == alt:
            self.go_to_turn(key == Qt.Key.Key_Up)
        elif key in nudges and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            fine = 0.1 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.nudge(nudges[key] * fine)
        elif key in turns and not event.modifiers():
            self.turn_by(turns[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2):
            self.type_height()
        elif event.text().isdigit() and not event.modifiers():
            self.type_height(event.text())
        else:
            super().keyPressEvent(event)

    # Typing

    def type_height(self, start: str = "") -> None:
        """Open the flag for typing."""
        plan, box = self.studio.plan, self._own_flag()
        if plan is None or box is None:
            return
        set_role(self._entry, "amount")
        self._entry.setGeometry(
            round(box.left() + 10),
            round(box.top() - 2),
            round(box.width() + self.theme.px(26)),
            round(box.height() + 4),
        )
        self._entry.setText(start or show_length(plan.to_height_mm, self.studio.units))
        self._entry.show()
        self._entry.setFocus()
        if not start:
            self._entry.selectAll()

    def _accept_typed(self) -> None:
        try:
            mm = parse_length(self._entry.text(), self.studio.units.length)
            if not LEAST_MM <= mm <= 1_000_000:
                raise QuantityError(
                    tr(
                        "“{text}” is not a height that can be made; write one above zero.",
                        text=self._entry.text(),
                    )
                )
        except QuantityError as error:
            self.studio.refuse(error)
            return
        self._gesture = self.studio.new_gesture()
        if self.studio.set_height(mm, self._gesture):
            self._close_entry()

    def _leave_entry(self) -> None:
        if self._entry.isVisible() and not self._entry.hasFocus():
            self._close_entry()

    def _close_entry(self) -> None:
        self._entry.hide()
        self.setFocus()

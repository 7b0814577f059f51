"""The two heads side by side at one size, as made and as it will be, with a pin at every mark of the new
one."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from bambola.core.face import Face, Mark, faces_of
from bambola.core.face.marks import SAME_MM
from bambola.core.face.moving import with_mark_at
from bambola.core.figure import Figure
from bambola.core.figure.variants import Variant, altered
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.solids import Placement, own_copy, place
from bambola.core.solids.touch import skin_seat
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.face.shown_head import ShownHead, head_alone
from bambola.language import tr

OLD, NEW = "face-old", "face-new"
_ROOM = 0.86
"""Share of its half of the page that a head fills."""
_STEP, _LONG_STEP = 0.004, 0.02
"""Keys move a mark by such a share of the part."""
_NEAR = 22
_SLIP = 66
"""Height (px before scaling) of the foot of the page, where the number of the mark in hand stands."""


class HeadsView(Painted):
    """Pins are dragged, or moved by keys, with the number beside the pointer."""

    taken = pyqtSignal(str)
    camera_changed = pyqtSignal()
    together_wanted = pyqtSignal()
    piece_wanted = pyqtSignal()
    proposed_taken = pyqtSignal()
    piece_away = pyqtSignal()

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("The face, as made and as it will be"))
        self.studio, self.darkroom = studio, darkroom
        self.camera = Camera()
        self.part = ""
        self.mark = ""
        self._prints: dict[str, RenderResult] = {}
        self._alone: dict[str, tuple[Placement, str, Placement]] = {}
        self.beside = ""
        self._other: tuple[Figure, Variant, Placement] | None = None
        self._pulled = False
        self._gesture = 0
        self.setMouseTracking(True)
        self.setMinimumSize(330, 210)
        darkroom.developed.connect(self._developed)
        self._soon = at_most_every(self, 0, self.refresh)

    # What is shown

    @property
    def face(self) -> Face | None:
        """The current face as planned."""
        plan = self.studio.plan
        faces = plan.faces if plan else ()
        return next((f for f in faces if f.part == self.part), faces[0] if faces else None)

    @property
    def marks(self) -> tuple[Mark, ...]:
        """Its marks, one for each place."""
        return self.face.named_marks if self.face else ()

    @property
    def in_hand(self) -> Mark | None:
        """The current mark, or the first."""
        marks = self.marks
        return next((m for m in marks if m.id == self.mark), marks[0] if marks else None)

    def turn_to(self, camera: Camera) -> None:
        """Show both from another side."""
        self.camera = camera
        self.refresh()
        self.camera_changed.emit()

    def put_beside(self, variant: str) -> None:
        """Show a variant beside the current figure; an empty name is the figure as made."""
        self.beside = variant
        self.refresh()

    def select_mark(self, mark: str) -> None:
        """Make a mark the current one."""
        self.mark = mark
        self.taken.emit(mark)
        self.show_changed()

    def refresh(self) -> None:
        """Show the present plan."""
        if self.isVisible():
            self._request_pictures()
            self.show_changed()

    def describe(self) -> str:
        mark = self.in_hand
        if mark is None:
            return tr("Nothing is marked on a face.")
        return tr("{name}: {where}", name=self.studio.say(mark.name), where=self.where_words(mark))

    def where_words(self, mark: Mark) -> str:
        """Return the position of a mark as text."""
        units = self.studio.units
        down = show_length(mark.from_crown_mm, units)
        if mark.from_midline_mm < SAME_MM:
            return tr("{down} from the crown, on the midline", down=down)
        aside = show_length(mark.from_midline_mm, units)
        return tr("{down} from the crown, {aside} from the midline", down=down, aside=aside)

    def _placement_beside(self) -> Placement:
        """Return the solids of the variant shown beside, at the size of the made figure."""
        figure, brief = self.studio.figure, self.studio.brief
        found = next((v for v in brief.variants if v.name == self.beside), None)
        if figure is None or found is None:
            return self.studio.placement_as_made()
        if self._other is None or self._other[0] is not figure or self._other[1] != found:
            self._other = (figure, found, place(altered(figure, found.altered)))
        return self._other[2]

    def _words_beside(self) -> str:
        known = any(v.name == self.beside for v in self.studio.brief.variants)
        return self.beside if known else tr("as made")

    def _sub_placement(self, name: str) -> Placement | None:
        plan, face = self.studio.plan, self.face
        if plan is None or face is None:
            return None
        whole = plan.solids.placement if name == NEW else self._placement_beside()
        if not own_copy(whole, face.part):
            return None
        known = self._alone.get(name)
        if known is None or known[0] is not whole or known[1] != face.part:
            known = (whole, face.part, head_alone(whole, face.part))
            self._alone[name] = known
        return known[2]

    def _make_shown_head(self, name: str) -> ShownHead | None:
        sub, face = self._sub_placement(name), self.face
        if sub is None or face is None:
            return None
        copy = own_copy(sub, face.part)
        assert copy is not None
        along, wide, deep = copy.shape.extents()
        half = self.width() / 2
        room = min(half, self.height() - self.theme.px(30 + _SLIP)) * _ROOM
        per_mm = room / (1.2 * max(along, wide, deep))
        x = half * (0.5 if name == OLD else 1.5)
        middle = copy.point(0.5, 0.0, 0.0)
        y = (self.height() - self.theme.px(_SLIP)) / 2 + self.theme.px(14)
        return ShownHead(sub, copy, per_mm, QPointF(x, y), middle)

    def _request_pictures(self) -> None:
        for name in (OLD, NEW):
            shown = self._make_shown_head(name)
            if shown is None:
                continue
            step = 1 / (shown.per_mm * self.devicePixelRatioF())
            had = self._prints.get(name)
            shot = RenderRequest(shown.placement, self.camera, step, 1 if self._pulled else 2)
            # Solids are told apart by identity: arrays do not compare.
            if had is None or had.shot.placement is not shot.placement or had.shot != shot:
                self.darkroom.request(name, shot)

    def _developed(self, name: str, made: RenderResult) -> None:
        if name in (OLD, NEW):
            self._prints[name] = made
            self.update()

    def showEvent(self, event: object) -> None:
        start_unless_running(self._soon)

    def resizeEvent(self, event: object) -> None:
        start_unless_running(self._soon)

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        d, px = self.theme.dyes, self.theme.px
        if self.face is None:
            painter.setFont(self.theme.text(17))
            painter.setPen(d.quiet)
            told = tr(
                "This figure has no marks on its face. Set eyes or marks in Measure, at Face, "
                "or lay a piece of the face on the selected part."
            )
            painter.drawText(
                QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, told
            )
            return
        for name, told in ((OLD, self._words_beside()), (NEW, tr("as it will be"))):
            shown = self._make_shown_head(name)
            if shown is not None:
                self._paint_head(painter, name, shown)
                painter.setFont(self.theme.text(15, bold=name == NEW))
                painter.setPen(d.ink if name == NEW else d.quiet)
                line = QRectF(shown.at.x() - self.width() / 4, px(2), self.width() / 2, px(24))
                painter.drawText(line, Qt.AlignmentFlag.AlignCenter, told)
        was = faces_of(self._placement_beside()) if self.studio.figure else ()
        old = next((f for f in was if f.part == self.face.part), None)
        for mark in old.named_marks if old else ():
            self._paint_pin(painter, OLD, mark, d.quiet, faint=True)
        for mark in self.marks:
            self._paint_pin(painter, NEW, mark, d.woad)
        if self.in_hand is not None:
            self._paint_pin(painter, NEW, self.in_hand, d.madder, big=True)
            self._paint_number(painter, self.in_hand)

    def _paint_head(self, painter: QPainter, name: str, shown: ShownHead) -> None:
        made = self._prints.get(name)
        if made is None or made.shot.camera != self.camera:
            return
        right, up, _ = self.camera.axes()
        scale = made.picture.step * shown.per_mm
        # A picture of the plan before is shown as large as the new one until that is there.
        had = own_copy(made.shot.placement, shown.copy.part.id)
        if had is None:
            return
        there = had.point(0.5, 0.0, 0.0)
        ratio = max(shown.copy.shape.extents()) / max(had.shape.extents())
        x = shown.at.x() + (made.picture.left - float(right @ there)) * shown.per_mm * ratio
        y = shown.at.y() - (made.picture.top - float(up @ there)) * shown.per_mm * ratio
        rows, columns = made.picture.owner.shape
        box = QRectF(x, y, columns * scale * ratio, rows * scale * ratio)
        painter.drawPixmap(box, made.pixmap, QRectF(made.pixmap.rect()))

    def _mark_spot(self, shown: ShownHead, mark: Mark, way: int = 1) -> tuple[QPointF, bool]:
        """Return the place of a mark in the view, and whether it faces the viewer."""
        own = shown.copy.point(mark.along, way * mark.around, 1.0) - shown.middle
        right, up, toward = self.camera.axes()
        at = QPointF(
            shown.at.x() + float(right @ own) * shown.per_mm,
            shown.at.y() - float(up @ own) * shown.per_mm,
        )
        return at, float(toward @ own) > -0.12 * max(shown.copy.shape.extents())

    def _paint_pin(
        self,
        painter: QPainter,
        name: str,
        mark: Mark,
        colour: QColor,
        faint: bool = False,
        big: bool = False,
    ) -> None:
        shown = self._make_shown_head(name)
        if shown is None:
            return
        px, d = self.theme.px, self.theme.dyes
        radius = px(8) if big else px(3) if faint else px(5)
        for way in (1, -1) if mark.both else (1,):
            at, seen = self._mark_spot(shown, mark, way)
            painter.setOpacity(1.0 if seen else 0.35)
            painter.setPen(QPen(d.paper, px(3)))
            painter.setBrush(Qt.BrushStyle.NoBrush if faint else colour)
            painter.drawEllipse(at, radius, radius)
            painter.setPen(QPen(colour, px(2)))
            painter.drawEllipse(at, radius + px(1), radius + px(1))
            if big and self.hasFocus():
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(at, radius + px(5), radius + px(5))
        painter.setOpacity(1.0)

    def _paint_number(self, painter: QPainter, mark: Mark) -> None:
        """The numbers of the mark in hand, on a slip beside its pin."""
        shown = self._make_shown_head(NEW)
        if shown is None:
            return
        px, d = self.theme.px, self.theme.dyes
        lines = [self.studio.say(mark.name), self.where_words(mark)]
        bold, plain = self.theme.text(16, bold=True), self.theme.text(15)
        wide = max(QFontMetricsF(bold).horizontalAdvance(lines[0]),
                   QFontMetricsF(plain).horizontalAdvance(lines[1])) + px(24)  # fmt: skip
        high = px(54)
        x = min(max(px(4), shown.at.x() - wide / 2), self.width() - wide - px(4))
        y = self.height() - high - px(4)
        box = QRectF(x, y, wide, high)
        painter.setPen(QPen(d.weld, px(1.5)))
        painter.setBrush(d.slip)
        painter.drawRoundedRect(box, px(10), px(10))
        painter.setPen(d.ink)
        painter.setFont(bold)
        painter.drawText(box.adjusted(0, px(5), 0, -px(26)), Qt.AlignmentFlag.AlignCenter, lines[0])
        painter.setFont(plain)
        painter.drawText(box.adjusted(0, px(26), 0, -px(4)), Qt.AlignmentFlag.AlignCenter, lines[1])

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        found = self._mark_near(event.position())
        if found is not None:
            self._pulled, self._gesture = True, self.studio.new_gesture()
            self.select_mark(found.id)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._pulled and event.buttons() & Qt.MouseButton.LeftButton:
            self._drag_mark(event.position())
        else:
            near = self._mark_near(event.position()) is not None
            self.setCursor(Qt.CursorShape.OpenHandCursor if near else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pulled = False
        self.refresh()

    def _mark_near(self, at: QPointF) -> Mark | None:
        shown = self._make_shown_head(NEW)
        if shown is None:
            return None
        best: tuple[float, Mark] | None = None
        for mark in self.marks:
            for way in (1, -1) if mark.both else (1,):
                off = self._mark_spot(shown, mark, way)[0] - at
                far = (off.x() ** 2 + off.y() ** 2) ** 0.5
                if far < self.theme.px(_NEAR) and (best is None or far < best[0]):
                    best = (far, mark)
        return best[1] if best else None

    def _drag_mark(self, at: QPointF) -> None:
        shown, mark = self._make_shown_head(NEW), self.in_hand
        if shown is None or mark is None:
            return
        right, up, _ = self.camera.axes()
        u = (at.x() - shown.at.x()) / shown.per_mm
        v = (shown.at.y() - at.y()) / shown.per_mm
        if mark.both and u * float(right[0]) < 0:
            u = -u  # the mirrored one is pulled
        seat = skin_seat(
            shown.copy,
            self.camera.axes(),
            u + float(right @ shown.middle),
            v + float(up @ shown.middle),
        )
        if seat is not None:
            self._move_mark(
                mark,
                (seat[0], 0.0 if not mark.both and mark.from_midline_mm < SAME_MM else seat[1]),
            )

    def _move_mark(self, mark: Mark, place: tuple[float, float]) -> None:
        name = self.studio.say(mark.name)
        self.studio.edit_by(
            tr("Move {mark:lower}", mark=name),
            lambda figure: with_mark_at(figure, self._as_drawn(mark), place),
            self._gesture,
        )
        self.refresh()

    def _as_drawn(self, mark: Mark) -> Mark:
        """Return the mark as the plan has it now: what is moved is moved from there."""
        return next((m for m in self.marks if m.id == mark.id), mark)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        marks, mark = self.marks, self.in_hand
        if event.key() == Qt.Key.Key_C and not event.modifiers():
            self.studio.correct(not self.studio.brief.corrected)
            return
        if event.key() == Qt.Key.Key_M and not event.modifiers():
            self.together_wanted.emit()
            return
        wished = {Qt.Key.Key_A: self.piece_wanted, Qt.Key.Key_P: self.proposed_taken,
                  Qt.Key.Key_Delete: self.piece_away}  # fmt: skip
        if event.key() in wished and not event.modifiers():
            wished[Qt.Key(event.key())].emit()
            return
        if mark is None:
            super().keyPressEvent(event)
            return
        far = _LONG_STEP if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else _STEP
        moves = {
            Qt.Key.Key_Up: (far, 0.0),
            Qt.Key.Key_Down: (-far, 0.0),
            Qt.Key.Key_Left: (0.0, -180 * far),
            Qt.Key.Key_Right: (0.0, 180 * far),
        }
        at = next(i for i, m in enumerate(marks) if m.id == mark.id)
        key = Qt.Key(event.key())
        if key in moves:
            along, around = moves[key]
            if around and not mark.both:
                return
            self._gesture = 0
            self._move_mark(
                mark, (mark.along + along, max(1.0, mark.around + around) if mark.both else 0.0)
            )
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_Space):
            self.select_mark(marks[(at + 1) % len(marks)].id)
        elif key == Qt.Key.Key_PageUp:
            self.select_mark(marks[at - 1].id)
        else:
            super().keyPressEvent(event)

"""The tool for marks on the face, eyes, ear bases, landmarks and patches."""

from __future__ import annotations

from functools import partial

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from bambola.core.figure import Landmark, Place
from bambola.core.figure.additions import likely_eye, with_eyes, with_mark
from bambola.core.figure.graft import with_place
from bambola.core.figure.places import Outline
from bambola.core.resize import ready_size
from bambola.core.solids import own_copy
from bambola.core.solids.touch import patch_outline, skin_point, skin_seat
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.hands.base import ENTER, Hand
from bambola.language import N_, tr

EYES, EAR_BASE, PATCH = N_("Eyes"), N_("Ear base"), N_("Patch")
EYE_LINE = N_("Eye line")
THINGS = (
    EYES,
    EAR_BASE,
    EYE_LINE,
    N_("Nose"),
    N_("Mouth"),
    N_("Button line"),
    N_("Thumb"),
    N_("Where the arm sits"),
    PATCH,
    N_("Crown"),
    N_("Chin"),
    N_("Hem"),
    N_("Wrist"),
)
LANDMARKS = (N_("Crown"), N_("Chin"), N_("Hem"), N_("Wrist"))


class FaceHand(Hand):
    """Choose what to set, then click its place. A patch is outlined with several clicks and Enter."""

    name = N_("Face and patches")
    told = N_(
        "Choose what to set and click where it is. Outline a patch with clicks and "
        "press Enter. Set crown, chin, hem and wrist in every picture that shows them: "
        "their heights are compared."
    )
    cursor = Qt.CursorShape.CrossCursor

    def __init__(self, board: Board) -> None:
        super().__init__(board)
        self.thing = EYES
        self.wool = ""
        self.mirrored = True
        self._points: list[tuple[float, float]] = []
        self._at: tuple[float, float] | None = None

    def chips(self) -> list[Chip]:
        return [
            Chip(thing, partial(self.choose, thing), partial(self._is_chosen, thing))
            for thing in THINGS
        ]

    def _is_chosen(self, thing: str) -> bool:
        return self.thing == thing

    def choose(self, thing: str) -> None:
        """Choose what the next click sets."""
        self.thing = thing
        self.give_up()
        self.board.update()

    # Touching

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        self.set_at(*self.mm(at))

    def set_at(self, u: float, v: float) -> None:
        """Set the chosen thing at a place (mm in this view)."""
        if self.thing in LANDMARKS:
            mark = Landmark(name=self.thing, view=self.board.view, at=(u, v))
            self.studio.edit(
                tr("Set {thing:lower}", thing=tr(self.thing)),
                survey=self.studio.survey.marked(mark),
            )
        elif self.thing == PATCH:
            self._points.append((u, v))
        else:
            self._set_on_skin(u, v)

    def _set_on_skin(self, u: float, v: float) -> None:
        figure = self.studio.figure
        at = self.screen(u, v)
        part = self.board.part_at(at) or self.studio.selection.part
        if figure is None or part is None:
            return
        copy = own_copy(self.board.placement(), part)
        if copy is None:
            return
        shift = self.board.axes[:2] @ self.board.origin
        right = float(self.board.axes[0][0])
        # Things of a pair are set on the figure's left; a touch on its right is brought over.
        du = u - float(shift[0])
        if right and du * right < 0 and self.thing in (EYES, EAR_BASE):
            du = -du
        seat = skin_seat(copy, self.board.axes, du, v - float(shift[1]))
        if seat is None:
            self.studio.refused.emit(
                tr(
                    "There is no {name:lower} at that place; click the part itself.",
                    name=copy.part.name,
                )
            )
            return
        if self.thing == EYES:
            self._set_eyes(part, *seat)
        else:
            self._set_mark(part, *seat)

    def _set_eyes(self, part: str, along: float, around: float) -> None:
        figure = self.studio.figure
        assert figure is not None
        size = ready_size(likely_eye(figure.by_id[part].shape), self.studio.bench.eye_sizes)
        self.studio.edit_by(
            tr("Set the eyes"), lambda f: with_eyes(f, part, along, around, size, tr("Eyes"))
        )

    def _set_mark(self, part: str, along: float, around: float) -> None:
        name = self.thing
        self.studio.edit_by(
            tr("Set {thing:lower}", thing=tr(name)),
            lambda f: with_mark(f, name, part, along, around, eye=self.thing == EYE_LINE),
        )

    # Patches

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        if key in ENTER and self._points:
            self.finish()
        elif self.point_by_key(key, keys):
            pass
        elif (text == " " or key in ENTER) and self.pointer is not None:
            self.set_at(*self.pointer)
        elif key == Qt.Key.Key_Escape and self._points:
            self.give_up()
        elif key == Qt.Key.Key_Backspace and self._points:
            self._points.pop()
        else:
            return False
        return True

    def double(self, at: QPointF) -> None:
        if self._points:
            self.finish()

    def finish(self) -> None:
        """Lay the outlined patch on the selected part."""
        points, figure, part = self._points, self.studio.figure, self.studio.selection.part
        self.give_up()
        if figure is None or part is None:
            return
        if len(points) < 3:
            self.studio.refused.emit(tr("A patch needs at least three touches."))
            return
        copy = own_copy(self.board.placement(), part)
        assert copy is not None
        shift = self.board.axes[:2] @ self.board.origin
        drawn = [(u - float(shift[0]), v - float(shift[1])) for u, v in points]
        view, outline = patch_outline(copy, self.board.axes, drawn)
        body = figure.by_id[part]
        wool = self.wool or self._other_wool(body.coat.wool if body.coat else body.core)
        where = Outline(view=view, outline=outline, mirrored=self._lies_aside(outline))
        patch = Place(id="patch", wool=wool, where=where)
        self.studio.edit_by(tr("Outline a patch"), lambda f: with_place(f, part, patch)[0])

    def _lies_aside(self, outline: tuple[tuple[float, float], ...]) -> bool:
        """Return whether the patch lies on one side of the part's middle, and so gets a twin on the other."""
        sides = {x > 0 for x, _ in outline}
        return self.mirrored and len(sides) == 1

    def _other_wool(self, wool: str) -> str:
        return next(
            (w.id for w in self.studio.bench.wools if w.id != wool and w.form != "core"), wool
        )

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        self._at = self.mm(at)

    def give_up(self) -> None:
        self._points = []

    # Painting

    def paint(self, painter: QPainter) -> None:
        figure, d, px = self.studio.figure, self.theme.dyes, self.theme.px
        if figure is None:
            return
        boxes: list[QRectF] = []
        for mark in figure.marks:
            copy = own_copy(self.board.placement(), mark.part)
            if copy is None:
                continue
            place = self.board.seen_from(skin_point(copy, mark.along, mark.around))
            at = self.screen(*place)
            painter.setPen(QPen(d.madder, px(2)))
            painter.drawLine(at - QPointF(px(6), 0), at + QPointF(px(6), 0))
            painter.drawLine(at - QPointF(0, px(6)), at + QPointF(0, px(6)))
            self._tag_clear(painter, at, tr(mark.name), boxes)
        for landmark in self.studio.survey.landmarks:
            if landmark.view == self.board.view:
                at = self.screen(*landmark.at)
                painter.setPen(QPen(d.woad, px(2)))
                painter.setBrush(d.paper)
                painter.drawEllipse(at, px(5), px(5))
                self.board.tag(
                    painter,
                    at,
                    tr(
                        "{name} {length} up",
                        name=tr(landmark.name),
                        length=self.length(landmark.at[1]),
                    ),
                    d.woad,
                )
        self._paint_eyes(painter)
        if self._points:
            end = self.pointer or self._at
            run = [*self._points, end] if end else self._points
            self.board.draw_run(painter, run, d.madder, 2.2, closed=len(run) > 2)
        self.paint_pointer(painter)

    def _tag_clear(self, painter: QPainter, at: QPointF, text: str, boxes: list[QRectF]) -> None:
        """Paint a label, below others where they would overlap."""
        high = self.theme.px(28)
        while any(
            abs(box.center().y() - at.y()) < high and box.left() < at.x() + high * 4
            for box in boxes
        ):
            at = at + QPointF(0, high)
        boxes.append(self.board.tag(painter, at, text))

    def _paint_eyes(self, painter: QPainter) -> None:
        painter.setPen(QPen(self.theme.dyes.madder, self.theme.px(1.6)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for placed in self.board.placement().fittings:
            toward = float(placed.matrix[:3, 2] @ self.board.axes[2])
            if placed.fitting.kind == "eye" and toward > -0.2 and self.board.lay is not None:
                size = placed.fitting.size / 2 * self.board.lay.scale + 3
                middle = placed.matrix[:3, 3] + placed.matrix[:3, 2] * placed.fitting.size / 2
                painter.drawEllipse(
                    self.screen(*self.board.seen_from(np.asarray(middle))), size, size
                )

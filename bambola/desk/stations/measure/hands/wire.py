"""The tool for drawing bones: clicks snap to the axes of parts."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPen

from bambola.core.figure import Figure, Node
from bambola.core.figure.additions import joints_along, with_wire, without_wire
from bambola.core.figure.graft import free_id
from bambola.core.solids.touch import nearest_axis
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.hands.base import ENTER, Hand
from bambola.language import N_, tr

_REACH_PX = 26.0


class WireHand(Hand):
    """Click along a limb from end to end; Enter makes the clicked bones one wire."""

    name = N_("Bones and wire")
    told = N_(
        "Click along where the wire runs: each click snaps to the middle of the part "
        "there. Enter ends the wire; Backspace removes a click; Delete removes the wire"
        " of the selected part."
    )
    cursor = Qt.CursorShape.CrossCursor

    def __init__(self, board: Board) -> None:
        super().__init__(board)
        self._route: list[Node] = []
        self._aim: Node | None = None

    def _snap_to_node(self, u: float, v: float) -> Node | None:
        """Return the node at a place, or a new one on the axis of the part there."""
        figure, lay = self.studio.figure, self.board.lay
        if figure is None or lay is None:
            return None
        reach = self.theme.px(_REACH_PX) / lay.scale
        placement = self.board.placement()
        for node in (*self._route, *figure.nodes):
            if node.id in placement.nodes:
                nu, nv = self.board.seen_from(placement.nodes[node.id])
                if (nu - u) ** 2 + (nv - v) ** 2 < (reach / 2) ** 2:
                    return node
        shift = self.board.axes[:2] @ self.board.origin
        found = nearest_axis(
            placement, self.board.axes, u - float(shift[0]), v - float(shift[1]), reach
        )
        if found is None:
            return None
        copy, along = found
        taken = frozenset(n.id for n in (*figure.nodes, *self._route))
        side = f"-{copy.side}" if copy.side else ""
        return Node(
            id=free_id(f"{copy.part.id}{side}", taken),
            part=copy.part.id,
            side=copy.side,
            along=round(along, 3),
        )

    def press(self, at: QPointF, button: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
        if button == Qt.MouseButton.RightButton:
            self.finish()
            return
        self.extend_to(*self.mm(at))

    def extend_to(self, u: float, v: float) -> None:
        """Extend the wire to a place (mm in this view)."""
        node = self._snap_to_node(u, v)
        if node is None:
            self.studio.refused.emit(
                tr("A bone runs inside a part; touch nearer to the middle of one.")
            )
        elif not self._route or node.id != self._route[-1].id:
            self._route.append(node)

    def move(self, at: QPointF, held: bool, keys: Qt.KeyboardModifier) -> None:
        self._aim = self._snap_to_node(*self.mm(at))

    def double(self, at: QPointF) -> None:
        self.finish()

    def handle_key(self, key: Qt.Key, text: str, keys: Qt.KeyboardModifier) -> bool:
        if self.point_by_key(key, keys):
            assert self.pointer is not None
            self._aim = self._snap_to_node(*self.pointer)
        elif text == " " and self.pointer is not None:
            self.extend_to(*self.pointer)
        elif key in ENTER and self._route:
            self.finish()
        elif key in ENTER and self.studio.selection.part:
            self._along_part(self.studio.selection.part)
        elif key == Qt.Key.Key_Backspace and self._route:
            self._route.pop()
        elif key == Qt.Key.Key_Escape and self._route:
            self.give_up()
        elif key == Qt.Key.Key_Delete and self.studio.selection.part:
            part = self.studio.selection.part
            self.studio.edit_by(tr("Remove a wire"), lambda f: without_wire(f, part))
        else:
            return False
        return True

    def _along_part(self, part: str) -> None:
        """Without clicks, lead the wire through the selected part from base to tip."""
        figure = self.studio.figure
        if figure is None:
            return
        for copy in self.board.placement().copies_of(part):
            self._route = joints_along(figure, part, copy.side, 0.0, 1.0)
            self.finish()

    def finish(self) -> None:
        """Finish the wire."""
        route = self._route
        self.give_up()
        if len(route) < 2:
            return
        assert self.studio.figure is not None
        part = self.studio.figure.by_id[route[-1].part].name
        called = tr("{part} wire", part=part)
        self.studio.edit_by(tr("Draw a wire"), lambda f: with_wire(f, route, called))

    def give_up(self) -> None:
        self._route = []

    def paint(self, painter: QPainter) -> None:
        figure, d, px = self.studio.figure, self.theme.dyes, self.theme.px
        if figure is None:
            return
        self._forget_lost(figure)
        placement = self.board.placement()
        for wire in figure.wires:
            run = [self.board.seen_from(placement.nodes[n]) for n in wire.route]
            self.board.draw_run(painter, run, d.ink, 2.2, closed=False)
        for node in figure.nodes:
            painter.setPen(QPen(d.ink, 1))
            painter.setBrush(d.weld)
            painter.drawEllipse(
                self.screen(*self.board.seen_from(placement.nodes[node.id])), px(4), px(4)
            )
        self.paint_pointer(painter)
        run = [self._place_of_node(node) for node in self._route]
        if self._aim is not None and (self._route or self.board.hasFocus()):
            aim = self._place_of_node(self._aim)
            painter.setBrush(d.madder)
            painter.drawEllipse(self.screen(*aim), px(6), px(6))
            part = figure.by_id[self._aim.part].name
            self.board.tag(
                painter,
                self.screen(*aim),
                tr("{part}, {along:.0f} % along", part=part, along=self._aim.along * 100),
            )
            run.append(aim)
        if len(run) > 1:
            self.board.draw_run(painter, run, d.madder, 2.4, closed=False)

    def _forget_lost(self, figure: Figure) -> None:
        """Drop places on parts that no longer exist, as after undo."""
        if any(node.part not in figure.by_id for node in self._route):
            self._route = []
        if self._aim is not None and self._aim.part not in figure.by_id:
            self._aim = None

    def _place_of_node(self, node: Node) -> tuple[float, float]:
        copies = self.board.placement().copies_of(node.part)
        copy = next((c for c in copies if c.side == node.side), copies[0])
        return self.board.seen_from(copy.point(node.along))

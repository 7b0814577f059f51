"""Measuring without a scale: draws the splitting tree of one colour."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen

from bambola.core.plan.counter.weighing import portion_named
from bambola.core.quantities import show_mass
from bambola.core.wool import portion_name
from bambola.core.wool.splitting import SplitPiece, SplitPlan, size_words
from bambola.desk.kit.painted import Painted, paint_ring
from bambola.desk.kit.painters.wool import paint_bundle, paint_heap
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.splitter import Splitter
from bambola.language import tr


@dataclass(frozen=True)
class _Spot:
    """A piece of the tree on the screen."""

    piece: SplitPiece
    at: QPointF
    side: float


class SplitView(Painted):
    """The hank at the left, torn step by step to the right; pieces are drawn in proportion."""

    def __init__(self, studio: EditorSession, theme: Theme, splitter: Splitter) -> None:
        super().__init__(theme, tr("Splitting plan"))
        self.studio, self.splitter = studio, splitter
        splitter.changed.connect(self._refresh_if_visible)
        studio.units_changed.connect(self.update)
        studio.plan_changed.connect(self._plan_changed)
        theme.changed.connect(self._refresh_if_visible)

    def _plan_changed(self) -> None:
        if self.isVisible():
            self.splitter.find_tree()

    def showEvent(self, event: object) -> None:
        self.splitter.find_tree()

    def _refresh_if_visible(self) -> None:
        if not self.isVisible():
            return
        found = self.splitter.found
        leaves = sum(not p.into for p in found.pieces) if isinstance(found, SplitPlan) else 0
        self.setMinimumHeight(self.theme.px(120) + leaves * self.theme.px(19))
        self.show_changed()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(500), self.theme.px(400))

    def describe(self) -> str:
        found, units = self.splitter.found, self.studio.units
        if found is None:
            return tr("Looking for the shortest way to split it…")
        if not isinstance(found, SplitPlan):
            return found if isinstance(found, str) else self.studio.say(found)
        hank = show_mass(found.hank_g, units)
        if found.proved:
            proof = tr("no shorter way exists")
        else:
            proof = (
                tr("a shorter one was not found")
                if self.splitter.is_settled
                else tr("looking for a shorter one…")
            )
        left = (
            tr(", {left} left over", left=show_mass(found.left_g, units))
            if found.left_g > 0.005
            else ""
        )
        if not found.splits:
            return tr("{hank}: nothing to split", hank=hank)
        return tr(
            "{splits} splits of {hank}, each portion within 8 %: {proof}{left}",
            splits=found.splits,
            hank=hank,
            proof=proof,
            left=left,
        )

    # Painting

    def _wool_chips(self) -> list[tuple[str, QRectF]]:
        px, wools = self.theme.px, self.splitter.wools
        each = min(px(46), (self.width() - px(10)) / max(1, len(wools)))
        return [(w, QRectF(px(4) + i * each, px(2), each, px(42))) for i, w in enumerate(wools)]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px, bench = self.theme.dyes, self.theme.px, self.studio.bench
        for wool, box in self._wool_chips():
            if wool == self.splitter.wool:
                paint_ring(painter, box.adjusted(1, 1, -1, -1), self.theme, self.hasFocus())
            side = min(box.width(), box.height()) - px(12)
            bead = QRectF(0, 0, side, side)
            bead.moveCenter(box.center())
            paint_bundle(painter, bead, bench.wool_by_id[wool].colour, False, self.theme)
        if not self.splitter.wool:
            return
        painter.setFont(self.theme.title(19))
        painter.setPen(d.ink)
        head = QRectF(px(6), px(46), self.width() - px(12), px(28))
        name = bench.wool_by_id[self.splitter.wool].name
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, name)
        used = painter.fontMetrics().horizontalAdvance(name + "  ")
        painter.setFont(self.theme.text(15))
        painter.setPen(d.quiet)
        rest = head.adjusted(used, 0, 0, 0)
        painter.drawText(
            rest,
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
            painter.fontMetrics().elidedText(
                self.describe(), Qt.TextElideMode.ElideRight, int(rest.width())
            ),
        )
        found = self.splitter.found
        if isinstance(found, SplitPlan):
            top = px(80)
            self._paint_tree(
                painter,
                found,
                QRectF(px(10), top, self.width() - px(20), self.height() - top - px(8)),
            )

    def _piece_spots(self, plan: SplitPlan, box: QRectF) -> list[_Spot]:
        """Return the places of pieces: leaves one below the other in tree order, parents centred on their
        children."""
        px = self.theme.px
        children: dict[int, list[int]] = {}
        for i, piece in enumerate(plan.pieces):
            if piece.parent is not None:
                children.setdefault(piece.parent, []).append(i)
        depth = [0] * len(plan.pieces)
        for i, piece in enumerate(plan.pieces):
            if piece.parent is not None:
                depth[i] = depth[piece.parent] + 1
        leaves: list[int] = []
        rows = [0.0] * len(plan.pieces)

        def place(i: int) -> float:
            below = children.get(i, [])
            if not below:
                leaves.append(i)
                rows[i] = len(leaves) - 0.5
            else:
                rows[i] = sum(place(j) for j in below) / len(below)
            return rows[i]

        place(0)
        each = box.height() / max(1, len(leaves))
        deep = max(depth) or 1
        labels = min(px(250), box.width() * 0.40)
        across = (box.width() - labels - px(64)) / deep
        biggest = min(px(58), box.height() * 0.4)
        return [
            _Spot(
                piece,
                QPointF(box.left() + px(30) + depth[i] * across, box.top() + rows[i] * each),
                max(px(9), biggest * piece.share ** (1 / 3)),
            )
            for i, piece in enumerate(plan.pieces)
        ]

    def _paint_tree(self, painter: QPainter, plan: SplitPlan, box: QRectF) -> None:
        d, px = self.theme.dyes, self.theme.px
        spots = self._piece_spots(plan, box)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for spot in spots:
            if spot.piece.parent is None:
                continue
            start = spots[spot.piece.parent].at
            line = QPainterPath(start)
            mid = (start.x() + spot.at.x()) / 2
            line.cubicTo(QPointF(mid, start.y()), QPointF(mid, spot.at.y()), spot.at)
            painter.setPen(QPen(d.quiet, px(1.4)))
            painter.drawPath(line)
        colour = self.studio.bench.wool_by_id[self.splitter.wool].colour
        each = box.height() / max(1, sum(not s.piece.into for s in spots))
        right = max(s.at.x() for s in spots) + px(20)
        for spot in spots:
            bead = QRectF(0, 0, spot.side, spot.side)
            bead.moveCenter(spot.at)
            painter.setOpacity(0.4 if not spot.piece.into and spot.piece.to is None else 1.0)
            paint_heap(painter, bead, colour, self.theme)
            painter.setOpacity(1.0)
            if spot.piece.into:
                self._paint_act(painter, spot)
            else:
                self._paint_leaf(
                    painter,
                    plan,
                    spot,
                    QRectF(right, spot.at.y() - each / 2, box.right() - right, each),
                )

    def _paint_act(self, painter: QPainter, spot: _Spot) -> None:
        """Paint the number of the act on the torn piece: 1 is first."""
        d, px = self.theme.dyes, self.theme.px
        tag = QRectF(0, 0, px(20), px(20))
        tag.moveCenter(QPointF(spot.at.x() + spot.side / 2 + px(4), spot.at.y()))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(d.woad if spot.piece.into == 2 else d.madder)
        if spot.piece.into == 2:
            painter.drawEllipse(tag)
        else:
            painter.drawRoundedRect(tag, px(4), px(4))
        painter.setFont(self.theme.text(13, bold=True))
        painter.setPen(d.on_dye)
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, str(spot.piece.act))

    def _paint_leaf(self, painter: QPainter, plan: SplitPlan, spot: _Spot, line: QRectF) -> None:
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        piece = spot.piece
        # A hank that is not split stands where the words of the others begin.
        line = line.adjusted(max(0.0, spot.at.x() + spot.side / 2 + px(10) - line.left()), 0, 0, 0)
        painter.setPen(QPen(d.edge, 1, Qt.PenStyle.DotLine))
        painter.drawLine(
            QPointF(spot.at.x() + spot.side / 2, spot.at.y()),
            QPointF(line.left() - px(4), spot.at.y()),
        )
        size = 14 if line.height() >= px(17) else 11
        painter.setFont(self.theme.text(size, bold=True))
        painter.setPen(d.quiet if piece.to is None else d.ink)
        share = size_words(piece.size)
        if piece.to is None:
            told = tr("{share} left over", share=share)
        else:
            owner = self.studio.plan
            assert owner is not None
            part, portion = portion_named(owner, piece.to)
            which = f" {piece.copy + 1}" if part.count * owner.count > 1 else ""
            role = "" if portion.role == "core" else f" {self.studio.say(portion_name(portion))}"
            told = f"{share}  {part.name}{which}{role}"
        weight = show_mass(piece.share * plan.hank_g, units)
        painter.drawText(
            line.adjusted(0, 0, -px(56), 0),
            Qt.AlignmentFlag.AlignVCenter,
            painter.fontMetrics().elidedText(
                told, Qt.TextElideMode.ElideRight, int(line.width() - px(58))
            ),
        )
        painter.setPen(d.quiet)
        painter.drawText(line, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, weight)

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for wool, box in self._wool_chips():
            if box.contains(event.position()):
                self.splitter.choose(wool)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        wools = self.splitter.wools
        if step is None or not wools:
            super().keyPressEvent(event)
            return
        at = wools.index(self.splitter.wool) if self.splitter.wool in wools else 0
        self.splitter.choose(wools[max(0, min(len(wools) - 1, at + step))])

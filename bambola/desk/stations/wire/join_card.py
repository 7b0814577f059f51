"""Every join with what it bears, as made and now, against what its kind holds."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bambola.core.balance import JoinStress
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import Studio
from bambola.desk.stations.wire.load_bar import paint_load

_ROW = 64
KINDS = {
    "fringe": "wool only", "patch": "under a patch", "scarf": "under a scarf of wool", "peg": "on a wire peg",
    "wire": "wire through",
}  # fmt: skip


class JoinCard(QWidget):
    """A row for each join; one that is too weak is first, and its question stands below."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Joins")
        studio.plan_changed.connect(self.relaid)
        studio.selection_changed.connect(self.update)
        theme.changed.connect(self.relaid)

    def joins(self) -> list[JoinStress]:
        """The joins, the hardest pressed first."""
        plan = self.studio.plan
        return sorted(plan.joins if plan else (), key=lambda j: -j.stress_kpa / j.allowed_kpa)

    def told(self, join: JoinStress) -> str:
        """A join in a sentence."""
        was = f"{join.was_kpa:.1f} as made, " if join.was_kpa else ""
        return (
            f"{was}{join.stress_kpa:.1f} kPa now; {KINDS[join.kind]} holds {join.allowed_kpa:.0f}"
        )

    def relaid(self) -> None:
        """Lay the rows out anew, if they are seen."""
        if not self.isVisible():
            return
        self.setMinimumHeight(self.sizeHint().height())
        figure = self.studio.figure
        if figure is not None:
            weak = [figure.by_id[j.part].name for j in self.joins() if not j.holds]
            self.setAccessibleDescription(
                f"Too weak: {', '.join(weak)}" if weak else "All joins hold"
            )
        self.update()

    def showEvent(self, event: object) -> None:
        self.relaid()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(220), self.theme.px(44 + _ROW * len(self.joins())))

    def _row(self, i: int) -> QRectF:
        px = self.theme.px
        return QRectF(px(10), px(40) + i * px(_ROW), self.width() - px(20), px(_ROW))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        figure = self.studio.figure
        if figure is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        painter.setPen(QPen(d.madder if self.hasFocus() else d.edge, 1.2))
        painter.setBrush(d.paper)
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), px(14), px(14))
        painter.setFont(self.theme.title(20))
        painter.setPen(d.ink)
        head = QRectF(px(16), px(8), self.width() - px(32), px(28))
        joins = self.joins()
        painter.drawText(
            head, Qt.AlignmentFlag.AlignVCenter, "Joins" if joins else "No joins to the body"
        )
        for i, join in enumerate(joins):
            box = self._row(i)
            here = join.part == self.studio.selected
            if here:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(d.shade)
                painter.drawRoundedRect(box.adjusted(0, 0, 0, -px(4)), px(8), px(8))
            left = box.left() + px(8)
            painter.setFont(self.theme.text(15, bold=True))
            painter.setPen(d.ink if join.holds else d.madder)
            name = figure.by_id[join.part].name + ("" if join.holds else ": too weak")
            painter.drawText(QRectF(left, box.top() + px(2), box.width(), px(20)), 0, name)
            painter.setFont(self.theme.text(13))
            painter.setPen(d.quiet)
            words = painter.fontMetrics().elidedText(
                self.told(join), Qt.TextElideMode.ElideRight, int(box.width() - px(14))
            )
            painter.drawText(QRectF(left, box.top() + px(22), box.width(), px(18)), 0, words)
            bar = QRectF(left, box.top() + px(44), box.width() - px(18), px(8))
            paint_load(painter, bar, join.allowed_kpa, join.stress_kpa, self.theme)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for i, join in enumerate(self.joins()):
            if self._row(i).contains(event.position()):
                self.studio.select(join.part)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        parts = [join.part for join in self.joins()]
        if step is None or not parts:
            super().keyPressEvent(event)
            return
        at = parts.index(self.studio.selected) if self.studio.selected in parts else -step
        self.studio.select(parts[(at + step) % len(parts)])

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()

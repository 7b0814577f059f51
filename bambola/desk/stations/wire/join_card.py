"""Every join with its load, as made and now, compared with what its kind holds."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bambola.core.balance import JoinStress
from bambola.core.quantities import show_number
from bambola.core.words import times_held
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr


def paint_load(painter: QPainter, room: QRectF, bears: float, needs: float, theme: Theme) -> None:
    """Paint the bar in ``room``; its colour, and a mark beyond its end, show if it is not enough."""
    d, px = theme.dyes, theme.px
    most = max(bears, needs, 1e-9) * 1.12
    round_ = room.height() / 2
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(d.shade)
    painter.drawRoundedRect(room, round_, round_)
    painter.setBrush(d.lichen if bears >= needs * 0.997 else d.madder)
    bar = QRectF(room.left(), room.top(), room.width() * bears / most, room.height())
    painter.drawRoundedRect(bar, round_, round_)
    x = room.left() + room.width() * needs / most
    painter.setPen(QPen(d.ink, px(2.4)))
    painter.drawLine(QPointF(x, room.top() - px(5)), QPointF(x, room.bottom() + px(4)))


class LoadBar(QWidget):
    """One such bar."""

    def __init__(self, theme: Theme, told: str) -> None:
        super().__init__()
        self.theme = theme
        self._load = (0.0, 0.0)
        self.setAccessibleName(told)

    def sizeHint(self) -> QSize:
        return QSize(200, self.theme.px(26))

    minimumSizeHint = sizeHint

    def show_load(self, bears: float, needs: float) -> None:
        """Show a capacity and a load."""
        self._load = (bears, needs)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px = self.theme.px
        paint_load(painter, QRectF(1, px(8), self.width() - 2, px(12)), *self._load, self.theme)


_ROW, _LINE = 64, 17
KINDS = {
    "fringe": N_("wool only"),
    "patch": N_("under a patch"),
    "scarf": N_("under a scarf of wool"),
    "peg": N_("on a wire peg"),
    "wire": N_("wire through"),
}


class JoinCard(PaintedList):
    """A row for each join; joins that are too weak come first, with their question below."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__(theme, tr("Joins"), ListModel(self._describe_row))
        self.studio = studio
        self.taken.connect(lambda _, part: studio.selection.select_part(part))
        studio.plan_changed.connect(self.relaid)
        studio.selection.part_changed.connect(self._show_in_hand)
        theme.changed.connect(self.relaid)

    def joins(self) -> list[JoinStress]:
        """Return the joins, the most loaded first."""
        plan = self.studio.plan
        return sorted(plan.joins if plan else (), key=lambda j: -j.stress_kpa / j.allowed_kpa)

    def describe(self, join: JoinStress) -> str:
        """Return a join as a sentence."""
        say = self.studio.say
        now = say(times_held(join.allowed_kpa / max(join.stress_kpa, 1e-9)))
        before = ""
        if join.held_before is not None:
            was = times_held(join.held_before)
            times = dict(was.slots).get("times")
            # “times over” need not be said twice on a line as short as this.
            told = show_number(times, self.studio.units) if isinstance(times, float) else say(was)
            before = tr(" (was {told})", told=told) if say(was) != now else ""
        return tr("holds {now}{before}, {kind}", now=now, before=before, kind=tr(KINDS[join.kind]))

    def relaid(self) -> None:
        """Lay the rows out again, if visible."""
        if not self.isVisible():
            return
        self.setMinimumHeight(self.sizeHint().height())
        self.rows.set_keys([join.part for join in self.joins()])
        self._show_in_hand()

    def _show_in_hand(self) -> None:
        self.show_row(self.rows.row_of(self.studio.selection.part or ""))

    def _describe_row(self, part: str) -> str:
        join = next((join for join in self.joins() if join.part == part), None)
        if join is None or self.studio.figure is None:
            return ""
        name = self.studio.figure.by_id[part].name
        how = tr("holds") if join.holds else tr("too weak")
        return f"{name}: {how}. {self.describe(join)}"

    def showEvent(self, event: object) -> None:
        self.relaid()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(220), self.theme.px(44 + self._row_height * len(self.joins())))

    @property
    def _row_height(self) -> int:
        """Return the height of a row (px before scaling), for two lines of text if needed."""
        metrics = QFontMetricsF(self.theme.text(13))
        room = self.width() - self.theme.px(34)
        long = any(metrics.horizontalAdvance(self.describe(join)) > room for join in self.joins())
        return _ROW + _LINE * long

    def box(self, row: int) -> QRectF:
        px, high = self.theme.px, self.theme.px(self._row_height)
        return QRectF(px(10), px(40) + row * high, self.width() - px(20), high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        figure = self.studio.figure
        if figure is None:
            return
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        painter.setPen(QPen(d.madder, px(2.6)) if self.hasFocus() else QPen(d.edge, 1.2))
        painter.setBrush(d.paper)
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), px(14), px(14))
        painter.setFont(self.theme.title(20))
        painter.setPen(d.ink)
        head = QRectF(px(16), px(8), self.width() - px(32), px(28))
        joins = self.joins()
        painter.drawText(
            head,
            Qt.AlignmentFlag.AlignVCenter,
            tr("Joins") if joins else tr("No joins to the body"),
        )
        for i, join in enumerate(joins):
            box = self.box(i)
            here = join.part == self.studio.selection.part
            if here:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(d.shade)
                painter.drawRoundedRect(box.adjusted(0, 0, 0, -px(4)), px(8), px(8))
            left = box.left() + px(8)
            painter.setFont(self.theme.text(15, bold=True))
            painter.setPen(d.ink if join.holds else d.madder)
            name = figure.by_id[join.part].name + ("" if join.holds else tr(": too weak"))
            painter.drawText(QRectF(left, box.top() + px(2), box.width(), px(20)), 0, name)
            painter.setFont(self.theme.text(13))
            painter.setPen(d.quiet)
            lines = QRectF(left, box.top() + px(22), box.width() - px(14), box.height() - px(46))
            painter.drawText(lines, Qt.TextFlag.TextWordWrap, self.describe(join))
            bar = QRectF(left, box.bottom() - px(20), box.width() - px(18), px(8))
            paint_load(painter, bar, join.allowed_kpa, join.stress_kpa, self.theme)

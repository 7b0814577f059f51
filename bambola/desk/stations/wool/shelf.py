"""The shelf: every wool as a heap of the stock, with what the plan takes and what will be left."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QScrollArea

from bambola.core.bench import Wool
from bambola.core.quantities import show_mass
from bambola.core.wool import WoolTotal
from bambola.core.wool.bundles import heap_across
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.painters.wool import paint_heap
from bambola.desk.kit.theme import LIGHT, Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


class ShelfView(QScrollArea):
    """The boards in a scroll area."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.boards = Boards(studio, theme)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidget(self.boards)
        self.setFocusProxy(self.boards)
        studio.selection.wool_changed.connect(self._scroll_to_current)

    def _scroll_to_current(self) -> None:
        box = self.boards.box(self.boards.current_row)
        self.ensureVisible(0, round(box.center().y()), 0, round(box.height() / 2 + 8))


class Boards(PaintedList):
    """Heaps on boards: first what the plan needs, then the rest."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__(theme, tr("Wool on the shelf"), ListModel(self._describe_row))
        self.studio = studio
        for signal in (
            studio.plan_changed,
            studio.bench_changed,
            studio.units_changed,
            theme.changed,
        ):
            signal.connect(self._refresh_if_visible)
        self.taken.connect(lambda _, wool: studio.selection.select_wool(wool))
        studio.selection.wool_changed.connect(self._show_in_hand)

    def showEvent(self, event: object) -> None:
        self._refresh_if_visible()

    def _refresh_if_visible(self) -> None:
        if not self.isVisible():
            return
        rows = -(-len(self.wools) // self._column_count())
        self.setMinimumHeight(round(rows * self._cell_box().height() + self.theme.px(12)))
        self.rows.set_keys([wool.id for wool in self.wools])
        self._show_in_hand()

    def _show_in_hand(self) -> None:
        self.show_row(max(0, self.rows.row_of(self.studio.selection.wool)) if self.wools else -1)

    def resizeEvent(self, event: object) -> None:
        self._refresh_if_visible()

    @property
    def totals(self) -> dict[str, WoolTotal]:
        """What the plan needs of each wool."""
        return {t.wool: t for t in self.studio.plan.wools} if self.studio.plan else {}

    @property
    def wools(self) -> list[Wool]:
        """The wools in the order of the boards: those the plan needs first."""
        needed, known = self.totals, self.studio.bench.wool_by_id
        first = [known[w] for w in needed if w in known]
        return first + [w for w in self.studio.bench.wools if w.id not in needed]

    @property
    def wool(self) -> Wool | None:
        """The selected wool; the first until one is chosen."""
        wools = self.wools
        return next(
            (w for w in wools if w.id == self.studio.selection.wool), wools[0] if wools else None
        )

    def _describe_row(self, key: str) -> str:
        wool = self.studio.bench.wool_by_id.get(key)
        return f"{wool.name}: {self._heap_text(wool)[0]}" if wool else ""

    def _column_count(self) -> int:
        return max(1, self.width() // self.theme.px(150))

    def _cell_box(self) -> QRectF:
        return QRectF(0, 0, self.width() / self._column_count(), self.theme.px(168))

    def box(self, row: int) -> QRectF:
        cell, columns = self._cell_box(), self._column_count()
        down, right = divmod(row, columns)
        return cell.translated(right * cell.width(), down * cell.height() + self.theme.px(4))

    def _heap_text(self, wool: Wool) -> tuple[str, bool]:
        """Return the text under a heap, and whether it is short."""
        total, units = self.totals.get(wool.id), self.studio.units
        if wool.scraps and total is None:
            used = sum(t.scraps_g for t in self.totals.values())
            return (
                tr("{used} go into cores", used=show_mass(used, units))
                if used
                else tr("not used here")
            ), False
        if total is None:
            return (tr("not counted") if wool.grams is None else tr("not used here")), False
        if total.buy_g > 0:
            return tr("short of {buy}", buy=show_mass(total.buy_g, units)), True
        return tr("{left} will be left", left=show_mass(total.left_g, units)), False

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wools = self.wools
        if not wools:
            painter.setFont(self.theme.text(16))
            painter.drawText(
                QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, tr("The shelf is empty.")
            )
            return
        most = max(
            [w.grams or 0.0 for w in wools] + [t.need_g for t in self.totals.values()] + [1.0]
        )
        for i, wool in enumerate(wools):
            self._paint_heap(painter, i, wool, most)

    def _paint_heap(self, painter: QPainter, i: int, wool: Wool, most: float) -> None:
        d, px = self.theme.dyes, self.theme.px
        cell = self.box(i)
        if i == self.current_row:
            ring = cell.adjusted(px(4), px(2), -px(4), -px(4))
            paint_ring(painter, ring, self.theme, self.hasFocus())
        board = cell.top() + px(104)
        painter.setPen(QPen(d.weld, px(4)))
        under = board + px(2)
        painter.drawLine(QPointF(cell.left(), under), QPointF(cell.right(), under))
        total = self.totals.get(wool.id)
        full = px(92) / heap_across(most, wool)

        def circle(grams: float) -> QRectF:
            side = max(px(8), heap_across(grams, wool) * full)
            return QRectF(cell.center().x() - side / 2, board - side, side, side)

        have = wool.grams or 0.0
        if have > 0:
            paint_heap(painter, circle(have), wool.colour, self.theme)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if total is not None and total.need_g > have:
            painter.setPen(QPen(d.madder, px(1.8), Qt.PenStyle.DashLine))
            painter.drawEllipse(circle(total.need_g))
        elif total is not None and have > 0:
            line_of = LIGHT.paper if QColor(wool.colour).lightness() < 120 else LIGHT.ink
            painter.setPen(QPen(line_of, px(1.8), Qt.PenStyle.DotLine))
            painter.drawEllipse(circle(max(have - total.taken_g + total.scraps_g, 0.01)))
        elif have <= 0:
            painter.setPen(QPen(d.quiet, px(1.4), Qt.PenStyle.DotLine))
            painter.drawEllipse(circle(most * 0.1))
        line = QRectF(cell.left() + px(6), board + px(7), cell.width() - px(12), px(19))
        told, short = self._heap_text(wool)
        for n, (words, font, colour) in enumerate(
            (
                (wool.name, self.theme.text(14, bold=True), d.ink),
                (self._stock_text(wool), self.theme.text(13), d.quiet),
                (told, self.theme.text(13, bold=True), d.madder if short else d.quiet),
            )
        ):
            painter.setFont(font)
            painter.setPen(colour)
            fit = painter.fontMetrics().elidedText(
                words, Qt.TextElideMode.ElideRight, int(line.width())
            )
            painter.drawText(line.translated(0, n * px(17)), Qt.AlignmentFlag.AlignCenter, fit)

    def _stock_text(self, wool: Wool) -> str:
        if wool.grams is None:
            return tr("not counted")
        grams = show_mass(wool.grams, self.studio.units)
        return (
            tr("{grams} of scraps", grams=grams)
            if wool.scraps
            else tr("{grams} there", grams=grams)
        )

    def next_row(self, row: int, right: int, down: int) -> int:
        return row + right + down * self._column_count()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(460), self.theme.px(360))

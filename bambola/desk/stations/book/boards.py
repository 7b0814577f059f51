"""The shelf of figures made: each on a board, the newest first, searchable by name, date or height."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPixmap

from bambola.core.bench import Making
from bambola.core.bench.making import nth_of
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.locale import date_words
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.book.reading import BookReader
from bambola.language import tr, trn

ON_THE_TABLE = ""
"""The key of the figure on the table, which comes first: what it would cost."""
SEEN = "book:shelf:"
MOST_PICTURES = 200
_CAMERA = Camera(turn=14, tip=3)
_FIGURE_PX = 108


class MadeBoards(PaintedList):
    """Makings on boards; pictures are rendered of the visible ones."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        desk: BenchDesk,
        reader: BookReader,
    ) -> None:
        super().__init__(theme, tr("Figures made"), ListModel(self._describe_row))
        self.studio, self.darkroom, self.desk, self.reader = studio, darkroom, desk, reader
        self.makings: Mapping[str, Making] = {}
        self._pictures: dict[str, QPixmap] = {}
        self._asked: set[str] = set()
        reader.placed.connect(self._request_picture)
        darkroom.developed.connect(self._developed)

    def show_makings(self, makings: Mapping[str, Making], words: str) -> None:
        """Show these makings, filtered to those that contain every one of ``words``."""
        self.makings = makings
        wanted = words.lower().split()
        begun = [name for name, making in makings.items() if making.is_begun]
        begun.sort(key=lambda name: (_last_day(makings[name]), name), reverse=True)
        found = [n for n in begun if all(word in self._known_by(n) for word in wanted)]
        self.rows.set_keys([ON_THE_TABLE, *found] if not wanted else found)
        self._fit_height()
        self.redraw()

    def _fit_height(self) -> None:
        lines = -(-self.rows.rowCount() // self._column_count())
        lines = max(2, lines)  # words have room where nothing stands
        self.setMinimumHeight(round(lines * self._cell_box().height() + self.theme.px(12)))

    def resizeEvent(self, event: object) -> None:
        self._fit_height()

    @property
    def in_hand(self) -> str:
        """The key of the selected making."""
        return self.rows.keys[self.current_row] if self.rows.keys else ON_THE_TABLE

    def _known_by(self, name: str) -> str:
        """Return the searchable text of a making: its words, its dates, its notes."""
        making = self.makings[name]
        days = making.finished or "", making.sold or "", *(s.day for s in making.sittings)
        return " ".join((self._describe_row(name), *days, making.next_time)).lower()

    def _describe_row(self, key: str) -> str:
        return ", ".join(part for part in self._board_lines(key) if part)

    def _board_lines(self, key: str) -> tuple[str, str, str]:
        """Return the text under a figure: name, height, progress."""
        units, plan = self.studio.units, self.studio.plan
        if key == ON_THE_TABLE:
            high = show_length(plan.to_height_mm, units) if plan else ""
            name = self.studio.figure.name if self.studio.figure else ""
            return name, high, tr("on the table")
        making = self.makings.get(key)
        if making is None:
            return "", "", ""
        nth = nth_of(key)[1]
        name = making.figure or tr("unnamed")
        tall = making.reached_mm or making.height_mm
        high = show_length(tall, units) if tall else ""
        if making.unread:
            state = tr("damaged: part of it could not be read")
        elif making.sold:
            state = tr("sold {day}", day=date_words(date.fromisoformat(making.sold)))
        elif making.finished:
            state = tr("finished {day}", day=date_words(date.fromisoformat(making.finished)))
        else:
            n = len(making.behind)
            state = trn("{n} step done", "{n} steps done", n)
        return (tr("{name}, no. {n}", name=name, n=nth) if nth > 1 else name), high, state

    # Where each stands

    def _column_count(self) -> int:
        return max(1, self.width() // self.theme.px(138))

    def _cell_box(self) -> QRectF:
        return QRectF(0, 0, self.width() / self._column_count(), self.theme.px(_FIGURE_PX + 74))

    def box(self, row: int) -> QRectF:
        cell, columns = self._cell_box(), self._column_count()
        down, right = divmod(row, columns)
        return cell.translated(right * cell.width(), down * cell.height() + self.theme.px(4))

    def next_row(self, row: int, right: int, down: int) -> int:
        return row + right + down * self._column_count()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(290), self.theme.px(360))

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        seen = QRectF(self.cloth.rect() if event is None else event.rect())
        columns, high = self._column_count(), self._cell_box().height()
        first, last = (int(y // high) * columns for y in (seen.top() - high, seen.bottom() + high))
        for row in range(max(0, first), min(len(self.rows.keys), last + columns)):
            self._paint_board(painter, row, self.rows.keys[row])
        if self.rows.keys in ((), (ON_THE_TABLE,)):
            painter.setFont(self.theme.text(15))
            painter.setPen(self.theme.dyes.quiet)
            words = (
                tr(
                    "Once you make it step by step, it appears here with its hours and how it came "
                    "out."
                )
                if self.rows.keys
                else tr("The book has no figure of that name.")
            )
            top = self.box(len(self.rows.keys) - 1).bottom() if self.rows.keys else 0.0
            inside = QRectF(self.cloth.rect()).adjusted(12, top + 14, -12, 0)
            flags = int(Qt.AlignmentFlag.AlignHCenter) | int(Qt.TextFlag.TextWordWrap)
            painter.drawText(inside, flags, words)

    def _paint_board(self, painter: QPainter, row: int, key: str) -> None:
        d, px, cell = self.theme.dyes, self.theme.px, self.box(row)
        if row == self.current_row:
            ring = cell.adjusted(px(4), px(2), -px(4), -px(4))
            paint_ring(painter, ring, self.theme, self.hasFocus())
        board = cell.top() + px(_FIGURE_PX + 10)
        painter.setPen(QPen(d.weld, px(4)))
        painter.drawLine(QPointF(cell.left(), board), QPointF(cell.right(), board))
        picture = self._pictures.get(key)
        if picture is None:
            self._ask_for_making(key)
        else:
            room = QRectF(0, 0, cell.width() - px(24), px(_FIGURE_PX))
            share = min(room.width() / picture.width(), room.height() / picture.height())
            wide, high = picture.width() * share, picture.height() * share
            spot = QRectF(cell.center().x() - wide / 2, board - px(2) - high, wide, high)
            painter.drawPixmap(spot, picture, QRectF(picture.rect()))
        line = QRectF(cell.left() + px(8), board + px(7), cell.width() - px(16), px(19))
        fonts = self.theme.text(14, bold=True), self.theme.text(13), self.theme.text(13)
        for n, (words, font) in enumerate(zip(self._board_lines(key), fonts, strict=True)):
            painter.setFont(font)
            painter.setPen(d.ink if n == 0 else d.quiet)
            cut = Qt.TextElideMode.ElideRight
            fit = painter.fontMetrics().elidedText(words, cut, int(line.width()))
            painter.drawText(line.translated(0, n * px(17)), Qt.AlignmentFlag.AlignCenter, fit)

    # Pictures

    def picture_of(self, key: str) -> QPixmap | None:
        """Return the picture of a figure, if it has been rendered."""
        return self._pictures.get(key)

    def forget_table(self) -> None:
        """Drop the picture of the open figure, which has changed."""
        self._pictures.pop(ON_THE_TABLE, None)
        self._asked.discard(ON_THE_TABLE)
        if self.isVisible():
            self.redraw()

    def _ask_for_making(self, key: str) -> None:
        if key in self._asked:
            return
        self._asked.add(key)
        if key == ON_THE_TABLE:
            if self.studio.figure is not None:
                self._request_picture(key, self.studio.placement_as_made())
        else:
            self.reader.picture(key, self.desk.book.making(key))

    def _request_picture(self, key: str, placement: Placement) -> None:
        step = 1.2 * placement.height / self.theme.px(_FIGURE_PX) / self.devicePixelRatioF()
        self.darkroom.request(f"{SEEN}{key}", RenderRequest(placement, _CAMERA, step, 2, kept=True))

    def _developed(self, name: str, made: RenderResult) -> None:
        if not name.startswith(SEEN):
            return
        self._pictures[name.removeprefix(SEEN)] = made.pixmap
        while len(self._pictures) > MOST_PICTURES:
            gone = next(iter(self._pictures))
            del self._pictures[gone]
            self._asked.discard(gone)
        self.darkroom.cache_picture(made)
        self.redraw()


def _last_day(making: Making) -> str:
    """Return the day a making was last worked on, or finished."""
    days = [sitting.day for sitting in making.sittings]
    return max([*days, making.finished or ""])

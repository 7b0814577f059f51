"""Marks beside the tape at heights where something turns: dots, with words for the next ones."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen, QPixmap

from bambola.core.heights.values import HeightBand, Rank, Sensible, Turn, turn_tolerance
from bambola.core.quantities import Units, show_length
from bambola.core.words import Words
from bambola.desk.kit.theme import Theme
from bambola.desk.session.height_desk import HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.layout import TableLayout
from bambola.language import current_catalogue, tr

RANKS: tuple[Rank, ...] = ("decide", "buy", "make", "note")
"""What a turn asks, what weighs most first."""
QUIET: tuple[Rank, ...] = ("decide", "buy")
"""What is marked where nobody looks closer."""
PAST_MM = 0.5
"""As far past a turn it is surely turned, mm: that is how close turns are found. Judged."""
_REACH_PX = 7.0
_HEAD_PX, _LONG_PX = 40.0, 230
"""So far down from the upper edge stand the buttons of the views, which words must not lie under; and so wide
at most are words that stand beside the flag."""
_LINES, _MOST_KEPT = 3, 400


@dataclass(frozen=True, slots=True)
class HeightMark:
    """Everything that turns at one height (mm), the most important first."""

    mm: float
    turns: tuple[Turn, ...]

    @property
    def rank(self) -> Rank:
        """The importance of the most important turn."""
        return self.turns[0].rank

    def describe(self, words: Words) -> str:
        """Return what turns here, in a line."""
        first = words.say(self.turns[0].text)
        more = len(self.turns) - 1
        return tr("{first} (and {n} more)", first=first, n=more) if more else first


def marks_of(turns: Sequence[Turn]) -> tuple[HeightMark, ...]:
    """Return turns as marks, one for each height."""
    found: list[list[Turn]] = []
    for turn in turns:
        if found and turn.height_mm - found[-1][-1].height_mm <= turn_tolerance(turn.height_mm):
            found[-1].append(turn)
        else:
            found.append([turn])
    return tuple(
        HeightMark(group[0].height_mm, tuple(sorted(group, key=lambda t: RANKS.index(t.rank))))
        for group in found
    )


def mark_at(
    marks: Sequence[HeightMark], layout: TableLayout, at: QPointF, theme: Theme
) -> HeightMark | None:
    """Return the mark under the pointer, in the margin beside the tape."""
    if not 0 <= at.x() <= layout.tape.left():
        return None
    near = min(marks, key=lambda mark: abs(layout.y_of(mark.mm) - at.y()), default=None)
    reach = theme.px(_REACH_PX)
    return near if near and abs(layout.y_of(near.mm) - at.y()) <= reach else None


def next_marks(
    marks: Sequence[HeightMark], mm: float
) -> tuple[HeightMark | None, HeightMark | None]:
    """Return the next marks below and above a height that need a decision."""
    asking = [mark for mark in marks if mark.rank in QUIET]
    below = next((mark for mark in reversed(asking) if mark.mm < mm), None)
    return below, next((mark for mark in asking if mark.mm > mm), None)


def first_past_turn(mm: float, up: bool, grain: float) -> float:
    """Return the first multiple of ``grain`` (mm) safely past a turn."""
    if up:
        return math.ceil((mm + PAST_MM) / grain) * grain
    return max(grain, math.floor((mm - PAST_MM) / grain) * grain)


def sensible_words(found: Sensible | None, words: Words) -> str:
    """Return the heights without decisions as text, and what is asked beyond."""
    if found is None:
        return tr("At every height there is something to decide.")
    ends = (found.band.from_mm, found.band.to_mm)
    low, high = (show_length(mm, words.units) for mm in ends)
    told = [tr("Nothing to decide from {low} to {high}.", low=low, high=high)]
    if found.below is not None:
        told.append(tr("Lower: {what}.", what=words.say(found.below)))
    if found.above is not None:
        told.append(tr("Taller: {what}.", what=words.say(found.above)))
    return " ".join(told)


@dataclass(frozen=True)
class TapeMarks:
    """What is painted beside the tape: all marks, whether those that only change the making are wanted too,
    the one that is pointed at, the share that is known, and the heights at which nothing is to be decided."""

    marks: tuple[HeightMark, ...]
    closer: bool = False
    pointed: HeightMark | None = None
    share: float = 1.0
    sensible: HeightBand | None = None


def paint_dot(
    painter: QPainter, at: QPointF, rank: Rank, theme: Theme, pointed: bool = False
) -> None:
    """Paint a mark, distinct without colours as well: a full dot for a decision, a ring for something to
    buy."""
    d, px = theme.dyes, theme.px
    colour = {"decide": d.madder, "buy": d.woad}.get(rank, d.quiet)
    size = px({"decide": 3.6, "buy": 3.2}.get(rank, 1.8)) * (1.5 if pointed else 1.0)
    painter.setPen(QPen(colour, px(1.4)))
    painter.setBrush(d.ground if rank == "buy" else colour)
    painter.drawEllipse(at, size, size)


class MarkPainter:
    """Paints the dots in the margin of the tape, and the next turns in words. Dots and broken lines are
    cached, since a drag repaints them constantly."""

    def __init__(self, theme: Theme) -> None:
        self.theme = theme
        self._dots: tuple[TapeMarks, object, QPixmap] | None = None
        self._told: dict[tuple[object, ...], tuple[str, list[str]]] = {}

    def paint(
        self,
        painter: QPainter,
        marked: TapeMarks,
        layout: TableLayout,
        flags: Sequence[QRectF],
        mm: float,
        units: Units,
    ) -> None:
        """Paint the marks, with words for a figure ``mm`` tall, clear of the ``flags``."""
        self._paint_dots(painter, marked, layout)
        below, above = next_marks(marked.marks, mm)
        taken = list(flags)
        shown: list[tuple[HeightMark | None, bool]] = [(marked.pointed, True)]
        shown += [(m, up) for m, up in ((above, True), (below, False)) if m is not marked.pointed]
        for mark, up in shown:
            if mark is not None and layout.y_of(mark.mm) >= layout.tape.top() - self.theme.px(4):
                self._paint_label(painter, mark, up, layout, taken, units)

    def _paint_dots(self, painter: QPainter, marked: TapeMarks, layout: TableLayout) -> None:
        tape, ratio = layout.tape, painter.device().devicePixelRatioF()  # type: ignore[union-attr]
        asked = (tape, layout.mm_px, self.theme.dark, self.theme.scale, ratio)
        if self._dots is None or self._dots[0] is not marked or self._dots[1] != asked:
            pixmap = QPixmap((QSizeF(tape.left(), tape.bottom() + 1) * ratio).toSize())
            pixmap.setDevicePixelRatio(ratio)
            pixmap.fill(Qt.GlobalColor.transparent)
            brush = QPainter(pixmap)
            brush.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._draw_dots(brush, marked, layout)
            brush.end()
            self._dots = marked, asked, pixmap
        painter.drawPixmap(QPointF(0, 0), self._dots[2])

    def _draw_dots(self, painter: QPainter, marked: TapeMarks, layout: TableLayout) -> None:
        d, px = self.theme.dyes, self.theme.px
        x, tape = layout.tape.left() - px(9), layout.tape
        if marked.share < 1.0:  # how far it has been looked at
            painter.setPen(QPen(d.edge.darker(112), px(2)))
            foot = QPointF(x, tape.bottom())
            painter.drawLine(foot, QPointF(x, tape.bottom() - marked.share * tape.height()))
        if marked.sensible is not None:
            ends = (marked.sensible.from_mm, marked.sensible.to_mm)
            low, high = (max(layout.y_of(mm), tape.top()) for mm in ends)
            painter.setPen(QPen(d.lichen, px(3), cap=Qt.PenCapStyle.RoundCap))
            painter.drawLine(QPointF(px(4), low), QPointF(px(4), high))
        for mark in marked.marks:
            if (y := layout.y_of(mark.mm)) < tape.top() - 1:
                break
            if mark.rank not in QUIET and not marked.closer:
                continue
            paint_dot(painter, QPointF(x, y), mark.rank, self.theme, mark is marked.pointed)

    def _paint_label(
        self,
        painter: QPainter,
        mark: HeightMark,
        up: bool,
        layout: TableLayout,
        taken: list[QRectF],
        units: Units,
    ) -> None:
        px, d = self.theme.px, self.theme.dyes
        left = layout.tape.right() + px(10)
        spot = min(layout.spots.values(), key=lambda s: s.axis + s.left * layout.mm_px)
        wide = spot.axis + spot.left * layout.mm_px - left - px(8)
        wide = min(max(wide, float(px(96))), float(px(190)))
        height, lines = self._break_lines(mark, round(wide), units)
        line = self._line_height()
        y = layout.y_of(mark.mm)
        box = QRectF(left, y - line / 2, wide, line * (1 + len(lines)))
        for other in taken:
            if box.intersects(other.adjusted(0, -px(6), 0, px(6))):
                if up:
                    box.moveBottom(other.top() - px(6))
                else:
                    box.moveTop(other.bottom() + px(6))
        beside = box.top() < px(_HEAD_PX) and bool(taken)
        if beside:  # there is room over the line of the flag, if not over the flag
            flag = min(taken, key=lambda other: other.top())
            height, lines = self._break_lines(mark, px(_LONG_PX), units)
            letters = QFontMetricsF(self.theme.text(13))
            long = max(map(letters.horizontalAdvance, (height, *lines)))
            box.setSize(QSizeF(long, line * (1 + len(lines))))
            box.moveBottomLeft(QPointF(flag.right() + px(12), flag.center().y() - px(3)))
        if box.top() < px(_HEAD_PX) or box.bottom() > layout.ground_y:
            return  # its dot is there all the same
        taken.append(box)
        ground = QColor(d.ground)
        ground.setAlpha(215)
        painter.fillRect(box.adjusted(-3, -1, 3, 1), ground)
        if not beside:
            painter.setPen(QPen(d.quiet, px(1)))
            end = QPointF(left - px(2), box.top() + line / 2)
            painter.drawLine(QPointF(layout.tape.right(), y), end)
        painter.setPen(d.madder if mark.rank == "decide" else d.ink)
        painter.setFont(self.theme.text(13, bold=True))
        at = QPointF(box.left(), box.top() + 0.78 * line)
        painter.drawText(at, height)
        painter.setPen(d.ink)
        painter.setFont(self.theme.text(13))
        for n, text in enumerate(lines, 1):
            painter.drawText(QPointF(at.x(), at.y() + n * line), text)

    def _line_height(self) -> float:
        return QFontMetricsF(self.theme.text(13)).lineSpacing()

    def _break_lines(self, mark: HeightMark, wide: int, units: Units) -> tuple[str, list[str]]:
        """Return height and turns as lines of this width in pixels."""
        asked = (mark.mm, mark.turns[0].kind, mark.turns[0].about, wide, units, self.theme.scale)
        if asked not in self._told:
            if len(self._told) > _MOST_KEPT:
                self._told.clear()
            metrics = QFontMetricsF(self.theme.text(13))
            lines = [""]
            for word in mark.describe(Words(units, current_catalogue())).split():
                longer = f"{lines[-1]} {word}".strip()
                if lines[-1] and metrics.horizontalAdvance(longer) > wide:
                    lines.append(word)
                else:
                    lines[-1] = longer
            if len(lines) > _LINES:
                rest = " ".join(lines[_LINES - 1 :])
                last = metrics.elidedText(rest, Qt.TextElideMode.ElideRight, wide)
                lines = [*lines[: _LINES - 1], last]
            self._told[asked] = show_length(mark.mm, units), lines
        return self._told[asked]


class TurnMarks:
    """Keeps the marks up to date with what is known of other heights."""

    def __init__(self, studio: EditorSession, heights: HeightDesk, theme: Theme) -> None:
        self.studio, self.heights, self.theme = studio, heights, theme
        self.marked = TapeMarks(())

    def update_marks(self) -> None:
        """Take over the present knowledge of other heights."""
        marks = marks_of(self.heights.turns)
        share = self.heights.share if self.heights.is_sweeping else 1.0
        self.marked = replace(self.marked, marks=marks, share=share, pointed=None)
        self.another_height()

    def another_height(self) -> None:
        """Update after a change of height: nothing is pointed at, and other heights may be sensible."""
        found = self.heights.sensible(self.studio.height_mm) if self.studio.plan else None
        band = found.band if found else None
        if band != self.marked.sensible or self.marked.pointed is not None:
            self.marked = replace(self.marked, sensible=band, pointed=None)

    def next(self, up: bool) -> HeightMark | None:
        """Return the next mark above or below the figure's height that needs a decision."""
        return next_marks(self.marked.marks, self.studio.height_mm)[int(up)]

    def point(self, mark: HeightMark | None) -> None:
        """Point at a mark, or at nothing."""
        self.marked = replace(self.marked, pointed=mark, closer=False)

    def point_at(self, at: QPointF, layout: TableLayout) -> bool:
        """Update for the mouse in the margin of the tape; return whether anything changed."""
        closer = self.heights.swept is not None and 0 <= at.x() < layout.tape.left()
        shown = [m for m in self.marked.marks if closer or m.rank in QUIET]
        pointed = mark_at(shown, layout, at, self.theme) if closer else None
        if not closer and not self.marked.closer:
            return False
        if (closer, pointed) == (self.marked.closer, self.marked.pointed):
            return False
        self.marked = replace(self.marked, closer=closer, pointed=pointed)
        return True

    def describe(self) -> str:
        """Return the mark pointed at as text; for the margin itself, the sensible heights."""
        mark, words = self.marked.pointed, self.studio.words
        if mark is None:
            found = self.heights.sensible(self.studio.height_mm)
            return sensible_words(found, words) if self.marked.closer else ""
        rows = [
            tr("{text}; below: {below}", text=words.say(t.text), below=words.say(t.below))
            for t in mark.turns
        ]
        height = show_length(mark.mm, self.studio.units)
        return "\n".join((height, *rows))

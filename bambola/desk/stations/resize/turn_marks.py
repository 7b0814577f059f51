"""The marks beside the tape of the open figure: turns, the mark under the pointer, sensible heights."""

from __future__ import annotations

from dataclasses import replace
from html import escape

from PyQt6.QtCore import QPointF

from bambola.core.quantities import show_length
from bambola.desk.kit.theme import Theme
from bambola.desk.session.height_desk import HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.layout import TableLayout
from bambola.desk.stations.resize.marks import (
    QUIET,
    HeightMark,
    Marked,
    mark_at,
    marks_of,
    next_marks,
    sensible_words,
)
from bambola.language import tr


class TurnMarks:
    """Keeps the marks up to date with what is known of other heights."""

    def __init__(self, studio: EditorSession, heights: HeightDesk, theme: Theme) -> None:
        self.studio, self.heights, self.theme = studio, heights, theme
        self.marked = Marked(())

    def take(self) -> None:
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

    def look(self, at: QPointF, layout: TableLayout) -> bool:
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

    def told(self) -> str:
        """Return the mark pointed at as text; for the margin itself, the sensible heights."""
        mark, words = self.marked.pointed, self.studio.words
        if mark is None:
            found = self.heights.sensible(self.studio.height_mm)
            return escape(sensible_words(found, words)) if self.marked.closer else ""
        rows = [
            tr("{text}; below: {below}", text=words.say(t.text), below=words.say(t.below))
            for t in mark.turns
        ]
        height = show_length(mark.mm, self.studio.units)
        return "<br>".join((f"<b>{escape(height)}</b>", *map(escape, rows)))

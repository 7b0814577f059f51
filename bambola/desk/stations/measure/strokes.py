"""Strokes that regroup parts: a stroke from one part to another joins them, one across a part cuts it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable

import numpy as np

from bambola.core.figure.survey import Spot
from bambola.core.plan.reading.regrouping import cut_across, merge_parts
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.board import Board
from bambola.language import part_name, tr

_LOOKED_AT = 41
"""At so many places along a stroke is looked what part is seen there."""


class RegroupingStrokes:
    """Joins and cuts parts by strokes on the board. ``done`` gets the resulting part."""

    def __init__(self, studio: EditorSession, board: Board) -> None:
        self.studio, self.board = studio, board
        self.done: Callable[[str], None] = lambda part: None

    def told(self, start: Spot, end: Spot) -> str:
        """Return what the stroke would do, in few words."""
        figure, over = self.studio.figure, self._over(start, end)
        if figure is None or not over:
            return tr("from part to part, or across one")
        names = [figure.by_id[part].name for part in over]
        if len(names) > 1:
            return tr("joins {part} and {other}", part=names[0], other=names[1])
        return tr("cuts {part} in two", part=names[0])

    def take(self, start: Spot, end: Spot) -> None:
        """Join the parts at the ends of a stroke, or cut the one it crosses."""
        figure, survey, over = self.studio.figure, self.studio.survey, self._over(start, end)
        if figure is None:
            return
        if not over:
            self.studio.refused.emit(
                tr(
                    "A stroke joins the part it begins on to the one it ends on, or cuts one that it crosses "
                    "from outside to outside: this one does neither."
                )
            )
            return
        try:
            if len(over) > 1:
                new, noted = merge_parts(figure, survey, *over)
                made = over[1] if over[1] in new.by_id else over[0]
                words = tr("Join two parts")
            else:
                name = part_name("")
                view = self.board.view
                new, noted, made = cut_across(
                    figure, survey, over[0], view, (start, end), name, self.studio.bench
                )
                words = tr("Cut a part in two")
        except ValueError as error:
            self.studio.refuse(error)
            return

        def then(well: bool) -> None:
            if well:
                self.studio.selection.take_part(made)
                self.done(made)

        self.studio.edit(words, new, noted, waits=False, then=then)

    def _over(self, start: Spot, end: Spot) -> tuple[str, ...]:
        """Return the two parts at the ends of a stroke, or the one it crosses; empty for anything else."""
        lay = self.board.lay
        if lay is None:
            return ()
        seen = [
            self.board.part_at(lay.to_screen(float(u), float(v)))
            for u, v in np.linspace(start, end, _LOOKED_AT)
        ]
        first, last = seen[0], seen[-1]
        if first and last and first != last:
            return first, last
        crossed = Counter(part for part in seen if part and part not in (first, last))
        return tuple(part for part, _ in crossed.most_common(1))

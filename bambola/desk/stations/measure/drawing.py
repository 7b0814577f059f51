"""Turns a drawn line into a known part measured again, or a new part that is asked about."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from functools import partial

import numpy as np

from bambola.core.figure import Trace
from bambola.core.figure.survey import Spot
from bambola.core.plan.making.ready_to_wear import with_ring
from bambola.core.plan.reading.regrouping import cut_across, merge_parts
from bambola.core.plan.reading.tracing import (
    measure_anew,
    proposed_kind,
    proposed_pair,
    proposed_parent,
    ring_round,
    with_new_part,
    with_root_traced,
    wool_on,
)
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.hands import LineHand
from bambola.desk.stations.measure.new_part import RING, Answers, NewPartSlip, PartProposal
from bambola.language import part_name, tr

_LOOKED_AT = 41
"""At so many places along a stroke is looked what part is seen there."""


class RegroupingStrokes:
    """Joins and cuts parts by strokes on the board. ``done`` gets the resulting part."""

    def __init__(self, studio: EditorSession, board: Board) -> None:
        self.studio, self.board = studio, board
        self.done: Callable[[str], None] = lambda part: None

    def effect_words(self, start: Spot, end: Spot) -> str:
        """Return what the stroke would do, in few words."""
        figure, over = self.studio.figure, self._parts_under_stroke(start, end)
        if figure is None or not over:
            return tr("from part to part, or across one")
        names = [figure.by_id[part].name for part in over]
        if len(names) > 1:
            return tr("joins {part} and {other}", part=names[0], other=names[1])
        return tr("cuts {part} in two", part=names[0])

    def accept_stroke(self, start: Spot, end: Spot) -> None:
        """Join the parts at the ends of a stroke, or cut the one it crosses."""
        figure, survey, over = (
            self.studio.figure,
            self.studio.survey,
            self._parts_under_stroke(start, end),
        )
        if figure is None:
            return
        if not over:
            self.studio.refused.emit(
                tr(
                    "This stroke does neither: to join two parts, start on one and end on the "
                    "other; to cut one, cross it from edge to edge."
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
                self.studio.selection.select_part(made)
                self.done(made)

        self.studio.edit(words, new, noted, waits=False, then=then)

    def _parts_under_stroke(self, start: Spot, end: Spot) -> tuple[str, ...]:
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


class PartDrawing:
    """The drawing tool, and the slip that asks what a new line is. ``changed`` is called when the tool's next
    action changes."""

    def __init__(
        self, studio: EditorSession, board: Board, slip: NewPartSlip, changed: Callable[[], None]
    ) -> None:
        self.studio, self.board, self.slip, self._changed = studio, board, slip, changed
        self.strokes = RegroupingStrokes(studio, board)
        self.line = LineHand(board, self.accept_line, self.strokes)

    def accept_line(self, trace: Trace) -> None:
        """Accept a drawn line: ask about a new part, or measure a known one again."""
        figure, survey = self.studio.figure, self.studio.survey
        if figure is None:
            return
        try:
            if trace.part not in figure.by_id:
                self._ask_what_it_is(trace)
                return
            words = tr("Draw along {name:lower}", name=figure.by_id[trace.part].name)
            self.studio.edit(words, *measure_anew(figure, survey, trace), waits=False)
        except ValueError as error:
            self.studio.refuse(error)

    def _ask_what_it_is(self, trace: Trace) -> None:
        figure, survey = self.studio.figure, self.studio.survey
        assert figure is not None
        kind = proposed_kind(trace)
        parent, name = proposed_parent(figure, survey, trace, kind)
        pair = proposed_pair(trace)
        if self.is_untouched():
            parent, name = None, "body"  # the first line is what all others sit on
        elif round_it := ring_round(figure, survey, trace):
            kind, parent, name, pair = RING, round_it.part, "", False
        self.line.proposed = trace
        proposal = PartProposal(trace.points, kind, parent, pair, name)
        answers = Answers(partial(self.take_new, trace), self._drop_proposal)
        self.slip.ask(proposal, figure.parts, answers)

    def take_new(self, trace: Trace, name: str, kind: str, parent: str, pair: bool) -> None:
        """Make the drawn line a new part."""
        self.line.proposed = None
        figure, survey = self.studio.figure, self.studio.survey
        if figure is None:
            return
        try:
            if kind == RING:
                round_it, noted = ring_round(figure, survey, trace), survey
                at = round_it.along if round_it and round_it.part == parent else 0.5
                wool = wool_on(figure.by_id[parent], self.studio.bench)
                broad, side = trace.length, trace.view == "side"
                new, part = with_ring(figure, parent, at, broad, side, None, wool, name)
            elif self.is_untouched():
                new, noted, part = with_root_traced(figure, survey, trace, name, kind)
            else:
                new, noted, part = with_new_part(
                    figure, survey, trace, name, kind, parent, pair, self.studio.bench
                )
        except ValueError as error:
            self.studio.refuse(error)
            return

        def then(well: bool) -> None:
            if well:
                self.studio.selection.select_part(part)
                self.line.for_new = False
                self._changed()

        self.studio.edit(tr("Draw {name:lower}", name=name), new, noted, waits=False, then=then)
        self.board.setFocus()

    def _drop_proposal(self) -> None:
        self.line.proposed = None
        self.board.setFocus()
        self.board.update()

    def is_untouched(self) -> bool:
        """Return whether the figure is still the round placeholder that pictures start with."""
        figure, survey = self.studio.figure, self.studio.survey
        return bool(
            figure and len(figure.parts) == 1 and not survey.traces and figure.id == "new-figure"
        )

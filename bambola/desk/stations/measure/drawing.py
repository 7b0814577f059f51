"""Turns a drawn line into a known part measured again, or a new part that is asked about."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from bambola.core.figure import Trace
from bambola.core.plan.making.ready_to_wear import with_ring
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
from bambola.desk.stations.measure.strokes import RegroupingStrokes
from bambola.language import tr


class PartDrawing:
    """The drawing tool, and the slip that asks what a new line is. ``changed`` is called when the tool's next
    action changes."""

    def __init__(
        self, studio: EditorSession, board: Board, slip: NewPartSlip, changed: Callable[[], None]
    ) -> None:
        self.studio, self.board, self.slip, self._changed = studio, board, slip, changed
        self.strokes = RegroupingStrokes(studio, board)
        self.line = LineHand(board, self.take, self.strokes)

    def take(self, trace: Trace) -> None:
        """Accept a drawn line: ask about a new part, or measure a known one again."""
        figure, survey = self.studio.figure, self.studio.survey
        if figure is None:
            return
        try:
            if trace.part not in figure.by_id:
                self._ask(trace)
                return
            words = tr("Draw along {name:lower}", name=figure.by_id[trace.part].name)
            self.studio.edit(words, *measure_anew(figure, survey, trace), waits=False)
        except ValueError as error:
            self.studio.refuse(error)

    def _ask(self, trace: Trace) -> None:
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
        answers = Answers(partial(self.take_new, trace), self._leave)
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
                self.studio.selection.take_part(part)
                self.line.for_new = False
                self._changed()

        self.studio.edit(tr("Draw {name:lower}", name=name), new, noted, waits=False, then=then)
        self.board.setFocus()

    def _leave(self) -> None:
        self.line.proposed = None
        self.board.setFocus()
        self.board.update()

    def is_untouched(self) -> bool:
        """Return whether the figure is still the round placeholder that pictures start with."""
        figure, survey = self.studio.figure, self.studio.survey
        return bool(
            figure and len(figure.parts) == 1 and not survey.traces and figure.id == "new-figure"
        )

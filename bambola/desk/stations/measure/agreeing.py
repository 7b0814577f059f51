"""Proposes the parts found in pictures, and asks about them one by one, the surest first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from bambola.core.figure import Figure, Survey
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.graft import descendants
from bambola.core.plan.reading.proposing import Proposal as Found
from bambola.core.plan.reading.tracing import as_agreed, not_a_part
from bambola.core.sight.build import origin_of
from bambola.core.solids import place
from bambola.core.solids.outlines import outline_of_copy
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.drawing import PartDrawing
from bambola.desk.stations.measure.new_part import Answers, NewPartSlip, PartProposal
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import part_name, tr, trn
from bambola.shipped import body_plans

if TYPE_CHECKING:  # what reads strokes is loaded when it is asked for
    from bambola.core.strokes.document import PartStroke

RATHER, HARDLY = 0.75, 0.5
"""From how sure it is on a part is told to be rather sure, and below what it is a guess. Judged."""


def strokes_of_sure_parts(found: Found) -> list[PartStroke]:
    """Return the lines of the named and rather sure parts, in pixels of the picture files."""
    from bambola.core.strokes.document import PartStroke

    sure = {part for part, how in found.sure.items() if how >= RATHER}
    names = {part.id: part.name for part in found.figure.parts if part.id in sure}
    strokes = []
    for trace in found.survey.traces:
        framing, name = found.survey.framing(trace.view), names.get(trace.part, "")
        if framing is not None and name not in ("", part_name("")):
            places = tuple(framing.original(*framing.to_px(*at)) for at in trace.points)
            strokes.append(PartStroke(view=trace.view, name=name, points=places))
    return strokes


class ProposalReview:
    """Proposes parts and asks about each. ``changed`` is called when another part is asked about."""

    def __init__(
        self, drawing: PartDrawing, board: Board, sighting: Sighting, changed: Callable[[], None]
    ) -> None:
        self.studio: EditorSession = drawing.studio
        self.slip: NewPartSlip = drawing.slip
        self.drawing, self.board, self.sighting = drawing, board, sighting
        self._changed = changed
        self._waiting: list[str] = []
        self._laid: Figure | None = None
        self._like = ""
        self._way_is_told = False
        self._sure: dict[str, float] = {}
        self.agreed: Callable[[], None] = lambda: None
        self.unlike: Callable[[Found], None] = lambda found: None
        drawing.strokes.done = self._ask_about_regrouped
        self.studio.plan_changed.connect(self._stop_if_undone)
        self.studio.survey_changed.connect(self._stop_if_undone)

    def may_propose(self) -> bool:
        """Return whether parts can be proposed: a picture is loaded, and nothing is drawn except an earlier
        proposal. If not, the maker is told what is missing."""
        if not self._may_lay():
            self.studio.refused.emit(
                tr(
                    "Parts can only be proposed while the figure is still empty: undo what you "
                    "drew, or begin a new figure from its pictures."
                )
            )
        elif not self.sighting.framed_silhouettes():
            self.studio.refused.emit(
                tr("Load a picture of the figure first; its parts are found within its outline.")
            )
        else:
            return True
        return False

    def propose(
        self, plans: Sequence[BodyPlan] | None = None, looks_left: bool | None = None
    ) -> None:
        """Look for the parts of a figure that is not drawn yet: of one of ``plans``, or of any it is like.
        ``looks_left`` is the direction of the side picture, if known. An untouched proposal may be
        replaced."""
        if self.may_propose():
            self.leave()
            self._changed()
            self._way_is_told = looks_left is not None
            every = body_plans() if plans is None else plans
            self.sighting.propose(every, self._accept_proposal, looks_left)

    def _may_lay(self) -> bool:
        return self.drawing.is_untouched() or self.studio.figure is self._laid

    def _accept_proposal(self, found: Found) -> None:
        """Make everything found the figure, as one edit."""
        if not self._may_lay():
            return  # the maker was quicker
        named, nameless = found.with_names_only(part_name(""))
        if nameless and not found.like:
            self.unlike(found)  # what has no name is drawn, and not agreed with
            return
        if nameless:
            self.studio.refused.emit(
                trn(
                    "One more part was found, but not what it is: draw a stroke along it.",
                    "{n} more parts were found, but not what they are: draw a stroke along each.",
                    nameless,
                )
            )
        found = named
        survey = self.studio.survey.replaced(traces=found.survey.traces, taken=found.survey.taken)
        turned = False
        for framing in found.survey.framings:
            before = survey.framing(framing.view)
            if before is not None:  # else that picture was taken away meanwhile
                turned = turned or before.flipped != framing.flipped
                survey = survey.framed(framing)
        if turned and not self._way_is_told:
            self.studio.refused.emit(
                tr("The side picture was mirrored: the figure looked the other way.")
            )

        def then(well: bool) -> None:
            if well:
                self._laid, self._like, self._sure = found.figure, found.like, found.sure
                self._waiting = sorted(found.sure, key=lambda part: -found.sure[part])
                self.drawing.line.regroups = True
                self._ask_next()

        self.studio.edit(tr("Propose its parts"), found.figure, survey, waits=False, then=then)

    def _ask_next(self) -> None:
        figure = self.studio.figure
        while self._waiting and (figure is None or self._waiting[0] not in figure.by_id):
            self._waiting.pop(0)
        if not self._waiting or figure is None:
            self._accept_rest()
            return
        part, survey = figure.by_id[self._waiting[0]], self.studio.survey
        traces = survey.traces_of(part.id)
        if traces and all(trace.view != self.board.view for trace in traces):
            self.board.turn_to(traces[0].view)
        self.studio.selection.select_part(part.id)
        self.drawing.line.named = tuple(self._waiting)
        of_it = descendants(figure, part.id)
        copies = place(figure).copies_of(part.id)
        outline = outline_of_copy(copies[0], self.board.view, origin_of(figure, survey))
        seen = traces[0].points if traces else tuple((float(u), float(v)) for u, v in outline)
        self.slip.ask(
            PartProposal(seen, part.shape.kind, part.parent, len(copies) > 1, part.name),
            [other for other in figure.parts if other.id not in of_it],
            Answers(
                self._accept_part,
                self._leave_part_out,
                self._proposal_text(part.id),
                tr("It is not a part"),
                self._accept_rest,
            ),
        )
        self._changed()

    def _proposal_text(self, part: str) -> str:
        like = tr("Like the body plan {plan}.", plan=self._like) + " " if self._like else ""
        return like + self._how_sure(self._sure[part], len(self._waiting))

    def _how_sure(self, sure: float, left: int) -> str:
        if sure >= RATHER:
            return tr("{left} to go; this one is rather sure", left=left)
        if sure >= HARDLY:
            return tr("{left} to go; this one is likely", left=left)
        return tr("{left} to go; this one is a guess", left=left)

    def _accept_part(self, name: str, kind: str, parent: str, pair: bool) -> None:
        figure, survey, part = self.studio.figure, self.studio.survey, self._waiting.pop(0)
        if figure is not None and part in figure.by_id:
            try:
                new, noted = as_agreed(figure, survey, part, name, kind, parent or None, pair)
            except ValueError as error:
                self.studio.refuse(error)
            else:
                if (new, noted) != (figure, survey):
                    self._edit_and_go_on(tr("Agree on {name:lower}", name=name), new, noted)
                    return
        self._ask_next()

    def _edit_and_go_on(self, words: str, figure: Figure, survey: Survey) -> None:
        """Make a change, and ask about the next part even if it is refused."""
        self.studio.edit(words, figure, survey, waits=False, then=lambda _: self._ask_next())

    def _leave_part_out(self) -> None:
        figure, survey, part = self.studio.figure, self.studio.survey, self._waiting.pop(0)
        if figure is not None and part in figure.by_id:
            words = tr("{name:lower} is not a part", name=figure.by_id[part].name)
            try:
                self._edit_and_go_on(words, *not_a_part(figure, survey, part))
                return
            except ValueError as error:
                self.studio.refuse(error)
        self._ask_next()

    def _ask_about_regrouped(self, part: str) -> None:
        """Ask next about the result of a stroke."""
        if self.asks:
            self._sure.setdefault(part, HARDLY)
            self._waiting = [part, *(other for other in self._waiting if other != part)]
            self._ask_next()

    def _accept_rest(self) -> None:
        """Accept all remaining parts as they are."""
        self.leave()
        self._changed()
        self.agreed()
        self.board.setFocus()

    def leave(self) -> None:
        """Stop asking: another figure is open, or everything is answered."""
        self._waiting = []
        self.drawing.line.named = ()
        self.drawing.line.regroups = False
        self.slip.hide()

    def _stop_if_undone(self) -> None:
        """Stop asking once the proposal is undone."""
        if self._waiting and self.drawing.is_untouched():
            self.leave()
            self._changed()

    @property
    def asks(self) -> bool:
        """Whether there are parts still to be agreed with."""
        return bool(self._waiting)

"""The plan that a making follows: kept whole when it is begun, whatever is learned or changed since."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from bambola import __version__
from bambola.core.bench import Making
from bambola.core.bench.making import KeptCard
from bambola.core.book.kept import kept_plan
from bambola.core.methods.told import mark_of
from bambola.core.order import Step
from bambola.core.order.keys import TaskKey
from bambola.core.order.steps import base_part
from bambola.core.plan import Plan
from bambola.core.plan.counter.carry_on import place_in
from bambola.desk.kit.thread import take_up
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.order.begun import (
    BegunSlip,
    LookingBack,
    begun_with,
    on_the_table,
    steps_as_begun,
)
from bambola.language import tr


class FollowedPlan(QWidget):
    """Keeps a making to the plan it was begun with, until its maker takes another."""

    studio: EditorSession
    desk: BenchDesk
    making: Making
    begun: BegunSlip
    looking_back: LookingBack
    _is_as_begun: bool

    @property
    def steps(self) -> tuple[Step, ...]:
        """The steps of the plan, or those at the beginning of the making while its saved cards are shown."""
        steps = self.studio.plan.steps if self.studio.plan else ()
        return steps_as_begun(self.making.cards, steps) if self._is_as_begun else steps

    @property
    def current_step(self) -> Step | None:
        """The current step."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Show the current step."""
        raise NotImplementedError

    def _load_making(self) -> None:
        """Load the making in hand."""
        raise NotImplementedError

    def _save_minutes(self) -> None:
        """Save the making."""
        raise NotImplementedError

    def look_for_changes(self) -> None:
        """Ask which plan to follow if the making was begun with another one."""
        begun, self._is_as_begun = begun_with(self.making, self.studio), False
        if begun is None:
            self.looking_back.call_off()
            self._look_at_cards()
        else:
            self.begun.wait()
            self.looking_back.ask(begun)

    def _look_at_cards(self) -> None:
        """Keep the saved cards if the program now plans the same design differently."""
        making, plan = self.making, self.studio.plan
        is_over = not making.begun or bool(making.finished)
        if plan is None or is_over or making.told_as == mark_of(plan):
            self.begun.show_message("")
            if plan is not None and not is_over and making.kept is None:
                # Begun before plans were kept: it is kept to this one from here on.
                self.making = making.replaced(**self._told_by(plan))
                self._save_minutes()
            return
        self._is_as_begun = bool(making.cards)
        words = (
            tr(
                "Some steps are planned differently now than when you began. You continue with "
                "the cards as they were."
            )
            if making.cards
            else tr(
                "This was begun with an earlier version of Bambola, which gave some sizes "
                "differently. What is done stays done; measure it before you go on, since the "
                "cards from here on are new."
            )
        )
        self.begun.show_message(words, asks=not making.cards, has_old=False)
        step = self.steps[place_in(self.steps, making)]
        take_up(self.studio, step)

    def _with_plan(self, making: Making) -> Making:
        """Return a making that follows the present plan; its cards are saved once their texts are known."""
        plan = self.studio.plan
        assert plan is not None
        mark = mark_of(plan)
        self.looking_back.tell_cards(plan, lambda cards: self._keep_cards(mark, cards))
        return making.replaced(
            begun=on_the_table(self.studio), told_as=mark, cards=(), **self._told_by(plan)
        )

    def _told_by(self, plan: Plan) -> dict[str, object]:
        """Return the numbers of a plan and the bench it was told by, as a making keeps them."""
        bench = self.studio.bench
        kept = kept_plan(plan, bench, __version__, self.studio.say)
        return {"kept": kept, "bench": bench.model_dump_json(exclude_defaults=True)}

    def _keep_cards(self, mark: str, cards: tuple[KeptCard, ...]) -> None:
        """Save the texts of the cards of the plan with this fingerprint, if the making still follows it."""
        if self.making.told_as == mark:
            self.making = self.making.replaced(cards=cards)
            self._save_minutes()

    def _looked_back(self, words: str) -> None:
        """Ask about the differences, or go on if there are none."""
        self.begun.show_message(words)
        if words:
            self.refresh()
        else:
            self.take_plan()

    def take_plan(self) -> None:
        """Follow the present plan."""
        self._is_as_begun = False
        self.making = self._with_plan(self.making)
        self._save_minutes()
        self.begun.show_message("")
        if self.steps:
            take_up(self.studio, self.steps[place_in(self.steps, self.making)])
        self.setFocus()
        self.refresh()

    def go_back(self) -> None:
        """Return to the plan the making was begun with."""
        begun = begun_with(self.making, self.studio)
        if begun is not None:
            words = tr("Back to the plan you began with")
            self.studio.bring_back(words, begun.figure, begun.brief)
        self.setFocus()

    def take_lessons(self) -> None:
        """Use what the making has taught so far for those of its parts that are not begun."""
        self._load_making()  # the pad may not have shown it yet
        begun = [*self.making.behind, *self.making.minutes, self.making.at]
        parts = {base_part(TaskKey(key).about) or "" for key in begun}
        if self.desk.take_for_the_rest(parts):
            self.making = self._with_plan(self.desk.take_making())
            self._save_minutes()
            self.refresh()

"""Changes of the brief, one at a time; a subclass plans the result."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QObject

from bambola.core.figure import Brief, Figure, Move, SizeRule
from bambola.core.figure.variants import Alteration, altered
from bambola.language import tr

MOST_FIGURES = 1000
"""As many as a brief may ask for."""


class Asking(QObject):
    """Changes the brief. Whoever owns the brief plans the change, and takes it back if it cannot be
    planned."""

    figure: Figure | None
    brief: Brief

    def _change_brief(
        self,
        change: Callable[[Brief], Brief],
        words: str,
        gesture: int = 0,
        waits: bool = False,
    ) -> bool:
        """Replace the brief by ``change`` of it and plan that. Returns whether it could be planned; without
        ``waits``, True may mean that it is still being planned."""
        raise NotImplementedError

    @property
    def wished(self) -> Brief:
        """The brief as last requested, even if its plan is not finished."""
        raise NotImplementedError

    def refuse(self, error: Exception) -> None:
        """Tell the maker why something cannot be done."""
        raise NotImplementedError

    def answer(self, code: str, option: str | None) -> bool:
        """Answer a question, or withdraw the answer."""
        return self._change_brief(
            lambda brief: brief.answered(code, option), tr("Answer a question")
        )

    def school(self, choice: str, school: str | None) -> bool:
        """Choose a school for ``choice``; None is the default."""
        return self._change_brief(
            lambda brief: brief.schooled(choice, school), tr("Choose a way of making")
        )

    def change_wish(self, words: str, gesture: int = 0, **wishes: float) -> bool:
        """Change a wish of the brief, such as ``steady`` or ``hang_tilt``."""
        return self._change_brief(lambda brief: brief.replaced(**wishes), words, gesture)

    def move_steps(self, moves: Sequence[tuple[str, str | None]]) -> bool:
        """Move steps to right after others (None: to the front), as the maker's own moves."""
        steps = {step for step, _ in moves}

        def moved(brief: Brief) -> Brief:
            kept = tuple(m for m in brief.moves if m.step not in steps)
            return brief.replaced(moves=(*kept, *(Move(step=s, after=after) for s, after in moves)))

        return self._change_brief(moved, tr("Move a step"), waits=True)

    def unmove(self, step: str) -> bool:
        """Undo the maker's own move of a step."""

        def unmoved(brief: Brief) -> Brief:
            return brief.replaced(moves=tuple(m for m in brief.moves if m.step != step))

        return self._change_brief(unmoved, tr("Undo a move"))

    def set_count(self, count: int, gesture: int = 0) -> bool:
        """Set how many figures are made."""
        count = max(1, min(MOST_FIGURES, count))
        return self._change_brief(
            lambda brief: brief.replaced(count=count), tr("Change how many"), gesture
        )

    def set_trial(self, on: bool) -> bool:
        """Make one of several figures first as a trial, or all at once."""
        return self._change_brief(
            lambda brief: brief.replaced(trial=on), tr("Make one as a trial first")
        )

    def hold(self, part: str, held: bool) -> bool:
        """Hold a part at the size it was made, or let it scale again."""
        rules = (SizeRule(rule="hold"),) if held else ()
        words = tr("Hold a size") if held else tr("Remove a size")
        return self._change_brief(lambda brief: brief.ruled(part, rules), words)

    def is_held(self, part: str) -> bool:
        """Return whether the brief holds the whole part."""
        return any(r.rule == "hold" and r.measure == "all" for r in self.wished.rules.get(part, ()))

    def rule(self, part: str, measure: str, rule: SizeRule | None) -> bool:
        """Set a size rule for one measure (or ``all``) of a part, or remove it."""

        def ruled(brief: Brief) -> Brief:
            others = tuple(r for r in brief.rules.get(part, ()) if r.measure != measure)
            return brief.ruled(part, (*others, rule) if rule else others)

        return self._change_brief(ruled, tr("Change a size rule"))

    def rule_of(self, part: str, measure: str) -> SizeRule | None:
        """Return the size rule of one measure (or ``all``) of a part."""
        return next((r for r in self.wished.rules.get(part, ()) if r.measure == measure), None)

    def alter(
        self, words: str, change: Callable[[Figure, Alteration], Alteration], gesture: int = 0
    ) -> bool:
        """Change pose, expression, colours or outfit of the figure."""
        figure = self.figure
        if figure is None:
            return False
        try:
            new = change(figure, self.brief.altered)
            altered(figure, new)
        except ValueError as error:
            self.refuse(error)
            return False
        return self._change_brief(lambda brief: brief.replaced(altered=new), words, gesture)

    def correct(self, on: bool) -> bool:
        """Adjust small features of the face for the size, or scale them like everything else."""
        words = tr("Correct the face for its size") if on else tr("Make the face as it was")
        return self._change_brief(lambda brief: brief.replaced(corrected=on), words)

    def keep_variant(self, name: str) -> bool:
        """Save the present alterations as a variant."""
        return self._change_brief(lambda brief: brief.kept_as(name), tr("Keep a variant"))

    def take_variant(self, name: str) -> bool:
        """Switch to another variant; an empty name is the figure as made."""
        return self._change_brief(lambda brief: brief.taking(name), tr("Switch variant"))

    def drop_variant(self, name: str) -> bool:
        """Delete a variant."""
        return self._change_brief(lambda brief: brief.without_variant(name), tr("Drop a variant"))

    def carry_on(self, brief: Brief, words: str) -> bool:
        """Continue with a brief in which a part has its measured size."""
        return self._change_brief(lambda _: brief, words, waits=True)

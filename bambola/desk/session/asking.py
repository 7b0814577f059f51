"""What is asked of the figure on the table, one wish at a time; the studio plans what comes of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QObject

from bambola.core.figure import Brief, Figure, Move, SizeRule
from bambola.core.figure.variants import Alteration, altered
from bambola.language import tr

MOST_FIGURES = 1000
"""As many as a brief may ask for."""


class Asking(QObject):
    """The changes of a brief; who has the brief plans it and takes it back where it cannot be."""

    figure: Figure | None
    brief: Brief

    def _ask(
        self,
        change: Callable[[Brief], Brief],
        words: str,
        gesture: int = 0,
        waits: bool = False,
    ) -> bool:
        """Ask for what ``change`` makes of the brief. Where it ``waits`` or is part of a gesture, true says
        that it is planned, and else that it may be on its way."""
        raise NotImplementedError

    @property
    def wished(self) -> Brief:
        """The brief as it is asked for."""
        raise NotImplementedError

    def refuse(self, error: Exception) -> None:
        """Tell why something cannot be."""
        raise NotImplementedError

    def answer(self, code: str, option: str | None) -> bool:
        """Answer a question, or take the answer back."""
        return self._ask(lambda brief: brief.answered(code, option), tr("Answer a question"))

    def school(self, choice: str, school: str | None) -> bool:
        """Follow another school for ``choice``, or the default when ``school`` is None."""
        return self._ask(lambda brief: brief.schooled(choice, school), tr("Choose a way of making"))

    def wish(self, words: str, gesture: int = 0, **wishes: float) -> bool:
        """Change what is wished of the figure, such as ``steady`` or ``hang_tilt``."""
        return self._ask(lambda brief: brief.replaced(**wishes), words, gesture)

    def move_steps(self, moves: Sequence[tuple[str, str | None]]) -> bool:
        """Put steps right after others (None: to the front), as the maker's own moves."""
        steps = {step for step, _ in moves}

        def moved(brief: Brief) -> Brief:
            kept = tuple(m for m in brief.moves if m.step not in steps)
            return brief.replaced(moves=(*kept, *(Move(step=s, after=after) for s, after in moves)))

        return self._ask(moved, tr("Move a step"), waits=True)

    def unmove(self, step: str) -> bool:
        """Take the maker's own move of a step back."""

        def unmoved(brief: Brief) -> Brief:
            return brief.replaced(moves=tuple(m for m in brief.moves if m.step != step))

        return self._ask(unmoved, tr("Take a move back"))

    def set_count(self, count: int, gesture: int = 0) -> bool:
        """Ask for so many of the figure."""
        count = max(1, min(MOST_FIGURES, count))
        return self._ask(lambda brief: brief.replaced(count=count), tr("Change how many"), gesture)

    def set_trial(self, on: bool) -> bool:
        """Make one of several first, or all at once."""
        return self._ask(lambda brief: brief.replaced(trial=on), tr("Make a trial first"))

    def hold(self, part: str, held: bool) -> bool:
        """Hold a part at the size it was made, or let it follow the height again."""
        rules = (SizeRule(rule="hold"),) if held else ()
        words = tr("Hold a size") if held else tr("Let a size go")
        return self._ask(lambda brief: brief.ruled(part, rules), words)

    def is_held(self, part: str) -> bool:
        """Return whether the brief holds the whole part."""
        return any(r.rule == "hold" and r.measure == "all" for r in self.wished.rules.get(part, ()))

    def rule(self, part: str, measure: str, rule: SizeRule | None) -> bool:
        """Lay a size rule on one measure (or ``all``) of a part, or take it off."""

        def ruled(brief: Brief) -> Brief:
            others = tuple(r for r in brief.rules.get(part, ()) if r.measure != measure)
            return brief.ruled(part, (*others, rule) if rule else others)

        return self._ask(ruled, tr("Change a size rule"))

    def rule_of(self, part: str, measure: str) -> SizeRule | None:
        """Return the rule that lies on one measure (or ``all``) of a part."""
        return next((r for r in self.wished.rules.get(part, ()) if r.measure == measure), None)

    def alter(
        self, words: str, change: Callable[[Figure, Alteration], Alteration], gesture: int = 0
    ) -> bool:
        """Make something otherwise than the figure as it was made: pose, expression, colours, outfit."""
        figure = self.figure
        if figure is None:
            return False
        try:
            new = change(figure, self.brief.altered)
            altered(figure, new)
        except ValueError as error:
            self.refuse(error)
            return False
        return self._ask(lambda brief: brief.replaced(altered=new), words, gesture)

    def correct(self, on: bool) -> bool:
        """Set small features of the face right for the size, or scale them as all else is."""
        words = tr("Correct the face for its size") if on else tr("Make the face as it was")
        return self._ask(lambda brief: brief.replaced(corrected=on), words)

    def keep_variant(self, name: str) -> bool:
        """Keep what differs now under a name."""
        return self._ask(lambda brief: brief.kept_as(name), tr("Keep a variant"))

    def take_variant(self, name: str) -> bool:
        """Go to another variant; no name is the figure as it was made."""
        return self._ask(lambda brief: brief.taking(name), tr("Take another variant"))

    def drop_variant(self, name: str) -> bool:
        """Keep a variant no longer."""
        return self._ask(lambda brief: brief.without_variant(name), tr("Drop a variant"))

    def carry_on(self, brief: Brief, words: str) -> bool:
        """Go on with a brief in which a part is as it was found."""
        return self._ask(lambda _: brief, words, waits=True)

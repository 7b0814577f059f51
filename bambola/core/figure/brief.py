"""The brief: what a maker asks of a figure."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated

from pydantic import Field, StringConstraints

from bambola.core.figure.choices import MakerChoices, read_choices
from bambola.core.figure.fields import Grams, Slug
from bambola.core.figure.model import SizeRule
from bambola.core.figure.shapes import Frozen, Length, at_most
from bambola.core.figure.variants import Alteration, Variant
from bambola.core.figure.whole import Figure

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9.:-]{0,199}$")]
"""What names a step: its sort of work and its part or thing, as ``core:head:1``."""


class Move(Frozen):
    """A step that the maker moved: to right after another (None: to the front), both by their keys."""

    step: Key
    after: Key | None = None


class Brief(Frozen):
    """What is asked: the height, how many, held sizes, schools, and answers to open questions.

    ``height`` None means *as made*: nothing is resized and no rule applies. ``rules`` overlay the
    figure's own size rules, part by part. ``answers`` maps a question's code to the chosen option.
    ``moves`` are the maker's own changes to the order, one after the other.
    ``altered`` is what is made otherwise than the figure, ``variants`` are such changes kept by name, and
    ``variant`` is the one in hand. ``found`` is what finished parts really weigh (g, each), where that was
    taken over.
    ``trial``: of several one is made first, and shows what is to be done otherwise.
    ``corrected``: small features of the face are set right for the size, not only scaled.
    ``steady`` is the lean (degrees) a standing figure is wished to bear before it tips; ``hang_tilt``
    how far (degrees) a hanging one is to nod forwards. ``from_before`` is said when a file is read, and not
    saved: it was saved when other schools were usual.
    """

    height: Length | None = None
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    trial: bool = False
    rules: Annotated[
        dict[Slug, Annotated[tuple[SizeRule, ...], at_most(40)]], Field(max_length=400)
    ] = {}
    schools: Annotated[dict[str, str], Field(max_length=2000)] = {}
    answers: Annotated[dict[str, str], Field(max_length=2000)] = {}
    moves: Annotated[tuple[Move, ...], at_most(400)] = ()
    altered: Alteration = Alteration()
    variant: Annotated[str, Field(max_length=120)] = ""
    variants: Annotated[tuple[Variant, ...], at_most(40)] = ()
    found: Annotated[dict[Slug, Grams], Field(max_length=400)] = {}
    thicken_coat: bool = False
    corrected: bool = False
    steady: Annotated[float, Field(ge=0, le=45)] = 8.0
    hang_tilt: Annotated[float, Field(ge=-90, le=90)] = 0.0
    from_before: bool = False

    @cached_property
    def choices(self) -> MakerChoices:
        """The answers and schools, read once."""
        return read_choices(self.answers, self.schools)

    @property
    def runs(self) -> tuple[int, ...]:
        """The number of figures made at once, run after run."""
        return (1, self.count - 1) if self.trial and self.count > 1 else (self.count,)

    def for_run(self, nth: int) -> Brief:
        """Return the brief of one run alone: of the trial, or of all that are made after it."""
        runs = self.runs
        return self.replaced(count=runs[min(nth, len(runs)) - 1], trial=False)

    def at_height(self, height: float) -> Brief:
        """Return the brief at another height (mm)."""
        return self.replaced(height=height)

    def as_made(self) -> Brief:
        """Return the brief of the figure as it stands, keeping only the maker's schools."""
        return Brief(schools=self.schools)

    def kept_as(self, name: str) -> Brief:
        """Return a copy with the present differences kept as a variant of this name, which becomes the
        current one."""
        mine = Variant(name=name, altered=self.altered, height=self.height)
        others = tuple(v for v in self.variants if v.name != mine.name)
        return self.replaced(variants=(*others, mine), variant=mine.name)

    def taking(self, name: str) -> Brief:
        """Return a copy with another variant as the current one; an unknown name stands for the figure as
        made."""
        found = next((v for v in self.variants if v.name == name), None)
        change = {
            "altered": found.altered if found else Alteration(),
            "height": (found and found.height) or self.height,
            "variant": found.name if found else "",
        }
        return self.replaced(**change)

    def without_variant(self, name: str) -> Brief:
        """Return a copy without the variant of this name; its differences stay if it is the current one."""
        kept = tuple(v for v in self.variants if v.name != name)
        now = "" if self.variant == name else self.variant
        return self.replaced(variants=kept, variant=now)

    def schooled(self, choice: str, school: str | None) -> Brief:
        """Return a copy with another school for ``choice``, or its default when ``school`` is None."""
        schools = {key: value for key, value in self.schools.items() if key != choice}
        if school is not None:
            schools[choice] = school
        return self.replaced(schools=schools)

    def answered(self, code: str, option: str | None) -> Brief:
        """Return a copy with the question ``code`` answered, or unanswered when ``option`` is None."""
        answers = {key: value for key, value in self.answers.items() if key != code}
        if option is not None:
            answers[code] = option
        return self.replaced(answers=answers)

    def fitted_to(self, figure: Figure) -> Brief:
        """Return a copy without the size rules that name parts or measures ``figure`` does not have."""
        rules: dict[str, tuple[SizeRule, ...]] = {}
        for part, kept in self.rules.items():
            if part in figure.by_id:
                names = ("all", *figure.by_id[part].shape.measure_names)
                left = tuple(rule for rule in kept if rule.measure in names)
                rules |= {part: left} if left else {}
        return self if rules == self.rules else self.replaced(rules=rules)

    def ruled(self, part: str, rules: tuple[SizeRule, ...]) -> Brief:
        """Return a copy with ``rules`` for ``part``; none removes the part from the brief."""
        kept = {key: value for key, value in self.rules.items() if key != part}
        if rules:
            kept[part] = rules
        return self.replaced(rules=kept)

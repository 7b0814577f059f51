"""Answers and schools in a design that this version does not know: they are reported and ignored."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.armature.gauge import CHENILLE
from bambola.core.armature.schools import SCHOOLS
from bambola.core.bench import Bench
from bambola.core.facts import Fact, fact
from bambola.core.figure import Brief, Figure
from bambola.core.figure.questions import METALS, question_of
from bambola.core.figure.variants import missing_names
from bambola.core.order import CHOICES

KNOWN: dict[str, tuple[str, ...]] = {
    "wire": SCHOOLS,
    "wire-stock": (*METALS, CHENILLE),
    **{choice.id: choice.schools for choice in CHOICES},
}
"""Every choice of a way of making, with its schools."""


def set_aside(figure: Figure, brief: Brief, bench: Bench) -> Iterator[Fact]:
    """Yield a fact for each entry of a brief that is not followed. The entries stay in the design."""
    there = {
        "part": figure.by_id.keys(),
        "fitting": {fitting.id for fitting in figure.fittings},
    }
    for code, said in brief.answers.items():
        question = question_of(code)
        if question is None:
            yield fact("aside.question", code=code)
        elif question.about not in there.get(question.of, (question.about,)):
            yield fact("aside.gone", code=code, about=question.about)
        elif question.read(said) is None:
            named = tuple(fact("named", name=answer) for answer in question.answers)
            allowed = (*named, Fact("aside.size")) if question.sizes else named
            yield fact("aside.answer", code=code, said=said, allowed=allowed)
    for variant in brief.variants:
        yield from missing_names(figure, variant, bench.wool_by_id)
    for choice, school in brief.schools.items():
        if choice not in KNOWN:
            yield fact("aside.choice", choice=choice, allowed=tuple(KNOWN))
        elif school not in KNOWN[choice]:
            yield fact("aside.school", choice=choice, school=school, allowed=KNOWN[choice])

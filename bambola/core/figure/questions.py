"""What a maker may be asked, and what may be answered: one type for each question.

A design keeps answers as text, ``thin-limb:arm`` → ``no-wire``. Here such text is read and written, and
nowhere else. A new question is a class here, the notice that asks it, and its words.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import ClassVar, get_args

from bambola.core.figure.model import Metal


@dataclass(frozen=True, slots=True)
class Question:
    """A question about something, by its id. ``answers`` are those that have a name; where a ``sizes`` may be
    answered as well, it is a number (mm)."""

    about: str
    kind: ClassVar[str]
    of: ClassVar[str]
    """Of what it is asked: a part, a fitting, a wire."""
    answers: ClassVar[tuple[str, ...]]
    sizes: ClassVar[bool] = False

    @property
    def code(self) -> str:
        """How a design names it."""
        return f"{self.kind}:{self.about}"

    def may_be(self, said: str) -> bool:
        """Whether ``said`` is an answer to it."""
        return said in self.answers or (self.sizes and _is_size(said))


class Thin(StrEnum):
    """What is done about a limb too thin for its wire."""

    THINNER = "thinner-wire"
    STRONGER = "stronger-metal"
    FEWER = "fewer-strands"
    BARE = "no-wire"
    STOUTER = "stouter-limb"
    SLIM = "slim-and-stouter"
    CHENILLE = "chenille"
    WOUND = "glue-wound"


class Joined(StrEnum):
    """How a weak join is made stronger."""

    PATCH = "patch"
    SCARF = "scarf"
    PEG = "peg"
    WIRE = "wire"
    LEAVE = "leave"


class Worn(StrEnum):
    """What is done about a bought garment that does not fit."""

    REPLACED = "another"
    BUILT_ROUND = "round"
    LEAVE = "leave"


class Shaped(StrEnum):
    """What gives way where rules ask for a shape that cannot be."""

    LONGER = "longer"
    SLIMMER = "slimmer"


class Centre(StrEnum):
    """Whether the middle of a thick core is felted."""

    SOFT = "soft-centre"
    SOLID = "solid"


class Kept(StrEnum):
    """What stays as it was where a row of like parts changes its size."""

    NUMBER = "number"
    SIZE = "size"
    SPACING = "spacing"
    FEWER = "fewer"


class Laid(StrEnum):
    """How the wire of a small figure is laid."""

    FOLDED = "folded"
    AS_DRAWN = "as-drawn"


class Reached(StrEnum):
    """What is done about a prop that an arm does not reach any more."""

    LONGER = "longer-arm"
    LEAVE = "leave"


FELTED = "felted"
"""Eyes that are felted, because none of just that size are sold."""
METAL, SECOND, STAND, LEAVE = "metal:", "second-strand", "stand", "leave"
METALS: tuple[str, ...] = get_args(Metal)


class TooThin(Question):
    """A limb too thin to hide its wire."""

    kind, of, answers = "thin-limb", "part", tuple(Thin)


class WeakJoin(Question):
    """A join too weak for what hangs on it."""

    kind, of, answers = "join", "part", tuple(Joined)


class BoughtGarment(Question):
    """A bought garment that does not fit any more."""

    kind, of, answers = "dress", "part", tuple(Worn)


class EyeSize(Question):
    """Eyes of which no such size is sold."""

    kind, of, answers, sizes = "eye-size", "fitting", (FELTED,), True


class Impossible(Question):
    """Sizes that no part of such a shape can have."""

    kind, of, answers = "shape", "part", tuple(Shaped)


class SoftCentre(Question):
    """A core so thick that its middle need not be felted."""

    kind, of, answers = "soft-centre", "part", tuple(Centre)


class Floating(Question):
    """A part that touches nothing."""

    kind, of, answers = "floating", "part", (LEAVE,)


class WireGauge(Question):
    """How stout a wire is to be."""

    kind, of, answers, sizes = "gauge", "wire", (), True


class WireStock(Question):
    """What a wire is made of where no stock is stout enough."""

    kind, of = "stock", "wire"
    answers = (SECOND, STAND, LEAVE, *(f"{METAL}{metal}" for metal in METALS))


class Repeated(Question):
    """Whether a row of like parts keeps their number, their size or how far apart they are."""

    kind, of, answers = "row", "part", tuple(Kept)


class Folding(Question):
    """Whether a figure too small for bindings has one wire folded out and back."""

    kind, of, answers = "folding", "figure", tuple(Laid)


class Reach(Question):
    """A prop that an arm held as made and does not reach now."""

    kind, of, answers = "reach", "fitting", tuple(Reached)


QUESTIONS: dict[str, type[Question]] = {
    question.kind: question
    for question in (
        TooThin,
        WeakJoin,
        BoughtGarment,
        EyeSize,
        Impossible,
        SoftCentre,
        Floating,
        WireGauge,
        WireStock,
        Repeated,
        Folding,
        Reach,
    )
}


def question_of(code: str) -> Question | None:
    """The question that a design names ``code``; None if there is none."""
    kind, _, about = code.partition(":")
    known = QUESTIONS.get(kind)
    return known(about) if known and about else None


def answered(answers: Mapping[str, str], kind: type[Question]) -> Iterator[tuple[Question, str]]:
    """The questions of a kind that have an answer, with it."""
    for code, said in answers.items():
        question = question_of(code)
        if isinstance(question, kind) and question.may_be(said):
            yield question, said


def _is_size(said: str) -> bool:
    try:
        return 0 < float(said) < 1000
    except ValueError:
        return False

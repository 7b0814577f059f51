"""What a maker may be asked, and what may be answered: one type for each question and for its answers.

A design keeps answers as text, ``thin-limb:arm`` → ``no-wire``. Here such text is read, and nowhere else:
an answer is the text that it is kept as, and a value of its own type. A new question is a class here, the
notice that asks it, and its words.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from enum import StrEnum
from typing import ClassVar, Generic, Self, TypeVar, cast, get_args

from bambola.core.figure.fields import Metal
from bambola.core.frozen import frozen


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


class Cored(StrEnum):
    """What is done about a hard core too thick for its part."""

    SMALLER = "smaller-core"
    LARGER = "larger-part"
    NONE = "no-core"


class GrowsWith(StrEnum):
    """With what that grows which sits on a part held as a whole."""

    WITH = "with-it"
    FIGURE = "with-the-figure"


class Reached(StrEnum):
    """What is done about a prop that an arm does not reach any more."""

    LONGER = "longer-arm"
    LEAVE = "leave"


class Eyes(StrEnum):
    """What eyes are, of which no such size is sold."""

    FELTED = "felted"


class Stocked(StrEnum):
    """What is done about a wire for which no stock is stout enough, but for another metal."""

    SECOND = "second-strand"
    STAND = "stand"
    LEAVE = "leave"


class Pieces(StrEnum):
    """What is done with pieces of a face too small to be made."""

    WITHOUT = "without"
    KEPT = "kept"


class Left(StrEnum):
    """That it is left as it is."""

    LEAVE = "leave"


METALS: tuple[Metal, ...] = get_args(Metal)


class InMetal(str):
    """That a wire is taken in another metal."""

    __slots__ = ()

    @classmethod
    def of(cls, metal: Metal) -> Self:
        """Return the answer that names a metal."""
        return cls(f"metal:{metal}")

    @property
    def metal(self) -> Metal:
        """The metal it names."""
        return cast(Metal, self.removeprefix("metal:"))


class Sized(str):
    """A size in mm."""

    __slots__ = ()

    @classmethod
    def of(cls, mm: float) -> Self:
        """Return the answer that names a size."""
        return cls(f"{mm:g}")

    @property
    def mm(self) -> float:
        """The size it names."""
        return float(self)


Answer = (
    Thin | Joined | Worn | Shaped | Centre | Kept | Laid | Cored | GrowsWith | Reached | Eyes | Stocked | Left
    | Pieces
    | InMetal | Sized
)  # fmt: skip
A = TypeVar("A", bound=Answer)
A_co = TypeVar("A_co", bound=Answer, covariant=True)


@frozen
class Question(Generic[A_co]):
    """A question about something, by its id. ``answers`` are those that have a name; where a ``sizes`` may be
    answered as well, it is a number (mm)."""

    about: str
    kind: ClassVar[str]
    of: ClassVar[str]
    """Of what it is asked: a part, a fitting, a wire."""
    answers: ClassVar[tuple[Answer, ...]]
    sizes: ClassVar[bool] = False

    @property
    def code(self) -> str:
        """How a design names it."""
        return f"{self.kind}:{self.about}"

    def read(self, said: str) -> A_co | None:
        """Return the answer that ``said`` is; None if it is none."""
        found: Answer | None = next((answer for answer in self.answers if answer == said), None)
        if found is None and self.sizes:
            found = _size_read(said)
        return cast("A_co | None", found)


class TooThin(Question[Thin]):
    """A limb too thin to hide its wire."""

    kind, of, answers = "thin-limb", "part", tuple(Thin)


class WeakJoin(Question[Joined]):
    """A join too weak for what hangs on it."""

    kind, of, answers = "join", "part", tuple(Joined)


class BoughtGarment(Question[Worn]):
    """A bought garment that does not fit any more."""

    kind, of, answers = "dress", "part", tuple(Worn)


class EyeSize(Question[Eyes | Sized]):
    """Eyes of which no such size is sold."""

    kind, of, answers, sizes = "eye-size", "fitting", tuple(Eyes), True


class Impossible(Question[Shaped]):
    """Sizes that no part of such a shape can have."""

    kind, of, answers = "shape", "part", tuple(Shaped)


class SoftCentre(Question[Centre]):
    """A core so thick that its middle need not be felted."""

    kind, of, answers = "soft-centre", "part", tuple(Centre)


class Floating(Question[Left]):
    """A part that touches nothing."""

    kind, of, answers = "floating", "part", tuple(Left)


class WireGauge(Question[Sized]):
    """How stout a wire is to be."""

    kind, of, answers, sizes = "gauge", "wire", (), True


class StoutestWire(Question[Stocked | InMetal]):
    """What a wire is made of where no stock is stout enough."""

    kind, of = "stock", "wire"
    answers = (*Stocked, *map(InMetal.of, METALS))


class Repeated(Question[Kept]):
    """Whether a row of like parts keeps their number, their size or how far apart they are."""

    kind, of, answers = "row", "part", tuple(Kept)


class Folding(Question[Laid]):
    """Whether a figure too small for bindings has one wire folded out and back."""

    kind, of, answers = "folding", "figure", tuple(Laid)


class HardCore(Question[Cored]):
    """A hard core too thick for its part."""

    kind, of, answers = "hard-core", "fitting", tuple(Cored)


class SitsOn(Question[GrowsWith]):
    """Whether what sits on a part held as a whole keeps with it."""

    kind, of, answers = "sits-on", "part", tuple(GrowsWith)


class Reach(Question[Reached]):
    """A prop that an arm held as made and does not reach now."""

    kind, of, answers = "reach", "fitting", tuple(Reached)


class SmallFace(Question[Pieces]):
    """A face with pieces too small to be made."""

    kind, of, answers = "small-face", "part", tuple(Pieces)


QUESTIONS: dict[str, type[Question[Answer]]] = {
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
        StoutestWire,
        Repeated,
        Folding,
        HardCore,
        SitsOn,
        Reach,
        SmallFace,
    )
}


def question_of(code: str) -> Question[Answer] | None:
    """Return the question that a design names ``code``; None if there is none."""
    kind, _, about = code.partition(":")
    known = QUESTIONS.get(kind)
    return known(about) if known and about else None


def answered(answers: Mapping[str, str], kind: type[Question[A]]) -> Iterator[tuple[str, A]]:
    """Yield what the questions of a kind that have an answer are about, with it."""
    for code, said in answers.items():
        name, _, about = code.partition(":")
        answer = kind(about).read(said) if name == kind.kind and about else None
        if answer is not None:
            yield about, answer


def _size_read(said: str) -> Sized | None:
    try:
        mm = float(said)
    except ValueError:
        return None
    return Sized.of(mm) if 0 < mm < 1000 else None

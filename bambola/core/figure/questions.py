"""The questions a maker may be asked, and their answers: one type for each question and for its answers.

A design keeps answers as text (``thin-limb:arm`` → ``no-wire``). That text is read here and nowhere else; an
answer is both this text and a value of its own type. A new question is a class here, the notice that asks it,
and its words.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from enum import StrEnum
from typing import ClassVar, Generic, Self, TypeVar, cast, get_args

from bambola.core.figure.fields import Metal
from bambola.core.frozen import frozen


class ThinAnswer(StrEnum):
    """Answers for a limb too thin for its wire."""

    THINNER = "thinner-wire"
    STRONGER = "stronger-metal"
    FEWER = "fewer-strands"
    BARE = "no-wire"
    STOUTER = "stouter-limb"
    SLIM = "slim-and-stouter"
    CHENILLE = "chenille"
    WOUND = "glue-wound"


class JoinedAnswer(StrEnum):
    """Answers for making a weak join stronger."""

    PATCH = "patch"
    SCARF = "scarf"
    PEG = "peg"
    WIRE = "wire"
    LEAVE = "leave"


class WornAnswer(StrEnum):
    """Answers for a bought garment that no longer fits."""

    REPLACED = "another"
    BUILT_ROUND = "round"
    LEAVE = "leave"


class ShapedAnswer(StrEnum):
    """Answers for rules that ask for an impossible shape: which measure gives way."""

    LONGER = "longer"
    SLIMMER = "slimmer"


class CentreAnswer(StrEnum):
    """Answers for the middle of a thick core: felted or not."""

    SOFT = "soft-centre"
    SOLID = "solid"


class KeptAnswer(StrEnum):
    """Answers for a row of like parts that changes its size: what stays the same."""

    NUMBER = "number"
    SIZE = "size"
    SPACING = "spacing"
    FEWER = "fewer"


class LaidAnswer(StrEnum):
    """Answers for how the wire of a small figure is laid."""

    FOLDED = "folded"
    AS_DRAWN = "as-drawn"


class CoredAnswer(StrEnum):
    """Answers for a hard core too thick for its part."""

    SMALLER = "smaller-core"
    LARGER = "larger-part"
    NONE = "no-core"


class GrowsWithAnswer(StrEnum):
    """Answers for what sits on a part that is held as a whole: with what it grows."""

    WITH = "with-it"
    FIGURE = "with-the-figure"


class ReachedAnswer(StrEnum):
    """Answers for a prop that an arm no longer reaches."""

    LONGER = "longer-arm"
    LEAVE = "leave"


class EyesAnswer(StrEnum):
    """Answers, besides sizes, for eyes of a size that is not sold."""

    FELTED = "felted"


class StockedAnswer(StrEnum):
    """Answers, besides other metals, for a wire that no stock is stout enough for."""

    SECOND = "second-strand"
    STAND = "stand"
    LEAVE = "leave"


class PiecesAnswer(StrEnum):
    """Answers for pieces of a face too small to be made."""

    WITHOUT = "without"
    KEPT = "kept"


class LeftAnswer(StrEnum):
    """The answer that something is left as it is."""

    LEAVE = "leave"


METALS: tuple[Metal, ...] = get_args(Metal)


class MetalAnswer(str):
    """The answer that a wire is taken in another metal."""

    __slots__ = ()

    @classmethod
    def answer_for(cls, metal: Metal) -> Self:
        """Return the answer for a metal."""
        return cls(f"metal:{metal}")

    @property
    def metal(self) -> Metal:
        """The metal it names."""
        return cast(Metal, self.removeprefix("metal:"))


class SizeAnswer(str):
    """An answer that is a size in mm."""

    __slots__ = ()

    @classmethod
    def answer_for(cls, mm: float) -> Self:
        """Return the answer for a size."""
        return cls(f"{mm:g}")

    @property
    def mm(self) -> float:
        """The size it names."""
        return float(self)


Answer = (
    ThinAnswer | JoinedAnswer | WornAnswer | ShapedAnswer | CentreAnswer | KeptAnswer | LaidAnswer
    | CoredAnswer | GrowsWithAnswer | ReachedAnswer | EyesAnswer | StockedAnswer | LeftAnswer
    | PiecesAnswer | MetalAnswer | SizeAnswer
)  # fmt: skip
A = TypeVar("A", bound=Answer)
A_co = TypeVar("A_co", bound=Answer, covariant=True)


@frozen
class Question(Generic[A_co]):
    """A question about something, given by its id. ``answers`` are the named ones; if ``sizes``, a number
    (mm) may be answered as well."""

    about: str
    kind: ClassVar[str]
    of: ClassVar[str]
    """Of what it is asked: a part, a fitting, a wire."""
    answers: ClassVar[tuple[Answer, ...]]
    sizes: ClassVar[bool] = False

    @property
    def code(self) -> str:
        """The code by which a design names it."""
        return f"{self.kind}:{self.about}"

    def read(self, said: str) -> A_co | None:
        """Return the answer with the text ``said``; None if there is none."""
        found: Answer | None = next((answer for answer in self.answers if answer == said), None)
        if found is None and self.sizes:
            found = _size_read(said)
        return cast("A_co | None", found)


class TooThin(Question[ThinAnswer]):
    """A limb too thin to hide its wire."""

    kind, of, answers = "thin-limb", "part", tuple(ThinAnswer)


class WeakJoin(Question[JoinedAnswer]):
    """A join too weak for what hangs on it."""

    kind, of, answers = "join", "part", tuple(JoinedAnswer)


class BoughtGarment(Question[WornAnswer]):
    """A bought garment that does not fit any more."""

    kind, of, answers = "dress", "part", tuple(WornAnswer)


class EyeSize(Question[EyesAnswer | SizeAnswer]):
    """Eyes of which no such size is sold."""

    kind, of, answers, sizes = "eye-size", "fitting", tuple(EyesAnswer), True


class Impossible(Question[ShapedAnswer]):
    """Measures that no part of its shape can have."""

    kind, of, answers = "shape", "part", tuple(ShapedAnswer)


class SoftCentre(Question[CentreAnswer]):
    """A core so thick that its middle need not be felted."""

    kind, of, answers = "soft-centre", "part", tuple(CentreAnswer)


class Floating(Question[LeftAnswer]):
    """A part that touches nothing."""

    kind, of, answers = "floating", "part", tuple(LeftAnswer)


class WireGauge(Question[SizeAnswer]):
    """The diameter a wire is to have."""

    kind, of, answers, sizes = "gauge", "wire", (), True


class StoutestWire(Question[StockedAnswer | MetalAnswer]):
    """The material of a wire that no stock is stout enough for."""

    kind, of = "stock", "wire"
    answers = (*StockedAnswer, *map(MetalAnswer.answer_for, METALS))


class Repeated(Question[KeptAnswer]):
    """Whether a row of like parts keeps their number, their size or their spacing."""

    kind, of, answers = "row", "part", tuple(KeptAnswer)


class Folding(Question[LaidAnswer]):
    """Whether a figure too small for bindings gets one wire folded out and back."""

    kind, of, answers = "folding", "figure", tuple(LaidAnswer)


class HardCore(Question[CoredAnswer]):
    """A hard core too thick for its part."""

    kind, of, answers = "hard-core", "fitting", tuple(CoredAnswer)


class SitsOn(Question[GrowsWithAnswer]):
    """Whether what sits on a part held as a whole keeps its size too."""

    kind, of, answers = "sits-on", "part", tuple(GrowsWithAnswer)


class Reach(Question[ReachedAnswer]):
    """A prop that an arm held as made and no longer reaches."""

    kind, of, answers = "reach", "fitting", tuple(ReachedAnswer)


class SmallFace(Question[PiecesAnswer]):
    """A face with pieces too small to be made."""

    kind, of, answers = "small-face", "part", tuple(PiecesAnswer)


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


def iterate_answers(answers: Mapping[str, str], kind: type[Question[A]]) -> Iterator[tuple[str, A]]:
    """Yield for each answered question of a kind what it is about, and the answer."""
    for code, said in answers.items():
        name, _, about = code.partition(":")
        answer = kind(about).read(said) if name == kind.kind and about else None
        if answer is not None:
            yield about, answer


def _size_read(said: str) -> SizeAnswer | None:
    try:
        mm = float(said)
    except ValueError:
        return None
    return SizeAnswer.answer_for(mm) if 0 < mm < 1000 else None

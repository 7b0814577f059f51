"""The choices of the order: switches with several schools, a usual one, and the reason for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from bambola.core.facts import Fact
from bambola.core.figure.schools import SCHOOLS, ChoiceId, SchoolId
from bambola.core.order.keys import TaskKey
from bambola.core.order.tasks import is_furred_on_the_pad, may_pair
from bambola.core.order.work import Work


@dataclass(frozen=True)
class Choice:
    """A choice. ``applies`` tells whether a figure has anything to choose here. For the steps it ``words``,
    given by their keys, only the cards differ: what is done, not when."""

    id: ChoiceId
    applies: Callable[[Work], bool]
    words: Callable[[Work, TaskKey], bool] = lambda work, key: False

    @property
    def schools(self) -> tuple[SchoolId, ...]:
        """Its schools, the usual one first."""
        return SCHOOLS[self.id]

    @property
    def default(self) -> SchoolId:
        """The usual school."""
        return self.schools[0]

    @property
    def name(self) -> Fact:
        """What the choice is about, in words."""
        return Fact(f"choice.{_id_from_name(self.id)}")

    @property
    def reason(self) -> Fact:
        """The reason for the usual school."""
        return Fact(f"choice.{_id_from_name(self.id)}.why")

    def school_name(self, school: str) -> Fact:
        """Return the name of a school."""
        return Fact(f"choice.{_id_from_name(self.id)}.{_id_from_name(school)}")

    def what_makers_do(self, school: str) -> Fact:
        """Return what a maker of this school does."""
        return Fact(f"choice.{_id_from_name(self.id)}.{_id_from_name(school)}.does")


def _id_from_name(id: str) -> str:
    return id.replace(" ", "-")


def _has_face(work: Work) -> bool:
    eyed = {f.part for f in work.fittings if f.kind == "eye"}
    faced = {p.parent for p in work.parts if p.face} | eyed
    return any(p.id in faced and p.parent for p in work.parts)


def _has_clothes(work: Work) -> bool:
    return any(p.garment and p.passes for p in work.parts)


def _has_patches(work: Work) -> bool:
    return any(part.coat and any(not p.face for p in part.insets) for part in work.parts)


def _seats_its_head(work: Work) -> bool:
    return any(p.id == work.neck and p.made == "apart" and p.join != "peg" for p in work.parts)


CHOICES: tuple[Choice, ...] = (
    Choice("face", _has_face),
    Choice(
        "colour",
        lambda w: any(p.coat for p in w.parts),
    ),
    Choice("insets", _has_patches),
    Choice(
        "ears",
        lambda w: any(may_pair(w, part) for part in w.parts),
    ),
    Choice("neck", lambda w: w.neck is not None),
    Choice("clothes", _has_clothes),
    Choice(
        "small",
        lambda w: any(p.small and p.made == "apart" for p in w.parts),
    ),
    Choice(
        "limbs",
        lambda w: (
            any(p.count == 2 and p.made == "on wire" for p in w.parts)
            or any("." in p.id for p in w.parts)
        ),
    ),
    Choice("near wire", lambda w: any(p.made == "on wire" for p in w.parts)),
    Choice(
        "legs",
        lambda w: any(p.made == "on wire" and p.limb for p in w.parts),
    ),
    Choice("mass", lambda w: "mass" in w.ways),
    Choice("firmness", lambda w: "firmness" in w.ways),
    Choice("white", lambda w: "white" in w.ways),
    Choice("eyes", lambda w: "eyes" in w.ways),
    Choice("tape", lambda w: any(p.taped for p in w.parts)),
    Choice("skin", lambda w: bool(w.parts)),
    Choice(
        "fur",
        lambda w: "fur" in w.ways,
        lambda w, key: key.sort == "fur",
    ),
    Choice(
        "seat",
        _seats_its_head,
        lambda w, key: key.is_of(w.neck or "", "join"),
    ),
    Choice("fur on parts", lambda w: any(p.furs and is_furred_on_the_pad(w, p) for p in w.parts)),
    Choice("stems", lambda w: any(p.stem for p in w.parts)),
    Choice("crease", lambda w: any(p.creased for p in w.parts)),
    Choice(
        "blank",
        lambda w: any(p.sheet for p in w.parts),
        lambda w, key: key.sort == "core" and any(p.id == key.about and p.sheet for p in w.parts),
    ),
)
CHOICE_BY_ID = {choice.id: choice for choice in CHOICES}

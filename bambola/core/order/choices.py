"""What makers do differently: the choices of the order, each a switch with a default and its reason."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from bambola.core.facts import Fact
from bambola.core.order.keys import TaskKey
from bambola.core.order.tasks import may_pair
from bambola.core.order.work import USUAL, Work


@dataclass(frozen=True)
class Choice:
    """A choice with the ids of its schools. ``applies`` says whether a figure has anything to choose here. Of
    the steps that it ``words``, by their keys, only the cards differ: what is done, not when."""

    id: str
    schools: tuple[str, ...]
    applies: Callable[[Work], bool]
    words: Callable[[Work, TaskKey], bool] = lambda work, key: False

    @property
    def default(self) -> str:
        """The usual school."""
        return USUAL[self.id]

    @property
    def name(self) -> Fact:
        """What it is about."""
        return Fact(f"choice.{_slug(self.id)}")

    @property
    def why(self) -> Fact:
        """The reason of what is usual."""
        return Fact(f"choice.{_slug(self.id)}.why")

    def called(self, school: str) -> Fact:
        """What a way is called."""
        return Fact(f"choice.{_slug(self.id)}.{_slug(school)}")

    def does(self, school: str) -> Fact:
        """What is done that way."""
        return Fact(f"choice.{_slug(self.id)}.{_slug(school)}.does")


def _slug(id: str) -> str:
    return id.replace(" ", "-")


BY_LOAD = USUAL["neck"]
"""The school of a maker who lets the computed join stress decide about the neck."""


def _has_face(work: Work) -> bool:
    eyed = {f.part for f in work.fittings if f.kind == "eye"}
    faced = {p.parent for p in work.parts if p.face} | eyed
    return any(p.id in faced and p.parent for p in work.parts)


def _has_clothes(work: Work) -> bool:
    return any(p.garment and p.passes for p in work.parts)


def _seats_its_head(work: Work) -> bool:
    return any(p.id == work.neck and p.made == "apart" and p.join != "peg" for p in work.parts)


CHOICES: tuple[Choice, ...] = (
    Choice("face", ("after", "before"), _has_face),
    Choice(
        "colour",
        ("each part first", "after joining"),
        lambda w: any(p.coat for p in w.parts),
    ),
    Choice("insets", ("first", "on top"), lambda w: any(p.insets and p.coat for p in w.parts)),
    Choice(
        "ears",
        ("as they meet", "pair first", "one by one"),
        lambda w: any(map(may_pair, w.parts)),
    ),
    Choice("neck", (BY_LOAD, "scarf", "peg", "wire"), lambda w: w.neck is not None),
    Choice("clothes", ("by opening", "head last", "clothes last"), _has_clothes),
    Choice(
        "small",
        ("soft", "firm"),
        lambda w: any(p.small and p.made == "apart" for p in w.parts),
    ),
    Choice(
        "limbs",
        ("back to back", "one at a time"),
        lambda w: (
            any(p.count == 2 and p.made == "on wire" for p in w.parts)
            or any("." in p.id for p in w.parts)
        ),
    ),
    Choice("near wire", ("stout", "fine"), lambda w: any(p.made == "on wire" for p in w.parts)),
    Choice(
        "legs",
        ("middle out", "body down"),
        lambda w: any(p.made == "on wire" and p.limb for p in w.parts),
    ),
    Choice("mass", ("parts", "one mass"), lambda w: "mass" in w.ways),
    Choice("firmness", ("as drawn", "firm", "soft"), lambda w: "firmness" in w.ways),
    Choice("white", ("veil", "core"), lambda w: "white" in w.ways),
    Choice(
        "eyes", ("as drawn", "glued", "sewn", "felted", "clay", "pins"), lambda w: "eyes" in w.ways
    ),
    Choice("tape", ("thin", "bare"), lambda w: any(p.taped for p in w.parts)),
    Choice("skin", ("dry", "glue-soap"), lambda w: bool(w.parts)),
    Choice(
        "fur",
        ("fold", "middle", "locks"),
        lambda w: "fur" in w.ways,
        lambda w, key: key.sort == "fur",
    ),
    Choice(
        "seat",
        ("dish", "bump"),
        _seats_its_head,
        lambda w, key: key.is_of(w.neck or "", "join"),
    ),
    Choice("crease", ("crease", "bend"), lambda w: any(p.creased for p in w.parts)),
)
CHOICE_BY_ID = {choice.id: choice for choice in CHOICES}


def followed(schools: Mapping[str, str]) -> dict[str, str]:
    """Those of a maker's ``schools`` that are choices of the order and known."""
    return {
        choice: school
        for choice, school in schools.items()
        if choice in CHOICE_BY_ID and school in CHOICE_BY_ID[choice].schools
    }

"""What makers do differently: the choices of the order, each a switch with a default and its reason."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from bambola.core.order.tasks import Work, may_pair


@dataclass(frozen=True, slots=True)
class School:
    """One way: what it is called, and what is done."""

    id: str
    name: str
    does: str


@dataclass(frozen=True)
class Choice:
    """A choice with its schools; ``why`` is the reason of the default. ``applies`` says whether a figure
    has anything to choose here."""

    id: str
    name: str
    schools: tuple[School, ...]
    default: str
    why: str
    applies: Callable[[Work], bool]


BY_LOAD = "by load"
"""The school of a maker who lets the computed join stress decide about the neck."""


def _has_face(work: Work) -> bool:
    eyed = {f.part for f in work.fittings if f.kind == "eye"}
    faced = {p.parent for p in work.parts if p.face} | eyed
    return any(p.id in faced and p.parent for p in work.parts)


def _has_clothes(work: Work) -> bool:
    return any(p.garment and p.passes for p in work.parts)


CHOICES: tuple[Choice, ...] = (
    Choice(
        "face",
        "The face",
        (
            School("after", "after the head is on", "marks and eyes wait for the join"),
            School("before", "before the head is joined", "the head is finished in the hand"),
        ),
        "after",
        "its look depends on the tilt of the head",
        _has_face,
    ),
    Choice(
        "colour",
        "Colour",
        (
            School("each part first", "each part first", "a part is coated before it is joined"),
            School("after joining", "after joining", "the coat goes over the joins"),
        ),
        "each part first",
        "contrasting colours stay clean",
        lambda w: any(p.coat for p in w.parts),
    ),
    Choice(
        "insets",
        "Patches",
        (
            School("first", "patch first", "the surround is tucked against it"),
            School("on top", "on top of the coat", "the patch is laid on the finished coat"),
        ),
        "first",
        "the edge is crisper",
        lambda w: any(p.insets and p.coat for p in w.parts),
    ),
    Choice(
        "ears",
        "Ears and other pairs",
        (
            School(
                "as they meet",
                "joined first if they meet",
                "a pair that touches is joined to each other",
            ),
            School("pair first", "pair first", "both are joined to each other, then to the head"),
            School("one by one", "one by one", "each is joined by itself"),
        ),
        "as they meet",
        "a pair that meets stays level",
        lambda w: any(map(may_pair, w.parts)),
    ),
    Choice(
        "neck",
        "The neck",
        (
            School(
                BY_LOAD,
                "as its load asks",
                "wool only, a scarf of wool, or a peg: the least that holds",
            ),
            School("scarf", "scarf of wool only", "a strip of wool round the join"),
            School("peg", "glued peg", "a straight wire glued into both"),
            School("wire", "wire through", "the skeleton runs on into it, and it can be posed"),
        ),
        BY_LOAD,
        "weight grows faster than the join",
        lambda w: w.neck is not None,
    ),
    Choice(
        "clothes",
        "Head and clothes",
        (
            School("by opening", "by the opening", "what passes the head goes on last"),
            School("head last", "head last", "clothes go on before the head is joined"),
            School(
                "clothes last", "clothes last", "clothes go on over the finished head if they pass"
            ),
        ),
        "by opening",
        "a collar that passes stays clean",
        _has_clothes,
    ),
    Choice(
        "small",
        "Small parts",
        (
            School("soft", "left soft", "parts under 12 mm are firmed on the body"),
            School("firm", "firm first", "they are firmed before they are joined"),
        ),
        "soft",
        "soft wool grips better",
        lambda w: any(p.small and p.made == "apart" for p in w.parts),
    ),
    Choice(
        "limbs",
        "Limbs",
        (
            School("back to back", "pair back to back", "both of a pair step by step"),
            School("one at a time", "one at a time", "one limb complete, then the other"),
        ),
        "back to back",
        "they match",
        lambda w: (
            any(p.count == 2 and p.made == "on wire" for p in w.parts)
            or any("." in p.id for p in w.parts)
        ),
    ),
    Choice(
        "near wire",
        "Near wire",
        (
            School("stout", "stout needle", "straight in and out"),
            School("fine", "fine needle", "by the size of the part"),
        ),
        "stout",
        "less likely to snap",
        lambda w: any(p.made == "on wire" for p in w.parts),
    ),
    Choice(
        "legs",
        "Legs",
        (
            School("middle out", "from the middle out", "the excess is torn off at the end"),
            School("body down", "from the body down", "wrapped towards the foot"),
        ),
        "middle out",
        "thin ends stay thin",
        lambda w: any(p.made == "on wire" and p.limb for p in w.parts),
    ),
)
CHOICE_BY_ID = {choice.id: choice for choice in CHOICES}

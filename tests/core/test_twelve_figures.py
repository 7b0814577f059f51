"""Twelve figures as makers make them, each with what goes wrong easily: every school of each, walked."""

from __future__ import annotations

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import (
    Bone,
    Brief,
    Coat,
    Figure,
    Fitting,
    Fur,
    Garment,
    Joint,
    Leaf,
    Limb,
    Part,
    Place,
    Sausage,
    Seat,
    Tilt,
)
from bambola.core.figure import Piece as FittingPiece
from bambola.core.figure.places import Band, Line, fur_all_over
from bambola.core.figure.schools import SCHOOLS
from bambola.core.plan import Plan, make_plan
from tests.core.walker import Walker
from tests.effort import some
from tests.figures import arm_on_post, ball, figure_of, patch

CREAM, GREY = Coat(wool="cream"), Coat(wool="badger-grey")
FLEECE = Fur(wool="cream", kind="fleece", spacing=9.0, hair=7.0)


def part(id: str, shape: object, parent: str = "body", **more: object) -> Part:
    """A part of white core under cream, or as told."""
    given = {"id": id, "name": id.title(), "parent": parent, "shape": shape, "core": "core-batt",
             "coat": CREAM, **more}  # fmt: skip
    return Part.model_validate(given)


BODY = part("body", ball(60)).replaced(parent=None)
HEAD = part("head", ball(44), seat=Seat(along=1.0, sink=8.0))
SNOUT = part("snout", ball(14), "head", face=True, seat=Seat(along=0.45, sink=5.0))
EARS = part("ear", Leaf(length=20, width=13, thickness=4), "head", pair=True, plural="Ears",
            seat=Seat(along=0.85, around=40, sink=1.0))  # fmt: skip
FEET = part("foot", Sausage(length=24, diameter=12), pair=True, plural="Feet",
            seat=Seat(along=0.12, around=30, sink=4.0, tilt=Tilt(nod=90)))  # fmt: skip
TAIL = part("tail", ball(13), seat=Seat(along=0.3, around=180, sink=3.0))
MOUTH = Place(id="mouth", wool="charcoal", face="mouth",
              where=Line(way=((0.32, -20), (0.28, 0), (0.32, 20)), wide=1.0))  # fmt: skip
CHEEK = Place(
    id="cheek", wool="weld", face="cheek", where=Line(way=((0.4, 45),), wide=6.0, mirrored=True)
)
LID = Place(
    id="lid",
    wool="cream",
    face="lid",
    where=Line(way=((0.66, 15), (0.68, 25), (0.66, 35)), wide=2.0),
)


def eyes(**more: object) -> Fitting:
    given = {"id": "eye", "name": "Eyes", "kind": "eye", "part": "head", "pair": True, "glued": True,
             "seat": Seat(along=0.6, around=25), "size": 4.0, "follows": "ready-made",
             "pieces": (FittingPiece(shape=ball(4)),), **more}  # fmt: skip
    return Fitting.model_validate(given)


def prop(id: str, size: float, on: str, **more: object) -> Fitting:
    given = {"id": id, "name": id.title(), "kind": "prop", "part": on, "size": size, "glued": True,
             "seat": Seat(along=0.9), "pieces": (FittingPiece(shape=ball(size)),), **more}  # fmt: skip
    return Fitting.model_validate(given)


def legs(length: float) -> Part:
    ends = (Joint(x=0, y=0, z=0, diameter=10), Joint(x=0, y=0, z=length, diameter=8))
    hoof = Place(id="hoof", wool="charcoal", where=Band(begin=0.8))
    return part("leg", Limb(joints=ends), pair=True, plural="Legs", places=(hoof,),
                seat=Seat(along=0.15, around=30, sink=5.0, tilt=Tilt(nod=180)))  # fmt: skip


def places_that_overlap() -> Figure:
    belly = patch("belly", "weld", ((-0.7, -0.7), (0.7, -0.7), (0.7, 0.7), (-0.7, 0.7)))
    swirl = Place(
        id="swirl", wool="madder", where=Line(way=((0.4, -20), (0.5, 0), (0.6, 20)), wide=3.0)
    )
    return figure_of(BODY.replaced(places=(belly, swirl), furrows=3), HEAD, fittings=(eyes(),))


def ewe() -> Figure:
    long = part("body", Sausage(length=60, diameter=38), places=(fur_all_over(FLEECE),)).replaced(
        parent=None
    )
    head = part("head", ball(24), seat=Seat(along=0.95, sink=5.0), places=(MOUTH,))
    return figure_of(
        long,
        head,
        legs(26),
        EARS.replaced(places=(fur_all_over(FLEECE),)),
        fittings=(eyes(size=3.0),),
    )


def gourd() -> Figure:
    stem = part(
        "stem",
        Sausage(length=16, diameter=6),
        coat=None,
        core="woad",
        seat=Seat(along=1.0, sink=3.0),
    )
    body = BODY.replaced(furrows=6, core="weld", coat=None)
    return figure_of(body, stem, fittings=(prop("flower", 9.0, "stem"),))


def stemmed() -> Figure:
    return arm_on_post().replaced(
        bones=(Bone(a="heart", b="shoulder"), Bone(a="shoulder", b="hand"))
    )


def dressed() -> Figure:
    neck = part("neck", Sausage(length=24, diameter=14), seat=Seat(along=1.0, sink=8.0))
    head = HEAD.replaced(parent="neck", seat=Seat(along=1.0, sink=6.0))
    shawl = part("shawl", ball(26), "neck", core="madder", coat=None, seat=Seat(along=0.3, sink=13.0),
                 garment=Garment(opening=240.0, passes="head"))  # fmt: skip
    return figure_of(BODY, neck, head, shawl, fittings=(eyes(),))


def of_one_ball() -> Figure:
    plain = {"coat": None}
    body = part("body", ball(34), **plain).replaced(parent=None)
    return figure_of(
        body,
        part("head", ball(24), seat=Seat(along=1.0, sink=6.0), **plain),
        TAIL.replaced(coat=None),
    )


def hound() -> Figure:
    furred = TAIL.replaced(places=(fur_all_over(Fur(wool="badger-grey", spacing=5.0, hair=9.0)),))
    head = HEAD.replaced(places=(MOUTH, CHEEK, LID), coat=GREY)
    return figure_of(
        BODY.replaced(coat=GREY), head, SNOUT, EARS, legs(30), furred, fittings=(eyes(),)
    )


FIGURES = {
    "places that overlap": places_that_overlap(),
    "felted eyes": figure_of(BODY, HEAD, SNOUT, fittings=(eyes(glued=False, fixed="felted"),)),
    "sewn eyes": figure_of(BODY, HEAD, EARS, fittings=(eyes(glued=False, fixed="sewn"),)),
    "clay eyes": figure_of(BODY, HEAD, FEET, fittings=(eyes(fixed="clay"),)),
    "glued eyes and cheeks": figure_of(
        BODY, HEAD.replaced(places=(MOUTH, CHEEK, LID)), SNOUT, fittings=(eyes(),)),
    "a ewe": ewe(),
    "a limb on a stem": stemmed(),
    "a gourd with a flower": gourd(),
    "glued props": figure_of(
        BODY, HEAD, fittings=(eyes(), prop("bell", 8.0, "body"), prop("rose", 7.0, "head"))),
    "a shawl under a head": dressed(),
    "one ball": of_one_ball(),
    "a hound": hound(),
}  # fmt: skip
HEAD_FIRST = {
    "felted eyes",
    "sewn eyes",
    "clay eyes",
    "glued eyes and cheeks",
    "glued props",
    "a hound",
}


def joined_after_its_face(plan: Plan) -> list[str]:
    """Steps of a face that follow the joining of its head."""
    order = [str(step.key) for step in plan.steps]
    joined = order.index("join:head")
    of_face = ("face:head", "fit:eye", "core:snout", "join:snout", "mark:head", "socket:eye")
    return [key for key in order[joined:] if key.startswith(of_face)]


@pytest.mark.parametrize("name", FIGURES)
def test_every_school_of_twelve_figures_can_be_made_as_told(name: str, bench: Bench) -> None:
    figure = FIGURES[name]
    usual = make_plan(figure, Brief(), bench)
    assert Walker(usual, bench).walk() == ""
    if name in HEAD_FIRST:  # the face is finished in the hand
        assert joined_after_its_face(usual) == []
    ways = [(c, school) for c in sorted(usual.choices) for school in SCHOOLS[c][1:]]
    assert ways
    for choice, school in some(ways, 6):
        plan = make_plan(figure, Brief().schooled(choice, school), bench)
        assert Walker(plan, bench).walk() == "", (choice, school)
        if (choice, school) == ("face", "after") and name in HEAD_FIRST:
            assert joined_after_its_face(plan)

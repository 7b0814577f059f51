"""The figure: what a design is, at the height it was made, as frozen pydantic values.

Axes: x to the right as the figure is looked at from the front, y away from the viewer (the face
is at negative y), z up. The figure's own left is therefore at positive x. Lengths are millimetres,
weights grams, angles degrees.
"""

from __future__ import annotations

import math
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, PrivateAttr, model_validator

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure.fields import (
    Angle,
    Colour,
    Cover,
    Firmness,
    Grams,
    Join,
    Metal,
    Name,
    Note,
    Side,
    Slug,
)
from bambola.core.figure.places import Place
from bambola.core.figure.shapes import LIMIT_MM, Coordinate, Frozen, Length, Shape, Share, at_most

StuffKind = Literal[
    "cloth", "felt sheet", "ribbon", "net", "yarn", "thread", "chenille", "paper", "clay"
]
SHEETS: frozenset[StuffKind] = frozenset({"cloth", "felt sheet", "net", "paper"})
"""What is cut out of a sheet to a pattern; the others are cut to a length, but for clay, which is shaped."""
NOT_FELTED = frozenset({"bought", "cut"})
"""Ways of making that take neither wool nor needle: clothes that are bought, and what is not of wool."""
Fixing = Literal["tied", "knotted", "wrapped", "gathered", "sewn", "glued", "threaded"]

_SHEET: tuple[Fixing, ...] = ("sewn", "gathered", "tied", "knotted", "wrapped", "glued")
FIXINGS: dict[StuffKind, tuple[Fixing, ...]] = {
    "cloth": _SHEET,
    "felt sheet": ("sewn", "tied", "knotted", "wrapped", "glued"),
    "ribbon": ("tied", "wrapped", "sewn", "glued"),
    "net": ("gathered", "sewn", "tied", "knotted", "wrapped"),
    "yarn": ("sewn", "wrapped", "tied", "threaded", "glued"),
    "thread": ("sewn", "threaded", "wrapped", "tied"),
    "chenille": ("glued", "threaded", "wrapped"),
    "paper": ("glued", "sewn"),
    "clay": ("glued", "threaded"),
}
"""How each can be fixed, the usual way first. Judged. See craft.md, 6."""


class Stuff(Frozen):
    """What is not wool, for a part whose ``core`` names it on the bench: its ``kind``, how it is ``fixed``,
    in how many ``pieces`` it is cut, and how many ``layers`` of it lie on each other."""

    kind: StuffKind
    fixed: Fixing = "sewn"
    pieces: Annotated[int, Field(ge=1, le=12)] = 1
    layers: Annotated[int, Field(ge=1, le=6)] = 1

    @model_validator(mode="after")
    def _fixed_as_it_can_be(self) -> Stuff:
        ways = FIXINGS[self.kind]
        if self.fixed not in ways:
            told = fact("fault.fixing", fixed=self.fixed, kind=self.kind, known=", ".join(ways))
            raise RefusedError(told)
        return self


MOST_STRANDS = 4
"""More wires than this are not twisted together by hand. See craft.md, 3."""


class Tilt(Frozen):
    """How a part is turned in its parent's axes: first about itself, then forwards, then sideways."""

    nod: Angle = 0.0
    lean: Angle = 0.0
    turn: Angle = 0.0

    @property
    def slant_deg(self) -> float:
        """By how much (degrees) it tilts an axis: spherical cosine rule of two turns about crossed axes."""
        nod, lean = math.radians(self.nod), math.radians(self.lean)
        return math.degrees(math.acos(max(-1.0, min(1.0, math.cos(nod) * math.cos(lean)))))


class Seat(Frozen):
    """Where something sits on its parent, in the parent's own normalised coordinates.

    ``along`` runs 0..1 from the parent's base to its tip, ``around`` is the angle about that axis
    (0 the parent's front, 90 its left), ``out`` is 0 on the axis and 1 on the skin. ``sink`` (mm) is
    how deep the base is pushed in along the seated part's own axis.
    """

    along: Share = 1.0
    around: Angle = 0.0
    out: Annotated[float, Field(ge=0, le=3)] = 1.0
    sink: Coordinate = 0.0
    tilt: Tilt = Tilt()


class SizeRule(Frozen):
    """How one measure (or ``all``) follows the figure's scale. ``value`` in mm, or a factor."""

    measure: str = "all"
    rule: Literal["scale", "hold", "floor", "ceiling", "multiply"]
    value: Annotated[float, Field(gt=0, le=1_000_000)] | None = None

    @model_validator(mode="after")
    def _has_its_value(self) -> SizeRule:
        if self.rule in ("floor", "ceiling", "multiply") and self.value is None:
            raise RefusedError(fact("fault.rule-value", rule=self.rule))
        return self


class Coat(Frozen):
    """The visible layer: its wool, and how well that hides what is beneath."""

    wool: Slug
    cover: Cover | Annotated[float, Field(gt=0, le=1)] = "over"


GoesOn = Literal["pulled over", "wrap", "sash", "skirt"]


class Garment(Frozen):
    """A part that is dress: the girth of its opening (mm), its stretch, and what it must pass over.

    A ``kind`` that is wrapped or tied passes anything. ``tails`` (mm) hang from each end of a knot,
    ``layers`` are worn under it. A skirt is knotted of strips ``strip`` mm wide, ``fullness`` times round.
    One that is ``bought`` takes no wool, weighs ``mass`` g, and its opening stays what it is at any height.
    """

    opening: Length
    stretch: Annotated[float, Field(ge=0, le=2)] = 0.05
    passes: Slug
    kind: GoesOn = "pulled over"
    tails: Annotated[float, Field(ge=0, le=LIMIT_MM)] = 0.0
    layers: Annotated[int, Field(ge=0, le=10)] = 0
    fullness: Annotated[float, Field(ge=1.5, le=2.5)] = 2.0
    strip: Length = 12.0
    bought: bool = False
    mass: Grams = 0.0

    def scaled(self, s: float) -> Garment:
        """It for a figure ``s`` times as large; what is bought stays as it is."""
        if self.bought:
            return self
        return self.replaced(opening=self.opening * s, tails=self.tails * s, strip=self.strip * s)


class Row(Frozen):
    """Like parts in a row, ``count`` of them: from the part's own seat on to this one, evenly."""

    count: Annotated[int, Field(ge=2, le=60)]
    along: Share
    around: Angle = 0.0

    def seats(self, first: Seat) -> tuple[Seat, ...]:
        """Return the seat of each copy, beginning with ``first``."""
        steps = (k / (self.count - 1) for k in range(self.count))
        return tuple(
            first.replaced(
                along=first.along + (self.along - first.along) * t,
                around=first.around + (self.around - first.around) * t,
            )
            for t in steps
        )


class Part(Frozen):
    """One felted volume, a mirrored pair of it, or a ``row`` of either. ``furrows`` between toes or lobes are
    pulled in with thread. An ``eye`` follows the law of eyes. One of ``stuff`` is not felted: ``core`` names
    what it is of on the bench. A ``hollow`` is pressed into what bears it, as deep as it lies
    in that, and lined with its coat."""

    id: Slug
    name: Name
    plural: Name | None = None
    shape: Shape
    parent: Slug | None = None
    seat: Seat = Seat()
    pair: bool = False
    on: Literal["both", "left", "right"] = "both"
    row: Row | None = None
    furrows: Annotated[int, Field(ge=0, le=8)] = 0
    firmness: Firmness = "medium"
    made: Literal["auto", "apart", "in place", "detail"] = "auto"
    core: Slug
    coat: Coat | None = None
    places: Annotated[tuple[Place, ...], at_most(40)] = ()
    join: Join = "fringe"
    seam_wool: Slug | None = None
    fringe: Length | None = None
    face: bool = False
    eye: bool = False
    over: Annotated[tuple[Slug, ...], at_most(400)] = ()
    garment: Garment | None = None
    stuff: Stuff | None = None
    hollow: bool = False
    rules: Annotated[tuple[SizeRule, ...], at_most(40)] = ()

    @cached_property
    def patches(self) -> tuple[Place, ...]:
        """The places of another colour, including pieces of a face."""
        return tuple(place for place in self.places if place.wool is not None)

    @cached_property
    def furs(self) -> tuple[Place, ...]:
        """The places on which fur grows."""
        return tuple(place for place in self.places if place.fur is not None)

    @model_validator(mode="after")
    def _rules_name_its_measures(self) -> Part:
        known = ("all", *self.shape.measure_names)
        for rule in self.rules:
            if rule.measure not in known:
                raise RefusedError(
                    fact("fault.no-measure", measure=rule.measure, known=", ".join(known))
                )
        return self


class Piece(Frozen):
    """One drawn piece of a fitting, ``at`` this height (mm) above the fitting's own seat."""

    shape: Shape
    at: Coordinate = 0.0
    colour: Colour = "#2E2A2C"
    finish: Literal["glass", "metal", "matt"] = "matt"


class Fitting(Frozen):
    """A bought or ready-made thing: eye, bead, prop.

    ``size`` is the diameter it is ordered by (mm), ``mass`` its weight at that size. ``follows``
    says what a new height does to it: the nearest ready-made size, free scaling, or nothing. What is not
    ``glued`` may be ``fixed`` by thread, or felted of wool itself; else it is caught by the felt. Of what is
    glued, ``clay`` is shaped by the maker on a wire, and what is ``pinned`` is the head of a pin. A hard
    ``core`` lies within its part: a stick, a bauble, a ball.
    """

    id: Slug
    name: Name
    kind: Literal["eye", "bead", "nose", "whisker", "prop", "bell", "shoe", "core"]
    part: Slug
    seat: Seat
    pair: bool = False
    on: Literal["both", "left", "right"] = "both"
    size: Length
    mass: Grams = 0.0
    pieces: Annotated[tuple[Piece, ...], at_most(20, 1)]
    follows: Literal["ready-made", "scale", "hold"] = "scale"
    glued: bool = False
    fixed: Literal["sewn", "felted", "clay", "pinned"] | None = None

    @property
    def is_bought(self) -> bool:
        """Whether it comes in fixed sizes."""
        return self.follows == "ready-made" and self.fixed != "felted"


class Node(Frozen):
    """A bend or joint of the armature, anchored inside a part (see :class:`Seat` for the numbers).

    ``loop`` is the perimeter (mm) of a ring bent there for a foot or hand; like every allowance it
    does not grow with the figure.
    """

    id: Slug
    part: Slug
    side: Side | None = None
    along: Share
    around: Angle = 0.0
    out: Annotated[float, Field(ge=0, le=3)] = 0.0
    loop: Length | None = None


class Bone(Frozen):
    """A straight run between two nodes, inside ``part`` (the part of its second node if unsaid).

    ``strands`` is how many wires must run along it at least.
    """

    a: Slug
    b: Slug
    part: Slug | None = None
    strands: Annotated[int, Field(ge=1, le=MOST_STRANDS)] = 1


class Wire(Frozen):
    """One cut piece of wire walking over bones.

    ``binds`` are the nodes where it is twisted on to another wire; ``stub`` says that it ends in a
    peg for the head; ``loops`` are perimeters (mm) of rings bent at its ends, set by fingers.
    """

    id: Slug
    name: Name
    metal: Metal
    diameter: Annotated[float, Field(gt=0, le=20)]
    route: Annotated[tuple[Slug, ...], at_most(400, 2)]
    binds: Annotated[tuple[Slug, ...], at_most(400)] = ()
    stub: Slug | None = None
    loops: Annotated[tuple[Length, ...], at_most(2)] = ()
    _called: Fact | None = PrivateAttr(default=None)

    @property
    def display_name(self) -> Fact:
        """The name of the wire: the maker's, or for a wire laid by a school one that says where it runs."""
        return self._called or fact("named", name=self.name)

    def named(self, called: Fact) -> Wire:
        """Return the wire with this name."""
        again = self.model_copy()
        again._called = called
        return again


class FaceMark(Frozen):
    """A named mark on the face, as a seat on a part: eye line, nose, ear base. One for the ``eye`` tells how
    high the eyes are."""

    id: Slug
    name: Name
    part: Slug
    along: Share
    around: Angle = 0.0
    eye: bool = False


class PoseBend(Frozen):
    """The part of a limb beyond one joint, turned about that joint on one side or both."""

    part: Slug
    joint: Annotated[int, Field(ge=0, le=40)]
    side: Literal["both", "left", "right"] = "both"
    tilt: Tilt


class Datum(Frozen):
    """What finished height means: from the ground (or the hanging loop) to the top of ``part``, or where
    no part is named of whatever reaches highest."""

    kind: Literal["crown", "ear tips", "back", "loop to foot"] = "crown"
    part: Slug | None = None

    @property
    def as_fact(self) -> Fact:
        """The points between which the height is taken, in words."""
        if self.part is None and self.kind == "crown":
            return Fact("datum.top")
        return Fact(f"datum.{self.kind.replace(' ', '-')}")


class FigureParts(Frozen):
    """The contents of a design, not yet checked for whether they fit together."""

    id: Slug
    name: Name
    note: Note = ""
    datum: Datum
    stance: Literal["standing", "sitting", "hanging"] = "standing"
    packing: Annotated[float, Field(gt=0.05, le=20)] = 1.0
    parts: Annotated[tuple[Part, ...], at_most(400, 1)]
    fittings: Annotated[tuple[Fitting, ...], at_most(400)] = ()
    nodes: Annotated[tuple[Node, ...], at_most(2000)] = ()
    bones: Annotated[tuple[Bone, ...], at_most(2000)] = ()
    wires: Annotated[tuple[Wire, ...], at_most(200)] = ()
    marks: Annotated[tuple[FaceMark, ...], at_most(200)] = ()
    pose: Annotated[tuple[PoseBend, ...], at_most(400)] = ()

"""Places on a part: a stretch of it or a side, an outline drawn on it, a line over it, or what is near
another part; each with a colour of its own, with fur, or bare of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import Field

from bambola.core.figure.fields import Angle, Cover, Name, Slug, View
from bambola.core.figure.shapes import Frozen, Length, Share, at_most


class Fur(Frozen):
    """Long fibre fixed by one line and left free.

    ``hair`` is its length and ``spacing`` the distance between rows (mm); neither grows with the
    figure unless ``lengthens`` says that the hair is to. ``lie`` is the end of the part the hair points
    to: there the rows begin.
    """

    wool: Slug
    kind: Literal["locks", "fleece", "pile"] = "locks"
    hair: Length
    spacing: Length
    lengthens: bool = False
    lie: Literal["base", "tip"] = "base"


class Outline(Frozen):
    """What lies within an outline drawn on one view of the part.

    Points run from -1 to 1 across and up the part's own box seen from ``view``; ``mirrored`` lays
    the same on the other side of the part's midline as well.
    """

    kind: Literal["outline"] = "outline"
    view: View = "front"
    outline: Annotated[tuple[tuple[float, float], ...], at_most(400, 3)]
    mirrored: bool = False


class Band(Frozen):
    """A stretch from ``begin`` to ``end`` (0 at the part's base, 1 at its tip), all round it or one side of
    it: so ``wide`` (degrees) about the angle ``around`` its axis."""

    kind: Literal["band"] = "band"
    begin: Share = 0.0
    end: Share = 1.0
    around: Angle = 0.0
    wide: Annotated[float, Field(gt=0, le=360)] = 360.0
    mirrored: bool = False

    @property
    def is_whole(self) -> bool:
        """Whether it covers all of the part."""
        return self.begin == 0.0 and self.end == 1.0 and self.wide >= 360.0


class Line(Frozen):
    """A line over the skin so ``wide`` (mm), by way of places (along the part, and the angle
    around its axis); by way of one place it is a round spot."""

    kind: Literal["line"] = "line"
    way: Annotated[tuple[tuple[Share, Angle], ...], at_most(24, 1)]
    wide: Length
    mirrored: bool = False

    @property
    def is_spot(self) -> bool:
        """Whether it is a round spot."""
        return len(self.way) == 1


class Near(Frozen):
    """What is no farther than ``within`` (mm) from where ``part``, which sits on this one or bears it, meets
    it."""

    kind: Literal["near"] = "near"
    part: Slug
    within: Length


Where = Annotated[Outline | Band | Line | Near, Field(discriminator="kind")]


FaceKind = Literal[
    "mouth", "nose", "nose-line", "nostril", "lid", "rim", "lash", "cheek", "brow", "white",
    "pupil", "highlight",
]  # fmt: skip
LaidAnswer = Literal["hairs", "twist", "pinch", "half-disc"]
"""What a piece of a face is made of: single hairs, a wisp twisted to a thread, a pinch, half a disc."""


class Place(Frozen):
    """A place on a part: of a ``wool`` of its own, with ``fur``, or ``bare`` of fur that grows around it.
    What stands later among a part's places lies over what stands earlier. A piece of a ``face`` is laid on
    the skin as a line or a spot, ``laid`` as such a piece usually is where nothing is said."""

    id: Slug
    name: Name | None = None
    where: Where
    wool: Slug | None = None
    cover: Cover | Annotated[float, Field(gt=0, le=1)] = "over"
    fur: Fur | None = None
    bare: bool = False
    face: FaceKind | None = None
    laid: LaidAnswer | None = None

    @property
    def display_name(self) -> str:
        """Its name, or what it is known by."""
        return self.name or self.id.replace("-", " ")

    @property
    def copies(self) -> int:
        """How many there are of it: two where its like lies on the other side."""
        return 1 + (not isinstance(self.where, Near) and self.where.mirrored)

    @property
    def is_whole(self) -> bool:
        """Whether it is all of the part."""
        return isinstance(self.where, Band) and self.where.is_whole

    @property
    def is_spot(self) -> bool:
        """Whether it is a round spot."""
        return isinstance(self.where, Line) and self.where.is_spot

    def scaled(self, s: float, grid: float = 0.0) -> Place:
        """Return the place for a part ``s`` times as large; lengths are rounded to ``grid`` (mm) if given."""
        where = self.where
        if isinstance(where, Line):
            return self.replaced(where=where.replaced(wide=_round_to_grid(where.wide * s, grid)))
        if isinstance(where, Near):
            return self.replaced(
                where=where.replaced(within=_round_to_grid(where.within * s, grid))
            )
        return self

    def dyed(self, colour: Callable[[str], str]) -> Place:
        """Return the place in other wools, as ``colour`` maps them."""
        return self.replaced(
            wool=self.wool and colour(self.wool),
            fur=self.fur and self.fur.replaced(wool=colour(self.fur.wool)),
        )


def _round_to_grid(mm: float, grid: float) -> float:
    return max(grid, round(mm / grid) * grid) if grid else mm


def fur_all_over(fur: Fur) -> Place:
    """Return ``fur`` on all of a part's bare skin."""
    return Place(id="fur", where=Band(), fur=fur)

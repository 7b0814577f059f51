"""The survey: how a maker's own figure was measured, kept beside the figure it led to.

A picture is *framed*: straightened, cropped, given a ground line, a midline and a scale. After that
its points are millimetres: ``u`` to the right as seen from the midline, ``v`` up from the ground.
A *trace* is a line drawn along a part with the widths found across it.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from bambola.core.facts import Fact, RefusedError
from bambola.core.figure.fields import Grams, Name, Slug
from bambola.core.figure.shapes import Coordinate, Frozen, Length, at_most

Sight = Literal["front", "side", "back", "top"]
How = Literal["straight", "girth", "over the surface", "caliper", "picture", "plan"]
Spot = tuple[Coordinate, Coordinate]

DOUBT: dict[How, float] = {
    "caliper": 0.01,
    "straight": 0.02,
    "girth": 0.02,
    "over the surface": 0.04,
    "picture": 0.03,
    "plan": 0.15,
}
"""One standard deviation of a measure, as a share of it, by how it was taken. Judged by us: a tape is
read to half a millimetre on a few centimetres; a body plan's proportion is only a likely one.
See craft.md, 9."""


class Stroke(Frozen):
    """A stroke that corrects a silhouette: points and radius in the picture file's pixels, and whether
    it says that the figure is there."""

    points: Annotated[tuple[Spot, ...], at_most(400, 1)]
    radius: Length
    figure: bool


class Framing(Frozen):
    """One picture as the maker laid it down. Pixels are those of the straightened picture.

    ``turn`` (degrees, counter-clockwise) was applied to straighten it about its own centre; ``crop``
    is left, top, right, bottom. ``mm_px`` is millimetres a pixel. ``flipped`` mirrors a side picture
    in which the figure looks the other way.
    """

    view: Sight
    picture: Annotated[str, Field(max_length=4000)]
    width: Annotated[int, Field(gt=0, le=100_000)]
    height: Annotated[int, Field(gt=0, le=100_000)]
    turn: Annotated[float, Field(ge=-180, le=180)] = 0.0
    crop: tuple[Coordinate, Coordinate, Coordinate, Coordinate] | None = None
    ground: Coordinate
    midline: Coordinate
    mm_px: Length | None = None
    flipped: bool = False
    strokes: Annotated[tuple[Stroke, ...], at_most(200)] = ()

    @property
    def sense(self) -> float:
        """-1 if the picture is mirrored, else 1."""
        return -1.0 if self.flipped else 1.0

    def straightened(self, x: float, y: float) -> Spot:
        """Return a pixel of the picture file as a pixel of the straightened picture."""
        return self._turn_point(x, y, math.radians(self.turn))

    def original(self, x: float, y: float) -> Spot:
        """Return a pixel of the straightened picture as a pixel of the picture file."""
        return self._turn_point(x, y, -math.radians(self.turn))

    def _turn_point(self, x: float, y: float, angle: float) -> Spot:
        cx, cy = self.width / 2, self.height / 2
        c, s = math.cos(angle), math.sin(angle)
        dx, dy = x - cx, y - cy
        return cx + c * dx + s * dy, cy - s * dx + c * dy

    def to_mm(self, x: float, y: float) -> Spot:
        """Return a pixel of the straightened picture in mm."""
        scale = self.mm_px or 1.0
        return (x - self.midline) * scale * self.sense, (self.ground - y) * scale

    @property
    def crop_in_file(self) -> tuple[float, float, float, float] | None:
        """The crop as an upright rectangle of the picture file's pixels."""
        if self.crop is None:
            return None
        left, top, right, bottom = self.crop
        corners = [self.original(x, y) for x in (left, right) for y in (top, bottom)]
        xs, ys = [c[0] for c in corners], [c[1] for c in corners]
        return max(0.0, min(xs)), max(0.0, min(ys)), max(xs), max(ys)

    def to_px(self, u: float, v: float) -> Spot:
        """Return a place in mm as a pixel of the straightened picture."""
        scale = self.mm_px or 1.0
        return self.midline + u / scale * self.sense, self.ground - v / scale


class Trace(Frozen):
    """A line along a part, from its base to its tip, in one view (mm), and the widths across it.

    ``left`` and ``right`` are the reaches (mm) to either side at equal steps along the line. Those that were
    ``pulled`` by hand, each by its side and step, are the truth, whatever their neighbours say.
    """

    part: Slug
    view: Sight
    points: Annotated[tuple[Spot, ...], at_most(40, 2)]
    left: Annotated[tuple[Annotated[float, Field(ge=0, le=1e6)], ...], at_most(200)]
    right: Annotated[tuple[Annotated[float, Field(ge=0, le=1e6)], ...], at_most(200)]
    edges: Literal["outline", "hand"] = "outline"
    pulled: Annotated[
        tuple[tuple[Literal["left", "right"], Annotated[int, Field(ge=0, lt=200)]], ...],
        at_most(400),
    ] = ()

    @property
    def key(self) -> tuple[str, str, bool]:
        """The key by which one trace replaces another: part, view, and whether it is clearly left of the
        midline."""
        middle = sum(u for u, _ in self.points) / len(self.points)
        widest = max(a + b for a, b in zip(self.left, self.right, strict=True))
        return self.part, self.view, self.view != "side" and middle < -0.25 * widest

    @model_validator(mode="after")
    def _two_sides_alike(self) -> Trace:
        if len(self.left) != len(self.right) or len(self.left) < 2:
            raise RefusedError(Fact("fault.trace-sides"))
        if self.length <= 0:
            raise RefusedError(Fact("fault.trace-points"))
        return self

    @property
    def length(self) -> float:
        """The length of the line, mm."""
        return sum(math.dist(a, b) for a, b in zip(self.points, self.points[1:], strict=False))


class Taken(Frozen):
    """A measured size: of which part, how large (mm), and how it was measured."""

    part: Slug
    measure: Annotated[str, Field(max_length=40)]
    mm: Length
    how: How = "straight"


class Landmark(Frozen):
    """A place seen in more than one picture: crown, chin, hem, wrist."""

    name: Name
    view: Sight
    at: Spot


class Survey(Frozen):
    """Everything measured on the original. ``weight`` (g) and ``height`` (mm) are the whole's."""

    framings: Annotated[tuple[Framing, ...], at_most(8)] = ()
    traces: Annotated[tuple[Trace, ...], at_most(1600)] = ()
    taken: Annotated[tuple[Taken, ...], at_most(4000)] = ()
    landmarks: Annotated[tuple[Landmark, ...], at_most(200)] = ()
    weight: Annotated[Grams, Field(gt=0)] | None = None
    height: Length | None = None

    def framing(self, view: Sight) -> Framing | None:
        """Return the picture of a view, if there is one."""
        return next((f for f in self.framings if f.view == view), None)

    def unframed(self, view: Sight) -> Survey:
        """Return a copy without the picture of ``view`` and what was drawn on it."""
        return self.replaced(
            framings=tuple(f for f in self.framings if f.view != view),
            traces=tuple(t for t in self.traces if t.view != view),
            landmarks=tuple(m for m in self.landmarks if m.view != view),
        )

    def framed(self, framing: Framing) -> Survey:
        """Return a copy with ``framing`` for its view."""
        rest = tuple(f for f in self.framings if f.view != framing.view)
        return self.replaced(framings=(*rest, framing))

    def traces_of(self, part: str) -> tuple[Trace, ...]:
        """Return every line drawn along a part."""
        return tuple(t for t in self.traces if t.part == part)

    def traced(self, trace: Trace) -> Survey:
        """Return a copy with ``trace``, replacing an earlier one of its part, view and side."""
        rest = tuple(t for t in self.traces if t.key != trace.key)
        return self.replaced(traces=(*rest, trace))

    def how_taken(self, part: str, measure: str) -> How:
        """Return how a measure of a part was taken; ``plan`` if it never was."""
        for taken in self.taken:
            if taken.part == part and taken.measure == measure:
                return taken.how
        return "plan"

    def with_readings(self, *news: Taken) -> Survey:
        """Return a copy with ``news``, replacing earlier values of the same measures."""
        same = {(t.part, t.measure) for t in news}
        rest = tuple(t for t in self.taken if (t.part, t.measure) not in same)
        return self.replaced(taken=(*rest, *news))

    def marked(self, landmark: Landmark) -> Survey:
        """Return a copy with ``landmark``, replacing an earlier one of its name and view."""
        rest = tuple(
            m for m in self.landmarks if (m.name, m.view) != (landmark.name, landmark.view)
        )
        return self.replaced(landmarks=(*rest, landmark))

    def without_parts(self, parts: frozenset[str]) -> Survey:
        """Return a copy without anything measured on ``parts``, which were removed."""
        return self.replaced(
            traces=tuple(t for t in self.traces if t.part not in parts),
            taken=tuple(t for t in self.taken if t.part not in parts),
        )

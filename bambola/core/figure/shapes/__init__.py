"""The shapes a felted part can have, as frozen values: one file a kind.

Every shape stands on its own base: the origin is where it is seated on its parent, and the local z axis runs
along it. Local x is width, local y is depth with the front at negative y. Measures are named;
:meth:`ShapeBase.resized` gives the same shape with other measures. Lengths are millimetres.

There are three families. A *profile* shape has elliptical sections along a straight axis (ball, sausage,
cone, pad, turned). A *chain* shape is a round swept through places (limb, rope). A *leaf* is a sheet. A new
kind of the first two is a file here, named in :data:`Shape` and :data:`KINDS`.
"""

from __future__ import annotations

from typing import Annotated, cast

from pydantic import Field

from bambola.core.figure.shapes.base import (
    LEAST_MM,
    LIMIT_MM,
    Coordinate,
    Frozen,
    Length,
    Point3,
    ShapeBase,
    Share,
    StartForm,
    at_most,
)
from bambola.core.figure.shapes.chain import Chain, ChainShape, Joint, Limb, Rope
from bambola.core.figure.shapes.leaf import Leaf
from bambola.core.figure.shapes.profile import (
    Ball,
    Cone,
    Pad,
    Profile,
    ProfileShape,
    Sausage,
    Station,
    Turned,
)

Shape = Annotated[
    Ball | Sausage | Cone | Limb | Pad | Leaf | Rope | Turned, Field(discriminator="kind")
]


def _by_name(*kinds: type[ShapeBase]) -> dict[str, type[ShapeBase]]:
    return {kind.model_fields["kind"].default: kind for kind in kinds}


KINDS = _by_name(Ball, Sausage, Cone, Limb, Pad, Leaf, Rope, Turned)
"""Every kind of shape by what a document calls it."""


def as_kind(shape: Shape, kind: str) -> Shape:
    """Return ``shape`` as another ``kind`` with the same length, width and depth."""
    return cast(Shape, KINDS[kind].sized_like(shape))

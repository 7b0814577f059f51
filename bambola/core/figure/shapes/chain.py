"""Shapes that are a round swept through places."""

from __future__ import annotations

import itertools
import math
from abc import abstractmethod
from collections.abc import Sequence
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes.base import Point3, ShapeBase
from bambola.core.frozen import frozen

Array = NDArray[np.float64]


@frozen
class Chain:
    """Round sections of ``radii`` (n,) centred on ``points`` (n, 3), all mm."""

    points: Array
    radii: Array
    closed: bool


class ChainShape(ShapeBase):
    """A shape whose length runs through its places and includes its round ends."""

    smooth: ClassVar[bool]
    """Whether it is a smooth curve, or straight from round to round."""

    @abstractmethod
    def chain(self) -> Chain:
        """Return its rounds."""


def way_through(places: Sequence[Point3]) -> float:
    """Return the length of the path through ``places``, mm."""
    return sum(math.dist(a, b) for a, b in itertools.pairwise(places))


def smooth(points: Array, closed: bool, steps: int) -> Array:
    """Return a Catmull-Rom curve through ``points`` (n, d), with its ends doubled unless ``closed``."""
    if len(points) == 2 and not closed:
        straight: Array = points[0] + np.linspace(0, 1, steps + 1)[:, None] * (
            points[1] - points[0]
        )
        return straight
    padded = (
        np.vstack([points[-1:], points, points[:2]])
        if closed
        else np.vstack([2 * points[0] - points[1], points, 2 * points[-1] - points[-2]])
    )
    t = np.linspace(0, 1, steps, endpoint=False)[None, :, None]
    p0, p1, p2, p3 = (padded[i : len(padded) - 3 + i, None, :] for i in range(4))
    run = 0.5 * (
        2 * p1
        + (p2 - p0) * t
        + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t**2
        + (3 * p1 - p0 - 3 * p2 + p3) * t**3
    ).reshape(-1, points.shape[1])
    return run if closed else np.vstack([run, points[-1:]])

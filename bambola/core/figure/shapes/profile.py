"""Shapes with elliptical sections along a straight axis."""

from __future__ import annotations

import math
from abc import abstractmethod

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes.base import ShapeBase
from bambola.core.frozen import frozen

Array = NDArray[np.float64]


@frozen
class Profile:
    """Half width and half depth (mm) at rising heights ``z`` (mm); all arrays of shape (n,)."""

    z: Array
    half_width: Array
    half_depth: Array

    @property
    def volume(self) -> float:
        """Volume in mm³, sections taken as ellipses and interpolated linearly."""
        a, b, dz = self.half_width, self.half_depth, np.diff(self.z)
        mean = (2 * a[1:] * b[1:] + 2 * a[:-1] * b[:-1] + a[1:] * b[:-1] + a[:-1] * b[1:]) / 6
        return float(math.pi * (mean * dz).sum())


class ProfileShape(ShapeBase):
    """A mirror-symmetric shape given by its sections."""

    @abstractmethod
    def profile(self, sections: int) -> Profile:
        """Return its profile, cut into about ``sections`` slices."""


def two_rounds(base: float, tip: float, length: float, sections: int) -> Profile:
    """Return the hull of two spheres on the axis, radii ``base`` and ``tip``, ``length`` over all."""
    gap = length - base - tip
    slope = math.asin(max(-1.0, min(1.0, (base - tip) / gap))) if gap > 0 else 0.0
    low = np.linspace(-math.pi / 2, slope, sections // 2 + 1)
    high = np.linspace(slope, math.pi / 2, sections // 2 + 1)
    z = np.concatenate([base + base * np.sin(low), length - tip + tip * np.sin(high)])
    radius = np.concatenate([base * np.cos(low), tip * np.cos(high)])
    keep = np.concatenate([[True], np.diff(z) > 1e-12 * length])
    return Profile(z[keep], radius[keep], radius[keep])

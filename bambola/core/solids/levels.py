"""A thread laid round a part at one level: its length from the front to a place, and the reverse."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.figure.shapes import ProfileShape
from bambola.core.solids.forms import profile

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)


def level_halves(shape: ProfileShape, along: float) -> tuple[float, float]:
    """Return the half width and half depth (mm) of the section at ``along`` (0 to 1)."""
    form = profile(shape)
    z = along * float(form.z[-1])
    wide = float(np.interp(z, form.z, form.half_width))
    return wide, float(np.interp(z, form.z, form.half_depth))


def level_arc(shape: ProfileShape, along: float, around: float) -> float:
    """Return the length (mm) of a level thread from the front round to ``around`` degrees: an ellipse's arc,
    by Gauss-Legendre quadrature, accurate to 1e-7 with this many points."""
    wide, deep = level_halves(shape, along)
    if wide <= 0:
        return 0.0
    half = math.radians(abs(around)) / 2
    a = half * (1 + _NODES)
    return float(half * (_WEIGHTS * np.hypot(wide * np.cos(a), deep * np.sin(a))).sum())


def around_at(shape: ProfileShape, along: float, arc: float) -> float:
    """Return the degrees round from the front at which a level thread is ``arc`` mm long, at most 180."""
    steps = np.linspace(0.0, 180.0, 721)
    wide, deep = level_halves(shape, along)
    a = np.radians(steps)
    points = np.column_stack([wide * np.sin(a), -deep * np.cos(a)])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    return float(np.interp(arc, run, steps))

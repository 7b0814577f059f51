"""A thread laid round a part at one level: how long it is from the front to a place, and back again."""

from __future__ import annotations

import math

import numpy as np

from bambola.core.figure.shapes import ProfileShape
from bambola.core.solids.forms import profile


def level_halves(shape: ProfileShape, along: float) -> tuple[float, float]:
    """Half width and half depth (mm) of the section at ``along`` (0 to 1)."""
    form = profile(shape)
    z = along * float(form.z[-1])
    wide = float(np.interp(z, form.z, form.half_width))
    return wide, float(np.interp(z, form.z, form.half_depth))


def level_arc(shape: ProfileShape, along: float, around: float) -> float:
    """How long (mm) a level thread is from the front round to ``around`` degrees: an ellipse's arc, by the
    incomplete elliptic integral of the second kind."""
    from scipy.special import ellipeinc  # only where a face is measured

    wide, deep = level_halves(shape, along)
    if wide <= 0:
        return 0.0
    return float(wide * ellipeinc(math.radians(abs(around)), 1 - (deep / wide) ** 2))


def around_at(shape: ProfileShape, along: float, arc: float) -> float:
    """The degrees round from the front at which a level thread is ``arc`` mm long, at most 180."""
    steps = np.linspace(0.0, 180.0, 721)
    wide, deep = level_halves(shape, along)
    a = np.radians(steps)
    points = np.column_stack([wide * np.sin(a), -deep * np.cos(a)])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    return float(np.interp(arc, run, steps))

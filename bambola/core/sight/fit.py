"""Fits shapes to width profiles: which shape a profile is, and how large.

Other parts cross the outline, and a part is wider where it joins another than by itself. The fits are
therefore robust (SciPy's Cauchy loss), and let the axis lie a little beside the drawn line.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.shapes.profile import fullest_section
from bambola.core.figure.survey import Trace
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.sight.profile import FAR, places_along

Array = NDArray[np.float64]

LOOSE = 0.03
"""Residuals beyond this share of the width count as another part's."""
END_PLAY = 0.03
"""An end may be this share of the length from where it was drawn."""
BESIDE = 0.06
"""The axis may lie this share of the width beside the line."""
WITHIN = 2.5
"""A part lies within the silhouette: a fit that reaches beyond it misses this many times over."""
PULLED = 3.0
"""A width that was pulled by hand counts so many times, and is never taken for another part's. Judged."""
GOOD = 0.035
"""A fit whose typical miss is below this share of the width is good enough to be proposed."""


@frozen
class ShapeFit:
    """A shape's profile fitted to a trace. ``start`` and ``end`` are the ends of the axis (mm, in the view);
    ``across`` names widths (mm): one for a straight shape, one at each station for a turned one. ``miss`` is
    the typical residual as a share of the width."""

    kind: str
    start: tuple[float, float]
    end: tuple[float, float]
    across: dict[str, float]
    miss: float

    @property
    def length(self) -> float:
        """The distance between the ends, mm."""
        return math.dist(self.start, self.end)


def propose_kind(trace: Trace) -> str:
    """Return the kind of shape a trace most likely is."""
    widths = _widths_of(trace)
    typical = float(np.median(widths[4:-4])) or 1e-9
    bent = trace.length > 1.03 * math.dist(trace.points[0], trace.points[-1])
    if len(trace.points) > 2 and (bent or trace.length > 3 * typical):
        return "limb"
    simple = [fit_shape(kind, trace) for kind in ("ball", "cone", "pad", "sausage")]
    best = min(simple, key=lambda f: f.miss)
    if best.miss > GOOD:
        return "turned"
    # The plainest shape that does as well as the best.
    return next(f.kind for f in simple if f.miss < 1.25 * best.miss + 0.004)


@remembered(512)
def fit_shape(kind: str, trace: Trace) -> ShapeFit:
    """Return ``kind`` fitted to ``trace``: a shape with an outline of its own by least squares, any other
    freely."""
    if kind not in _UNKNOWNS:
        return _free_profile(kind, trace)
    from scipy.optimize import least_squares

    t, left, right, trusted = _side_reaches(trace)
    by_hand = _by_hand(trace)
    length = math.dist(trace.points[0], trace.points[-1])
    full = max(float(np.percentile((left + right)[trusted], 75)), 1e-3 * length)
    names, first, low, high = _UNKNOWNS[kind]
    # Play of both ends, and the axis beside the line at its base and its tip.
    drawn = trace.edges == "outline"
    # The flanks of a ball tell where it ends; a straight side does not.
    play = END_PLAY if drawn and kind == "ball" else 1e-6
    beside_most = BESIDE if drawn else 0.5
    begin = [*first, 0.0, 0.0, 0.0, 0.0]
    bounds = (
        [*low, -play, -play, -beside_most, -beside_most],
        [*high, play, play, beside_most, beside_most],
    )

    def residual(p: Array) -> Array:
        shape, (e0, e1, c0, c1) = p[: len(names)], p[len(names) :]
        where = (t - e0) / (1 - e0 + e1)
        half = half_width(kind, where, length * (1 - e0 + e1), full, shape)
        beside = (c0 + (c1 - c0) * t) * full
        off = np.concatenate([left - half - beside, right - half + beside]) / full
        off = np.where(off < 0, WITHIN * off, off) if drawn else off
        off = np.where(by_hand, PULLED * off, off)
        # A short wide part would be tilted by the slightest unevenness of its sides.
        drift = np.array([e0, e1, 0.5 * c0, (c1 - c0) * full / length]) * 2
        return np.concatenate([off[both], drift])

    both = np.concatenate([trusted, trusted])
    loss = _cauchy_loss(np.concatenate([by_hand[both], np.zeros(4, dtype=bool)]))
    found = least_squares(residual, begin, bounds=bounds, loss=loss, f_scale=LOOSE)
    shape, (e0, e1, c0, c1) = found.x[: len(names)], found.x[len(names) :]
    start, end = _move_axis(trace, e0, e1, c0 * full, c1 * full)
    across = dict(zip(names, shape, strict=True))
    across = {n: v * full if n != "taper" else v for n, v in across.items()}
    miss = float(np.median(np.abs(residual(found.x)[:-4])))
    return ShapeFit(kind, start, end, {n: float(v) for n, v in across.items()}, miss)


_Unknowns = tuple[list[str], list[float], list[float], list[float]]
_UNKNOWNS: dict[str, _Unknowns] = {
    "ball": (["width", "taper"], [1.0, 0.0], [0.3, -0.45], [3.0, 0.45]),
    "cone": (["base", "tip"], [1.0, 0.6], [0.02, 0.02], [3.0, 3.0]),
    "pad": (["width"], [1.0], [0.3], [3.0]),
    "sausage": (["width"], [1.0], [0.3], [3.0]),
}
"""Names, starting values and bounds of a shape's own numbers, in shares of its full width."""


def half_width(kind: str, t: Array, length: float, full: float, shape: Array) -> Array:
    """Return the half width (mm) of a shape at shares ``t`` of its length; 0 beyond its ends."""
    inside = np.clip(t, 0.0, 1.0)
    if kind == "ball":
        zeta = 2 * inside - 1
        taper = float(shape[1])
        scale = fullest_section(taper)
        return np.asarray(
            shape[0] * full / 2 * np.sqrt(np.maximum(0, 1 - zeta**2)) * (1 - taper * zeta) / scale
        )
    if kind == "pad":
        return np.asarray(shape[0] * full / 2 * np.sqrt(1 - inside**2))
    base = shape[0] * full / 2
    tip = (shape[1] if kind == "cone" else shape[0]) * full / 2
    return _two_rounds(inside * length, base, tip, length)


def _two_rounds(z: Array, base: float, tip: float, length: float) -> Array:
    """Return the half width of the hull of two rounds of radii ``base`` and ``tip`` on an axis ``length``
    long."""
    gap = max(length - base - tip, 1e-9)
    sine = float(np.clip((base - tip) / gap, -0.999, 0.999))
    cosine = math.sqrt(1 - sine * sine)
    low, high = base + base * sine, length - tip + tip * sine
    first = np.sqrt(np.maximum(0, base**2 - (z - base) ** 2))
    last = np.sqrt(np.maximum(0, tip**2 - (z - length + tip) ** 2))
    straight = base * cosine + (tip - base) * cosine * (z - low) / max(high - low, 1e-9)
    return np.where(z <= low, first, np.where(z >= high, last, straight))


def _move_axis(
    trace: Trace, e0: float, e1: float, c0: float, c1: float
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return the ends of the axis: those of the line, moved along it by ``e`` (shares) and beside it by ``c``
    (mm)."""
    a, b = np.array(trace.points[0]), np.array(trace.points[-1])
    way = b - a
    aside = np.array([-way[1], way[0]]) / np.linalg.norm(way)
    start = a + way * e0 + aside * (c0 + (c1 - c0) * e0)
    end = b + way * e1 + aside * (c1 + (c1 - c0) * e1)
    return (float(start[0]), float(start[1])), (float(end[0]), float(end[1]))


def _side_reaches(trace: Trace) -> tuple[Array, Array, Array, NDArray[np.bool_]]:
    """Return shares along the line, reaches to the left and right, and which stations are usable."""
    left, right = np.array(trace.left), np.array(trace.right)
    trusted = (left + right > 0) & (np.maximum(left, right) < 0.99 * FAR * trace.length)
    if trusted.sum() < 4:
        trusted = np.ones(len(left), dtype=bool)
    return np.linspace(0, 1, len(left)), left, right, trusted


def _by_hand(trace: Trace) -> NDArray[np.bool_]:
    """Return which reaches (2n,) were pulled by hand, all left ones first."""
    n = len(trace.left)
    found = np.zeros(2 * n, dtype=bool)
    found[[at + n * (side == "right") for side, at in trace.pulled if at < n]] = True
    return found


def _cauchy_loss(sure: NDArray[np.bool_]) -> Callable[[Array], Array]:
    """Return Cauchy's loss as SciPy expects it, except for ``sure`` stations, which are never outliers."""

    def rho(z: Array) -> Array:
        far = 1 + z
        return np.array(
            [
                np.where(sure, z, np.log(far)),
                np.where(sure, 1.0, 1 / far),
                np.where(sure, 0.0, -1 / far**2),
            ]
        )

    return rho


def _widths_of(trace: Trace) -> Array:
    widths: Array = np.array(trace.left) + np.array(trace.right)
    return widths


TURNED_AT = (0.0, 0.04, 0.12, 0.25, 0.4, 0.55, 0.7, 0.83, 0.93, 0.98, 1.0)
"""Where a turned form is cut: closer together at its ends, where it rounds off."""


def _free_profile(kind: str, trace: Trace) -> ShapeFit:
    """Return the profile as read, at a few stations."""
    t, left, right, _ = _side_reaches(trace)
    across = {}
    for i, at in enumerate(TURNED_AT):
        across[f"left-{i}"] = float(np.interp(at, t, left))
        across[f"right-{i}"] = float(np.interp(at, t, right))
    if max(across.values()) <= 0:
        across = dict.fromkeys(across, trace.length / 20)
    start, end = trace.points[0], trace.points[-1]
    return ShapeFit(kind, start, end, across, 0.0)


@frozen
class ChainFit:
    """Centres (n, 2) and thicknesses (n,) of a limb or rope fitted along a trace, mm in the view."""

    centres: Array
    thickness: Array


@remembered(512)
def fit_chain(trace: Trace, rounds: int = 0) -> ChainFit:
    """Return the centres and thicknesses at the drawn points, or at ``rounds`` equal steps.

    Thickness runs smoothly along a limb (a parabola); stations crossed by other parts are left out.
    """
    from scipy.optimize import least_squares

    t, left, right, trusted = _side_reaches(trace)
    widths = left + right
    typical = max(float(np.median(widths[trusted])), 1e-3 * trace.length)
    ts, ws = t[trusted], widths[trusted]
    # Ends of a limb round off or run into other parts: the middle says most, and what was pulled by hand.
    left_sure, right_sure = np.split(_by_hand(trace), 2)
    by_hand = (left_sure | right_sure)[trusted]
    weight = np.where((ts > 0.08) & (ts < 0.92), 1.0, 0.25)
    weight = np.where(by_hand, PULLED, weight)
    found = least_squares(
        lambda p: (p[0] + p[1] * ts + p[2] * ts**2 - ws) / typical * weight,
        [typical, 0.0, 0.0],
        loss=_cauchy_loss(by_hand),
        f_scale=LOOSE,
    )
    points = np.array(trace.points)
    share = np.linspace(0, 1, rounds) if rounds else _shares_along(points)
    centres, ahead = places_along(points, share)
    thick = np.maximum(found.x[0] + found.x[1] * share + found.x[2] * share**2, 0.1 * typical)
    centres = centres + _offset_from_line(trace, share, thick, ahead)
    return ChainFit(_pulled_back(trace, centres, thick), thick)


def _shares_along(points: Array) -> Array:
    runs = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    shares: Array = runs / runs[-1]
    return shares


def _offset_from_line(trace: Trace, share: Array, thick: Array, ahead: Array) -> Array:
    """Return how far (n, 2) the middle lies beside the line, where the widths can be trusted."""
    t, left, right, trusted = _side_reaches(trace)
    shift = np.zeros(len(share))
    for i, (at, wide) in enumerate(zip(share, thick, strict=True)):
        near = trusted & (np.abs(t - at) < 0.08) & (np.abs(left + right - wide) < 0.2 * wide)
        if near.sum() >= 2:
            shift[i] = float(np.median((left - right)[near])) / 2
    aside = np.column_stack([-ahead[:, 1], ahead[:, 0]])
    moved: Array = aside * shift[:, None]
    return moved


def _pulled_back(trace: Trace, centres: Array, thick: Array) -> Array:
    """Return the centres of the rounds, each end that lies on the outline pulled in by its radius."""
    widths = _widths_of(trace)
    out = centres.copy()
    for end, inner in ((0, 1), (-1, -2)):
        if trace.edges == "outline" and widths[end] < 0.55 * thick[end]:
            way = centres[inner] - centres[end]
            run = float(np.linalg.norm(way))
            out[end] = centres[end] + way / run * min(thick[end] / 2, 0.8 * run)
    return out

"""The figure as its cards tell it: solids built from the told numbers alone, and their outlines.

Sizes, tapers and sections come from the JSON of a plan; where a piece sits and how its line bends are drawn.
Nothing here is shared with what tells the numbers.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import manifold3d as m3
import numpy as np
import shapely
from numpy.typing import NDArray

from bambola.core.figure import Leaf
from bambola.core.figure.shapes import Chain, ChainShape, Turned
from bambola.core.plan import Plan
from bambola.core.solids import Copy
from bambola.core.solids.inside import points_within

Array = NDArray[np.float64]
TURNS = 48
STEPS = 48
VIEWS = {"front": ((1, 0, 0), (0, 0, 1)), "side": ((0, 1, 0), (0, 0, 1))}
"""To the right and up, in each view."""
PLACES = (0.1, 0.5, 0.9)
"""Where base, middle and tip are measured, as a card says it."""
FREE_MM, FREE = 1.0, 0.03
"""An outline may be off by a millimetre or by so much of a part's width."""


@dataclass(frozen=True)
class Told:
    """What is told of a piece, mm."""

    length: float
    width: float
    thickness: float
    across: tuple[float, float, float]
    section: str


def told_pieces(data: dict[str, Any]) -> dict[str, Told]:
    """The last that the JSON of a plan tells of each piece, by its part."""
    found = {}
    for step in data["steps"]:
        piece = step["piece_after"]
        if piece is not None and step["part"] is not None:
            size = piece["size_mm"]
            found[piece["part"]] = Told(
                size["length"], size["width"], size["thickness"], tuple(piece["across_mm"]), piece["section"]
            )  # fmt: skip
    return found


def _circle() -> Array:
    turn = np.linspace(0, 2 * np.pi, TURNS, endpoint=False)
    return np.column_stack([np.cos(turn), np.sin(turn)])


def _line(form: Chain, at: Array) -> tuple[Array, Array]:
    """Places (n, 3) ``at`` mm along the middle line of a chain, which goes on straight beyond both its ends,
    and the way it goes there (n, 3)."""
    points = form.points
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))])
    k = np.clip(np.searchsorted(run, at, side="right") - 1, 0, len(points) - 2)
    way = np.diff(points, axis=0)[k] / np.maximum(np.diff(run)[k], 1e-9)[:, None]
    return points[k] + way * (at - run[k])[:, None], way


def _rings(middle: Array, way: Array, wide: Array, deep: Array) -> Array:
    """Sections (n, TURNS, 3) across a line."""
    aside = np.cross(way, [0.0, 1.0, 0.0])
    small = np.linalg.norm(aside, axis=1) < 1e-3
    aside[small] = np.cross(way[small], [1.0, 0.0, 0.0])
    aside /= np.linalg.norm(aside, axis=1)[:, None]
    other = np.cross(aside, way)
    turn = _circle()
    return (
        middle[:, None]
        + (wide[:, None, None] * turn[None, :, :1]) * aside[:, None]
        + (deep[:, None, None] * turn[None, :, 1:]) * other[:, None]
    )


def drawn_shadow(copy: Copy, view: str) -> Any:
    """The outline of a part as it is drawn."""
    if not isinstance(copy.shape, ChainShape):
        assert not isinstance(copy.shape, Leaf)
        profile = copy.shape.profile(96)
        way = np.tile([0.0, 0.0, 1.0], (len(profile.z), 1))
        middle = np.column_stack([np.zeros((len(profile.z), 2)), profile.z])
        rings = _rings(middle, way, profile.half_width, profile.half_depth)
        return shadow(rings @ copy.matrix[:3, :3].T + copy.matrix[:3, 3], view)
    form = copy.shape.chain()
    flat = (form.points @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]) @ np.array(VIEWS[view]).T
    balls = [
        shapely.Point(p).buffer(r, quad_segs=24) for p, r in zip(flat, form.radii, strict=True)
    ]
    following = [*balls[1:], balls[0]] if form.closed else balls[1:]
    pairs = zip(balls, following, strict=False)
    return shapely.union_all([shapely.union(a, b).convex_hull for a, b in pairs])


def _hidden(copy: Copy, bearer: Copy | None, rings: Array) -> NDArray[np.bool_]:
    """Which points of sections (n, TURNS) lie in what bears a part, as that is drawn."""
    if bearer is None:
        return np.zeros(rings.shape[:2], dtype=bool)
    matrix = np.linalg.inv(bearer.matrix) @ copy.matrix
    flat = rings.reshape(-1, 3) @ matrix[:3, :3].T + matrix[:3, 3]
    found: NDArray[np.bool_] = points_within(bearer.shape, flat).reshape(rings.shape[:2])
    return found


def told_rings(copy: Copy, bearer: Copy | None, told: Told, wound: bool, capped: bool) -> Array:
    """Sections (n, TURNS, 3) of a piece as it is told, in the axes of its part. What ends freely ends where
    it is drawn to; what another part caps begins at its seat."""
    shape, share = copy.shape, np.linspace(0.0, 1.0, STEPS)
    half = np.array(told.across) / 2
    if isinstance(shape, ChainShape):
        form = shape.chain()
        run = np.concatenate(
            [[0.0], np.cumsum(np.linalg.norm(np.diff(form.points, axis=0), axis=1))]
        )
        every = np.linspace(-form.radii[0], run[-1] + form.radii[-1], 400)
        held = np.clip(every, 0, run[-1])
        radius = np.sqrt(np.maximum(0, np.interp(held, run, form.radii) ** 2 - (every - held) ** 2))
        drawn = _rings(*_line(form, every), radius, radius)
    else:
        assert not isinstance(shape, Leaf)
        cut = shape.profile(400)
        every, form = cut.z, Chain(np.array([(0.0, 0.0, 0.0), (0.0, 0.0, 1.0)]), np.ones(2), False)
        drawn = _rings(*_line(form, every), cut.half_width, cut.half_depth)
    hidden = _hidden(copy, bearer, drawn)
    if hidden[0].mean() < 0.5 <= hidden[-1].mean():
        low = float(every[0])
    elif capped:
        shows = hidden.mean(axis=1) < (1.0 if wound or told.section == "flat side" else 0.5)
        low = float(every[np.argmax(shows)])
    else:
        low = float(every[-1]) - told.length
    at = low + share * told.length
    if isinstance(shape, ChainShape):
        # What ends at another's skin ends there, what ends by itself is round; so is the base of what lies.
        is_free = not capped or at[-1] > every[-1] - 0.3 * form.radii[-1]
        half[2] = _round_end(half[2], told.length / 10) if is_free else half[2]
        is_whole = told.section == "flat side" and low < every[0] + 1.0
        half[0] = _round_end(half[0], told.length / 10) if is_whole else half[0]
        slope = (half[1] - half[0]) / 0.4, (half[2] - half[1]) / 0.4
        wide = half[1] + np.where(share < 0.5, slope[0], slope[1]) * (share - 0.5)
        for far, radius, rounded in (
            (at[-1] - at, wide[-1], is_free),
            (at - at[0], wide[0], is_whole),
        ):
            past = np.maximum(0.0, radius - far)
            end = np.sqrt(np.maximum(0.0, radius**2 - past**2))
            wide = np.where(rounded & (past > 0), np.minimum(wide, end), wide)
        if wound:  # it begins half a thickness further in, and thins out there
            radius = float(half[0])
            further = np.linspace(max(low - radius, float(every[0])), low, 12)
            thin = np.sqrt(np.maximum(0.0, radius**2 - (radius - (further - further[0])) ** 2))
            thin[further - further[0] > radius] = radius
            at, wide = np.append(further[:-1], at), np.append(thin[:-1], wide)
            start = at - further[0] < radius
            wide[start] = np.minimum(
                wide[start],
                np.sqrt(np.maximum(0.0, radius**2 - (radius - (at - further[0])[start]) ** 2)),
            )
    elif isinstance(shape, Turned):  # its outline is a template
        wide = np.interp(at, every, cut.half_width) * told.width / (2 * cut.half_width.max())
    else:
        fit = np.polynomial.polynomial.polyfit(PLACES, half**2, 2)
        wide = np.sqrt(np.maximum(0.0, np.polynomial.polynomial.polyval(share, fit)))
    middle, way = _line(form, at)
    if told.section != "flat side" or not hidden.any():
        rings = _rings(middle, way, wide, wide * told.thickness / told.width)
        return (
            rings
            if isinstance(shape, ChainShape) and len(form.points) == 2
            else _rounded(rings, way)
        )
    weights = np.repeat(np.linalg.norm(np.ptp(drawn, axis=1), axis=1)[:, None] ** 2, TURNS, axis=1)
    up = np.average(drawn[~hidden], axis=0, weights=weights[~hidden]) - np.average(
        drawn[hidden], axis=0, weights=weights[hidden]
    )
    up /= np.linalg.norm(up)
    if isinstance(shape, ChainShape):
        return _pressed(_rings(middle, way, wide, wide), up, told)
    return _dome(drawn, up, told)


def _rounded(rings: Array, way: Array) -> Array:
    """Sections with more of them between those that turn, so that a bend is round outside."""
    turns = np.einsum("ij,ij->i", way[1:], way[:-1]) < 0.999
    found = [rings[:1]]
    for k in range(1, len(rings)):
        if turns[k - 1]:
            middle = rings[k - 1 : k + 1].mean(axis=(0, 1))
            half = np.linalg.norm(rings[k] - rings[k].mean(axis=0), axis=1).mean()
            start, end = way[k - 1], way[k]
            between = start + np.linspace(0.0, 1.0, 7)[:, None] * (end - start)
            between /= np.linalg.norm(between, axis=1)[:, None]
            found.append(
                _rings(np.tile(middle, (7, 1)), between, np.full(7, half), np.full(7, half))
            )
        found.append(rings[k : k + 1])
    return np.concatenate(found)


def _round_end(half: float, far: float) -> float:
    """The radius of a round end that is ``half`` so thick ``far`` from its tip."""
    return half if far >= half else (half**2 + far**2) / (2 * far)


def _pressed(rings: Array, up: Array, told: Told) -> Array:
    """Round sections, flat below so that only as much as is told stands out."""
    heights = rings @ up
    full = np.ptp(heights, axis=1)
    low = heights.max(axis=1) - full * told.thickness / told.width
    lift = np.maximum(0.0, low[:, None] - heights)
    pressed: Array = rings + lift[:, :, None] * up
    return pressed


def _dome(drawn: Array, up: Array, told: Told) -> Array:
    """Sections from its foot up, of a lump with its top where it is drawn."""
    points = drawn.reshape(-1, 3)
    top = float((points @ up).max())
    long = np.array([0.0, 0.0, 1.0]) - up[2] * up
    if np.linalg.norm(long) < 0.5:
        long = np.array([0.0, 1.0, 0.0]) - up[1] * up
    long /= np.linalg.norm(long)
    aside = np.cross(up, long)
    share = np.linspace(0.0, 1.0, STEPS)
    fit = np.polynomial.polynomial.polyfit(PLACES, (np.array(told.across) / 2) ** 2, 2)
    half = np.sqrt(np.maximum(0.0, np.polynomial.polynomial.polyval(share, fit)))
    shown = points[points @ up >= top - told.thickness]
    middle = sum(way * (np.max(shown @ way) + np.min(shown @ way)) / 2 for way in (long, aside))
    turn = _circle()
    return np.array([
        middle + (top - told.thickness * (1 - f)) * up
        + wide * turn[:, :1] * aside + wide * told.length / told.width * turn[:, 1:] * long
        for f, wide in zip(share, half, strict=True)
    ])  # fmt: skip


def shadow(rings: Array, view: str) -> Any:
    """The outline of sections in a view, as a shapely polygon."""
    runs = rings @ np.array(VIEWS[view], dtype=float).T
    pairs = itertools.pairwise(runs)
    return shapely.union_all([shapely.MultiPoint(np.vstack(pair)).convex_hull for pair in pairs])


@dataclass(frozen=True)
class Put:
    """A piece as it is told, put where it is drawn: its sections in the figure's axes, (n, TURNS, 3) mm."""

    copy: Copy
    told: Told
    rings: Array
    is_wound: bool
    is_pressed: bool
    """Whether its base was left soft and is pressed on."""

    def shadow(self, view: str) -> Any:
        """The outline of it in a view. A soft base that is pressed on a slanting seat gives way: it is
        as much longer on the far side as it is shorter on the near one, so it is drawn on as far as the part
        is."""
        own = shadow(self.rings, view)
        if not self.is_pressed or self.told.section != "round":
            return own
        further = (self.rings[0] - self.rings[1]).mean(axis=0)
        further *= self.told.across[0] / 2 / max(np.linalg.norm(further), 1e-9)
        base = shadow(np.stack([self.rings[0] + further, self.rings[0]]), view)
        return shapely.union(own, base.intersection(drawn_shadow(self.copy, view)))

    @cached_property
    def solid(self) -> m3.Manifold:
        """The hulls of any two sections that follow one another."""
        pairs = itertools.pairwise(self.rings)
        hulls = [m3.Manifold.hull_points(np.vstack(pair)) for pair in pairs]
        return m3.Manifold.batch_boolean(hulls, m3.OpType.Add)


def put_together(plan: Plan, data: dict[str, Any]) -> list[Put]:
    """The pieces of a plan as its JSON tells them; neither sheets, rings and threads, which have templates,
    nor what is not of wool."""
    pieces, made = told_pieces(data), {row.id: row.made for row in plan.parts}
    found = []
    for copy in plan.solids.placement.copies:
        told = pieces.get(copy.part.id)
        if told is None or told.section in ("ring", "sheet") or made[copy.part.id] == "detail":
            continue
        bearers = (
            c for c in plan.solids.placement.copies
            if c.part.id == copy.part.parent and c.side in (None, copy.side)
        )  # fmt: skip
        wound = made[copy.part.id] == "on wire" and isinstance(copy.shape, ChainShape)
        capped = wound and any(
            part.parent == copy.part.id and part.seat.along >= 0.9
            for part in plan.resized.figure.parts
        )
        bearer = next(bearers, None)
        rings = told_rings(copy, bearer, told, wound, capped)
        placed = rings @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
        is_pressed = bearer is not None and made[copy.part.id] == "apart"
        found.append(Put(copy, told, placed, wound, is_pressed))
    return found


def off_by(plan: Plan, put: list[Put]) -> Iterator[tuple[str, str, float, float]]:
    """Each part, a view, how far (mm) the outline there of the figure as told is off from that as drawn, at
    the 95th percentile, and how far it may be."""
    told = {id(piece.copy): piece for piece in put}
    copies = [
        c for c in plan.solids.placement.copies
        if c.part.stuff is None and not c.part.hollow and not c.shape.flat
    ]  # fmt: skip
    for view in VIEWS:
        drawn = [drawn_shadow(copy, view) for copy in copies]
        shadows = [
            told[id(copy)].shadow(view) if id(copy) in told else as_drawn
            for copy, as_drawn in zip(copies, drawn, strict=True)
        ]
        whole, line = shapely.union_all(drawn), shapely.union_all(shadows).buffer(0).boundary
        for copy, own in zip(copies, drawn, strict=True):
            # What of its own outline is the figure's.
            seen = own.boundary.intersection(whole.boundary.buffer(1e-3))
            if id(copy) not in told or seen.length < 1.0:
                continue
            points = shapely.points(shapely.get_coordinates(shapely.segmentize(seen, 0.25)))
            off = float(np.percentile(shapely.distance(points, line), 95))
            width = min(copy.shape.extents()[1:])
            name = f"{copy.part.id} {copy.side or ''}".strip()
            yield name, view, off, max(FREE_MM, FREE * width)


def height_told(plan: Plan, put: list[Put]) -> float:
    """The height by the figure's datum with the pieces as they are told, mm; what has a template is as it is
    drawn."""
    told, placement = {id(piece.copy) for piece in put}, plan.solids.placement
    up, down = np.array([0.0, 0.0, 1.0]), np.array([0.0, 0.0, -1.0])
    reach = [(p.copy.part.id, p.rings[..., 2].min(), p.rings[..., 2].max()) for p in put]
    reach += [
        (copy.part.id, -copy.reach(down), copy.reach(up))
        for copy in placement.copies
        if id(copy) not in told and not copy.part.hollow
    ]
    datum = plan.resized.figure.datum.part
    top = max(high for part, _, high in reach if datum in (None, part))
    return float(top - min(low for _, low, _ in reach))


def told_cm3(put: list[Put]) -> Iterator[tuple[Put, float]]:
    """Each piece and its volume, cm³: what is there first is whole, what comes later goes round it."""
    for piece in put:
        solid = piece.solid
        for other in put:
            caps = other.is_wound and piece.copy.part.seat.along >= 0.9
            if (_sits_on(piece, other) and not piece.is_wound and not caps) or (
                _sits_on(other, piece) and other.is_wound
            ):
                solid -= other.solid
        yield piece, solid.volume() / 1000


def _sits_on(piece: Put, other: Put) -> bool:
    sides = (None, piece.copy.side)
    return piece.copy.part.parent == other.copy.part.id and other.copy.side in sides

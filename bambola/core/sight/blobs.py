"""The regions of one framed picture seen as pieces of felt: where each is, what it touches, and the line
along it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bambola.core.figure.survey import Framing, Sight, Spot, Trace
from bambola.core.frozen import frozen
from bambola.core.sight.necks import Mask, inlays_of, shared_borders
from bambola.core.sight.profile import STATIONS, read_trace
from bambola.core.sight.regions import Regions
from bambola.core.sight.silhouette import Silhouette

Array = NDArray[np.float64]

SLIM = 1.7
"""What is so many times as long as wide has its line along it, however it bends. Judged. See craft.md, 9."""
BENT = 0.05
"""A line that strays by less than this share of its length is straight."""
BAND = 2.5
"""What is so many times as broad as tall is a band. Judged. See craft.md, 9."""
ASTRIDE = 0.2
"""What is no farther beside the midline than this share of its width lies on it. Judged. See craft.md, 9."""
LONGER = 1.5
"""What is hardly longer than wide has its line upright. Judged. See craft.md, 9."""
UPRIGHT_DEG = 20.0
"""What stands so nearly upright stands upright. Judged. See craft.md, 9."""
LEVEL_MM = 1.0
"""Outlines are compared level by level."""
HIDDEN = 0.8
"""A round part that another cuts short is cut on no more than this share of its width: the rest would not
hold. Judged."""


@frozen
class Blob:
    """A region of a view. ``mask`` (rows, columns) covers what is visible of it, ``solid`` also what other
    regions hide. ``centre`` (u, v) and ``box`` (left, right, low, high) are in mm; ``borders`` gives the
    length (mm) of the border with each other region by number, 0 being the background. ``host`` is the region
    it lies on."""

    number: int
    mask: Mask
    solid: Mask
    area: float
    centre: tuple[float, float]
    box: tuple[float, float, float, float]
    lab: tuple[float, float, float]
    borders: dict[int, float]
    host: int | None

    @property
    def around(self) -> float:
        """Its circumference, mm."""
        return sum(self.borders.values())

    @property
    def is_band(self) -> bool:
        """Whether it is far broader than tall, like a band round a part."""
        left, right, low, high = self.box
        return right - left > BAND * (high - low)

    @property
    def slimness(self) -> float:
        """Its length as a multiple of its width, however it bends: its area in squares of its greatest
        width."""
        depth = float(ndimage.distance_transform_edt(np.pad(self.solid, 1)).max())
        return float(self.solid.sum()) / (2 * depth) ** 2

    @property
    def across(self) -> float:
        """Its extent to the right and left, mm."""
        return self.box[1] - self.box[0]

    @property
    def tall(self) -> float:
        """Its extent up and down, mm."""
        return self.box[3] - self.box[2]


class DividedPicture:
    """A framed picture divided into regions. Places are in mm of the framing."""

    def __init__(self, framing: Framing, regions: Regions) -> None:
        self.framing, self.regions = framing, regions
        self.mm = (framing.mm_px or 1.0) / regions.scale
        rows, columns = np.indices(regions.labels.shape)
        self.u, self.v = self._to_mm(np.asarray(columns + 0.5), np.asarray(rows + 0.5))
        self._shared = shared_borders(regions.labels)
        self._inlays = inlays_of(regions.labels)
        self.blobs = {n: self._make_blob(n) for n in self._shared}

    @property
    def view(self) -> Sight:
        """The side the picture was taken from."""
        return self.framing.view

    def _to_mm(self, x: Array, y: Array) -> tuple[Array, Array]:
        f, r = self.framing, self.regions
        fx, fy = x / r.scale + r.left, y / r.scale + r.top
        angle = math.radians(f.turn)
        c, s = math.cos(angle), math.sin(angle)
        dx, dy = fx - f.width / 2, fy - f.height / 2
        sx, sy = f.width / 2 + c * dx + s * dy, f.height / 2 - s * dx + c * dy
        scale = f.mm_px or 1.0
        return (sx - f.midline) * scale * f.sense, (f.ground - sy) * scale

    def to_px(self, u: float, v: float) -> Spot:
        """Return a place (mm) in pixels of the regions."""
        x, y = self.framing.original(*self.framing.to_px(u, v))
        return (x - self.regions.left) * self.regions.scale, (
            y - self.regions.top
        ) * self.regions.scale

    def _make_blob(self, n: int) -> Blob:
        labels = self.regions.labels
        mask = labels == n
        row = self._shared[n]
        laid = self._inlays.get(n, [])
        host = next((k for k, on_it in self._inlays.items() if n in on_it), None)
        solid, _ = ndimage.label(mask | np.isin(labels, laid))
        solid = ndimage.binary_fill_holes(solid == np.bincount(solid[mask]).argmax())
        u, v = self.u[mask], self.v[mask]
        lab = np.median(self.regions.lab[mask], axis=0)
        if self.view != "side" and abs(float(u.mean())) < ASTRIDE * float(np.ptp(u)):
            solid = _shut_across(solid)
        return Blob(
            n,
            mask,
            np.asarray(solid, dtype=np.bool_),
            float(mask.sum()) * self.mm**2,
            (float(u.mean()), float(v.mean())),
            (float(u.min()), float(u.max()), float(v.min()), float(v.max())),
            (float(lab[0]), float(lab[1]), float(lab[2])),
            {k: count * self.mm for k, count in row.items()},
            host,
        )

    def reframed(self, **changes: Any) -> DividedPicture:
        """Return the picture with ``changes`` to the fields of its framing."""
        return DividedPicture(self.framing.replaced(**changes), self.regions)

    def without(self, patches: dict[int, int]) -> DividedPicture:
        """Return the picture with patches merged into the regions they lie on (by the number of each
        patch)."""
        labels = self.regions.labels.copy()
        for patch, host in patches.items():
            labels[labels == patch] = patches.get(host, host)
        return DividedPicture(self.framing, replace(self.regions, labels=labels))

    def joined(self, blobs: Sequence[Blob]) -> Blob:
        """Return several regions joined into one, with what lies between them."""
        places = np.concatenate([np.argwhere(blob.mask) for blob in blobs])[:, ::-1]
        hull = cv2.convexHull(places.astype(np.int32))
        solid = np.zeros(self.regions.labels.shape, dtype=np.uint8)
        cv2.fillConvexPoly(solid, hull, 1)
        u, v = self.u[solid > 0], self.v[solid > 0]
        return replace(
            blobs[0],
            mask=np.any([blob.mask for blob in blobs], axis=0),
            solid=solid > 0,
            centre=(float(u.mean()), float(v.mean())),
            box=(float(u.min()), float(u.max()), float(v.min()), float(v.max())),
        )

    def spans(self) -> Array:
        """Return the width of felt (mm) at each level, from the ground line up in steps of ``LEVEL_MM``."""
        inside = self.v[self.regions.whole]
        levels = np.floor(inside / LEVEL_MM).astype(int)
        counts = np.bincount(np.maximum(levels, 0))
        return np.asarray(counts * self.mm**2 / LEVEL_MM, dtype=np.float64)

    def contact(self, own: Blob, other: Blob) -> Array:
        """Return the places (n, 2) of ``own`` along its border with ``other``, or the nearest ones where they
        do not touch."""
        far: Array = np.asarray(ndimage.distance_transform_edt(~other.mask), dtype=np.float64)
        near = own.mask & (far <= max(float(far[own.mask].min()), 1.0) + 0.5)
        return np.asarray(np.stack([self.u[near], self.v[near]], axis=1), dtype=np.float64)

    def trace(self, own: Blob, part: str, base: Array | None, even: bool) -> Trace:
        """Return the line along a blob with the widths across it. It begins at ``base`` (n, 2), where the
        blob meets its bearer, or at its foot. The line of an ``even`` blob lies on the midline."""
        line = self._upright_line(own, base) if even else self._line_of(own, base)
        cover = own.solid.astype(np.float32)
        whole = Silhouette(cover, np.ones_like(cover), 1.0, 1.0)
        points = [(float(a), float(b)) for a, b in line]
        trace = read_trace(whole, self.to_px, part, self.view, points, False, False)
        return self._rounded_off(trace, own, base)

    def _rounded_off(self, trace: Trace, own: Blob, base: Array | None) -> Trace:
        """Return the trace lengthened by its hidden base: a limb goes half its width into its bearer, a round
        part its cap."""
        if base is None:
            return trace
        widths = np.array(trace.left) + np.array(trace.right)
        wide = float(np.percentile(widths, 80))
        slim = own.slimness > SLIM
        way = np.array(trace.points[0]) - np.array(trace.points[1])
        way = way / max(float(np.linalg.norm(way)), 1e-9)
        aside = np.array([-way[1], way[0]])
        chord = min(float(np.ptp(base @ aside)), HIDDEN * wide)
        more = wide / 2 if slim else (wide - math.sqrt(max(wide**2 - chord**2, 0.0))) / 2
        if more < 0.02 * trace.length:
            return trace
        first = np.array(trace.points[0]) + way * more
        ended = (float(first[0]), float(first[1]))
        share = np.linspace(0, 1, STATIONS) * (trace.length + more) - more
        was = np.linspace(0, 1, STATIONS) * trace.length
        sides = []
        for side in (np.array(trace.left), np.array(trace.right)):
            grown = np.interp(share, was, side)
            if not slim:
                cap = share < 0
                fall = np.sqrt(np.clip(1 - (share[cap] / max(more, 1e-9)) ** 2, 0, 1))
                grown[cap] = side[0] * fall
            sides.append(tuple(float(x) for x in grown))
        points = (ended, *trace.points[1:]) if len(trace.points) == 2 else (ended, *trace.points)
        return trace.replaced(points=points, left=sides[0], right=sides[1])

    def _line_of(self, own: Blob, base: Array | None) -> Array:
        """Return places (k, 2) from the base to the tip."""
        places = np.stack([self.u[own.solid], self.v[own.solid]], axis=1)
        middle = places.mean(axis=0)
        spread = np.cov(places.T) if len(places) > 2 else np.eye(2)
        sizes, ways = np.linalg.eigh(spread)
        longer = math.sqrt(max(float(sizes[1]), 1e-9) / max(float(sizes[0]), 1e-9))
        if base is not None and own.slimness > SLIM:
            bent = self._slim_line(own, base)
            if bent is not None:
                return bent
        way = ways[:, 1] if longer > LONGER else np.array([0.0, 1.0])
        if abs(way[1]) > math.cos(math.radians(UPRIGHT_DEG)):
            way = np.array([0.0, 1.0])
        if base is not None and way @ (middle - base.mean(axis=0)) < 0:
            way = -way
        if base is None and way[1] < 0 and abs(way[1]) > 0.3:
            way = -way
        run = (places - middle) @ way
        low, high = run.min() - self.mm / 2, run.max() + self.mm / 2
        aside = np.array([-way[1], way[0]])
        off = (places - middle) @ aside
        centre = middle + aside * float((off.min() + off.max()) / 2)
        high = max(high, low + 2 * self.mm)
        return np.array([centre + way * low, centre + way * high])

    def _upright_line(self, own: Blob, base: Array | None) -> Array:
        """Return the midline within a blob, away from the base."""
        low, high = own.box[2] - self.mm / 2, own.box[3] + self.mm / 2
        up = base is None or float(base[:, 1].mean()) <= own.centre[1]
        ends = np.array([[0.0, low], [0.0, high]])
        return ends if up else ends[::-1]

    def _slim_line(self, own: Blob, base: Array) -> Array | None:
        """Return the middle of a slim blob from base to tip: the means of the pixels equally far from the
        base, measured within the blob."""
        start = np.zeros(own.solid.shape, dtype=bool)
        at = np.argmin(
            (self.u[own.solid] - base[:, 0].mean()) ** 2
            + (self.v[own.solid] - base[:, 1].mean()) ** 2
        )
        rows, columns = np.nonzero(own.solid)
        start[rows[at], columns[at]] = True
        far = _run_from(start, own.solid)
        most = int(far.max())
        if most < 6:
            return None
        count = 9
        shares = np.linspace(0, most, count + 1)
        middles = []
        for low, high in itertools.pairwise(shares.tolist()):
            ring = own.solid & (far >= low) & (far < high + 1e-9) & (far >= 0)
            middles.append((float(self.u[ring].mean()), float(self.v[ring].mean())))
        path = np.array(middles)
        first = path[0] - (path[1] - path[0]) / 2
        last = path[-1] + (path[-1] - path[-2]) / 2
        chord = last - first
        length = float(np.linalg.norm(chord))
        off = np.abs((path - first) @ np.array([-chord[1], chord[0]])) / max(length, 1e-9)
        if off.max() < BENT * length:
            return np.array([first, last])
        return np.array([first, path[2], path[4], path[6], last])


def _shut_across(solid: Mask) -> Mask:
    """Return a mask with every row filled from its left edge to its right edge."""
    return np.asarray(
        np.maximum.accumulate(solid, axis=1)
        & np.maximum.accumulate(solid[:, ::-1], axis=1)[:, ::-1]
    )


def _run_from(start: Mask, within: Mask) -> NDArray[np.int32]:
    """Return for each pixel of ``within`` its distance in steps from ``start``, moving only within; -1 where
    unreachable."""
    rows, columns = np.nonzero(within)
    box = slice(rows.min(), rows.max() + 1), slice(columns.min(), columns.max() + 1)
    whole = np.full(within.shape, -1, dtype=np.int32)
    within, far = within[box], whole[box]
    front, step = start[box] & within, 0
    cross = ndimage.generate_binary_structure(2, 1)
    while front.any():
        far[front] = step
        step += 1
        grown = ndimage.binary_dilation(front, np.ones((3, 3)) if step % 2 else cross)
        front = grown & within & (far < 0)
    return whole

"""Divides regions where their outlines narrow, and into a stout body and the limbs that stick out of it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

Mask = NDArray[np.bool_]
Labels = NDArray[np.int32]

TILT = np.float32(0.01)
"""A level plain is tilted by so much from corner to corner: rain flows off it, and does not stay on each
pixel."""
INLAID = 0.6
"""What shares so much of its border with a larger region lies on it. Judged. See craft.md, 9."""


def watershed_basins(height: NDArray[np.float32], whole: Mask) -> Labels:
    """Return the watershed basins (rows, columns) of ``whole``, numbered from 1, 0 outside. Steepest descent:
    each pixel flows to its lowest neighbour."""
    rows, columns = height.shape
    y, x = np.indices(height.shape, dtype=np.float32)
    height = height + TILT * (y / rows + x / columns)
    lowest = np.full((rows + 2, columns + 2), np.inf, dtype=np.float32)
    lowest[1:-1, 1:-1] = np.where(whole, height, np.inf)
    place = np.arange(lowest.size).reshape(lowest.shape)
    best, to = lowest[1:-1, 1:-1].copy(), place[1:-1, 1:-1].copy()
    for dy, dx in ((0, 1), (1, 0), (0, -1), (-1, 0), (1, 1), (1, -1), (-1, 1), (-1, -1)):
        window = slice(1 + dy, rows + 1 + dy), slice(1 + dx, columns + 1 + dx)
        lower = lowest[window] < best
        best[lower], to[lower] = lowest[window][lower], place[window][lower]
    flow = place.ravel().copy()
    flow[place[1:-1, 1:-1].ravel()] = to.ravel()
    while not np.array_equal(further := flow[flow], flow):
        flow = further
    ends = np.where(whole, flow[place[1:-1, 1:-1]], -1)
    _, numbers = np.unique(ends, return_inverse=True)
    found = numbers.reshape(ends.shape) + (1 if whole.all() else 0)
    return np.asarray(found, dtype=np.int32)


def neighbouring_pixels(
    labels: Labels,
) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]:
    """Return pairs of neighbouring pixels of different regions: the regions (n, 2), and the pixels' flat
    places."""
    flat = np.arange(labels.size).reshape(labels.shape)
    pairs, firsts, seconds = [], [], []
    for a, b, fa, fb in (
        (labels[:, :-1], labels[:, 1:], flat[:, :-1], flat[:, 1:]),
        (labels[:-1], labels[1:], flat[:-1], flat[1:]),
    ):
        at = (a != b) & (a > 0) & (b > 0)
        pairs.append(np.stack([a[at], b[at]], axis=1))
        firsts.append(fa[at])
        seconds.append(fb[at])
    return np.concatenate(pairs).astype(np.int64), np.concatenate(firsts), np.concatenate(seconds)


def shared_borders(labels: Labels) -> dict[int, dict[int, int]]:
    """By region, how many pixels of border it has with each other, 0 being what is outside the figure."""
    padded = np.pad(labels, 1) + 1
    pairs, _, _ = neighbouring_pixels(padded.astype(np.int32))
    both = np.concatenate([pairs, pairs[:, ::-1]]) - 1
    found: dict[int, dict[int, int]] = {}
    keys, counts = np.unique(both, axis=0, return_counts=True)
    for (a, b), n in zip(keys.tolist(), counts.tolist(), strict=True):
        if a:
            found.setdefault(a, {})[b] = n
    return found


NECK = 0.8
"""Where an outline narrows to under this share of what lies on either side, it is two. Judged. See
craft.md, 9."""
STANDS = 0.62
"""What is thinner than this share of the rest of its region, and sticks out by its own width, is a limb.
Judged. See craft.md, 9."""
STICKS = 1.2
"""A limb is so many times as long as it is thick. Judged. See craft.md, 9."""


def split_at_necks(labels: Labels, least: float) -> Labels:
    """Return the regions divided at their necks. What lies on a region does not count as narrowing it."""
    out, count = np.zeros_like(labels), 0
    inlays = inlays_of(labels)
    boxes = ndimage.find_objects(labels)
    for label in [int(n) for n in np.unique(labels) if n]:
        on_it = inlays.get(label, [])
        box = _enclosing_box([boxes[n - 1] for n in (label, *on_it)])
        here = labels[box]
        pieces, several = ndimage.label(here == label)
        laid = np.isin(here, on_it)
        for piece in range(1, several + 1):
            own = pieces == piece
            solid, _ = ndimage.label(own | laid)
            solid = ndimage.binary_fill_holes(solid == solid[own][0])
            for part in _divide_into_limbs(solid, least):
                if (part & own).any():
                    count += 1
                    out[box][part & own] = count
    return out


def _enclosing_box(boxes: Sequence[tuple[slice, ...]]) -> tuple[slice, ...]:
    """Return the box that holds all of ``boxes``."""
    return tuple(
        slice(min(side.start for side in sides), max(side.stop for side in sides))
        for sides in zip(*boxes, strict=True)
    )


def inlays_of(labels: Labels) -> dict[int, list[int]]:
    """Return for each region the smaller ones that lie on it, with most of their border shared with it."""
    count = int(labels.max()) + 1
    area = np.bincount(labels.ravel(), minlength=count)
    found: dict[int, list[int]] = {}
    for own, row in shared_borders(labels).items():
        around = sum(row.values())
        host = max(row, key=lambda n: row[n])
        if host and area[own] < area[host] and row[host] > INLAID * around:
            found.setdefault(host, []).append(own)
    return found


def _divide_into_limbs(mask: Mask, least: float) -> list[Mask]:
    """Return a region divided at its necks, and then into a stout body and the limbs that stick out of it."""
    found = []
    necked = _cut_at_necks(mask)
    for k in range(1, int(necked.max()) + 1):
        found.extend(_stout_and_slim(necked == k, least))
    return found


def _stout_and_slim(mask: Mask, least: float) -> list[Mask]:
    filled = np.pad(mask, 1)
    depth = ndimage.distance_transform_edt(filled)
    reach = STANDS * float(depth.max())
    stout = ndimage.distance_transform_edt(depth < reach) < reach
    far = ndimage.distance_transform_edt(~stout)
    rest, count = ndimage.label(filled & ~stout)
    limbs = []
    for n in range(1, count + 1):
        own = rest == n
        thick = float(depth[own].max())
        if own.sum() > max(4 * least, 12) and far[own].max() > STICKS * 2 * thick:
            limbs.append(own[1:-1, 1:-1] & mask)
    limbs = [limb for limb in limbs if limb.any()]
    trunk = mask.copy()
    for limb in limbs:
        trunk &= ~limb
    return [trunk, *limbs] if limbs and trunk.any() else [mask]


def _cut_at_necks(mask: Mask) -> Labels:
    """Return one region without holes, cut where it narrows."""
    depth = ndimage.distance_transform_edt(np.pad(mask, 1))[1:-1, 1:-1]
    smooth = (ndimage.gaussian_filter(depth, 1.0) * mask).astype(np.float32)
    basins = watershed_basins(-smooth, mask)
    count = int(basins.max())
    if count < 2:
        return mask.astype(np.int32)
    peak = np.zeros(count + 1)
    peak[1:] = ndimage.maximum(smooth, basins, range(1, count + 1))
    into = np.arange(count + 1)
    while True:
        now = into[basins]
        pairs, a, b = neighbouring_pixels(now.astype(np.int32))
        saddles: dict[tuple[int, int], float] = {}
        level = np.minimum(smooth.ravel()[a], smooth.ravel()[b])
        for (x, y), s in zip(pairs.tolist(), level.tolist(), strict=True):
            key = min(x, y), max(x, y)
            saddles[key] = max(saddles.get(key, 0.0), s)
        best = max(
            ((s / min(peak[x], peak[y]), x, y) for (x, y), s in saddles.items()), default=None
        )
        if best is None or best[0] < NECK:
            break
        _, x, y = best
        into[into == y] = x
        peak[x] = max(peak[x], peak[y])
    now = into[basins]
    keys = [k for k in np.unique(now[mask]).tolist() if k > 0]
    out = np.zeros(mask.shape, dtype=np.int32)
    for n, k in enumerate(keys, 1):
        out[(now == k) & mask] = n
    return out

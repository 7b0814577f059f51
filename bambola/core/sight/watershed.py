"""Watershed basins of a height map, and the borders between regions."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

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

"""Regions within a figure's outline: divided by colour, by the dark line where felt meets felt, and at necks.

All are found in a small copy. Colours are in Lab, where equal steps look equal. Edges are steps between near
pixels, so that light falling off slowly over a round part does not divide it.
"""

from __future__ import annotations

import heapq
import math

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bambola.core.frozen import frozen
from bambola.core.sight.necks import (
    Labels,
    Mask,
    neighbouring_pixels,
    shared_borders,
    split_at_necks,
    watershed_basins,
)
from bambola.core.sight.silhouette import Pixels, Silhouette

LIGHT = 0.45
"""How much a difference in lightness counts against one of hue: light falls otherwise on each side. Judged.
See craft.md, 9."""
WORK_PX = 320
"""Longest side of the figure where regions are looked for: felt's grain is gone, a nose is still there."""
STEP = 11.0
"""A step between neighbouring regions (units of Lab) below which they are one. Judged. See craft.md, 9."""
RIM_PX = 2.5
"""So near to the outline a pixel is mixed with what is behind it."""
SMALL = 0.006
"""A region smaller than this share of the figure is no part of its own, unless it is a spot."""
SPOT, SPOT_STEP = 0.0004, 22.0
"""A spot is larger than this share of the figure, and so much another colour (units of Lab). Judged. See
craft.md, 9."""
THIN_PX, TRIM = 3.0, 0.02
"""The dark line where felt meets felt is no wider than this (px, to either side), nor as much of the
figure."""
MOST_REGIONS = 48
"""More than so many regions are a pattern, and no parts. Judged."""
LEAST = 0.0012
"""A region smaller than this share of the figure is grain."""


@frozen
class Regions:
    """The regions of one picture. ``labels`` (rows, columns) holds region numbers from 1, and 0 outside;
    ``scale`` is the scale of its pixels to the picture's, and ``left``, ``top`` (px of the picture) its
    corner."""

    labels: Labels
    whole: Mask
    lab: NDArray[np.float32]
    scale: float
    left: float
    top: float

    @property
    def count(self) -> int:
        """The number of regions."""
        return int(self.labels.max())


def find_regions(
    picture: Pixels,
    silhouette: Silhouette,
    scale: float = 1.0,
    midline: float | None = None,
) -> Regions:
    """Return the regions within ``silhouette`` of ``picture`` (rows, columns, 3), which may be smaller than
    the file by ``scale``."""
    left, top, right, bottom = silhouette.box()
    grow = min(1.0 / scale, WORK_PX / max(right - left, bottom - top, 1.0)) * scale
    pad = 4.0 / grow
    x0, y0 = max(0, round((left - pad) * scale)), max(0, round((top - pad) * scale))
    x1, y1 = round((right + pad) * scale), round((bottom + pad) * scale)
    cut = picture[y0:y1, x0:x1]
    size = (max(8, round(cut.shape[1] * grow / scale)), max(8, round(cut.shape[0] * grow / scale)))
    small = cv2.resize(cut, size, interpolation=cv2.INTER_AREA)
    whole = _mask_of(silhouette, x0 / scale, y0 / scale, grow, size)
    lab = _smooth_grain(_without_ground(np.asarray(small, dtype=np.uint8), whole))
    edges = _edge_strengths(lab)
    labels = _merge_weak_borders(
        watershed_basins(np.asarray(ndimage.gaussian_filter(edges, 0.8)), whole), edges, whole
    )
    labels = _without_crumbs(split_at_necks(labels, LEAST * float(whole.sum())), lab)
    if midline is not None:
        labels = _even_out_twins(labels, (midline - x0 / scale) * grow)
    return Regions(_renumber_labels(labels), whole, lab, grow, x0 / scale, y0 / scale)


def _mask_of(
    silhouette: Silhouette, left: float, top: float, grow: float, size: tuple[int, int]
) -> Mask:
    share = silhouette.scale / grow
    move = np.array([[share, 0.0, left * silhouette.scale], [0.0, share, top * silhouette.scale]])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    found = cv2.warpAffine(silhouette.cover, move, size, flags=flags)
    return np.asarray(found > 0.5, dtype=np.bool_)


def _without_ground(small: Pixels, whole: Mask) -> Pixels:
    """Return the picture with the figure's own colours extended outwards, so that its outline is no edge."""
    depth = ndimage.distance_transform_edt(whole)
    ridge = depth >= np.minimum(ndimage.maximum_filter(depth, 5), RIM_PX)
    sure = whole & ridge if ridge.any() else whole
    if not sure.any():
        return small
    near = ndimage.distance_transform_edt(~sure, return_distances=False, return_indices=True)
    return np.asarray(small[near[0], near[1]], dtype=np.uint8)


def _smooth_grain(small: Pixels) -> NDArray[np.float32]:
    """Return Lab (rows, columns, 3) without the grain of felt, keeping steps sharp."""
    calm = cv2.medianBlur(small, 5)
    for _ in range(3):
        calm = cv2.bilateralFilter(calm, 7, 22, 3)
    lab = cv2.cvtColor(calm.astype(np.float32) / 255, cv2.COLOR_RGB2LAB)
    return np.asarray(lab, dtype=np.float32)


def _edge_strengths(lab: NDArray[np.float32]) -> NDArray[np.float32]:
    """Return the size of the step at each pixel, in units of Lab over two pixels."""
    spread = [
        ndimage.gaussian_gradient_magnitude(lab[..., k] * f, 1.2) * 2.5
        for k, f in enumerate((0.8, 1.2, 1.2))
    ]
    return np.asarray(np.sqrt(sum(s**2 for s in spread)), dtype=np.float32)


def _merge_weak_borders(labels: Labels, edges: NDArray[np.float32], whole: Mask) -> Labels:
    """Return the regions with those joined whose border is no step, the faintest border first."""
    pairs, first, second = neighbouring_pixels(labels)
    strength = np.maximum(edges.ravel()[first], edges.ravel()[second])
    count = int(labels.max()) + 1
    area = np.bincount(labels.ravel(), minlength=count).astype(float)
    total = float(whole.sum())
    links: dict[int, dict[int, list[float]]] = {i: {} for i in range(1, count)}
    for (a, b), s in zip(pairs.tolist(), strength.tolist(), strict=True):
        one = links[a].setdefault(b, [0.0, 0.0])
        one[0] += s
        one[1] += 1
        links[b][a] = one
    alive = {i: 0 for i in links if area[i] > 0}
    queue = [
        (_border_weight(one, area[a], area[b], total), a, b, 0, 0)
        for a in links
        for b, one in links[a].items()
        if a < b
    ]
    heapq.heapify(queue)
    into = np.arange(count)
    while queue:
        weight, a, b, va, vb = heapq.heappop(queue)
        if weight > STEP:
            break
        if a not in alive or b not in alive or alive[a] != va or alive[b] != vb:
            continue
        into[into == b] = a
        area[a] += area[b]
        alive[a] += 1
        del alive[b]
        for c, one in links.pop(b).items():
            del links[c][b]
            if c == a:
                continue
            if c in links[a]:
                kept = links[a][c]
                links[a][c] = links[c][a] = [kept[0] + one[0], kept[1] + one[1]]
            else:
                links[a][c] = links[c][a] = one
        for c, one in links[a].items():
            x, y = min(a, c), max(a, c)
            heapq.heappush(
                queue, (_border_weight(one, area[x], area[y], total), x, y, alive[x], alive[y])
            )
    return np.asarray(into[labels], dtype=np.int32)


def _border_weight(border: list[float], a: float, b: float, total: float) -> float:
    """Return the strength of the border between two regions; crumbs join what they are most like."""
    smaller = min(a, b) / total
    return border[0] / border[1] * math.sqrt(min(1.0, smaller / LEAST))


def _without_crumbs(labels: Labels, lab: NDArray[np.float32]) -> Labels:
    """Return the regions with small ones merged into the neighbour they share most border with, the smallest
    first. A round spot of quite another colour stays: an eye, a nose, a button."""
    total = float((labels > 0).sum())
    alone = [n for n, row in shared_borders(labels).items() if set(row) <= {0}]
    area = np.bincount(labels.ravel())
    labels = np.where(np.isin(labels, [n for n in alone if area[n] < SMALL * total]), 0, labels)
    least = SMALL
    while True:
        given = _merge_crumbs(labels, lab, least, total)
        if given:
            keys = list(given)
            into = np.arange(int(labels.max()) + 1)
            into[keys] = [given[n] for n in keys]
            labels = into[labels].astype(np.int32)
        elif len(np.unique(labels)) <= MOST_REGIONS:
            return labels
        else:
            least *= 2


def _merge_crumbs(
    labels: Labels, lab: NDArray[np.float32], least: float, total: float
) -> dict[int, int]:
    """Return what each small region is merged into, never one that is merged away itself. If ``least`` was
    raised because there are too many regions, spots are merged as well."""
    count = int(labels.max()) + 1
    area = np.bincount(labels.ravel(), minlength=count).astype(float)
    shared = {n: _felt_only(row) for n, row in shared_borders(labels).items()}
    touching = [n for n in shared if shared[n]]
    thin = ndimage.maximum(_depth_of_each(labels), labels, range(count))
    some = [n for n in touching if thin[n] < THIN_PX and area[n] < TRIM * total]
    slight = bool(some)
    some = some or [n for n in touching if area[n] < least * total]
    given: dict[int, int] = {}
    for n in sorted(some, key=lambda n: area[n]):
        host = max(shared[n], key=lambda k: shared[n][k])
        if host in given or n in given.values():
            continue
        stays = least == SMALL and not slight
        if not stays or not _is_spot(labels == n, labels == host, lab, total):
            given[n] = host
    return given


def _felt_only(row: dict[int, int]) -> dict[int, int]:
    return {n: shared for n, shared in row.items() if n}


def _depth_of_each(labels: Labels) -> NDArray[np.float64]:
    """Return the distance of each pixel from the border of its region, pixels."""
    inner = np.ones(labels.shape, dtype=bool)
    inner[:, 1:] &= labels[:, 1:] == labels[:, :-1]
    inner[:, :-1] &= labels[:, :-1] == labels[:, 1:]
    inner[1:] &= labels[1:] == labels[:-1]
    inner[:-1] &= labels[:-1] == labels[1:]
    return np.asarray(ndimage.distance_transform_edt(inner))


def _is_spot(own: Mask, host: Mask, lab: NDArray[np.float32], total: float) -> bool:
    rows, columns = np.nonzero(own)
    span = (np.ptp(rows) + 1) * (np.ptp(columns) + 1)
    if len(rows) < max(SPOT * total, 9) or len(rows) < 0.55 * span:
        return False
    apart = np.median(lab[own], axis=0) - np.median(lab[host], axis=0)
    return float(np.linalg.norm(apart)) > SPOT_STEP


def _even_out_twins(labels: Labels, middle: float) -> Labels:
    """Return the regions with twins made even: where one of two limbs was divided from the trunk and its
    mirror image (at column ``middle``) was not, that is cut out as well."""
    total = float((labels > 0).sum())
    columns = np.arange(labels.shape[1])
    mirror = np.round(2 * middle - 1 - columns).astype(int)
    inside = (mirror >= 0) & (mirror < labels.shape[1])
    out = labels.copy()
    for n in range(1, int(labels.max()) + 1):
        own = labels == n
        at = np.flatnonzero(own.any(axis=0))
        if own.sum() < SMALL * total or not len(at) or at[0] < middle < at[-1]:
            continue
        twin = np.zeros_like(own)
        twin[:, inside] = own[:, mirror[inside]]
        under = out[twin]
        if not len(under):
            continue
        host = int(np.bincount(under).argmax())
        there = out == host
        larger = there.sum() > 1.5 * own.sum()
        if host and host != n and larger and (under == host).mean() > 0.7:
            out[twin & there] = out.max() + 1
    return out


def _renumber_labels(labels: Labels) -> Labels:
    _, again = np.unique(labels, return_inverse=True)
    return np.asarray(again.reshape(labels.shape), dtype=np.int32)

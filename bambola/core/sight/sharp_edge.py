"""Moves an outline to where a picture changes most sharply: inside the fringe of hairs round a piece of felt,
and off the soft edge of its shadow.

A strip of the picture along the outline is straightened; dynamic programming finds the smooth path over the
largest steps.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

from bambola.core.sight.known import lab_of

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8]

EVERY_MM = 0.25
"""So far apart are the places of an outline."""
INWARD_MM, OUTWARD_MM = 2.2, 1.3
"""So far an edge is looked for inside and outside of the outline as it was cut out: hairs lie outside of a
piece, and count to it more often than it to them. Judged. See craft.md, 9."""
SIDE_MM = 0.6
"""Colours are compared over so much on either side of an edge."""
STEP_MM = 0.1
BEND = 0.3
"""What a bend by a step of :data:`STEP_MM` costs beside the whole of a usual edge. Judged. See craft.md,
9."""
_BLUR_MM, _SMOOTH_MM, _TURN_MM = 0.15, 0.25, 0.8


def on_sharp_edge(image: Pixels, outline: Array, mm_px: float) -> Array:
    """Return a closed outline (n, 2), px of ``image`` (rows, columns, 3) at ``mm_px`` mm a pixel, moved to
    the sharpest edge near it (m, 2)."""
    places, out = _space_evenly(outline, mm_px)
    steps, offsets = _edge_profile(image, places, out, mm_px)
    # The root: an edge in the light must not outweigh several in the shade.
    strength = np.sqrt(steps)
    at = _closed_path(strength / max(float(np.median(strength.max(axis=1))), 1e-9))
    moved: Array = places + (offsets[at] / mm_px)[:, None] * out
    return moved


def _space_evenly(outline: Array, mm_px: float) -> tuple[Array, Array]:
    """Return places (m, 2) evenly along an outline, and the outward directions (m, 2) there."""
    ring = np.vstack([outline, outline[:1]])
    along = np.append(0.0, np.cumsum(np.linalg.norm(np.diff(ring, axis=0), axis=1)))
    count = max(60, round(along[-1] * mm_px / EVERY_MM))
    at = np.arange(count) / count * along[-1]
    places = np.column_stack([np.interp(at, along, ring[:, k]) for k in (0, 1)])
    turning = gaussian_filter1d(places, _TURN_MM / EVERY_MM, axis=0, mode="wrap")
    way = np.roll(turning, -2, axis=0) - np.roll(turning, 2, axis=0)
    way /= np.maximum(np.linalg.norm(way, axis=1)[:, None], 1e-9)
    out = np.column_stack([way[:, 1], -way[:, 0]])
    if cv2.contourArea(outline.astype(np.float32), True) < 0:
        out = -out
    return gaussian_filter1d(places, _SMOOTH_MM / EVERY_MM, axis=0, mode="wrap"), out


def _edge_profile(image: Pixels, places: Array, out: Array, mm_px: float) -> tuple[Array, Array]:
    """Return the change of colour (m, k) at offsets (k,), mm, outward from each place."""
    smooth = cv2.GaussianBlur(image, (0, 0), _BLUR_MM / mm_px)
    lab = lab_of(np.asarray(smooth, dtype=np.uint8))
    reach = np.arange(-INWARD_MM - SIDE_MM, OUTWARD_MM + SIDE_MM + STEP_MM / 2, STEP_MM)
    px = (places[:, None] + reach[None, :, None] / mm_px * out[:, None]).astype(np.float32)
    strip = cv2.remap(lab, px[..., 0], px[..., 1], cv2.INTER_LINEAR)
    side = round(SIDE_MM / STEP_MM)
    run = np.cumsum(np.pad(strip, ((0, 0), (1, 0), (0, 0))), axis=1)
    means = (run[:, side:] - run[:, :-side]) / side
    steps = np.linalg.norm(means[:, side:] - means[:, :-side], axis=2).astype(np.float64)
    return steps, reach[0] + STEP_MM * (np.arange(steps.shape[1]) + side - 0.5)


def _closed_path(strength: Array) -> NDArray[np.int64]:
    """Return the column (m,) in each row of ``strength`` (m, k) of the best closed path. It is found twice,
    the second time starting in the middle of the first path, which the choice of its start cannot have
    bent."""
    half = len(strength) // 2
    begun = _best_path(strength, None)[half]
    return np.roll(_best_path(np.roll(strength, -half, axis=0), int(begun)), half)


def _best_path(strength: Array, begin: int | None) -> NDArray[np.int64]:
    """Return the columns (m,) of the best path through the rows of ``strength`` (m, k) that starts and ends
    at ``begin``."""
    rows, columns = strength.shape
    best = strength[0].copy()
    if begin is not None:
        best[np.arange(columns) != begin] = -np.inf
    came = np.zeros((rows + 1, columns), dtype=np.int64)
    for i in range(1, rows + 1):
        padded = np.pad(best, 2, constant_values=-np.inf)
        steps = np.stack([padded[2 + s : 2 + s + columns] - BEND * abs(s) for s in range(-2, 3)])
        chosen = np.argmax(steps, axis=0)
        came[i] = np.arange(columns) + chosen - 2
        best = np.take_along_axis(steps, chosen[None], axis=0)[0] + strength[i % rows]
    at = int(np.argmax(best)) if begin is None else begin
    path = np.empty(rows, dtype=np.int64)
    for i in range(rows, 0, -1):
        at = int(came[i, at])
        path[i - 1] = at
    return path

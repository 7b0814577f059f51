"""Separates a figure from its background by the lines along its parts.

What lies under a line is figure, and what is far from all lines is background. The colours of both tell how
likely each pixel between is either, and graph cuts (as in :mod:`bambola.core.sight.silhouette`) decide.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.sight.light import evenly_lit
from bambola.core.sight.regions import LIGHT
from bambola.core.sight.silhouette import (
    SMALL_PX,
    Pixels,
    Silhouette,
    finish_silhouette,
    resize_picture,
    scale_to,
    tidy_mask,
)

Array = NDArray[np.float64]
Lines = Sequence[NDArray[np.float64]]
"""Lines (n, 2) in pixels of the picture file."""

REACH = 0.75
"""A part reaches no farther beside its line than this share of the line's length. Judged. See craft.md, 9."""
LEAST_REACH = 0.05
"""Nor does a short line's part reach less than this share of the figure's height. Judged."""
CORE = 0.007
"""So close to a line, as a share of the figure's height, all is figure. Judged."""
COLOURS = 6, 14
"""In so many colours figure and background are told apart. Judged."""
WITHIN = 0.95
"""So much of all lines lies within the outline of the figure that they are drawn on. Judged."""
_CUTS = 4


def separate_drawn(picture: Pixels, lines: Lines, felt: Array, scale: float = 1.0) -> Silhouette:
    """Return the silhouette of the figure with ``lines`` along its parts. ``picture`` (rows, columns, 3) RGB
    may be smaller than the file by ``scale``. ``felt`` (n, 3) are the Lab colours under the lines of all
    pictures."""
    fine_scale = scale_to(picture, scale)
    fine = evenly_lit(resize_picture(picture, fine_scale / scale))
    small_scale = scale * min(1.0, SMALL_PX / max(picture.shape[:2]))
    small = resize_picture(fine, small_scale / fine_scale)
    hints = _starting_labels(small, [line * small_scale for line in lines], felt)
    behind, front = np.zeros((1, 65)), np.zeros((1, 65))
    labels, mode = hints.copy(), cv2.GC_INIT_WITH_MASK
    cv2.setRNGSeed(1)
    for _ in range(_CUTS):
        cv2.grabCut(small, labels, None, behind, front, 1, mode)  # type: ignore[call-overload]
        mode = cv2.GC_EVAL
    found = np.isin(labels, (cv2.GC_FGD, cv2.GC_PR_FGD))
    return finish_silhouette(fine, small, tidy_mask(found, hints), fine_scale)


def colours_under(picture: Pixels, lines: Lines, scale: float) -> Array:
    """Return the Lab colours (n, 3) under ``lines``; lightness counts less."""
    soft = cv2.GaussianBlur(evenly_lit(picture), (0, 0), 1.5)
    lab = weighted_lab(np.asarray(soft, dtype=np.uint8))
    found = [np.zeros((0, 3))]
    for line in lines:
        at = np.round(_dense_points(line * scale)).astype(int)
        at = at.clip(0, np.array(lab.shape[1::-1]) - 1)
        found.append(lab[at[:, 1], at[:, 0]].astype(np.float64))
    return np.concatenate(found)


def weighted_lab(picture: Pixels) -> NDArray[np.float32]:
    """Return ``picture`` in Lab (rows, columns, 3), its lightness weighted by ``LIGHT``."""
    lab = cv2.cvtColor(picture.astype(np.float32) / 255, cv2.COLOR_RGB2LAB)
    return np.asarray(lab * np.array([LIGHT, 1.0, 1.0]), dtype=np.float32)


def _dense_points(line: Array) -> Array:
    """Return points (n, 2) along a line, a pixel apart."""
    legs = [np.linspace(a, b, max(2, int(np.hypot(*(b - a))))) for a, b in itertools.pairwise(line)]
    return np.concatenate(legs)


def _starting_labels(small: Pixels, lines: Lines, felt: Array) -> Pixels:
    """Return which pixels are certainly figure or background, and which of both is likelier for the rest."""
    shape = small.shape[:2]
    tall = max(1.0, float(np.ptp(np.concatenate(lines)[:, 1])))
    near = np.full(shape, np.inf, dtype=np.float32)
    core = np.zeros(shape, dtype=bool)
    for line in lines:
        free = np.ones(shape, dtype=np.uint8)
        cv2.polylines(free, [np.round(line).astype(np.int32).reshape(-1, 1, 2)], False, 0, 1)
        away = cv2.distanceTransform(free, cv2.DIST_L2, 5)
        run = float(np.hypot(*np.diff(line, axis=0).T).sum())
        near = np.minimum(near, away / max(REACH * run, LEAST_REACH * tall))
        core |= away <= CORE * tall
    far = near > 1
    lab = weighted_lab(np.asarray(cv2.GaussianBlur(small, (0, 0), 1.0), dtype=np.uint8))
    is_felt = _colour_distances(lab, felt, COLOURS[0]) < _colour_distances(
        lab, lab[far], COLOURS[1]
    )
    hints = np.where(is_felt, cv2.GC_PR_FGD, cv2.GC_PR_BGD)
    hints[far] = cv2.GC_BGD
    hints[core] = cv2.GC_FGD
    return np.asarray(hints, dtype=np.uint8)


def _colour_distances(
    lab: NDArray[np.float32], samples: NDArray[np.floating], colours: int
) -> Array:
    """Return the distance of each pixel's colour from the nearest of so many ``colours`` of ``samples`` (n,
    3)."""
    chosen = np.asarray(samples[:: max(1, len(samples) // 4000)], dtype=np.float32)
    if len(chosen) < 2 * colours:
        return np.full(lab.shape[:2], np.inf)
    stops = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 20, 0.5)
    cv2.setRNGSeed(1)
    _, _, centres = cv2.kmeans(
        chosen.copy(), colours, np.zeros((0,), np.int32), stops, 2, cv2.KMEANS_PP_CENTERS
    )
    off = np.linalg.norm(lab[:, :, None, :] - centres, axis=-1)
    return np.asarray(off.min(axis=2), dtype=np.float64)


def covers_lines(outline: Silhouette, lines: Lines) -> bool:
    """Return whether nearly all of ``lines`` is within ``outline``."""
    at = np.concatenate([_dense_points(line * outline.scale) for line in lines]).round().astype(int)
    at = at.clip(0, np.array(outline.cover.shape[::-1]) - 1)
    return float((outline.cover[at[:, 1], at[:, 0]] > 0.5).mean()) > WITHIN

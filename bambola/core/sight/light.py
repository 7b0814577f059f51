"""The light in a picture: where it falls off across the ground behind a figure, it is evened out, and where a
shadow falls on that ground it is ground still.

A lamp at one side makes one wall of many colours, and one wool of many; how much of it falls where is told by
the picture's rim, which shows that wall and nothing else. A shadow dims it and leaves its hue, and its edge
is soft where that of felt is sharp.
"""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

RIM = 0.05
"""How wide the rim is, as a share of a picture's side. Judged. See craft.md, 9."""
FALLS = 1.4
"""Light that falls off by less does no harm. Judged. See craft.md, 9."""
ONE_WALL = 0.5
"""The rim shows one wall if smooth light explains all but this much of how its colours stray; a pattern or a
room it does not. Judged. See craft.md, 9."""
LAMP = 1.6
"""A lamp shows a grey wall in colours that differ by this factor at most. Judged: from daylight to a warm
bulb, half made up for by the camera. See craft.md, 9."""
PLAIN = 0.05
"""A wall whose light (its logarithm) strays by more than this has a pattern of its own. Judged. See craft.md,
9."""
DEEPEST = 0.45
"""A soft shadow leaves this share of the light at least. Judged. See craft.md, 9."""
OFF_HUE = 0.07
"""In a shadow red, green and blue stray from each other by this at most (as logarithms). Judged. See
craft.md, 9."""
SOFT = 0.06
"""The light (its logarithm) of a shadow's edge changes by this at most from one pixel of a picture of 520 to
the next. Judged. See craft.md, 9."""
ROUGH = 2.5
"""Felt is rougher than a wall; what is so many times as rough as its middle is none. Judged. See craft.md,
9."""
DRAWN = 0.12
"""Of what is not the wall, so much looks like it in a drawing of lines: there it is paper between them.
Judged. See craft.md, 9."""
_FINE, _PATCH = 1.5, 7
"""Pixels: what is finer is roughness, and over how many it is told."""
_WORK_PX = 240
_ROUNDS = 4
_DARK = 6.0
"""Below this (of 255) a picture tells nothing of its light."""


def evenly_lit(picture: Pixels, white: bool = False) -> Pixels:
    """Return ``picture`` (rows, columns, 3) as it would be if the light on its ground were even, or all of it
    lit as where most light falls, and that light ``white``; as it is where its light is even already, or the
    ground is no plain one.

    The logarithm of the light is taken to be a quadratic in the place, fitted to the rim by least squares
    weighed anew against what strays (Huber).
    """
    rows, columns = picture.shape[:2]
    scale = _WORK_PX / max(rows, columns)
    size = max(8, round(columns * scale)), max(8, round(rows * scale))
    small = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    seen = np.log(small.astype(np.float64) + _DARK)
    light, rim = _light_on(seen), _rim_mask(size[1], size[0])
    off, left = _colour_spread(seen[rim]), _colour_spread(seen[rim] - light[rim])
    falls = float(np.exp(np.ptp(light[rim].mean(axis=-1))))
    if falls < FALLS or left > ONE_WALL * off:
        return picture
    tint = np.median(light[rim], axis=0)
    even = tint - light
    if white:
        even += light[rim].mean(axis=-1).max() - tint.mean()
        if np.ptp(tint) < math.log(LAMP):  # more is the wall's own colour, and no lamp's
            even += tint.mean() - tint
    factor = cv2.resize(np.exp(even).astype(np.float32), (columns, rows))
    made = (picture.astype(np.float32) + _DARK) * factor - _DARK
    return np.asarray(np.clip(made, 0, 255), dtype=np.uint8)


def wall_of(picture: Pixels) -> tuple[Mask, Mask]:
    """Return what of ``picture`` (rows, columns, 3; evenly lit, some 520 high or wide) is the wall behind the
    figure, in the light or in a soft shadow, and what is surely before it (rows, columns each); nothing is
    either where the rim shows no plain wall.

    The wall is what is reached from the rim without a sharp step, of the wall's hue, as smooth, and darker at
    most.
    """
    rows, columns = picture.shape[:2]
    logs = np.log(picture.astype(np.float64) + _DARK)
    seen, raw = np.asarray(cv2.GaussianBlur(logs, (0, 0), 1.0), dtype=float), logs.mean(axis=-1)
    off = seen - _light_on(seen)
    rim = _rim_mask(rows, columns)
    if _colour_spread(off[rim]) > PLAIN:
        nothing = np.zeros((rows, columns), dtype=np.bool_)
        return nothing, nothing
    dim = off.mean(axis=-1)
    step = np.hypot(cv2.Sobel(dim, cv2.CV_64F, 1, 0), cv2.Sobel(dim, cv2.CV_64F, 0, 1)) / 8
    hue = np.linalg.norm(off - dim[..., None], axis=-1)
    fine = cv2.blur((raw - cv2.GaussianBlur(raw, (0, 0), _FINE)) ** 2, (_PATCH, _PATCH))
    # The grain of a picture shows more in the dark.
    rough = np.sqrt(np.maximum(fine, 0.0)) * np.exp(dim)
    like = (rough < ROUGH * float(np.median(rough[rim]))) & (step < SOFT)
    like &= (dim > math.log(DEEPEST)) & (dim < SOFT) & (hue < OFF_HUE)
    # A leak of a pixel through a faint edge is no way in.
    square = np.ones((3, 3), np.uint8)
    _, labels = cv2.connectedComponents(cv2.erode(like.astype(np.uint8), square), connectivity=4)
    reached = np.isin(labels, np.setdiff1d(labels[rim], 0)).astype(np.uint8)
    wall = (cv2.dilate(reached, square) > 0) & like
    # An edge is as rough as felt for as far as roughness is told over.
    before = cv2.erode((~like).astype(np.uint8), np.ones((_PATCH + 4, _PATCH + 4))) > 0
    before &= (like & ~wall).sum() < DRAWN * (~wall).sum()
    return wall, np.asarray(before, dtype=np.bool_)


def _light_on(seen: Array) -> Array:
    """Return the logarithm of the light on the wall (rows, columns, 3) of a picture ``seen`` as
    logarithms."""
    rows, columns = seen.shape[:2]
    terms, rim = _quadratic_terms(rows, columns), _rim_mask(rows, columns)
    fits = [terms @ _fit_coefficients(terms[rim], seen[..., k][rim]) for k in range(3)]
    return np.stack(fits, axis=-1)


def _quadratic_terms(rows: int, columns: int) -> Array:
    """Return the terms of a quadratic (rows, columns, 6) at each pixel."""
    y, x = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j]
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)


def _rim_mask(rows: int, columns: int) -> Mask:
    wide = max(2, math.ceil(RIM * max(rows, columns)))
    rim = np.ones((rows, columns), dtype=np.bool_)
    rim[wide:-wide, wide:-wide] = False
    return rim


def _fit_coefficients(terms: Array, seen: Array) -> Array:
    """Return the coefficients (6,) that explain ``seen`` (n,) best."""
    weight = np.ones(len(seen))
    for _ in range(_ROUNDS):
        found = np.linalg.lstsq(terms * weight[:, None], seen * weight, rcond=None)[0]
        off = np.abs(seen - terms @ found)
        usual = 1.5 * max(float(np.median(off)), 1e-6)
        weight = np.sqrt(np.minimum(1.0, usual / np.maximum(off, 1e-9)))
    return np.asarray(found, dtype=np.float64)


def _colour_spread(colours: Array) -> float:
    """Return how far colours (n, 3) lie from their middle, for the most part."""
    return float(np.median(np.linalg.norm(colours - np.median(colours, axis=0), axis=1)))

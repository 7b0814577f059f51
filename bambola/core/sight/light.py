"""The light in a picture: where it falls off across the ground behind a figure, it is evened out.

A lamp at one side makes one wall of many colours, and one wool of many; how much of it falls where is told by
the picture's rim, which shows that wall and nothing else.
"""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.uint8]
Array = NDArray[np.float64]

RIM = 0.05
"""How wide the rim is, as a share of a picture's side. Judged. See craft.md, 9."""
FALLS = 1.4
"""Light that falls off by less does no harm. Judged. See craft.md, 9."""
ONE_WALL = 0.5
"""The rim shows one wall if smooth light explains all but this much of how its colours stray; a pattern or a
room it does not. Judged. See craft.md, 9."""
_WORK_PX = 240
_ROUNDS = 4
_DARK = 6.0
"""Below this (of 255) a picture tells nothing of its light."""


def evenly_lit(picture: Pixels) -> Pixels:
    """``picture`` (rows, columns, 3) as it would be if the light on its ground were even; as it is where that
    is even already, or the ground is no plain one.

    The logarithm of the light is taken to be a quadratic in the place, fitted to the rim by least squares
    weighed anew against what strays (Huber).
    """
    rows, columns = picture.shape[:2]
    scale = _WORK_PX / max(rows, columns)
    size = max(8, round(columns * scale)), max(8, round(rows * scale))
    small = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    seen = np.log(small.astype(np.float64) + _DARK)
    terms = _terms(size[1], size[0])
    rim = _rim(size[1], size[0])
    light = np.stack([terms @ _fitted(terms[rim], seen[..., k][rim]) for k in range(3)], axis=-1)
    off, left = _spread(seen[rim]), _spread(seen[rim] - light[rim])
    falls = float(np.exp(np.ptp(light[rim].mean(axis=-1))))
    if falls < FALLS or left > ONE_WALL * off:
        return picture
    even = np.median(light[rim], axis=0) - light
    factor = cv2.resize(np.exp(even).astype(np.float32), (columns, rows))
    made = (picture.astype(np.float32) + _DARK) * factor - _DARK
    return np.asarray(np.clip(made, 0, 255), dtype=np.uint8)


def _terms(rows: int, columns: int) -> Array:
    """The terms of a quadratic (rows, columns, 6) at each pixel."""
    y, x = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j]
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)


def _rim(rows: int, columns: int) -> NDArray[np.bool_]:
    wide = max(2, math.ceil(RIM * max(rows, columns)))
    rim = np.ones((rows, columns), dtype=np.bool_)
    rim[wide:-wide, wide:-wide] = False
    return rim


def _fitted(terms: Array, seen: Array) -> Array:
    """The coefficients (6,) that explain ``seen`` (n,) best."""
    weight = np.ones(len(seen))
    for _ in range(_ROUNDS):
        found = np.linalg.lstsq(terms * weight[:, None], seen * weight, rcond=None)[0]
        off = np.abs(seen - terms @ found)
        usual = 1.5 * max(float(np.median(off)), 1e-6)
        weight = np.sqrt(np.minimum(1.0, usual / np.maximum(off, 1e-9)))
    return np.asarray(found, dtype=np.float64)


def _spread(colours: Array) -> float:
    """How far colours (n, 3) lie from their middle, for the most part."""
    return float(np.median(np.linalg.norm(colours - np.median(colours, axis=0), axis=1)))

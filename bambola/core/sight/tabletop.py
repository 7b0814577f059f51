"""Divides a picture of a table from above into table and things on it.

A table has one colour or a few, each found all over it, and light falls on it evenly or more from one side. A
shadow has the table's colour, only darker. So whatever differs from all the table's colours in hue, or is
brighter, lies on it, whatever the light and however soft the shadow.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.frozen import frozen

Array = NDArray[np.float32]
Mask = NDArray[np.bool_]
Pixels = NDArray[np.uint8]

COLOURS = 8
"""So many colours are looked for; those found all over are the table's. A checked cloth has four."""
CELLS = 8
"""A picture is cut into so many cells each way to see where a colour is found."""
IN_ONE_PLACE = 0.35
"""A colour of which so much lies in six of those cells (of 64) is no colour of the table. Judged. See
craft.md, 9."""
LEAST_HUE, LEAST_LIGHT = 0.6, 2.0
"""How far colours of one thing differ at the least, per cent of its hue and of its brightness: the picture's
own coarseness. Judged. See craft.md, 9."""
BLUR_MM = 0.3
"""Colours are taken over so much: finer than felt has an edge, coarser than a hair of it is thick."""
SEEN = 4.0
"""What differs by so many times the spread of the table's own colours is not table. Judged. See craft.md,
9."""
MOST = 40.0
"""A difference beyond this says no more."""
_LIGHT_WEIGHT = 0.5
"""How much brightness counts against hue where the table's colours are told apart: light varies more."""


@frozen
class Tabletop:
    """The colours of a table, each (n, 3) as brightness and two ratios of red, green and blue (per cent of
    their logarithm), and their spreads (n, 3)."""

    colours: Array
    spreads: Array

    def colour_distance(self, shown: Array) -> Array:
        """Return how far colours (rows, columns, 3) are from the nearest table colour, in its spreads. Darker
        colours of the same hue count as near: they are shadow."""
        nearest = np.full(shown.shape[:2], MOST, dtype=np.float32)
        for colour, spread in zip(self.colours, self.spreads, strict=True):
            off = (shown - colour) / spread
            off[..., 0] = np.maximum(off[..., 0], 0.0)
            nearest = np.minimum(nearest, np.linalg.norm(off, axis=2))
        return nearest

    def apart_in_hue(self, shown: Array) -> Array:
        """Return that distance by hue alone: something merely brighter than the table cannot be told from it
        in its own shade."""
        dark = shown.copy()
        dark[..., 0] = -np.inf
        return self.colour_distance(dark)


@frozen
class OnTable:
    """What lies on a table: a ``mask`` (rows, columns), and each pixel's distance from the table's colours
    with brightness (``apart``) and without (``apart_in_hue``)."""

    mask: Mask
    apart: Array
    apart_in_hue: Array


def what_lies_there(image: Pixels, seen: Mask, mm_px: float) -> OnTable:
    """Return what lies on the table of ``image`` (rows, columns, 3) within ``seen``, at ``mm_px`` mm a
    pixel."""
    shown = _table_colours(image, seen, mm_px)
    table = _find_tabletop(shown, seen)
    apart = np.where(seen, table.colour_distance(shown), 0.0).astype(np.float32)
    sure = cv2.GaussianBlur(apart, (0, 0), 1.0 / mm_px)
    # The edge is where the difference is half as large as it is inside, near by.
    inside = cv2.dilate(np.where(sure > SEEN, sure, 0.0), disc(2.5 / mm_px))
    mask = np.asarray(apart > np.maximum(SEEN, inside / 2))
    return OnTable(mask, apart, table.apart_in_hue(shown))


def disc(radius: float) -> Pixels:
    """Return a disc (a kernel for opening and widening masks) of at least one pixel to each side."""
    size = 2 * max(1, round(radius)) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)), dtype=np.uint8)


def _table_colours(image: Pixels, seen: Mask, mm_px: float) -> Array:
    """Return the picture (rows, columns, 3) in table colours (see :class:`Tabletop`), corrected for uneven
    light."""
    smooth = cv2.GaussianBlur(image.astype(np.float32), (0, 0), BLUR_MM / mm_px)
    logs = 100 * np.log(smooth + 2)
    light = logs.mean(axis=2)
    even = light - _falling_light(light, seen)
    red, blue = logs[..., 0] - logs[..., 1], logs[..., 2] - logs[..., 1]
    return np.stack([even, red, blue], axis=2).astype(np.float32)


def _falling_light(light: Array, seen: Mask) -> Array:
    """Return the change of light (rows, columns) over a table: a quadratic surface through most of it (robust
    least squares)."""
    rows, columns = light.shape
    y, x = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j].astype(np.float32)
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=2)
    every = max(1, min(rows, columns) // 120)
    taken = seen[::every, ::every]
    known, told = terms[::every, ::every][taken], light[::every, ::every][taken]
    weight = np.ones(len(told), dtype=np.float32)
    for _ in range(12):
        found = np.linalg.lstsq(known * weight[:, None], told * weight, rcond=None)[0]
        off = told - known @ found
        usual = 1.4826 * float(np.median(np.abs(off))) + 1e-3
        weight = 1 / np.sqrt(1 + (off / (2 * usual)) ** 2)
    return np.asarray(terms @ found - found[0], dtype=np.float32)


def _find_tabletop(shown: Array, seen: Mask) -> Tabletop:
    """Return the colours that are found all over the picture."""
    rows, columns = seen.shape
    every = max(1, min(rows, columns) // 150)
    taken = seen[::every, ::every]
    colours = shown[::every, ::every][taken]
    y, x = np.mgrid[:rows:every, :columns:every]
    cell = ((y * CELLS // rows) * CELLS + x * CELLS // columns)[taken]
    weights = np.array([_LIGHT_WEIGHT, 1.0, 1.0], dtype=np.float32)
    cv2.setRNGSeed(1)
    _, group, _ = cv2.kmeans(
        colours * weights, COLOURS, np.empty(0), (3, 40, 0.1), 4, cv2.KMEANS_PP_CENTERS
    )
    group = group.ravel()
    found, spreads = [], []
    for n in range(COLOURS):
        own = colours[group == n]
        there = np.sort(np.bincount(cell[group == n], minlength=CELLS * CELLS))[::-1]
        if len(own) and there[:6].sum() < IN_ONE_PLACE * len(own):
            middle = np.median(own, axis=0)
            spread = 1.4826 * np.median(np.abs(own - middle), axis=0)
            found.append(middle)
            spreads.append(np.maximum(spread, [LEAST_LIGHT, LEAST_HUE, LEAST_HUE]))
    if not found:
        found, spreads = [np.median(colours, axis=0)], [np.full(3, LEAST_LIGHT)]
    return Tabletop(np.array(found, np.float32), np.array(spreads, np.float32))

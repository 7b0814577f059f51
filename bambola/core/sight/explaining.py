"""How much of a picture a placed figure explains: its outline, and the parts of one colour.

Fitting evaluates this some hundred times, so the figure is drawn coarsely: round runs and hulls filled on a
small grid, the farthest first.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure import Sight
from bambola.core.figure.shapes.chain import ChainShape
from bambola.core.frozen import frozen
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.regions import LIGHT
from bambola.core.solids import AXES, Copy, Placement
from bambola.core.solids.forms import Array

HUE = 26.0
"""Colours so far apart (units of Lab) are hardly of one wool."""
OTHER, DEEP, PALE = 8.0, 0.45, 1.25
"""A colour is another than a wool's if it is so far (units of Lab) from the hue that has in shade or light;
or darker than any shade of it, or paler than in any light, as shares of its lightness. Judged. See craft.md,
9."""
SHADED = 0.4
"""Where wools are told apart on one part, lightness counts so much less again: shade is more of it. Judged.
See craft.md, 9."""
LIT = 0.7
"""Of so many of a part's cells the lightness is below that of its wool. Of 144 parts of the sitters 128 are
so given their wool, by the median 115. See craft.md, 9."""
CELLS = 80
"""So many cells are as high as the figure: an eye is still one. Judged. See craft.md, 9."""
BESIDE, OVER, UNDER = 12, 10, 6
"""Cells around what is seen, for a figure that is not fitted yet."""
COLOUR = 0.5
"""A cell within both outlines of quite another colour than its part counts so much of one outside. Judged.
See craft.md, 9."""
_ANGLES = np.linspace(0.0, 2 * math.pi, 28, endpoint=False)
_ROUND = np.stack([np.cos(_ANGLES), np.sin(_ANGLES)], axis=1)
_FINE = 5
"""A cell shows what lies in its middle, found on so much finer a grid: what is filled takes its rim in."""
_SHIFT = 4
"""Corners are told to a sixteenth of the finer cell."""
_RUNS = 12
"""A bent chain is drawn in no more runs."""

Cells = NDArray[np.int16]


@frozen
class CopyOutline:
    """A convex run (n, 2) mm of a copy of part number ``part`` in a view; ``near`` (mm) is how far the copy
    reaches towards the viewer, ``deep`` how deep the run itself lies."""

    part: int
    near: float
    deep: float
    run: Array


@dataclass(frozen=True)
class CoarseView:
    """A framed picture on a coarse grid with cells of ``step`` mm, the first ``left`` and ``low`` cells off
    the foot of the midline: which cells the figure covers (rows, columns; the lowest first) and their colours
    in Lab (rows, columns, 3) with lightness counting less. ``middle`` (2,) is the centre of the covered
    cells, mm."""

    view: Sight
    step: float
    left: int
    low: int
    inside: NDArray[np.bool_]
    lab: NDArray[np.float32]
    middle: Array

    def owners(self, outlines: list[CopyOutline]) -> Cells:
        """Return the number of the part that each cell shows, from 1; 0 for none."""
        rows, columns = self.inside.shape
        seen = np.zeros((rows * _FINE, columns * _FINE), dtype=np.int16)
        for outline in sorted(outlines, key=lambda o: o.near):
            fine = (outline.run / self.step - (self.left, self.low)) * _FINE - 0.5
            corners = np.round(fine * 2**_SHIFT).astype(np.int32)
            cv2.fillConvexPoly(seen, corners, outline.part + 1, shift=_SHIFT)
        return seen[_FINE // 2 :: _FINE, _FINE // 2 :: _FINE]

    def colours(self, owners: Cells) -> dict[int, NDArray[np.float32]]:
        """Return by part the colours (n, 3) of the cells that show it."""
        both = (owners > 0) & self.inside
        parts, lab = owners[both] - 1, self.lab[both]
        order = np.argsort(parts, kind="stable")
        parts, lab = parts[order], lab[order]
        blocks = np.split(lab, np.flatnonzero(np.diff(parts)) + 1)
        firsts = np.concatenate([[0], np.flatnonzero(np.diff(parts)) + 1])
        return {int(parts[n]): block for n, block in zip(firsts, blocks, strict=True) if len(block)}

    def strangeness(self, owners: Cells) -> Array:
        """Return how unlike its part's colour each cell (rows, columns) is, 0..1."""
        found = np.zeros(owners.shape)
        both = (owners > 0) & self.inside
        for part in np.unique(owners[both]):
            of_it = both & (owners == part)
            found[of_it] = strangeness(self.lab[of_it])
        return found

    def cells(self, u: Array, v: Array) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Return the rows and columns of places, mm."""
        rows, columns = self.inside.shape
        row = np.clip(np.floor(v / self.step).astype(np.intp) - self.low, 0, rows - 1)
        return row, np.clip(np.floor(u / self.step).astype(np.intp) - self.left, 0, columns - 1)

    def unexplained(self, owners: Cells) -> float:
        """Return the share of the figure's cells that are not explained: those covered in only one of the two
        outlines, and those whose colour is unlike the part's."""
        missed = float(((owners > 0) ^ self.inside).sum())
        for lab in self.colours(owners).values():
            missed += COLOUR * float(strangeness(lab).sum())
        return missed / max(int(self.inside.sum()), 1)


def strangeness(lab: NDArray[np.float32]) -> Array:
    """Return how far each colour (n, 3) is from the median colour: 0 the same, 1 as far as another wool's."""
    off = np.linalg.norm(lab - np.median(lab, axis=0), axis=1)
    return np.asarray(np.minimum(off / HUE, 1.0), dtype=np.float64)


def is_other(colour: Array, usual: Array) -> bool:
    """Return whether a Lab colour (3,) is neither a shade of the ``usual`` one nor the same colour in
    light."""
    share = float(colour[0] / max(usual[0], 1.0))
    off = float(np.linalg.norm(colour[1:] - usual[1:] * min(share, 1.0)))
    return off > OTHER or not DEEP < share < PALE


def main_colours(lab: NDArray[np.float32]) -> NDArray[np.float32]:
    """Return the colours (n, 3) of the larger of two wools where k-means finds two; else all of them."""
    if len(lab) < 8:
        return lab
    stops = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 12, 0.5)
    cv2.setRNGSeed(1)
    flat = (lab * (SHADED, 1.0, 1.0)).astype(np.float32)
    _, of, middles = cv2.kmeans(flat, 2, np.zeros((0,), np.int32), stops, 2, cv2.KMEANS_PP_CENTERS)
    more = int(np.argmax(np.bincount(of.ravel(), minlength=2)))
    usual, rarer = (np.asarray(middles[n] / (SHADED * LIGHT, 1, 1)) for n in (more, 1 - more))
    if not (is_other(rarer, usual) and is_other(usual, rarer)):
        return lab
    return np.asarray(lab[of.ravel() == more], dtype=np.float32)


def lit_colour(lab: NDArray[np.float32]) -> Array:
    """Return the lit colour (3,) of a part that shows colours (n, 3): as bright as its lit side, since most
    of a round part lies in half shade."""
    light = float(np.quantile(lab[:, 0], LIT))
    well_lit = lab[lab[:, 0] >= np.median(lab[:, 0])]
    return np.array([light, *np.median(well_lit[:, 1:], axis=0)], dtype=np.float64)


def coarse_view(seen: DividedPicture, height: float) -> CoarseView:
    """Return a divided picture on the coarse grid for a figure ``height`` mm tall."""
    step, whole = height / CELLS, seen.regions.whole
    columns, rows = np.floor(seen.u / step).astype(int), np.floor(seen.v / step).astype(int)
    left, low = int(columns[whole].min()) - BESIDE, min(int(rows[whole].min()), 0) - UNDER
    shape = int(rows[whole].max()) + OVER - low, int(columns[whole].max()) + BESIDE - left
    within = (
        (columns >= left) & (columns < left + shape[1]) & (rows >= low) & (rows < low + shape[0])
    )
    cell = np.where(within, (rows - low) * shape[1] + columns - left, 0)[within]
    count = shape[0] * shape[1]
    covered = whole[within].astype(np.float64)
    pixels = np.bincount(cell, minlength=count)
    of_it = np.bincount(cell, weights=covered, minlength=count)
    lab = (
        np.stack(
            [
                np.bincount(
                    cell, weights=seen.regions.lab[..., k][within] * covered, minlength=count
                )
                for k in range(3)
            ],
            axis=-1,
        )
        / np.maximum(of_it, 1.0)[:, None]
    )
    u, v = seen.u[whole], seen.v[whole]
    return CoarseView(
        seen.view,
        step,
        left,
        low,
        (of_it > 0.5 * np.maximum(pixels, 1)).reshape(shape),
        np.asarray(lab * (LIGHT, 1.0, 1.0), dtype=np.float32).reshape(*shape, 3),
        np.array([u.min() + u.max(), v.min() + v.max()]) / 2,
    )


def outlines_of(
    placement: Placement, view: Sight, ground: float, scale: float
) -> list[CopyOutline]:
    """Return the outlines of a placed figure in a view, measured from ``ground`` up and ``scale`` times as
    large."""
    number = {part.id: n for n, part in enumerate(placement.figure.parts)}
    found: list[CopyOutline] = []
    for copy in placement.copies:
        if copy.part.hollow:
            continue
        near, runs = _convex_runs(copy, AXES[view])
        found += [
            CopyOutline(
                number[copy.part.id], near * scale, deep * scale, (run - (0.0, ground)) * scale
            )
            for deep, run in runs
        ]
    return found


def _convex_runs(copy: Copy, axes: Array) -> tuple[float, list[tuple[float, Array]]]:
    """Return how near a copy comes to the viewer, and its convex runs, each with its depth."""
    if isinstance(copy.shape, ChainShape):
        chain = copy.shape.chain()
        centres = (chain.points @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]) @ axes.T
        radii = chain.radii
        near = float((centres[:, 2] + radii).max())
        kept = np.linspace(0, len(radii) - 1, min(len(radii), _RUNS + 1)).astype(int)
        rounds = [centres[n, :2] + _ROUND * radii[n] for n in kept]
        deep = [float(centres[n, 2]) for n in kept]
        pairs = zip(itertools.pairwise(deep), itertools.pairwise(rounds), strict=True)
        return near, [(sum(ends) / 2, _hull_of(np.concatenate(two))) for ends, two in pairs]
    reach = copy.reaches(np.concatenate([_ROUND @ axes[:2], axes[2:], -axes[2:]]))
    support, after = reach[:-2], np.roll(reach[:-2], -1)
    turn = _ANGLES[1]
    along = (after - support * math.cos(turn)) / math.sin(turn)
    aside = np.stack([-_ROUND[:, 1], _ROUND[:, 0]], axis=1)
    run = support[:, None] * _ROUND + along[:, None] * aside
    return float(reach[-2]), [(float(reach[-2] - reach[-1]) / 2, run)]


def from_near(outlines: list[CopyOutline], away: float, height: float) -> list[CopyOutline]:
    """Return outlines ``height`` mm tall in perspective, from a camera ``away`` mm from the figure's middle
    at half its height: nearer parts become larger, and the whole stays as tall as before."""
    middle = (min(o.deep for o in outlines) + max(o.deep for o in outlines)) / 2
    aim = np.array([0.0, height / 2])
    runs = [aim + (o.run - aim) * (away / (away - o.deep + middle)) for o in outlines]
    low, high = min(run[:, 1].min() for run in runs), max(run[:, 1].max() for run in runs)
    share = height / (high - low)
    return [
        CopyOutline(o.part, o.near, o.deep, (run - (0.0, low)) * share)
        for o, run in zip(outlines, runs, strict=True)
    ]


def _hull_of(places: Array) -> Array:
    return np.asarray(cv2.convexHull(places.astype(np.float32))[:, 0], dtype=np.float64)

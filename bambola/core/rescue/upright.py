"""The finished figure judged by a picture from the front, a card standing beside it: height, lean, tops."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Degrees, Fact, Mm, RefusedError, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.solids import Detail, Placement, mesh_of
from bambola.core.wool.mending import close

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
Pixels = NDArray[np.uint8]

LEAN_DEG = 2.0
"""A figure that leans by less stands upright. Judged. See craft.md, 9."""
TOPS_MM, TOPS_SHARE = 1.5, 0.01
"""Left and right tops (ears, horns, shoulders) may differ by so much, mm or of the height, beyond what is
planned. Judged. See craft.md, 9."""
_CORE = (0.08, 0.92)
"""The lean is read between these shares of the height: feet and ears say little of it."""


@frozen
class Stood:
    """How a figure stands: its height and the planned one (mm), how far it leans to the right as it is looked
    at (degrees), and how much higher its right top is than its left one, beyond what is planned (mm)."""

    height: float
    planned: float
    leans: float
    tops: float

    @property
    def _level(self) -> float:
        return max(TOPS_MM, TOPS_SHARE * self.planned)

    @property
    def is_right(self) -> bool:
        """Whether nothing is to be mended."""
        low, high = close(self.planned)
        return (
            low <= self.height <= high
            and abs(self.leans) <= LEAN_DEG
            and abs(self.tops) <= self._level
        )

    @property
    def told(self) -> tuple[Fact, ...]:
        """It in words."""
        low, high = close(self.planned)
        kind = "right" if low <= self.height <= high else "more" if self.height > high else "less"
        off = Mm(abs(self.height - self.planned))
        sizes = {"found": Mm(self.height), "wanted": Mm(self.planned), "off": off}
        found = [fact(f"judged.height-{kind}", **sizes)]
        side = Fact("judged.right" if self.leans > 0 else "judged.left")
        found.append(
            fact("judged.leans", angle=Degrees(abs(self.leans)), side=side)
            if abs(self.leans) > LEAN_DEG
            else Fact("judged.upright")
        )
        side = Fact("judged.right" if self.tops > 0 else "judged.left")
        found.append(
            fact("judged.tops-differ", off=Mm(abs(self.tops)), side=side)
            if abs(self.tops) > self._level
            else Fact("judged.tops-level")
        )
        return tuple(found)


def judge_upright(
    plan: Plan, picture: Pixels, progress: Callable[[float], bool] = lambda share: True
) -> Stood:
    """The figure of ``plan`` in ``picture`` (rows, columns, 3), from the front, beside a card that stands
    upright in its plane. Raises :class:`RefusedError` with what to do about the picture."""
    from bambola.core.sight.ground import doubts, find_ground
    from bambola.core.sight.lying import standing_mask

    doubt = doubts(picture)
    if doubt is not None:
        raise RefusedError(doubt)
    ground = find_ground(picture)
    seen, mm_px = standing_mask(picture, ground, progress)
    wanted = drawn_mask(plan.solids.placement, mm_px)
    # What stands over the crown by which it is measured, such as ears, grows along.
    found, drawn = (int(np.ptp(np.flatnonzero(mask.any(axis=1)))) + 1 for mask in (seen, wanted))
    height = plan.to_height_mm * found / drawn
    leans = math.degrees(math.atan(_slope(seen) - _slope(wanted)))
    # What leans has its tops at other heights, too: that is told once.
    across = _tops_apart(seen)
    tops = (
        _tops(seen, mm_px) - _tops(wanted, mm_px) + math.tan(math.radians(leans)) * across * mm_px
    )
    return Stood(height, plan.to_height_mm, leans, tops)


def drawn_mask(placement: Placement, mm_px: float) -> Mask:
    """The figure from the front as it was planned (rows, columns), its crown in the first row."""
    import cv2

    corners = []
    for copy in placement.copies:
        mesh = mesh_of(copy.shape, Detail.UNION)
        own = mesh.vertices @ copy.matrix[:3, :3].T + copy.matrix[:3, 3]
        corners.append((own[:, [0, 2]], mesh.faces))
    every = np.concatenate([places for places, _ in corners])
    low, high = every.min(axis=0), every.max(axis=0)
    columns, rows = (math.ceil(span / mm_px) + 2 for span in high - low)
    canvas = np.zeros((rows, columns), np.uint8)
    for places, faces in corners:
        px = np.column_stack([(places[:, 0] - low[0]), (high[1] - places[:, 1])]) / mm_px
        for face in np.round(px[faces]).astype(np.int32):
            cv2.fillConvexPoly(canvas, face, 255)
    return np.asarray(canvas > 0)


def _middles(mask: Mask) -> tuple[Array, Array]:
    """Of the rows that say something of the lean: how high they are, and where their middle is, px."""
    rows = np.flatnonzero(mask.any(axis=1))
    top, bottom = rows[0], rows[-1]
    inner = rows[
        (rows > top + _CORE[0] * (bottom - top)) & (rows < top + _CORE[1] * (bottom - top))
    ]
    columns = np.arange(mask.shape[1])
    weight = mask[inner]
    middle = (weight * columns).sum(axis=1) / weight.sum(axis=1)
    return (bottom - inner).astype(np.float64), middle.astype(np.float64)


def _slope(mask: Mask) -> float:
    """How far the middle of a figure moves to the right for each unit of height: the middle of all that
    pairs, by the median of slopes (Theil and Sen)."""
    from scipy.stats import theilslopes

    high, middle = _middles(mask)
    every = max(1, len(high) // 150)
    return float(theilslopes(middle[::every], high[::every])[0])


def _halves(mask: Mask) -> tuple[Mask, Mask]:
    """Left and right of the middle of its upper third."""
    rows = np.flatnonzero(mask.any(axis=1))
    upper = mask[rows[0] : rows[0] + max(3, (rows[-1] - rows[0]) // 3)]
    columns = np.flatnonzero(upper.any(axis=0))
    middle = round(float((upper.sum(axis=0) * np.arange(mask.shape[1])).sum() / upper.sum()))
    middle = min(max(middle, columns[0] + 2), columns[-1] - 2)
    return upper[:, :middle], upper[:, middle:]


def _tops(mask: Mask, mm_px: float) -> float:
    """How much higher the right top is than the left one, mm."""
    left, right = (np.flatnonzero(half.any(axis=1))[0] for half in _halves(mask))
    return float(left - right) * mm_px


def _tops_apart(mask: Mask) -> float:
    """How far the two tops lie from each other, px."""
    left, right = _halves(mask)
    first = float(np.flatnonzero(left[np.flatnonzero(left.any(axis=1))[0]]).mean())
    second = float(np.flatnonzero(right[np.flatnonzero(right.any(axis=1))[0]]).mean())
    return float(second + left.shape[1] - first)

"""Judges the finished figure by a picture from the front with a card standing beside it: height, lean, tops,
eyes."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Degrees, Fact, Mm, RefusedError, fact
from bambola.core.frozen import frozen
from bambola.core.plan import Plan
from bambola.core.solids import Detail, Placement, mesh_of
from bambola.core.wool.pan import right_size_range

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
Pixels = NDArray[np.uint8]

LEAN_DEG = 2.0
"""A figure that leans by less stands upright. Judged. See craft.md, 9."""
TOPS_MM, TOPS_SHARE = 1.5, 0.01
"""Left and right tops (ears, horns, shoulders) may differ by so much, mm or of the height, beyond what is
planned. Judged. See craft.md, 9."""
EYES_MM, EYES_SHARE = 1.0, 0.006
"""Eyes may lie on other heights by so much, mm or of the height, beyond what is planned: less than tops,
for an eye sees it sooner. Judged. See craft.md, 9."""
EYE_SHOWS = 14.0
"""An eye is told by being so much darker (L of Lab) than what is around it. Judged. See craft.md, 9."""
_ASTRAY = 0.035
"""It is looked for so near to its place, of the height."""
_CORE = (0.08, 0.92)
"""The lean is read between these shares of the height: feet and ears say little of it."""


@frozen
class StandingJudgement:
    """How a figure stands: its height and the planned one (mm), how far it leans to the right as it is looked
    at (degrees), and how much higher its right top is than its left one, beyond what is planned (mm); its
    right eye, too, where both are seen."""

    height: float
    planned: float
    leans: float
    tops: float
    eyes: float | None = None

    @property
    def is_leaning(self) -> bool:
        """Whether it leans more than a figure may."""
        return abs(self.leans) > LEAN_DEG

    @property
    def _level_mm(self) -> float:
        return max(TOPS_MM, TOPS_SHARE * self.planned)

    @property
    def _eyes_level(self) -> float:
        return max(EYES_MM, EYES_SHARE * self.planned)

    @property
    def is_right(self) -> bool:
        """Whether nothing has to be mended."""
        low, high = right_size_range(self.planned)
        return (
            low <= self.height <= high
            and not self.is_leaning
            and abs(self.tops) <= self._level_mm
            and abs(self.eyes or 0.0) <= self._eyes_level
        )

    @property
    def as_facts(self) -> tuple[Fact, ...]:
        """The judgement as facts."""
        low, high = right_size_range(self.planned)
        kind = "right" if low <= self.height <= high else "more" if self.height > high else "less"
        off = Mm(abs(self.height - self.planned))
        sizes = {"found": Mm(self.height), "wanted": Mm(self.planned), "off": off}
        found = [fact(f"judged.height-{kind}", **sizes)]
        side = Fact("judged.right" if self.leans > 0 else "judged.left")
        found.append(
            fact("judged.leans", angle=Degrees(abs(self.leans)), side=side)
            if self.is_leaning
            else Fact("judged.upright")
        )
        side = Fact("judged.right" if self.tops > 0 else "judged.left")
        found.append(
            fact("judged.tops-differ", off=Mm(abs(self.tops)), side=side)
            if abs(self.tops) > self._level_mm
            else Fact("judged.tops-level")
        )
        if self.eyes is not None:
            side = Fact("judged.right" if self.eyes > 0 else "judged.left")
            found.append(
                fact("judged.eyes-differ", off=Mm(abs(self.eyes)), side=side)
                if abs(self.eyes) > self._eyes_level
                else Fact("judged.eyes-level")
            )
        return tuple(found)


def judge_upright(
    plan: Plan, picture: Pixels, progress: Callable[[float], bool] = lambda share: True
) -> StandingJudgement:
    """Return the judgement of the figure of ``plan`` in ``picture`` (rows, columns, 3), from the front,
    beside a card upright in its plane.

    Raises :class:`RefusedError` with what to do about the picture.
    """
    from bambola.core.sight.ground import find_ground, picture_faults
    from bambola.core.sight.lying import standing_mask

    doubt = picture_faults(picture)
    if doubt is not None:
        raise RefusedError(doubt)
    ground = find_ground(picture)
    seen, flat, mm_px = standing_mask(picture, ground, progress)
    wanted = drawn_mask(plan.solids.placement, mm_px)
    # What stands over the crown by which it is measured, such as ears, grows along.
    found, drawn = (int(np.ptp(np.flatnonzero(mask.any(axis=1)))) + 1 for mask in (seen, wanted))
    height = plan.to_height_mm * found / drawn
    leans = math.degrees(math.atan(_lean_slope(seen) - _lean_slope(wanted)))
    # What leans has its tops at other heights, too: that is told once.
    across = _tops_apart(seen)
    tops = (
        _top_difference(seen, mm_px)
        - _top_difference(wanted, mm_px)
        + math.tan(math.radians(leans)) * across * mm_px
    )
    eyes = _eye_difference(plan, seen, wanted, flat, mm_px, leans)
    return StandingJudgement(height, plan.to_height_mm, leans, tops, eyes)


def drawn_mask(placement: Placement, mm_px: float) -> Mask:
    """Return the planned figure from the front as a mask (rows, columns), its crown in the first row."""
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


def _eye_difference(
    plan: Plan, seen: Mask, wanted: Mask, flat: Pixels, mm_px: float, leans: float
) -> float | None:
    """Return how much higher the right eye of the first pair is than the left one, beyond the plan and the
    lean, mm; None unless both are found."""
    import cv2

    placement = plan.solids.placement
    pair = next((f for f in plan.resized.figure.fittings if f.kind == "eye" and f.pair), None)
    if pair is None:
        return None
    placed = [one.matrix[:3, 3] for one in placement.fittings if one.fitting.id == pair.id]
    lab = cv2.cvtColor(flat, cv2.COLOR_RGB2LAB)[..., 0].astype(np.float32) * (100 / 255)
    scale = np.ptp(np.flatnonzero(seen.any(axis=1))) / np.ptp(np.flatnonzero(wanted.any(axis=1)))
    lies = [_like_place(seen, wanted, place, placement, mm_px, float(scale)) for place in placed]
    radius = pair.size / 2 / mm_px * float(scale)
    found = [_darkest_spot(lab, at, radius, _ASTRAY * plan.to_height_mm / mm_px) for at in lies]
    if len(found) != 2 or found[0] is None or found[1] is None:
        return None
    left, right = sorted((one for one in found if one is not None), key=lambda at: at[0])
    rise = (left[1] - right[1]) + math.tan(math.radians(leans)) * (right[0] - left[0])
    return float(rise) * mm_px


def _like_place(
    seen: Mask, wanted: Mask, place: Array, placement: Placement, mm_px: float, scale: float
) -> tuple[float, float]:
    """Return the expected pixel (column, row) of a place (3,) of the figure: at its height, as far from the
    figure's middle."""
    reach = max(copy.reach(np.array([0.0, 0.0, 1.0])) for copy in placement.copies)
    side = min(-copy.reach(np.array([-1.0, 0.0, 0.0])) for copy in placement.copies)
    row, column = (reach - place[2]) / mm_px, (place[0] - side) / mm_px
    top = int(np.flatnonzero(seen.any(axis=1))[0])
    there = top + row * scale
    off = column - np.flatnonzero(wanted[min(round(row), len(wanted) - 1)]).mean()
    middle = np.flatnonzero(seen[min(round(there), len(seen) - 1)]).mean()
    return float(middle + off * scale), float(there)


def _darkest_spot(
    light: NDArray[np.float32], at: tuple[float, float], radius: float, far: float
) -> tuple[float, float] | None:
    """Return the centre (column, row) of the darkest spot of ``radius`` px compared with its surroundings,
    within ``far`` of a place; None if none is much darker."""
    import cv2

    reach = math.ceil(far + 3 * radius)
    left, top = max(0, round(at[0]) - reach), max(0, round(at[1]) - reach)
    cut = light[top : max(0, round(at[1]) + reach), left : max(0, round(at[0]) + reach)]
    side = math.ceil(2 * radius)
    if min(cut.shape) <= 2 * side:
        return None
    rows, columns = np.mgrid[-side : side + 1, -side : side + 1]
    away = np.hypot(rows, columns)
    spot, ring = (
        (away <= radius).astype(np.float32),
        ((away > radius) & (away <= side)).astype(np.float32),
    )
    darker = cv2.filter2D(cut, -1, ring / ring.sum()) - cv2.filter2D(cut, -1, spot / spot.sum())
    inner = darker[side:-side, side:-side]
    row, column = np.unravel_index(int(np.argmax(inner)), inner.shape)
    if inner[row, column] < EYE_SHOWS:
        return None
    return float(left + side + column), float(top + side + row)


def _lean_middles(mask: Mask) -> tuple[Array, Array]:
    """Return the rows usable for the lean: their heights and their middles, px."""
    rows = np.flatnonzero(mask.any(axis=1))
    top, bottom = rows[0], rows[-1]
    inner = rows[
        (rows > top + _CORE[0] * (bottom - top)) & (rows < top + _CORE[1] * (bottom - top))
    ]
    columns = np.arange(mask.shape[1])
    weight = mask[inner]
    middle = (weight * columns).sum(axis=1) / weight.sum(axis=1)
    return (bottom - inner).astype(np.float64), middle.astype(np.float64)


def _lean_slope(mask: Mask) -> float:
    """Return how far the middle of a figure moves to the right per unit of height: the median slope of all
    pairs of rows (Theil and Sen)."""
    from scipy.stats import theilslopes

    high, middle = _lean_middles(mask)
    every = max(1, len(high) // 150)
    return float(theilslopes(middle[::every], high[::every])[0])


def _upper_halves(mask: Mask) -> tuple[Mask, Mask]:
    """Return the masks left and right of the middle of the upper third."""
    rows = np.flatnonzero(mask.any(axis=1))
    upper = mask[rows[0] : rows[0] + max(3, (rows[-1] - rows[0]) // 3)]
    columns = np.flatnonzero(upper.any(axis=0))
    middle = round(float((upper.sum(axis=0) * np.arange(mask.shape[1])).sum() / upper.sum()))
    middle = min(max(middle, columns[0] + 2), columns[-1] - 2)
    return upper[:, :middle], upper[:, middle:]


def _top_difference(mask: Mask, mm_px: float) -> float:
    """Return how much higher the right top is than the left one, mm."""
    left, right = (np.flatnonzero(half.any(axis=1))[0] for half in _upper_halves(mask))
    return float(left - right) * mm_px


def _tops_apart(mask: Mask) -> float:
    """Return the distance of the two tops, px."""
    left, right = _upper_halves(mask)
    first = float(np.flatnonzero(left[np.flatnonzero(left.any(axis=1))[0]]).mean())
    second = float(np.flatnonzero(right[np.flatnonzero(right.any(axis=1))[0]]).mean())
    return float(second + left.shape[1] - first)

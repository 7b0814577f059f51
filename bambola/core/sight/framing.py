"""Frames a picture by the figure in it: ground line, midline, scale, and how far it is tilted."""

from __future__ import annotations

import itertools

import cv2
import numpy as np

from bambola.core.facts import Fact
from bambola.core.figure.survey import Framing, Spot
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.light import evenly_lit
from bambola.core.sight.regions import find_regions
from bambola.core.sight.silhouette import Pixels, Silhouette

MOST_ASKEW_DEG = 8.0
"""A figure is stood straighter than this before it is photographed. Judged."""
LEAST_ASKEW_DEG = 2.0
"""Less is not told from a figure that is a little uneven. Judged."""
RIM = 0.02
"""What comes nearer to the edge of a picture than this share of its longer side is cut off by it: so near
to it all is taken for background."""
ALSO = 0.3
"""A second thing as large as this share of the figure, beside it, is another figure. Judged."""
_WORK_PX = 120
_WORTH = 0.004
"""How much better, as a share, an outline must lie on itself for each degree the picture is turned."""
FRONT_EVENNESS, EVENNESS_APART = 0.93, 0.05
"""The share of an outline that lies on its mirror image: at least so much from the front, and from the side
so much less. Judged by us: of fronts 0.967 to 1, of sides 0.46 to 0.97."""


def find_framing(
    framing: Framing, silhouette: Silhouette, height: float, from_above: float | None = None
) -> Framing:
    """Return ``framing`` with ground line, midline and scale (mm a pixel) found from a figure ``height`` mm
    tall; front and back views are also made upright. A view from above shows no height: ``from_above`` is
    then the scale of the front picture."""
    left, top, right, bottom = (float(edge) for edge in silhouette.box())
    if framing.view == "top":
        scale = from_above or height / max(1.0, bottom - top)
        return framing.replaced(ground=(top + bottom) / 2, midline=(left + right) / 2, mm_px=scale)
    if framing.view == "side":
        scale = height / max(1.0, bottom - top)
        return framing.replaced(ground=bottom, midline=(left + right) / 2, mm_px=scale)
    (x, y), turn = symmetry(silhouette)
    turned = framing.replaced(turn=turn)
    if turn:
        rows, columns = np.nonzero(silhouette.cover > 0.5)
        edge = slice(None, None, max(1, len(rows) // 20_000))
        corners = zip(columns[edge].tolist(), rows[edge].tolist(), strict=True)
        places = [
            turned.straightened(column / silhouette.scale, row / silhouette.scale)
            for column, row in corners
        ]
        top, bottom = min(p[1] for p in places), max(p[1] for p in places)
    midline = turned.straightened(x, y)[0]
    return turned.replaced(ground=bottom, midline=midline, mm_px=height / max(1.0, bottom - top))


def told_of(silhouette: Silhouette) -> Fact | None:
    """Return what is wrong with a picture that shows several figures, or one cut off; None if nothing is."""
    inside = silhouette.cover > 0.5
    margin = max(1, round(RIM * max(inside.shape)))
    rim = np.ones(inside.shape, dtype=bool)
    rim[margin:-margin, margin:-margin] = False
    if inside[rim].any():
        return Fact("sight.cropped")
    count, _, stats, _ = cv2.connectedComponentsWithStats(inside.astype(np.uint8))
    large = [
        stats[n]
        for n in range(1, count)
        if stats[n, cv2.CC_STAT_AREA] > ALSO * stats[1:, cv2.CC_STAT_AREA].max()
    ]
    spans = sorted(
        (int(one[cv2.CC_STAT_LEFT]), int(one[cv2.CC_STAT_LEFT] + one[cv2.CC_STAT_WIDTH]))
        for one in large
    )
    apart = any(left[1] <= right[0] for left, right in itertools.pairwise(spans))
    return Fact("sight.several") if apart else None


def taken_apart(
    framing: Framing, picture: Pixels, silhouette: Silhouette, scale: float = 1.0
) -> DividedPicture:
    """Return the divided picture of a framing; the pixels may be smaller than the file by ``scale``."""
    even = framing.view != "side" and not framing.turn
    x = framing.original(framing.midline, framing.ground)[0] if even else None
    return DividedPicture(
        framing, find_regions(evenly_lit(picture, white=True), silhouette, scale, x)
    )


def symmetry(silhouette: Silhouette) -> tuple[Spot, float]:
    """Return a place (px of the picture) on the midline of a figure seen from the front, and by how many
    degrees, counter-clockwise, the picture must be turned to make the midline upright: where the mirrored
    outline overlaps itself best."""
    place, turn, _ = _mirrored_best(silhouette)
    return place, turn


def are_swapped(front: Silhouette, side: Silhouette) -> bool:
    """Return whether the picture given as the side is as symmetrical as a front, and the front is not."""
    evenness = [_mirrored_best(one)[2] for one in (front, side)]
    return evenness[1] > max(FRONT_EVENNESS, evenness[0] + EVENNESS_APART)


def _mirrored_best(silhouette: Silhouette) -> tuple[Spot, float, float]:
    """Return place and turn as :func:`symmetry` does, and the share of the outline that overlaps."""
    left, top, right, bottom = silhouette.box()
    share = silhouette.scale
    rows, columns = (
        slice(int(low * share), int(high * share) + 1)
        for low, high in ((top, bottom), (left, right))
    )
    cover = silhouette.cover[rows, columns]
    grow = _WORK_PX / max(cover.shape)
    size = tuple(max(2, round(side * grow)) for side in cover.shape[::-1])
    small = cv2.resize(cover, (size[0], size[1]), interpolation=cv2.INTER_AREA)
    pad = _WORK_PX // 2
    field = np.pad(small, pad)
    middle = field.shape[1] / 2, field.shape[0] / 2
    best = (-1.0, 0.0, 0.0)
    steps = int(MOST_ASKEW_DEG)
    for turn in (float(angle) for angle in range(-steps, steps + 1)):
        if 0 < abs(turn) < LEAST_ASKEW_DEG:
            continue
        move = cv2.getRotationMatrix2D(middle, turn, 1.0)
        turned = cv2.warpAffine(field, move, field.shape[::-1])
        # Mirrored at a column, x falls on twice the column less x: the rows' convolution with themselves.
        spectrum = np.fft.rfft(turned, 2 * field.shape[1], axis=1)
        same = np.fft.irfft(spectrum**2, 2 * field.shape[1], axis=1).sum(axis=0)
        at = int(same.argmax())
        score = float(same[at]) / float((turned**2).sum()) - _WORTH * abs(turn)
        if score > best[0]:
            best = (score, at / 2 + 0.5, turn)
    score, column, turn = best
    back = cv2.getRotationMatrix2D(middle, -turn, 1.0)
    x, y = back @ (column, middle[1], 1.0)
    place = left + (x - pad) / grow / share, top + (y - pad) / grow / share
    return (float(place[0]), float(place[1])), turn, score + _WORTH * abs(turn)

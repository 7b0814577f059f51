"""Pieces of felt lying on the table of a picture: their straightened outlines and their sizes."""

from __future__ import annotations

import math
from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Fact, RefusedError
from bambola.core.frozen import frozen
from bambola.core.sight.ground import Ground
from bambola.core.sight.known import MARK_MM
from bambola.core.sight.sharp_edge import on_sharp_edge
from bambola.core.sight.silhouette import CancelledError, Pixels, separate_silhouette
from bambola.core.sight.tabletop import SEEN, disc, what_lies_there

Array = NDArray[np.float64]

CANVAS_PX = 1500
"""Longest side of the straightened picture: finer than felt has an edge."""
AROUND_MM = 4.0
"""So far round the card nothing is looked for: its shadow lies there. Judged. See craft.md, 9."""
FUZZ_MM = 3.2
"""Hairs that stand out are no wool of the piece: what is thinner, mm, is left out. Judged. See craft.md,
9."""
LEAST_MM2 = 20.0
"""What is smaller is no piece, but dirt. Judged. See craft.md, 9."""
SOLID = 0.75
"""What is thin, and so much as far from the table's colours as the piece beside it, is no hair. Judged. See
craft.md, 9."""
HAIR_MM = 1.0
"""A single hair is thinner than this, blurred as it is."""
LEAST_SHARE = 0.25
"""What is smaller than this share of the largest piece is a crumb. Judged. See craft.md, 9."""
NEAR_END = np.linspace(0.006, 0.14, 24)
"""Where the shape of an end is read, as shares of the length."""
TRUNK_COSTS = 1e-4
"""An end is read as it stands on a trunk of one width where that explains its widths about as well (sums of
squares, as shares). Judged on made-up pieces. See craft.md, 9."""
AT = (0.15, 0.5, 0.85)
"""Where along a piece its width is read: near its base, in its middle, near its tip."""
SURE = 0.35
"""Where the outline is less sure than this the piece is much like the table. Judged. See craft.md, 9."""


@frozen
class LyingPiece:
    """A piece lying on the table: its length, its overall width, its ``widths`` near the thicker end, in the
    middle and near the thinner end (mm), and its ``outline`` (n, 2) on the table."""

    length: float
    width: float
    widths: tuple[float, float, float]
    outline: Array

    @property
    def taper(self) -> float:
        """How much thinner the thin end is than the thick one, as a share."""
        return 1 - self.widths[2] / self.widths[0]


def pieces_on(
    picture: Pixels,
    ground: Ground,
    through_mm: float | None = None,
    progress: Callable[[float], bool] = lambda share: True,
) -> tuple[LyingPiece, ...]:
    """Return the pieces lying on the table, the largest first.

    A piece ``through_mm`` thick hides more of the table than it covers; with None it is taken to be as thick
    as it is wide. Pieces cut off by the picture are left out if a whole one is visible. Raises
    :class:`RefusedError` if no whole piece is visible, or if the piece cannot be told from the table.
    """
    table = _Canvas(picture, ground, ground.bounds)
    _go_on(progress, 0.2)
    there = what_lies_there(table.image, ~(table.hidden | table.outside), table.mm_px)
    _go_on(progress, 0.8)
    found = _without_hairs(there.mask, there.apart, table.mm_px)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(found, connectivity=8)
    areas = stats[1:, cv2.CC_STAT_AREA]
    if count < 2 or areas.max() * table.mm_px**2 < LEAST_MM2:
        raise RefusedError(Fact("judge.none"))
    pieces = []
    for label in [n for n in 1 + np.argsort(-areas) if areas[n - 1] >= LEAST_SHARE * areas.max()]:
        own = labels == label
        if table.is_cut(own):
            if areas[label - 1] == areas.max():
                raise RefusedError(Fact("judge.cut"))
            continue
        if cv2.dilate(own.astype(np.uint8), np.ones((5, 5), np.uint8))[table.hidden].any():
            on_page = ground.known == "square" and np.array_equal(ground.page, ground.corners)
            raise RefusedError(Fact("judge.page-cut" if on_page else "judge.touches"))
        if float(np.median(there.apart_in_hue[own])) < SEEN:
            raise RefusedError(Fact("judge.alike"))
        contours, _ = cv2.findContours(
            own.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
        )
        rough = max(contours, key=cv2.contourArea).reshape(-1, 2).astype(np.float64)
        outline = on_sharp_edge(table.image, rough, table.mm_px)
        pieces.append(_measure_outline(table.mm(outline), ground, through_mm))
    return tuple(sorted(pieces, key=lambda piece: -piece.length * piece.width))


def _go_on(progress: Callable[[float], bool], share: float) -> None:
    if not progress(share):
        raise CancelledError


def _without_hairs(mask: NDArray[np.bool_], apart: NDArray[np.float32], mm_px: float) -> Pixels:
    """Return a mask without the hairs that stand out of it. Of its thin ends only those stay that differ from
    the table as much as the rest does, such as the tip of an ear."""
    radius = max(1, round(FUZZ_MM / mm_px / 2))
    thick = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, disc(radius))
    inner = cv2.erode(thick, np.ones((3, 3), np.uint8)) > 0
    around = disc(2 * radius + 1)
    usual = cv2.dilate(cv2.GaussianBlur(np.where(inner, apart, 0), (0, 0), radius / 2), around)
    solid = cv2.blur(apart, (5, 5)) > SOLID * usual
    dot = disc(HAIR_MM / mm_px / 2)
    thin = cv2.morphologyEx((mask & solid).astype(np.uint8), cv2.MORPH_OPEN, dot)
    return np.asarray(np.maximum(thick, thin), dtype=np.uint8)


def standing_mask(
    picture: Pixels, ground: Ground, progress: Callable[[float], bool] = lambda share: True
) -> tuple[NDArray[np.bool_], Pixels, float]:
    """Return the largest thing in the plane of an upright card, as a mask (rows, columns) with up at the top;
    the picture in that plane (rows, columns, 3); and its scale, mm a pixel."""
    table = _Canvas(picture, ground)
    mask = table.separated(progress)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(
        mask.astype(np.uint8), connectivity=8
    )
    if count < 2:
        raise RefusedError(Fact("judge.none"))
    own = labels == 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    if table.is_cut(own):
        raise RefusedError(Fact("judge.cut"))
    # The card's own axes may be turned by quarters: the picture says which way is up.
    up = ground.mm(ground.corners.mean(axis=0) + np.array([[0.0, -40.0], [0.0, 0.0]]))
    way = up[0] - up[1]
    quarters = round(math.degrees(math.atan2(way[0], -way[1])) / 90)
    return np.asarray(np.rot90(own, quarters)), np.rot90(table.image, quarters), table.mm_px


class _Canvas:
    """The table or a part of it, straightened as seen from directly above, with the card painted out."""

    def __init__(
        self, picture: Pixels, ground: Ground, part: tuple[Array, Array] | None = None
    ) -> None:
        rows, columns = picture.shape[:2]
        rim = np.array([[0, 0], [columns, 0], [columns, rows], [0, rows]], dtype=np.float64)
        seen = ground.mm(rim)
        whole = seen.min(axis=0), seen.max(axis=0)
        low, high = whole if part is None else part
        self.low: Array = low
        span = high - low
        # No more pixels than the picture has of it.
        middle = ground.px(np.array([(self.low + high) / 2, (self.low + high) / 2 + [1.0, 0.0]]))
        self.mm_px = max(
            float(span.max()) / CANVAS_PX, 1 / float(np.linalg.norm(middle[1] - middle[0])) / 1.5
        )
        self.columns, self.rows = (max(8, round(s / self.mm_px)) for s in span)
        shift = np.array(
            [[1 / self.mm_px, 0, -self.low[0] / self.mm_px],
             [0, 1 / self.mm_px, -self.low[1] / self.mm_px], [0, 0, 1.0]]
        )  # fmt: skip
        size = self.columns, self.rows
        flat = cv2.warpPerspective(picture, shift @ ground.to_mm, size, flags=cv2.INTER_LINEAR)
        inside = cv2.warpPerspective(
            np.full((rows, columns), 255, np.uint8), shift @ ground.to_mm, size
        )
        self.outside = inside < 255
        self.hidden = self._known_thing(ground)
        self.image = self._painted_out(np.asarray(flat, dtype=np.uint8))

    def separated(self, progress: Callable[[float], bool]) -> NDArray[np.bool_]:
        """Return a mask (rows, columns) of what lies on the table. Raises :class:`RefusedError` if nothing
        does, or if it cannot be told from the table."""
        found = separate_silhouette(self.image, (), None, progress, on_wall=False)
        if found.is_empty:
            raise RefusedError(Fact("judge.none"))
        if found.sure < SURE:
            raise RefusedError(Fact("judge.alike"))
        cover = cv2.resize(found.cover, (self.columns, self.rows), interpolation=cv2.INTER_LINEAR)
        return np.asarray((cover > 0.5) & ~self.hidden)

    def _known_thing(self, ground: Ground) -> NDArray[np.bool_]:
        """Return a mask (rows, columns) of the thing of known size, with a margin."""
        canvas = np.zeros((self.rows, self.columns), np.uint8)
        things = [ground.mm(ground.page)] if ground.known != "sheet" else []
        for corner in ground.mm(ground.corners) if ground.known == "sheet" else ():
            things.append(corner + 0.55 * MARK_MM * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]))
        for thing in things:
            px = np.round((thing - self.low) / self.mm_px).astype(np.int32)
            cv2.fillConvexPoly(canvas, cv2.convexHull(px), 255)
        grown = 2 * round(AROUND_MM / self.mm_px) + 1
        return np.asarray(cv2.dilate(canvas, np.ones((grown, grown), np.uint8)) > 0)

    def _painted_out(self, flat: Pixels) -> Pixels:
        """Return the picture with the card, and what lies beyond the picture, filled in with the colours of
        the table."""
        gone = (self.hidden | self.outside).astype(np.uint8)
        if not gone.any():
            return flat
        share = min(1.0, 300 / max(flat.shape[:2]))
        small = cv2.resize(flat, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
        gone_small = cv2.resize(
            gone, (small.shape[1], small.shape[0]), interpolation=cv2.INTER_NEAREST
        )
        wider = cv2.dilate(gone_small, np.ones((3, 3), np.uint8))
        filled = cv2.inpaint(small, wider, 3, cv2.INPAINT_TELEA)
        whole = cv2.resize(filled, (flat.shape[1], flat.shape[0]), interpolation=cv2.INTER_LINEAR)
        return np.asarray(np.where(gone[..., None] > 0, whole, flat), dtype=np.uint8)

    def is_cut(self, own: NDArray[np.bool_]) -> bool:
        """Return whether a piece goes on beyond the visible area."""
        near = cv2.dilate(self.outside.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
        rim = np.zeros_like(own)
        rim[:2] = rim[-2:] = rim[:, :2] = rim[:, -2:] = True
        return bool((own & (near | rim)).any())

    def mm(self, px: Array) -> Array:
        """Map places of the canvas to the table, mm."""
        found: Array = self.low + px * self.mm_px
        return found


def _measure_outline(outline: Array, ground: Ground, through_mm: float | None) -> LyingPiece:
    """Return a measured piece from its outline (n, 2) on the table, lengthwise along the longer axis of its
    area."""
    moments = cv2.moments((outline * 100).astype(np.float32))
    turn = 0.5 * math.atan2(2 * moments["mu11"], moments["mu20"] - moments["mu02"])
    way = np.array([math.cos(turn), math.sin(turn)])
    own = (outline - ground.under) @ np.column_stack([way, [-way[1], way[0]]])
    low, high = _extent_of(own[:, 0])
    raw = [_width_at(own, low + (high - low) * share) for share in AT]
    if raw[-1][1] - raw[-1][0] > raw[0][1] - raw[0][0]:
        raw = raw[::-1]
    full = _extent_of(own[:, 1])
    half = through_mm / 2 if through_mm is not None else (full[1] - full[0]) / 2
    if through_mm is None:
        for _ in range(4):
            half = _length_from_image(*full, half, ground.high) / 2
    over_all = _length_from_image(*full, half, ground.high)
    thick, middle, thin = (
        _length_from_image(
            *ends, half * min(1.0, (ends[1] - ends[0]) / (full[1] - full[0])), ground.high, half
        )
        for ends in raw
    )
    length = _true_length(own, half, ground.high)
    return LyingPiece(length, over_all, (thick, middle, thin), outline)


def _extent_of(along: Array) -> tuple[float, float]:
    return float(along.min()), float(along.max())


def _length_from_image(
    low: float, high: float, half: float, camera: float, middle: float | None = None
) -> float:
    """Return the true length of a thing whose image on the table runs from ``low`` to ``high``, mm from the
    point below the camera, which is ``camera`` mm above the table.

    The thing is ``half`` mm thick to either side of its ``middle``, the height of its centre over the table
    (None: it lies on the table), and elliptic: lines of sight touch it past its ends. From the distance of a
    tangent from the centre a of an ellipse: (a - k x)² = l² + (h x)², with h = half / camera and k = 1 -
    middle / camera, for both ends x.
    """
    k = 1 - (half if middle is None else middle) / camera
    h = half / camera
    centre = (k**2 - h**2) * (low + high) / (2 * k)
    return 2 * math.sqrt(max((centre - k * low) ** 2 - (h * low) ** 2, (0.25 * (high - low)) ** 2))


def _true_length(own: Array, half: float, camera: float) -> float:
    """Return the true length of a piece whose outline (n, 2; lengthwise and across, mm from the point below
    the camera) is seen on the table; ``half`` is its half thickness where it is widest.

    Each end is taken for half an ellipse, as thick as wide. Seen aslant it reaches c' = √(c² + (h x)²) from
    its own middle instead of c, with h = its half thickness / camera and x its place (see
    :func:`_length_from_image`); c'
    and h are read from the outline near the end. Round, blunt and pointed ends are thus each corrected by
    what they hide.
    """
    low, high = _extent_of(own[:, 0])
    widest = np.ptp(own[:, 1])
    length = (high - low) * (1 - half / camera)
    for end, inward in ((low, 1.0), (high, -1.0)):
        near = (high - low) * NEAR_END
        quarters = np.array(
            [((b - a) / 2) ** 2 for a, b in (_width_at(own, end + inward * d) for d in near)]
        )
        reach, wide = _end_shape(near, quarters)
        wide = min(wide, widest / 2)
        lean = half * wide / (widest / 2) * abs(end) / camera
        length -= reach - math.sqrt(max(reach**2 - lean**2, 0.0))
    return length


def _end_shape(near: Array, quarters: Array) -> tuple[float, float]:
    """Return the length of an end of a piece and its half width there, as half an ellipse on a widening or
    narrowing trunk, from the squares of its half widths (n,) at distances ``near`` (n,) from the tip."""
    best, shape = math.inf, (float(near[-1]), 0.0)
    for reach in np.geomspace(near[0] / 2, 6 * near[-1], 40):
        rounded = 1 - np.maximum(0.0, 1 - near / reach) ** 2
        terms = np.column_stack([rounded, rounded * near / near[-1]])
        level, slope = np.linalg.lstsq(terms, quarters, rcond=None)[0]
        if level <= 0:
            continue
        off = float(((terms @ [level, slope] - quarters) ** 2).sum() / (quarters**2).sum())
        off += TRUNK_COSTS * float(slope / level) ** 2
        if off < best:
            best, shape = off, (float(reach), math.sqrt(float(level)))
    return shape


def _width_at(own: Array, at: float) -> tuple[float, float]:
    """Return the two ends (lengthwise, across) of the width of a piece (n, 2) at a place along it."""
    nearby = own[np.abs(own[:, 0] - at) < 0.4, 1]
    return (float(nearby.min()), float(nearby.max())) if len(nearby) > 1 else (0.0, 0.0)

"""Pieces of felt that lie on the table of a picture: their outlines straightened, and how large they are."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Fact, RefusedError
from bambola.core.frozen import frozen
from bambola.core.sight.ground import MARK_MM, Ground
from bambola.core.sight.silhouette import Pixels, separate

Array = NDArray[np.float64]

CANVAS_PX = 1500
"""Longest side of the straightened picture: finer than felt has an edge."""
AROUND_MM = 4.0
"""So far round the card nothing is looked for: its shadow lies there. Judged. See craft.md, 9."""
FUZZ_MM, FUZZ_SHARE = 3.2, 0.25
"""Hairs that stand out are no wool of the piece: what is thinner, mm, or than this share of the piece's own
thickness is left out. Judged. See craft.md, 9."""
RIM = 0.4
"""Per cent of the outline that may stand out at either end: a hair. Judged. See craft.md, 9."""
LEAST_MM2 = 20.0
"""What is smaller is no piece, but dirt. Judged. See craft.md, 9."""
SHADOW = 30.0
"""How far a colour (of 255) may be from the table's, darker, and is its shadow. Judged. See craft.md, 9."""
LEAST_SHARE = 0.25
"""What is smaller than this share of the largest piece is a crumb. Judged. See craft.md, 9."""
AT = (0.15, 0.5, 0.85)
"""Where along a piece its width is read: near its base, in its middle, near its tip."""
SURE = 0.35
"""Where the outline is less sure than this the piece is much like the table. Judged. See craft.md, 9."""


@frozen
class Lying:
    """A piece as it lies: its length, its width over all and its ``widths`` near its thicker end, in its
    middle and near the thinner one (mm), and its ``outline`` (n, 2) on the table."""

    length: float
    width: float
    widths: tuple[float, float, float]
    outline: Array

    @property
    def taper(self) -> float:
        """How much thinner its thin end is than its thick one, as a share."""
        return 1 - self.widths[2] / self.widths[0]


def pieces_on(
    picture: Pixels,
    ground: Ground,
    through_mm: float | None = None,
    progress: Callable[[float], bool] = lambda share: True,
) -> tuple[Lying, ...]:
    """The pieces that lie on the table, the largest first. What is ``through_mm`` thick hides more than it
    covers; None: as thick as it is wide. They are looked for on the whole table, and then cut out one by one
    from close by. Raises :class:`RefusedError` where none is seen, or not whole."""
    table = _Canvas(picture, ground, ground.bounds)
    found = table.separated(lambda share: progress(0.5 * share))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(
        found.astype(np.uint8), connectivity=8
    )
    areas = stats[1:, cv2.CC_STAT_AREA]
    if count < 2 or areas.max() * table.mm_px**2 < LEAST_MM2:
        raise RefusedError(Fact("judge.none"))
    order = [n for n in 1 + np.argsort(-areas) if areas[n - 1] >= LEAST_SHARE * areas.max()]
    pieces = []
    for i, label in enumerate(order):
        own = labels == label
        if table.is_cut(own):
            raise RefusedError(Fact("judge.cut"))
        if cv2.dilate(own.astype(np.uint8), np.ones((5, 5), np.uint8))[table.hidden].any():
            raise RefusedError(Fact("judge.touches"))
        where = table.mm(np.asarray(np.argwhere(own)[:, ::-1] + 0.5, dtype=np.float64))
        outline = _close_by(picture, ground, where, partial(_share_of, progress, i, len(order)))
        pieces.append(_measured(outline, ground, through_mm))
    return tuple(sorted(pieces, key=lambda piece: -piece.length * piece.width))


def _share_of(progress: Callable[[float], bool], i: int, of: int, share: float) -> bool:
    """Told how far the ``i``-th piece is, in the second half of the work."""
    return progress(0.5 + (i + share) / 2 / of)


def standing_mask(
    picture: Pixels, ground: Ground, progress: Callable[[float], bool] = lambda share: True
) -> tuple[NDArray[np.bool_], Pixels, float]:
    """The largest thing in the plane of an upright card, as seen (rows, columns), up being up in the picture;
    the picture in that plane (rows, columns, 3); and how many mm a pixel is."""
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


def _close_by(
    picture: Pixels, ground: Ground, where: Array, progress: Callable[[float], bool]
) -> Array:
    """The outline (n, 2) of the piece that lies at ``where`` (m, 2), mm, cut out of what is round it."""
    low, high = where.min(axis=0), where.max(axis=0)
    margin = max(8.0, 0.45 * float((high - low).max()))
    low, high = low - margin, high + margin
    if ground.bounds is not None:
        low, high = np.maximum(low, ground.bounds[0]), np.minimum(high, ground.bounds[1])
    near = _Canvas(picture, ground, (low, high))
    mask = near.separated(progress)
    mask &= ~_shadow(near.image, mask)
    thick = 2 * float(cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5).max())
    radius = max(1, round(min(FUZZ_MM / near.mm_px, FUZZ_SHARE * thick) / 2))
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * radius + 1, 2 * radius + 1))
    bare = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, disc)
    contours, _ = cv2.findContours(bare, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not contours:
        raise RefusedError(Fact("judge.alike"))
    outline = max(contours, key=cv2.contourArea).reshape(-1, 2)
    return near.mm(np.asarray(outline, dtype=np.float64) + 0.5)


def _shadow(image: Pixels, mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """What of a piece's mask is but the table in its shadow: of the table's colour, only darker."""
    smooth = cv2.GaussianBlur(image, (0, 0), 1.5).astype(np.float32)
    wool = cv2.erode(mask.astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
    table = cv2.dilate(mask.astype(np.uint8), np.ones((15, 15), np.uint8)) == 0
    if not wool.any() or not table.any():
        return np.zeros_like(mask)

    def off(colour: NDArray[np.float32], darkest: float, palest: float) -> NDArray[np.float32]:
        share = np.clip(smooth @ colour / float(colour @ colour), darkest, palest)
        return np.asarray(np.linalg.norm(smooth - share[..., None] * colour, axis=2))

    of_table = off(np.median(smooth[table], axis=0), 0.4, 1.05)
    of_wool = off(np.median(smooth[wool], axis=0), 0.6, 1.5)
    return np.asarray(mask & (of_table < of_wool) & (of_table < SHADOW))


class _Canvas:
    """The table straight from above, all that the picture shows of it or a part; the card painted out."""

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
        """What lies on the table (rows, columns). Raises :class:`RefusedError` where nothing does, or it
        cannot be told from the table."""
        found = separate(self.image, (), None, progress, on_wall=False)
        if found.is_empty:
            raise RefusedError(Fact("judge.none"))
        if found.sure < SURE:
            raise RefusedError(Fact("judge.alike"))
        cover = cv2.resize(found.cover, (self.columns, self.rows), interpolation=cv2.INTER_LINEAR)
        return np.asarray((cover > 0.5) & ~self.hidden)

    def _known_thing(self, ground: Ground) -> NDArray[np.bool_]:
        """What the table is known by, with a margin (rows, columns)."""
        canvas = np.zeros((self.rows, self.columns), np.uint8)
        things = [ground.mm(ground.corners)] if ground.known != "sheet" else []
        for corner in ground.mm(ground.corners) if ground.known == "sheet" else ():
            things.append(corner + 0.55 * MARK_MM * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]))
        for thing in things:
            px = np.round((thing - self.low) / self.mm_px).astype(np.int32)
            cv2.fillConvexPoly(canvas, cv2.convexHull(px), 255)
        grown = 2 * round(AROUND_MM / self.mm_px) + 1
        return np.asarray(cv2.dilate(canvas, np.ones((grown, grown), np.uint8)) > 0)

    def _painted_out(self, flat: Pixels) -> Pixels:
        """The table goes on where the card lies, and beyond what the picture shows."""
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
        """Whether a piece goes on beyond what is seen."""
        near = cv2.dilate(self.outside.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
        rim = np.zeros_like(own)
        rim[:2] = rim[-2:] = rim[:, :2] = rim[:, -2:] = True
        return bool((own & (near | rim)).any())

    def mm(self, px: Array) -> Array:
        """Places of the canvas on the table, mm."""
        found: Array = self.low + px * self.mm_px
        return found


def _measured(outline: Array, ground: Ground, through_mm: float | None) -> Lying:
    """A piece by its outline (n, 2) on the table. It lies lengthwise along the longer axis of its area."""
    moments = cv2.moments((outline * 100).astype(np.float32))
    centre = np.array([moments["m10"], moments["m01"]]) / moments["m00"] / 100
    turn = 0.5 * math.atan2(2 * moments["mu11"], moments["mu20"] - moments["mu02"])
    way = np.array([math.cos(turn), math.sin(turn)])
    aside = np.array([-way[1], way[0]])
    own = (outline - centre) @ np.column_stack([way, aside])
    low, high = (float(np.percentile(own[:, 0], share)) for share in (RIM, 100 - RIM))
    raw = [_width_at(own, low + (high - low) * share) for share in AT]
    if raw[-1] > raw[0]:
        raw, way = raw[::-1], -way
    left, right = (float(np.percentile(own[:, 1], share)) for share in (RIM, 100 - RIM))
    full = right - left
    # How aslant it is seen, lengthwise and across: what stands up leans away from the camera.
    slant = (centre - ground.under) / ground.high
    along, across = float(slant @ way), float(slant @ aside)
    half = through_mm / 2 if through_mm is not None else full / 2 / math.hypot(1.0, across)
    near = math.sqrt(max((ground.high - half) ** 2 - half**2, 1.0)) / ground.high

    def true(extent: float, lean: float) -> float:
        seen = extent * near / 2
        return 2 * math.sqrt(max(seen**2 - (half * lean) ** 2, (0.25 * seen) ** 2))

    thick, middle, thin, over_all = (true(width, across) for width in (*raw, full))
    return Lying(true(float(high - low), along), over_all, (thick, middle, thin), outline)


def _width_at(own: Array, at: float) -> float:
    """Across a piece (n, 2), lengthwise and across, at a place along it."""
    nearby = own[np.abs(own[:, 0] - at) < 0.6]
    return float(nearby[:, 1].max() - nearby[:, 1].min()) if len(nearby) > 1 else 0.0

"""Finds things of known size in a picture: the printed sheet by its marks, a bank card by its straight sides,
a printed square by its line or by the ticks at its corners."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.frozen import frozen
from bambola.core.sight.ticks import rectangle, ticked_square

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8]

CARD_MM = (85.6, 53.98)
"""A bank card, by ISO/IEC 7810."""
SQUARE_MM = 50.0
"""The square printed on a packet's sheets at true size."""
MARK_MM = 20.0
"""Side of a mark of the sheet that pieces are photographed on."""
MARKS = (0, 1, 2, 3)
SHEET_MM: Array = np.array([[0.0, 0.0], [100.0, 0.0], [100.0, 140.0], [0.0, 140.0]])
"""The marks of that sheet, and where their middles lie: on the smallest paper, too."""
LIKE = 0.2
"""How far the sides of a card or square may be from their proportion, aslant. Judged. See craft.md, 9."""
_STRAIGHT = 0.012
"""How far the edge of a card strays from straight, as a share of its length; round felt strays more."""
_STRAIGHT_PLAIN = 0.03
"""The same where a pattern shows beside the edge."""
_FILLED = 0.85
"""A contour that fills so much of the rectangle round it may be one; a disc fills 0.79."""
_SMALLEST, _LARGEST = 0.002, 0.5
_WORK_PX = 1200
_PRINT = 0.12
"""Edges that reach less far than this, as a share of the picture, and stand alone are print."""
_GAPS_PX = (21, 33)
_MOST_PAGES = 6
_MOST_THINGS = 8
_MOST_SQUARES = 2
"""More squares of a size than these, in several places, are a pattern."""
_PLAIN = 9.0
"""Where colours (of 255) differ by less from one pixel to the next but two, a surface is plain."""

KnownKind = Literal["card", "square", "sheet"]


@frozen
class KnownThing:
    """A thing of known size: its ``corners`` (4, 2) in the picture (px) and on the thing itself
    (``corners_mm``, (4, 2)), its deviation from what it should look like (``stray``), and the corners (4, 2)
    of the ``page`` that lies on the table: its own, or those of the paper a square is printed on."""

    kind: KnownKind
    corners: Array
    corners_mm: Array
    stray: float
    page: Array


def known_things(picture: Pixels) -> list[KnownThing]:
    """Return everything in ``picture`` (rows, columns, 3) that may be of known size, the likeliest first.

    Marks are read by their pattern: where they are found, nothing else is looked for.
    """
    sheet = _find_sheet(picture)
    if sheet is not None:
        return [sheet]
    quads = _find_quads(picture)
    lab = lab_of(picture)
    sure = [(stray, quad) for stray, quad in quads if math.isfinite(stray)]
    found = [thing for stray, quad in sure if (thing := _as_known(stray, quad)) is not None]
    single = _without_pattern(found)[:_MOST_THINGS]
    sharp = [_sharpen_corners(lab, thing.corners) for thing in single]
    return _find_ticked_square(picture, [quad for _, quad in quads], lab) + [
        replace(thing, corners=corners, page=corners)
        for thing, corners in zip(single, sharp, strict=True)
    ]


def lab_of(picture: Pixels) -> NDArray[np.float32]:
    """Return a picture (rows, columns, 3) in Lab: lightness 0 to 100 and two colour axes."""
    shares = (picture / np.float32(255)).astype(np.float32)
    return np.asarray(cv2.cvtColor(shares, cv2.COLOR_RGB2LAB), dtype=np.float32)


def _find_ticked_square(
    picture: Pixels, quads: list[Array], lab: NDArray[np.float32]
) -> list[KnownThing]:
    """Return at most one square printed with ticks: inside one of the largest quadrilaterals, else anywhere
    if its page is cut off."""
    pages = [_sharpen_corners(lab, quad) for quad in sorted(quads, key=_quad_area)[-_MOST_PAGES:]]
    found = [(*square, page) for page in pages if (square := ticked_square(picture, page))]
    if not found:
        rows, columns = picture.shape[:2]
        anywhere = ticked_square(picture, rectangle(columns, rows))
        found = [(*anywhere, anywhere[1])] if anywhere else []
    return [
        KnownThing("square", corners, rectangle(SQUARE_MM, SQUARE_MM), stray, page)
        for stray, corners, page in sorted(found, key=lambda square: square[0])[:1]
    ]


def _quad_area(quad: Array) -> float:
    return float(abs(cv2.contourArea(quad.astype(np.float32))))


def _without_pattern(things: list[KnownThing]) -> list[KnownThing]:
    """Return the squares without those that have several others of their size elsewhere: a checked cloth."""
    sides = np.array([math.sqrt(_quad_area(thing.corners)) for thing in things])
    middles = np.array([thing.corners.mean(axis=0) for thing in things]).reshape(-1, 2)
    is_square = np.array([thing.kind == "square" for thing in things], dtype=bool)
    kept = []
    for n, thing in enumerate(things):
        like = is_square & (np.abs(sides / sides[n] - 1) < 0.08)
        places = np.unique(np.round(middles[like] / sides[n]), axis=0)
        if not is_square[n] or len(places) <= _MOST_SQUARES:
            kept.append(thing)
    return kept


def mark_cells(mark: int) -> NDArray[np.bool_]:
    """Return which cells (6, 6) of a mark are black, with its border."""
    return np.asarray(cv2.aruco.generateImageMarker(_mark_dictionary(), mark, 6) < 128)


def _mark_dictionary() -> cv2.aruco.Dictionary:
    """Return the square marks of four by four cells that OpenCV detects."""
    return cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)


def _find_sheet(picture: Pixels) -> KnownThing | None:
    """Return the four marks of the printed sheet, by their centres."""
    detector = cv2.aruco.ArucoDetector(_mark_dictionary(), cv2.aruco.DetectorParameters())
    corners, ids, _ = detector.detectMarkers(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY))
    if ids is None:
        return None
    centres = {
        int(i): _diagonal_crossing(np.asarray(c, dtype=np.float64).reshape(4, 2))
        for i, c in zip(ids.ravel(), corners, strict=True)
    }
    if not set(MARKS) <= centres.keys():
        return None
    middles = np.array([centres[mark] for mark in MARKS])
    return KnownThing("sheet", middles, SHEET_MM, 0.0, middles)


def _diagonal_crossing(quad: Array) -> Array:
    """Return where the diagonals of a quadrilateral (4, 2) cross: the middle of a square seen aslant."""
    return _line_crossing((quad[0], quad[2] - quad[0]), (quad[1], quad[3] - quad[1]))


def _line_crossing(one: tuple[Array, Array], other: tuple[Array, Array]) -> Array:
    """Return where two lines, each by a place and a direction, cross."""
    (p, v), (q, w) = one, other
    along = np.linalg.solve(np.column_stack([v, -w]), q - p)[0]
    found: Array = p + along * v
    return found


def _find_quads(picture: Pixels) -> list[tuple[float, Array]]:
    """Return straight-sided quadrilaterals (4, 2), in px of the picture, and how far their sides stray from
    straight; the straightest first."""
    rows, columns = picture.shape[:2]
    scale = min(1.0, _WORK_PX / max(rows, columns))
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    lab = cv2.cvtColor(cv2.GaussianBlur(small, (5, 5), 0), cv2.COLOR_RGB2LAB)
    found: list[tuple[float, Array]] = []
    for channel in cv2.split(lab):
        for edges in _edge_contours(np.asarray(channel, dtype=np.uint8)):
            contours, _ = cv2.findContours(edges, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
            for contour in contours:
                quad = _fit_quad(np.asarray(contour, dtype=np.int32), edges.shape)
                if quad is not None:
                    found.append(quad)
    for plain in _plain_contours(np.asarray(lab, dtype=np.uint8)):
        contours, _ = cv2.findContours(plain, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for contour in contours:
            line = np.asarray(contour, dtype=np.int32)
            quad = _fit_quad(line, lab.shape, _STRAIGHT_PLAIN)
            found += [quad] if quad is not None else _smallest_box(line, lab.shape)
    found.sort(key=lambda one: one[0])
    kept: list[tuple[float, Array]] = []
    for stray, corners in found:
        if all(np.abs(corners / scale - other).max() > 5 for _, other in kept):
            kept.append((stray, corners / scale))
    return kept


def _edge_contours(channel: Pixels) -> list[Pixels]:
    """Return contours in a channel: along its edges, and around areas darker or paler than their
    surroundings."""
    middle = float(np.median(channel))
    spread = max(12.0, float(np.std(channel)))
    canny = cv2.Canny(channel, spread * 0.7, spread * 1.6)
    _, split = cv2.threshold(channel, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    _, pale = cv2.threshold(channel, min(250.0, middle + spread), 255, cv2.THRESH_BINARY)
    closed = cv2.morphologyEx(canny, cv2.MORPH_CLOSE, np.ones((5, 5), np.uint8))
    return [np.asarray(one, dtype=np.uint8) for one in (closed, split, pale)]


def _plain_contours(lab: Pixels) -> list[Pixels]:
    """Return contours of areas without edges, such as paper or a card on a patterned cloth; once with print
    and once without, which closes wider gaps."""
    edges = cv2.morphologyEx(lab, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)).max(axis=2)
    _, labels, stats, _ = cv2.connectedComponentsWithStats((edges >= _PLAIN).astype(np.uint8))
    size = stats[:, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]].max(axis=1)
    whole = size >= _PRINT * max(lab.shape)
    whole[0] = False
    plain = (labels == 0).astype(np.uint8), (~whole[labels]).astype(np.uint8)
    return [
        np.asarray(cv2.morphologyEx(one, cv2.MORPH_OPEN, _disc_kernel(gap)), np.uint8)
        for one, gap in zip(plain, _GAPS_PX, strict=True)
    ]


def _smallest_box(contour: NDArray[np.int32], shape: tuple[int, ...]) -> list[tuple[float, Array]]:
    """Return the smallest rectangle round a contour that fills most of it. Used for a page beside a check of
    its own colour; too inaccurate to measure by."""
    box = cv2.boxPoints(cv2.minAreaRect(contour)).astype(np.float64)
    rows, columns = shape[:2]
    whole = _SMALLEST * rows * columns < _quad_area(box) < _LARGEST * rows * columns
    inside = box.min() > 1 and (box < [columns - 2, rows - 2]).all()
    if not whole or not inside or cv2.contourArea(contour) < _FILLED * _quad_area(box):
        return []
    return [(math.inf, box if cv2.contourArea(box.astype(np.float32), True) > 0 else box[::-1])]


def _disc_kernel(size: int) -> Pixels:
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)), dtype=np.uint8)


def _fit_quad(
    contour: NDArray[np.int32], shape: tuple[int, ...], straight: float = _STRAIGHT
) -> tuple[float, Array] | None:
    """Return how far the sides of a contour stray from straight (at most ``straight``, as a share) and the
    contour as a quadrilateral (4, 2); None if it is none or is cut off by the picture."""
    area, (rows, columns) = abs(cv2.contourArea(contour)), shape[:2]
    if not _SMALLEST * rows * columns < area < _LARGEST * rows * columns:
        return None
    around = cv2.arcLength(contour, True)
    rough = cv2.approxPolyDP(contour, 0.03 * around, True).reshape(-1, 2).astype(np.float64)
    if len(rough) != 4 or not cv2.isContourConvex(rough.astype(np.float32)):
        return None
    points = contour.reshape(-1, 2).astype(np.float64)
    if points.min() <= 1 or (points >= [columns - 2, rows - 2]).any():
        return None
    if cv2.contourArea(rough.astype(np.float32), True) < 0:
        rough = rough[::-1]
    lines, strays = [], []
    for a, b in itertools.pairwise([*rough, rough[0]]):
        line = _fit_side(points, a, b, straight)
        if line is None:
            return None
        lines.append(line[:2])
        strays.append(line[2])
    corners = np.array([_line_crossing(lines[i - 1], lines[i]) for i in range(4)])
    return max(strays), corners


def _fit_side(
    points: Array, a: Array, b: Array, straight: float
) -> tuple[Array, Array, float] | None:
    """Return the straight line through the points (n, 2) between two corners, ignoring the rounded ends."""
    way = b - a
    long = float(np.linalg.norm(way))
    along = (points - a) @ way / long**2
    off = np.abs((points - a) @ np.array([-way[1], way[0]]) / long)
    mine = points[(along > 0.12) & (along < 0.88) & (off < 0.06 * long)]
    if len(mine) < 12:
        return None
    place, way = _fit_line(mine)
    stray = np.abs((mine - place) @ np.array([-way[1], way[0]]))
    share = float(np.percentile(stray, 90)) / long
    return None if share > straight else (place, way, share)


def _fit_line(points: Array) -> tuple[Array, Array]:
    """Return a robust straight line through points (n, 2): a place on it and its direction."""
    vx, vy, x, y = cv2.fitLine(points.astype(np.float32), cv2.DIST_HUBER, 0, 0.01, 0.01).ravel()
    return np.array([x, y], dtype=np.float64), np.array([vx, vy], dtype=np.float64)


def _sharpen_corners(lab: NDArray[np.float32], corners: Array, reach: float = 8.0) -> Array:
    """Return the corners (4, 2) of a quadrilateral with its sides moved to where ``lab`` (rows, columns, 3)
    changes most from inside to outside, by at most ``reach`` px; accurate to a part of a pixel."""
    lines = []
    for a, b in itertools.pairwise([*corners, corners[0]]):
        way = (b - a) / np.linalg.norm(b - a)
        out = np.array([way[1], -way[0]])
        along = np.linspace(0.1, 0.9, 96)[:, None] * (b - a) + a
        off = np.arange(-reach - 3, reach + 3.01, 0.5)
        px = (along[:, None] + off[None, :, None] * out).astype(np.float32)
        rows = np.asarray(cv2.remap(lab, px[..., 0], px[..., 1], cv2.INTER_LINEAR), np.float32)
        # The step between the means of two pixels and a half on either side, at each half pixel.
        run = np.cumsum(np.pad(rows, ((0, 0), (1, 0), (0, 0))), axis=1)
        means = (run[:, 5:] - run[:, :-5]) / 5
        step = (means[:, 5:] - means[:, :-5]).astype(np.float32)
        at = _sharpest_line(step)
        lines.append(_fit_line(along + (off[0] + 0.5 * at + 0.25 * 9)[:, None] * out))
    moved = np.array([_line_crossing(lines[i - 1], lines[i]) for i in range(4)])
    return moved if np.abs(moved - corners).max() < 2 * reach else corners


def _sharpest_line(step: NDArray[np.float32]) -> Array:
    """Return the straight edge through the rows of ``step`` (n, m, 3) with the largest mean step, and each
    row's own position near it (n,), in columns."""
    n, m, _ = step.shape
    i, columns = np.arange(n), np.arange(m)
    best, line = -1.0, np.zeros(n, dtype=np.int64)
    for slope in range(-m // 2, m // 2 + 1):
        shift = np.round(slope * np.linspace(-0.5, 0.5, n)).astype(np.int64)
        at = columns[None] + shift[:, None]
        inside = ((at >= 0) & (at < m)).all(axis=0)
        means = step[i[:, None], np.clip(at, 0, m - 1)].mean(axis=0)
        size = np.where(inside, np.linalg.norm(means, axis=1), -1.0)
        if size.max() > best:
            best, line = float(size.max()), at[:, int(np.argmax(size))]
    whole = step[i, line].mean(axis=0)
    strong = step @ (whole / max(float(np.linalg.norm(whole)), 1e-6))
    near = np.where(np.abs(columns[None] - line[:, None]) > 3, -1.0, strong)
    at = np.clip(np.argmax(near, axis=1), 1, m - 2)
    low, top, high = strong[i, at - 1], strong[i, at], strong[i, at + 1]
    part = 0.5 * (low - high) / np.minimum(low - 2 * top + high, -1e-6)
    return np.asarray(at + np.clip(part, -0.5, 0.5), dtype=np.float64)


def _as_known(stray: float, corners: Array) -> KnownThing | None:
    """Return a quadrilateral as a card (lying or upright) or as the square; None if it is like neither."""
    sides = [float(np.linalg.norm(corners[i] - corners[i - 1])) for i in range(4)]
    across, down = (sides[1] + sides[3]) / 2, (sides[0] + sides[2]) / 2
    shape = max(across, down) / min(across, down)
    card = CARD_MM[0] / CARD_MM[1]
    if abs(shape / card - 1) < LIKE:
        turned = corners if across > down else np.roll(corners, 1, axis=0)
        return KnownThing("card", turned, rectangle(*CARD_MM), stray, turned)
    if shape - 1 < LIKE / 2:
        return KnownThing("square", corners, rectangle(SQUARE_MM, SQUARE_MM), stray, corners)
    return None

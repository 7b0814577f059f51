"""Finds the square that is printed as ticks at its corners, on its page."""

from __future__ import annotations

import itertools
import math

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8]

TICKS_LIKE = 0.1
"""How far the sides of a square of ticks may be from alike on its page, seen straight. Judged. See craft.md,
9."""
_PAGE_PX = 900
"""Longest side of a page laid straight to look for ticks on it."""
_TICK = (0.008, 0.09)
"""How long an arm of a tick is, as a share of the page's longer side."""
_MOST_TICKS = 16


def rectangle(wide: float, high: float) -> Array:
    """Return the corners (4, 2) of a rectangle with its first corner at 0, 0."""
    return np.array([[0, 0], [wide, 0], [wide, high], [0, high]], dtype=np.float64)


def ticked_square(picture: Pixels, page: Array) -> tuple[float, Array] | None:
    """Return the deviation of the printed ticks from the corners of a square, as a share of its side, and its
    corners (4, 2); None if there are no such ticks. They are looked for and measured on the straightened page
    (4, 2)."""
    sides = [float(np.linalg.norm(page[i] - page[i - 1])) for i in range(4)]
    wide, high = max(sides[1], sides[3]), max(sides[0], sides[2])
    fine = max(1.0, _PAGE_PX / max(wide, high))
    size = round(wide * fine), round(high * fine)
    straight = cv2.getPerspectiveTransform(
        page.astype(np.float32), rectangle(*size).astype(np.float32)
    )
    flat = cv2.cvtColor(
        cv2.warpPerspective(picture, straight, size, flags=cv2.INTER_CUBIC), cv2.COLOR_RGB2GRAY
    )
    ticks = _find_ticks(np.asarray(flat, dtype=np.uint8))
    best: tuple[float, Array] | None = None
    for four in itertools.combinations(ticks, 4):
        square = _square_of(four)
        if square is not None and (best is None or square[0] < best[0]):
            best = square
    if best is None:
        return None
    corners = cv2.perspectiveTransform(best[1][None], np.linalg.inv(straight))[0]
    return best[0], np.asarray(corners, dtype=np.float64)


def _find_ticks(flat: Pixels) -> list[tuple[Array, Array]]:
    """Return the small right angles on a straightened page (rows, columns), each as its vertex and the
    direction (2,) into it; the clearest first."""
    kernel = cv2.getStructuringElement(cv2.MORPH_RECT, (13, 13))
    dark = cv2.morphologyEx(cv2.GaussianBlur(flat, (3, 3), 0), cv2.MORPH_BLACKHAT, kernel)
    noise = float(np.median(dark)) + 1.0
    count, labels, stats, _ = cv2.connectedComponentsWithStats(
        (dark > max(6.0, 4 * noise)).astype(np.uint8), connectivity=8
    )
    low, high = (share * max(flat.shape) for share in _TICK)
    found: list[tuple[float, Array, Array]] = []
    for n in range(1, count):
        left, top, wide, tall, area = stats[n]
        if not (low < wide < high and low < tall < high and area < 0.6 * wide * tall):
            continue
        own = labels[top : top + tall, left : left + wide] == n
        weight = np.where(own, dark[top : top + tall, left : left + wide], 0).astype(np.float64)
        right_angle = _right_angle(weight)
        if right_angle is not None:
            corner, way = right_angle
            found.append((float(weight.sum()), corner + np.array([left, top]), way))
    found.sort(key=lambda one: -one[0])
    return [(corner, way) for _, corner, way in found[:_MOST_TICKS]]


def _right_angle(weight: Array) -> tuple[Array, Array] | None:
    """Return the vertex (2,) of a small right angle drawn by ``weight`` (rows, columns), and the direction
    into it; None unless most of it lies along one row and one column."""
    rows, columns = weight.sum(axis=1), weight.sum(axis=0)
    row, column = int(np.argmax(rows)), int(np.argmax(columns))
    tall, wide = weight.shape
    if not (row < 0.35 * tall or row > 0.65 * tall) or not (
        column < 0.35 * wide or column > 0.65 * wide
    ):
        return None
    y, x = np.arange(tall), np.arange(wide)
    near_row, near_column = np.abs(y - row) <= 2, np.abs(x - column) <= 2
    arms = weight.copy()
    arms[~(near_row[:, None] | near_column[None, :])] = 0
    if arms.sum() < 0.8 * weight.sum():
        return None
    # Each arm by itself, without the place where they cross.
    level = weight[:, ~near_column][near_row]
    upright = weight[~near_row][:, near_column]
    if not level.sum() or not upright.sum():
        return None
    at = np.array(
        [
            float((upright.sum(axis=0) * x[near_column]).sum() / upright.sum()),
            float((level.sum(axis=1) * y[near_row]).sum() / level.sum()),
        ]
    )
    way = np.sign(np.array([wide / 2, tall / 2]) - at)
    return at, way


def _square_of(four: tuple[tuple[Array, Array], ...]) -> tuple[float, Array] | None:
    """Return the deviation of four ticks from the corners of a square, as a share of its side, and its
    corners in order; None unless each tick opens towards the middle of all."""
    at = np.array([corner for corner, _ in four])
    middle = at.mean(axis=0)
    if any((np.sign(middle - corner) != way).any() for corner, way in four):
        return None
    order = np.argsort(np.arctan2(*(at - middle).T[::-1]))
    ring = at[order]
    sides = np.linalg.norm(np.roll(ring, -1, axis=0) - ring, axis=1)
    off = float(np.ptp(sides) / sides.mean())
    cross = np.linalg.norm(ring[0] - ring[2]) / np.linalg.norm(ring[1] - ring[3])
    off = max(
        off,
        abs(float(cross) - 1),
        abs(math.sqrt(2) * sides.mean() / np.linalg.norm(ring[0] - ring[2]) - 1),
    )
    return (off, ring) if off < TICKS_LIKE else None

"""The table in a picture: a card of known size or a printed sheet on it tells how large everything is.

The four corners give the homography between picture and table (the direct linear transform, as OpenCV has
it). With the usual opening of a telephone's camera that homography also tells where the camera was: what is
thick hides more of the table than it covers, the more so the nearer the camera.
"""

from __future__ import annotations

import itertools
import math
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Fact, RefusedError
from bambola.core.frozen import frozen

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
LENS_MM = 26.0
"""Focal length of a telephone's main camera, as on film of 36 × 24 mm. Judged: most lie from 23 to 28. See
craft.md, 9."""
FILM_MM = math.hypot(36.0, 24.0)
LIKE = 0.2
"""How far the sides of a card or square may be from their proportion, aslant. Judged. See craft.md, 9."""
STEEPEST_DEG = 25.0
"""A camera held farther from upright sees too much of a piece's side. Judged. See craft.md, 9."""
LEAST_PX_MM = 2.0
"""Fewer pixels to a millimetre do not tell one. Judged. See craft.md, 9."""
_STRAIGHT = 0.012
"""How far the edge of a card strays from straight, as a share of its length; round felt strays more."""
_SMALLEST, _LARGEST = 0.002, 0.5
_WORK_PX = 1200

Known = Literal["card", "square", "sheet"]


@frozen
class Ground:
    """The table: ``to_mm`` (3, 3) brings places in the picture (px) to places on it (mm); what it is known
    by, and its corners (4, 2) in the picture. The camera stands ``high`` mm over the place ``under`` (2,) of
    the table."""

    to_mm: Array
    known: Known
    corners: Array
    high: float
    under: Array

    @property
    def bounds(self) -> tuple[Array, Array] | None:
        """Where pieces are looked for, corner to corner: on the printed sheet between its marks."""
        if self.known != "sheet":
            return None
        return SHEET_MM.min(axis=0), SHEET_MM.max(axis=0)

    def mm(self, px: Array) -> Array:
        """Places (n, 2) of the picture on the table."""
        return _through(self.to_mm, px)

    def px(self, mm: Array) -> Array:
        """Places (n, 2) of the table in the picture."""
        return _through(np.asarray(np.linalg.inv(self.to_mm)), mm)


def find_ground(picture: Pixels, lens_mm: float = LENS_MM) -> Ground:
    """The table in ``picture`` (rows, columns, 3): by the marks of the printed sheet, else by a card or a
    square. Raises :class:`RefusedError` where nothing of known size is seen well enough."""
    rows, columns = picture.shape[:2]
    found = _sheet(picture)
    quads = [found] if found else list(_quads(picture))
    if not quads:
        raise RefusedError(Fact("judge.no-scale"))
    best: Ground | None = None
    for known, corners, size in quads:
        to_mm = cv2.getPerspectiveTransform(
            corners.astype(np.float32), _rectangle(size, known).astype(np.float32)
        )
        high, under, tilt = _camera(np.asarray(np.linalg.inv(to_mm)), rows, columns, lens_mm)
        if tilt <= STEEPEST_DEG:
            best = Ground(np.asarray(to_mm, dtype=np.float64), known, corners, high, under)
            break
    if best is None:
        raise RefusedError(Fact("judge.aslant"))
    near = best.mm(np.array([[columns / 2, rows / 2], [columns / 2 + 1, rows / 2]]))
    if 1 / float(np.linalg.norm(near[1] - near[0])) < LEAST_PX_MM:
        raise RefusedError(Fact("judge.far"))
    if best.known != "sheet" and _blur_mm(picture, best) > BLURRED_MM:
        raise RefusedError(Fact("judge.blurred"))
    return best


def _through(matrix: Array, points: Array) -> Array:
    flat = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    found: Array = flat[:, :2] / flat[:, 2:]
    return found


def _rectangle(size: tuple[float, float], known: Known) -> Array:
    if known == "sheet":
        return SHEET_MM
    wide, high = size
    return np.array([[0, 0], [wide, 0], [wide, high], [0, high]], dtype=np.float64)


def _camera(to_px: Array, rows: int, columns: int, lens_mm: float) -> tuple[float, Array, float]:
    """How high over the table the camera stands (mm), over which place (2,), and how far from upright it
    looks (degrees): the homography is K (r1 r2 t), up to its scale."""
    focal = lens_mm / FILM_MM * math.hypot(rows, columns)
    inner = np.array([[focal, 0, columns / 2], [0, focal, rows / 2], [0, 0, 1.0]])
    columns_ = np.linalg.inv(inner) @ to_px
    scale = 2 / (np.linalg.norm(columns_[:, 0]) + np.linalg.norm(columns_[:, 1]))
    r1, r2, t = (columns_ * scale).T
    u, _, v = np.linalg.svd(np.column_stack([r1, r2, np.cross(r1, r2)]))
    turn = u @ np.diag([1, 1, np.linalg.det(u @ v)]) @ v
    centre = -turn.T @ t
    return abs(float(centre[2])), centre[:2], math.degrees(math.acos(min(1.0, abs(turn[2, 2]))))


def _marks() -> cv2.aruco.Dictionary:
    """Square marks of four by four cells, as OpenCV has them."""
    return cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)


def mark_cells(mark: int) -> NDArray[np.bool_]:
    """Which cells (6, 6) of a mark are black, its rim with it."""
    return np.asarray(cv2.aruco.generateImageMarker(_marks(), mark, 6) < 128)


def _sheet(picture: Pixels) -> tuple[Known, Array, tuple[float, float]] | None:
    """The four marks of the printed sheet, by their centres."""
    detector = cv2.aruco.ArucoDetector(_marks(), cv2.aruco.DetectorParameters())
    corners, ids, _ = detector.detectMarkers(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY))
    if ids is None:
        return None
    centres = {
        int(i): _crossing(np.asarray(c, dtype=np.float64).reshape(4, 2))
        for i, c in zip(ids.ravel(), corners, strict=True)
    }
    if not set(MARKS) <= centres.keys():
        return None
    return "sheet", np.array([centres[mark] for mark in MARKS]), (0.0, 0.0)


def _crossing(quad: Array) -> Array:
    """Where the diagonals of a quadrilateral (4, 2) cross: the middle of a square seen aslant."""
    return _meet((quad[0], quad[2] - quad[0]), (quad[1], quad[3] - quad[1]))


def _meet(one: tuple[Array, Array], other: tuple[Array, Array]) -> Array:
    """Where two lines, each by a place and a direction, cross."""
    (p, v), (q, w) = one, other
    along = np.linalg.solve(np.column_stack([v, -w]), q - p)[0]
    found: Array = p + along * v
    return found


def _quads(picture: Pixels) -> list[tuple[Known, Array, tuple[float, float]]]:
    """Cards and squares in a picture, the one with the straightest edges first."""
    rows, columns = picture.shape[:2]
    scale = min(1.0, _WORK_PX / max(rows, columns))
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    lab = cv2.cvtColor(cv2.GaussianBlur(small, (5, 5), 0), cv2.COLOR_RGB2LAB)
    found: list[tuple[float, Known, Array, tuple[float, float]]] = []
    for channel in cv2.split(lab):
        for edges in _edges(np.asarray(channel, dtype=np.uint8)):
            contours, _ = cv2.findContours(edges, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
            for contour in contours:
                quad = _quad(np.asarray(contour, dtype=np.int32), edges.shape)
                if quad is not None:
                    found += _as_known(*quad)
    found.sort(key=lambda one: one[0])
    kept: list[tuple[Known, Array, tuple[float, float]]] = []
    for _, known, corners, size in found:
        if all(np.abs(corners - other).max() > 3 for _, other, _ in kept):
            kept.append((known, corners / scale, size))
    return kept


def _edges(channel: Pixels) -> list[Pixels]:
    """The outlines of what stands out in a channel: by its edges, and by its being darker or paler."""
    middle = float(np.median(channel))
    spread = max(12.0, float(np.std(channel)))
    canny = cv2.Canny(channel, spread * 0.7, spread * 1.6)
    _, split = cv2.threshold(channel, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)
    _, pale = cv2.threshold(channel, min(250.0, middle + spread), 255, cv2.THRESH_BINARY)
    closed = cv2.morphologyEx(canny, cv2.MORPH_CLOSE, np.ones((5, 5), np.uint8))
    return [np.asarray(one, dtype=np.uint8) for one in (closed, split, pale)]


def _quad(contour: NDArray[np.int32], shape: tuple[int, ...]) -> tuple[float, Array] | None:
    """A contour as a quadrilateral (4, 2) with straight sides, and how far they stray from straight; None
    where it is none, or the picture's edge cuts it."""
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
        line = _side(points, a, b)
        if line is None:
            return None
        lines.append(line[:2])
        strays.append(line[2])
    corners = np.array([_meet(lines[i - 1], lines[i]) for i in range(4)])
    return max(strays), corners


def _side(points: Array, a: Array, b: Array) -> tuple[Array, Array, float] | None:
    """The straight line along the points (n, 2) between two corners, without those where it rounds off."""
    way = b - a
    long = float(np.linalg.norm(way))
    along = (points - a) @ way / long**2
    off = np.abs((points - a) @ np.array([-way[1], way[0]]) / long)
    mine = points[(along > 0.12) & (along < 0.88) & (off < 0.06 * long)]
    if len(mine) < 12:
        return None
    vx, vy, x, y = cv2.fitLine(mine.astype(np.float32), cv2.DIST_HUBER, 0, 0.01, 0.01).ravel()
    stray = np.abs((mine - [x, y]) @ np.array([-vy, vx]))
    share = float(np.percentile(stray, 90)) / long
    if share > _STRAIGHT:
        return None
    return np.array([x, y], dtype=np.float64), np.array([vx, vy], dtype=np.float64), share


def _as_known(
    stray: float, corners: Array
) -> list[tuple[float, Known, Array, tuple[float, float]]]:
    """A quadrilateral as a card lying or standing, or as the square."""
    sides = [float(np.linalg.norm(corners[i] - corners[i - 1])) for i in range(4)]
    across, down = (sides[1] + sides[3]) / 2, (sides[0] + sides[2]) / 2
    shape = max(across, down) / min(across, down)
    card = CARD_MM[0] / CARD_MM[1]
    if abs(shape / card - 1) < LIKE:
        turned = corners if across > down else np.roll(corners, 1, axis=0)
        return [(stray, "card", turned, CARD_MM)]
    if shape - 1 < LIKE / 2:
        return [(stray, "square", corners, (SQUARE_MM, SQUARE_MM))]
    return []


def _blur_mm(picture: Pixels, ground: Ground) -> float:
    """How wide the edges of the known thing are, mm: from a fifth to four fifths of their step."""
    grey = cv2.GaussianBlur(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), (3, 3), 0)
    corners = ground.mm(ground.corners)
    widths = []
    for a, b in itertools.pairwise([*corners, corners[0]]):
        out = np.array([(b - a)[1], -(b - a)[0]]) / np.linalg.norm(b - a)
        steps = np.linspace(-8.0, 8.0, 161)
        for share in (0.3, 0.4, 0.5, 0.6, 0.7):
            px = ground.px(a + share * (b - a) + steps[:, None] * out).astype(np.float32)
            row = cv2.remap(grey, px[:, 0], px[:, 1], cv2.INTER_LINEAR).ravel().astype(np.float64)
            low, high = row[:20].mean(), row[-20:].mean()
            if abs(high - low) > 12:
                level = (row - low) / (high - low)
                inner = steps[(level > 0.2) & (level < 0.8)]
                widths.append(float(np.ptp(inner)) if len(inner) else 0.0)
    return float(np.median(widths)) if widths else 0.0


def doubts(picture: Pixels) -> Fact | None:
    """What is wrong with a picture before anything is looked for in it: dark, glaring."""
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    if float(np.percentile(grey, 95)) < DARK:
        return Fact("judge.dark")
    if float(((picture >= 254).sum(axis=2) >= 2).mean()) > GLARE:
        return Fact("judge.glare")
    return None


DARK, GLARE = 60.0, 0.35
"""The palest twentieth of a picture that is too dark is darker than this (of 255); of one that glares so much
is white. Judged. See craft.md, 9."""
BLURRED_MM = 1.5
"""An edge that is wider than this is blurred. Judged. See craft.md, 9."""

"""Finds the table in a picture: a thing of known size on it gives the scale of everything.

Its four corners give the homography between picture and table (the direct linear transform, as OpenCV has
it), and from that where the camera was: a thick piece hides more of the table than it covers, more so the
nearer the camera. The focal length is read from the same corners where they determine it, and otherwise
assumed.
"""

from __future__ import annotations

import itertools
import math

import cv2
import numpy as np
from scipy.optimize import least_squares

from bambola.core.facts import Fact, RefusedError
from bambola.core.frozen import frozen
from bambola.core.sight.known import (
    SHEET_MM,
    Array,
    KnownKind,
    KnownThing,
    Pixels,
    known_things,
    lab_of,
)

LENS_MM = 26.0
"""Focal length of a telephone's main camera, as on film of 36 × 24 mm. Judged: most lie from 23 to 28. See
craft.md, 9."""
LENS_SPREAD = 0.6
"""How far a lens may be from that, as the standard deviation of its logarithm: telephones bring things nearer
by three times, and more. Judged. See craft.md, 9."""
WRITTEN_SPREAD = 0.03
"""The same where the camera wrote its lens into the picture, in whole millimetres. Judged. See craft.md,
9."""
HELD_MM, HELD_SPREAD = 450.0, 0.35
"""How far from the table a telephone is held, and the standard deviation of its logarithm: bent over it, or
at arm's length. Judged. See craft.md, 9."""
FILM_MM = math.hypot(36.0, 24.0)
CORNER_PX = 0.3
"""How far a corner is read off its place, px. Judged on pictures of known corners. See craft.md, 9."""
LENS_SHOWS = 4.0
"""A lens other than usual is believed where the usual one explains the corners worse by so much (sum of
squares, each by its own error): two standard deviations."""
STEEPEST_DEG = 25.0
"""A camera held farther from upright sees too much of a piece's side. Judged. See craft.md, 9."""
LEAST_PX_MM = 2.0
"""Fewer pixels to a millimetre do not tell one. Judged. See craft.md, 9."""


@frozen
class Ground:
    """The table in a picture. ``to_mm`` (3, 3) maps places in the picture (px) to places on the table (mm).
    ``corners`` (4, 2) are those of the thing it was found by, in px; ``page`` (4, 2) those of the paper it is
    on. The camera is ``high`` mm above the place ``under`` (2,) of the table; ``high_off`` is the relative
    error of ``high`` (one standard deviation)."""

    to_mm: Array
    known: KnownKind
    corners: Array
    high: float
    under: Array
    page: Array
    high_off: float = 0.0

    @property
    def bounds(self) -> tuple[Array, Array] | None:
        """The area to look for pieces in, corner to corner: on the printed sheet, between its marks."""
        if self.known != "sheet":
            return None
        return SHEET_MM.min(axis=0), SHEET_MM.max(axis=0)

    def mm(self, px: Array) -> Array:
        """Map places (n, 2) of the picture to the table."""
        return _project_points(self.to_mm, px)

    def px(self, mm: Array) -> Array:
        """Map places (n, 2) of the table to the picture."""
        return _project_points(np.asarray(np.linalg.inv(self.to_mm)), mm)


def find_ground(picture: Pixels, lens_mm: float | None = None) -> Ground:
    """Return the table in ``picture`` (rows, columns, 3), found by the marks of the printed sheet, else by a
    card or a square. ``lens_mm`` is the camera's focal length (35 mm equivalent) if known.

    Raises :class:`RefusedError` if nothing of known size is visible well enough.
    """
    things = known_things(picture)
    if not things:
        raise RefusedError(Fact("judge.no-scale"))
    rows, columns = picture.shape[:2]
    for thing in things:
        camera = _camera_over(thing, rows, columns, lens_mm)
        if camera.tilt_deg <= STEEPEST_DEG:
            break
    else:
        raise RefusedError(Fact("judge.aslant"))
    to_mm = cv2.getPerspectiveTransform(
        thing.corners.astype(np.float32), thing.corners_mm.astype(np.float32)
    )
    best = Ground(
        np.asarray(to_mm, dtype=np.float64),
        thing.kind,
        thing.corners,
        camera.high,
        camera.under,
        thing.page,
        camera.high_off,
    )
    near = best.mm(np.array([[columns / 2, rows / 2], [columns / 2 + 1, rows / 2]]))
    if 1 / float(np.linalg.norm(near[1] - near[0])) < LEAST_PX_MM:
        raise RefusedError(Fact("judge.far"))
    if best.known != "sheet" and _blur_mm(picture, best) > BLURRED_MM:
        raise RefusedError(Fact("judge.blurred"))
    return best


def _project_points(matrix: Array, points: Array) -> Array:
    flat = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    found: Array = flat[:, :2] / flat[:, 2:]
    return found


@frozen
class _CameraOver:
    """Where the camera was: ``high`` mm above the place ``under`` (2,) of the table, ``tilt_deg`` from
    upright, and the relative error of ``high``."""

    high: float
    under: Array
    tilt_deg: float
    high_off: float


def _camera_over(thing: KnownThing, rows: int, columns: int, lens_mm: float | None) -> _CameraOver:
    """Return the camera that best explains the corners of ``thing``: lens, rotation and place by least
    squares, with corners weighted by :data:`CORNER_PX` and priors for lens and distance."""
    diagonal = math.hypot(rows, columns) / FILM_MM
    usual = math.log((lens_mm or LENS_MM) * diagonal)
    spread = WRITTEN_SPREAD if lens_mm else LENS_SPREAD
    middle = np.array([columns / 2, rows / 2])
    flat = np.column_stack([thing.corners_mm, np.zeros(4)])

    def off(values: Array) -> Array:
        focal, turn, place = math.exp(values[0]), values[1:4], values[4:7]
        seen = flat @ np.asarray(cv2.Rodrigues(turn)[0]).T + place
        px = focal * seen[:, :2] / seen[:, 2:] + middle
        lens = (values[0] - usual) / spread
        held = math.log(np.linalg.norm(place) / HELD_MM) / HELD_SPREAD
        return np.append(((px - thing.corners) / CORNER_PX).ravel(), [lens, held])

    start = _first_camera_pose(thing, usual, middle)
    # The lens as usual, all else free; then the lens with it.
    fixed = least_squares(lambda rest: off(np.append(usual, rest)), start)
    free = least_squares(
        off, np.append(usual, fixed.x), x_scale=np.append(0.1, np.maximum(np.abs(fixed.x), 0.1))
    )
    # The card is as large in the picture as it is: the height is as unsure as the lens.
    spreads = np.linalg.pinv(free.jac.T @ free.jac)
    values = free.x
    if 2 * (fixed.cost - free.cost) < LENS_SHOWS:
        values = np.append(usual, fixed.x)
    turn = np.asarray(cv2.Rodrigues(values[1:4])[0])
    centre = -turn.T @ values[4:7]
    tilt = math.degrees(math.acos(min(1.0, abs(turn[2, 2]))))
    return _CameraOver(abs(float(centre[2])), centre[:2], tilt, math.sqrt(spreads[0, 0]))


def _first_camera_pose(thing: KnownThing, usual: float, middle: Array) -> Array:
    """Return a first rotation and place (6,) of a camera with the usual lens, from the homography K (r1 r2
    t)."""
    to_px = cv2.getPerspectiveTransform(
        thing.corners_mm.astype(np.float32), thing.corners.astype(np.float32)
    )
    focal = math.exp(usual)
    inner = np.array([[focal, 0, middle[0]], [0, focal, middle[1]], [0, 0, 1.0]])
    columns = np.linalg.inv(inner) @ to_px
    scale = 2 / (np.linalg.norm(columns[:, 0]) + np.linalg.norm(columns[:, 1]))
    r1, r2, place = (columns * scale * np.sign(columns[2, 2])).T
    u, _, v = np.linalg.svd(np.column_stack([r1, r2, np.cross(r1, r2)]))
    turn = u @ np.diag([1, 1, np.linalg.det(u @ v)]) @ v
    return np.append(np.asarray(cv2.Rodrigues(turn)[0]).ravel(), place)


def _blur_mm(picture: Pixels, ground: Ground) -> float:
    """Return the width of the known thing's edges (mm), from a fifth to four fifths of their step; of the
    sharper edges, since a shadow widens the others."""
    lab = cv2.GaussianBlur(lab_of(picture), (3, 3), 0)
    corners = ground.mm(ground.page)
    widths = []
    for a, b in itertools.pairwise([*corners, corners[0]]):
        out = np.array([(b - a)[1], -(b - a)[0]]) / np.linalg.norm(b - a)
        steps = np.linspace(-8.0, 8.0, 161)
        for share in (0.3, 0.4, 0.5, 0.6, 0.7):
            px = ground.px(a + share * (b - a) + steps[:, None] * out).astype(np.float32)
            row = cv2.remap(lab, px[:, 0], px[:, 1], cv2.INTER_LINEAR).reshape(-1, 3)
            step = row[-20:].mean(axis=0) - row[:20].mean(axis=0)
            if float(np.linalg.norm(step)) > LEAST_STEP:
                level = (row - row[:20].mean(axis=0)) @ step / float(step @ step)
                widths.append(float(((level > 0.2) & (level < 0.8)).sum()) * 0.1)
    return float(np.percentile(widths, 25)) if widths else 0.0


def picture_faults(picture: Pixels) -> Fact | None:
    """Return what makes a picture unusable from the start: too dark, or glaring."""
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    if float(np.percentile(grey, 95)) < DARK:
        return Fact("judge.dark")
    if float(((picture >= 254).sum(axis=2) >= 2).mean()) > GLARE:
        return Fact("judge.glare")
    return None


DARK, GLARE = 60.0, 0.35
"""The palest twentieth of a picture that is too dark is darker than this (of 255); of one that glares so much
is white. Judged. See craft.md, 9."""
LEAST_STEP = 5.0
"""Edges whose colours (of 100) differ by less say nothing of blur."""
BLURRED_MM = 1.5
"""An edge that is wider than this is blurred. Judged. See craft.md, 9."""

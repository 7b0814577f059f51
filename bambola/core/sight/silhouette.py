"""Separates a figure from its background, in two passes.

First graph cuts (Rother, Kolmogorov and Blake 2004, as OpenCV has them) on a small copy decide which side of
the picture's edges is figure. Then, near the outline only, each pixel is placed between the colours of felt
and background around it, which locates the edge to a part of a pixel.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import binary_fill_holes

from bambola.core.figure.survey import Stroke
from bambola.core.sight.light import evenly_lit, wall_of

Pixels = NDArray[np.uint8]
Float32 = NDArray[np.float32]

SMALL_PX = 520
"""Longest side of the copy that is cut."""
FINE_PX = 2000
"""Longest side of the silhouette: finer than felt has an edge."""
DRAWN = 0.35
"""What encloses so much more than it covers is a drawing of lines, and what it encloses is figure. Judged."""
_CUTS = 3
_SURE_CONTRAST = 3.0
"""Colours this many of their own spreads apart leave no doubt where the edge runs."""


class CancelledError(Exception):
    """Raised when the maker cancels the work."""


@dataclass(frozen=True)
class Silhouette:
    """How much of each pixel is figure: ``cover`` (rows, columns) 0..1, with ``scale`` the scale of its
    pixels to the picture's. ``sureness`` (rows, columns) 0..1 is set near the outline; ``sure`` is its
    mean."""

    cover: Float32
    sureness: Float32
    scale: float
    sure: float

    def box(self) -> tuple[float, float, float, float]:
        """Return left, top, right and bottom of the figure in pixels of the picture; the whole picture if
        there is no figure."""
        rows, columns = (np.flatnonzero((self.cover > 0.5).any(axis=axis)) for axis in (1, 0))
        if not len(rows):
            height, width = self.cover.shape
            return 0.0, 0.0, width / self.scale, height / self.scale
        return (
            columns[0] / self.scale,
            rows[0] / self.scale,
            (columns[-1] + 1) / self.scale,
            (rows[-1] + 1) / self.scale,
        )

    @property
    def is_empty(self) -> bool:
        """Whether no figure was found."""
        return not bool((self.cover > 0.5).any())


NEAR_RIM, WIDE_RIM, AGAIN = 0.03, 0.06, 0.3
"""What comes nearer to the edge of a picture than the first share may be background, if the second
share of it is plain and a figure of so much of what was found is left. Judged. See craft.md, 9."""
TOUCHED = 0.003
"""A wall that goes on beyond the picture takes more than this share of the strip along its edge; a tail that
comes near to it takes less. Judged: walls 0.008 to 0.019, a tail 0.0007. See craft.md, 9."""
PLAIN = 5.0
"""A wall is plain where three quarters of its pixels change by less (of 255) to the next. Judged: plain ones
1, busy ones 8 to 11. See craft.md, 9."""


def separate_silhouette(
    picture: Pixels,
    strokes: tuple[Stroke, ...] = (),
    crop: tuple[float, float, float, float] | None = None,
    progress: Callable[[float], bool] = lambda share: True,
    scale: float = 1.0,
    on_wall: bool = True,
) -> Silhouette:
    """Return the silhouette in ``picture`` (rows, columns, 3) RGB, which may be smaller than the file by
    ``scale``; strokes, crop and result are in pixels of the file.

    Before a wall (``on_wall``) soft shadows are told from felt here; callers that look at pieces on a table
    do that themselves. What lies outside ``crop`` (left, top, right, bottom in pixels) is background.
    ``progress`` gets the share done, and cancels the work by returning False (raises
    :class:`CancelledError`).
    """

    def told(share: float) -> None:
        if not progress(share):
            raise CancelledError

    told(0.02)
    fine_scale = scale_to(picture, scale)
    fine = evenly_lit(resize_picture(picture, fine_scale / scale))
    told(0.15)
    small_scale = scale * min(1.0, SMALL_PX / max(picture.shape[:2]))
    small = resize_picture(fine, small_scale / fine_scale)
    hints = _starting_labels(small, small_scale, strokes, crop, on_wall)
    told(0.25)
    found = _graph_cut(small, hints, lambda share: told(0.25 + 0.45 * share))
    found = tidy_mask(found, hints)
    near, wide = (_rim_mask(small.shape, share) for share in (NEAR_RIM, WIDE_RIM))
    if crop is None and found[near].mean() > TOUCHED and _is_plain(small, wide):
        # The wall or the table goes on beyond the picture: what is of its colours there is background.
        hints[_as_at_rim(small, found, near)] = cv2.GC_BGD
        again = tidy_mask(_graph_cut(small, hints, lambda share: told(0.7)), hints)
        if again.sum() > AGAIN * found.sum():
            found = again
    told(0.75)
    whole = finish_silhouette(fine, small, found, fine_scale, strokes, crop)
    told(0.98)
    return whole


def _rim_mask(shape: tuple[int, ...], share: float) -> NDArray[np.bool_]:
    """Return a mask (rows, columns) of the pixels nearer to the edge than a share of the longer side."""
    margin = max(1, round(share * max(shape[:2])))
    rim = np.ones(shape[:2], dtype=bool)
    rim[margin:-margin, margin:-margin] = False
    return rim


def _is_plain(small: Pixels, rim: NDArray[np.bool_]) -> bool:
    """Return whether the ``rim`` of a picture changes little from pixel to pixel."""
    lab = cv2.GaussianBlur(cv2.cvtColor(small, cv2.COLOR_RGB2LAB), (3, 3), 0)
    steps = cv2.morphologyEx(lab, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)).max(axis=2)
    return float(np.percentile(steps[rim], 75)) < PLAIN


def _as_at_rim(
    small: Pixels, found: NDArray[np.bool_], rim: NDArray[np.bool_]
) -> NDArray[np.bool_]:
    """Return the part of the figure, as ``found``, that has the colours of its ``rim`` and is connected to it
    there."""
    lab = cv2.cvtColor(small, cv2.COLOR_RGB2LAB).astype(np.float32)
    samples = lab[found & rim]
    alike = rim & found
    for colour in np.unique(np.round(samples / _GRAIN) * _GRAIN, axis=0):
        alike |= found & (np.linalg.norm(lab - colour, axis=2) < _GRAIN)
    _, labels = cv2.connectedComponents(alike.astype(np.uint8), connectivity=4)
    return np.asarray(alike & np.isin(labels, np.unique(labels[rim & found])), dtype=np.bool_)


def finish_silhouette(
    fine: Pixels,
    small: Pixels,
    found: NDArray[np.bool_],
    fine_scale: float,
    strokes: tuple[Stroke, ...] = (),
    crop: tuple[float, float, float, float] | None = None,
) -> Silhouette:
    """Return the final silhouette: ``found`` in the ``small`` copy, its edge refined in ``fine``, then
    strokes and crop applied."""
    cover, sureness = _soft_edge(fine, small, found)
    cover = _apply_strokes(cover, fine_scale, strokes, crop)
    near = (cover > 0.05) & (cover < 0.95) | (
        cv2.morphologyEx(
            (cover > 0.5).astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)
        )
        > 0
    )
    sure = float(sureness[near].mean()) if near.any() else 0.0
    return Silhouette(cover, np.where(near, sureness, 1.0).astype(np.float32), fine_scale, sure)


def scale_to(picture: Pixels, scale: float) -> float:
    """Return the scale, relative to the file, of the fine copy of a picture with this scale."""
    return scale * float(min(1.0, FINE_PX / max(picture.shape[:2])))


def resize_picture(picture: Pixels, scale: float) -> Pixels:
    """Return ``picture`` at ``scale`` of its size."""
    if scale == 1.0:
        return picture
    size = (
        max(2, round(picture.shape[1] * scale)),
        max(2, round(picture.shape[0] * scale)),
    )
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)


def _starting_labels(
    small: Pixels,
    scale: float,
    strokes: tuple[Stroke, ...],
    crop: tuple[float, float, float, float] | None,
    on_wall: bool,
) -> Pixels:
    """Return the starting labels of the graph cut: certain background (rim, cropped area), likely figure,
    strokes."""
    rows, columns = small.shape[:2]
    hints = np.full((rows, columns), cv2.GC_PR_BGD, dtype=np.uint8)
    rim = 1 if crop else max(2, round(0.015 * max(rows, columns)))
    left, top, right, bottom = (round(v * scale) for v in crop) if crop else (0, 0, columns, rows)
    left, top = max(left, 0) + rim, max(top, 0) + rim
    right, bottom = min(right, columns) - rim, min(bottom, rows) - rim
    inner = np.zeros((rows, columns), dtype=bool)
    inner[top:bottom, left:right] = True
    strange = _strangeness_of(small, ~inner)
    hints[strange > 0.5] = cv2.GC_PR_FGD
    if on_wall:
        wall, before = wall_of(small)
        hints[before] = cv2.GC_PR_FGD
        hints[wall] = cv2.GC_BGD
    hints[~inner] = cv2.GC_BGD
    for stroke in strokes:
        _draw_stroke(hints, stroke, scale, cv2.GC_FGD if stroke.figure else cv2.GC_BGD)
    return hints


def _strangeness_of(small: Pixels, rim: NDArray[np.bool_]) -> Float32:
    """Return how unlike the colours of the rim each pixel is, 0..1: the first guess at the figure."""
    lab = cv2.cvtColor(small, cv2.COLOR_RGB2LAB).astype(np.float32)
    samples = lab[rim]
    samples = samples[:: max(1, len(samples) // 3000)].copy()
    if len(samples) < 12:
        return np.ones(small.shape[:2], dtype=np.float32)
    stops = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 20, 0.5)
    cv2.setRNGSeed(1)
    _, _, centres = cv2.kmeans(
        samples, 5, np.zeros((0,), np.int32), stops, 2, cv2.KMEANS_PP_CENTERS
    )
    apart = np.sqrt(((lab[:, :, None, :] - centres) ** 2).sum(axis=-1)).min(axis=2)
    usual = float(np.percentile(apart[rim], 90)) + 6.0
    guess: Float32 = np.clip(apart / usual - 0.7, 0, 1).astype(np.float32)
    return guess


def _draw_stroke(canvas: NDArray[np.generic], stroke: Stroke, scale: float, value: float) -> None:
    points = np.round(np.array(stroke.points) * scale).astype(np.int32)
    thick = max(1, round(2 * stroke.radius * scale))
    image = np.asarray(canvas)
    if len(points) == 1:
        cv2.circle(image, points[0].tolist(), max(1, thick // 2), value, -1)
    else:
        cv2.polylines(image, [points.reshape(-1, 1, 2)], False, value, thick)


def _graph_cut(small: Pixels, hints: Pixels, told: Callable[[float], None]) -> NDArray[np.bool_]:
    labels = hints.copy()
    of_figure: NDArray[np.bool_] = np.isin(labels, (cv2.GC_FGD, cv2.GC_PR_FGD))
    if of_figure.sum() < 12:
        return of_figure
    behind, front = np.zeros((1, 65)), np.zeros((1, 65))
    mode = cv2.GC_INIT_WITH_MASK
    cv2.setRNGSeed(1)
    for go in range(_CUTS):
        cv2.grabCut(small, labels, None, behind, front, 1, mode)  # type: ignore[call-overload]
        mode = cv2.GC_EVAL
        told((go + 1) / _CUTS)
    return np.asarray(np.isin(labels, (cv2.GC_FGD, cv2.GC_PR_FGD)), dtype=np.bool_)


def tidy_mask(found: NDArray[np.bool_], hints: Pixels) -> NDArray[np.bool_]:
    """Return the mask without crumbs (under 8 % of the largest piece) and pinholes (0.4 % of the whole),
    except where the maker drew strokes. Judged."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(
        found.astype(np.uint8), connectivity=8
    )
    if count <= 1:
        return found
    areas = stats[1:, cv2.CC_STAT_AREA]
    keep = np.zeros(count, dtype=bool)
    keep[1:] = areas >= max(12, 0.08 * areas.max())
    keep[np.unique(labels[(hints == cv2.GC_FGD) & found])] = True
    keep[0] = False
    whole = np.asarray(keep[labels], dtype=np.bool_)
    filled = np.asarray(binary_fill_holes(whole), dtype=np.bool_)
    if whole.sum() < DRAWN * filled.sum() and not (hints[filled & ~whole] == cv2.GC_BGD).any():
        return filled
    holes, labels, stats, _ = cv2.connectedComponentsWithStats(
        (~whole).astype(np.uint8), connectivity=4
    )
    for hole in range(1, holes):
        small = stats[hole, cv2.CC_STAT_AREA] < 0.004 * whole.sum()
        if small and not (hints[labels == hole] == cv2.GC_BGD).any():
            whole[labels == hole] = True
    return np.asarray(whole, dtype=np.bool_)


def _soft_edge(fine: Pixels, small: Pixels, found: NDArray[np.bool_]) -> tuple[Float32, Float32]:
    """Return cover and sureness (rows, columns) of ``fine``, from the colours of ``small`` a little inside
    and outside the outline; only the band between is computed."""
    rows, columns = fine.shape[:2]
    size = (columns, rows)
    whole = found.astype(np.uint8)
    rough = cv2.resize(found.astype(np.float32), size, interpolation=cv2.INTER_LINEAR)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))
    # A leg only two or three small pixels thick keeps its middle line as a sample of its colour.
    depth = cv2.distanceTransform(whole, cv2.DIST_L2, 3)
    ridge = (depth > 0.9) & (depth >= cv2.dilate(depth, np.ones((3, 3), np.uint8)) - 0.3)
    inside = np.maximum(cv2.erode(whole, kernel), ridge.astype(np.uint8))
    outside = cv2.erode(1 - whole, kernel, iterations=2)
    near_felt, felt_spread = _mean_around(small, np.asarray(inside, dtype=np.uint8))
    near_ground, ground_spread = _mean_around(small, np.asarray(outside, dtype=np.uint8))
    near = cv2.dilate(whole, kernel, iterations=2) - cv2.erode(whole, kernel, iterations=2)
    band = cv2.resize(near, size, interpolation=cv2.INTER_NEAREST) > 0
    at = np.nonzero(band)
    felt, ground, uneven, spread = (
        np.asarray(cv2.resize(a, size, interpolation=cv2.INTER_LINEAR)[at], dtype=np.float32)
        for a in (near_felt, near_ground, ground_spread, felt_spread + ground_spread)
    )
    seen = fine[at].astype(np.float32)
    apart = felt - ground
    square = (apart**2).sum(axis=1)
    # Along the colour line from background to felt: nought to one.
    share = ((seen - ground) * apart).sum(axis=1) / np.maximum(square, 1.0)
    share = np.maximum(np.clip(share, 0, 1), _strange_share(seen, ground, apart, share, uneven))
    trusted = np.clip(np.sqrt(square) / (spread + 4.0) / _SURE_CONTRAST, 0, 1)
    cover = (rough > 0.5).astype(np.float32)
    cover[at] = share * trusted + rough[at] * (1 - trusted)
    sureness = np.ones((rows, columns), dtype=np.float32)
    sureness[at] = trusted
    # A speckle of a pixel is grain of the picture, not felt; a gap of a few within felt is not one.
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (9, 9))
    shut = cv2.morphologyEx(cover, cv2.MORPH_CLOSE, kernel)
    calm = cv2.GaussianBlur(cv2.medianBlur(shut, 3), (0, 0), 0.8)
    return np.asarray(calm, dtype=np.float32), sureness


def _strange_share(
    seen: Float32, ground: Float32, apart: Float32, share: Float32, uneven: Float32
) -> Float32:
    """Return the cover (n,) of pixels that are neither background, nor its shadow, nor a mixture with felt:
    the shaded underside of felt has another hue than the background, yet is as dark."""
    off_line = np.linalg.norm(seen - ground - np.clip(share, 0, 1)[:, None] * apart, axis=1)
    hue = ground / np.maximum(np.linalg.norm(ground, axis=1, keepdims=True), 1.0)
    off_hue = np.linalg.norm(seen - (seen * hue).sum(axis=1, keepdims=True) * hue, axis=1)
    strange = np.minimum(off_line, off_hue) - uneven - _GRAIN
    return np.asarray(np.clip(strange / _GRAIN, 0, 1), dtype=np.float32)


_GRAIN = 12.0
"""Colours this far apart (of 255) are told apart from the grain of a picture."""
_REACH = 7
"""Small pixels around each pixel whose colours are averaged."""


def _mean_around(small: Pixels, where: Pixels) -> tuple[Float32, Float32]:
    """Return the mean colour (rows, columns, 3) of the samples around each pixel, and their spread in
    lightness."""
    weight, colour = where.astype(np.float32), small.astype(np.float32)
    box = (_REACH, _REACH)
    total = cv2.blur(weight, box) + 1e-6
    mean = cv2.blur(colour * weight[..., None], box) / total[..., None]
    grey = colour.mean(axis=2)
    square = cv2.blur(grey * grey * weight, box) / total
    flat = cv2.blur(grey * weight, box) / total
    spread = np.sqrt(np.maximum(0.0, square - flat**2))
    return mean.astype(np.float32), spread.astype(np.float32)


def _apply_strokes(
    cover: Float32,
    scale: float,
    strokes: tuple[Stroke, ...],
    crop: tuple[float, float, float, float] | None,
) -> Float32:
    """Return the cover with the maker's strokes and crop applied last."""
    for stroke in strokes:
        _draw_stroke(cover, stroke, scale, 1.0 if stroke.figure else 0.0)
    if crop:
        left, top, right, bottom = (round(v * scale) for v in crop)
        kept = np.zeros_like(cover)
        kept[max(0, top) : bottom, max(0, left) : right] = 1
        cover = cover * kept
    return cover


def widen_mask(mask: NDArray[np.bool_], pixels: float) -> NDArray[np.bool_]:
    """Return ``mask`` grown by so many pixels."""
    size = 2 * max(1, round(pixels)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    return np.asarray(cv2.dilate(mask.astype(np.uint8), kernel) > 0, dtype=np.bool_)

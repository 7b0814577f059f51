"""Shades hits as felt: soft light from the upper left, fibres, fuzz, and glass."""

from __future__ import annotations

import math
import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure import Part
from bambola.core.figure.places import Fur
from bambola.core.memo import remembered
from bambola.core.relief.camera import Actor, Camera, Float32, Hits, Stage, cast_rays
from bambola.core.solids.regions import points_in_places

Furred = tuple[Fur, NDArray[np.int64]]
"""A fur, and the found pixels (n,) on which it grows."""
LIGHT = np.array([-0.52, 0.62, 0.59], dtype=np.float32)
"""Towards the light, as seen: right, up, towards the viewer."""
TILE, TILE_LEVELS = 512, 127.0
"""Pixels of a side of the tile of fibres, and the level of its brightest."""
_TILE_MM = 34.0


@dataclass(frozen=True)
class Picture:
    """A figure's picture. ``pixels`` (rows, columns, 4) RGBA, straight alpha, uint8.

    ``owner`` (rows, columns) is the index into ``parts`` of what each pixel shows, -1 for nothing.
    ``left``, ``top`` (mm as seen) and ``step`` (mm a pixel) say where it is.
    """

    pixels: NDArray[np.uint8]
    owner: NDArray[np.int16]
    parts: tuple[str, ...]
    left: float
    top: float
    step: float

    def part_at(self, x: float, y: float) -> str | None:
        """Return the part at a point (mm in the view), or None."""
        column, row = int((x - self.left) / self.step), int((self.top - y) / self.step)
        rows, columns = self.owner.shape
        if not (0 <= row < rows and 0 <= column < columns) or self.owner[row, column] < 0:
            return None
        return self.parts[int(self.owner[row, column])]


MOST_RAYS = 4_000_000
"""No picture casts more rays than this, which take a few seconds: it is drawn more coarsely."""


MARGIN = 4
"""Pixels left free all round, for fuzz."""


def portrait(
    stage: Stage, camera: Camera, step: float, colours: Mapping[str, str], smooth: int = 1
) -> Picture:
    """Return a picture of the figure from ``camera`` at ``step`` mm a pixel; ``colours`` by wool id.
    ``smooth`` rays in each direction are averaged into a pixel."""
    left, right, low, high = stage.bounds(camera)
    # One limb a hundred metres out must not cost a picture of as many gigabytes.
    step = max(step, smooth * math.sqrt((right - left) * (high - low) / MOST_RAYS))
    step = max(step, smooth * max(right - left, high - low) / MOST_RAYS)
    margin = MARGIN * step
    columns = math.ceil((right - left + 2 * margin) / step)
    rows = math.ceil((high - low + 2 * margin) / step)
    fine = step / smooth
    hits = cast_rays(
        stage, camera, left - margin, high + margin, fine, columns * smooth, rows * smooth
    )
    return shade_as_felt(stage.actors, hits, colours, (left - margin, high + margin), step, smooth)


def shade_as_felt(
    actors: Sequence[Actor],
    hits: Hits,
    colours: Mapping[str, str],
    corner: tuple[float, float],
    step: float,
    smooth: int = 1,
) -> Picture:
    """Return the hits shaded as felt; ``corner`` is the picture's left and top (mm in the view)."""
    colour = _shade_hits(actors, hits, colours, step / smooth)
    alpha = _fuzz_cover(hits, smooth)
    names = tuple(dict.fromkeys(actor.part for actor in actors))
    index = np.array([names.index(actor.part) for actor in actors], dtype=np.int16)
    owner = np.full(hits.shape[0] * hits.shape[1], -1, dtype=np.int16)
    owner[hits.found] = index[hits.actor]
    owner = owner.reshape(hits.shape)[smooth // 2 :: smooth, smooth // 2 :: smooth]
    return Picture(_average_rays(colour, alpha, smooth), owner, names, *corner, step)


def _shade_hits(
    actors: Sequence[Actor], hits: Hits, colours: Mapping[str, str], step: float
) -> Float32:
    """Return the colour of every pixel, (rows, columns, 3) in 0..1."""
    n = hits.normal
    fibre, nap = _fibre_nap(hits)
    bent = n + nap * np.float32(0.22)
    bent /= np.linalg.norm(bent, axis=1, keepdims=True)
    furred = _visible_furs(actors, hits)
    base = _base_colours(actors, hits, colours, furred)
    felt = np.array([actor.felt is not None for actor in actors])[hits.actor]
    facing = np.clip(n[:, 2], 0, 1)
    diffuse = np.clip((np.where(felt[:, None], bent, n) @ LIGHT + 0.30) / 1.30, 0, 1)
    sky = 0.5 + 0.5 * n[:, 1]
    light = 0.34 + 0.20 * sky + 0.60 * diffuse
    light *= 1 - 0.42 * _crevice_shade(hits, step)
    light *= _rows_of_fur(hits, furred)
    light = light * np.where(felt, 1 + 0.20 * fibre, 1.0)
    # Loose fibres at a grazing angle catch light: what makes felt look soft.
    velvet = np.where(felt, 0.20 * (1 - facing) ** 3, 0.0)[:, None]
    colour = base * light[:, None] + velvet * (0.35 + 0.65 * base)
    colour = _polish_glass(actors, hits, colour.astype(np.float32))
    whole = np.zeros((hits.shape[0] * hits.shape[1], 3), dtype=np.float32)
    whole[hits.found] = np.clip(colour, 0, 1)
    return whole.reshape(*hits.shape, 3)


def _base_colours(
    actors: Sequence[Actor], hits: Hits, colours: Mapping[str, str], furred: Sequence[Furred]
) -> Float32:
    dyes = np.array([rgb(_outer_colour(actor, colours)) for actor in actors], dtype=np.float32)
    base = dyes[hits.actor]
    for i, actor in enumerate(actors):
        if actor.felt is None or not actor.felt.patches:
            continue
        mine = np.flatnonzero(hits.actor == i)
        for place in actor.felt.patches:
            under = points_in_places(
                actor.felt.shape, place.where, hits.local[mine], hits.local_normal[mine]
            )
            base[mine[under]] = rgb(colours.get(place.wool or "", "#888888"))
    for fur, here in furred:
        base[here] = rgb(colours.get(fur.wool, "#888888"))
    return base


def _visible_furs(actors: Sequence[Actor], hits: Hits) -> list[Furred]:
    """Return every visible fur, where it grows."""
    found: list[Furred] = []
    for i, actor in enumerate(actors):
        if actor.felt is None or not actor.felt.furs:
            continue
        mine = np.flatnonzero(hits.actor == i)
        grown = _fur_at_pixels(actor.felt, hits, mine)
        for k, place in enumerate(actor.felt.furs):
            here = mine[grown == k]
            if place.fur is not None and len(here):
                found.append((place.fur, here))
    return found


def _fur_at_pixels(part: Part, hits: Hits, mine: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return which of its furs grows at each of the pixels of a part that are ``mine``, (n,); -1 for none."""
    found = np.full(len(mine), -1)
    furs = 0
    for place in part.places:
        if not (place.fur or place.bare):
            continue
        under = points_in_places(part.shape, place.where, hits.local[mine], hits.local_normal[mine])
        found[under] = furs if place.fur else -1
        furs += place.fur is not None
    return found


def _outer_colour(actor: Actor, colours: Mapping[str, str]) -> str:
    if actor.piece is not None:
        return actor.piece.colour
    assert actor.felt is not None
    wool = actor.felt.coat.wool if actor.felt.coat else actor.felt.core
    return colours.get(wool, "#888888")


@remembered(256)
def rgb(colour: str) -> tuple[float, float, float]:
    return tuple(int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5))  # type: ignore[return-value]


def _polish_glass(actors: Sequence[Actor], hits: Hits, colour: Float32) -> Float32:
    """Return pixels with glass and metal: a bright highlight and, for metal, a band of reflected room."""
    half = LIGHT + np.array([0, 0, 1], dtype=np.float32)
    half /= np.linalg.norm(half)
    for i, actor in enumerate(actors):
        if actor.piece is None or actor.piece.finish == "matt":
            continue
        mine = np.flatnonzero(hits.actor == i)
        glint = np.clip(hits.normal[mine] @ half, 0, 1)
        if actor.piece.finish == "glass":
            colour[mine] += (0.95 * glint**60)[:, None]
        else:
            room = 0.16 * np.sin(hits.normal[mine, 0] * 5.5 + 0.6)
            colour[mine] = colour[mine] * (1 + room)[:, None] + (0.45 * glint**18)[:, None]
    return colour


def _rows_of_fur(hits: Hits, furred: Sequence[Furred]) -> Float32:
    """Return the lightness of each hit by the fur on it, (n,): every row is shadowed by the one over its
    roots. Rows run along the part's own axis, ragged by the length of the nap."""
    light = np.ones(len(hits.found), dtype=np.float32)
    tile = fibre_tile()[0]
    for fur, here in furred:
        around = np.arctan2(hits.local[here, 1], hits.local[here, 0])
        lock = tile[7, (around / math.tau * TILE).astype(np.int64) % TILE]
        up = hits.local[here, 2] if fur.lie == "tip" else -hits.local[here, 2]
        under = (up / fur.spacing + 0.35 * lock) % 1.0
        light[here] = 0.72 + 0.34 * under
    return light


def _fibre_nap(hits: Hits) -> tuple[Float32, Float32]:
    """Return the lightness (n,) and tilt (n, 3) of the nap, from a tile of fibres laid over each part.

    The tile is laid along the two local axes that the skin faces least, so it stays with the part.
    """
    tile, slope_x, slope_y = fibre_tile()
    axis = np.abs(hits.local_normal).argmax(axis=1)
    rows = np.arange(len(axis))
    across = hits.local[rows, (axis + 1) % 3] / _TILE_MM + 0.37 * hits.actor
    along = hits.local[rows, (axis + 2) % 3] / _TILE_MM + 0.61 * hits.actor
    i = (along * TILE).astype(np.int64) % TILE
    j = (across * TILE).astype(np.int64) % TILE
    nap = np.stack([slope_x[i, j], slope_y[i, j], np.zeros(len(i), dtype=np.float32)], axis=1)
    return tile[i, j], nap


@remembered(1)
def fibre_tile() -> tuple[Float32, Float32, Float32]:
    """Return a repeating tile of matted fibres: lightness and its slopes, about -1..1, (512, 512).

    It is shipped, since laying its fibres takes a tenth of a second at every start; ``scripts/fibre_tile.py``
    lays them.
    """
    kept = (files("bambola") / "shipped" / "fibres.z").read_bytes()
    levels = np.frombuffer(zlib.decompress(kept), dtype=np.int8).reshape(TILE, TILE)
    mix = levels.astype(np.float32) / TILE_LEVELS
    return mix, np.roll(mix, 1, 1) - np.roll(mix, -1, 1), np.roll(mix, 1, 0) - np.roll(mix, -1, 0)


def blur_image(image: NDArray[np.floating], radius: int) -> NDArray[np.float64]:
    """Return the mean over a square of ``2 radius + 1``, the image repeating at its edges."""
    out = np.asarray(image, dtype=np.float64)
    width = 2 * radius + 1
    for axis in (0, 1):
        lines = np.moveaxis(out, axis, 0)
        n = len(lines)
        around = np.concatenate([lines[n - radius - 1 :], lines, lines[:radius]])
        total = np.cumsum(around, axis=0, out=around)
        mean = total[width : width + n] - total[:n]
        mean /= width
        out = np.moveaxis(mean, 0, axis)
    return out


def _crevice_shade(hits: Hits, step: float) -> Float32:
    """Return how enclosed each hit is, 0..1: nearby felt in front keeps the light away."""
    far = float(hits.depth.max()) if len(hits.depth) else 0.0
    depth = np.full(hits.shape[0] * hits.shape[1], far)
    depth[hits.found] = hits.depth
    depth = depth.reshape(hits.shape)
    size = max(hits.shape) * step / 3
    shut = np.zeros(hits.shape)
    for share in (0.012, 0.035):
        radius = max(1, min(round(share * size * 2 / step), min(hits.shape) // 4))
        shut += np.clip((depth - blur_image(depth, radius)) / (share * size * 2.2), 0, 1) * 0.5
    return shut.reshape(-1)[hits.found].astype(np.float32)


def _fuzz_cover(hits: Hits, smooth: int) -> Float32:
    """Return the coverage of every pixel, with a soft and ragged edge of stray fibres."""
    mask = np.zeros(hits.shape[0] * hits.shape[1], dtype=np.float32)
    mask[hits.found] = 1.0
    soft = blur_image(mask.reshape(hits.shape), smooth)
    tile = fibre_tile()[0]
    rows, columns = hits.shape
    ragged = np.tile(tile, (rows // TILE + 1, columns // TILE + 1))[:rows, :columns]
    return np.clip((soft + 0.16 * ragged - 0.30) / 0.45, 0, 1).astype(np.float32) * (soft > 0)


def _average_rays(colour: Float32, alpha: Float32, smooth: int) -> NDArray[np.uint8]:
    """Return the average ``smooth`` × ``smooth`` rays into each pixel, weighted by coverage."""
    red, green, blue = (colour[..., k] for k in range(3))
    seen = ((red > 0) | (green > 0) | (blue > 0)).astype(np.float32)
    # Beyond the edge a stray fibre has the colour of the felt next to it.
    spread = np.stack([blur_image(dye, 1 + smooth) for dye in (red, green, blue)], axis=-1)
    weight = blur_image(seen, 1 + smooth)[..., None]
    filled = np.where(seen[..., None] > 0, colour, spread / np.maximum(weight, 1e-6))
    rows, columns = alpha.shape[0] // smooth, alpha.shape[1] // smooth
    blocks = (rows, smooth, columns, smooth)
    cover = alpha.reshape(blocks).mean(axis=(1, 3))
    lit = (filled * alpha[..., None]).reshape(*blocks, 3).mean(axis=(1, 3))
    out = np.empty((rows, columns, 4), dtype=np.uint8)
    out[..., :3] = np.clip(lit / np.maximum(cover, 1e-6)[..., None] * 255, 0, 255)
    out[..., 3] = cover * 255
    return out

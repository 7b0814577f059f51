"""Pictures of a figure in progress: each part's rays are cast once, however many pictures show it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure import Shape
from bambola.core.memo import remembered
from bambola.core.relief.camera import Actor, Camera, Float32, Hits, actors_of, cast_rays, set_up
from bambola.core.relief.picture import (
    LIGHT,
    MARGIN,
    Picture,
    blur_image,
    fibre_tile,
    rgb,
    shade_as_felt,
)
from bambola.core.solids import Detail, Placement


class Growing:
    """Pictures of the states of ``whole`` from one side at the same resolution: ``most`` pixels across and
    up."""

    def __init__(
        self,
        whole: Placement,
        camera: Camera,
        most: tuple[float, float],
        colours: Mapping[str, str],
    ) -> None:
        self.camera, self.colours = camera, colours
        actors = tuple(actors_of(whole, Detail.UNION))
        left, right, low, high = set_up(actors, whole.ground).bounds(camera)
        self.step = max((right - left) / most[0], (high - low) / most[1])
        self.left, self.top = left - MARGIN * self.step, high + MARGIN * self.step
        self.columns = math.ceil((right - left) / self.step) + 2 * MARGIN
        self.rows = math.ceil((high - low) / self.step) + 2 * MARGIN
        self._seen: dict[tuple[Shape, bytes], Hits] = {}

    def picture(self, shown: Placement) -> Picture:
        """Return the hits of a placement, as if cast in one scene."""
        actors = tuple(actors_of(shown, Detail.UNION))
        hits = _nearest_hits([self._hits_of(actor, shown.ground) for actor in actors])
        return shade_as_felt(actors, hits, self.colours, (self.left, self.top), self.step)

    def _hits_of(self, actor: Actor, ground: float) -> Hits:
        key = actor.shape, actor.matrix.tobytes()
        if key not in self._seen:
            self._seen[key] = self._cast_rays(actor, ground)
        return self._seen[key]

    def _cast_rays(self, actor: Actor, ground: float) -> Hits:
        """Return the rays that can hit ``actor``, as pixels of the whole."""
        stage, step = set_up((actor,), ground), self.step
        left, right, low, high = stage.bounds(self.camera)
        first, last = _pixel_range(left - self.left, right - self.left, step, self.columns)
        above, below = _pixel_range(self.top - high, self.top - low, step, self.rows)
        corner = self.left + first * step, self.top - above * step
        hits = cast_rays(stage, self.camera, *corner, step, last - first, below - above)
        row, column = np.divmod(hits.found, last - first)
        found = (row + above) * self.columns + column + first
        return replace(hits, shape=(self.rows, self.columns), found=found)


def _pixel_range(near: float, far: float, step: float, most: int) -> tuple[int, int]:
    """Return the first pixel from ``near`` to ``far`` (mm) and the one past the last: at least one."""
    first = min(max(math.floor(near / step), 0), most - 1)
    return first, max(first + 1, min(math.ceil(far / step), most))


def _nearest_hits(seen: Sequence[Hits]) -> Hits:
    """Return the nearest hit at every pixel over all actors."""
    shape = seen[0].shape
    met, depth = np.concatenate([s.found for s in seen]), np.concatenate([s.depth for s in seen])
    least = np.full(shape[0] * shape[1], np.inf, dtype=np.float32)
    np.minimum.at(least, met, depth)
    # Where two are as near, the first is written last.
    nearest = np.flatnonzero(depth == least[met])[::-1]
    which = np.full(len(least), -1)
    which[met[nearest]] = nearest
    found = np.flatnonzero(which >= 0)
    at = which[found]
    owner = np.repeat(np.arange(len(seen), dtype=np.int32), [len(s.found) for s in seen])
    local, normal, local_normal = (
        np.concatenate([getattr(s, name) for s in seen])[at]
        for name in ("local", "normal", "local_normal")
    )
    return Hits(shape, found, owner[at], depth[at], local, normal, local_normal)


SIDE = 220


@remembered(128)
def bundle_picture(colour: str, loose: bool) -> NDArray[np.uint8]:
    """Return a round bundle filling a (220, 220, 4) RGBA picture; stretch it to the bundle's sides."""
    lit, rim, alpha = _light_on(loose)
    base = np.array(rgb(colour), dtype=np.float32)
    whiten = np.float32(0.10 if loose else 0.0)
    shade = (base * (1 - whiten) + whiten) * lit + rim * (
        np.float32(0.35) + np.float32(0.65) * base
    )
    out = np.empty((SIDE, SIDE, 4), dtype=np.uint8)
    out[..., :3] = np.clip(shade, 0, 1) * 255
    out[..., 3] = alpha * 255
    return out


@remembered(2)
def _light_on(loose: bool) -> tuple[Float32, Float32, Float32]:
    """Return what does not depend on the colour: the light on a bundle and at its rim, (220, 220, 1), and the
    coverage of each pixel, (220, 220)."""
    tile = fibre_tile()
    line = ((np.arange(SIDE) + 0.5) / SIDE * 2 - 1).astype(np.float32)
    x, y = np.meshgrid(line, -line)
    radius = np.hypot(x, y)
    inner = np.float32(0.86 if loose else 0.93)
    z = np.sqrt(np.maximum(1 - (radius / inner) ** 2, 0))
    offset = 40 if loose else 280
    nap = [part[offset : offset + SIDE, 60 : 60 + SIDE] for part in tile]
    if loose:  # loose wool is cloudy: its fibres lie apart
        nap = [
            np.float32(0.45) * part + np.float32(2.2) * blur_image(part, 5).astype(np.float32)
            for part in nap
        ]
    depth = np.float32(0.16 if loose else 0.20)
    across, up, out = x / inner + nap[1] * depth, y / inner + nap[2] * depth, z + np.float32(0.15)
    facing = (across * LIGHT[0] + up * LIGHT[1] + out * LIGHT[2]) / np.sqrt(
        across * across + up * up + out * out
    )
    lit = 0.46 + 0.60 * np.clip((facing + np.float32(0.3)) / np.float32(1.3), 0, 1)
    lit *= 1 + np.float32(0.16 if loose else 0.12) * nap[0]
    rim = (0.22 * np.clip(radius / inner, 0, 1) ** 4)[..., None]
    stray = blur_image(nap[0], 1 if loose else 0)
    edge = 0.20 if loose else 0.05
    alpha = np.clip((inner - radius + edge * stray * 0.32 + edge * 0.35) / edge, 0, 1)
    return lit[..., None].astype(np.float32), rim.astype(np.float32), alpha.astype(np.float32)

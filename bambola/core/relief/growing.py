"""Pictures of a figure in progress: each part's rays are cast once, however many pictures show it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from bambola.core.figure import Shape
from bambola.core.relief.camera import Actor, Camera, Hits, actors_of, cast_rays, set_up
from bambola.core.relief.picture import MARGIN, Picture, shade_as_felt
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
        hits = _nearest([self._hits(actor, shown.ground) for actor in actors])
        return shade_as_felt(actors, hits, self.colours, (self.left, self.top), self.step)

    def _hits(self, actor: Actor, ground: float) -> Hits:
        key = actor.shape, actor.matrix.tobytes()
        if key not in self._seen:
            self._seen[key] = self._cast(actor, ground)
        return self._seen[key]

    def _cast(self, actor: Actor, ground: float) -> Hits:
        """Return the rays that can hit ``actor``, as pixels of the whole."""
        stage, step = set_up((actor,), ground), self.step
        left, right, low, high = stage.bounds(self.camera)
        first, last = _pixels(left - self.left, right - self.left, step, self.columns)
        above, below = _pixels(self.top - high, self.top - low, step, self.rows)
        corner = self.left + first * step, self.top - above * step
        hits = cast_rays(stage, self.camera, *corner, step, last - first, below - above)
        row, column = np.divmod(hits.found, last - first)
        found = (row + above) * self.columns + column + first
        return replace(hits, shape=(self.rows, self.columns), found=found)


def _pixels(near: float, far: float, step: float, most: int) -> tuple[int, int]:
    """Return the first pixel from ``near`` to ``far`` (mm) and the one past the last: at least one."""
    first = min(max(math.floor(near / step), 0), most - 1)
    return first, max(first + 1, min(math.ceil(far / step), most))


def _nearest(seen: Sequence[Hits]) -> Hits:
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

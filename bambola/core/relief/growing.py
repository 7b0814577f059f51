"""A figure as more and more of it stands: every part's rays are cast once, however many pictures show it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bambola.core.figure import Shape
from bambola.core.relief.camera import Actor, Camera, Hits, actors_of, cast, set_up
from bambola.core.relief.picture import Picture, felted
from bambola.core.solids import Detail, Placement


@dataclass(frozen=True, slots=True)
class Frame:
    """The pixels that all pictures share: ``left``, ``top`` (mm as seen), ``step`` mm a pixel."""

    left: float
    top: float
    step: float
    columns: int
    rows: int


class Growing:
    """Pictures of one figure in its states, seen from one side in one frame."""

    def __init__(self, camera: Camera, frame: Frame, colours: Mapping[str, str]) -> None:
        self.camera, self.frame, self.colours = camera, frame, colours
        self._seen: dict[tuple[Shape, bytes], Hits] = {}

    def picture(self, shown: Placement) -> Picture:
        """What is placed, as it would be met by the rays of one stage."""
        actors = tuple(actors_of(shown, Detail.UNION))
        hits = _nearest([self._hits(actor, shown.ground) for actor in actors])
        frame = self.frame
        return felted(actors, hits, self.colours, (frame.left, frame.top), frame.step)

    def _hits(self, actor: Actor, ground: float) -> Hits:
        key = actor.shape, actor.matrix.tobytes()
        if key not in self._seen:
            self._seen[key] = self._cast(actor, ground)
        return self._seen[key]

    def _cast(self, actor: Actor, ground: float) -> Hits:
        """The rays that can meet ``actor``, as pixels of the whole frame."""
        frame, stage = self.frame, set_up((actor,), ground)
        left, right, low, high = stage.bounds(self.camera)
        first, last = _pixels(left - frame.left, right - frame.left, frame.step, frame.columns)
        above, below = _pixels(frame.top - high, frame.top - low, frame.step, frame.rows)
        corner = frame.left + first * frame.step, frame.top - above * frame.step
        hits = cast(stage, self.camera, *corner, frame.step, last - first, below - above)
        row, column = np.divmod(hits.found, last - first)
        found = (row + above) * frame.columns + column + first
        return replace(hits, shape=(frame.rows, frame.columns), found=found)


def _pixels(near: float, far: float, step: float, most: int) -> tuple[int, int]:
    """The first pixel from ``near`` to ``far`` (mm) and the one past the last: one at least."""
    first = min(max(math.floor(near / step), 0), most - 1)
    return first, max(first + 1, min(math.ceil(far / step), most))


def _nearest(seen: Sequence[Hits]) -> Hits:
    """Of what each actor's rays met, what lies nearest at every pixel."""
    shape = seen[0].shape
    depth = np.full(shape[0] * shape[1], np.inf, dtype=np.float32)
    owner = np.full(len(depth), -1, dtype=np.int32)
    for i, hits in enumerate(seen):
        nearer = hits.depth < depth[hits.found]
        depth[hits.found[nearer]] = hits.depth[nearer]
        owner[hits.found[nearer]] = i
    found = np.flatnonzero(owner >= 0)
    local, normal, local_normal = (np.empty((len(found), 3), dtype=np.float32) for _ in range(3))
    for i in np.unique(owner[found]).tolist():
        at = np.flatnonzero(owner[found] == i)
        among = np.searchsorted(seen[i].found, found[at])
        local[at], normal[at] = seen[i].local[among], seen[i].normal[among]
        local_normal[at] = seen[i].local_normal[among]
    return Hits(shape, found, owner[found], depth[found], local, normal, local_normal)

"""Rectangles laid on as few sheets as a good rule finds: each where the least is left beside it.

The rule is the best short side fit among maximal free rectangles, the longest first (J. Jylänki, A thousand
ways to pack the bin, 2010).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple


class Free(NamedTuple):
    """Room on a sheet, from its upper left corner."""

    x: float
    y: float
    wide: float
    high: float


def pack(
    sizes: Sequence[tuple[float, float]], wide: float, high: float
) -> list[list[tuple[int, float, float]]]:
    """Of each sheet ``wide`` by ``high`` which of ``sizes`` (width, height) lie on it and where their upper
    left corners are. None may be larger than a sheet."""
    sheets: list[list[tuple[int, float, float]]] = []
    free: list[list[Free]] = []
    longest_first = sorted(range(len(sizes)), key=lambda i: max(sizes[i]), reverse=True)
    for i in longest_first:
        w, h = sizes[i]
        fits = [
            (min(room.wide - w, room.high - h), n, room)
            for n, rooms in enumerate(free)
            for room in rooms
            if w <= room.wide and h <= room.high
        ]
        if not fits:
            sheets.append([])
            free.append([Free(0.0, 0.0, wide, high)])
            fits = [(0.0, len(free) - 1, free[-1][0])]
        _, n, room = min(fits, key=lambda fit: fit[0])
        sheets[n].append((i, room.x, room.y))
        free[n] = _left(free[n], Free(room.x, room.y, w, h))
    return sheets


def _left(rooms: Sequence[Free], taken: Free) -> list[Free]:
    """The largest rectangles that are free once ``taken`` is; they may overlap."""
    found: list[Free] = []
    for room in rooms:
        right, low = room.x + room.wide, room.y + room.high
        end, foot = taken.x + taken.wide, taken.y + taken.high
        if taken.x >= right or end <= room.x or taken.y >= low or foot <= room.y:
            found.append(room)
            continue
        found += [
            Free(room.x, room.y, taken.x - room.x, room.high),
            Free(end, room.y, right - end, room.high),
            Free(room.x, room.y, room.wide, taken.y - room.y),
            Free(room.x, foot, room.wide, low - foot),
        ]
    found = list(dict.fromkeys(room for room in found if room.wide > 0 and room.high > 0))
    return [a for a in found if not any(a is not b and _holds(b, a) for b in found)]


def _holds(outer: Free, inner: Free) -> bool:
    return (
        outer.x <= inner.x
        and outer.y <= inner.y
        and outer.x + outer.wide >= inner.x + inner.wide
        and outer.y + outer.high >= inner.y + inner.high
    )

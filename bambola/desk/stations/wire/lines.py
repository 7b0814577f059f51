"""Lines of wire on the screen: their colours, and their offsets beside each other."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor

from bambola.core.armature import CutWire
from bambola.desk.kit.theme import Theme


def wire_colours(theme: Theme) -> tuple[QColor, ...]:
    """Return the colours of wires in turn; each wire also carries its number."""
    d = theme.dyes
    return d.woad, d.madder, d.lichen, d.weld, d.quiet


def clear_of(taken: Sequence[QRectF], box: QRectF, gap: float) -> QRectF:
    """Return ``box`` moved to the nearest place where it covers none of ``taken``."""
    high, wide = box.height() + gap, box.width() + gap
    moves = [
        (0, 0),
        (1, 0),
        (-1, 0),
        (0, 1),
        (0, -1),
        (1, 1),
        (-1, 1),
        (1, -1),
        (-1, -1),
        (2, 0),
        (-2, 0),
    ]
    for x, y in moves:
        moved = box.translated(x * wide, y * high)
        if not any(moved.intersects(other) for other in taken):
            return moved
    return box


def wire_offsets(wires: Sequence[CutWire]) -> dict[tuple[str, int], float]:
    """Return for every run of every wire its offset, so that wires on one bone are drawn side by side."""
    on_bone: dict[frozenset[str], list[tuple[str, int]]] = {}
    for wire in wires:
        runs = [s for s in wire.stretches if s.kind == "run"]
        for i, run in enumerate(runs):
            on_bone.setdefault(frozenset((run.a, run.b)), []).append((wire.id, i))
    return {key: n - (len(keys) - 1) / 2 for keys in on_bone.values() for n, key in enumerate(keys)}


def perpendicular_offset(a: QPointF, b: QPointF, by: float, flipped: bool) -> QPointF:
    """Return an offset perpendicular to a line, independent of its direction."""
    length = math.hypot(b.x() - a.x(), b.y() - a.y())
    if length < 1e-6:
        return QPointF()
    sense = -by if flipped else by
    return QPointF(-(b.y() - a.y()) / length, (b.x() - a.x()) / length) * sense


def distance(at: QPointF, a: QPointF, b: QPointF) -> float:
    """Return how far a place is from the line a to b, px."""
    along = b - a
    size = along.x() ** 2 + along.y() ** 2
    share = 0.0 if size < 1e-9 else max(0.0, min(1.0, QPointF.dotProduct(at - a, along) / size))
    foot = a + along * share
    return math.hypot(at.x() - foot.x(), at.y() - foot.y())

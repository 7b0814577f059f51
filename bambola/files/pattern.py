"""Reads the closed outlines of an SVG (W3C, SVG 1.1) as pattern pieces at true size.

Runs in a helper process with limits, since a drawing may refer to itself without end.
"""

from __future__ import annotations

import io
import json
import math
import sys
from collections.abc import Iterator
from pathlib import Path
from threading import Event
from typing import Any

import numpy as np

from bambola.files.limited import limit_self, run_helper
from bambola.files.reading import FileRefusedError, read_regular, short_name
from bambola.language import tr

MOST_BYTES = 4_000_000
MOST_PIECES = 60
CPU_S, PATIENCE_S = 5, 10.0
MEMORY_BYTES = 1_000_000_000
_MM_PX = 25.4 / 96
"""A drawing's own unit where it says no other: CSS has 96 to an inch."""
_STEPS = 160
"""Places along each piece; it is told in as many."""
_SHUT = 0.01
"""An outline whose ends are nearer than this share of its length is closed."""


def read_pattern(path: Path, stop: Event | None = None) -> tuple[tuple[str, np.ndarray], ...]:
    """Return the closed outlines of the SVG at ``path``, the largest first: names and points (n, 2), mm, with
    y downwards.

    Raises :class:`FileRefusedError`, and :class:`StoppedError` once ``stop`` is set.
    """
    data, name = read_regular(path, MOST_BYTES, tr("a drawing")), short_name(path)
    answer = run_helper(__name__, (), data, PATIENCE_S, stop)
    try:
        found = [(called, np.array(places)) for called, places in json.loads(answer)]
    except (ValueError, TypeError):
        raise FileRefusedError(
            tr("{name}: this is not an SVG that can be read, or it is too large.", name=name)
        ) from None
    if not found:
        raise FileRefusedError(
            tr("{name}: no closed outline is in it; each piece is one closed line.", name=name)
        )
    return tuple(found)


def main() -> None:
    """Print the pieces of the drawing on standard input."""
    limit_self(CPU_S, MEMORY_BYTES)
    pieces = sorted(
        _closed_outlines(sys.stdin.buffer.read()), key=lambda piece: -_shoelace_area(piece[1])
    )
    print(json.dumps([(name, places.round(4).tolist()) for name, places in pieces[:MOST_PIECES]]))


def _closed_outlines(data: bytes) -> Iterator[tuple[str, np.ndarray]]:
    """Yield the name and the places (n, 2), mm, of each closed outline; y goes down."""
    from svgelements import SVG, Path, Shape

    if b"<!ENTITY" in data:
        raise ValueError
    for element in SVG.parse(io.BytesIO(data), reify=True, ppi=96).elements():
        if not isinstance(element, Shape) or element.values.get("visibility") == "hidden":
            continue
        for n, part in enumerate(Path(element).as_subpaths()):
            places = _outline_points(Path(part)) * _MM_PX
            if _shoelace_area(places) > 0:
                yield (_element_name(element) if n == 0 else ""), places


def _outline_points(path: Any) -> np.ndarray:
    """Return points along one outline; empty if it is open."""
    length = path.length(error=1e-3)
    first, last = path.first_point, path.current_point
    if not length or math.dist(first, last) > _SHUT * length:
        return np.zeros((0, 2))
    return np.array([tuple(path.point(at)) for at in np.linspace(0, 1, _STEPS, endpoint=False)])


def _element_name(element: Any) -> str:
    labels = (said for key, said in element.values.items() if str(key).endswith("label") and said)
    return str(next(labels, element.id or ""))


def _shoelace_area(places: np.ndarray) -> float:
    """Return the area of an outline by the shoelace formula, mm²."""
    if len(places) < 3:
        return 0.0
    x, y = places.T
    return float(abs(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2)


if __name__ == "__main__":
    main()

"""What is seen in pictures, as it was looked at: silhouettes, lines read in them, shapes laid on the lines.

``make snapshots`` writes it anew, after somebody has looked at what changed and meant it.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import Any

import cv2
import numpy as np

from bambola.core.facts import RefusedError
from bambola.core.figure.shapes import KINDS
from bambola.core.figure.survey import Sight, Stroke, Trace
from bambola.core.sight.build import build_part
from bambola.core.sight.fit import fit_chain, fit_shape, propose_kind
from bambola.core.sight.profile import read_trace
from bambola.core.sight.silhouette import Pixels, Silhouette, separate_silhouette
from bambola.core.solids import Copy, place
from bambola.demo import HERON, load_demo
from tests.core.test_sight import drawn, photograph, to_px

_LINES: dict[str, list[tuple[float, float]]] = {
    "body": [(0.6, 31.0), (-0.8, 88.4)],
    "body, slanting": [(-9.0, 34.0), (12.0, 84.0)],
    "neck": [(3.0, 80.0), (7.0, 104.0), (14.0, 124.0)],
    "leg": [(-11.0, 0.8), (-11.5, 20.0), (-9.0, 42.0)],
    "head": [(14.0, 118.0), (24.0, 138.5)],
    "bill": [(26.0, 130.0), (56.0, 126.0)],
    "beside it": [(-40.0, 20.0), (-44.0, 60.0)],
}


def _bird(u: np.ndarray, v: np.ndarray) -> np.ndarray:
    """A body with a neck, a head and a bill, on two legs that lean; mm."""
    body = ((u - 0.08 * (v - 60)) / (23 - 0.12 * (v - 60))) ** 2 + ((v - 60) / 29) ** 2 <= 1
    neck = (np.abs(u - 3 - 0.006 * (v - 80) ** 2) < 6.5 - 0.05 * (v - 80)) & (v > 78) & (v < 124)
    head = ((u - 20) / 11) ** 2 + ((v - 128) / 9) ** 2 <= 1
    bill = (np.abs(v - 130 + 0.13 * (u - 26)) < 4.2 - 0.13 * (u - 26)) & (u > 24) & (u < 55)
    legs = (np.abs(np.abs(u + 1 + 0.05 * v) - 10) < 2.6) & (v > 0) & (v < 45)
    found: np.ndarray = body | neck | head | bill | legs
    return found


def _picture() -> Pixels:
    """A figure of two colours in front of a wall that grows darker, its underside in shadow."""
    picture, figure = photograph(260, 200)
    y, x = np.mgrid[0:260, 0:200] / 260
    lit = np.where(figure, 1.15 - 0.5 * y, 1.05 - 0.5 * x)[..., None]
    made = picture * lit
    made[60:66, 40:44] = (226, 218, 200)  # a crumb, and a pinhole
    made[100:102, 97:99] = (70, 110, 76)
    return np.clip(made, 0, 255).astype(np.uint8)


def sight_now() -> dict[str, Any]:
    """All of it, as it is now."""
    return {"seen": seen(), "laid": laid()}


def seen() -> dict[str, list[Any]]:
    """Silhouettes by what was asked: their scale, how sure they are, and what of each square is figure."""
    picture, whole = _picture(), (0.0, 0.0, 200.0, 260.0)
    half = cv2.resize(picture, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    off = Stroke(points=((100.0, 20.0), (104.0, 60.0), (90.0, 80.0)), radius=7, figure=False)
    on = Stroke(points=((30.0, 200.0),), radius=9, figure=True)
    large = cv2.resize(picture, None, fx=3.0, fy=3.0, interpolation=cv2.INTER_CUBIC)
    return {
        "as it is": _squares(separate_silhouette(picture)),
        "with strokes": _squares(separate_silhouette(picture, (off, on))),
        "cropped beyond the edge": _squares(
            separate_silhouette(picture, crop=(-20, -20, 110, 300))
        ),
        "cropped to all of it": _squares(separate_silhouette(picture, crop=whole)),
        "cropped within": _squares(separate_silhouette(picture, (on,), crop=(60, 70, 150, 180))),
        "half as large": _squares(separate_silhouette(half.astype(np.uint8), (off, on), scale=0.5)),
        "larger than what is cut": _squares(separate_silhouette(large.astype(np.uint8)), 60),
    }


def _squares(found: Silhouette, wide: int = 10) -> list[Any]:
    rows, columns = (n // wide * wide for n in found.cover.shape)
    parts = found.cover[:rows, :columns].reshape(rows // wide, wide, columns // wide, wide)
    shares = parts.mean(axis=(1, 3))
    return [round(found.scale, 4), round(found.sure, 2), np.round(shares, 2).tolist()]


def traces() -> Iterator[tuple[str, Trace]]:
    """Lines drawn through the bird, as they are read."""
    sight = drawn(_bird, (600, 600))
    for name, line in _LINES.items():
        view: Sight = "side" if "slanting" in name else "front"
        yield name, read_trace(sight, to_px, "part", view, line)
    loose = read_trace(sight, to_px, "part", "back", _LINES["body"], snap_tip=False)
    yield "body, its tip as drawn", loose


def laid() -> dict[str, Any]:
    """Every line, and every kind of shape on it: alone, and with what was there before."""
    made: dict[str, Any] = {}
    before = {copy.part.id: copy for copy in place(load_demo(HERON).figure).copies}
    every = dict(traces())
    for name, trace in every.items():
        made[name] = {
            "points": _rounded(trace.points),
            "left": _rounded(trace.left),
            "right": _rounded(trace.right),
            "proposed": propose_kind(trace),
        }
        for kind in ("ball", "cone", "pad", "sausage", "turned"):
            found = fit_shape(kind, trace)
            made[name][kind] = [
                *_rounded((found.start, found.end, tuple(found.across.values()))),
                round(found.miss, 3),
            ]
        chain = fit_chain(trace, 5)
        made[name]["chain"] = _rounded((chain.centres, chain.thickness))
    pairs = [*((a, b) for a, b in pairwise(every) if "," in b), *((name, "") for name in _LINES)]
    for kind in KINDS:
        for one, other in pairs:
            both = [every[n] for n in (one, other) if n]
            for was in (None, before["body"]):
                key = f"{kind} of {one} + {other or 'nothing'}{', as it was' if was else ''}"
                made[key] = _built(kind, both, was, not other)
    return made


def _built(kind: str, traces: list[Trace], was: Copy | None, paired: bool) -> Any:
    try:
        found = build_part(kind, traces, was, paired)
    except RefusedError as error:
        return str(error)
    shape = found.shape.model_dump(mode="json")
    own = [_rounded(v) for v in shape.values() if not isinstance(v, str)]
    return [*own, *_rounded((found.base, found.turn)), sorted(found.seen)]


def _rounded(numbers: Any) -> Any:
    """Lists of numbers to a hundredth, however deep."""
    if isinstance(numbers, dict):
        return [_rounded(each) for each in numbers.values()]
    if isinstance(numbers, list | tuple):
        return [_rounded(each) for each in numbers]
    if isinstance(numbers, np.ndarray):
        return np.round(numbers, 2).tolist()
    return round(float(numbers), 2)

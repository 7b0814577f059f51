"""The wool of the pieces of a face: threads, pinches and half discs, felted firm on the skin."""

from __future__ import annotations

import math

from bambola.core.figure import Place, Shape
from bambola.core.figure.places import Laid, Line
from bambola.core.solids.regions import place_mm

DOME = 0.35
"""A pinch stands out by so much of its width, and so does an eye of wool. Judged. See craft.md, 10."""
HAIRS_MM = 0.8
"""A line narrower than this is laid of single hairs: a wisp cannot be twisted so thin. Judged.
See craft.md, 10."""
LID_SHARE, LID_MM = 0.2, 1.0
"""A lid is as thick as this share of its height, at least so much. Judged. See craft.md, 10."""
TEN_HAIRS_G = 0.0005
"""Fewer hairs than ten are no piece of a face: they are not seen. Judged. See craft.md, 10."""
_OF_KIND: dict[str, Laid] = {
    "nose": "pinch", "nostril": "pinch", "cheek": "pinch", "white": "pinch", "pupil": "pinch",
    "highlight": "hairs", "lid": "half-disc",
}  # fmt: skip


def laid_as(place: Place) -> Laid:
    """Return how a piece of a face is laid: as its maker chose, else as usual for its kind."""
    if place.laid is not None:
        return place.laid
    usual: Laid = _OF_KIND.get(place.face or "", "twist")
    wide = place.where.wide if isinstance(place.where, Line) else math.inf
    return "hairs" if usual == "twist" and wide < HAIRS_MM else usual


def felted_eye_cm3(wide_mm: float) -> float:
    """Return the volume of an eye of wool, felted firm: half an egg, DOME of its width high."""
    return 2 / 3 * math.pi * (wide_mm / 2) ** 2 * DOME * wide_mm / 1000


def piece_mm(shape: Shape, place: Place) -> tuple[float, float]:
    """Return the length of a piece over the skin of ``shape`` and its width, mm."""
    return place_mm(shape, place.where)


def is_thread(place: Place) -> bool:
    """Return whether a piece runs along a line; else it is a spot or an area."""
    return isinstance(place.where, Line) and not place.is_spot


def piece_cm3(shape: Shape, place: Place) -> float:
    """Return the felted volume of one piece, cm³: a thread as round as it is wide; half an egg; half a disc;
    threads laid side by side over an area."""
    long, wide = piece_mm(shape, place)
    match laid_as(place):
        case "pinch" if not is_thread(place):
            return 2 / 3 * math.pi * (long / 2) * (wide / 2) * DOME * wide / 1000
        case "half-disc":
            return math.pi / 4 * long * wide * max(LID_MM, LID_SHARE * wide) / 1000
        case "hairs" | "twist" if not is_thread(place):
            return math.pi / 4 * long * wide * min(wide, HAIRS_MM) / 1000
        case _:
            return math.pi / 4 * wide**2 * long / 1000

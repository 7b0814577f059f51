"""Which pieces of a face are too small to be made at a size, and which a larger face gains."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from bambola.core.figure import Fitting, Part, SizeRule
from bambola.core.figure.additions import eye_mm, face_bearer
from bambola.core.figure.places import FaceKind

LEAST_EYE_MM: dict[FaceKind, float] = {
    "highlight": 2.5,
    "pupil": 2.5,
    "white": 2.5,
    "lid": 4.0,
    "lash": 4.0,
    "rim": 5.0,
}
"""On smaller eyes there is none of these. Judged. See craft.md, 9."""
LEAST_FACE_MM: dict[FaceKind, float] = {"nostril": 25.0, "nose-line": 25.0, "brow": 25.0}
"""On a smaller face there is none of these. Judged. See craft.md, 9."""
LARGE_FACE_MM = 60.0
"""A larger face has lids, rims, nostrils and brows besides. Judged. See craft.md, 9."""


def too_small(part: Part, fittings: Iterable[Fitting], parts: Sequence[Part]) -> tuple[str, ...]:
    """Return the ids of the pieces of the face on ``part`` that are too small to be made."""
    if not any(place.face for place in part.places):
        return ()
    bearer = face_bearer(part, fittings, parts)
    eye, face = eye_mm(bearer, fittings, parts), bearer.shape.smallest_mm
    return tuple(
        place.id
        for place in part.places
        if place.face is not None
        and (
            (eye is not None and eye < LEAST_EYE_MM.get(place.face, 0.0))
            or face < LEAST_FACE_MM.get(place.face, 0.0)
        )
    )


def pieces_gained(
    part: Part, fittings: Iterable[Fitting], parts: Sequence[Part]
) -> tuple[FaceKind, ...]:
    """Return the pieces a face as large as ``part`` gains; none if there is no face."""
    there = {place.face for place in part.places if place.face}
    eye = eye_mm(part, fittings, parts)
    if part.shape.smallest_mm <= LARGE_FACE_MM or eye is None:
        return ()
    about: tuple[FaceKind, ...] = ("lid", "rim")
    found = [kind for kind in about if eye >= LEAST_EYE_MM[kind] and kind not in there]
    found += ["nostril"] if "nose" in there and "nostril" not in there else []
    return (*found, "brow") if "brow" not in there else tuple(found)


LARGER_A_HALVING, MOST_LARGER = 0.1, 0.2
"""Eyes are so much larger, as a share, for every time that a figure is halved, and never more than by the
other. See craft.md, 2."""
LINE_MM = 2.5
"""What is not as thick as this on a face is a line on it. See craft.md, 2."""
FINER = 0.5
"""The width of a line goes with this power of the scale. See craft.md, 2."""


def eyes_times(s: float) -> float:
    """Return the extra factor on the size of eyes at scale ``s``."""
    return 1.0 + min(MOST_LARGER, LARGER_A_HALVING * max(0.0, -math.log2(s)))


def fitting_times(fitting: Fitting, s: float) -> float:
    """Return that factor for a fitting: 1 for anything but eyes."""
    return eyes_times(s) if fitting.kind == "eye" and fitting.follows != "hold" else 1.0


def size_corrections(part: Part, s: float) -> tuple[SizeRule, ...]:
    """Return the size rules that correct a part at scale ``s``; none if nothing needs it."""
    if part.eye and s < 1:
        return (SizeRule(rule="multiply", value=eyes_times(s)),)
    if part.face and s > 1 and not part.shape.flat and part.shape.smallest_mm < LINE_MM:
        measures = part.shape.measures()
        longest = max(measures, key=lambda name: measures[name])
        finer = s ** (FINER - 1)
        return tuple(
            SizeRule(measure=name, rule="multiply", value=finer)
            for name in measures
            if name != longest
        )
    return ()

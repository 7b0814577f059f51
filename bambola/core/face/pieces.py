"""Ready pieces of a face: mouths, lids, noses and so on, placed by the eyes."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from bambola.core.face.marks import seen_on
from bambola.core.figure import Figure, Part, Shape
from bambola.core.figure.additions import face_bearer
from bambola.core.figure.graft import with_place
from bambola.core.figure.places import FaceKind, LaidAnswer, Line
from bambola.core.figure.places import Place as Piece
from bambola.core.frozen import frozen
from bambola.core.solids import place
from bambola.core.solids.forms import box_of, seat_point

NO_EYES, EYE_SHARE = (0.55, 26.0), 1 / 7
"""Where eyes would be on a face without, and how large beside its width. Judged. See craft.md, 9."""
NOSE_MM = 1.25
"""A nose is so many times as wide as an eye: eyes are a bit smaller. Given. See craft.md, 9."""
LID_LONG, LID_HIGH, RIM = 1.3, 0.4, 0.2
"""A lid is 1.2 to 1.4 times as long as its eye is wide (given), and so high beside it; a rim is 15 to 25 % of
it wide. Judged. See craft.md, 9."""
WHITE = 1.4
"""The white of an eye beside it. Judged. See craft.md, 9."""
LINE_MM = 1.2
"""A new mouth is so wide, as a drawn line is at least. Judged. See craft.md, 9."""


@frozen
class _Plan:
    """The plan of a face: place and size of its eyes, and how many degrees and shares of length are a mm
    there."""

    along: float
    around: float
    eye: float
    degrees: float
    share: float

    def at(self, down: float, aside: float) -> tuple[float, float]:
        """Return the place this far below the eye line and from the midline, mm."""
        return min(0.99, max(0.01, self.along - down * self.share)), aside * self.degrees

    @property
    def eye_aside(self) -> float:
        """The distance of an eye from the midline, mm."""
        return self.around / self.degrees


@frozen
class Preset:
    """A ready piece: its kind, its line by the plan of the face, and how it is laid."""

    id: str
    face: FaceKind
    way: Callable[[_Plan], tuple[tuple[float, float], ...]]
    wide: Callable[[_Plan], float]
    mirrored: bool = False
    laid: LaidAnswer | None = None


def _brow(plan: _Plan, rise: float, slant: float, long: float) -> tuple[tuple[float, float], ...]:
    """Return a line over an eye from its inner to its outer side, this far above its middle, mm; ``slant``
    lifts the outer end, as a share of ``long``."""
    half = long / 2
    return (
        plan.at(-rise + slant * half, plan.eye_aside - half),
        plan.at(-rise - 0.2 * long, plan.eye_aside),
        plan.at(-rise - slant * half, plan.eye_aside + half),
    )


def _mouth_line(curve: float) -> Callable[[_Plan], tuple[tuple[float, float], ...]]:
    """Return a line with corners just inside the eyes and its middle lower, by a share of its length."""

    def way(plan: _Plan) -> tuple[tuple[float, float], ...]:
        half, down = 0.8 * plan.eye_aside, 2.2 * plan.eye
        low = down + curve * 2 * half
        return plan.at(down, -half), plan.at(low, 0.0), plan.at(down, half)

    return way


def _ring_line(plan: _Plan) -> tuple[tuple[float, float], ...]:
    turns = np.linspace(0, 2 * math.pi, 13).tolist()
    reach = plan.eye / 2 * (1 + RIM / 2)
    return tuple(plan.at(reach * math.cos(t), plan.eye_aside + reach * math.sin(t)) for t in turns)


PRESETS = (
    Preset("mouth-smile", "mouth", _mouth_line(0.14), lambda p: LINE_MM),
    Preset("mouth-straight", "mouth", _mouth_line(0.0), lambda p: LINE_MM),
    Preset("mouth-open", "mouth", lambda p: (p.at(2.5 * p.eye, 0.0),), lambda p: 0.9 * p.eye_aside,
           laid="pinch"),
    Preset("nose", "nose", lambda p: (p.at(p.eye, 0.0),), lambda p: NOSE_MM * p.eye),
    Preset("nose-line", "nose-line",
           lambda p: (p.at(1.5 * p.eye, 0.0), p.at(2.2 * p.eye, 0.0)), lambda p: LINE_MM),
    Preset("nostrils", "nostril", lambda p: (p.at(1.2 * p.eye, 0.3 * p.eye),), lambda p: 0.25 * p.eye, True),
    Preset("lid-calm", "lid", lambda p: _brow(p, 0.25 * p.eye, 0.0, LID_LONG * p.eye),
           lambda p: LID_HIGH * p.eye, True),
    Preset("lid-sleepy", "lid", lambda p: _brow(p, -0.05 * p.eye, -0.1, LID_LONG * p.eye),
           lambda p: 1.2 * LID_HIGH * p.eye, True),
    Preset("lid-stern", "lid", lambda p: _brow(p, 0.2 * p.eye, 0.35, LID_LONG * p.eye),
           lambda p: LID_HIGH * p.eye, True),
    Preset("lid-lower", "lid",
           lambda p: tuple(p.at(0.55 * p.eye, p.eye_aside + k * LID_LONG * p.eye / 2) for k in (-1, 0, 1)),
           lambda p: 0.6 * LID_HIGH * p.eye, True),
    Preset("rims", "rim", _ring_line, lambda p: RIM * p.eye, True),
    Preset("lashes", "lash",
           lambda p: (p.at(-0.4 * p.eye, p.eye_aside + 0.4 * p.eye), p.at(-0.7 * p.eye, p.eye_aside + p.eye)),
           lambda p: 0.6, True),
    Preset("cheeks", "cheek", lambda p: (p.at(1.5 * p.eye, 1.4 * p.eye_aside),), lambda p: 1.6 * p.eye, True),
    Preset("brows", "brow", lambda p: _brow(p, 0.95 * p.eye, 0.0, 1.4 * p.eye), lambda p: 0.3 * p.eye, True),
    Preset("whites", "white", lambda p: (p.at(0.0, p.eye_aside),), lambda p: WHITE * p.eye, True),
    Preset("pupils", "pupil", lambda p: (p.at(0.0, p.eye_aside),), lambda p: 0.5 * p.eye, True),
    Preset("highlights", "highlight", lambda p: (p.at(-0.2 * p.eye, p.eye_aside + 0.15 * p.eye),),
           lambda p: 0.2 * p.eye, True),
)  # fmt: skip
PRESET_BY_ID = {preset.id: preset for preset in PRESETS}
"""Three mouths, four lids and the rest."""


def plan_of_face(figure: Figure, part: Part) -> _Plan:
    """Return the plan of the face of ``part``: by its eyes (fittings or parts), or where they would be."""
    shape = part.shape
    found = [
        (f.seat.along, abs(f.seat.around), f.size)
        for f in figure.fittings
        if f.part == part.id and f.kind == "eye"
    ] + [
        (p.seat.along, abs(p.seat.around), min(p.shape.extents()[1:]))
        for p in figure.parts
        if p.parent == part.id and p.eye
    ]
    wide = float(2 * box_of(shape)[1][0])
    along, around, eye = found[0] if found else (*NO_EYES, EYE_SHARE * wide)
    around = around if around > 1.0 else NO_EYES[1]
    return _Plan(along, around, eye, *_degrees_and_share(shape, along, around))


def _degrees_and_share(shape: Shape, along: float, around: float) -> tuple[float, float]:
    def far(a: tuple[float, float], b: tuple[float, float]) -> float:
        return float(np.linalg.norm(seat_point(shape, *a, 1.0) - seat_point(shape, *b, 1.0)))

    low = max(0.02, along - 0.2)
    return (
        around / max(1e-6, far((along, 0.0), (along, around))),
        (along - low) / max(1e-6, far((low, around), (along, around))),
    )


def with_piece(
    figure: Figure, part: str, preset: str, wool: str, called: str
) -> tuple[Figure, str, str]:
    """Return ``figure`` with a piece of its face on ``part``, or on a snout there, that part's id, and the
    piece's id. A snout's face is that of its bearer."""
    part = face_bearer(figure.by_id[part], figure.fittings, figure.parts).id
    chosen, plan = PRESET_BY_ID[preset], plan_of_face(figure, figure.by_id[part])
    part, way = seen_on(place(figure), part, chosen.way(plan))
    where = Line(way=way, wide=max(0.3, chosen.wide(plan)), mirrored=chosen.mirrored)
    piece = Piece(
        id=chosen.face, name=called, where=where, wool=wool, face=chosen.face, laid=chosen.laid
    )
    new, name = with_place(figure, part, piece)
    return new, part, name

"""Marking a face before anything is fixed on it: every mark by its distances, in three views."""

from __future__ import annotations

import numpy as np

from bambola.core.face import Face, Mark
from bambola.core.face.marks import SAME_MM, Thread
from bambola.core.facts import NOTHING, Fact, Mm, fact
from bambola.core.figure.shapes import ProfileShape
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Number,
    Piece,
    Point,
    StepDrawing,
    line,
    oval,
)
from bambola.core.methods.parts import SQUARE, across, card, check, run
from bambola.core.methods.values import Card, Method
from bambola.core.plan.reading.faces import face_advice
from bambola.core.solids.forms import Array, profile, seat_point
from bambola.core.solids.outlines import level_halves
from bambola.core.wool import finished_size

LEVEL_MM, LEVEL_SHARE, SMALL_HEAD_MM = 0.5, 0.03, 20.0
"""Left and right are alike within these; on a smaller head two dots do. Judged. See craft.md, 10."""

_SMALL = 0.5
"""The views beside the front are so much smaller; nothing is measured in them."""


def face_at(at: StepInPlan) -> Face | None:
    """Return the marks on the part of the step."""
    return next((face for face in at.plan.faces if face.part == at.row.id), None)


def _distance_fact(mark: Mark) -> Fact:
    down, aside = Mm(mark.from_crown_mm), Mm(mark.from_midline_mm)
    if mark.from_midline_mm < SAME_MM:
        return fact("mark.on-midline", mark=mark.name, down=down)
    return fact("mark.both" if mark.both else "mark.aside", mark=mark.name, down=down, aside=aside)


def _thread_fact(level: tuple[Thread, Mark] | None) -> Fact | None:
    if level is None:
        return None
    thread, mark = level
    long = Mm(thread.round_mm)
    if mark.is_of_eyes:
        return fact("mark.thread-long", long=long)
    return fact("mark.thread-at", mark=mark.name, long=long)


def _card(at: StepInPlan) -> Card:
    small = min(at.row.to_mm.values()) < SMALL_HEAD_MM
    wide, face = max(at.row.to_mm.values()), face_at(at)
    marks = face.named_marks if face else ()
    level = face.thread if face else None
    at_eyes = face is None or (level is not None and level[1].is_of_eyes)
    first = (
        Fact("mark.dots")
        if small
        else fact(
            "mark.strip-long" if face.is_head else "mark.strip-over",
            part=at.part_name,
            long=Mm(face.strip_mm),
        )
        if face
        else fact("mark.strip", part=at.part_name)
    )
    return card(
        at,
        "mark",
        (
            first,
            *(_distance_fact(mark) for mark in marks),
            Fact("mark.thread") if face is None else _thread_fact(level),
            Fact("mark.upside"),
            None if small else Fact("mark.scratch-all"),
        ),
        start=NOTHING if small else Fact("mark.pins"),
        needles=(run(40, slots.DEPTH_MM["mark"], SQUARE, "only"),),
        until=fact("mark.until", off=Mm(max(LEVEL_MM, LEVEL_SHARE * wide))),
        checks=(
            check("level" if at_eyes else "marks-true"),
            *(() if small else (check("pins-out"),)),
        ),
        scale=face_advice(at.plan.scale) or Fact("mark.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the part from the front, the side and upside down, a pin at every mark."""
    shape = at.placed[0].shape
    along, wide, deep = finished_size(shape).values()
    face = face_at(at)
    marks = face.named_marks if face else ()
    pin, beside = 0.045 * wide, 1.05 * wide + _SMALL * max(wide, deep) / 2
    upper, lower = np.array([beside, along * 0.27]), np.array([beside, -along * 0.27])
    front, side = _part_outline(shape, front=True), _part_outline(shape, front=False)
    pieces: list[Piece] = [
        DrawnArea(front, "wool"),
        DrawnArea(_SMALL * side + upper, "wool"),
        DrawnArea(-_SMALL * front + lower, "wool"),
        DrawnLine(line((0.0, -along / 2), (0.0, along / 2)), "cut"),
    ]
    if face and face.thread and isinstance(shape, ProfileShape):
        level = face.thread[0].along
        half, rise = level_halves(shape, level)[0], (level - 0.5) * along
        pieces.append(DrawnLine(oval(2 * half, along * 0.08, (0.0, rise), 0.5, 180), "thread"))
    pins: list[tuple[float, Point]] = []
    for mark in marks:
        x, y, z = seat_point(shape, mark.along, mark.around, 1.0)
        z -= along / 2
        for way in (1, -1) if mark.both else (1,):
            pieces.append(_pin_dot(pin, (way * x, z)))
            pieces.append(_pin_dot(pin * 0.7, _offset_point(lower, -way * x, -z)))
        pieces.append(_pin_dot(pin * 0.7, _offset_point(upper, y, z)))
        pins.append((z, (float(x), float(z))))
    pieces += _numbered_pins(pins, along, 0.5 * wide + 0.2 * wide)
    pieces += [
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -along * 0.64),
        across((0.0, -along / 2), (0.0, along / 2), along, wide * 0.66),
    ]
    return StepDrawing(tuple(pieces))


def _offset_point(middle: Array, x: float, y: float) -> Point:
    return float(middle[0] + _SMALL * x), float(middle[1] + _SMALL * y)


def _pin_dot(size: float, at: Point) -> DrawnArea:
    return DrawnArea(oval(size, size, at), "paper", "cut")


def _numbered_pins(pins: list[tuple[float, Point]], along: float, x: float) -> list[Piece]:
    """Return numbers for all pins, in a column beside the front view with leader lines."""
    pieces: list[Piece] = []
    order = sorted(range(len(pins)), key=lambda i: -pins[i][0])
    apart = min(along * 0.2, along / max(1, len(pins) - 1))
    top = (len(pins) - 1) / 2 * apart
    for rank, i in enumerate(order):
        at = (x, top - rank * apart)
        pieces.append(DrawnLine(line(pins[i][1], at), "hidden"))
        pieces.append(Number(at, i + 2))
    return pieces


def _part_outline(shape: object, front: bool) -> Array:
    """Return the part's outline about its middle, from the front or the left."""
    assert hasattr(shape, "extents")
    along, wide, deep = shape.extents()
    if not isinstance(shape, ProfileShape):
        return oval(wide if front else deep, along)
    form = profile(shape)
    half = form.half_width if front else form.half_depth
    up = form.z - along / 2
    return np.vstack([np.column_stack([half, up]), np.column_stack([-half, up])[::-1]])


SENTENCES: dict[str, str | Plural] = {
    "mark.strip": N_(
        "Lay a strip of paper from crown to chin on {part}, and carry the marks over."
    ),
    "mark.strip-long": N_(
        "Lay a strip of paper from crown to chin on {part}, {long} over the surface."
    ),
    "mark.strip-over": N_(
        "Lay a strip of paper from the crown of {part} down over the front, {long} in all."
    ),
    "mark.on-midline": N_("{mark}: {down} down from the crown, on the midline."),
    "mark.both": N_("{mark}: {down} from the crown, {aside} to each side of the midline."),
    "mark.aside": N_("{mark}: {down} from the crown, {aside} from the midline."),
    "mark.thread-long": N_("Lay a thread round at the eyes, {long} long: it runs level."),
    "mark.thread-at": N_("{mark}: lay a thread round there, {long} long: it runs level."),
    "mark.dots": N_("On so small a head, make two dots with the needle."),
    "mark.pins": N_("Pins for nose and eyes, heads in sight."),
    "mark.thread": N_("Lay a thread round at the line of the eyes."),
    "mark.upside": N_("Look from the front, the side, above, and upside down."),
    "mark.scratch-all": N_("Scratch the outlines with the needle, and take the pins out."),
    "mark.until": N_("Left and right are alike, within {off}."),
    "mark.scale": N_("Eyes and nose follow the head; on a small one less is drawn."),
    "mark.why": N_("By eye alone a face ends up askew; a mark can be moved, a hole cannot."),
}

METHOD = Method("mark", lambda at: at.sort == "mark", _card, _picture)

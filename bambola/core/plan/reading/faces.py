"""The faces of a plan: where every mark lies now and lay before, and what moved because eyes come in whole
sizes."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.face import Face, Mark, faces_of, over_surface
from bambola.core.facts import Fact
from bambola.core.frozen import frozen
from bambola.core.plan.making.values import Plan
from bambola.core.solids import place


@frozen
class MarkRow:
    """One mark: its distances from the crown and from the midline over the surface, now and as made
    (``was_mm``). ``moved_mm`` is how much farther from the midline it is than even growth would put it.
    ``both``: it is on both sides."""

    id: str
    words: Fact
    from_crown_mm: float
    from_midline_mm: float
    was_mm: dict[str, float]
    moved_mm: float
    both: bool


@frozen
class FaceRow:
    """The marks on one part, from the crown down; ``strip_mm`` is the distance from crown to chin."""

    part: str
    name: str
    strip_mm: float
    marks: tuple[MarkRow, ...]


SMALLER, BIGGER = 0.75, 1.5
"""A face this many times as large says less, or wants more, than the one that was made. Judged.
See craft.md, 2."""


def face_advice(scale: float) -> Fact | None:
    """Return which details a face of the new size loses or gains; None if it is much the same."""
    if scale <= SMALLER:
        return Fact("face.smaller")
    return Fact("face.bigger") if scale >= BIGGER else None


def face_rows(plan: Plan) -> tuple[FaceRow, ...]:
    """Return the faces of a plan; none if nothing is marked."""
    was = {face.part: face for face in faces_of(place(plan.resized.was))}
    return tuple(_face_row(face, was.get(face.part), plan) for face in plan.faces)


def _face_row(face: Face, was: Face | None, plan: Plan) -> FaceRow:
    before = {mark.id: mark for mark in was.marks} if was else {}
    shape = plan.resized.figure.by_id[face.part].shape
    rows = []
    for mark in face.marks:
        old = before.get(mark.id, mark)
        moved = 0.0
        if abs(mark.around - old.around) > 1e-6:
            there = (mark.along, old.around)
            moved = mark.from_midline_mm - float(
                over_surface(shape, [(there, (there[0], -there[1]))])[0] / 2
            )
        rows.append(_mark_row(mark, old, moved))
    return FaceRow(face.part, face.name, face.strip_mm, tuple(rows))


def _mark_row(mark: Mark, old: Mark, moved: float) -> MarkRow:
    was: Mapping[str, float] = {
        "from_crown_mm": old.from_crown_mm,
        "from_midline_mm": old.from_midline_mm,
    }
    return MarkRow(
        mark.id,
        mark.name,
        mark.from_crown_mm,
        mark.from_midline_mm,
        dict(was),
        moved,
        mark.both,
    )

"""Ready expressions and poses: how marks, ears, head and limbs move. They can be adjusted afterwards."""

from __future__ import annotations

from bambola.core.face.marks import Face, Mark, faces_of, piece_of
from bambola.core.figure import Figure, Leaf, Limb, PoseBend, Tilt
from bambola.core.figure.variants import Alteration, Shift
from bambola.core.frozen import frozen
from bambola.core.solids import Placement, place
from bambola.core.solids.forms import Array


@frozen
class Expression:
    """How much everything moves: eyes, corners of the mouth, lids and ears up the head (share of it), ears
    leaning out and the head nodding and leaning (degrees). Judged. See craft.md, 9."""

    id: str
    eyes: float = 0.0
    mouth: float = 0.0
    lids: float = 0.0
    ears: float = 0.0
    ear_lean: float = 0.0
    nod: float = 0.0
    lean: float = 0.0


EXPRESSIONS = (
    Expression("happy", eyes=0.015, mouth=0.03, lids=0.01, ears=0.015, ear_lean=-6.0, nod=-5.0),
    Expression("sad", eyes=-0.015, mouth=-0.03, lids=-0.015, ears=-0.03, ear_lean=18.0, nod=9.0),
    Expression(
        "sleepy", eyes=-0.03, mouth=-0.01, lids=-0.04, ears=-0.02, ear_lean=10.0, nod=7.0, lean=5.0
    ),
    Expression("alert", eyes=0.02, lids=0.02, ears=0.025, ear_lean=-10.0, nod=-6.0),
    Expression("gentle", eyes=-0.01, mouth=0.01, ears=-0.01, ear_lean=5.0, nod=3.0, lean=7.0),
)
EXPRESSION_BY_ID = {expression.id: expression for expression in EXPRESSIONS}
SIT_DEG, REACH_DEG, WAVE_DEG = 85.0, 60.0, 130.0
"""A leg that sits, arms that hold something in front, an arm that waves. Judged. See craft.md, 9."""
_MOUTHS = ("mouth", "lip", "smile")


def with_expression(
    figure: Figure, change: Alteration, expression: Expression | None
) -> Alteration:
    """Return ``change`` with another expression of eyes, mouth, ears and head; an empty one removes it."""
    placement = place(figure)
    shifts = {k: v for k, v in change.shifts.items() if k not in _faces_moved(figure, placement)}
    if expression is None:
        return change.replaced(shifts=shifts)
    for face in faces_of(placement):
        for mark in face.marks:
            by = _shift_of_mark(mark, face, figure, expression)
            if by:
                shifts[_id_of(mark)] = by
    head = _tilted_head(figure, placement)
    if head is not None:
        shifts[head] = Shift(nod=expression.nod, lean=expression.lean)
    return change.replaced(shifts=shifts)


def _shift_of_mark(mark: Mark, face: Face, figure: Figure, e: Expression) -> Shift | None:
    words = _id_of(mark).lower()
    if mark.kind == "piece" and words.startswith(("lid", "brow", "rim", "lash")):
        return Shift(along=e.lids + e.eyes)
    part = figure.by_id.get(mark.about)
    if part is not None and isinstance(part.shape, Leaf):
        return Shift(along=e.ears, lean=e.ear_lean)
    if any(word in words for word in _MOUTHS):
        return Shift(along=e.mouth)
    if mark.is_of_eyes:
        return Shift(along=e.eyes)
    return None


def _id_of(mark: Mark) -> str:
    """Return the id of what a mark stands for."""
    return piece_of(mark.about)[1] if mark.kind == "piece" else mark.about


def _faces_moved(figure: Figure, placement: Placement) -> set[str]:
    """Return the things an expression moves."""
    found = {_id_of(mark) for face in faces_of(placement) for mark in face.marks}
    head = _tilted_head(figure, placement)
    return found | ({head} if head else set())


def _tilted_head(figure: Figure, placement: Placement) -> str | None:
    """Return the part with the face that sits on another: the one that is tilted."""
    for face in faces_of(placement):
        if figure.by_id[face.part].parent is not None and any(
            m.kind == "fitting" for m in face.marks
        ):
            return face.part
    parts = [face.part for face in faces_of(placement)]
    return next((p for p in parts if figure.by_id[p].parent is not None), None)


def posed_as(figure: Figure, change: Alteration, pose: str) -> Alteration:
    """Return ``change`` with a ready pose: ``sitting``, ``waving``, ``holding``; anything else is as made."""
    arms, legs = _arms_and_legs(figure)
    made = list(figure.pose)
    if pose == "sitting" and legs:
        bends = [_bend_forward(figure, leg, SIT_DEG) for leg in legs]
        return change.replaced(pose=(*_bends_of_others(made, legs), *bends), stance="sitting")
    if pose == "waving" and arms:
        wave = _raise_limb(figure, arms[0])
        return change.replaced(pose=(*_bends_of_others(made, arms[:1]), wave), stance=None)
    if pose == "holding" and arms:
        hold = [_bend_forward(figure, arm, REACH_DEG) for arm in arms]
        return change.replaced(pose=(*_bends_of_others(made, arms), *hold), stance=None)
    return change.replaced(pose=None, stance=None)


def _bend_forward(figure: Figure, limb: str, degrees: float) -> PoseBend:
    """Return a limb bent at its first joint so that its end comes forwards, whatever its own axes."""
    tried = [PoseBend(part=limb, joint=0, tilt=Tilt(nod=sign * degrees)) for sign in (1.0, -1.0)]
    return min(tried, key=lambda bend: _limb_end(figure, bend)[1])


def _raise_limb(figure: Figure, limb: str) -> PoseBend:
    """Return the left one of a pair bent so that its end is up."""
    tried = [
        PoseBend(part=limb, joint=0, side="left", tilt=Tilt(lean=sign * WAVE_DEG))
        for sign in (1.0, -1.0)
    ]
    return max(tried, key=lambda bend: _limb_end(figure, bend)[2])


def _limb_end(figure: Figure, bend: PoseBend) -> Array:
    """Return where the left limb ends with this bend alone, in the figure's axes."""
    others = tuple(b for b in figure.pose if b.part != bend.part)
    copy = place(figure.replaced(pose=(*others, bend))).copies_of(bend.part)[0]
    return copy.point(1.0)


def _bends_of_others(pose: list[PoseBend], limbs: list[str]) -> list[PoseBend]:
    return [bend for bend in pose if bend.part not in limbs]


def _arms_and_legs(figure: Figure) -> tuple[list[str], list[str]]:
    """Return arms and legs: paired limbs on the trunk that begin in its upper or lower half."""
    root = next(part.id for part in figure.parts if part.parent is None)
    limbs = [p for p in figure.parts if p.pair and isinstance(p.shape, Limb) and p.parent == root]
    arms = [p.id for p in limbs if p.seat.along >= 0.5]
    return arms, [p.id for p in limbs if p.seat.along < 0.5]

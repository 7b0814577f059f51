"""The visible faults, one entry each: what must be measured, and on which parts and steps they occur. A new
symptom is an entry here and its sentences in ``core/words``."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from bambola.core.frozen import frozen
from bambola.core.order import PartJob, Step
from bambola.core.order.keys import SECOND
from bambola.core.plan import Plan

Group = Literal["size", "felt", "skin", "join", "face", "fur", "wire", "whole"]
Shows = Callable[[PartJob, Plan], bool]
Reads = tuple[str, ...]


def _always_true(job: PartJob, plan: Plan) -> bool:
    return True


def _is_flat(job: PartJob, plan: Plan) -> bool:
    return job.flat


def _has_coat(job: PartJob, plan: Plan) -> bool:
    return job.coat is not None


def _has_bearer(job: PartJob, plan: Plan) -> bool:
    return job.parent is not None


def _is_paired(job: PartJob, plan: Plan) -> bool:
    return job.count == 2 or SECOND in job.id


def _is_wired(job: PartJob, plan: Plan) -> bool:
    return job.made == "on wire" or bool(job.wires)


def _has_fur(job: PartJob, plan: Plan) -> bool:
    return job.fur_rows > 0


def _has_eyes(job: PartJob, plan: Plan) -> bool:
    return any(f.part == job.id and f.kind == "eye" for f in plan.work.fittings) or any(
        p.parent == job.id and p.face for p in plan.work.parts
    )


def _is_neck(job: PartJob, plan: Plan) -> bool:
    return job.id == plan.work.neck


def _is_limb(job: PartJob, plan: Plan) -> bool:
    return job.limb


@frozen
class Symptom:
    """One: its id, what it is about, how many remedies there are in words, what must be read (``needs``) and
    what may be (``reads``); ``sized`` ones are worked out, ``firmness`` says that it is about how it feels,
    ``pair`` that it is of two. ``shows`` says on which parts; ``sorts`` at which sorts of steps it is
    first."""

    id: str
    group: Group
    remedies: int
    needs: Reads = ()
    reads: Reads = ()
    sized: bool = False
    firmness: bool = False
    pair: bool = False
    shows: Shows = _always_true
    sorts: frozenset[str] = frozenset()


_SHAPED = frozenset({"core", "detail", "hard"})
_SKINNED = frozenset({"coat", "inset", "finish"})
_SET = frozenset({"join", "blend", "pair", "peg"})
BOTH: Reads = ("length", "thickness")

SYMPTOMS: tuple[Symptom, ...] = (
    Symptom("too-long", "size", 4, ("length",), BOTH, sized=True, sorts=_SHAPED),
    Symptom("too-short", "size", 3, ("length",), BOTH, sized=True, sorts=_SHAPED),
    Symptom("too-thick", "size", 3, ("thickness",), BOTH, sized=True, sorts=_SHAPED),
    Symptom("too-thin", "size", 3, ("thickness",), BOTH, sized=True, sorts=_SHAPED),
    Symptom("too-big", "size", 3, BOTH, BOTH, sized=True, sorts=_SHAPED),
    Symptom("too-small", "size", 3, BOTH, BOTH, sized=True, sorts=_SHAPED),
    Symptom("long-and-thin", "size", 2, BOTH, BOTH, sized=True, shows=_is_limb, sorts=_SHAPED),
    Symptom(
        "uneven",
        "size",
        3,
        BOTH,
        (*BOTH, "twin_length", "twin_thickness"),
        sized=True,
        pair=True,
        shows=_is_paired,
        sorts=_SHAPED,
    ),
    Symptom(
        "too-soft",
        "felt",
        3,
        ("firmness",),
        (*BOTH, "firmness"),
        sized=True,
        firmness=True,
        sorts=_SHAPED,
    ),
    Symptom("too-firm", "felt", 4, shows=_has_bearer, sorts=_SET),
    Symptom("dented", "felt", 3, sorts=_SHAPED | _SET),
    Symptom("flattened", "felt", 3, sorts=_SHAPED),
    Symptom("crack", "felt", 2, sorts=_SHAPED),
    Symptom("hole", "felt", 3),
    Symptom("floppy", "felt", 5, shows=_is_flat, sorts=_SHAPED),
    Symptom("blunt-point", "felt", 3, shows=_is_flat, sorts=_SHAPED),
    Symptom("will-not-felt", "felt", 3, sorts=_SHAPED),
    Symptom("stuck", "felt", 2, sorts=_SHAPED),
    Symptom("core-shows", "skin", 3, shows=_has_coat, sorts=_SKINNED),
    Symptom("colour-through", "skin", 3, sorts=_SKINNED),
    Symptom("wrong-colour", "skin", 4, sorts=_SHAPED | _SKINNED),
    Symptom("pits", "skin", 3, sorts=_SKINNED),
    Symptom("hairy", "skin", 3, sorts=_SKINNED),
    Symptom("dirty", "skin", 3, sorts=_SKINNED),
    Symptom("ran-out", "skin", 5, sorts=_SKINNED | {"fur"}),
    Symptom("wrong-place", "join", 3, shows=_has_bearer, sorts=_SET),
    Symptom("joint-shows", "join", 4, shows=_has_bearer, sorts=_SET),
    Symptom("head-wobbles", "join", 4, shows=_is_neck, sorts=_SET),
    Symptom("neck-long", "join", 2, shows=_is_neck, sorts=_SET),
    Symptom("legs-thin", "size", 1, shows=_is_limb, sorts=_SET),
    Symptom("face-crooked", "face", 4, shows=_has_eyes, sorts=frozenset({"mark", "socket", "fit"})),
    Symptom("eyes-differ", "face", 3, shows=_has_eyes, sorts=frozenset({"fit", "socket"})),
    Symptom("eye-loose", "face", 2, shows=_has_eyes, sorts=frozenset({"fit", "wait"})),
    Symptom(
        "mouth-crooked", "face", 2, shows=_has_eyes, sorts=frozenset({"detail", "inset", "face"})
    ),
    Symptom("hair-sheds", "fur", 2, shows=_has_fur, sorts=frozenset({"fur"})),
    Symptom("wire-shows", "wire", 4, shows=_is_wired, sorts=_SHAPED),
    Symptom("wool-spins", "wire", 3, shows=_is_wired, sorts=_SHAPED | {"tape"}),
    Symptom("leans", "whole", 4, sorts=frozenset({"check"})),
    Symptom("falls", "whole", 5, sorts=frozenset({"check"})),
    Symptom("needle-broke", "whole", 2),
)
SYMPTOM_BY_ID = {symptom.id: symptom for symptom in SYMPTOMS}


def possible_symptoms(plan: Plan, step: Step) -> tuple[Symptom, ...]:
    """Return the symptoms that can occur at a step: first those of its sort of work, then those of its
    part."""
    job = plan.job_of(step)
    sort = step.key.sort
    if job is None:
        return tuple(s for s in SYMPTOMS if s.group in ("whole", "wire") or sort in s.sorts)
    shown = [s for s in SYMPTOMS if s.shows(job, plan)]
    return tuple(sorted(shown, key=lambda s: sort not in s.sorts))

"""Turns parts, wires and fittings into tasks, before they are put in order.

Tasks hold nothing that changes smoothly with height, so two heights made in the same way have equal tasks and
share one order.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from bambola.core.bench import nearest_needle
from bambola.core.facts import Fact, fact
from bambola.core.order.keys import AT, FINISH, GROUND, LOOP, SKIN, STAND, key_of
from bambola.core.order.work import (
    FittingJob,
    FurJob,
    Kind,
    PartJob,
    Task,
    WireJob,
    Work,
    called,
    drawn_out_of,
    in_blank,
)

(
    NEEDLE_CARE,
    WIRE_CARE,
    BEND_CARE,
    GLUE_CARE,
    AWL_CARE,
    SMALL_CARE,
    CLAY_CARE,
    PIN_CARE,
    CUT_CARE,
) = (
    Fact(f"care.{of}")
    for of in ("needle", "wire", "bend", "glue", "awl", "small", "clay", "pin", "cut")
)
SEW_CARE = Fact("care.sew")
LIGHT, SQUEEZE, TUG, RUB, WIRE_FELT, ROUND_HEAD = (
    Fact(f"check.{of}") for of in ("light", "squeeze", "tug", "rub", "wire", "thread-round-head")
)
SURFACE_NEEDLE = 40
"""Gauge for surface, eyes and rims. See craft.md, 5."""


STOUT_NEEDLE = 36
"""Gauge near a wire and for deep folds: bulk needles are 32 to 36, and the finest of them marks least.
See craft.md, 5."""


STOUT_FROM_MM, MIDDLE_FROM_MM = 30.0, 10.0
"""A part whose smallest measure is larger takes a 36 needle, from the second on a 38, else a 40.
See craft.md, 5."""


JOIN_NEEDLE = 38
"""The finest gauge a part is fixed on with: one for surfaces drives too little through. See craft.md, 5."""


def needle_for(smallest_mm: float) -> int:
    """Return the needle gauge for a smallest dimension."""
    return 36 if smallest_mm > STOUT_FROM_MM else 38 if smallest_mm >= MIDDLE_FROM_MM else 40


def tasks_for(work: Work) -> tuple[Task, ...]:
    """Return all tasks of ``work``, in the order of the figure."""
    if not work.needles:
        return tuple(_all_tasks(work))
    return tuple(
        task
        if task.needle is None or task.needle in work.needles
        else replace(task, needle=nearest_needle(task.needle, work.needles))
        for task in _all_tasks(work)
    )


def _all_tasks(work: Work) -> Iterator[Task]:
    for wire in work.wires:
        cut = "step.cut-peg" if wire.pegs else "step.cut"
        yield Task(key_of("cut", wire.id), "cut wire", None, fact(cut, wire=_wire_name(wire)),
                   cautions=(WIRE_CARE,))  # fmt: skip
        if wire.pegs:
            continue
        bend = "step.bend-and-bind" if wire.onto else "step.bend"
        yield Task(key_of("bend", wire.id), "bend and bind", None, fact(bend, wire=_wire_name(wire)),
                   cautions=(BEND_CARE,))  # fmt: skip
    for wool, name in work.mixes:
        yield Task(key_of("mix", wool), "mix", None, fact("step.mix", wool=name), wool=wool)
    for part in work.parts:
        if part.left_out:
            continue
        yield from _core_tasks(part, work)
        yield from _skin_tasks(part, work)
        yield from _join_tasks(part, work)
        yield from _crease_tasks(part, work)
    yield from _face_tasks(work)
    for fitting in work.fittings:
        yield from _fitting_tasks(fitting)
    if work.hangs:
        yield Task(LOOP, "fit", None, fact("step.loop"), checks=(fact("check.hangs"),))
        last, hold = "step.hang", "check.hang"
    else:
        if work.feet:
            yield Task(GROUND, "check", None, fact("step.ground"),
                       checks=(fact("check.rocking"), fact("check.nudge")))  # fmt: skip
        last, hold = "step.stand", "check.stand"
    yield Task(STAND, "check", None, fact(last), checks=(fact(hold), fact("check.upside")))
    yield Task(FINISH, "finish", None, fact("step.finish"), SURFACE_NEEDLE,
               checks=(RUB, *((WIRE_FELT,) if work.wires else ())),
               cautions=(NEEDLE_CARE, *((SMALL_CARE,) if work.fittings or work.wires else ())))  # fmt: skip
    if work.school("skin") == "glue-soap":
        yield Task(SKIN, "finish", None, fact("step.skin"), cautions=(GLUE_CARE,))


def _wire_name(wire: WireJob) -> Fact:
    """Return a wire's name as a fact; one named by its maker is quoted."""
    if wire.name.kind == "wire-of.one-long":
        return fact("wire.one", name=wire.name)
    if wire.name.kind == "named":
        return fact("wire.given", name=wire.name)
    return fact("wire.named", name=wire.name)


def _part_name(part: PartJob) -> Fact:
    """Return the name of a part, or of both of a pair."""
    return called(part.name, part.plural, part.count)


def _pair_tasks(part: PartJob) -> Fact:
    """Return the tasks of a pair, worked on in turn so that both match."""
    if part.count > 2:
        return Fact("as.in-turn")
    return Fact("as.back-to-back" if part.count == 2 else "nothing")


def _core_tasks(part: PartJob, work: Work) -> Iterator[Task]:
    if part.made == "bought":
        return
    if part.made == "cut":
        how = {"clay": "clay", "yarn": "length", "thread": "length", "chenille": "stem"}
        told = fact(f"step.cut-{how.get(part.stuff, 'out')}", part=_part_name(part))
        yield Task(key_of("pattern", part.id), "cut out", part.id, told,
                   cautions=(CLAY_CARE if part.stuff == "clay" else CUT_CARE,))  # fmt: skip
        return
    if part.made == "detail":
        kind, needle = ("hollow", 38) if part.hollow else ("detail", SURFACE_NEEDLE)
        told = fact(f"step.{kind}", part=_part_name(part), pair=_pair_tasks(part))
        yield Task(key_of("detail", part.id), "detail", part.id, told,
                   needle, part.coat or part.core, cautions=(NEEDLE_CARE,))  # fmt: skip
        return
    soft = left_soft(work, part)
    squeeze = () if soft else (LIGHT,) if part.flat else (SQUEEZE,)
    left = fact("as.soft" if soft else "nothing")
    alone = fact("as.coat-alone" if part.coreless else "nothing")
    wool = part.coat or part.core if part.coreless else part.core
    if part.hard:
        yield Task(key_of("hard", part.id), "shape", part.id, fact("step.hard", hard=part.hard),
                   part.needle, wool, (), (NEEDLE_CARE, fact("care.hard", hard=part.hard)))  # fmt: skip
    if part.made == "in place":
        bearer = next((job.name for job in work.parts if job.id == part.parent), part.name)
        slots = {"part": _part_name(part), "pair": _pair_tasks(part), "soft": left, "alone": alone}
        text = (
            fact("step.draw-out", of=bearer, **slots)
            if part.drawn
            else fact("step.shell" if part.shell else "step.in-place", **slots)
        )
        yield Task(key_of("core", part.id, 1), "shape", part.id, text,
                   part.needle, wool, squeeze, (NEEDLE_CARE,))  # fmt: skip
        return
    wrapped, way = part.made == "on wire", fact("nothing")
    if wrapped and part.limb and not part.stem:
        way = fact(f"as.wound-{work.school('legs').replace(' ', '-')}")
    if part.taped and work.school("tape") == "thin":
        yield Task(key_of("tape", part.id), "tape", part.id,
                   fact("step.tape", part=_part_name(part), pair=_pair_tasks(part)),
                   cautions=(BEND_CARE,))  # fmt: skip
    if part.wound:
        yield Task(key_of("core", part.id, 1), "wrap", part.id,
                   fact("step.wind-with-glue", part=_part_name(part), pair=_pair_tasks(part)),
                   part.needle, wool, (WIRE_FELT,), (GLUE_CARE,))  # fmt: skip
        yield Task(key_of("dry", part.id), "wait", part.id, fact("step.dry", part=_part_name(part)))
        return
    if drawn_out_of(work, part.id):
        yield Task(key_of("core", part.id, 1), "shape", part.id, fact("step.one-ball", part=_part_name(part)),
                   part.needle, wool, (), (NEEDLE_CARE,))  # fmt: skip
        return
    for n in range(1, part.rounds + 1):
        turn = fact("as.round", n=n, of=part.rounds) if part.rounds > 1 else fact("nothing")
        yield Task(key_of("core", part.id, n), "wrap" if wrapped else "shape", part.id,
                   fact("step.wrap" if wrapped else "step.shape", part=_part_name(part), way=way,
                        pair=_pair_tasks(part), round=turn, soft=left, alone=alone),
                   part.needle, wool, (*squeeze, WIRE_FELT) if wrapped else squeeze,
                   (NEEDLE_CARE,))  # fmt: skip


def _skin_tasks(part: PartJob, work: Work) -> Iterator[Task]:
    if part.made == "detail" or not part.is_felted:
        return
    laid = in_blank(work, part)
    for patch in part.insets:
        if patch.id in laid:
            continue
        if patch.face:
            told = fact("step.face", piece=patch.name, part=part.name)
            yield Task(key_of("face", part.id, patch.id), "detail", part.id, told, SURFACE_NEEDLE,
                       patch.wool, (fact("check.front-side"),), (NEEDLE_CARE,))  # fmt: skip
            continue
        kind = "lines" if patch.id in part.lines else "inset"
        yield Task(key_of("inset", part.id, patch.id), "inset", part.id,
                   fact(f"step.{kind}", inset=patch.name, part=part.name),
                   SURFACE_NEEDLE, patch.wool, (fact("check.front-side"),), (NEEDLE_CARE,))  # fmt: skip
    if part.coat and not part.coreless:
        told = fact("step.coat", part=_part_name(part), pair=_pair_tasks(part))
        yield Task(key_of("coat", part.id), "coat", part.id, told,
                   SURFACE_NEEDLE, part.coat, (RUB,), (NEEDLE_CARE,))  # fmt: skip
    if part.furrows:
        told = fact("step.furrows", n=part.furrows, part=_part_name(part), pair=_pair_tasks(part))
        yield Task(key_of("furrow", part.id), "detail", part.id, told,
                   SURFACE_NEEDLE, None, (fact("check.front-side"),), (NEEDLE_CARE,))  # fmt: skip
    for fur in part.furs:
        yield from _fur_tasks(fur, part)


def _fur_tasks(fur: FurJob, part: PartJob) -> Iterator[Task]:
    at = "-at" if fur.name else ""
    for row in range(1, fur.rows + 1):
        told = fact(f"step.fur-{fur.lie}{at}", row=row, of=fur.rows, part=part.name, place=fur.name)
        yield Task(key_of("fur", part.id, f"{fur.place}{AT}{row}" if fur.place else row), "fur row",
                   part.id, told, 38, fur.wool, (), (NEEDLE_CARE,))  # fmt: skip


def _join_tasks(part: PartJob, work: Work) -> Iterator[Task]:
    if part.parent is None or part.made in ("detail", "in place"):
        return
    if part.is_pegged:
        yield Task(key_of("peg", part.id), "mark", part.id, fact("step.peg-hole", part=part.name),
                   cautions=(AWL_CARE,))  # fmt: skip
    called, fixing = _part_name(part), _join_needle(part, work)
    if part.made == "bought":
        yield Task(
            key_of("join", part.id), "dress", part.id,
            fact("step.put-on-over" if part.built_round else "step.put-on", part=called),
            checks=(fact("check.all-sides"),),
        )  # fmt: skip
        return
    if part.fixed:
        care = {"sewn": SEW_CARE, "gathered": SEW_CARE, "threaded": SEW_CARE, "glued": GLUE_CARE}
        yield Task(key_of("join", part.id), "dress", part.id, fact(f"step.{part.fixed}", part=called),
                   checks=(fact("check.all-sides"),),
                   cautions=(care[part.fixed],) if part.fixed in care else ())  # fmt: skip
        if part.fixed == "glued":
            yield Task(key_of("dry", part.id), "wait", part.id, fact("step.dry", part=part.name))
        return
    if part.garment:
        yield Task(key_of("join", part.id), "dress", part.id, fact("step.put-on-felt", part=called),
                   fixing, part.coat or part.core, (), (NEEDLE_CARE,))  # fmt: skip
        return
    # Where wool is laid over the join it holds only with that, and is tugged then.
    seam = f"-{part.join}" if part.join in ("patch", "scarf") else ""
    tug = (TUG,)
    if pairs_first(work, part):
        yield Task(key_of("pair", part.id), "pre-join", part.id, fact("step.pair", part=called),
                   fixing, None, (ROUND_HEAD,), (NEEDLE_CARE,))  # fmt: skip
    if part.made == "apart" or part.stem or is_on_frame_of_its_own(part, work):
        kind: Kind = "pre-join" if part.grandparent is not None else "join"
        how = f"-{part.join}" if part.join in ("peg", "wire") else ""
        how = "-band" if part.banded else "-stem" if part.stem else how
        yield Task(key_of("join", part.id), kind, part.id, fact(f"step.join{how}", part=called),
                   fixing, None, () if seam else tug,
                   (NEEDLE_CARE, GLUE_CARE) if part.is_pegged else (NEEDLE_CARE,))  # fmt: skip
    if part.is_pegged and not part.wound:
        yield Task(key_of("dry", part.id), "wait", part.id, fact("step.dry-peg", part=called))
    if not (seam or is_blended(part, work)):
        return
    yield Task(key_of("blend", part.id), "blend", part.id, fact(f"step.blend{seam}", part=called),
               38, part.skin, tug if seam or part.made == "on wire" else (),
               (NEEDLE_CARE,))  # fmt: skip


def is_on_frame_of_its_own(part: PartJob, work: Work) -> bool:
    """Return whether a part is wound on a wire that does not reach its bearer, so that it must be joined."""
    bearer = next((job for job in work.parts if job.id == part.parent), None)
    return part.made == "on wire" and bearer is not None and bearer.made == "apart"


def is_blended(part: PartJob, work: Work) -> bool:
    """Return whether a veil is laid over the seam between a part and its bearer: only where both have one
    colour. Two colours meet in a line, fur hides the seam, and pieces of a face have their own edge."""
    bearer = next(job for job in work.parts if job.id == part.parent)
    return part.skin == bearer.skin and not (part.face or part.furs or bearer.furs)


def _join_needle(part: PartJob, work: Work) -> int:
    """Return the needle that fixes a part on: the part's own, but not finer than joins need; if the maker
    owns only finer ones, the coarsest of those."""
    wanted = min(part.needle, JOIN_NEEDLE)
    if not work.needles or wanted in work.needles:
        return wanted
    return max((n for n in work.needles if n <= JOIN_NEEDLE), default=min(work.needles))


def _crease_tasks(part: PartJob, work: Work) -> Iterator[Task]:
    if part.creased and part.made in ("apart", "on wire") and work.school("crease") == "crease":
        told = fact("step.crease", part=_part_name(part), pair=_pair_tasks(part))
        yield Task(key_of("crease", part.id), "shape", part.id, told, STOUT_NEEDLE, None,
                   (WIRE_FELT,) if part.wires else (), (NEEDLE_CARE,))  # fmt: skip


def left_soft(work: Work, part: PartJob) -> bool:
    """Return whether a small part is joined soft and firmed on the body."""
    return part.small and part.made == "apart" and work.school("small") == "soft"


def may_pair(work: Work, part: PartJob) -> bool:
    """Return whether the two of a pair can be joined to each other first: only flat ones whose bases touch,
    such as ears, wings and flukes."""
    is_sheet = part.count == 2 and part.made == "apart" and part.flat and not part.garment
    return is_sheet and part.meets and part.parent is not None and part.id not in work.feet


def is_furred_on_the_pad(work: Work, part: PartJob) -> bool:
    """Return whether a part can get its fur before it is joined: an ear, a tail, a wing with nothing on
    it."""
    bears = {job.parent for job in work.parts} | {fitting.part for fitting in work.fittings}
    return part.parent is not None and part.made == "apart" and part.id not in bears


def pairs_first(work: Work, part: PartJob) -> bool:
    """Return whether the maker's school joins pairs first."""
    return may_pair(work, part) and work.school("ears") == "pair first"


def _face_tasks(work: Work) -> Iterator[Task]:
    faces = {f.part for f in work.fittings if f.kind == "eye"} or {
        p.parent for p in work.parts if p.face and p.parent
    }
    for part in work.parts:
        what = tuple(_to_mark(part, work)) if part.id in faces else ()
        if what:
            yield Task(key_of("mark", part.id), "mark", part.id, fact("step.mark", what=what, part=part.name),
                       checks=(fact("check.thread-round", part=part.name),))  # fmt: skip
        elif part.id in work.marked:
            yield Task(key_of("mark", part.id), "mark", part.id, fact("step.marks", part=part.name))


def _to_mark(head: PartJob, work: Work) -> list[Fact]:
    """Return what is marked on the part that bears a face: the eye line, and where things will sit."""
    eyes = any(f.kind == "eye" and f.part == head.id for f in work.fittings)
    found = [fact("mark.eye-line")] if eyes else []
    for part in work.parts:
        if part.parent != head.id or part.left_out or not part.is_felted or part.garment:
            continue
        if part.face:
            many = part.count > 1 and part.plural
            found.append(fact("the", name=many or part.name))
        elif part.flat and part.count == 2:
            several = "mark.bases" if part.plural else "mark.base"
            found.append(fact(several, name=part.plural or part.name))
    found += [
        fact("the", name=f.name) for f in work.fittings if f.part == head.id and f.kind == "nose"
    ]
    return found


_FIXING = {
    "glued": "glue",
    "clay": "glue",
    "pinned": "glue-pins",
    "sewn": "sew",
    "felted": "felt-on",
    "held": "fix",
}


def _fitting_tasks(fitting: FittingJob) -> Iterator[Task]:
    called = fact("both" if fitting.count == 2 else "the", name=fitting.name)
    if fitting.how == "clay":
        yield Task(key_of("pattern", fitting.id), "cut out", fitting.part,
                   fact("step.make-clay", what=called), cautions=(CLAY_CARE,))  # fmt: skip
    if fitting.kind == "eye" and fitting.how != "felted":
        sewn = fitting.how == "sewn"
        yield Task(key_of("socket", fitting.id), "mark", fitting.part,
                   fact("step.dimples" if sewn else "step.sockets", what=called),
                   checks=(ROUND_HEAD,), cautions=(NEEDLE_CARE if sewn else AWL_CARE,))  # fmt: skip
    told = fact(f"step.{_FIXING[fitting.how]}", what=called)
    care = {
        "glued": (GLUE_CARE,),
        "clay": (GLUE_CARE,),
        "pinned": (PIN_CARE, GLUE_CARE),
        "felted": (NEEDLE_CARE,),
    }.get(fitting.how, ())
    needle = SURFACE_NEEDLE if fitting.how == "felted" else None
    yield Task(key_of("fit", fitting.id), "fit", fitting.part, told, needle, cautions=care)
    if fitting.glued:
        yield Task(key_of("wait", fitting.id), "wait", fitting.part, fact("step.cure", what=called))

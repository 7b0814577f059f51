"""From parts, wires and fittings to the tasks of making, before they are put in order.

Tasks hold nothing that changes smoothly with height, so the order of two heights that are made in
the same way is the same value and is found once.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from bambola.core.bench import nearest_needle
from bambola.core.facts import Fact, fact

USUAL = {
    "face": "after", "colour": "each part first", "insets": "first", "ears": "as they meet",
    "neck": "by load", "clothes": "by opening", "small": "soft", "limbs": "back to back",
    "near wire": "stout", "legs": "middle out",
    "mass": "parts", "firmness": "as drawn", "white": "veil", "eyes": "as drawn", "fur": "fold",
    "tape": "thin", "skin": "dry", "seat": "dish", "crease": "crease",
}  # fmt: skip
"""The usual school of every choice of the order."""
WAYS = ("mass", "firmness", "white", "eyes", "fur")
"""Choices of how parts are made, not of their order."""
Kind = Literal[
    "cut wire", "bend and bind", "wrap", "shape", "coat", "inset", "pre-join", "join", "blend",
    "mark", "fit", "detail", "fur row", "dress", "finish", "check", "wait", "tape",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class PartJob:
    """What the order needs to know of a part at one size; lists run in the order of the figure.

    ``small`` parts are under 12 mm; the two of a pair that ``meets`` touch; a ``limb`` is long. A core
    ``grows`` from round to round in three directions, or in two along its whole length. The second
    of a pair made one at a time has its id with ``.2`` after it.
    What is ``left_out`` lies within its neighbours; one that is ``coreless`` is all of its coat's wool. What
    its parent is ``built_round`` is put on before the last round of the parent's core. A ``wound`` part has
    its wool wound on its wire with glue, since needles would find the wire; the wire of a ``taped`` one is
    taped, since so little wool would spin on it; a ``drawn`` one is drawn out of what it sits on. ``lines``
    are those of its insets that are so narrow that they are drawn with a thread. It is felted round what is
    ``hard`` in it. One that is ``creased`` is a limb folded to sit; ``furrows`` are pulled in with thread.
    """

    id: str
    name: str | Fact
    plural: str
    parent: str | None
    grandparent: str | None
    count: int
    made: str
    rounds: int
    needle: int
    flat: bool
    core: str
    coat: str | None
    insets: tuple[tuple[str, str], ...]
    fur_wool: str | None
    fur_rows: int
    fur_lie: str
    join: str
    face: bool
    over: tuple[str, ...]
    wires: tuple[str, ...]
    garment: bool
    passes: str | None
    must_precede: bool
    small: bool = False
    meets: bool = False
    limb: bool = False
    grows: int = 3
    left_out: bool = False
    built_round: bool = False
    coreless: bool = False
    wound: bool = False
    taped: bool = False
    drawn: bool = False
    lines: frozenset[str] = frozenset()
    hard: str = ""
    creased: bool = False
    furrows: int = 0

    @property
    def fact(self) -> Fact:
        """Its name, to stand in a list."""
        return self.name if isinstance(self.name, Fact) else fact("named", name=self.name)


@dataclass(frozen=True, slots=True)
class FittingJob:
    """A fitting as the order sees it."""

    id: str
    name: str
    kind: str
    part: str
    count: int
    how: Literal["glued", "sewn", "felted", "held"]

    @property
    def glued(self) -> bool:
        """Whether glue holds it, and has to cure."""
        return self.how == "glued"


@dataclass(frozen=True, slots=True)
class WireJob:
    """A wire as the order sees it; ``pegs`` is the part it joins, if it is a straight peg; ``bound`` says
    that it is bound to another."""

    id: str
    name: Fact
    pegs: str | None = None
    bound: bool = True


@dataclass(frozen=True, slots=True)
class Work:
    """Everything to be put in order. ``neck`` is the part whose join may be made in more than one way
    and bears the whole figure when it is lifted; ``feet`` are the parts it stands on, ``marked`` those with
    marks of a face; one that ``hangs`` has a loop. ``needles`` are the gauges owned; none means all. ``ways``
    are the choices of how parts are made that this figure has."""

    parts: tuple[PartJob, ...]
    wires: tuple[WireJob, ...] = ()
    fittings: tuple[FittingJob, ...] = ()
    schools: tuple[tuple[str, str], ...] = ()
    neck: str | None = None
    feet: tuple[str, ...] = ()
    marked: tuple[str, ...] = ()
    hangs: bool = False
    needles: tuple[int, ...] = ()
    ways: frozenset[str] = frozenset()

    def school(self, choice: str) -> str:
        """The maker's school for ``choice``, else the usual one."""
        return dict(self.schools).get(choice, USUAL[choice])


def cures(work: Work) -> dict[str, tuple[str, str]]:
    """By the key of what is glued: the key of what ends its wait, and the part left alone meanwhile."""
    eyes = {f"fit:{f.id}": (f"wait:{f.id}", f.part) for f in work.fittings if f.glued}
    limbs = {f"core:{p.id}:1": (f"dry:{p.id}", p.id) for p in work.parts if p.wound}
    return eyes | limbs


@dataclass(frozen=True)
class Task:
    """One step before it has a number. ``wool`` is the colour it lays on the pad.

    ``key`` begins with the sort of work and the part or thing: ``core:head:1``, ``fit:eye``.
    """

    key: str
    kind: Kind
    part: str | None
    text: Fact
    needle: int | None = None
    wool: str | None = None
    checks: tuple[Fact, ...] = ()
    cautions: tuple[Fact, ...] = ()
    coreless: bool = False

    @property
    def piece(self) -> str | None:
        """What it has in hand: a part, or the wire before any wool is on it."""
        return self.part or ("wire" if self.kind in ("cut wire", "bend and bind") else None)

    @cached_property
    def sort(self) -> str:
        """The first word of the key."""
        return self.key.partition(":")[0]

    @cached_property
    def weighed_by(self) -> str:
        """The key under which the wool it uses is weighed: ``core:head``, ``inset:head:stripe``."""
        if self.sort == "inset":
            return self.key
        return f"{'coat' if self.coreless else self.sort}:{self.part}"


NEEDLE_CARE, WIRE_CARE, BEND_CARE, GLUE_CARE, AWL_CARE, SMALL_CARE = (
    Fact(f"care.{of}") for of in ("needle", "wire", "bend", "glue", "awl", "small")
)
LIGHT, SQUEEZE, TUG, RUB, WIRE_FELT, ROUND_HEAD = (
    Fact(f"check.{of}") for of in ("light", "squeeze", "tug", "rub", "wire", "thread-round-head")
)
SURFACE_NEEDLE = 40
"""Gauge for surface, eyes and rims. See craft.md, 5."""


STOUT_NEEDLE = 36
"""Gauge near a wire and for deep folds: bulk needles are 32 to 36, and the finest of them marks least.
See craft.md, 5."""


def needle_for(smallest_mm: float) -> int:
    """Needle gauge by smallest dimension: over 30 mm 36, from 10 mm 38, below 40."""
    return 36 if smallest_mm > 30 else 38 if smallest_mm >= 10 else 40


def tasks_for(work: Work) -> tuple[Task, ...]:
    """All tasks of ``work``, in the order of the figure."""
    if not work.needles:
        return tuple(_all(work))
    return tuple(
        task
        if task.needle is None or task.needle in work.needles
        else replace(task, needle=nearest_needle(task.needle, work.needles))
        for task in _all(work)
    )


def _all(work: Work) -> Iterator[Task]:
    for wire in work.wires:
        cut = "step.cut-peg" if wire.pegs else "step.cut"
        yield Task(f"cut:{wire.id}", "cut wire", None, fact(cut, wire=_wire(wire)),
                   cautions=(WIRE_CARE,))  # fmt: skip
        if wire.pegs:
            continue
        bend = "step.bend-and-bind" if wire.bound else "step.bend"
        yield Task(f"bend:{wire.id}", "bend and bind", None, fact(bend, wire=_wire(wire)),
                   cautions=(BEND_CARE,))  # fmt: skip
    for part in work.parts:
        if part.left_out:
            continue
        yield from _core(part, work)
        yield from _skin(part)
        yield from _joining(part, work)
        yield from _creasing(part, work)
    yield from _face(work)
    for fitting in work.fittings:
        yield from _fitting(fitting)
    if work.hangs:
        yield Task("loop", "fit", None, fact("step.loop"), checks=(fact("check.hangs"),))
        last, hold = "step.hang", "check.hang"
    else:
        if work.feet:
            yield Task("check:ground", "check", None, fact("step.ground"),
                       checks=(fact("check.rocking"), fact("check.nudge")))  # fmt: skip
        last, hold = "step.stand", "check.stand"
    yield Task("check:stand", "check", None, fact(last), checks=(fact(hold), fact("check.upside")))
    yield Task("finish", "finish", None, fact("step.finish"), SURFACE_NEEDLE,
               checks=(RUB, *((WIRE_FELT,) if work.wires else ())),
               cautions=(NEEDLE_CARE, *((SMALL_CARE,) if work.fittings or work.wires else ())))  # fmt: skip
    if work.school("skin") == "glue-soap":
        yield Task("skin", "finish", None, fact("step.skin"), cautions=(GLUE_CARE,))


_OF_WIRE = ("wire", "hoop", "crosspiece", "stem", "peg")
"""Words in a maker's own name of a wire that say what it is."""


def _wire(wire: WireJob) -> Fact:
    """A wire by its name, which says that it is one or only where it runs."""
    if wire.name.kind == "wire-of.one-long":
        return fact("wire.one", name=wire.name)
    given = dict(wire.name.slots).get("name") if wire.name.kind == "named" else None
    if isinstance(given, str) and not any(word in given.lower() for word in _OF_WIRE):
        return fact("wire.runs", name=wire.name)
    return fact("wire.named", name=wire.name)


def _called(part: PartJob) -> Fact:
    """A part, or both of a pair."""
    if part.count > 2:
        return fact("all", n=part.count, name=part.plural)
    return fact("both", name=part.plural) if part.count == 2 else fact("the", name=part.name)


def _together(part: PartJob) -> Fact:
    """The two of a pair are worked on in turn, so that they match."""
    if part.count > 2:
        return Fact("as.in-turn")
    return Fact("as.back-to-back" if part.count == 2 else "nothing")


def _core(part: PartJob, work: Work) -> Iterator[Task]:
    if part.made == "bought":
        return
    if part.made == "detail":
        told = fact("step.detail", part=_called(part), pair=_together(part))
        yield Task(f"detail:{part.id}", "detail", part.id, told,
                   SURFACE_NEEDLE, part.coat or part.core, cautions=(NEEDLE_CARE,))  # fmt: skip
        return
    soft = left_soft(work, part)
    squeeze = () if soft else (LIGHT,) if part.flat else (SQUEEZE,)
    left = fact("as.soft" if soft else "nothing")
    alone = fact("as.coat-alone" if part.coreless else "nothing")
    wool = part.coat or part.core if part.coreless else part.core
    if part.hard:
        yield Task(f"hard:{part.id}", "shape", part.id, fact("step.hard", hard=part.hard),
                   part.needle, wool, (), (NEEDLE_CARE, fact("care.hard", hard=part.hard)))  # fmt: skip
    if part.made == "in place":
        bearer = next((job.name for job in work.parts if job.id == part.parent), part.name)
        slots = {"part": _called(part), "pair": _together(part), "soft": left, "alone": alone}
        text = (
            fact("step.draw-out", of=bearer, **slots)
            if part.drawn
            else fact("step.in-place", **slots)
        )
        yield Task(f"core:{part.id}:1", "shape", part.id, text,
                   part.needle, wool, squeeze, (NEEDLE_CARE,), part.coreless)  # fmt: skip
        return
    wrapped, way = part.made == "on wire", fact("nothing")
    if wrapped and part.limb:
        way = fact(f"as.wound-{work.school('legs').replace(' ', '-')}")
    if part.taped and work.school("tape") == "thin":
        yield Task(f"tape:{part.id}", "tape", part.id,
                   fact("step.tape", part=_called(part), pair=_together(part)),
                   cautions=(BEND_CARE,))  # fmt: skip
    if part.wound:
        yield Task(f"core:{part.id}:1", "wrap", part.id,
                   fact("step.wind-with-glue", part=_called(part), pair=_together(part)),
                   part.needle, wool, (WIRE_FELT,), (GLUE_CARE,), part.coreless)  # fmt: skip
        yield Task(f"dry:{part.id}", "wait", part.id, fact("step.dry", part=_called(part)))
        return
    for n in range(1, part.rounds + 1):
        turn = fact("as.round", n=n, of=part.rounds) if part.rounds > 1 else fact("nothing")
        yield Task(f"core:{part.id}:{n}", "wrap" if wrapped else "shape", part.id,
                   fact("step.wrap" if wrapped else "step.shape", part=_called(part), way=way,
                        pair=_together(part), round=turn, soft=left, alone=alone),
                   part.needle, wool, (*squeeze, WIRE_FELT) if wrapped else squeeze,
                   (NEEDLE_CARE,), part.coreless)  # fmt: skip


def _skin(part: PartJob) -> Iterator[Task]:
    if part.made in ("detail", "bought"):
        return
    for inset, wool in part.insets:
        kind = "lines" if inset in part.lines else "inset"
        yield Task(f"inset:{part.id}:{inset}", "inset", part.id,
                   fact(f"step.{kind}", inset=inset.replace("-", " "), part=part.name),
                   SURFACE_NEEDLE, wool, (fact("check.front-side"),), (NEEDLE_CARE,))  # fmt: skip
    if part.coat and not part.coreless:
        told = fact("step.coat", part=_called(part), pair=_together(part))
        yield Task(f"coat:{part.id}", "coat", part.id, told,
                   SURFACE_NEEDLE, part.coat, (RUB,), (NEEDLE_CARE,))  # fmt: skip
    if part.furrows:
        told = fact("step.furrows", n=part.furrows, part=_called(part), pair=_together(part))
        yield Task(f"furrow:{part.id}", "detail", part.id, told,
                   SURFACE_NEEDLE, None, (fact("check.front-side"),), (NEEDLE_CARE,))  # fmt: skip
    for row in range(1, part.fur_rows + 1):
        yield Task(f"fur:{part.id}:{row}", "fur row", part.id,
                   fact(f"step.fur-{part.fur_lie}", row=row, of=part.fur_rows, part=part.name),
                   38, part.fur_wool, (), (NEEDLE_CARE,))  # fmt: skip


def _joining(part: PartJob, work: Work) -> Iterator[Task]:
    if part.parent is None or part.made in ("detail", "in place"):
        return
    if part.join == "peg" and part.made == "apart":
        yield Task(f"peg:{part.id}", "mark", part.id, fact("step.peg-hole", part=part.name),
                   cautions=(AWL_CARE,))  # fmt: skip
    called = _called(part)
    if part.made == "bought":
        yield Task(
            f"join:{part.id}", "dress", part.id,
            fact("step.put-on-over" if part.built_round else "step.put-on", part=called),
            checks=(fact("check.all-sides"),),
        )  # fmt: skip
        return
    if part.garment:
        yield Task(f"join:{part.id}", "dress", part.id, fact("step.put-on-felt", part=called),
                   part.needle, part.coat or part.core, (), (NEEDLE_CARE,))  # fmt: skip
        return
    # Where wool is laid over the join it holds only with that, and is tugged then.
    seam = f"-{part.join}" if part.join in ("patch", "scarf") else ""
    tug = (TUG,)
    if pairs_first(work, part):
        yield Task(f"pair:{part.id}", "pre-join", part.id, fact("step.pair", part=called),
                   part.needle, None, (ROUND_HEAD,), (NEEDLE_CARE,))  # fmt: skip
    if part.made == "apart":
        kind: Kind = "pre-join" if part.grandparent is not None else "join"
        how = f"-{part.join}" if part.join in ("peg", "wire") else ""
        yield Task(f"join:{part.id}", kind, part.id, fact(f"step.join{how}", part=called),
                   part.needle, None, () if seam else tug, (NEEDLE_CARE,))  # fmt: skip
    yield Task(f"blend:{part.id}", "blend", part.id, fact(f"step.blend{seam}", part=called),
               38, part.coat or part.core, tug if seam or part.made == "on wire" else (),
               (NEEDLE_CARE,))  # fmt: skip


def _creasing(part: PartJob, work: Work) -> Iterator[Task]:
    if part.creased and part.made in ("apart", "on wire") and work.school("crease") == "crease":
        told = fact("step.crease", part=_called(part), pair=_together(part))
        yield Task(f"crease:{part.id}", "shape", part.id, told, STOUT_NEEDLE, None,
                   (WIRE_FELT,) if part.wires else (), (NEEDLE_CARE,))  # fmt: skip


def left_soft(work: Work, part: PartJob) -> bool:
    """Whether a small part is joined soft and firmed on the body."""
    return part.small and part.made == "apart" and work.school("small") == "soft"


def may_pair(part: PartJob) -> bool:
    """Whether the two of a pair can be joined to each other before they are joined to their parent: ears,
    wings and flukes can, which are sheets; two legs or warts would only be in each other's way."""
    return (
        part.count == 2
        and part.made == "apart"
        and part.flat
        and not part.garment
        and part.parent is not None
    )


def pairs_first(work: Work, part: PartJob) -> bool:
    """Whether they are: by the maker's school, or because they meet."""
    school = work.school("ears")
    return may_pair(part) and (school == "pair first" or (school == "as they meet" and part.meets))


def _face(work: Work) -> Iterator[Task]:
    faces = {f.part for f in work.fittings if f.kind == "eye"} or {
        p.parent for p in work.parts if p.face and p.parent
    }
    for part in work.parts:
        what = tuple(_to_mark(part, work)) if part.id in faces else ()
        if what:
            yield Task(f"mark:{part.id}", "mark", part.id, fact("step.mark", what=what, part=part.name),
                       checks=(fact("check.thread-round", part=part.name),))  # fmt: skip
        elif part.id in work.marked:
            yield Task(f"mark:{part.id}", "mark", part.id, fact("step.marks", part=part.name))


def _to_mark(head: PartJob, work: Work) -> list[Fact]:
    """What is marked on the part that bears a face: the line of its eyes, and where things will sit."""
    eyes = any(f.kind == "eye" and f.part == head.id for f in work.fittings)
    found = [fact("mark.eye-line")] if eyes else []
    for part in work.parts:
        if part.parent != head.id or part.left_out or part.made == "bought" or part.garment:
            continue
        if part.face:
            found.append(fact("the", name=part.plural if part.count > 1 else part.name))
        elif part.flat and part.count == 2:
            found.append(fact("mark.bases", name=part.plural))
    found += [
        fact("the", name=f.name) for f in work.fittings if f.part == head.id and f.kind == "nose"
    ]
    return found


_FIXING = {"glued": "glue", "sewn": "sew", "felted": "felt-on", "held": "fix"}


def _fitting(fitting: FittingJob) -> Iterator[Task]:
    called = fact("both" if fitting.count == 2 else "the", name=fitting.name)
    if fitting.kind == "eye" and fitting.how != "felted":
        sewn = fitting.how == "sewn"
        yield Task(f"socket:{fitting.id}", "mark", fitting.part,
                   fact("step.dimples" if sewn else "step.sockets", what=called),
                   checks=(ROUND_HEAD,), cautions=(NEEDLE_CARE if sewn else AWL_CARE,))  # fmt: skip
    told = fact(f"step.{_FIXING[fitting.how]}", what=called)
    care = {"glued": (GLUE_CARE,), "felted": (NEEDLE_CARE,)}.get(fitting.how, ())
    needle = SURFACE_NEEDLE if fitting.how == "felted" else None
    yield Task(f"fit:{fitting.id}", "fit", fitting.part, told, needle, cautions=care)
    if fitting.glued:
        yield Task(f"wait:{fitting.id}", "wait", fitting.part, fact("step.cure", what=called))

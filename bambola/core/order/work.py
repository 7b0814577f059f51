"""The input of the order: parts, wires and fittings as jobs, the work as a whole, and its tasks.

They hold nothing that changes smoothly with height, so two heights made in the same way are equal and share
one order.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from bambola.core.facts import Fact, fact
from bambola.core.figure.model import NOT_FELTED
from bambola.core.figure.schools import ChoiceId, SchoolId, school_for
from bambola.core.frozen import frozen
from bambola.core.order.keys import Sort, TaskKey, key_of

Kind = Literal[
    "cut wire", "bend and bind", "wrap", "shape", "coat", "inset", "pre-join", "join", "blend",
    "mark", "fit", "detail", "fur row", "dress", "finish", "check", "wait", "tape", "cut out", "mix",
]  # fmt: skip


def called(name: str | Fact, plural: str | None, count: int) -> Fact:
    """Return the name of one part, both of a pair, or all of a row."""
    if count == 1:
        return fact("the", name=name)
    if plural is None:
        return fact("both-of", name=name) if count == 2 else fact("all-of", n=count, name=name)
    return fact("both", name=plural) if count == 2 else fact("all", n=count, name=plural)


@frozen
class PatchJob:
    """A patch of another wool, or the piece of a ``face``, as the order sees it. It lies partly ``over``
    other patches of its part."""

    id: str
    name: str
    wool: str
    face: str = ""
    over: tuple[str, ...] = ()


@frozen
class FurJob:
    """Rows of fur on a place as the order sees them; one that is all of the part has no ``place``, no name.
    They begin at the end of the part that the hair's ``lie`` tells."""

    place: str
    name: str
    wool: str
    rows: int
    lie: str


@frozen
class PartJob:
    """What the order needs to know of a part at one size; lists run in the order of the figure.

    ``small`` parts are under 12 mm; the two of a pair that ``meets`` touch; a ``limb`` is long. A core
    ``grows`` from round to round in three directions, or in two along its whole length. The second
    of a pair made one at a time has its id with ``.2`` after it.
    What is ``left_out`` lies within its neighbours; one that is ``coreless`` is all of its coat's wool. What
    its parent is ``built_round`` is put on before the last round of the parent's core. A ``wound`` part has
    its wool wound on its wire with glue, since needles would find the wire; the wire of a ``taped`` one is
    taped, since so little wool would spin on it; a ``drawn`` one is drawn out of what it sits on; a
    ``shell`` is laid over most of that as a sheet. ``lines`` are those of its insets that are so narrow that
    they are drawn with a thread. It is felted round what is
    ``hard`` in it. One that is ``creased`` is a limb folded to sit; ``furrows`` are pulled in with thread. A
    ``sheet`` of several colours is so thin that they go into one blank. What is of ``stuff`` that is no wool
    is cut and ``fixed``, and counts as a garment: it is put on over what is finished; what
    is of wool and sits on such is ``fixed`` by sewing.
    A ``hollow`` is pressed into its parent. One on a ``stem`` is wound on a wire that is bound to no other:
    the bare end of that is pushed into what bears the part, or, where it is ``banded``, laid along that
    under a band of wool.
    What comes on after it, since it could not be pulled over that, it is put on ``before``.
    """

    id: str
    name: str | Fact
    plural: str | None
    parent: str | None
    grandparent: str | None
    count: int
    made: str
    rounds: int
    needle: int
    flat: bool
    core: str
    coat: str | None
    insets: tuple[PatchJob, ...]
    furs: tuple[FurJob, ...]
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
    shell: bool = False
    lines: frozenset[str] = frozenset()
    hard: str = ""
    creased: bool = False
    furrows: int = 0
    sheet: bool = False
    before: tuple[str, ...] = ()
    hollow: bool = False
    stuff: str = ""
    fixed: str = ""
    stem: bool = False
    banded: bool = False

    @property
    def skin(self) -> str:
        """The wool of its visible surface."""
        return self.coat or self.core

    @property
    def is_pegged(self) -> bool:
        """Whether a bare wire that is glued into a hole holds it."""
        apart = self.made == "apart" and not (self.fixed or self.garment)
        pegged = self.join == "peg" and apart
        return self.parent is not None and not self.banded and (self.stem or pegged)

    @property
    def is_felted(self) -> bool:
        """Whether it is of wool and made by the maker."""
        return self.made not in NOT_FELTED

    @property
    def fur_rows(self) -> int:
        """All its rows of fur."""
        return sum(fur.rows for fur in self.furs)

    def fur_at(self, key: TaskKey) -> FurJob:
        """Return the fur that the step with this key lays."""
        return next(fur for fur in self.furs if fur.place == key.place)

    @property
    def fact(self) -> Fact:
        """Its name, for use in a list."""
        return self.name if isinstance(self.name, Fact) else fact("named", name=self.name)


@frozen
class FittingJob:
    """A fitting as the order sees it."""

    id: str
    name: str
    kind: str
    part: str
    count: int
    how: Literal["glued", "clay", "pinned", "sewn", "felted", "held"]

    @property
    def glued(self) -> bool:
        """Whether glue holds it and has to cure."""
        return self.how in ("glued", "clay", "pinned")


@frozen
class WireJob:
    """A wire as the order sees it; ``pegs`` is the part it joins, if it is a straight peg; it is bound on to
    the wires ``onto``."""

    id: str
    name: Fact
    pegs: str | None = None
    onto: tuple[str, ...] = ()


@frozen
class Work:
    """Everything to be put in order. ``neck`` is the part whose join may be made in more than one way
    and bears the whole figure when it is lifted; ``feet`` are the parts it stands on, ``marked`` those with
    marks of a face; one that ``hangs`` has a loop. ``needles`` are the gauges owned; none means all. ``ways``
    are the choices of how parts are made that this figure has; ``mixes`` are the wools, by id and name, that
    are mixed of others first."""

    parts: tuple[PartJob, ...]
    wires: tuple[WireJob, ...] = ()
    fittings: tuple[FittingJob, ...] = ()
    schools: tuple[tuple[ChoiceId, SchoolId], ...] = ()
    neck: str | None = None
    feet: tuple[str, ...] = ()
    marked: tuple[str, ...] = ()
    hangs: bool = False
    needles: tuple[int, ...] = ()
    ways: frozenset[ChoiceId] = frozenset()
    mixes: tuple[tuple[str, str], ...] = ()

    def school(self, choice: ChoiceId) -> SchoolId:
        """Return the maker's school for ``choice``, else the usual one."""
        return school_for(choice, dict(self.schools))


def in_blank(work: Work, part: PartJob) -> frozenset[str]:
    """Return the patches of a part that are laid into its blank, by their ids."""
    if not part.sheet or work.school("blank") != "within":
        return frozenset()
    return frozenset(patch.id for patch in part.insets if not patch.face)


def drawn_out_of(work: Work, part: str) -> tuple[PartJob, ...]:
    """Return the parts drawn out of ``part``, directly or indirectly, in the order of the figure."""
    found: list[PartJob] = []
    for job in work.parts:  # parents come first
        if job.drawn and job.parent in (part, *(other.id for other in found)):
            found.append(job)
    return tuple(found)


def curing_tasks(work: Work) -> dict[TaskKey, tuple[TaskKey, str]]:
    """Return for each glued thing the key of the task that ends its wait, and the part left alone
    meanwhile."""
    eyes = {key_of("fit", f.id): (key_of("wait", f.id), f.part) for f in work.fittings if f.glued}
    limbs = {key_of("core", p.id, 1): (key_of("dry", p.id), p.id) for p in work.parts if p.wound}
    worn = {
        key_of("join", p.id): (key_of("dry", p.id), p.id) for p in work.parts if p.fixed == "glued"
    }
    pegged = {
        key_of("join", p.id): (key_of("dry", p.id), p.id)
        for p in work.parts
        if p.is_pegged and not (p.wound or p.left_out)
    }
    return eyes | limbs | worn | pegged


@dataclass(frozen=True)
class Task:
    """One step before it has a number. ``wool`` is the colour it puts on the pad."""

    key: TaskKey
    kind: Kind
    part: str | None
    text: Fact
    needle: int | None = None
    wool: str | None = None
    checks: tuple[Fact, ...] = ()
    cautions: tuple[Fact, ...] = ()

    @property
    def piece(self) -> str | None:
        """The piece in hand: a part, or the wire before any wool is on it."""
        return self.part or ("wire" if self.kind in ("cut wire", "bend and bind") else None)

    @cached_property
    def sort(self) -> Sort:
        """The sort of work."""
        return self.key.sort

    @cached_property
    def weighed_by(self) -> TaskKey:
        """The key under which the wool it uses is weighed: ``core:head``, ``inset:head:stripe``."""
        if self.sort == "inset":
            return self.key
        if self.sort == "face":
            return key_of("inset", self.part or "", self.key.detail)
        if self.sort == "fur":
            return key_of("fur", self.part or "", self.key.place)
        return key_of(self.sort, self.part or "")

"""A making: one figure being made, from the first step to how it came out."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, StringConstraints, ValidationError

from bambola.core.bench.money import Sum
from bambola.core.figure.fields import Day, Name, Note, in_letters
from bambola.core.figure.shapes import Frozen, Length, at_most

Minutes = Annotated[float, Field(ge=0, le=100_000)]
Key = Annotated[str, StringConstraints(max_length=200)]
Grams = Annotated[float, Field(ge=0, le=1_000_000)]

Outcome = Literal["passed", "failed", "skipped"]


class Sitting(Frozen):
    """One sitting as it really was: its day, minutes, and the first and last step done."""

    day: Day
    minutes: Annotated[float, Field(ge=0, le=100_000)]
    first: Annotated[str, StringConstraints(max_length=200)] = ""
    last: Annotated[str, StringConstraints(max_length=200)] = ""


class KeptCard(Frozen):
    """What the card of a step told when its figure was begun, in the maker's language and units then: what
    the step is called, its sentences, and when to stop."""

    step: Key
    text: Note
    lines: Annotated[tuple[Note, ...], at_most(100)] = ()
    stop: Note = ""


class KeptPart(Frozen):
    """What a part was told to be when its figure was begun: how many, and of one finished copy its weight (g)
    and its measures (mm)."""

    name: Name
    count: Annotated[int, Field(ge=0, le=10_000)]
    grams: Grams
    to_mm: dict[Key, Annotated[float, Field(ge=0, le=1e9)]] = {}


class KeptPlan(Frozen):
    """The numbers of a plan as they were told when its figure was begun, by the ``version`` of the program
    that told them: the minutes of all figures, its parts by id, what it uses of everything by key on the
    shelf (wool in g, with what is lost), and its notices in the maker's words."""

    version: Key
    minutes: Annotated[float, Field(ge=0, le=10_000_000)]
    parts: dict[Key, KeptPart] = {}
    uses: dict[Key, Annotated[float, Field(ge=0, le=1e9)]] = {}
    notices: Annotated[tuple[Note, ...], at_most(1000)] = ()


class Making(Frozen):
    """One figure in the making, or made. The plan it is made by: ``figure`` and ``height_mm``, ``where`` the
    file of the design, as far as it has one, and ``begun`` the design as JSON, as it was when this was begun
    or its changes last taken; ``told_as`` is the mark of the plan that was made of it then, ``cards`` is what
    its cards told, in their order, ``kept`` are its numbers, and ``bench`` is the bench as JSON that it was
    told by: what records teach meanwhile changes nothing of it. How far it is: the step in hand, those
    ``behind`` it in their order, minutes and notes by step, what those that were begun are ``planned`` to
    take by the bench's starting values and their ``sorts`` by firmness and size, the parts whose minutes went
    into records, what every check of a step came to, how what failed was mended, and the sittings as they
    really were.

    What became of it: the day it is ``due``, and the one it was ``finished``, how high it is, what its parts
    weigh (g) and measure (mm) as they came out, ``photographs`` by the names of their files, ``next_time``
    what to do otherwise, the ``price`` asked or got for it, and the day it was ``sold``. What of wire, glue,
    cloth and the like was really ``used``, needles that broke among it, and what was ``booked`` off the shelf
    besides wool stand by the keys of the shelf. Whether a join ``held`` stands by its part and how it was
    joined (``head:peg``). What it teaches is learned once it is ``taught``: its maker has taken what was laid
    before her at its end, with the times that are hard to believe where she says so (``odd_times``). Nothing
    is learned from the hours of one that is put ``aside``. ``unread`` names the fields that were damaged
    where it was kept, and left out; see :func:`read_making`.
    """

    figure: Key = ""
    height_mm: Length | None = None
    where: Annotated[str, BeforeValidator(in_letters), StringConstraints(max_length=4096)] = ""
    at: Key = ""
    behind: Annotated[tuple[str, ...], at_most(4000)] = ()
    minutes: dict[str, Minutes] = {}
    planned: dict[str, Minutes] = {}
    sorts: dict[str, Key] = {}
    notes: dict[str, Note] = {}
    recorded: tuple[str, ...] = ()
    checks: dict[str, dict[str, Outcome]] = {}
    mended: dict[str, tuple[Note, ...]] = {}
    sittings: tuple[Sitting, ...] = ()
    begun: Annotated[str, StringConstraints(max_length=8_000_000)] = ""
    told_as: Key = ""
    cards: Annotated[tuple[KeptCard, ...], at_most(4000)] = ()
    kept: KeptPlan | None = None
    bench: Annotated[str, StringConstraints(max_length=8_000_000)] = ""
    due: Day | None = None
    finished: Day | None = None
    reached_mm: Length | None = None
    weights: dict[str, Annotated[float, Field(gt=0, le=1_000_000)]] = {}
    sizes: dict[str, dict[str, Length]] = {}
    photographs: Annotated[tuple[Key, ...], at_most(200)] = ()
    next_time: Note = ""
    price: Sum | None = None
    sold: Day | None = None
    used: dict[str, Annotated[float, Field(ge=0, le=1_000_000)]] = {}
    booked: dict[str, Annotated[float, Field(ge=-10_000, le=1_000_000)]] = {}
    held: dict[str, bool] = {}
    taught: bool = False
    odd_times: bool = False
    aside: bool = False
    unread: tuple[Key, ...] = Field(default=(), exclude=True)

    @property
    def is_begun(self) -> bool:
        """Whether any work was done on it."""
        return bool(self.behind or self.minutes or self.finished)

    @property
    def teaches(self) -> bool:
        """Whether its hours and records are learned from: once its lessons are taken. One that was begun
        before plans were kept teaches as it goes."""
        return not self.aside and (self.taught or self.kept is None)

    @property
    def spent(self) -> float:
        """The minutes of work in total."""
        return sum(self.minutes.values())

    @property
    def first_day(self) -> str:
        """The day of its first sitting, or the day it was finished; empty if unknown."""
        return self.sittings[0].day if self.sittings else self.finished or ""

    @property
    def last_day(self) -> str:
        """The day of its last sitting, or the day it was finished; empty if unknown."""
        return self.finished or (self.sittings[-1].day if self.sittings else "")

    @property
    def failed(self) -> tuple[str, ...]:
        """The steps with a failed check, or that were mended."""
        keys = [step for step, came in self.checks.items() if "failed" in came.values()]
        return tuple(dict.fromkeys((*keys, *(step for step, how in self.mended.items() if how))))


WHOLE_PAGE = "page"
"""Stands in ``unread`` where nothing of a making could be read."""


def read_making(text: str) -> Making:
    """Return a making stored as JSON. Damaged entries are left out one by one, and ``unread`` names their
    fields."""
    try:
        return Making.model_validate_json(text)
    except ValidationError:
        pass
    try:
        # Once there and back, so that every sign in it can be written; see `in_letters`.
        found = json.loads(in_letters(json.dumps(json.loads(text), ensure_ascii=False)))
    except (ValueError, RecursionError):
        found = None
    if not isinstance(found, dict):
        return Making(unread=(WHOLE_PAGE,))
    unread: dict[str, None] = {}
    while True:
        try:
            return Making.model_validate(found).replaced(unread=tuple(unread))
        except ValidationError as error:
            # From the end: the places of the entries before stay what they are.
            places = {(*fault["loc"], None)[:2]: None for fault in error.errors() if fault["loc"]}
            if not places:
                return Making(unread=(WHOLE_PAGE,))
            for name, place in reversed(places):
                unread[str(name)[:200]] = None
                _leave_out(found, name, place)


def _leave_out(found: dict[Any, Any], name: Any, place: Any) -> None:
    """Remove a damaged entry from a row or table, or the whole field if it is neither."""
    entries = found.get(name)
    if isinstance(entries, dict) and place in entries:
        del entries[place]
    elif isinstance(entries, list) and isinstance(place, int) and place < len(entries):
        found[name] = [*entries[:place], *entries[place + 1 :]]
    else:
        found.pop(name, None)


NTH = "#"
"""Stands between the id of a design and the number of a making of it, from the second on."""


def making_id(design: str, nth: int) -> str:
    """Return the id of the ``nth`` making of a design; the first has the design's own."""
    return design if nth == 1 else f"{design}{NTH}{nth}"


def nth_of(making: str) -> tuple[str, int]:
    """Return the design of a making, by its id, and which of its makings it is."""
    design, _, nth = making.rpartition(NTH)
    return (design, int(nth)) if design and nth.isdecimal() else (making, 1)


_SINGLE = (
    "figure", "height_mm", "where", "at", "behind", "begun", "told_as", "cards", "kept", "bench", "due",
    "finished", "reached_mm", "next_time", "price", "sold", "taught", "odd_times", "aside",
)  # fmt: skip
_BY_KEY = (
    "planned",
    "sorts",
    "notes",
    "checks",
    "mended",
    "weights",
    "sizes",
    "used",
    "booked",
    "held",
)
_IN_ROWS = ("recorded", "sittings", "photographs")


def merge_making(theirs: Making, before: Making, after: Making) -> Making:
    """Return a making with ``theirs``, what others have written since, and the changes made from ``before``
    to ``after``: minutes are added up, all else is merged entry by entry."""
    minutes = {
        step: theirs.minutes.get(step, 0.0)
        + after.minutes.get(step, 0.0)
        - before.minutes.get(step, 0.0)
        for step in {**theirs.minutes, **before.minutes, **after.minutes}
    }
    changes: dict[str, object] = {
        "minutes": {step: max(0.0, spent) for step, spent in minutes.items() if spent > 0}
    }
    for name in _SINGLE:
        was, now = getattr(before, name), getattr(after, name)
        changes[name] = now if now != was else getattr(theirs, name)
    for name in _BY_KEY:
        was, now = getattr(before, name), getattr(after, name)
        mine = {step: now[step] for step in now if now[step] != was.get(step)}
        kept = {
            step: v for step, v in getattr(theirs, name).items() if step in now or step not in was
        }
        changes[name] = {**kept, **mine}
    for name in _IN_ROWS:
        was, now = getattr(before, name), getattr(after, name)
        stay = [one for one in getattr(theirs, name) if one in now or one not in was]
        changes[name] = (*stay, *(one for one in now if one not in was and one not in stay))
    return after.replaced(**changes)

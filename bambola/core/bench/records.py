"""Records: what went into a piece and what became of it. The maker's own numbers are learned from them."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, StringConstraints

from bambola.core.bench.wools import Role
from bambola.core.figure.fields import Firmness, Name, Note, Slug, in_letters
from bambola.core.figure.shapes import Frozen, Length, StartForm, few

Size3 = tuple[Length, Length, Length]
"""Along, across and through, mm."""
Day = Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}$")]

SWATCH = "Swatch"
"""The part that a calibration is: rolled, measured, felted, measured."""


class Record(Frozen):
    """One piece as it was made. What was not measured is None.

    ``grams_in`` lay on the pan, ``grams_trimmed`` of it did not stay. ``volume_cm3`` is the finished net
    volume, ``area_cm2`` the skin that was covered and ``asked_cover`` (g/cm²) what the plan asked for.
    ``aside`` records are kept but nothing is learned from them.
    """

    n: int = 0
    day: Day
    figure: Name
    part: Name
    wool: Slug
    role: Role = "core"
    firmness: Firmness = "medium"
    form: StartForm | None = None
    grams_in: Annotated[float, Field(gt=0, le=1_000_000)]
    grams_trimmed: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    loose_mm: Size3 | None = None
    finished_mm: Size3 | None = None
    volume_cm3: Annotated[float, Field(gt=0, le=1e9)] | None = None
    area_cm2: Annotated[float, Field(gt=0, le=1e9)] | None = None
    asked_cover: Annotated[float, Field(gt=0, le=1)] | None = None
    minutes: Annotated[float, Field(gt=0, le=100_000)] | None = None
    needle: Annotated[int, Field(ge=20, le=50)] | None = None
    note: Note = ""
    picture: Annotated[str, StringConstraints(max_length=1000)] | None = None
    aside: bool = False

    @property
    def grams(self) -> float:
        """What stayed in the piece, g."""
        return max(0.0, self.grams_in - (self.grams_trimmed or 0.0))


Outcome = Literal["passed", "failed", "skipped"]


class Sitting(Frozen):
    """One sitting as it really was: its day, minutes, and the first and last step done."""

    day: Day
    minutes: Annotated[float, Field(ge=0, le=100_000)]
    first: Annotated[str, StringConstraints(max_length=200)] = ""
    last: Annotated[str, StringConstraints(max_length=200)] = ""


class Making(Frozen):
    """How far the maker is with a figure: the step in hand, those ``behind`` it in their order, minutes and
    notes by step, the parts whose minutes went into records, what every check of a step came to, how what
    failed was mended, and the sittings as they really were. ``where`` is the file of the design, as far as it
    has one, and ``begun`` the design as JSON, as it was when this was begun or its changes last taken."""

    where: Annotated[str, BeforeValidator(in_letters), StringConstraints(max_length=4096)] = ""
    at: Annotated[str, StringConstraints(max_length=200)] = ""
    behind: Annotated[tuple[str, ...], few(4000)] = ()
    minutes: dict[str, Annotated[float, Field(ge=0, le=100_000)]] = {}
    notes: dict[str, Note] = {}
    recorded: tuple[str, ...] = ()
    checks: dict[str, dict[str, Outcome]] = {}
    mended: dict[str, tuple[Note, ...]] = {}
    sittings: tuple[Sitting, ...] = ()
    begun: Annotated[str, StringConstraints(max_length=8_000_000)] = ""


def merged(theirs: Making, before: Making, after: Making) -> Making:
    """A making in which ``theirs``, what others have written since, stays, and what was changed from
    ``before`` to ``after`` is changed: minutes are added up, of the rest each entry counts by itself."""
    minutes = {
        step: theirs.minutes.get(step, 0.0)
        + after.minutes.get(step, 0.0)
        - before.minutes.get(step, 0.0)
        for step in {**theirs.minutes, **before.minutes, **after.minutes}
    }
    changes: dict[str, object] = {
        "minutes": {step: max(0.0, spent) for step, spent in minutes.items() if spent > 0}
    }
    for name in ("at", "behind", "where", "begun"):
        was, now = getattr(before, name), getattr(after, name)
        changes[name] = now if now != was else getattr(theirs, name)
    for name in ("notes", "checks", "mended"):
        was, now = getattr(before, name), getattr(after, name)
        mine = {step: now[step] for step in now if now[step] != was.get(step)}
        kept = {
            step: v for step, v in getattr(theirs, name).items() if step in now or step not in was
        }
        changes[name] = {**kept, **mine}
    for name in ("recorded", "sittings"):
        was, now = getattr(before, name), getattr(after, name)
        stay = [one for one in getattr(theirs, name) if one in now or one not in was]
        changes[name] = (*stay, *(one for one in now if one not in was and one not in stay))
    return after.replaced(**changes)


def volume_of(form: StartForm, size: Size3) -> float:
    """Volume (cm³) of a bundle by its three sizes in mm.

    A ball is an ellipsoid, a sausage a cylinder with half balls at its ends (or an ellipsoid, if it is
    as short as it is thick), a cone a third of its cylinder, a sheet a slab.
    """
    along, across, through = size
    slab = along * across * through / 1000.0
    if form == "sheet":
        return slab
    if form == "cone":
        return math.pi / 12 * slab
    if form == "ball" or along <= (thick := math.sqrt(across * through)):
        return math.pi / 6 * slab
    return math.pi / 4 * (slab - thick**3 / 3 / 1000.0)

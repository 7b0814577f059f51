"""How a maker works where that changes the figure itself: how firmly parts are felted, whether a white core
stays bare, how eyes are fixed, and how much is made of one mass.

The schools of the order decide when and in which direction; these decide of what. The figure is turned into
the one this maker would make, and all sums follow.
"""

from __future__ import annotations

from typing import Literal

from bambola.core.bench import Bench
from bambola.core.figure import Figure, Firmness, Fitting, Part
from bambola.core.figure.additions import core_of
from bambola.core.figure.schools import WAYS, ChoiceId, Followed, SchoolId, school_for
from bambola.core.resize.laws import NEEDLE_REACH_MM, as_felted_eye, held_mm
from bambola.core.solids.roots import caps_of
from bambola.core.wool.colour import LIKE_COLOUR, difference, lab_of

_GRADES: tuple[Firmness, ...] = ("soft", "medium", "firm")


def ways_of(schools: Followed) -> dict[ChoiceId, SchoolId]:
    """Return the ``schools`` that change the figure and are not the usual ones."""
    return {way: schools[way] for way in WAYS if school_for(way, schools) != school_for(way, {})}


def as_worked(figure: Figure, ways: Followed, bench: Bench) -> Figure:
    """Return ``figure`` as this maker would make it; the same value if the maker works as usual."""
    if not ways:
        return figure
    steady = _kept_firm(figure)
    parts = tuple(_part_as_made(part, ways, steady, bench) for part in figure.parts)
    fittings = tuple(_fitting_as_fixed(fitting, ways.get("eyes")) for fitting in figure.fittings)
    return figure.replaced(parts=parts, fittings=fittings)


def ways_to_choose(figure: Figure, bench: Bench) -> frozenset[ChoiceId]:
    """Return the choices a figure has, whatever its size; for ``mass``, the size decides."""
    made = [
        part
        for part in figure.parts
        if part.stuff is None and not (part.garment and part.garment.bought)
    ]
    has: dict[ChoiceId, bool] = {
        "firmness": bool(made),
        "white": any(is_white_on_white(part, bench) for part in made),
        "eyes": any(fitting.kind == "eye" for fitting in figure.fittings),
        "fur": any(p.fur and p.fur.kind == "fleece" for part in made for p in part.furs),
    }
    return frozenset(way for way, there in has.items() if there)


def in_one_mass(figure: Figure, bench: Bench) -> frozenset[str]:
    """Return the parts usually made apart that could be drawn out of their parent: those of its wool within
    reach of a needle. What goes over the end of a limb's wire is laid round that instead."""
    reached = {
        part.id
        for part in figure.parts
        if part.parent is not None and part.made == "auto"
        if not (part.shape.flat or part.garment or part.stuff)
        if part.core == figure.by_id[part.parent].core
        if part.parent not in figure.wired and core_of(figure, part.parent) is None
        if bench.apart_mm <= held_mm(part, part.shape) < NEEDLE_REACH_MM
    }
    return frozenset(reached - figure.wired - caps_of(figure)) if reached else frozenset()


def is_white_on_white(part: Part, bench: Bench) -> bool:
    """Return whether a part's coat is so like its core that the core could stay bare. An inset is tucked into
    a coat, and fur grows from one."""
    if part.coat is None or part.places or part.coat.wool == part.core:
        return False
    coat, core = bench.wool_by_id[part.coat.wool], bench.wool_by_id[part.core]
    return difference(lab_of(coat.colour), lab_of(core.colour)) <= LIKE_COLOUR


def _kept_firm(figure: Figure) -> frozenset[str]:
    """Return the parts that stay as firm as drawn where others are made softer: wired or flat ones, those
    with a face or a fitting, and the one that all others sit on."""
    faced = {part.parent for part in figure.parts if part.face}
    faced |= {fitting.part for fitting in figure.fittings}
    return frozenset(
        part.id
        for part in figure.parts
        if part.parent is None or part.shape.flat or part.id in faced | figure.wired
    )


def _part_as_made(part: Part, ways: Followed, steady: frozenset[str], bench: Bench) -> Part:
    if part.stuff is None and part.firmness in _GRADES and (wanted := ways.get("firmness")):
        at = _GRADES.index(part.firmness)
        if wanted == "firm":
            part = part.replaced(firmness=_GRADES[min(at + 1, len(_GRADES) - 1)])
        elif part.id not in steady:
            part = part.replaced(firmness=_GRADES[max(at - 1, 0)])
    if ways.get("white") == "core" and is_white_on_white(part, bench):
        part = part.replaced(coat=None)
    return part


def _fitting_as_fixed(fitting: Fitting, way: str | None) -> Fitting:
    """Return an eye as the maker fixes eyes."""
    if fitting.kind != "eye" or way is None:
        return fitting
    if way == "felted":
        return as_felted_eye(fitting.replaced(follows="scale"))
    if way == "clay":
        # The maker shapes it, of just the size that is wanted.
        return fitting.replaced(follows="scale", glued=True, fixed="clay")
    fixed: dict[str, Literal["sewn", "pinned"]] = {"sewn": "sewn", "pins": "pinned"}
    return fitting.replaced(glued=way != "sewn", fixed=fixed.get(way))

"""How each measure follows the scale: the size rules of parts and of the brief.

The laws are those of ``docs/craft.md``, 2: lengths scale with s; a flat part is never so thin that light
shows through; a fringe stays within the reach of fibre and needle; ready-made eyes come in whole sizes.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import field
from typing import Literal

from bambola.core.bench import Bench
from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import Exact, Fact, fact
from bambola.core.figure import Brief, Figure, Fitting, Garment, Part, Row, Shape, SizeRule
from bambola.core.figure.questions import (
    CoredAnswer,
    EyesAnswer,
    KeptAnswer,
    ShapedAnswer,
    SizeAnswer,
    WornAnswer,
)
from bambola.core.frozen import frozen
from bambola.core.resize.faces import fitting_times

LIGHT_STOP_MM = 2.0
"""A flat part of medium firmness thinner than this lets light through. See craft.md, 2."""
LIGHT_STOP_DENSITY = 0.11
"""The density (g/cm³) for which that thickness is stated: what stops light is wool per area.
See craft.md, 2."""
FRINGE_MM = (6.0, 25.0)
"""A fringe shorter than this has no hold, longer is beyond a needle's reach. See craft.md, 2."""
OWN_WAY = 0.12
"""A part farther off what the figure's scale would make it than by this share is asked about with what sits
on it, as eyes are that are so far off. Judged. See craft.md, 2."""
EYE_TOLERANCE = 0.12
"""Share by which a ready-made size may miss the wanted one before the maker is asked. See craft.md, 2."""

Made = Literal["apart", "in place", "detail", "on wire", "bought", "cut"]


@frozen
class SizedPart:
    """One part's measures before and after (mm), and the rules that bent them.

    ``impossible`` holds the measures that the rules asked for where no such shape can have them. ``base`` is
    the scale its rules bent: the figure's, or that of a held part it sits on. What sits on it has the scale
    that it ``carries``: its own where it grew as a whole, else the one it began with.
    """

    shape: Shape
    from_mm: dict[str, float]
    to_mm: dict[str, float]
    bent_by: tuple[Fact, ...]
    base: float
    carries: float
    impossible: dict[str, float] = field(default_factory=dict)


def rules_for(part: Part, brief: Brief) -> tuple[SizeRule, ...]:
    """Return the figure's own rules for ``part``, overlaid with the brief's; a sheet other than wool keeps
    its thickness."""
    own = (SizeRule(measure="thickness", rule="hold"),) if part.stuff and part.shape.flat else ()
    return own + part.rules + brief.rules.get(part.id, ())


def size_part(
    part: Part,
    rules: Iterable[SizeRule],
    s: float,
    density: float,
    answer: str | None = None,
    corrected: tuple[SizeRule, ...] = (),
) -> SizedPart:
    """Return ``part`` at scale ``s``; the ``density`` (g/cm³) of its wool sets the floor of a flat part.
    ``answer`` says which measure gives way if the rules ask for an impossible shape. With ``corrected`` a
    small feature is adjusted after its rules."""
    old = part.shape.measures()
    new = {name: mm * s for name, mm in old.items()}
    bent: list[Fact] = []
    for rule in (*rules, *corrected):
        for name in old if rule.measure == "all" else (rule.measure,):
            changed = _apply_rule(rule, old[name], new[name])
            if rule.rule != "scale" and not math.isclose(changed, new[name], rel_tol=1e-12):
                bent.append(_rule_fact(name, rule, rule in corrected))
            new[name] = changed
    if part.shape.flat:
        floor = min(LIGHT_STOP_MM * LIGHT_STOP_DENSITY / density, old["thickness"])
        if new["thickness"] < floor:
            new["thickness"] = floor
            bent.append(fact("size.stops-light", measure=measure_fact("thickness")))
    if not bent:
        return SizedPart(part.shape.scaled(s) if s != 1.0 else part.shape, old, new, (), s, s)
    least = part.shape.least_length(new)
    wanted = {}
    if new.get("length", math.inf) < least:
        wanted = dict(new)
        if answer == ShapedAnswer.SLIMMER:
            new |= {
                name: mm * new["length"] / least for name, mm in new.items() if name != "length"
            }
            bent.append(fact("size.slimmer", measure=measure_fact("thickness")))
        else:
            new["length"] = least
            bent.append(fact("size.longer", measure=measure_fact("length")))
    growths = [new[name] / mm for name, mm in old.items() if mm > 0]
    whole = max(growths) <= min(growths) * (1 + 1e-9)
    carries = growths[0] if whole else s
    return SizedPart(part.shape.resized(new), old, new, tuple(bent), s, carries, wanted)


def _apply_rule(rule: SizeRule, old: float, new: float) -> float:
    match rule.rule:
        case "hold":
            return old if rule.value is None else rule.value
        case "floor":
            return max(new, rule.value or 0.0)
        case "ceiling":
            return min(new, rule.value or new)
        case "multiply":
            return new * (rule.value or 1.0)
        case _:
            return new


def _rule_fact(measure: str, rule: SizeRule, corrected: bool) -> Fact:
    if corrected and rule.value is not None:
        return fact("size.corrected", measure=measure_fact(measure), off=rule.value - 1)
    if rule.value is None:
        return fact("size.held", measure=measure_fact(measure))
    if rule.rule == "multiply":
        return fact("size.multiply", measure=measure_fact(measure), times=rule.value)
    return fact(f"size.{rule.rule}", measure=measure_fact(measure), at=Exact(rule.value))


def measure_fact(name: str) -> Fact:
    """Return the name of a measure as a fact."""
    return Fact(f"measure.{name}")


def size_fringe(fringe: float | None, s: float) -> float | None:
    """Return the length of a fringe (mm) at scale ``s``, held within what fibre and needle allow."""
    return None if fringe is None else min(max(fringe * s, FRINGE_MM[0]), FRINGE_MM[1])


MOST_IN_ROW = 60
"""No row is laid of more parts than this. Judged. See craft.md, 2."""


def row_count(count: int, s: float, kept: str | None) -> int:
    """Return the number of parts in a row of ``count`` at scale ``s``: if their size or spacing is ``kept``,
    as many as fit the longer row with both ends; or half of them."""
    if kept == KeptAnswer.FEWER:
        return max(2, math.ceil(count / 2))
    if kept in (KeptAnswer.SIZE, KeptAnswer.SPACING):
        return min(MOST_IN_ROW, max(2, round((count - 1) * s) + 1))
    return count


def size_row(part: Part, s: float, kept: str | None) -> tuple[Row | None, tuple[SizeRule, ...]]:
    """Return a part's row at scale ``s``, and the rules that hold the size of its parts."""
    if part.row is None:
        return None, ()
    rules = (SizeRule(rule="hold"),) if kept == KeptAnswer.SIZE else ()
    return part.row.replaced(count=row_count(part.row.count, s, kept)), rules


def size_garment(part: Part, s: float, brief: Brief) -> Garment | None:
    """Return a part's garment at scale ``s``; a bought one keeps its size unless replaced."""
    dress = part.garment
    if dress is not None and brief.choices.garments.get(part.id) == WornAnswer.REPLACED:
        return dress.replaced(opening=dress.opening * s)
    if dress is None or part.stuff is None:
        return dress and dress.scaled(s)
    # A knot is as large at any size: a small figure has fewer strips.
    return dress.scaled(s).replaced(strip=dress.strip)


def wanted_size(fitting: Fitting, s: float, corrected: bool = False) -> float:
    """Return the size (mm) of a fitting by the figure's scale, ``corrected`` if asked."""
    times = fitting_times(fitting, s) if corrected else 1.0
    return fitting.size * times * (1.0 if fitting.follows == "hold" else s)


def ready_size(wanted: float, sizes: Iterable[float]) -> float:
    """Return the ready-made size nearest by ratio to ``wanted`` (mm); of two as near, the smaller.

    Small features look bigger than expected, so a tie goes down.
    """
    return min(sizes, key=lambda size: (round(abs(math.log(size / wanted)), 9), size))


def size_fitting(fitting: Fitting, s: float, bench: Bench, brief: Brief) -> Fitting:
    """Return ``fitting`` at scale ``s`` in the size used: its drawn pieces by that size, its weight by the
    cube."""
    size = wanted_size(fitting, s, brief.corrected)
    if fitting.follows == "ready-made":
        chosen = brief.choices.eye_sizes.get(fitting.id)
        if isinstance(chosen, SizeAnswer):
            size = chosen.mm
        elif chosen is EyesAnswer.FELTED:
            fitting = as_felted_eye(fitting)
        else:
            size = ready_size(size, bench.eye_sizes)
    return fitting if size == fitting.size else _resize_fitting(fitting, size)


def _resize_fitting(fitting: Fitting, size: float) -> Fitting:
    f = size / fitting.size
    pieces = tuple(
        piece.replaced(shape=piece.shape.scaled(f), at=piece.at * f) for piece in fitting.pieces
    )
    seat = fitting.seat.replaced(sink=fitting.seat.sink * f)
    return fitting.replaced(size=size, mass=fitting.mass * f**3, pieces=pieces, seat=seat)


def core_room(shape: Shape) -> float:
    """Return the greatest diameter (mm) of a hard core that the wool of such a part hides."""
    return max(0.0, shape.smallest_mm - 2 * HIDE_MM)


def size_core(fitting: Fitting, shape: Shape, said: CoredAnswer | None) -> Fitting | None:
    """Return a hard core as it fits a part of this shape: smaller or left out (None) as ``said``; unanswered,
    one thicker than the part is made smaller."""
    if fitting.kind != "core" or said is CoredAnswer.NONE:
        return None if said is CoredAnswer.NONE else fitting
    room, thick = core_room(shape), shape.smallest_mm
    if fitting.size <= (room if said is CoredAnswer.SMALLER else thick):
        return fitting
    size = math.floor(room)
    return _resize_fitting(fitting, size) if size > 0 else None


def core_rule(part: Part, core: Fitting | None, s: float, brief: Brief) -> tuple[SizeRule, ...]:
    """Return the size rule that enlarges a part to hide its hard core, if the maker chose that."""
    if core is None or brief.choices.hard_cores.get(core.id) is not CoredAnswer.LARGER:
        return ()
    needed = wanted_size(core, s) + 2 * HIDE_MM
    return (SizeRule(rule="multiply", value=max(1.0, needed / (part.shape.smallest_mm * s))),)


def as_felted_eye(fitting: Fitting) -> Fitting:
    """Return an eye made of wool: of any size, almost weightless, and needled on instead of glued."""
    pieces = tuple(piece.replaced(finish="matt") for piece in fitting.pieces)
    return fitting.replaced(glued=False, fixed="felted", mass=0.0, pieces=pieces)


HELD_MM = 2.5
"""Under this a part is a thread or dot of wool; what is thicker can be pinched. See craft.md, 2."""


def way_of_making(
    part: Part, shape: Shape, figure: Figure, bench: Bench, cap: bool = False
) -> Made:
    """Return how a part of this shape can be made: bought, on its wire, apart, in place, or as a drawn
    detail. A ``cap``, of which hardly anything shows beside its neighbours, is laid on in place.

    Under 8 mm (10 for a beginner) in its smallest direction a part cannot be held and felted on
    its own; under 2.5 mm it is a thread or dot of wool.
    """
    if part.garment and part.garment.bought:
        return "bought"
    if part.stuff is not None:
        return "cut"
    if part.hollow:
        return "detail"
    if part.parent is not None and figure.by_id[part.parent].stuff is not None:
        return "apart"  # nothing is felted on to cloth
    if part.id in figure.wired:
        return "on wire"
    if cap and part.parent is not None and part.garment is None:
        return "in place"
    if part.made != "auto":
        return part.made
    smallest = held_mm(part, shape)
    if smallest < HELD_MM:
        return "detail"
    return "in place" if smallest < bench.apart_mm else "apart"


def held_mm(part: Part, shape: Shape) -> float:
    """Return the size (mm) that decides whether a part can be made apart: its smallest extent; of a sheet,
    which is felted on the pad, its outline. The part that everything sits on is always made apart."""
    if not shape.flat:
        return math.inf if part.parent is None else shape.smallest_mm
    return min(mm for name, mm in shape.measures().items() if name != "thickness")


NEEDLE_REACH_MM = 25.0
"""How deep a needle reaches. See craft.md, 2."""


AT_ONCE_MM, ROUND_MM = 75.0, 50.0
"""A core is rolled all at once up to so much in its smallest measure: squeezed, it is reached from all sides.
Every so much more takes another round. Judged. See craft.md, 2."""


def core_rounds(core_thickness: float, made: Made = "apart") -> int:
    """Return the number of rounds of a core: 1 up to 75 mm, else 1 + ceil((thickness - 75) / 50). A part
    built in place is built at once."""
    if made == "in place" or core_thickness <= AT_ONCE_MM:
        return 1
    return 1 + math.ceil((core_thickness - AT_ONCE_MM) / ROUND_MM - 1e-9)

"""A thick core built in rounds, each felted before the next is laid."""

from __future__ import annotations

from collections.abc import Sequence

from bambola.core.facts import Fact, Mm, Sizes, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Fill, Number, Piece, StepDrawing, oval, tapered
from bambola.core.methods.kinds.wrap_body import band_direction
from bambola.core.methods.parts import (
    SQUARE,
    across,
    card,
    check,
    flat_side,
    run,
    size_stops,
    stab,
    stop,
    taper_stops,
)
from bambola.core.methods.values import Card, Method, Stop
from bambola.core.piece import round_sizes
from bambola.core.resize.laws import AT_ONCE_MM, ROUND_MM
from bambola.core.solids.forms import Array
from bambola.core.wool.pan import right_size_range

STRIP_MM, PAST_MM = 60.0, 5.0
"""A strip that is wound on is about so wide, and is stabbed so far through into the last. Judged.
See craft.md, 10."""


def size_after_rounds(at: StepInPlan) -> list[tuple[float, ...]]:
    """Return the size after each round."""
    assert at.job is not None
    return round_sizes(at.finished, at.job.rounds, at.job.grows, at.hard_mm)


def round_number(at: StepInPlan) -> int:
    """Return the number of the step's round."""
    return at.step.key.nth


def _tried_on(at: StepInPlan) -> Fact | None:
    """Return the head that is tried on before the last round of its bearer, if it is felted by then."""
    plan = at.plan
    heads = {fitting.part for fitting in plan.work.fittings if fitting.kind == "eye"}
    mine = [job for job in plan.work.parts if job.parent == at.row.id and job.id in heads]
    done = {step.part for step in plan.steps[: at.step.n - 1] if step.key.sort == "core"}
    head = next((job for job in mine if job.made == "apart" and job.id in done), None)
    return fact("rounds.try-on", head=fact("the", name=head.name)) if head else None


def _card(at: StepInPlan) -> Card:
    assert at.job is not None
    n, every = round_number(at), size_after_rounds(at)
    after, before = every[n - 1], min(every[n - 2]) if n > 1 else at.hard_mm
    layer = (min(after) - before) / 2
    deep = min(layer + PAST_MM, slots.bulk_depth(max(1.0, min(after) - at.hard_mm)))
    wired = at.row.made == "on wire"
    kind = "rounds.first-wound" if wired else "rounds.first"
    first = fact(kind, part=at.part_name, size=Sizes(after))
    later = fact("rounds.next", wide=Mm(STRIP_MM))
    begun = band_direction(at) if wired else Fact("rounds.tight")
    last, fringe = n == at.job.rounds, at.fringe_mm
    rolls = not (wired or at.taper or at.is_flat_on)
    return card(
        at,
        "rounds",
        (
            fact("rounds.of", n=n, of=at.job.rounds),
            first if n == 1 else later,
            Fact("rounds.through") if n > 1 else begun,
            fact("rounds.measure", size=Sizes(after)) if n > 1 else None,
            Fact("rounds.wire") if wired and n == 1 else None,
            _tried_on(at) if last else None,
            flat_side(at) if last else None,
            fact("shape.fringe", fringe=Mm(fringe)) if last and fringe else None,
        ),
        start=Fact("rounds.start") if n == 1 else Fact("rounds.cross"),
        needles=(
            run(
                36,
                deep,
                SQUARE,
                "first",
                1 if wired and n == 1 else 3,
            ),
            run(38, min(layer, slots.DEPTH_MM["layer"]), SQUARE, "last" if last else "then"),
        ),
        stops=size_stops(at) if last else _round_stops(at, after),
        until=Fact("rounds.until-last" if last else "rounds.until"),
        checks=(check("layer-slides"), check("lopsided" if rolls else "four-sides")),
        scale=fact("rounds.scale", once=Mm(AT_ONCE_MM), more=Mm(ROUND_MM)),
    )


def _round_stops(at: StepInPlan, after: Sequence[float]) -> tuple[Stop, ...]:
    """Return the sizes to stop at for a round other than the last; it tapers like the whole."""
    if at.taper is not None:
        base, middle, tip = (mm * after[1] / at.finished[1] for mm in at.taper)
        return stop("length", *right_size_range(after[0])), *taper_stops((base, middle, tip))
    names = ("length", "width", "thickness")
    return tuple(stop(what, *right_size_range(mm)) for what, mm in zip(names, after, strict=True))


def _fits(at: StepInPlan) -> bool:
    return at.sort == "core" and at.job is not None and at.job.rounds > 1


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the rounds nested, each with its size; the one in hand in its wool."""
    n, every = round_number(at), size_after_rounds(at)
    runs = card_.needles
    pieces: list[Piece] = []
    for k in range(len(every), 0, -1):
        along, wide, _ = every[k - 1]
        fill: Fill = "core" if k < n else "wool" if k == n else "none"
        pieces.append(
            DrawnArea(_round_outline(at, along, wide), fill, "skin" if k <= n else "hidden")
        )
    along, wide, _ = every[n - 1]
    largest = every[-1]
    pieces += [
        across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -largest[0] * 0.62),
        across((0.0, -along / 2), (0.0, along / 2), along, largest[1] * 0.66),
    ]
    deep = min(runs[0].depth_mm, wide / 2)
    pieces.append(stab((wide / 2 - deep, 0.0), runs[0], 0))
    pieces.append(Number((wide * 0.35, along * 0.36), 2))
    return StepDrawing(tuple(pieces))


def _round_outline(at: StepInPlan, along: float, wide: float) -> Array:
    """Return the outline of a round, its base below."""
    if at.taper is None:
        return oval(wide, along)
    base, middle, tip = (mm * wide / at.finished[1] for mm in at.taper)
    return tapered(along, base, middle, tip)[:, ::-1]


SENTENCES: dict[str, str | Plural] = {
    "rounds.of": N_("This is round {n} of {of}."),
    "rounds.first": N_("Roll the wool of this round tight and felt {part} to {size}."),
    "rounds.first-wound": N_("Wind the wool of this round on tight, and felt {part} to {size}."),
    "rounds.next": N_(
        "Wind a strip about {wide} wide on, taut, across the last one; pin its start."
    ),
    "rounds.tight": N_("Shut its edge first, then stab towards the middle, turning."),
    "rounds.through": N_("Stab through it into what is beneath."),
    "rounds.measure": N_("Measure: this round ends at {size}."),
    "rounds.try-on": N_(
        "Before it, pin {head} on and look from four sides: lay more of this round where shoulders or "
        "chest lack."
    ),
    "rounds.wire": N_("Stab slowly and beside the wire."),
    "rounds.start": N_(
        "Part the core’s wool into its rounds before you begin; scraps do for the first."
    ),
    "rounds.cross": N_("Each strip lies across the grain of the last."),
    "rounds.until": N_("It has the size of this round, and no layer slides under the thumb."),
    "rounds.until-last": N_("It has its finished size, and resists when squeezed."),
    "rounds.scale": N_(
        "A core up to {once} thick is rolled at once; every {more} more takes another round."
    ),
    "rounds.why": N_(
        "Squeezed, a core of this size is not reached to its middle. In rounds of equal wool, each is "
        "firm before the next covers it."
    ),
}

METHOD = Method("rounds", _fits, _card, _picture)

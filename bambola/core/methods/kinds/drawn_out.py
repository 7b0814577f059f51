"""A part drawn out of its bearer: both of one mass, divided by a line."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, Sizes, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, box, line, oval
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, size_stops, stab
from bambola.core.methods.values import Card, Method

SOFT = 1.2
"""The soft lump is so many times as wide as what is drawn out of it. Judged. See craft.md, 10."""


TEASED_FROM = 1.5
"""What is so many times as long as it is thick is teased out of the ball, not pinched up. Judged. See
craft.md, 10."""


def _firmed_with(at: StepInPlan) -> tuple[Fact, ...]:
    """Return what else is felted firm once the last part is drawn out of a ball: the bearer, to its size."""
    works = [s for s in at.plan.steps if s.key.sort == "core"]
    jobs = [(step, at.plan.job_of(step)) for step in works]
    last = [
        step for step, job in jobs if job is not None and job.drawn and job.parent == at.body.parent
    ]
    if last[-1] is not at.step:
        return ()
    bearer = at.plan.part(str(at.body.parent))
    sizes = fact("the", name=bearer.name), Sizes(bearer.piece)
    return (fact("drawn-out.rest", part=sizes[0], size=sizes[1]),)


def _card(at: StepInPlan) -> Card:
    wide = sorted(at.finished)[1]
    seat = slots.seat_width(at.placed[1].join_line_mm, False)
    if max(at.finished) >= TEASED_FROM * wide:
        drawn: tuple[Fact, ...] = (
            fact("drawn-out.tease", part=at.part_name),
            fact("drawn-out.twist", size=Sizes(at.finished)),
            Fact("drawn-out.along"),
        )
    else:
        drawn = (
            fact("drawn-out.pinch", wide=Mm(SOFT * wide), part=at.part_name),
            fact("drawn-out.line", wide=Mm(seat)),
            Fact("drawn-out.round"),
            Fact("drawn-out.forward"),
            Fact("drawn-out.again"),
        )
    return card(
        at,
        "drawn-out",
        (
            *drawn,
            *_firmed_with(at),
        ),
        start=Fact("drawn-out.start"),
        needles=(
            run(36, slots.bulk_depth(at.thick), SQUARE, "first"),
            run(at.step.needle or 38, min(3.0, at.thick / 2), SLANTED, "then"),
        ),
        stops=size_stops(at),
        until=Fact("drawn-out.until"),
        checks=(check("line-closed"), check("four-sides")),
        scale=Fact("drawn-out.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the soft lump, the part within it, and the line that parts it from what bears it."""
    wide, long = sorted(at.finished)[1], max(at.finished)
    soft = SOFT * wide
    seat = slots.seat_width(at.placed[1].join_line_mm, False)
    ground = max(soft, seat) * 2.2
    first, then = card_.needles
    return StepDrawing(
        (
            DrawnArea(box(ground, long * 0.7, (0.0, -long * 0.35)), "under"),
            DrawnArea(oval(soft, 2.2 * long, (0.0, 0.0), 0.5), "none", "cut"),
            DrawnArea(oval(wide, 2 * long, (0.0, 0.0), 0.5), "wool"),
            DrawnLine(line((-seat / 2, 0.0), (seat / 2, 0.0)), "thread", 0.8),
            across((-soft / 2, 0.0), (soft / 2, 0.0), soft, long * 1.3),
            across((-seat / 2, 0.0), (seat / 2, 0.0), seat, -long * 0.25),
            stab((wide * 0.1, long * 0.55), first, 100),
            stab((wide * 0.52, long * 0.1), then, 30),
            Number((-soft * 0.6, long * 0.9), 1),
            Number((-seat * 0.62, long * 0.05), 2),
            Number((-wide * 0.2, long * 0.5), 3),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "drawn-out.pinch": N_("Pinch {part} up out of the soft ball, a lump {wide} across."),
    "drawn-out.rest": N_("Then felt {part} firm all over, to {size}."),
    "drawn-out.tease": N_("Tease out of the soft ball what {part} takes, and draw it long."),
    "drawn-out.twist": N_("Twist and wind it, to {size}: no wool is added."),
    "drawn-out.along": N_("Stab along it, turning it, and round its foot."),
    "drawn-out.line": N_(
        "Stab the dividing line close together, {wide} across, and pinch along it."
    ),
    "drawn-out.round": N_("Round it as a piece of its own, the needle to its axis."),
    "drawn-out.forward": N_("Squeeze its sides, so that it grows outward, and fix it there."),
    "drawn-out.again": N_("Go over all of it again, closer; the line last."),
    "drawn-out.start": N_("The ball still takes the needle easily: no wool is added."),
    "drawn-out.until": N_("It has its size, and the line is seen all round."),
    "drawn-out.scale": N_("It does best on small figures; on large ones parts are made apart."),
    "drawn-out.why": N_(
        "One mass needs no join: a line of close stabs draws the wool in, and what lies beyond "
        "stands out."
    ),
}

METHOD = Method(
    "drawn-out",
    lambda at: at.sort == "core" and at.job is not None and at.job.drawn,
    _card,
    _picture,
)

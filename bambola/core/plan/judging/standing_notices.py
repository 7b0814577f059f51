"""Whether the figure stands or hangs as wished, and what would make it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from bambola.core.balance import WARN_DEG, Remedy
from bambola.core.facts import NOTHING, Degrees, Fact, Grams, Mm, Value, fact, together
from bambola.core.plan.judging.findings import Findings
from bambola.core.plan.making.values import Notice


def standing_notices(found: Findings) -> Iterator[Notice]:
    """Yield at most one notice: it falls, barely stands, or is less steady than wished."""
    if found.resized.figure.stance == "hanging":
        return
    balance, angle = found.balance, found.balance.tip_angle_deg
    ways = [fact("remedy.sentence", remedy=remedy_fact(remedy)) for remedy in balance.remedies]
    over = fact("standing.over", side=balance.towards) if balance.towards else NOTHING
    slots: dict[str, Value] = {
        "over": over,
        "lean": Degrees(angle),
        "wished": Degrees(found.brief.steady),
    }
    if not balance.stands:
        level: Literal["stop", "note"] = "stop"
        kind = "standing.falls"
    elif angle < WARN_DEG:
        level, kind = "note", "standing.nudge"
    elif angle < found.brief.steady:
        level, kind = "note", "standing.less"
    else:
        return
    yield Notice("standing", level, None, Fact(kind), together(fact(f"{kind}.how", **slots), *ways))


def remedy_fact(remedy: Remedy) -> Fact:
    """Return the fact that says what would make it stand."""
    match remedy.kind:
        case "feet" | "underside":
            return fact(f"remedy.{remedy.kind}", times=remedy.value)
        case "ballast":
            return fact("remedy.ballast", weight=Grams(remedy.value))
        case "contact":
            return fact("remedy.contact", away=Mm(remedy.value))
        case "stand":
            return fact("remedy.stand", across=Mm(remedy.value))

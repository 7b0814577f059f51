"""Whether it stands or hangs as wished, and what would make it, in words."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from bambola.core.balance import WARN_DEG, Remedy
from bambola.core.plan.judging.findings import Findings
from bambola.core.plan.making.values import Notice


def standing_notices(found: Findings) -> Iterator[Notice]:
    """One notice at most: it falls, it barely stands, or it is less steady than wished."""
    if found.resized.figure.stance == "hanging":
        return
    balance, angle = found.balance, found.balance.tip_angle_deg
    ways = " ".join(f"{remedy_words(remedy)}." for remedy in balance.remedies)
    over = f" over its {balance.towards}" if balance.towards else ""
    if not balance.stands:
        level: Literal["stop", "note"] = "stop"
        title = "It would fall over"
        text = f"Its weight falls outside its feet: it falls{over}. Any of these holds it:"
    elif angle < WARN_DEG:
        level, title = "note", "It stands, but only just"
        text = f"It falls{over} at a nudge: leaning by {angle:.0f}° is enough. Any of these helps:"
    elif angle < found.brief.steady:
        level, title = "note", "Less steady than wished"
        text = (
            f"It falls{over} when it leans by {angle:.0f}°; you wish for {found.brief.steady:.0f}°. Any of "
            f"these helps:"
        )
    else:
        return
    yield Notice("standing", level, None, title, f"{text} {ways}")


def remedy_words(remedy: Remedy) -> str:
    """A remedy as a maker says it."""
    match remedy.kind:
        case "feet":
            return f"Feet {remedy.value:.2f} times as long and wide"
        case "ballast":
            return f"{remedy.value:.0f} g of ballast low in the body"
        case "contact":
            return f"A stick, tail or base that touches the table {remedy.value:.0f} mm from under its weight"
        case "stand":
            return f"A base {remedy.value:.0f} mm across, in the middle under its weight"

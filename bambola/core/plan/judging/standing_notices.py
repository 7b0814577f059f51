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
        text = f"Its centre of mass lies outside its feet: it falls{over}. Any of these holds it:"
    elif angle < WARN_DEG:
        level, title = "note", "It stands, but only just"
        text = f"It tips at {angle:.1f}°{over}, and under {WARN_DEG:.0f}° is unsafe. Any of these helps:"
    elif angle < found.brief.steady:
        level, title = "note", "Less steady than wished"
        text = f"It tips at {angle:.1f}°{over}; {found.brief.steady:.0f}° is wished. Any of these helps:"
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
            return f"A third contact {remedy.value:.0f} mm from the plumb point"
        case "stand":
            return f"A base {remedy.value:.0f} mm across under the plumb point"

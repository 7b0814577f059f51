"""Whether it holds, stays and stands, without units that nobody measures at the table."""

from __future__ import annotations

from bambola.core.balance import WARN_DEG

STEADY_DEG = 15.0
"""A figure that tips at less stands when pushed, unless it is warned of; beyond it is steady. Judged."""
AS_STIFF, SOFTER, STIFFER = 0.9, 0.5, 1.5
"""From which shares of what would be as stiff as before a wire is told as stiff, a little softer, or stiffer.
Judged."""
MANY = 20.0

_GROWN = (
    (0.25, "a quarter of its size"),
    (1 / 3, "a third of its size"),
    (0.5, "half its size"),
    (2 / 3, "two thirds of its size"),
    (0.75, "three quarters of its size"),
    (0.9, "a little smaller"),
    (1.0, "as large as it was made"),
    (1.1, "a little larger"),
    (1.25, "a quarter as big again"),
    (4 / 3, "a third as big again"),
    (1.5, "half as big again"),
    (1.75, "three quarters as big again"),
    (2.0, "twice its size"),
    (2.5, "two and a half times its size"),
    (3.0, "three times its size"),
    (4.0, "four times its size"),
    (5.0, "five times its size"),
    (6.0, "six times its size"),
    (7.0, "seven times its size"),
    (8.0, "eight times its size"),
)


def held_words(share: float) -> str:
    """How many times over something holds, ``share`` of its load: “2.5 times over”; less than once in per
    cent of the load."""
    if share < 0.995:
        return f"{share * 100:.0f} % of it"
    if share >= MANY:
        return "many times over"
    times = f"{share:.0f}" if share >= 5 else f"{share:.1f}".removesuffix(".0")
    return "just" if times == "1" else f"{times} times over"


def stiff_words(share: float) -> str:
    """How stiff a wire is beside one as steady as before, of which it bears ``share``."""
    if share >= STIFFER:
        return "stiffer than before"
    if share >= AS_STIFF:
        return "as stiff as before"
    return "a little softer than before" if share >= SOFTER else "softer than before"


def stands_words(stands: bool, tip_deg: float) -> str:
    """How a figure stands that tips at so many degrees."""
    if not stands:
        return "falls over"
    if tip_deg < WARN_DEG:
        return "falls at a nudge"
    return "stands when pushed" if tip_deg < STEADY_DEG else "steady"


def grown_words(scale: float) -> str:
    """How large it is beside as it was made, nearest by ratio: “half as big again”."""
    if abs(scale - 1) < 0.005:
        return "as large as it was made"
    if scale < 0.2:
        return f"{scale:.2f} times its size"
    inner = [row for row in _GROWN if row[0] != 1.0]
    return min(inner, key=lambda row: max(row[0] / scale, scale / row[0]))[1]

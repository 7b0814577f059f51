"""Whether it holds, stays and stands, without units that nobody measures at the table."""

from __future__ import annotations

from bambola.core.balance import WARN_DEG
from bambola.core.facts import Fact, Share, fact
from bambola.core.marked import N_

STEADY_DEG = 15.0
"""A figure that tips at less stands when pushed, unless it is warned of; beyond it is steady. Judged."""
AS_STIFF, SOFTER, STIFFER = 0.9, 0.5, 1.5
"""From which shares of what would be as stiff as before a wire is told as stiff, a little softer, or stiffer.
Judged."""
MANY = 20.0
NEARLY = 0.9
"""From this share on what does not hold is told to hold almost. Judged."""

_GROWN = (
    (0.25, "a-quarter-of-its-size"),
    (1 / 3, "a-third-of-its-size"),
    (0.5, "half-its-size"),
    (2 / 3, "two-thirds-of-its-size"),
    (0.75, "three-quarters-of-its-size"),
    (0.9, "a-little-smaller"),
    (1.0, "as-large-as-it-was-made"),
    (1.1, "a-little-larger"),
    (1.25, "a-quarter-as-big-again"),
    (4 / 3, "a-third-as-big-again"),
    (1.5, "half-as-big-again"),
    (1.75, "three-quarters-as-big-again"),
    (2.0, "twice-its-size"),
    (2.5, "two-and-a-half-times-its-size"),
    (3.0, "three-times-its-size"),
    (4.0, "four-times-its-size"),
    (5.0, "five-times-its-size"),
    (6.0, "six-times-its-size"),
    (7.0, "seven-times-its-size"),
    (8.0, "eight-times-its-size"),
)

SENTENCES = {
    "holds.share": N_("{share} of it"),
    "holds.nearly": N_("almost, but not quite"),
    "holds.many": N_("many times over"),
    "holds.just": N_("just"),
    "holds.times": N_("{times:g} times over"),
    "stiff.stiffer": N_("stiffer than before"),
    "stiff.as-before": N_("as stiff as before"),
    "stiff.little-softer": N_("a little softer than before"),
    "stiff.softer": N_("softer than before"),
    "stands.falls": N_("falls over"),
    "stands.nudge": N_("falls over at a nudge"),
    "stands.pushed": N_("steady"),
    "stands.steady": N_("very steady"),
    "it-stands.falls": N_("It falls over"),
    "it-stands.nudge": N_("It falls over at a nudge"),
    "it-stands.pushed": N_("It is steady"),
    "it-stands.steady": N_("It is very steady"),
    "grown.times": N_("{times:g} times as tall"),
    "grown.a-quarter-of-its-size": N_("a quarter as tall"),
    "grown.a-third-of-its-size": N_("a third as tall"),
    "grown.half-its-size": N_("half as tall"),
    "grown.two-thirds-of-its-size": N_("two thirds as tall"),
    "grown.three-quarters-of-its-size": N_("three quarters as tall"),
    "grown.a-little-smaller": N_("a little smaller"),
    "grown.as-large-as-it-was-made": N_("as large as it was made"),
    "grown.a-little-larger": N_("a little larger"),
    "grown.a-quarter-as-big-again": N_("1.25 times as tall"),
    "grown.a-third-as-big-again": N_("1.33 times as tall"),
    "grown.half-as-big-again": N_("1.5 times as tall"),
    "grown.three-quarters-as-big-again": N_("1.75 times as tall"),
    "grown.twice-its-size": N_("twice as tall"),
    "grown.two-and-a-half-times-its-size": N_("2.5 times as tall"),
    "grown.three-times-its-size": N_("three times as tall"),
    "grown.four-times-its-size": N_("four times as tall"),
    "grown.five-times-its-size": N_("five times as tall"),
    "grown.six-times-its-size": N_("six times as tall"),
    "grown.seven-times-its-size": N_("seven times as tall"),
    "grown.eight-times-its-size": N_("eight times as tall"),
}


def times_held(share: float) -> Fact:
    """Return how many times over something holds ``share`` of its load: “2.5 times over”; below 1, the per
    cent of the load."""
    if NEARLY <= share < 0.995:
        return Fact("holds.nearly")
    if share < NEARLY:
        return fact("holds.share", share=Share(share))
    if share >= MANY:
        return Fact("holds.many")
    times = float(round(share)) if share >= 5 else round(share, 1)
    return Fact("holds.just") if times == 1 else fact("holds.times", times=times)


def stiffness_phrase(share: float) -> Fact:
    """Return how stiff a wire is beside one as steady as before, of which it bears ``share``."""
    if share >= STIFFER:
        return Fact("stiff.stiffer")
    if share >= AS_STIFF:
        return Fact("stiff.as-before")
    return Fact("stiff.little-softer" if share >= SOFTER else "stiff.softer")


def standing_phrase(does: bool, tip_deg: float) -> Fact:
    """Return how a figure stands that tips at this angle."""
    if not does:
        return Fact("stands.falls")
    if tip_deg < WARN_DEG:
        return Fact("stands.nudge")
    return Fact("stands.pushed" if tip_deg < STEADY_DEG else "stands.steady")


def growth_phrase(scale: float) -> Fact:
    """Return the size relative to the size as made, by the nearest ratio: “half as big again”."""
    if abs(scale - 1) < 0.005:
        return Fact("grown.as-large-as-it-was-made")
    if not 0.2 <= scale <= 9:  # beyond what has a name
        return fact("grown.times", times=float(f"{scale:.2g}"))
    inner = [row for row in _GROWN if row[0] != 1.0]
    nearest = min(inner, key=lambda row: max(row[0] / scale, scale / row[0]))
    return Fact(f"grown.{nearest[1]}")

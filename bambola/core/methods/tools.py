"""The tools and pads that the cards of a figure ask for, to be laid out before the first step."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.bench import Bench
from bambola.core.facts import Fact, fact
from bambola.core.methods import card_for
from bambola.core.order.keys import Sort
from bambola.core.plan.making.jobs import lightness
from bambola.core.plan.making.values import Plan

TOOLS: tuple[tuple[str, frozenset[Sort]], ...] = (
    ("scale", frozenset({"core", "coat", "inset", "fur"})),
    ("tape-measure", frozenset({"core", "mark", "pattern", "cut"})),
    ("pliers", frozenset({"cut", "bend"})),
    ("tape", frozenset({"tape"})),
    ("awl", frozenset({"socket", "peg"})),
    ("pins", frozenset({"mark", "join", "pattern"})),
    ("thread", frozenset({"furrow", "loop"})),
    ("scissors", frozenset({"fur", "pattern", "finish"})),
)
"""Each with the sorts of work it is for, as the cards name them."""
PALE = 0.25
"""Wools whose lightness differs by so much want pads of their own. Judged. See craft.md, 10."""


def tools_to_lay_out(plan: Plan, bench: Bench) -> Iterator[Fact]:
    """Yield what to lay out: needles, holder, pads, then what else the steps need, and glue."""
    sorts = {step.key.sort for step in plan.steps}
    cards = (card_for(plan, step, bench) for step in plan.steps)
    gauges = sorted({run.gauge for card in cards for run in card.needles})
    if gauges:
        yield fact("tool.needles", gauges=", ".join(map(str, gauges)))
        if bench.holder > 1:
            yield fact("tool.holder", n=bench.holder)
        light = dict(lightness(bench))
        shades = [light[total.wool] for total in plan.wools if total.wool in light]
        apart = shades and max(shades) - min(shades) >= PALE
        yield Fact("tool.pads" if apart else "tool.pad")
    yield from (Fact(f"tool.{name}") for name, needs in TOOLS if needs & sorts)
    if any(row.fixed in ("sewn", "gathered") for row in plan.patterns):
        yield Fact("tool.sewing")
    if sorts & {"wait", "dry"}:
        yield fact("tool.glue", what=Fact(f"glue.{bench.glue}"))

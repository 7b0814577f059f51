"""Looking at the whole from all sides."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure import Leaf
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Area, Drawing, Line, line
from bambola.core.methods.parts import card, check, stop
from bambola.core.methods.sketch import across
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.values import Plan
from bambola.core.solids.views import outlines

HEIGHT_SHARE = 0.02
"""A figure is as high as wished within so much. Judged. See craft.md, 10."""


def _has_ears(plan: Plan) -> bool:
    """Whether the base of an ear is marked on a face."""
    by_id = plan.resized.figure.by_id
    about = {mark.about for face in plan.faces for mark in face.marks if mark.kind == "part"}
    return any(isinstance(by_id[part].shape, Leaf) for part in about)


def _card(at: At) -> Card:
    high = at.plan.to_height_mm
    wired = bool(at.plan.wires)
    ears = _has_ears(at.plan)
    return card(
        at,
        "final",
        (
            Fact("final.sides"),
            Fact("final.thread" if ears else "final.thread-no-ears"),
            Fact("final.tug" if ears else "final.tug-no-ears"),
            Fact("final.wire") if wired else None,
            fact("final.measure", high=Mm(high)),
        ),
        stops=(stop("height", high * (1 - HEIGHT_SHARE), high * (1 + HEIGHT_SHARE)),),
        until=Fact("final.until"),
        checks=(
            check("upside"),
            check("needle-tip"),
            check("nudge" if not at.plan.work.hangs else "hangs"),
        ),
        scale=Fact("final.scale"),
    )


def _picture(at: At, card_: Card) -> Drawing:
    """The whole figure, with its height."""
    outline = outlines(at.plan.solids.placement, "front")
    low = min(float(run[:, 1].min()) for run in outline)
    left = min(float(run[:, 0].min()) for run in outline)
    right = max(float(run[:, 0].max()) for run in outline)
    high = at.plan.to_height_mm
    return Drawing(
        (
            *(Area(shape, "under") for shape in outline),
            Line(line((left, low), (right, low)), "ground"),
            across((left, low), (left, low + high), high, high * 0.08),
        )
    )


METHOD = Method("final", lambda at: at.sort == "check", _card, _picture)

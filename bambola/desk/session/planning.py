"""The planner's side in its own process: figure and bench are sent once, then only briefs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields
from itertools import chain

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.plan import Plan, draft_plan, make_plan
from bambola.core.plan.making.made import as_made
from bambola.core.solids import CopySolid

Start = tuple[Figure, Bench, tuple[CopySolid, ...] | None]
"""A figure, the bench it is planned on, and what measuring it has come to, if it was measured before."""


class Planning:
    """Plans briefs for the figure it was last sent. Caches go by the figure's identity, so it is kept here
    and not sent again."""

    def __init__(self) -> None:
        self._figure: Figure | None = None
        self._bench: Bench | None = None

    def __call__(self, brief: Brief, start: Start | None) -> Iterator[object]:
        """Yield the plan for ``brief`` in pieces. With ``start``, for a new figure, its measurements come
        first, then its plan as made, then the plan."""
        known, measured, as_it_was = None, None, None
        if start is not None:
            self._figure, self._bench, known = start
        assert self._figure is not None and self._bench is not None
        made = as_made(self._figure, self._bench, before=known)
        plan = make_plan(self._figure, brief, self._bench)
        if start is not None:
            measured = made.solids.measured if known is None else None
            as_it_was = draft_plan(self._figure, brief.as_made(), self._bench)
        bits = chain(in_bits(as_it_was) if as_it_was else (), in_bits(plan))
        return chain([measured], bits, [as_it_was, plan])


_AT_ONCE = 24
"""So many steps, parts or edges make a piece: they are taken in in about a millisecond. Judged."""


def in_bits(plan: Plan) -> Iterator[object]:
    """Yield ``plan`` piece by piece, long sequences in short runs, so that each message is small."""
    values = [getattr(plan, field.name) for field in fields(plan)]
    for row in (*values, plan.order.tasks, plan.order.edges, plan.solids.measured):
        if isinstance(row, tuple):
            yield from (row[at : at + _AT_ONCE] for at in range(0, len(row), _AT_ONCE))
    yield from values

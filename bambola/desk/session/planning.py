"""The planner as it runs in a process of its own: figure and bench are sent once, and then wishes only."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import fields
from itertools import chain
from typing import Any

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.made import as_made
from bambola.core.solids import CopySolid

Start = tuple[Figure, Bench, tuple[CopySolid, ...] | None]
"""A figure, the bench it is planned on, and what measuring it has come to, if it was measured before."""


class Planning:
    """Plans wish after wish for the figure it was last sent. What is remembered of a figure is remembered by
    its identity, so it is kept here and not sent again."""

    def __init__(self) -> None:
        self._figure: Figure | None = None
        self._bench: Bench | None = None

    def __call__(self, brief: Brief, start: Start | None) -> Iterator[object]:
        """The plan for ``brief``, in pieces; with ``start`` of another figure than before. Before the plan of
        one that was not measured yet comes what measuring it has come to."""
        before = None
        if start is not None:
            self._figure, self._bench, before = start
        assert self._figure is not None and self._bench is not None
        made = as_made(self._figure, self._bench, before=before)
        plan = make_plan(self._figure, brief, self._bench)
        first = [made.solids.measured] if start is not None and before is None else []
        return chain(first, in_pieces(plan))


_AT_ONCE = 24
"""So many steps, parts or edges make a piece: they are taken in in about a millisecond. Judged."""
_FIELDS = fields(Plan)


def in_pieces(plan: Plan) -> Iterator[object]:
    """``plan`` bit by bit: its long runs in short ones, and then its fields, which are made of those."""
    values = [getattr(plan, field.name) for field in _FIELDS]
    for run in (*values, plan.order.tasks, plan.order.edges, plan.solids.measured):
        if isinstance(run, tuple):
            yield from (run[at : at + _AT_ONCE] for at in range(0, len(run), _AT_ONCE))
    yield from values


def put_together(pieces: Sequence[Any]) -> Plan:
    """The plan whose pieces these are."""
    return Plan(*pieces[-len(_FIELDS) :])

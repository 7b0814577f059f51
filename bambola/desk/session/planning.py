"""The planner as it runs in a process of its own: figure and bench are sent once, and then wishes only."""

from __future__ import annotations

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.made import as_made
from bambola.core.solids import CopySolid

Start = tuple[Figure, Bench, tuple[CopySolid, ...]]
"""A figure, the bench it is planned on, and what measuring it has come to."""


class Planning:
    """Plans wish after wish for the figure it was last sent. What is remembered of a figure is remembered by
    its identity, so it is kept here and not sent again."""

    def __init__(self) -> None:
        self._figure: Figure | None = None
        self._bench: Bench | None = None

    def __call__(self, brief: Brief, start: Start | None) -> Plan:
        """The plan for ``brief``; with ``start`` of another figure than before."""
        if start is not None:
            self._figure, self._bench, measured = start
            as_made(self._figure, self._bench, before=measured)
        assert self._figure is not None and self._bench is not None
        return make_plan(self._figure, brief, self._bench)

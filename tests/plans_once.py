"""The same plan of the same figure is made once: most tests are of the same three figures."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.memo import remembered
from bambola.core.plan import Plan

MOST = 128
"""So many plans are known, of half a megabyte each. Judged: most repeat within a file of tests."""
MakePlan = Callable[[Figure, Brief, Bench], Plan]


class _Asked:
    """What a plan is made of, told apart by all that is written of it."""

    def __init__(self, figure: Figure, brief: Brief, bench: Bench) -> None:
        self.figure, self.brief, self.bench = figure, brief, bench
        self._key = (figure, brief.model_dump_json(), bench.model_dump_json())

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Asked) and self._key == other._key


def made_once(make_plan: MakePlan) -> MakePlan:
    """``make_plan``, of which the last plans are known in the memory that is used: a test that wants none to
    be known takes an empty one, and who looks for faults lets go of what they would have changed."""

    @remembered(MOST)
    @wraps(make_plan)
    def found(asked: _Asked) -> Plan:
        return make_plan(asked.figure, asked.brief, asked.bench)

    @wraps(make_plan)
    def made(figure: Figure, brief: Brief, bench: Bench) -> Plan:
        return found(_Asked(figure, brief, bench))

    return made

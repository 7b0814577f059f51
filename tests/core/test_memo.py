"""What is remembered by weight: so much and no more, the latest of it, the same for the same question."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from bambola.core.figure.shapes import Ball
from bambola.core.memo import Memory, remembered
from bambola.core.solids import meshes
from bambola.core.solids.meshes import solid_of
from tests.effort import tries


@given(st.lists(st.integers(1, 30), min_size=1, max_size=60))
def test_memo_is_limited_and_keeps_latest(asked: list[int]) -> None:
    made: list[int] = []

    @remembered(60, weigh=int)
    def found(n: int) -> int:
        made.append(n)
        return n

    with Memory().active():
        for n in asked:
            assert found(n) == n
        latest: list[int] = []  # those that fit, from the last asked backwards
        for n in reversed(asked):
            if n not in latest and sum(latest) + n <= 60:
                latest.append(n)
            elif n not in latest:
                break
        before = len(made)
        for n in latest:
            found(n)
        assert len(made) == before


def test_cached_solids_stay_within_memory_limit() -> None:
    """Fifteen minutes of edits took a window from 196 to 647 MB: solids were counted, not weighed."""
    with Memory().active() as mine:
        for i in range(tries(3000, 500)):
            solid_of(Ball(width=20 + i * 0.01, depth=20, height=20))
        (kept,) = (known for f, known in mine.results.items() if f.__name__ == "solid_of")
        assert sum(weight for _, weight in kept._known.values()) <= meshes._SOLID_BYTES  # type: ignore[attr-defined]
        assert 50 < len(kept._known) < 200  # type: ignore[attr-defined]

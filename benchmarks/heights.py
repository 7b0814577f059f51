"""Turns against a sweep in millimetres: how long they take to find, and whether one was missed or is none.

``python -m benchmarks.heights`` holds all demos and body plans against a sweep of every millimetre from 0.2
to 6 times as made, in some ten minutes; ``make bench`` the toad alone, and times the badger and forty parts.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator

from bambola.core.bench import with_wools_of
from bambola.core.figure import Brief, Figure
from bambola.core.heights.reading import read_at
from bambola.core.heights.values import Reading, closeness
from bambola.core.heights.whole import Heights
from bambola.core.memo import Memory
from bambola.demo import BADGER, HERON, TOAD, load_demo, sample_shelf
from bambola.shipped import body_plans, default_bench
from benchmarks.__main__ import Row
from benchmarks.figures import forty_parts

BESIDE_MM = 0.5
BENCH = sample_shelf(default_bench())


def table() -> list[Row]:
    """How long all turns of the badger and of forty parts take, and how many of the toad's a sweep
    disputes."""
    rows = []
    for name, figure, limit in (
        ("the badger", load_demo(BADGER).figure, 3.0),
        ("40 parts", forty_parts(), 10.0),
    ):
        with Memory().used():
            read_at(figure, Brief(), BENCH, 100.0)
            heights = Heights(figure, Brief(), BENCH)
            began = time.perf_counter()
            turns = heights.turns()
            spent = time.perf_counter() - began
        rows.append(Row(f"all {len(turns)} turns of {name}", spent, limit, "s"))
    toad = load_demo(TOAD).figure
    disputed = list(disputes(toad, Brief()))
    rows.append(Row("turns of the toad that a sweep in millimetres disputes", len(disputed), 0, ""))
    return rows


def disputes(figure: Figure, brief: Brief) -> Iterator[str]:
    """What a sweep of every millimetre says otherwise: a turn that is none, and one that was missed."""
    heights = Heights(figure, brief, BENCH)
    turns = heights.turns()

    def at(height: float) -> Reading | None:
        return read_at(figure, brief, BENCH, height)

    for turn in turns:
        below, above = at(turn.height_mm - BESIDE_MM), at(turn.height_mm + BESIDE_MM)
        sign = turn.kind, turn.about
        if below and above and _state(below, sign) == _state(above, sign):
            between = [t for t in turns if (t.kind, t.about) == sign and t is not turn]
            if not any(abs(t.height_mm - turn.height_mm) < 2 * BESIDE_MM for t in between):
                yield f"none at {turn.height_mm} mm: {sign}"
    before, n = None, int(heights.low) + 1
    while n < heights.high:
        here = at(float(n))
        if here is not None and _asked(here) != here.amounts["questions"]:
            yield f"{here.amounts['questions']:g} questions at {n} mm, {_asked(here)} told"
        if before is not None and here is not None:
            for sign in before.signs.keys() | here.signs.keys():
                if _state(before, sign) != _state(here, sign) and not any(
                    (t.kind, t.about) == sign
                    and n - 1 - closeness(n) <= t.height_mm <= n + closeness(n)
                    for t in turns
                ):
                    yield f"missed between {n - 1} and {n} mm: {sign}"
        before, n = here, n + 1


def _asked(reading: Reading) -> int:
    """How many questions the signs of a reading tell."""
    told = (t for (kind, _), t in reading.signs.items() if kind == "question")
    return sum(t.text.kind != "turn.eyes-right" for t in told)


def _state(reading: Reading, sign: tuple[str, str]) -> object:
    told = reading.signs.get(sign)
    return None if told is None else told.state


def main() -> int:
    """All demos and body plans; 1 where a turn is disputed."""
    figures = [(path.stem, load_demo(path).figure) for path in (TOAD, HERON, BADGER)]
    figures += [(plan.figure.id, with_wools_of(plan.figure, BENCH)) for plan in body_plans()]
    wrong = 0
    for name, figure in figures:
        if len(sys.argv) > 1 and not any(word in name for word in sys.argv[1:]):
            continue
        began = time.perf_counter()
        disputed = list(disputes(figure, Brief()))
        print(f"{name}: {len(disputed)} disputed, {time.perf_counter() - began:.0f} s", flush=True)
        for told in disputed:
            print("   ", told, flush=True)
        wrong += len(disputed)
    return min(1, wrong)


if __name__ == "__main__":
    raise SystemExit(main())

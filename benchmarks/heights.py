"""Turns against a sweep in millimetres: how long they take to find, and whether one was missed or is none.

``python -m benchmarks.heights`` holds all demos and body plans against a sweep of every millimetre from 0.2
to 6 times as made, in some ten minutes; ``make bench`` the toad alone, and times the badger and forty parts.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator

from bambola.core.bench import with_wools_of
from bambola.core.facts import SoldSize
from bambola.core.figure import Brief, Figure
from bambola.core.heights.values import HeightReading, HeightWindow, turn_tolerance
from bambola.core.heights.whole import Heights, read_at
from bambola.core.plan import draft_plan
from bambola.core.plan.making.made import as_made
from bambola.core.resize import EYE_TOLERANCE
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, HERON, TOAD, load_demo, sample_shelf
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session.height_desk import SWEEPING
from bambola.shipped import body_plans, default_bench
from benchmarks.figures import forty_parts
from benchmarks.row import SMALLEST, Row, runs

BESIDE_MM = 0.5
BENCH = sample_shelf(default_bench())


def table() -> list[Row]:
    """Return how long all turns of the badger and of forty parts take in the process that finds them, and how
    many of the toad's a sweep disputes."""
    rows = []
    process = WorkerProcess(SWEEPING)
    process.wake()
    while not process.is_up:
        time.sleep(0.05)
    for name, figure, budget in (
        ("the badger", load_demo(BADGER).figure, "turns: badger"),
        ("40 parts", forty_parts(), "turns: 40 parts"),
    )[: runs(2)]:
        known = as_made(figure, BENCH).solids.measured
        process("begin_figure", figure, Brief(height=150.0), BENCH, known)
        began, share, n = time.perf_counter(), 0.0, 0
        while share < 1.0:
            share, turns = process("sweep_on")
            n += len(turns)
        spent = time.perf_counter() - began
        rows.append(Row(f"all {n} turns of {name}", spent, budget, "s"))
    process.end()
    if SMALLEST:
        return rows
    toad = load_demo(TOAD).figure
    disputed = list(disputes(toad, Brief()))
    rows.append(
        Row(
            "turns of the toad that a sweep in millimetres disputes",
            len(disputed),
            "turns: disputed",
            "",
        )
    )
    return rows


def disputes(figure: Figure, brief: Brief) -> Iterator[str]:
    """Yield what a sweep of every millimetre says otherwise: a turn that is none, and one that was missed."""
    heights = Heights(figure, brief, BENCH)
    turns = heights.turns()

    def at(height: float) -> HeightReading | None:
        return read_at(figure, brief, BENCH, height)

    for turn in turns:
        below, above = at(turn.height_mm - BESIDE_MM), at(turn.height_mm + BESIDE_MM)
        sign = turn.kind, turn.about
        if below and above and _state(below, sign) == _state(above, sign):
            between = [t for t in turns if (t.kind, t.about) == sign and t is not turn]
            if not any(abs(t.height_mm - turn.height_mm) < 2 * BESIDE_MM for t in between):
                yield f"none at {turn.height_mm} mm: {sign}"
    yield from _not_fitting(heights)
    before, n = None, int(heights.low) + 1
    while n < heights.high:
        here = at(float(n))
        if here and not here.is_refused and _asked(here) != here.amounts["questions"]:
            yield f"{here.amounts['questions']:g} questions at {n} mm, {_asked(here)} told"
        if before is not None and here is not None:
            for sign in before.signs.keys() | here.signs.keys():
                if _state(before, sign) != _state(here, sign) and not any(
                    (t.kind, t.about) == sign
                    and n - 1 - turn_tolerance(n) <= t.height_mm <= n + turn_tolerance(n)
                    for t in turns
                ):
                    yield f"missed between {n - 1} and {n} mm: {sign}"
        before, n = here, n + 1


def _not_fitting(heights: Heights) -> Iterator[str]:
    """Bands in the middle of which something does not fit, or just outside of which it does."""
    for fit in heights.fits():
        for height, expected in (
            ((fit.from_mm + fit.to_mm) / 2, True),
            (fit.from_mm - 1, False),
            (fit.to_mm + 1, False),
        ):
            if heights.low < height < heights.high and _fits(heights, fit, height) != expected:
                yield f"{ENGLISH.say(fit.text)}: not {expected} at {height} mm"


def _fits(heights: Heights, fit: HeightWindow, height: float) -> bool:
    """Return whether something fits, by the plan alone."""
    plan = draft_plan(heights.figure, heights.brief.at_height(height), heights.bench)
    if fit.kind == "eyes":
        slots = dict(fit.text.slots)
        row = next(row for row in plan.fittings if row.name == slots["name"])
        size = slots["size"]
        assert isinstance(size, SoldSize)
        return abs(size.value / row.wanted_mm - 1) <= EYE_TOLERANCE
    return not any(notice.code == f"dress:{fit.part}" for notice in plan.notices)


def _asked(reading: HeightReading) -> int:
    """Return how many questions the signs of a reading tell."""
    told = (t for (kind, _), t in reading.signs.items() if kind == "question")
    return sum(t.text.kind != "turn.eyes-right" for t in told)


def _state(reading: HeightReading, sign: tuple[str, str]) -> object:
    told = reading.signs.get(sign)
    return None if told is None else told.state


def main() -> int:
    """Return all demos and body plans; 1 where a turn is disputed."""
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

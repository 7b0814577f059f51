"""A working day at one window: eight hours of edits without the pauses. Memory is not to grow."""

from __future__ import annotations

import gc
import random
import tempfile
import time
from pathlib import Path

from bambola.desk.shell.app import give_memory_back, trim_memory
from bambola.desk.shell.stations import STATIONS
from bambola.desk.shell.window import Window
from benchmarks.window import wait
from tests.torture.hands import application, is_busy, open_window
from tests.torture.tally import Tally

A_DAY = 2880
"""An edit every ten seconds."""
_MAY_GROW_MB = 15.0
"""At the end of the day above the most of its earlier quarters: what is held swings with what is shown."""
MOST_MB = 450.0


def a_day(tally: Tally, edits: int, seed: int) -> None:
    """Edit, undo and walk about; what the process holds is told at every quarter of the day."""
    application()
    give_memory_back()
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        window = open_window(Path(name))
        window.open_demo()
        while is_busy(window):
            wait(5)
        quarters = []
        for n in range(edits):
            _edit(window, rng)
            wait(5)
            if n % 20 == 0:
                _catch_up(window)
            if (n + 1) * 4 // edits > len(quarters):
                _catch_up(window)
                quarters.append(_held_mb())
                told = f"  MB held after quarter {len(quarters)} of the day: {quarters[-1]:.0f}"
                print(told, flush=True)
        window.studio.undo_stack.setClean()
        window.close()
    tally.counts["edits"] += edits
    grown = quarters[-1] - max(quarters[:-1])
    if grown > _MAY_GROW_MB or max(quarters) > MOST_MB:
        tally.fault(f"{edits} edits: {quarters} MB held at their quarters (seed {seed})")


def _catch_up(window: Window) -> None:
    """Let what was asked for be done, as it is in ten seconds, and what is free be given back."""
    until = time.monotonic() + 10.0
    while window.studio.is_behind or not window.darkroom.is_idle:
        wait(10)
        if time.monotonic() > until:
            break
    gc.collect()
    trim_memory()


def _edit(window: Window, rng: random.Random) -> None:
    studio = window.studio
    assert studio.plan is not None
    part = rng.choice(studio.plan.parts).id
    match rng.randrange(6):
        case 0 | 1:
            studio.set_height(rng.uniform(120.0, 300.0))
        case 2:
            studio.selection.select_part(part)
        case 3:
            studio.hold(part, not studio.is_held(part))
        case 4:
            window.go_to(rng.randrange(len(STATIONS)))
        case _:
            studio.undo_stack.undo()


def _held_mb() -> float:
    """What the process holds in memory, MB."""
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * 4096 / 1e6

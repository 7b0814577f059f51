"""A working day at one window: eight hours of edits without the pauses. Memory is not to grow."""

from __future__ import annotations

import gc
import random
import tempfile
from pathlib import Path

from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bambola.desk.kit.theme import load_faces
from bambola.desk.shell.app import give_memory_back, trim_memory
from bambola.desk.shell.stations import STATIONS
from bambola.desk.shell.window import Window
from tests.torture.hands import open_window
from tests.torture.tally import Tally

A_DAY = 2880
"""An edit every ten seconds."""
_SETTLED = 0.25
"""By this share of the day every memo is as full as it gets."""
_MAY_GROW_MB = 15.0


def a_day(tally: Tally, edits: int, seed: int) -> None:
    """Edit, undo and walk about; what the process holds at the end is told against a quarter of the way."""
    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    app.setStyle("Fusion")
    load_faces()
    give_memory_back()
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        window = open_window(Path(name))
        window.open_demo()
        early = 0.0
        for n in range(edits):
            _edit(window, rng)
            QTest.qWait(5)
            if n % 50 == 0:
                gc.collect()
                trim_memory()
            if n == round(edits * _SETTLED):
                trim_memory()
                early = _held_mb()
        gc.collect()
        trim_memory()
        late = _held_mb()
        window.studio.undo_stack.setClean()
        window.close()
    tally.counts["edits"] += edits
    print(f"  {early:.0f} MB after a quarter of the day, {late:.0f} MB at its end", flush=True)
    if late - early > _MAY_GROW_MB:
        tally.fault(f"the window grew by {late - early:.0f} MB in {edits} edits (seed {seed})")


def _edit(window: Window, rng: random.Random) -> None:
    studio = window.studio
    assert studio.plan is not None
    part = rng.choice(studio.plan.parts).id
    match rng.randrange(6):
        case 0 | 1:
            studio.set_height(rng.uniform(120.0, 300.0))
        case 2:
            studio.selection.take_part(part)
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

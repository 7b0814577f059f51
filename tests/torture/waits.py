"""What takes long, done in a real window: opening, typing heights, a long list. The window is to live on."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, qInstallMessageHandler
from PyQt6.QtTest import QTest

from bambola.core.figure import Brief, Figure, dump_document
from bambola.demo import BADGER, HERON, TOAD
from bambola.desk.shell.app import pass_over_loaded
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.notes_dialog import NotesDialog
from bambola.shipped import LESSONS, body_plans
from benchmarks.figures import forty_parts
from benchmarks.pace import slowness
from benchmarks.window import wait
from tests.torture.hands import application, is_busy, open_window
from tests.torture.pulse import HELD_S, Pulse
from tests.torture.tally import Tally

REST_MS = 400
"""So long the window is looked at after each deed: what was put off until it is painted counts, too."""
_HEIGHTS = ("184 mm", "97", "402 mm")
_FAULT_S = 1.0
"""On calm cores. Judged: ten times what a hand feels."""
LONG_LIST = "\n".join(
    [
        "Woodlouse, 140 mm, on four legs",
        "body 60 x 50 x 90",
        "head 34",
        "snout 16 x 14 x 12",
        "nose 6",
        "2 ears 12 x 9",
        "2 eyes 5",
        "4 legs 36 long 12",
        "tail 40 long 9 to 3",
        *(f"knob {n} {6 + n % 4} on body" for n in range(1, 37)),
    ]
)


def long_waits(tally: Tally) -> None:
    """Open all that ships, type heights for a figure of 120 parts, begin one of a list of 45 pieces. Every
    hold that a hand feels is told; one over a second is a fault."""
    application()
    qInstallMessageHandler(lambda *_: None)
    with tempfile.TemporaryDirectory() as name:
        window, pulse = open_window(Path(name)), Pulse()
        window.open_demo()
        _settle(window)
        while window.pages.make_next():
            pass
        pass_over_loaded()
        for what, deed in _deeds(window, Path(name)):
            pulse.begin()
            deed()
            _settle(window)
            held = pulse.longest_s()
            tally.counts["deeds"] += 1
            if held > HELD_S:
                tally.counts["holds over 100 ms"] += 1
                print(f"  {what}: {1000 * held:.0f} ms", flush=True)
            if held > _FAULT_S * max(1.0, slowness()):
                tally.fault(f"{what} held the window for {held:.1f} s")
        window.studio.undo_stack.setClean()
        window.close()


def _deeds(window: Window, folder: Path) -> Iterator[tuple[str, Callable[[], object]]]:
    """What is done, in order, and what it is called."""
    for path in (BADGER, TOAD, HERON, *LESSONS):
        copy = folder / path.name
        copy.write_bytes(path.read_bytes())
        yield f"opening {path.name}", partial(window.files.open_path, copy)
    for plan in body_plans():
        yield f"opening the {plan.figure.name}", partial(_open, window, folder, plan.figure)
    many = forty_parts(120 - len(forty_parts().parts))
    yield "opening 120 parts", partial(_open, window, folder, many)
    for text in _HEIGHTS:
        yield f"{text} typed for 120 parts", partial(_type_height, window, text)
    yield "holding the body of 120 parts", partial(window.studio.hold, "body", True)
    for text in _HEIGHTS:
        yield f"{text} typed for 120 parts, one held", partial(_type_height, window, text)
    dialog = NotesDialog(window, window.studio, window.theme, window.darkroom)
    dialog.show()
    yield "a list of 45 pieces pasted", partial(dialog.paper.setPlainText, LONG_LIST)
    window.studio.undo_stack.setClean()
    dialog.close()
    found = dialog.figure
    assert found is not None
    yield "a list of 45 pieces begun", partial(window.start_with, found)


def _open(window: Window, folder: Path, figure: Figure) -> None:
    path = folder / f"{figure.id}.bambola.json"
    path.write_text(dump_document(figure, Brief()), encoding="utf-8")
    window.studio.undo_stack.setClean()
    window.files.open_path(path)


def _type_height(window: Window, text: str) -> None:
    window.type_height()
    entry = window.resize_station.table._entry
    entry.setText(text)
    QTest.keyClick(entry, Qt.Key.Key_Return)


def _settle(window: Window) -> None:
    """Wait, the window alive, until all is planned and painted."""
    wait(5)
    while is_busy(window) or not window.darkroom.is_idle:
        wait(5)
    wait(REST_MS)

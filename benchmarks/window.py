"""Rows that need the window: the drag and the memory."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import TYPE_CHECKING

from PIL import Image

from bambola.core.figure import Brief, Document
from bambola.demo import PICTURES
from benchmarks.figures import HELD_COLLAR, forty_parts
from benchmarks.measuring import TWELVE
from benchmarks.row import Row

if TYPE_CHECKING:
    from bambola.desk.shell.window import Window

MEMORY = """
import sys
from benchmarks.window import _window
from PyQt6.QtTest import QTest
window = _window()
window.open_demo(); window.show()
while not window.darkroom.is_idle or not window.resize_station.table.is_pictured: QTest.qWait(50)
QTest.qWait(400)
while not window.darkroom.is_idle: QTest.qWait(50)
line = next(l for l in open("/proc/self/status") if l.startswith("VmHWM"))
print(int(line.split()[1]) / 1024)
window.close()
"""


TWO_PICTURES = """
import sys
from pathlib import Path
from benchmarks.window import _window
from PyQt6.QtTest import QTest
from bambola.desk.stations.menus import OUTLINE
folder = Path(sys.argv[1])
window = _window()
window.show()
window.start_with_pictures({view: folder / f"{view}.jpg" for view in ("front", "side")}, 120.0)
station = window.measure_station
for view in ("front", "side"):
    station.board.look(view)
    station.go_to_step(OUTLINE)
    while not station.sighting.is_idle or station.sighting.silhouette(view) is None: QTest.qWait(50)
QTest.qWait(400)
while not window.darkroom.is_idle: QTest.qWait(50)
line = next(l for l in open("/proc/self/status") if l.startswith("VmRSS"))
print(int(line.split()[1]) / 1024)
window.studio.undo_stack.setClean()
window.close()
"""


def _window() -> Window:
    from PyQt6.QtCore import QSettings
    from PyQt6.QtWidgets import QApplication

    from bambola.desk.kit.theme import Theme, load_faces
    from bambola.desk.running.worker_process import WorkerProcess
    from bambola.desk.session.planner import PLANNING
    from bambola.desk.session.settings import Settings
    from bambola.desk.session.studio import EditorSession
    from bambola.desk.shell.app import calm_collector, give_memory_back, pass_over_loaded
    from bambola.desk.shell.window import Window
    from bambola.store import Journal

    global _app
    give_memory_back()
    _app = QApplication.instance() or QApplication(["bench"])
    load_faces()
    theme = Theme()
    theme.set(dark=False)
    scratch = Path(tempfile.mkdtemp())
    settings = Settings(QSettings(str(scratch / "s.ini"), QSettings.Format.IniFormat))
    calm_collector()
    pass_over_loaded()
    window = Window(
        EditorSession(apart=WorkerProcess(PLANNING)), theme, settings, Journal(scratch / "journal")
    )
    window.resize(1280, 800)
    return window


def drag() -> list[Row]:
    """Return each frame of pulling the flag: the figure at the new height, the plan as often as it follows,
    and the window painted; then, with the hand at rest, how long until every number is exact."""
    rows = []
    for what, parts, held in (
        ("40 parts", 40, False),
        ("40 parts, one part held", 40, True),
        ("120 parts", 120, False),
    ):
        figure = forty_parts(more=parts - 40)
        brief = Brief().ruled("collar", HELD_COLLAR) if held else Brief()
        limits = (12.0, 20.0) if (parts, held) == (40, False) else (16.0, 33.0)
        frames, rest = _pulled(Document(figure=figure, brief=brief))
        late = frames[int(0.95 * len(frames))]
        rows += [
            Row(f"height drag, {what}: median frame", statistics.median(frames), limits[0], "ms"),
            Row(f"height drag, {what}: 95th percentile", late, limits[1], "ms"),
            Row(f"height drag, {what}: exact at rest after", rest, 150.0, "ms"),
        ]
    return rows


def _pulled(document: Document) -> tuple[list[float], float]:
    """Milliseconds of the frames of a pull, sorted, and from its end until the plan has come."""
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QApplication

    window = _window()
    window.studio.open_document(document, None)
    window.show()
    table = window.resize_station.table
    start, runs, rests = window.studio.plan.to_height_mm, [], []
    for _ in range(5):
        while not table.is_pictured or not window.darkroom.is_idle:
            QTest.qWait(50)
        QTest.qWait(400)
        frames = []
        table._gesture, table._drag = table._gesture + 1, "flag"
        for i in range(60):
            began = time.perf_counter()
            window.studio.pull_height(start * (1 - 0.004 * (i + 1)), table._gesture)
            QApplication.processEvents()
            frames.append((time.perf_counter() - began) * 1000)
        began = time.perf_counter()
        while window.studio.is_behind:
            QApplication.processEvents()
        rests.append((time.perf_counter() - began) * 1000)
        table._drag = None
        runs.append(sorted(frames))
    window.studio.undo_stack.setClean()
    window.close()
    # The machine is shared: of some runs the calmest says what the work itself takes.
    return min(runs, key=statistics.median), min(rests)


def memory() -> list[Row]:
    """Peak memory of a process with the largest demo open, and what one holds that measures two pictures of
    twelve megapixels."""
    return [
        Row("memory with the largest demo open", _told(MEMORY), 260, "MB"),
        Row("memory while two pictures of 12 megapixels are measured", _two_pictures(), 400, "MB"),
    ]


def _two_pictures() -> float:
    with tempfile.TemporaryDirectory() as folder:
        for view in ("front", "side"):
            with Image.open(PICTURES / f"heron-{view}-busy.jpg") as image:
                image.convert("RGB").resize(TWELVE).save(Path(folder) / f"{view}.jpg")
        return _told(TWO_PICTURES, folder)


def _told(code: str, *given: str) -> float:
    """Return the last number that a Python process prints."""
    command = [sys.executable, "-c", code, *given]
    done = subprocess.run(command, check=True, capture_output=True, text=True)
    return float(done.stdout.split()[-1])

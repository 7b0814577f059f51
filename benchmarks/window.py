"""Rows that need the window: the drag and the memory; and the window itself, as benchmarks open it."""

from __future__ import annotations

import statistics
import tempfile
import time
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from PIL import Image

from bambola.core.figure import Brief, Document
from bambola.demo import PICTURES
from benchmarks.figures import HELD_COLLAR, forty_parts
from benchmarks.measuring import TWELVE
from benchmarks.row import SMALLEST, Row, runs

if TYPE_CHECKING:
    from PyQt6.QtCore import QCoreApplication

    from bambola.desk.shell.window import Window


def new_window() -> Window:
    """Return a window of the program with settings and a journal of its own."""
    from PyQt6.QtCore import QSettings

    from bambola.desk.kit.theme import Theme, load_faces
    from bambola.desk.running.worker_process import WorkerProcess
    from bambola.desk.session.planner import PLANNING
    from bambola.desk.session.settings import Settings
    from bambola.desk.session.studio import EditorSession
    from bambola.desk.shell.app import calm_collector, give_memory_back, pass_over_loaded
    from bambola.desk.shell.window import Window
    from bambola.store import Journal

    give_memory_back()
    _keep_application()
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


@cache
def _keep_application() -> QCoreApplication:
    from PyQt6.QtWidgets import QApplication

    return QApplication.instance() or QApplication(["bench"])


def wait(ms: int) -> None:
    """Let the program run for ``ms`` milliseconds."""
    from PyQt6.QtCore import QEventLoop, QTimer

    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def wait_until_idle(window: Window) -> None:
    """Wait until the pictures are made, also those that are asked for once the hand rests."""
    wait(400)
    while not window.darkroom.is_idle:
        wait(50)


def memory_mb(field: str) -> float:
    """Return a field of this process's memory in the kernel's status, MB."""
    status = Path("/proc/self/status").read_text(encoding="ascii")
    line = next(line for line in status.splitlines() if line.startswith(field))
    return int(line.split()[1]) / 1024


def drag() -> list[Row]:
    """Return each frame of pulling the flag: the figure at the new height, the plan as often as it follows,
    and the window painted; then, with the hand at rest, how long until every number is exact."""
    rows = []
    for what, parts, held in (
        ("40 parts", 40, False),
        ("40 parts, one part held", 40, True),
        ("120 parts", 120, False),
    )[: runs(3)]:
        figure = forty_parts(more=parts - 40)
        brief = Brief().ruled("collar", HELD_COLLAR) if held else Brief()
        more = "" if (parts, held) == (40, False) else ", held or many"
        frames, rest = _pulled(Document(figure=figure, brief=brief))
        late = frames[int(0.95 * len(frames))]
        rows += [
            Row(
                f"height drag, {what}: median frame",
                statistics.median(frames),
                f"drag: median{more}",
                "ms",
            ),
            Row(f"height drag, {what}: 95th percentile", late, f"drag: late{more}", "ms"),
            Row(f"height drag, {what}: exact at rest after", rest, "drag: at rest", "ms"),
        ]
    return rows


def _pulled(document: Document) -> tuple[list[float], float]:
    """Milliseconds of the frames of a pull, sorted, and from its end until the plan has come."""
    from PyQt6.QtWidgets import QApplication

    window = new_window()
    window.studio.open_document(document, None)
    window.show()
    table = window.resize_station.table
    assert window.studio.plan is not None
    start, pulls, rests = window.studio.plan.to_height_mm, [], []
    for _ in range(runs(5)):
        while not table.is_pictured or not window.darkroom.is_idle:
            wait(50)
        wait(400)
        frames = []
        table._gesture, table._drag = table._gesture + 1, "flag"
        for i in range(6 if SMALLEST else 60):
            began = time.perf_counter()
            window.studio.pull_height(start * (1 - 0.004 * (i + 1)), table._gesture)
            QApplication.processEvents()
            frames.append((time.perf_counter() - began) * 1000)
        began = time.perf_counter()
        while window.studio.is_behind:
            QApplication.processEvents()
        rests.append((time.perf_counter() - began) * 1000)
        table._drag = None
        pulls.append(sorted(frames))
    window.studio.undo_stack.setClean()
    window.close()
    # The machine is shared: of some runs the calmest says what the work itself takes.
    return min(pulls, key=statistics.median), min(rests)


def memory() -> list[Row]:
    """Return the peak memory of a process with the largest demo open, and the memory of one that measures two
    pictures of twelve megapixels."""
    return [
        Row("memory with the largest demo open", _memory_with_demo(), "memory: demo", "MB"),
        Row(
            "memory while two pictures of 12 megapixels are measured",
            _two_pictures(),
            "memory: two pictures",
            "MB",
        ),
    ]


def _two_pictures() -> float:
    with tempfile.TemporaryDirectory() as folder:
        for view in ("front", "side"):
            with Image.open(PICTURES / f"heron-{view}-busy.jpg") as image:
                image.convert("RGB").resize(TWELVE).save(Path(folder) / f"{view}.jpg")
        from benchmarks.children import run_child, two_pictures

        return run_child(two_pictures, folder)[-1]


def _memory_with_demo() -> float:
    from benchmarks.children import memory, run_child

    return run_child(memory)[-1]

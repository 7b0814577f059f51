"""Work that the window waits for without standing still: it is painted, and its clocks go on."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QCoreApplication, QEventLoop, QObject

from bambola.desk.running.background import Background
from bambola.desk.running.timers import one_shot_timer

SLOW_MS = 500
"""What takes longer is told. Judged."""


def do_aside(
    work: Callable[[], None], owner: QObject, slow: Callable[[], None] | None = None
) -> None:
    """Do ``work`` on a thread of its own and return when it is done; raise what it raised. What the hand does
    meanwhile comes after it. Once it takes longer than :data:`SLOW_MS` ``slow`` is called."""
    background, loop = Background("aside"), QEventLoop(owner)
    job = background.do(work, lambda _: loop.quit(), lambda _: loop.quit())
    late = one_shot_timer(loop, SLOW_MS)
    if slow is not None:
        late.timeout.connect(slow)
    late.start()
    loop.exec(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)
    job.is_done.wait()  # the program may have been told to end meanwhile
    late.stop()
    background.close()
    loop.deleteLater()
    if not job.well:
        raise job.came_of_it


def wait_for_event() -> None:
    """Wait for the next event and take it: the window is painted, its clocks go on, and what the hand does
    stays for later."""
    flags = QEventLoop.ProcessEventsFlag
    QCoreApplication.processEvents(flags.ExcludeUserInputEvents | flags.WaitForMoreEvents)

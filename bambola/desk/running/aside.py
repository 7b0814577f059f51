"""Work that the window waits for without standing still: it is painted, and its clocks go on."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEventLoop, QObject, QTimer

from bambola.desk.running.background import Background


def do_aside(
    work: Callable[[], None], owner: QObject, slow_ms: int, slow: Callable[[], None]
) -> None:
    """Do ``work`` on a thread of its own and return when it is done; raise what it raised. What the hand does
    meanwhile comes after it. Once it takes longer than ``slow_ms`` ``slow`` is called."""
    background, loop = Background("aside"), QEventLoop(owner)
    troubles: list[Exception] = []

    def failed(error: Exception) -> None:
        troubles.append(error)
        loop.quit()

    background.do(work, lambda _: loop.quit(), failed)
    late = QTimer(loop)
    late.setSingleShot(True)
    late.timeout.connect(slow)
    late.start(slow_ms)
    loop.exec(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)
    late.stop()
    background.close()
    loop.deleteLater()
    if troubles:
        raise troubles[0]

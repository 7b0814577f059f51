"""The window with two pictures being measured, ``front.jpg`` and ``side.jpg`` in the folder that is the
argument: print the memory it holds, MB."""

from __future__ import annotations

import sys
from pathlib import Path

from bambola.core.figure.survey import Sight
from bambola.desk.stations.menus import OUTLINE
from benchmarks.window import memory_mb, new_window, wait, wait_until_idle

VIEWS: tuple[Sight, ...] = ("front", "side")


def main() -> None:
    """Cut out both pictures, and print."""
    folder = Path(sys.argv[1])
    window = new_window()
    window.show()
    window.start_with_pictures({view: folder / f"{view}.jpg" for view in VIEWS}, 120.0)
    station = window.measure_station
    for view in VIEWS:
        station.board.turn_to(view)
        station.go_to_step(OUTLINE)
        while not station.sighting.is_idle or station.sighting.silhouette(view) is None:
            wait(50)
    wait_until_idle(window)
    print(memory_mb("VmRSS"))
    window.studio.undo_stack.setClean()
    window.close()


if __name__ == "__main__":
    main()

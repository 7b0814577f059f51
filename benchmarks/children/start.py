"""The start of the program: print when the splash screen was painted and when both figures were."""

from __future__ import annotations

import os
import sys
import time

STAY = "stay"
"""With this argument it goes on until the pictures are as fine as they get, as where the hand rests."""


def main() -> None:
    """Start, print both times (s), and end."""
    from PyQt6.QtGui import QGuiApplication

    from bambola.desk.shell.app import DEMO, raise_splash, set_up

    app, theme, settings, splash = raise_splash(DEMO)
    print(time.time(), flush=True)
    window = set_up(theme, settings)
    over = splash.hang_over(window)
    window.open_demo()
    while not window.resize_station.table.is_pictured:
        app.processEvents()
    over.hide()
    window.repaint()
    QGuiApplication.sync()
    print(time.time(), flush=True)
    if STAY in sys.argv:
        prints = window.resize_station.table.figures.prints
        while any(made.shot.smooth < 2 for made in prints.values()):
            app.processEvents()
        while not window.darkroom.is_idle:
            app.processEvents()
        window.darkroom.close()
    os._exit(0)


if __name__ == "__main__":
    main()

"""Start the window: ``bambola-gui [FIGURE]``."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from bambola.desk.icons import icon
from bambola.desk.settings import Settings
from bambola.desk.theme import Theme, load_faces
from bambola.desk.window import Window, application_window


def main(argv: Sequence[str] | None = None) -> int:
    """Run the application until its window is closed."""
    parser = argparse.ArgumentParser(
        prog="bambola-gui", description="Resize a needle-felted figure."
    )
    parser.add_argument("figure", nargs="?", type=Path, help="a design to open")
    parser.add_argument("--demo", action="store_true", help="open the lamplighter badger")
    parser.add_argument("--screenshot", type=Path, metavar="PNG",
                        help="save a picture of the window once it is drawn, and end")  # fmt: skip
    args = parser.parse_args(argv)
    app, window = start()
    if args.figure:
        window.open_path(args.figure)
    elif args.demo:
        window.open_demo()
    window.show()
    if args.screenshot:
        _picture_and_end(window, args.screenshot)
    elif not args.figure:
        QTimer.singleShot(0, window.offer_recovery)
    code = app.exec()
    window.put_away()
    return code


def start() -> tuple[QApplication, Window]:
    """The application and its window, dressed and not yet shown."""
    app = QApplication(sys.argv[:1])
    app.setApplicationName("bambola")
    app.setDesktopFileName("bambola")
    app.setStyle("Fusion")
    load_faces()
    theme = Theme()
    window = application_window(app, theme, Settings())
    window.setWindowIcon(icon("bambola", theme.dyes.madder))
    return app, window


def _picture_and_end(window: Window, path: Path) -> None:
    """Save the window as PNG when its pictures are finished, then end."""
    timer = QTimer(window)
    timer.setInterval(300)
    waited = [0]

    def look() -> None:
        waited[0] += 1
        if (window.darkroom.is_idle and waited[0] > 2) or waited[0] > 60:
            timer.stop()
            window.grab().save(str(path))
            QApplication.exit(0)

    timer.timeout.connect(look)
    timer.start()


if __name__ == "__main__":
    sys.exit(main())

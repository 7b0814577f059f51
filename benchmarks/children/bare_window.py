"""A bare window with PyQt6 and NumPy: print when it was painted."""

from __future__ import annotations

import os
import sys
import time


def main() -> None:
    """Show a label and print the time, s."""
    import numpy
    from PyQt6.QtGui import QGuiApplication
    from PyQt6.QtWidgets import QApplication, QLabel

    app = QApplication(sys.argv)
    label = QLabel(str(numpy.zeros(3)))
    label.resize(1280, 800)
    label.show()
    handle = label.windowHandle()
    assert handle is not None
    while not handle.isExposed():
        app.processEvents()
    app.processEvents()
    QGuiApplication.sync()
    print(time.time(), flush=True)
    os._exit(0)


if __name__ == "__main__":
    main()

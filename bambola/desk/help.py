"""What the Help menu shows."""

from __future__ import annotations

from PyQt6.QtWidgets import QMessageBox, QWidget

from bambola import __version__
from bambola.desk.actions import HAND_KEYS, MENUS


def show_keys(window: QWidget) -> None:
    """Every key, those of the hands first."""
    rows = [*HAND_KEYS]
    rows += [
        (deed.keys, deed.words.replace("&", ""))
        for _, deeds in MENUS
        for deed in deeds
        if deed and deed.keys
    ]
    table = "".join(
        f"<tr><td><b>{keys}</b>&nbsp;&nbsp;</td><td>{words}</td></tr>" for keys, words in rows
    )
    _show(window, "Keys", f"<table>{table}</table>")


def show_about(window: QWidget) -> None:
    """Name, version, licence."""
    _show(
        window,
        "About Bambola",
        f"<h3>Bambola {__version__}</h3><p>A needle-felted figure at another size: parts, wire, wool "
        f"and order.</p><p>Free software under the GNU General Public License, version 3 or later. "
        f"Type: Fraunces and Atkinson Hyperlegible Next, SIL Open Font License.</p>",
    )


def _show(window: QWidget, title: str, text: str) -> None:
    box = QMessageBox(window)
    box.setWindowTitle(title)
    box.setText(text)
    box.exec()

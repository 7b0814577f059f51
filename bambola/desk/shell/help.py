"""What the Help menu shows."""

from __future__ import annotations

from html import escape

from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFrame,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from bambola import __version__
from bambola.desk.shell.actions import HAND_KEYS, MENUS


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
        f"<tr><td><b>{escape(keys)}</b>&nbsp;&nbsp;</td><td>{escape(words)}</td></tr>"
        for keys, words in rows
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
    box = QDialog(window)
    box.setWindowTitle(title)
    words = QTextBrowser()
    words.setFrameShape(QFrame.Shape.NoFrame)
    words.setHtml(text)
    words.setAccessibleName(title)
    buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
    buttons.rejected.connect(box.reject)
    column = QVBoxLayout(box)
    column.addWidget(words, 1)
    column.addWidget(buttons)
    # As tall as its words, but never taller than the window: then it scrolls.
    box.resize(round(window.width() * 0.6), round(window.height() * 0.4))
    document = words.document()
    assert document is not None
    document.setTextWidth(box.width() - 40)
    tall = round(document.size().height()) + 90
    box.resize(box.width(), min(tall, round(window.height() * 0.9)))
    box.finished.connect(box.deleteLater)
    box.exec()

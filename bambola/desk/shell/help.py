"""What the Help menu shows."""

from __future__ import annotations

from collections.abc import Sequence
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
from bambola.desk.kit.deed import Deed

HAND_KEYS = (
    ("Up, Down", "raise or lower the flag by 1 mm (with Shift by a tenth)"),
    ("Page Up, Page Down", "by 10 mm"),
    ("Enter, or a digit", "type the height"),
    ("Left, Right", "turn the figures"),
    (
        "Left, Right on the thread",
        "walk through the order (with Shift pull a bead; Backspace: undo it)",
    ),
    ("Space, Left, P, N, Esc while making", "done and on, back, pause, a note, leave"),
    ("G on the board", "take the next grip or line"),
    ("Arrows on the board", "move, turn or stretch by 1 mm (with Shift by a tenth)"),
    ("Enter, or a digit on the board", "type the number of the grip in hand"),
    ("Arrows, Space, Enter while drawing", "point, set a point, end the line (with Alt by 5 mm)"),
    ("N, H while drawing", "a new part; without the outline"),
    ("+, −, Home on the board", "larger, smaller, all of it"),
    ("Enter on a wool", "lay it on the part in hand (with Shift as its core)"),
    ("Left, Right on the skeleton", "walk along the wire (with Shift bend the limb by 5°)"),
    ("Up, Down on the skeleton or ruler", "next wire"),
    ("+, − on the skeleton", "one strand more or less of the bone in hand"),
    ("[, ] on the skeleton", "move the outer joint of the bone in hand along its part"),
    (">, < and . at the wire", "stouter, thinner, as planned"),
    ("Up, Down on the ground", "wish it steadier, or nodding more"),
    ("Left, Right on the table, the pan, the tree, the shelf", "the next portion, colour or wool"),
    ("Space, N, Backspace at the pan", "take it down as it is, nought, weigh the last again"),
    ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
)


def show_keys(window: QWidget, deeds: Sequence[Deed]) -> None:
    """Every key, those of the hands first."""
    rows = [*HAND_KEYS, *((deed.keys, deed.words.replace("&", "")) for deed in deeds if deed.keys)]
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

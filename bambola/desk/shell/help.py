"""The dialogs of the Help menu."""

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
from bambola.desk.kit.menu_action import MenuAction
from bambola.language import N_, tr

HAND_KEYS = (
    (N_("Up, Down"), N_("raise or lower the flag by a step (with Shift by a tenth of it)")),
    (N_("Page Up, Page Down"), N_("by ten steps")),
    (N_("Enter, or a digit"), N_("type the height")),
    (N_("Left, Right"), N_("turn the figures")),
    (
        N_("Left, Right on the thread"),
        N_("walk through the order (with Shift pull a bead; Backspace: undo it)"),
    ),
    (N_("Space, Left, P, N, Esc while making"), N_("done and on, back, pause, a note, leave")),
    (N_("G on the board"), N_("take the next grip or line")),
    (
        N_("Arrows on the board"),
        N_("move, turn or stretch by a step (with Shift by a tenth of it)"),
    ),
    (N_("Enter, or a digit on the board"), N_("type the number of the grip in hand")),
    (
        N_("Arrows, Space, Enter while drawing"),
        N_("point, set a point, end the line (with Alt by longer steps)"),
    ),
    (N_("N, H while drawing"), N_("a new part; without the outline")),
    (N_("+, −, Home on the board"), N_("larger, smaller, all of it")),
    (N_("Enter on a wool"), N_("lay it on the part in hand (with Shift as its core)")),
    (N_("Left, Right on the skeleton"), N_("walk along the wire (with Shift bend the limb by 5°)")),
    (N_("Up, Down on the skeleton or ruler"), N_("next wire")),
    (N_("+, − on the skeleton"), N_("one strand more or less of the bone in hand")),
    (N_("[, ] on the skeleton"), N_("move the outer joint of the bone in hand along its part")),
    (N_(">, < and . at the wire"), N_("stouter, thinner, as planned")),
    (N_("Up, Down on the ground"), N_("wish it steadier, or nodding more")),
    (
        N_("Left, Right on the table, the pan, the tree, the shelf"),
        N_("the next portion, colour or wool"),
    ),
    (
        N_("Space, N, Backspace at the pan"),
        N_("take it down as it is, nought, weigh the last again"),
    ),
    ("Ctrl+Z, Ctrl+Shift+Z", N_("undo, redo")),
)


def show_keys(window: QWidget, menu_actions: Sequence[MenuAction]) -> None:
    """Show all keys, those of the current tools first."""
    rows = [
        *HAND_KEYS,
        *(
            (action.keys, tr(action.words).replace("&", ""))
            for action in menu_actions
            if action.keys
        ),
    ]
    table = "".join(
        f"<tr><td><b>{escape(keys)}</b>&nbsp;&nbsp;</td><td>{escape(words)}</td></tr>"
        for keys, words in rows
    )
    _show(window, tr("Keys"), f"<table>{table}</table>")


def show_about(window: QWidget) -> None:
    """Show name, version and licence."""
    _show(
        window,
        tr("About Bambola"),
        tr(
            "<h3>Bambola {version}</h3><p>A needle-felted figure at another size: parts, wire, "
            "wool and order.</p><p>Free software under the GNU General Public License, version 3 "
            "or later. Type: Fraunces and Atkinson Hyperlegible Next, SIL Open Font License.</p>",
            version=__version__,
        ),
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

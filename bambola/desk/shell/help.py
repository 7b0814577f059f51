"""The dialogs of the Help menu."""

from __future__ import annotations

import io
import platform
import sys
import zipfile
from collections.abc import Sequence
from html import escape
from importlib.metadata import distributions
from pathlib import Path

from PyQt6.QtCore import QLocale, QSysInfo
from PyQt6.QtGui import QGuiApplication, QKeySequence
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFrame,
    QMessageBox,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from bambola import __version__
from bambola.core.figure import dump_document
from bambola.desk.kit.file_dialogs import ask_save
from bambola.desk.kit.menu_action import MenuAction
from bambola.desk.running.crash_log import log_error, log_path
from bambola.desk.session.studio import EditorSession
from bambola.files import ExportError, write_made
from bambola.language import N_, current_catalogue, tr
from bambola.translated import language_of

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
    (N_("Enter, or a digit on the board"), N_("type the number of the selected grip")),
    (
        N_("Arrows, Space, Enter while drawing"),
        N_("point, set a point, end the line (with Alt by longer steps)"),
    ),
    (N_("N, H while drawing"), N_("a new part; without the outline")),
    (N_("+, −, Home on the board"), N_("larger, smaller, all of it")),
    (N_("Enter on a wool"), N_("lay it on the selected part (with Shift as its core)")),
    (N_("Left, Right on the skeleton"), N_("walk along the wire (with Shift bend the limb by 5°)")),
    (N_("Up, Down on the skeleton or ruler"), N_("next wire")),
    (N_("+, − on the skeleton"), N_("one strand more or less of the selected bone")),
    (N_("[, ] on the skeleton"), N_("move the outer joint of the selected bone along its part")),
    (N_(">, < and . at the wire"), N_("stouter, thinner, as planned")),
    (N_("Up, Down on the ground"), N_("steadier, or nodding more")),
    (
        N_("Left, Right on the table, the pan, the tree, the shelf"),
        N_("the next portion, colour or wool"),
    ),
    (
        N_("Space, N, Backspace at the pan"),
        N_("record it as it is, set to zero, undo the last weighing"),
    ),
    (N_("Ctrl+Z, Ctrl+Shift+Z"), N_("undo, redo")),
)


def show_keys(window: QWidget, menu_actions: Sequence[MenuAction]) -> None:
    """Show all keys, those of the current tools first."""
    rows = [
        *((tr(keys), tr(words)) for keys, words in HAND_KEYS),
        *((_key_name(a.keys), tr(a.words).replace("&", "")) for a in menu_actions if a.keys),
    ]
    table = "".join(
        f"<tr><td><b>{escape(keys)}</b>&nbsp;&nbsp;</td><td>{escape(words)}</td></tr>"
        for keys, words in rows
    )
    _show_dialog(window, tr("Keys"), f"<table>{table}</table>")


def _key_name(keys: str) -> str:
    """Return keys as they are called in the language spoken: “Strg+F” in German."""
    return QKeySequence(keys).toString(QKeySequence.SequenceFormat.NativeText)


def show_about(window: QWidget) -> None:
    """Show name, version and licence."""
    _show_dialog(
        window,
        tr("About Bambola"),
        tr(
            "<h3>Bambola {version}</h3><p>A needle-felted figure at another size: parts, wire, "
            "wool and order.</p><p>Free software under the GNU General Public License, version 3. "
            "Type: Fraunces and Atkinson Hyperlegible Next, SIL Open Font License.</p>",
            version=__version__,
        ),
    )


def _show_dialog(window: QWidget, title: str, text: str) -> None:
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


NEWEST = 200_000
"""So many bytes of the log are told, the newest."""


def report(design: str | None) -> bytes:
    """Return a ZIP of versions, the log of what went wrong, and the design if it is given. Folders of whoever
    sends it are not told but as ``~``."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("versions.txt", _version_lines())
        if log_path().is_file():
            log = log_path().read_bytes()[-NEWEST:].decode(errors="replace")
            file.writestr("mishaps.log", log.replace(str(Path.home()), "~"))
        if design is not None:
            file.writestr("figure.bambola.json", design)
    return out.getvalue()


def _version_lines() -> str:
    screen = QGuiApplication.primaryScreen()
    told = {
        "Bambola": __version__,
        "Python": sys.version.split()[0],
        "system": f"{QSysInfo.prettyProductName()}, {platform.machine()}",
        "display": QGuiApplication.platformName(),
        "screen": f"{screen.size().width()} x {screen.size().height()}" if screen else "",
        "language": f"{language_of(current_catalogue())}, {QLocale().name()}",
    }
    names = ("numpy", "scipy", "pyqt6", "pydantic", "reportlab", "pillow", "manifold3d", "embreex")
    found = {d.name.lower(): d.version for d in distributions()}
    told |= {name: found[name] for name in names if name in found}
    return "".join(f"{name}: {version}\n" for name, version in told.items())


def ask_report(window: QWidget, studio: EditorSession) -> None:
    """Ask whether the figure goes along, and where the file is to be written."""
    box = QMessageBox(window)
    box.setWindowTitle(tr("Report a fault"))
    box.setText(tr("This writes one file for you to look at and send."))
    box.setInformativeText(
        tr("It holds version numbers and the errors so far. Nothing is sent automatically.")
    )
    with_figure = QCheckBox(tr("with the &figure on the table"))
    if studio.figure is not None:
        box.setCheckBox(with_figure)
    box.setStandardButtons(QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Cancel)
    if box.exec() != QMessageBox.StandardButton.Save:
        return
    kinds = tr("Report (*.zip)")
    where = ask_save(window, tr("Report a fault"), "bambola.zip", kinds)
    if not where:
        return
    design = None
    if with_figure.isChecked() and studio.figure is not None:
        design = dump_document(studio.figure, studio.brief, studio.survey, studio.design)
    try:
        write_made(Path(where), report(design))
    except ExportError as error:
        studio.refused.emit(str(error))
    except OSError as error:
        studio.refused.emit(log_error(error))

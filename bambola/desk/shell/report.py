"""What the makers of Bambola need to mend a fault, in one file that whoever met it sends, or does not."""

from __future__ import annotations

import io
import platform
import sys
import zipfile
from importlib.metadata import distributions
from pathlib import Path

from PyQt6.QtCore import QLocale, QSysInfo
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QCheckBox, QFileDialog, QMessageBox, QWidget

from bambola import __version__
from bambola.core.figure import dump_document
from bambola.desk.running.crash_log import log_error, log_path
from bambola.desk.session.studio import EditorSession
from bambola.files import ExportError, write_made
from bambola.language import current_catalogue, tr
from bambola.translated import language_of

NEWEST = 200_000
"""So many bytes of the log are told, the newest."""


def report(design: str | None) -> bytes:
    """Return a ZIP of versions, the log of what went wrong, and the design if it is given. Folders of whoever
    sends it are not told but as ``~``."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("versions.txt", _versions())
        if log_path().is_file():
            log = log_path().read_bytes()[-NEWEST:].decode(errors="replace")
            file.writestr("mishaps.log", log.replace(str(Path.home()), "~"))
        if design is not None:
            file.writestr("figure.bambola.json", design)
    return out.getvalue()


def _versions() -> str:
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
    box.setText(tr("One file is written, for you to look at and to send."))
    box.setInformativeText(
        tr("It holds versions and what went wrong so far. Nothing is sent by itself.")
    )
    with_figure = QCheckBox(tr("with the &figure on the table"))
    if studio.figure is not None:
        box.setCheckBox(with_figure)
    box.setStandardButtons(QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Cancel)
    if box.exec() != QMessageBox.StandardButton.Save:
        return
    kinds = tr("Report (*.zip)")
    where, _ = QFileDialog.getSaveFileName(window, tr("Report a fault"), "bambola.zip", kinds)
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

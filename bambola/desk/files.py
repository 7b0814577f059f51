"""Designs on disk as the window deals with them: opened, saved, exported, journalled, never lost."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from bambola.core.figure.document import SUFFIX
from bambola.core.wool.splitting import SplitPlan
from bambola.desk.export_jobs import ExportDesk
from bambola.desk.settings import Settings
from bambola.desk.studio import Studio
from bambola.desk.timers import once
from bambola.store import Journal

_JOURNAL_MS = 1500
_SHEETS = {"strips": "-bend-strips", "wool": "-wool", "cards": "-cards"}
"""What is printed at true size: a PDF, named after the figure and this."""


class FileDesk(QObject):
    """Asks where to, asks before anything unsaved is put away, and says what it did."""

    said = pyqtSignal(str, bool)
    opened = pyqtSignal()

    def __init__(
        self, window: QWidget, studio: Studio, settings: Settings, journal: Journal
    ) -> None:
        super().__init__(window)
        self.window_, self.studio, self.settings, self.journal = window, studio, settings, journal
        self.exports = ExportDesk(studio)
        self.splits: Callable[[], Mapping[str, SplitPlan]] = dict
        self.exports.done.connect(lambda text: self.said.emit(text, False))
        self.exports.failed.connect(lambda text: self.said.emit(text, True))
        self._timer = once(self, _JOURNAL_MS)
        self._timer.timeout.connect(self.write_journal)
        studio.plan_changed.connect(self._timer.start)
        studio.survey_changed.connect(self._timer.start)

    def open_path(self, path: Path, as_copy: bool = False) -> bool:
        """Open a design if nothing unsaved would be lost; a copy is saved under a name of its own."""
        if not self.may_leave():
            return False
        if not self.studio.open(path, as_copy):
            if not path.exists():
                self.settings.drop_recent(str(path))
            return False
        if not as_copy:
            self.settings.add_recent(str(path.resolve()))
        self.opened.emit()
        return True

    def ask_open(self, as_copy: bool = False) -> None:
        """Ask for a design to open, or to open a copy of."""
        words = "Open a copy of a design" if as_copy else "Open a design"
        kinds = f"Bambola designs (*{SUFFIX});;All files (*)"
        path, _ = QFileDialog.getOpenFileName(self.window_, words, self._folder(), kinds)
        if path:
            self.open_path(Path(path), as_copy)

    def save(self) -> bool:
        """Save, asking for a name if there is none."""
        if self.studio.path is None:
            return self.ask_save_as()
        return self._save_to(self.studio.path)

    def ask_save_as(self) -> bool:
        """Ask for a name and save."""
        if self.studio.figure is None:
            return False
        offered = self.studio.path or Path(self._folder()) / f"{self.studio.figure.id}{SUFFIX}"
        path, _ = QFileDialog.getSaveFileName(
            self.window_, "Save the design", str(offered), f"Bambola designs (*{SUFFIX})"
        )
        if not path:
            return False
        return self._save_to(Path(path if path.endswith(".json") else path + SUFFIX))

    def _save_to(self, path: Path) -> bool:
        if not self.studio.save(path):
            return False
        self.settings.add_recent(str(path.resolve()))
        self.journal.clear()
        self.said.emit(f"Saved as {path.name}.", False)
        return True

    def ask_export(self, kind: str) -> None:
        """Ask where to and export the plan there."""
        if self.studio.figure is None:
            return
        if kind in ("csv", "svg"):
            where = QFileDialog.getExistingDirectory(
                self.window_, "Choose a folder", self._folder()
            )
        else:
            ending = ".pdf" if kind in _SHEETS else f".{kind}"
            name = self.studio.figure.id + _SHEETS.get(kind, "")
            where, _ = QFileDialog.getSaveFileName(
                self.window_, "Export", str(Path(self._folder()) / (name + ending)), f"*{ending}"
            )
        if where:
            self.said.emit("Writing…", False)
            self.exports.start(kind, Path(where), self.splits())

    def _folder(self) -> str:
        return str(self.studio.path.parent if self.studio.path else Path.home())

    def may_leave(self) -> bool:
        """Whether the figure on the table may be put away: saved, given up, or nothing to save."""
        if self.studio.is_saved:
            return True
        buttons = QMessageBox.StandardButton
        answer = self._ask(
            "Save the changes to this design first?",
            "They are lost otherwise.",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save()
        return bool(answer == buttons.Discard)

    def _ask(
        self,
        text: str,
        more: str,
        buttons: QMessageBox.StandardButton,
        default: QMessageBox.StandardButton,
    ) -> int:
        """Ask in a plain box, without the desktop's own pictures."""
        box = QMessageBox(self.window_)
        box.setWindowTitle("Bambola")
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(text)
        box.setInformativeText(more)
        box.setStandardButtons(buttons)
        box.setDefaultButton(default)
        return box.exec()

    def offer_recovery(self) -> bool:
        """Bring back the work of a window that did not end well, if the maker wants it."""
        found = self.journal.left_behind()
        if found is None:
            return False
        buttons = QMessageBox.StandardButton
        answer = self._ask(
            f"There is unsaved work on “{found.document.figure.name}” from last time.",
            "Bring it back?",
            buttons.Yes | buttons.No,
            buttons.Yes,
        )
        if answer != buttons.Yes:
            return False
        self.studio.take(found.document, found.path)
        self.studio.undo_stack.resetClean()
        self.write_journal()
        return True

    def write_journal(self) -> None:
        if self.studio.figure is not None and not self.studio.is_saved:
            self.journal.write(
                self.studio.figure, self.studio.brief, self.studio.path, self.studio.survey
            )
        elif self.studio.is_saved:
            self.journal.clear()

    def close(self) -> None:
        """The window ends with everything saved or given up."""
        self._timer.stop()
        self.journal.clear()

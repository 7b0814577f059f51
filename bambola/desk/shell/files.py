"""Design files in the window: opening, saving, exporting, and a journal so that nothing is lost."""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QMessageBox, QWidget

from bambola.core.export.formats import ExportRefusedError, ExportRequest, Format
from bambola.core.facts import together
from bambola.core.figure.document import SUFFIX
from bambola.core.order import OrderConflictError
from bambola.core.plan.reading.asked import set_aside
from bambola.core.resize import ResizeError
from bambola.core.wool.splitting import SplitPlan
from bambola.core.words import error_words
from bambola.desk.kit.file_dialogs import ask_folder, ask_open, ask_save
from bambola.desk.running.aside import do_aside
from bambola.desk.running.background import Background
from bambola.desk.running.crash_log import log_error
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.settings import Settings
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.opening import Opening
from bambola.files import write_made
from bambola.files.pictures import is_picture
from bambola.language import tr
from bambola.store import Journal, fingerprint
from bambola.store.journal import Recovered


class ExportDesk(QObject):
    """Writes one export after the other and reports when each is done."""

    done = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, studio: EditorSession, sittings: Sittings) -> None:
        super().__init__()
        self.studio, self.sittings = studio, sittings
        self._background = Background("exports")

    def start(
        self, form: Format, where: Path, splits: Mapping[str, SplitPlan] | None = None
    ) -> None:
        """Export the present plan to a file or folder, with the splitting trees found."""
        studio = self.studio
        if studio.plan is None or studio.figure is None:
            return
        asked = ExportRequest(
            studio.plan,
            studio.figure,
            studio.bench,
            self.sittings.first_day,
            datetime.now(UTC),
            studio.words,
            splits,
            self.sittings.calendar,
            self.sittings.desk.in_hand,
        )
        self._background.do(
            lambda: write_made(where, form.make(asked)),
            lambda _: self.done.emit(tr("Saved as {name}.", name=where.name)),
            lambda error: self.failed.emit(
                str(error)
                if isinstance(error, OSError | ExportRefusedError)
                else tr(
                    "{name}: this could not be laid out ({error}).", name=where.name, error=error
                )
            ),
        )

    @property
    def is_idle(self) -> bool:
        """Whether every export is written."""
        return self._background.is_idle

    def close(self) -> None:
        """Accept no more exports; the one being written is finished."""
        self._background.close()

    def finish(self, seconds: float) -> None:
        """Close, and wait this long for the export being written."""
        self._background.finish(seconds)


_JOURNAL_MS = 1000
"""After the first change that is not kept yet, however many follow: at most two seconds of work are lost,
one until it is written and one for the writing."""


def _ignore(_: object) -> None:
    """Do nothing."""


class FileDesk(QObject):
    """Asks for file names, asks before unsaved work is closed, and reports what it did."""

    said = pyqtSignal(str, bool)
    opened = pyqtSignal()
    leaving = pyqtSignal()
    """The open design may be closed next."""
    picture_given = pyqtSignal(object)
    """A picture was opened in place of a design: a new figure may begin with it."""

    def __init__(
        self,
        window: QWidget,
        studio: EditorSession,
        settings: Settings,
        journal: Journal,
        sittings: Sittings,
    ) -> None:
        super().__init__(window)
        self.window_, self.studio, self.settings, self.journal = window, studio, settings, journal
        self.exports = ExportDesk(studio, sittings)
        self.opening = Opening(window, studio, settings, sittings.desk)
        self.opening.opened.connect(self._on_opened)
        self.splits: Callable[[], Mapping[str, SplitPlan]] = dict
        self.exports.done.connect(lambda text: self.said.emit(text, False))
        self.exports.failed.connect(lambda text: self.said.emit(text, True))
        self._background = Background("journal")
        studio.do_writing = self._write_aside
        self._unsafe = False
        self._told_of: tuple[Path, str | None] | None = None
        self._timer = at_most_every(self, _JOURNAL_MS, self.write_journal)
        studio.plan_changed.connect(lambda: start_unless_running(self._timer))
        studio.survey_changed.connect(lambda: start_unless_running(self._timer))

    def open_path(
        self, path: Path, as_copy: bool = False, then: Callable[[], None] = lambda: None
    ) -> bool:
        """Open a design if nothing unsaved would be lost, and go on with ``then``; a copy gets a name of its
        own when saved. True if it is open, or being opened."""
        if self.opening.is_under_way:
            return False
        if is_picture(path) and os.path.isfile(path):
            self.picture_given.emit(path)
            return False
        if not self.may_leave():
            return False
        # A packet stays as it was printed.
        return self.opening.open_path(path, as_copy or path.suffix.lower() == ".pdf", then)

    def _on_opened(self) -> None:
        self.opened.emit()
        self._tell_set_aside()

    def _tell_set_aside(self) -> None:
        """Report the entries of the opened design that are ignored."""
        if self.studio.figure is None:
            return
        if told := list(set_aside(self.studio.figure, self.studio.brief, self.studio.bench)):
            self.said.emit(self.studio.say(together(*told)), True)

    def ask_open(self, as_copy: bool = False) -> None:
        """Ask for a design to open, or to open as a copy."""
        words = tr("Open a copy of a design") if as_copy else tr("Open a design")
        kinds = tr("Bambola designs (*{suffix} *.pdf);;All files (*)", suffix=SUFFIX)
        path = ask_open(self.window_, words, kinds, self._start_folder())
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
        offered = (
            self.studio.path or Path(self._start_folder()) / f"{self.studio.figure.id}{SUFFIX}"
        )
        path = ask_save(
            self.window_,
            tr("Save the design"),
            str(offered),
            tr("Bambola designs (*{suffix})", suffix=SUFFIX),
        )
        if not path:
            return False
        return self._save_to(Path(path if path.endswith(".json") else path + SUFFIX))

    def _save_to(self, path: Path) -> bool:
        if path == self.studio.path and self.studio.was_changed_elsewhere:
            if not self._may_replace(path):
                return False
            if path != self.studio.path:  # saved under another name meanwhile
                return True
        if not self.studio.save(path):
            return self._offer_elsewhere(path)
        self.settings.add_recent(str(path.resolve()))
        self._clear_journal()
        self.said.emit(tr("Saved as {name}.", name=path.name), False)
        return True

    def _offer_elsewhere(self, path: Path) -> bool:
        """Offer another place for what could not be written to ``path``; return whether it is saved there."""
        buttons = QMessageBox.StandardButton
        answer = self._ask_in_box(
            tr("“{name}” could not be written there.", name=path.name),
            tr("Your work is still open, and not saved. Save it in another place?"),
            buttons.Save | buttons.Cancel,
            buttons.Save,
            {buttons.Save: tr("Another place…")},
        )
        return answer == buttons.Save and self.ask_save_as()

    def _write_aside(self, work: Callable[[], None]) -> None:
        """Write without holding the window; a disk that takes its time is told."""
        do_aside(work, self, lambda: self.said.emit(tr("Saving…"), False))

    def look_at_disk(self) -> None:
        """Say once that the open design was changed by another window or program."""
        studio = self.studio
        if studio.path is None or not studio.was_changed_elsewhere:
            return
        now = (studio.path, fingerprint(studio.path))
        if now != self._told_of:
            self._told_of = now
            self.said.emit(
                tr(
                    "{name} was changed by another window or program. Open it again to see that; saving "
                    "here asks first.",
                    name=studio.path.name,
                ),
                True,
            )

    def _may_replace(self, path: Path) -> bool:
        """Return whether a file changed by another program may be overwritten."""
        buttons = QMessageBox.StandardButton
        answer = self._ask_in_box(
            tr(
                "“{name}” was changed by another window or program since it was opened here.",
                name=path.name,
            ),
            tr(
                "If you replace it, a copy of the present file is kept with ~ at the end of its"
                " name."
            ),
            buttons.Yes | buttons.No | buttons.Cancel,
            buttons.No,
            {buttons.Yes: tr("Replace it"), buttons.No: tr("Another name…")},
        )
        if answer == buttons.No:
            return self.ask_save_as()
        return bool(answer == buttons.Yes)

    def ask_export(self, form: Format) -> None:
        """Ask for a file name and export the plan."""
        if self.studio.figure is None:
            return
        if form.is_folder:
            where = ask_folder(self.window_, tr("Choose a folder"), self._start_folder())
        else:
            name = f"{self.studio.figure.id}{form.suffix}{form.ending}"
            where = ask_save(
                self.window_,
                tr("Export"),
                str(Path(self._start_folder()) / name),
                f"*{form.ending}",
            )
        if where:
            self.said.emit(tr("Writing…"), False)
            self.exports.start(form, Path(where), self.splits())

    def _start_folder(self) -> str:
        return str(self.studio.path.parent if self.studio.path else Path.home())

    def may_leave(self) -> bool:
        """Return whether the open design may be closed: saved, discarded, or unchanged."""
        self.leaving.emit()
        if self.studio.is_saved:
            return True
        buttons = QMessageBox.StandardButton
        answer = self._ask_in_box(
            tr("Save the changes to this design first?"),
            tr("They are lost otherwise."),
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save() and self.studio.is_saved
        return bool(answer == buttons.Discard)

    def _ask_in_box(
        self,
        text: str,
        more: str,
        buttons: QMessageBox.StandardButton,
        default: QMessageBox.StandardButton,
        words: Mapping[QMessageBox.StandardButton, str] | None = None,
    ) -> int:
        """Ask in a plain box without the desktop's icons; ``words`` replace the usual texts of buttons."""
        box = QMessageBox(self.window_)
        box.setWindowTitle("Bambola")
        box.setText(text)
        box.setInformativeText(more)
        box.setStandardButtons(buttons)
        box.setDefaultButton(default)
        for which, said in (words or {}).items():
            if (button := box.button(which)) is not None:
                button.setText(said)
        box.finished.connect(box.deleteLater)
        return box.exec()

    def offer_recovery(self) -> bool:
        """Offer the unsaved work of crashed windows one by one until one is restored. The rest stays for
        another time unless the maker discards it."""
        waiting = self.journal.left_behind(self.studio.bench)
        taken = False
        for found in waiting:
            if taken or not self._offer_restore(found):
                found.let_go()
            else:
                taken = self._bring_back(found)
        return taken

    def _offer_restore(self, found: Recovered) -> bool:
        """Ask what to do with unsaved work; return whether to restore it."""
        buttons = QMessageBox.StandardButton
        keep = tr("Kept for later, it is offered again at the next start.")
        words = {
            buttons.Yes: tr("Bring it back"),
            buttons.Close: tr("Keep it for later"),
            buttons.Discard: tr("Throw it away"),
        }
        if found.document is None:
            text = tr(
                "Unsaved work from last time cannot be restored: {trouble}",
                trouble=found.trouble,
            )
            wish = self._ask_in_box(
                text, keep, buttons.Close | buttons.Discard, buttons.Close, words
            )
        else:
            text = tr(
                "There is unsaved work on “{name}” from last time.", name=found.document.figure.name
            )
            wish = self._ask_in_box(
                text,
                keep,
                buttons.Yes | buttons.Close | buttons.Discard,
                buttons.Yes,
                words,
            )
        if wish == buttons.Discard:
            found.throw_away()
        return found.document is not None and wish == buttons.Yes

    def _bring_back(self, found: Recovered) -> bool:
        """Restore unsaved work; its journal entry stays until it is saved or discarded."""
        assert found.document is not None
        try:
            self.studio.open_document(found.document, found.path, found.seen)
        except (ResizeError, OrderConflictError) as error:
            found.let_go()
            self.said.emit(
                tr(
                    "{error} The unsaved work is kept for another time.",
                    error=error_words(error, self.studio.words),
                ),
                True,
            )
            return False
        self._background.do(partial(self.journal.adopt, found), _ignore, self._not_kept)
        self.studio.undo_stack.resetClean()
        return True

    def write_journal(self) -> None:
        """Write unsaved work to the journal, off the interface thread."""
        studio, journal = self.studio, self.journal
        if studio.figure is None or studio.is_saved:
            self._clear_journal()
            return
        work = (studio.figure, studio.brief, studio.path, studio.survey, studio.seen, studio.design)
        self._background.do(
            lambda: journal.write(*work), self._clear_journal_if_saved, self._not_kept
        )

    def _clear_journal(self) -> None:
        """Remove the journal entry once all that was to be written before is: the disk may be slow."""
        self._background.do(self.journal.clear, _ignore, _ignore)

    def _clear_journal_if_saved(self, _: None) -> None:
        if self.studio.is_saved:  # saved while it was being written
            self._clear_journal()
        if self._unsafe:
            self._unsafe = False
            self.said.emit(tr("Unsaved work is protected again."), False)

    def _not_kept(self, error: Exception) -> None:
        start_unless_running(self._timer)
        if not self._unsafe:
            self._unsafe = True
            why = str(error) if isinstance(error, OSError) else log_error(error)
            self.said.emit(
                tr("Unsaved work cannot be protected: {why} Save the design soon.", why=why), True
            )

    def close(self) -> None:
        """Remove the journal entry: the window ends with everything saved or discarded."""
        self._timer.stop()
        self.opening.close()
        self._background.close()
        self.journal.end()

    def finish(self, seconds: float) -> None:
        """Close, and wait this long for what is still being written."""
        self.exports.finish(seconds)
        self._background.finish(seconds)

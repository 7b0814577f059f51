"""Reads a piece, or the finished figure, from a picture: an opened one, or the newest in a folder that a
phone fills."""

from __future__ import annotations

from pathlib import Path
from threading import Event

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QFileSystemWatcher, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.facts import RefusedError
from bambola.core.order import Step
from bambola.core.order.keys import FINISH, STAND
from bambola.core.rescue.judged import Judged, judge_piece
from bambola.core.rescue.upright import StandingJudgement, judge_upright
from bambola.core.words import error_words
from bambola.desk.kit.file_dialogs import PictureDialog, ask_folder, last_folder, remember_folder
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.studio import EditorSession
from bambola.files.limited import StoppedError
from bambola.files.picture_job import PictureError
from bambola.files.pictures import is_picture, read_picture
from bambola.language import tr

WHOLE = (STAND, FINISH)
"""At these steps the finished figure is looked at."""
SETTLES_MS = 700
"""A picture that comes into the folder is read when it has not grown for so long."""
LOOKS_MS = 2000
"""So often it is checked that a watched folder is still there: an unplugged telephone tells nobody."""


class PictureRow(QWidget):
    """Two buttons and the progress. ``judged`` emits the reading with its picture."""

    judged = pyqtSignal(object, object)

    def __init__(self, studio: EditorSession, step: Step) -> None:
        super().__init__()
        self.studio, self.step = studio, step
        self.open = QPushButton(tr("From a &picture…"))
        self.open.setToolTip(
            tr("A picture straight from the front, with a bank card standing beside the figure")
            if step.key in WHOLE
            else tr(
                "A picture taken from straight above, with a bank card beside the piece, to "
                "read its size"
            )
        )
        self.open.clicked.connect(lambda _=False: self.ask())
        self.watch = QPushButton(tr("Watch a &folder…"))
        self.watch.setToolTip(tr("Reads every new picture in the folder, for example from a phone"))
        self.watch.setCheckable(True)
        self.watch.clicked.connect(self._watch_folder)
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setTextVisible(False)
        self.bar.hide()
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.hide()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        for widget in (self.open, self.watch, self.bar):
            row.addWidget(widget)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(self.told)
        self._background = Background("judging")
        self._job: BackgroundJob | None = None
        self._share = 0.0
        self._seen: set[str] = set()
        self._watcher = QFileSystemWatcher(self)
        self._watcher.directoryChanged.connect(lambda _: self._settles.start())
        self._followed: Path | None = None
        self._looks = QTimer(self)
        self._looks.setInterval(LOOKS_MS)
        self._looks.timeout.connect(self._check_folder)
        self._settles = QTimer(self)
        self._settles.setSingleShot(True)
        self._settles.setInterval(SETTLES_MS)
        self._settles.timeout.connect(self._read_newest)
        self._tick = QTimer(self)
        self._tick.setInterval(100)
        self._tick.timeout.connect(lambda: self.bar.setValue(round(100 * self._share)))

    def ask(self) -> None:
        """Ask for a picture."""
        path = PictureDialog.ask(self, tr("Picture of the piece"), last_folder())
        if path:
            remember_folder(path)
            self.read(Path(path))

    def _watch_folder(self, on: bool) -> None:
        self._stop_watching()
        if not on:
            return
        folder = ask_folder(self, tr("Watch a folder"))
        self.watch.setChecked(bool(folder))
        if folder:
            self.follow(Path(folder))

    def follow(self, folder: Path) -> None:
        """Read every new picture in a folder from now on."""
        self._seen = {str(path) for path in _pictures_in(folder)}
        self._followed = folder
        self._watcher.addPath(str(folder))
        self._looks.start()
        self._show_words(tr("Waiting for a picture in {folder}.", folder=folder.name))

    def _stop_watching(self) -> None:
        self._looks.stop()
        self._followed = None
        if self._watcher.directories():
            self._watcher.removePaths(self._watcher.directories())

    def _check_folder(self) -> None:
        """Stop watching a folder that has gone, and say so."""
        folder = self._followed
        if folder is not None and not folder.is_dir():
            self._stop_watching()
            self.watch.setChecked(False)
            self._show_words(
                tr(
                    "The folder {folder} is gone, so it is no longer watched. Choose it again once it "
                    "is back.",
                    folder=folder.name,
                )
            )

    def _read_newest(self) -> None:
        self._check_folder()
        if self._followed is None:
            return
        times = {path: _changed_at(path) for path in _pictures_in(self._followed)}
        new = [path for path in times if str(path) not in self._seen and times[path]]
        self._seen |= {str(path) for path in new}
        if new:
            self.read(max(new, key=times.__getitem__))

    def read(self, path: Path) -> None:
        """Read a picture off the interface thread; only the last one counts."""
        plan, bench, step, stop = self.studio.plan, self.studio.bench, self.step, Event()
        if plan is None:
            return
        if self._job is not None:
            self._job.stop.set()
        self.told.hide()
        self.bar.show()
        self._tick.start()

        def told(share: float) -> bool:
            self._share = share
            return not stop.is_set()

        def work() -> tuple[Judged | StandingJudgement, NDArray[np.uint8]]:
            from bambola.core.sight.silhouette import CancelledError

            picture = read_picture(path, stop)
            pixels, lens = picture.pixels, picture.lens_mm
            try:
                if step.key in WHOLE:
                    return judge_upright(plan, pixels, told), pixels
                return judge_piece(plan, step, bench, pixels, lens, told), pixels
            except CancelledError:
                raise CalledOffError from None

        job = self._job = self._background.do(
            work,
            lambda found: self._show_judged(job, *found),
            lambda error: self._show_failure(job, error),
            stop,
        )

    def _show_judged(
        self, job: BackgroundJob, judged: Judged | StandingJudgement, pixels: NDArray[np.uint8]
    ) -> None:
        if job is not self._job:
            return
        self._stop_ticking()
        told = judged.as_facts if isinstance(judged, StandingJudgement) else judged.findings
        self._show_words(" ".join(map(self.studio.say, told)))
        self.judged.emit(judged, pixels)

    def _show_failure(self, job: BackgroundJob, error: Exception) -> None:
        if job is not self._job or isinstance(error, CalledOffError | StoppedError):
            return
        self._stop_ticking()
        known = isinstance(error, RefusedError | PictureError)
        self._show_words(error_words(error, self.studio.words) if known else log_error(error))

    def _stop_ticking(self) -> None:
        self._tick.stop()
        self.bar.hide()

    def _show_words(self, words: str) -> None:
        self.told.setText(words)
        self.told.show()

    def close_down(self) -> None:
        """Stop reading and watching."""
        self._stop_watching()
        if self._job is not None:
            self._job.stop.set()
        self._background.close()


def _changed_at(path: Path) -> float:
    """Return when the file was last written, in seconds; 0 where nothing can be read, as at a broken link."""
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0


def _pictures_in(folder: Path) -> list[Path]:
    try:
        return [path for path in folder.iterdir() if is_picture(path)]
    except OSError:  # the folder is gone
        return []

"""Designs read and measured, off the interface thread and with progress shown where that takes long, and then
put on the table."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable
from contextlib import ExitStack
from pathlib import Path
from typing import TypeVar

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QApplication, QProgressDialog, QWidget

from bambola.core.figure import Document, DocumentError
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan
from bambola.core.resize import ResizeError
from bambola.desk.running.background import Background
from bambola.desk.running.crash_log import log_error
from bambola.desk.running.timers import busy_cursor, one_shot_timer
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.changes import HAND_ACTS
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.files.reading import short_name
from bambola.language import tr
from bambola.store import fingerprint, new_design, open_design

_PROGRESS_MS = 600
"""Of what is done sooner only the cursor tells. Judged."""
_NEVER_MS = 2**31 - 1
_MANY_PARTS = 60
"""For a figure of more parts the window never waits."""
T = TypeVar("T")


class Opening(QObject):
    """One design after the other; a refused file, or one that is called off, leaves everything as it is."""

    opened = pyqtSignal()

    def __init__(
        self,
        window: QWidget,
        studio: EditorSession,
        settings: Settings,
        desk: BenchDesk,
    ) -> None:
        super().__init__(window)
        self._window, self._studio, self._settings = window, studio, settings
        self._desk = desk
        self._call_off: Callable[[], None] | None = None
        self.holds_window = True
        """Whether the window waits for what is opened: it does until it is in its maker's hands."""

    @property
    def is_under_way(self) -> bool:
        """Whether a design is being read or measured just now."""
        return self._call_off is not None

    def open_path(self, path: Path, as_copy: bool, go_on: Callable[[], None]) -> bool:
        """Open a design, or a copy of it that is no file's yet, and ``go_on``. False where it is refused at
        once; true where it is open, or on its way."""
        bench = self._studio.bench

        def opened() -> None:
            if not as_copy:
                self._settings.add_recent(str(path.resolve()))
            self.opened.emit()
            go_on()

        def read(stop: threading.Event) -> tuple[Document, str | None]:
            seen = fingerprint(path)
            return open_design(path, bench, stop), seen

        def then(found: tuple[Document, str | None]) -> bool:
            document, seen = found
            if as_copy:
                document = document.replaced(design=new_design(document.figure))
                return self.open_design(document, path, opened)
            document = self._desk.with_id(document, path)
            return self.open_design(document, path, opened, path, seen)

        if self.holds_window and path.suffix.lower() != ".pdf":
            try:
                return then(read(threading.Event()))
            except DocumentError as error:
                return self._show_refusal(error, path)
        told = tr("Looking for a design in {name}…", name=short_name(path))
        return self._start_work(told, read, then, path)

    def close(self) -> None:
        """Call off what is under way."""
        if self._call_off is not None:
            self._call_off()

    def open_design(
        self,
        document: Document,
        where: Path | None,
        then: Callable[[], None],
        path: Path | None = None,
        seen: str | None = None,
    ) -> bool:
        """Measure and plan a design, put it on the table and go on with ``then``. It was read from ``where``,
        and is that of the file ``path``, if of any. False where it is refused at once."""
        if self.is_under_way:
            return False
        studio, share = self._studio, [0.0]
        bench = self._desk.bench_for(document.design or document.figure.id)

        def take(plan: Plan) -> bool:
            studio.open_document(document, path, seen, (plan, bench))
            then()
            return True

        def measure(stop: threading.Event) -> Plan:
            def told(done: float) -> bool:
                share[0] = done
                return not stop.is_set()

            return studio.planned(document, bench, told)

        n = len(document.figure.parts)
        if n <= _MANY_PARTS and self.holds_window:
            try:
                with busy_cursor():
                    return take(studio.planned(document, bench))
            except (ResizeError, OrderConflictError) as error:
                return self._show_refusal(error, where)
        words = tr("Measuring {name}, {n} parts…", name=document.figure.name, n=n)
        return self._start_work(words, measure, take, where, lambda: share[0])

    def _show_refusal(self, error: Exception, path: Path | None) -> bool:
        if path is not None and not os.path.exists(path):
            self._settings.drop_recent(str(path))
        self._studio.refuse(error)
        return False

    def _start_work(
        self,
        words: str,
        work: Callable[[threading.Event], T],
        then: Callable[[T], bool],
        path: Path | None,
        share: Callable[[], float] | None = None,
    ) -> bool:
        """Do ``work`` off this thread with progress shown, its ``share`` or only that it goes on; ``then``
        goes on with what came of it. The window can do nothing else meanwhile."""
        shown = QProgressDialog(words, tr("Stop the search"), 0, 100 if share else 0, self._window)
        shown.setWindowTitle("Bambola")
        shown.setWindowModality(Qt.WindowModality.WindowModal)
        shown.setMinimumDuration(_NEVER_MS)  # it is shown when we say so
        background, stop, cursor = Background("opening"), threading.Event(), ExitStack()
        soon, app = one_shot_timer(shown, _PROGRESS_MS), QApplication.instance()

        def show() -> None:
            cursor.close()
            shown.show()

        def end() -> None:
            cursor.close()
            if app is not None:
                app.removeEventFilter(hand)
            shown.reset()
            shown.deleteLater()
            background.close()
            self._call_off = None

        def call_off() -> None:
            stop.set()
            end()

        self._call_off = call_off

        def well(found: T) -> None:
            end()
            if not stop.is_set():
                then(found)

        def ill(error: Exception) -> None:
            end()
            if stop.is_set():  # whoever was called off says so in a way of its own
                return
            if isinstance(error, DocumentError | ResizeError | OrderConflictError):
                self._show_refusal(error, path)
            else:
                self._studio.refused.emit(log_error(error))

        hand = _Hand(shown, show)
        if app is not None:
            app.installEventFilter(hand)
        cursor.enter_context(busy_cursor())
        background.do(lambda: work(stop), well, ill)
        soon.timeout.connect(show)
        soon.start()
        if share is not None:
            tick = QTimer(shown)
            tick.timeout.connect(lambda: shown.setValue(round(99 * share())))
            tick.start(100)
        shown.canceled.connect(stop.set)
        return True


class _Hand(QObject):
    """Who acts before it is told what is under way is told: what was on the table is changed no more."""

    def __init__(self, shown: QProgressDialog, show: Callable[[], None]) -> None:
        super().__init__(shown)
        self._shown, self._show = shown, show

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is None or event.type() not in HAND_ACTS or self._shown.isVisible():
            return False
        self._show()
        return True

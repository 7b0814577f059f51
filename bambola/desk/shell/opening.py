"""Designs read and measured, off the interface thread and with progress shown where that takes long, and then
put on the table."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QProgressDialog, QWidget

from bambola.core.figure import Document, DocumentError
from bambola.core.figure.document import MAX_BYTES
from bambola.core.order import OrderConflictError
from bambola.core.plan.making.made import as_made
from bambola.core.resize import ResizeError
from bambola.desk.running.background import Background
from bambola.desk.running.mishap import noted
from bambola.desk.running.timers import once
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.files import FileRefusedError, read_regular
from bambola.files.reading import short_name
from bambola.language import tr
from bambola.store import fingerprint, new_design, open_design
from bambola.store.designs import PDF

_PROGRESS_MS = 300
"""What is done sooner is not told of."""
_MANY_PARTS = 60
"""A figure of more parts is measured with progress shown."""
T = TypeVar("T")


class Opening(QObject):
    """One design after the other; a refused file, or one that is called off, leaves everything as it is."""

    opened = pyqtSignal()

    def __init__(self, window: QWidget, studio: EditorSession, settings: Settings) -> None:
        super().__init__(window)
        self._window, self._studio, self._settings = window, studio, settings
        self._call_off: Callable[[], None] | None = None

    @property
    def is_under_way(self) -> bool:
        """Whether a design is being read or measured just now."""
        return self._call_off is not None

    def open_path(self, path: Path, as_copy: bool) -> bool:
        """Open a design, or a copy of it that is no file's yet. False where it is refused at once; true where
        it is open, or on its way."""
        bench, seen = self._studio.bench, fingerprint(path)

        def then(document: Document) -> bool:
            return self._measured(document, path, seen, as_copy)

        try:
            is_packet = read_regular(path, MAX_BYTES, tr("a design")).startswith(PDF)
            if not is_packet:
                return then(open_design(path, bench))
        except FileRefusedError as error:
            return self._refused(DocumentError(str(error)), path)
        except DocumentError as error:
            return self._refused(error, path)
        told = tr("Looking for a design in {name}…", name=short_name(path))
        return self._begin(told, lambda stop: open_design(path, bench, stop), then, path)

    def close(self) -> None:
        """Call off what is under way."""
        if self._call_off is not None:
            self._call_off()

    def _measured(self, document: Document, path: Path, seen: str | None, as_copy: bool) -> bool:
        """Measure the figure, one of many parts with progress shown, and put it on the table."""
        figure, bench, share = document.figure, self._studio.bench, [0.0]
        many = len(figure.parts) > _MANY_PARTS and self._studio.measures.of(figure) is None
        if not many:
            return self._take(document, path, seen, as_copy)

        def measure(stop: threading.Event) -> None:
            def told(done: float) -> bool:
                share[0] = done
                return not stop.is_set()

            as_made(figure, bench, told)

        words = tr("Measuring {name}, {n} parts…", name=figure.name, n=len(figure.parts))
        return self._begin(
            words,
            measure,
            lambda _: self._take(document, path, seen, as_copy),
            path,
            lambda: share[0],
        )

    def _take(self, document: Document, path: Path, seen: str | None, as_copy: bool) -> bool:
        if as_copy:
            document = document.replaced(design=new_design(document.figure))
        try:
            self._studio.take(document, None if as_copy else path, seen)
        except (ResizeError, OrderConflictError) as error:
            return self._refused(error, path)
        if not as_copy:
            self._settings.add_recent(str(path.resolve()))
        self.opened.emit()
        return True

    def _refused(self, error: Exception, path: Path) -> bool:
        if not path.exists():
            self._settings.drop_recent(str(path))
        self._studio.refuse(error)
        return False

    def _begin(
        self,
        words: str,
        work: Callable[[threading.Event], T],
        then: Callable[[T], bool],
        path: Path,
        share: Callable[[], float] | None = None,
    ) -> bool:
        """Do ``work`` off this thread with progress shown, its ``share`` or only that it goes on; ``then``
        goes on with what came of it. The window can do nothing else meanwhile."""
        shown = QProgressDialog(words, tr("Call it off"), 0, 100 if share else 0, self._window)
        shown.setWindowTitle("Bambola")
        shown.setWindowModality(Qt.WindowModality.WindowModal)
        shown.setMinimumDuration(0)
        shown.reset()  # it is shown when we say so
        background, stop = Background("opening"), threading.Event()

        def end() -> None:
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
                self._refused(error, path)
            else:
                self._studio.refused.emit(noted(error))

        background.do(lambda: work(stop), well, ill)
        soon = once(shown, 0 if share else _PROGRESS_MS)
        soon.timeout.connect(shown.show)
        soon.start()
        if share is not None:
            tick = QTimer(shown)
            tick.timeout.connect(lambda: shown.setValue(round(99 * share())))
            tick.start(100)
        shown.canceled.connect(stop.set)
        return True

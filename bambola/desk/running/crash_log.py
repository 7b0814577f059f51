"""The crash log: unexpected errors are written down and reported, and the program goes on."""

from __future__ import annotations

import contextlib
import faulthandler
import sys
import threading
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import (
    QMessageLogContext,
    QObject,
    QStandardPaths,
    QtMsgType,
    pyqtSignal,
    qInstallMessageHandler,
)

from bambola.language import tr

_LARGE = 1_000_000
"""A log of so many bytes is put aside, and a new one begun."""


def log_path() -> Path:
    """Return the path of the crash log."""
    folder = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericDataLocation)
    return Path(folder) / "bambola" / "mishaps.log"


def log_error(error: BaseException) -> str:
    """Write ``error`` to the log and return a sentence about it."""
    path = _append_to_log("".join(traceback.format_exception(error)))
    told = (
        tr("the details are saved in {path}", path=path)
        if path
        else tr("the details could not be saved")
    )
    return tr("Bambola hit an error. Your work is unchanged, and {told}.", told=told)


def log_uncaught_errors(tell: Callable[[str], None]) -> None:
    """Log every uncaught error on any thread, and ``tell`` of it in one sentence on this one. Qt's warnings
    are logged too, and the stack if the program itself crashes."""
    teller = _Teller()
    teller.told.connect(tell)

    def caught(
        kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        teller.told.emit(log_error(error))

    def caught_on_a_thread(args: threading.ExceptHookArgs) -> None:
        if args.exc_value is not None:
            teller.told.emit(log_error(args.exc_value))

    sys.excepthook = caught
    threading.excepthook = caught_on_a_thread
    qInstallMessageHandler(_log_qt_message)
    with contextlib.suppress(OSError):
        path = log_path().with_name("broken.log")
        path.parent.mkdir(parents=True, exist_ok=True)
        faulthandler.enable(path.open("a", encoding="utf-8"))


class _Teller(QObject):
    """Delivers a sentence to the interface thread."""

    told = pyqtSignal(str)


def _log_qt_message(kind: QtMsgType, _: QMessageLogContext, text: str | None) -> None:
    if kind not in (QtMsgType.QtDebugMsg, QtMsgType.QtInfoMsg):
        _append_to_log(tr("Qt: {text}", text=text))


def _append_to_log(lines: str) -> Path | None:
    """Append ``lines`` to the log, limiting its size; return its path, or None if it cannot be written."""
    path = log_path()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.exists() and path.stat().st_size > _LARGE:
            path.replace(path.with_suffix(".old.log"))
        with path.open("a", encoding="utf-8") as log:
            log.write(f"{datetime.now().isoformat(timespec='seconds')}\n{lines}\n")
    except OSError:
        return None
    return path

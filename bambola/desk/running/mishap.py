"""What should never happen, kept from taking the work with it (the crash log, as others call it)."""

from __future__ import annotations

import sys
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QStandardPaths


def log_path() -> Path:
    """Where mishaps are written down."""
    folder = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericDataLocation)
    return Path(folder) / "bambola" / "mishaps.log"


def noted(error: BaseException) -> str:
    """Write ``error`` into the log; a sentence that tells of it."""
    path = log_path()
    lines = "".join(traceback.format_exception(error))
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with path.open("a", encoding="utf-8") as log:
            log.write(f"{datetime.now().isoformat(timespec='seconds')}\n{lines}\n")
        told = f"what happened is written in {path}"
    except OSError:
        told = "what happened could not be written down"
    return f"Something went wrong that should not have; your work is as it was, and {told}."


def watch(tell: Callable[[str], None]) -> None:
    """Write every error nobody caught into the log and ``tell`` of it in one sentence."""

    def caught(
        kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        tell(noted(error))

    sys.excepthook = caught

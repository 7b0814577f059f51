"""The journal: unsaved work, written as it is done and offered back after a crash."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from platformdirs import user_data_path

from bambola.core.export.files import ExportError, write_whole
from bambola.core.figure import (
    Brief,
    Document,
    DocumentError,
    Figure,
    Survey,
    dump_document,
    load_document,
)  # fmt: skip


@dataclass(frozen=True)
class Recovered:
    """Unsaved work found in the journal, and the file it belongs to if it had one."""

    document: Document
    path: Path | None


class Journal:
    """One journal file a running window, locked for as long as its process lives."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_data_path("bambola") / "journal"
        self._own = self.folder / f"{os.getpid()}-{id(self):x}.json"
        self._lock: BinaryIO | None = None

    def write(
        self, figure: Figure, brief: Brief, path: Path | None, survey: Survey | None = None
    ) -> None:
        """Keep the work as it is now. A journal that cannot be written never stops the work."""
        document = dump_document(figure, brief, survey)
        entry = {"path": str(path) if path else None, "document": document}
        with contextlib.suppress(OSError, ExportError):
            self.folder.mkdir(parents=True, exist_ok=True)
            self._lock = self._lock or _locked(self._own)
            write_whole(self._own, json.dumps(entry).encode())

    def clear(self) -> None:
        """The work is saved or given up: nothing to keep."""
        with contextlib.suppress(OSError):
            self._own.unlink()
        if self._lock is not None:
            self._lock.close()
            self._lock = None
            with contextlib.suppress(OSError):
                _lock_path(self._own).unlink()

    def left_behind(self) -> Recovered | None:
        """Take the newest work of a window that did not end well; its entry is removed."""
        try:
            entries = sorted(
                self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime, reverse=True
            )
        except OSError:
            return None
        for entry in entries:
            # The lock of a window still open cannot be had: its work is its own.
            lock = _locked(entry) if entry != self._own else None
            if lock is None:
                continue
            with lock:
                found = _read(entry)
                for done in (entry, _lock_path(entry)):
                    with contextlib.suppress(OSError):
                        done.unlink()
            if found:
                return found
        return None


def _lock_path(entry: Path) -> Path:
    return entry.with_suffix(".lock")


def _locked(entry: Path) -> BinaryIO | None:
    """The lock of a journal entry, held until closed; None while another window holds it."""
    try:
        lock = _lock_path(entry).open("ab")
    except OSError:
        return None
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        lock.close()
        return None
    return lock


def _read(entry: Path) -> Recovered | None:
    try:
        kept = json.loads(entry.read_bytes())
        document = load_document(kept["document"], entry.name)
    except (OSError, ValueError, KeyError, TypeError, DocumentError):
        return None
    return Recovered(document, Path(kept["path"]) if kept.get("path") else None)

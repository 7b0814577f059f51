"""The journal: unsaved work, written continuously and offered after a crash.

An entry is deleted only when its work is saved or knowingly discarded; an unreadable one stays and is
reported.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import threading
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from platformdirs import user_data_path

from bambola.core.bench import Bench, check_wools
from bambola.core.figure import (
    Brief,
    Document,
    DocumentError,
    Figure,
    Survey,
    dump_document,
    load_document,
)
from bambola.core.figure.document import MAX_BYTES
from bambola.files import FileRefusedError, read_regular, write_whole
from bambola.files.writing import make_private_folder
from bambola.language import tr
from bambola.store.database import fact_sentence

_MOST_BYTES = 3 * MAX_BYTES
"""An entry holds a document as a JSON string, whose quotes and breaks are written as two characters."""


@dataclass(frozen=True)
class Recovered:
    """Unsaved work found in the journal, with its file if it had one; ``seen`` identifies the version of the
    file it began from. If the work cannot be read, ``document`` is None and ``trouble`` says why in one
    sentence. While this object is held, no other window can take the entry."""

    entry: Path
    lock: BinaryIO
    document: Document | None
    path: Path | None
    seen: str | None = None
    trouble: str = ""

    def let_go(self) -> None:
        """Release the entry for another time."""
        self.lock.close()

    def throw_away(self) -> None:
        """Delete the entry."""
        with contextlib.suppress(OSError):
            self.entry.unlink()
        with contextlib.suppress(OSError):
            _lock_path(self.entry).unlink()
        self.lock.close()


class Journal:
    """One journal file for each running window, locked while its process lives. Thread-safe."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_data_path("bambola") / "journal"
        self._own = self._fresh = self.folder / f"{os.getpid()}-{id(self):x}.json"
        self._lock: BinaryIO | None = None
        self._turn = threading.Lock()
        self._ended = False

    def write(
        self,
        figure: Figure,
        brief: Brief,
        path: Path | None,
        survey: Survey | None = None,
        seen: str | None = None,
        design: str = "",
    ) -> None:
        """Save the present work, and the version of its file it began from. Raises :class:`ExportError`."""
        document = dump_document(figure, brief, survey, design)
        entry = {"path": str(path) if path else None, "seen": seen, "document": document}
        with self._turn:
            if self._ended:
                return
            make_private_folder(self.folder)
            self._lock = self._lock or _lock_entry(self._own)
            write_whole(self._own, json.dumps(entry).encode(), private=True)
        if self._ended:
            self.clear()

    def clear(self) -> None:
        """Delete the entry, since the work is saved or discarded."""
        with self._turn:
            self._remove()

    def _remove(self) -> None:
        with contextlib.suppress(OSError):
            self._own.unlink()
        if self._lock is not None:
            with contextlib.suppress(OSError):
                _lock_path(self._own).unlink()
            self._lock.close()
            self._lock = None
        self._own = self._fresh

    def end(self) -> None:
        """Stop the journal without waiting. What is still being written is deleted once it is there."""
        self._ended = True
        if self._turn.acquire(blocking=False):
            self._remove()
            self._turn.release()

    def adopt(self, found: Recovered) -> None:
        """Take over the entry of a crashed window."""
        self.clear()
        with self._turn:
            self._own, self._lock = found.entry, found.lock

    def left_behind(self, bench: Bench) -> list[Recovered]:
        """Return the work of crashed windows, the newest first, each locked until released. ``bench`` must
        have its wools."""
        try:
            entries = sorted(
                self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime, reverse=True
            )
        except OSError:
            return []
        found = []
        for entry in entries:
            # The lock of a window still open cannot be had: its work is its own.
            lock = _lock_entry(entry) if entry != self._own else None
            if lock is not None:
                found.append(_read_entry(entry, lock, bench))
        return found


def _lock_path(entry: Path) -> Path:
    return entry.with_suffix(".lock")


def _lock_entry(entry: Path) -> BinaryIO | None:
    """Return the lock of a journal entry, held until closed; None if another window holds it."""
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


def _read_entry(entry: Path, lock: BinaryIO, bench: Bench) -> Recovered:
    """Return the contents of an entry, or why it cannot be read."""
    path = None
    try:
        kept = json.loads(read_regular(entry, _MOST_BYTES, tr("a journal")))
        path = Path(kept["path"]) if kept.get("path") else None
        document = load_document(kept["document"], path.name if path else tr("the journal"))
        check_wools(document.figure, bench, document.figure.name)
        return Recovered(entry, lock, document, path, kept.get("seen"))
    except (DocumentError, FileRefusedError) as error:
        trouble = fact_sentence(error)
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        trouble = tr("{name}: the entry is damaged.", name=entry.name)
    return Recovered(entry, lock, None, path, trouble=trouble)

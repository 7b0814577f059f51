"""Brings what a window has written into its database onto the disk, on a thread of its own.

The window writes into the database's log, which the system holds even if the program is killed; how long the
disk takes is this thread's business. Should the power fail, the database is as it was a moment before.
"""

from __future__ import annotations

import contextlib
import sqlite3
import threading
from pathlib import Path


class Syncing:
    """Syncs one database after every change, and once more when it is closed."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._changed, self._closed = threading.Event(), False
        # Whoever ends in order waits for it; who does not must not be kept by it.
        self._thread = threading.Thread(target=self._run, name="syncing", daemon=True)
        self._thread.start()

    def ask(self) -> None:
        """Sync soon."""
        self._changed.set()

    def close(self) -> None:
        """Sync a last time and end; do not wait for it."""
        self._closed = True
        self._changed.set()

    def wait(self) -> None:
        """Wait until it has ended."""
        self._thread.join()

    def _run(self) -> None:
        with contextlib.closing(sqlite3.connect(self._path, isolation_level=None)) as db:
            db.execute("PRAGMA synchronous = FULL")
            is_last = False
            while not is_last:
                self._changed.wait()
                self._changed.clear()
                is_last = self._closed
                with contextlib.suppress(
                    sqlite3.Error
                ):  # what could not be synced stays in the log
                    db.execute("PRAGMA wal_checkpoint(PASSIVE)").fetchall()

"""An SQLite file that two windows may open: every change is atomic, and errors become one sentence."""

from __future__ import annotations

import contextlib
import os
import sqlite3
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from bambola.core.facts import Fact
from bambola.core.words import Words, error_words
from bambola.files.writing import PRIVATE
from bambola.language import current_catalogue, tr
from bambola.store.syncing import Syncing

BUSY_S = 0.1
"""How long another program that holds the book is waited for: the window stands still meanwhile."""
_IMPATIENT_S = 5.0
"""After a wait in vain nothing is waited for again so long: whoever holds the book may do so for minutes.
Judged."""


class BenchBookError(OSError):
    """Raised if a bench cannot be opened or written; the message is one sentence. ``damaged``: the file is
    corrupt, and waiting will not help; ``busy``: another program holds it."""

    def __init__(self, message: str, damaged: bool = False, busy: bool = False) -> None:
        super().__init__(message)
        self.damaged, self.busy = damaged, busy


class Database:
    """An SQLite database at a path, or in memory."""

    def __init__(self, path: Path | None, set_up: Callable[[], None]) -> None:
        """Open the file and ``set_up`` what is in it. Raises :class:`BenchBookError`."""
        self.path = path
        where = str(path) if path else ":memory:"
        self._impatient_until = 0.0
        self._syncing: Syncing | None = None
        try:
            is_new = path is not None and not path.exists()
            if path:
                path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
                _for_owner_only(path)
            self._db = sqlite3.connect(where, timeout=BUSY_S, isolation_level=None)
            self._db.execute("PRAGMA foreign_keys = ON")
            if is_new:  # nothing in it can be lost yet
                self._db.execute("PRAGMA synchronous = OFF")
            set_up()
            if path:
                self._write_into_log(path)
        except BenchBookError:
            raise
        except (*TROUBLE, OSError) as error:
            raise BenchBookError(
                tr(
                    "{where}: the bench cannot be opened ({error}); it was left as it is.",
                    where=where,
                    error=in_short(error),
                ),
                damaged=is_damage(error),
            ) from None

    def _write_into_log(self, path: Path) -> None:
        """Write without waiting for the disk, which another thread does; where the file system cannot do that
        every change waits, as SQLite has it."""
        self._db.execute("PRAGMA synchronous = OFF")
        (mode,) = self._db.execute("PRAGMA journal_mode = WAL").fetchone()
        if mode != "wal":
            self._db.execute("PRAGMA synchronous = FULL")
            return
        self._db.execute("PRAGMA wal_autocheckpoint = 0")
        self._syncing = Syncing(path)

    @contextlib.contextmanager
    def changing(self) -> Iterator[None]:
        """Run one transaction."""
        try:
            self._set_patience()
            self._db.execute("BEGIN IMMEDIATE")
            yield
            self._db.execute("COMMIT")
            if self._syncing is not None:
                self._syncing.ask()
        except BaseException as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            if isinstance(error, (*TROUBLE, ValueError)):
                reason = in_short(error)
                raise BenchBookError(
                    tr(
                        "{thing}: it could not be written ({reason}); nothing was changed.",
                        thing=self.path or "The bench",
                        reason=reason,
                    ),
                    damaged=is_damage(error),
                    busy=self._was_busy(error),
                ) from None
            raise

    def _set_patience(self) -> None:
        """Set the time to wait for other programs: the usual one, or none for a while after a wait in
        vain."""
        seconds = 0.0 if time.monotonic() < self._impatient_until else BUSY_S
        self._db.execute(f"PRAGMA busy_timeout = {round(1000 * seconds)}")

    def _was_busy(self, error: BaseException) -> bool:
        """Return whether another program held the file, and remember it."""
        code = getattr(error, "sqlite_errorcode", 0) & 0xFF
        busy = code in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED)
        if busy:
            self._impatient_until = time.monotonic() + _IMPATIENT_S
        return busy

    def close(self) -> None:
        """Close the file; what was written last may still be on its way to the disk."""
        self._db.close()
        if self._syncing is not None:
            self._syncing.close()

    def wait_for_disk(self) -> None:
        """After closing, wait until everything is on the disk and the file is whole by itself."""
        if self._syncing is not None:
            self._syncing.wait()

    def rows(self, query: str, *values: object) -> list[Any]:
        """Return all rows of a query. Raises :class:`BenchBookError`."""
        try:
            self._set_patience()
            return self._db.execute(query, values).fetchall()
        except TROUBLE as error:
            raise BenchBookError(
                tr(
                    "{thing}: it could not be read ({error}); what is shown may be older.",
                    thing=self.path or "The bench",
                    error=in_short(error),
                ),
                busy=self._was_busy(error),
            ) from None

    def edition(self) -> int:
        """Return a number that changes whenever another program has written to the file."""
        return int(self.rows("PRAGMA data_version")[0][0])


def _for_owner_only(path: Path) -> None:
    """Create the file if missing, readable only by its owner; SQLite's own files take its mode."""
    if not path.exists():
        os.close(os.open(path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, PRIVATE))
    with contextlib.suppress(OSError):  # another user's, who lets us write
        os.chmod(path, PRIVATE)


TROUBLE = (sqlite3.Error, UnicodeDecodeError)
"""What is raised over a book: by SQLite, or where what it says or has is no text."""
_SAID = 80
"""So much is told of what SQLite says: it may quote a whole page."""


def in_short(error: BaseException) -> str:
    """Return the text of an error, shortened."""
    said = " ".join(str(error).split())
    return said if len(said) <= _SAID else f"{said[: _SAID - 1]}…"


def is_damage(error: Exception) -> bool:
    """Return whether an SQLite error means a corrupt file, rather than a full disk or a lock."""
    code = getattr(error, "sqlite_errorcode", None)
    if code is None:  # Python itself could not read what is there as text
        return isinstance(error, sqlite3.OperationalError | UnicodeDecodeError)
    return code & 0xFF in (
        sqlite3.SQLITE_CORRUPT,
        sqlite3.SQLITE_NOTADB,
        sqlite3.SQLITE_ERROR,
        sqlite3.SQLITE_FORMAT,
    )


def fact_sentence(wrong: Exception | Fact) -> str:
    """Return a fact as one sentence. Files contain no quantities that depend on the maker's units."""
    words = Words(catalogue=current_catalogue())
    return words.say(wrong) if isinstance(wrong, Fact) else error_words(wrong, words)

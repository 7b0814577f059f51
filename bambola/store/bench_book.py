"""The maker's bench in SQLite: wools and what is left of them, records, and what was weighed out.

The bench is kept with its starting values; what is learned from the records is worked out anew each time
it is opened, so a record that is set aside leaves no trace.
"""

from __future__ import annotations

import contextlib
import json
import sqlite3
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

from platformdirs import user_data_path
from pydantic import ValidationError

from bambola.core.figure import Bench, Making, Record, Wool
from bambola.core.figure.document import describe

VERSION = 2
_TABLES = """
CREATE TABLE bench (only_one INTEGER PRIMARY KEY CHECK (only_one = 1), json TEXT NOT NULL);
CREATE TABLE wool (id TEXT PRIMARY KEY, place INTEGER NOT NULL, json TEXT NOT NULL);
CREATE TABLE record (n INTEGER PRIMARY KEY, json TEXT NOT NULL);
CREATE TABLE weighed (
  n INTEGER PRIMARY KEY, day TEXT NOT NULL, figure TEXT NOT NULL, portion TEXT NOT NULL,
  wool TEXT NOT NULL, grams REAL NOT NULL CHECK (grams >= 0), state TEXT NOT NULL
);
"""

_MAKING = "CREATE TABLE making (figure TEXT PRIMARY KEY, json TEXT NOT NULL)"

State = Literal["weighed", "booked"]


class BenchBookError(OSError):
    """A bench that cannot be opened or written; the message is one sentence."""


@dataclass(frozen=True, slots=True)
class Weighed:
    """A portion that was weighed out: ``grams`` of ``wool``; ``booked`` once it is off the shelf."""

    n: int
    day: str
    figure: str
    portion: str
    wool: str
    grams: float
    state: State


class BenchBook:
    """One file with the maker's bench. Every change is whole or not at all."""

    def __init__(self, path: Path | None, start: Bench) -> None:
        """Open the book at ``path`` (None: in memory only), begun from ``start``. Raises
        :class:`BenchBookError`."""
        self.path = path
        where = str(path) if path else ":memory:"
        try:
            if path:
                path.parent.mkdir(parents=True, exist_ok=True)
            self._db = sqlite3.connect(where, isolation_level=None)
            self._db.execute("PRAGMA foreign_keys = ON")
            self._set_up(start)
        except (sqlite3.Error, OSError) as error:
            raise BenchBookError(
                f"{where}: the bench cannot be opened ({error}); it was left as it is."
            ) from None

    def _set_up(self, start: Bench) -> None:
        (version,) = self._db.execute("PRAGMA user_version").fetchone()
        if version > VERSION:
            raise sqlite3.DatabaseError("it is from a newer Bambola")
        if version == 0:
            with self._change():
                for table in filter(None, map(str.strip, _TABLES.split(";"))):
                    self._db.execute(table)
                self._db.execute(_MAKING)
                self._db.execute(f"PRAGMA user_version = {VERSION}")
                self._put_bench(start)
        elif version == 1:  # before there was a make view
            with self._change():
                self._db.execute(_MAKING)
                self._db.execute(f"PRAGMA user_version = {VERSION}")

    @contextlib.contextmanager
    def _change(self) -> Iterator[None]:
        """One whole change of the file."""
        try:
            self._db.execute("BEGIN IMMEDIATE")
            yield
            self._db.execute("COMMIT")
        except BaseException as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            if isinstance(error, sqlite3.Error):
                raise BenchBookError(
                    f"{self.path or 'The bench'}: it could not be written ({error}); nothing was changed."
                ) from None
            raise

    def close(self) -> None:
        """Let go of the file."""
        self._db.close()

    # The bench

    def bench(self) -> Bench:
        """The bench as it stands, with starting values. Raises :class:`BenchBookError` if damaged."""
        try:
            (rest,) = self._db.execute("SELECT json FROM bench").fetchone()
            wools = [json.loads(row) for (row,) in self._db.execute(
                "SELECT json FROM wool ORDER BY place, id")]  # fmt: skip
            return Bench.model_validate({**json.loads(rest), "wools": wools})
        except ValidationError as error:
            raise BenchBookError(
                f"{self.path}: {describe(error, {})} The bench was left as it is."
            ) from None
        except (sqlite3.Error, ValueError, TypeError) as error:
            raise BenchBookError(f"{self.path}: the bench is damaged ({error}).") from None

    def put_bench(self, bench: Bench) -> None:
        """Keep ``bench`` whole."""
        with self._change():
            self._put_bench(bench)

    def _put_bench(self, bench: Bench) -> None:
        rest = bench.model_dump(mode="json", exclude={"wools"}, exclude_defaults=True)
        self._db.execute("INSERT OR REPLACE INTO bench VALUES (1, ?)", (json.dumps(rest),))
        self._db.execute("DELETE FROM wool")
        for place, wool in enumerate(bench.wools):
            self._db.execute("INSERT INTO wool VALUES (?, ?, ?)", (wool.id, place, _dump(wool)))

    def put_wool(self, wool: Wool) -> None:
        """Keep one wool, new or changed."""
        with self._change():
            self._put_wool(wool)

    def _put_wool(self, wool: Wool) -> None:
        row = self._db.execute("SELECT place FROM wool WHERE id = ?", (wool.id,)).fetchone()
        place = row[0] if row else self._one("SELECT coalesce(max(place), -1) + 1 FROM wool")
        self._db.execute(
            "INSERT OR REPLACE INTO wool VALUES (?, ?, ?)", (wool.id, place, _dump(wool))
        )

    def _one(self, query: str) -> int:
        return int(self._db.execute(query).fetchone()[0])

    # Records

    def records(self) -> tuple[Record, ...]:
        """All records, the oldest first; one that cannot be read is left out."""
        found = []
        for n, text in self._db.execute("SELECT n, json FROM record ORDER BY n"):
            with contextlib.suppress(ValidationError):
                found.append(Record.model_validate_json(text).replaced(n=n))
        return tuple(found)

    def add_record(self, record: Record) -> Record:
        """Keep a record; the same with its number."""
        with self._change():
            cursor = self._db.execute("INSERT INTO record (json) VALUES (?)", (_dump(record),))
        return record.replaced(n=int(cursor.lastrowid or 0))

    def put_record(self, record: Record) -> None:
        """Keep a record changed, as when it is set aside."""
        with self._change():
            self._db.execute("UPDATE record SET json = ? WHERE n = ?", (_dump(record), record.n))

    def drop_record(self, n: int) -> None:
        """Strike a record out."""
        with self._change():
            self._db.execute("DELETE FROM record WHERE n = ?", (n,))

    # How far a figure is made

    def making(self, figure: str) -> Making:
        """How far the maker is with a figure; from the beginning if nothing is known."""
        row = self._db.execute("SELECT json FROM making WHERE figure = ?", (figure,)).fetchone()
        with contextlib.suppress(ValidationError):
            return Making.model_validate_json(row[0]) if row else Making()
        return Making()

    def put_making(self, figure: str, making: Making) -> None:
        """Keep how far the maker is."""
        with self._change():
            self._db.execute("INSERT OR REPLACE INTO making VALUES (?, ?)", (figure, _dump(making)))

    # What was weighed out

    def weighed(self, figure: str | None = None) -> tuple[Weighed, ...]:
        """What was weighed out, for one figure or for all, the oldest first."""
        rows = self._db.execute(
            "SELECT n, day, figure, portion, wool, grams, state FROM weighed "
            "WHERE ? IS NULL OR figure = ? ORDER BY n", (figure, figure),
        )  # fmt: skip
        return tuple(Weighed(*row) for row in rows)

    def weigh(self, day: str, figure: str, portion: str, wool: str, grams: float) -> Weighed:
        """Take down that a portion was weighed; one weighed before is replaced (and put back)."""
        old = [w for w in self.weighed(figure) if w.portion == portion]
        with self._change():
            for row in old:
                self._unbook(row)
                self._db.execute("DELETE FROM weighed WHERE n = ?", (row.n,))
            cursor = self._db.execute(
                "INSERT INTO weighed (day, figure, portion, wool, grams, state) "
                "VALUES (?, ?, ?, ?, ?, 'weighed')", (day, figure, portion, wool, grams),
            )  # fmt: skip
        return Weighed(int(cursor.lastrowid or 0), day, figure, portion, wool, grams, "weighed")

    def unweigh(self, rows: Iterable[Weighed]) -> None:
        """Strike out what was weighed; what was booked off is put back on the shelf."""
        with self._change():
            for row in rows:
                self._unbook(row)
                self._db.execute("DELETE FROM weighed WHERE n = ?", (row.n,))

    def book(self, rows: Iterable[Weighed]) -> None:
        """Book what was weighed off the shelf; a heap never falls below nothing."""
        with self._change():
            for row in rows:
                if row.state == "weighed":
                    self._move(row.wool, -row.grams)
                    self._db.execute("UPDATE weighed SET state = 'booked' WHERE n = ?", (row.n,))

    def put_back(self, rows: Iterable[Weighed]) -> None:
        """Put what was booked off back on the shelf."""
        with self._change():
            for row in rows:
                self._unbook(row)
                self._db.execute("UPDATE weighed SET state = 'weighed' WHERE n = ?", (row.n,))

    def _unbook(self, row: Weighed) -> None:
        if row.state == "booked":
            self._move(row.wool, row.grams)

    def _move(self, wool_id: str, grams: float) -> None:
        row = self._db.execute("SELECT json FROM wool WHERE id = ?", (wool_id,)).fetchone()
        if row is None:
            return
        wool = Wool.model_validate_json(row[0])
        if wool.grams is not None:
            self._put_wool(wool.replaced(grams=max(0.0, wool.grams + grams)))


def bench_path() -> Path:
    """Where the maker's bench is kept."""
    return user_data_path("bambola") / "bench.sqlite"


def _dump(value: Any) -> str:
    text: str = value.model_dump_json(exclude_defaults=True)
    return text

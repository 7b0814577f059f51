"""The maker's bench in SQLite: stock, records, makings and weighings.

The bench is stored with its starting values; learned numbers are computed from the records each time it is
opened, so that a record set aside leaves no trace.
"""

from __future__ import annotations

import contextlib
import json
import sqlite3
from collections.abc import Iterable, Mapping
from dataclasses import astuple, dataclass, fields
from pathlib import Path
from typing import Annotated, Any, Literal

from platformdirs import user_data_path
from pydantic import Field, TypeAdapter, ValidationError

from bambola.core.bench import Bench, Making, Record, Wool
from bambola.core.bench.making import merge_making, read_making
from bambola.core.figure.document import describe_fault
from bambola.language import tr
from bambola.store.database import (
    TROUBLE,
    BenchBookError,
    Database,
    fact_sentence,
    in_short,
    is_damage,
)

VERSION = 5
_TABLES = """
CREATE TABLE bench (only_one INTEGER PRIMARY KEY CHECK (only_one = 1), json TEXT NOT NULL);
CREATE TABLE wool (id TEXT PRIMARY KEY, place INTEGER NOT NULL, json TEXT NOT NULL);
CREATE TABLE record (n INTEGER PRIMARY KEY, json TEXT NOT NULL);
CREATE TABLE weighed (
  n INTEGER PRIMARY KEY, day TEXT NOT NULL, figure TEXT NOT NULL, portion TEXT NOT NULL,
  wool TEXT NOT NULL, grams REAL NOT NULL CHECK (grams >= 0), state TEXT NOT NULL,
  taken REAL
);
"""

_MAKING = "CREATE TABLE making (figure TEXT PRIMARY KEY, json TEXT NOT NULL)"
"""``figure`` is the id of the making, which for the first of a design is the design's own."""
_BEGUN = "CREATE TABLE begun (making TEXT PRIMARY KEY, json TEXT NOT NULL, bench TEXT NOT NULL DEFAULT '')"
"""The designs and benches that makings were begun with, apart: a list of all makings need not read them."""

State = Literal["weighed", "booked"]


@dataclass(frozen=True, slots=True)
class Weighed:
    """A weighed portion: ``grams`` of ``wool``; ``booked`` once it is deducted from the shelf. ``taken`` (g)
    is what the heap really lost, less than ``grams`` if it held no more; None before that, or if the heap was
    not counted."""

    n: int
    day: str
    figure: str
    portion: str
    wool: str
    grams: Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
    state: State
    taken: Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)] | None = None


class BenchBook(Database):
    """The database of the maker's bench. Every change is atomic."""

    def __init__(self, path: Path | None, start: Bench) -> None:
        """Open the book at ``path`` (None: in memory only), begun from ``start``. Raises
        :class:`BenchBookError`."""
        self._read: dict[str, tuple[str, Making]] = {}
        super().__init__(path, lambda: self._set_up(start))

    def _set_up(self, start: Bench) -> None:
        (version,) = self._db.execute("PRAGMA user_version").fetchone()
        if version > VERSION:
            raise OSError(tr("it is from a newer Bambola"))
        if version == 0:
            with self.changing():
                for table in filter(None, map(str.strip, _TABLES.split(";"))):
                    self._db.execute(table)
                self._db.execute(_MAKING)
                self._db.execute(_BEGUN)
                self._db.execute(f"PRAGMA user_version = {VERSION}")
                self._put_bench(start)
        elif version < VERSION:
            with self.changing():
                self._bring_up_from(version)
                self._db.execute(f"PRAGMA user_version = {VERSION}")

    def _bring_up_from(self, version: int) -> None:
        """Migrate data written by an earlier version."""
        if version == 1:  # before there was a make view
            self._db.execute(_MAKING)
        if version < 3:  # What was booked till then took all it weighed.
            self._db.execute("ALTER TABLE weighed ADD COLUMN taken REAL")
            self._db.execute("UPDATE weighed SET taken = grams WHERE state = 'booked'")
        if version == 4:
            self._db.execute("ALTER TABLE begun ADD COLUMN bench TEXT NOT NULL DEFAULT ''")
            return
        self._db.execute(_BEGUN)
        for making, text in self.rows("SELECT figure, json FROM making"):
            with contextlib.suppress(ValidationError):  # one that is damaged is left as it is
                self._put_making(making, Making.model_validate_json(text))

    # The bench

    def bench(self) -> Bench:
        """Return the present bench with starting values. Raises :class:`BenchBookError` if damaged."""
        try:
            self._set_patience()
            (rest,) = self._db.execute("SELECT json FROM bench").fetchone()
            wools = [
                json.loads(row)
                for (row,) in self._db.execute("SELECT json FROM wool ORDER BY place, id")
            ]
            return Bench.model_validate({**json.loads(rest), "wools": wools})
        except ValidationError as error:
            raise BenchBookError(
                tr(
                    "{path}: {describe}. The bench was left as it is.",
                    path=self.path,
                    describe=fact_sentence(describe_fault(error, {})),
                ),
                damaged=True,
            ) from None
        except (*TROUBLE, ValueError, TypeError) as error:
            damaged = not isinstance(error, sqlite3.Error) or is_damage(error)
            said = tr(
                "{path}: the bench is damaged ({error}).", path=self.path, error=in_short(error)
            )
            raise BenchBookError(said, damaged, self._was_busy(error)) from None

    def change_bench(self, old: Bench, new: Bench) -> None:
        """Save the differences between two benches, field by field and wool by wool, keeping what another
        window has changed meanwhile."""
        with self.changing():
            changed = {
                name
                for name in Bench.model_fields
                if name != "wools" and getattr(old, name) != getattr(new, name)
            }
            if changed:
                rest = json.loads(self.rows("SELECT json FROM bench")[0][0])
                kept = new.model_dump(mode="json", include=changed)
                text = json.dumps({**rest, **kept})
                self._db.execute("INSERT OR REPLACE INTO bench VALUES (1, ?)", (text,))
            for wool in new.wools:
                if (before := old.wool_by_id.get(wool.id)) != wool:
                    self._change_wool(before, wool)
            for gone in old.wool_by_id.keys() - new.wool_by_id.keys():
                self._db.execute("DELETE FROM wool WHERE id = ?", (gone,))

    def _put_bench(self, bench: Bench) -> None:
        rest = bench.model_dump(mode="json", exclude={"wools"}, exclude_defaults=True)
        self._db.execute("INSERT OR REPLACE INTO bench VALUES (1, ?)", (json.dumps(rest),))
        self._db.execute("DELETE FROM wool")
        for place, wool in enumerate(bench.wools):
            self._db.execute(
                "INSERT INTO wool VALUES (?, ?, ?)", (wool.id, place, _dump_json(wool))
            )

    def _change_wool(self, before: Wool | None, wool: Wool) -> None:
        """Save the fields in which ``wool`` differs from ``before``, keeping other changes made since."""
        row = self.rows("SELECT json FROM wool WHERE id = ?", wool.id)
        if before is not None and row:
            changes = {
                name: getattr(wool, name)
                for name in Wool.model_fields
                if getattr(wool, name) != getattr(before, name)
            }
            wool = Wool.model_validate_json(row[0][0]).replaced(**changes)
        self._put_wool(wool)

    def _put_wool(self, wool: Wool) -> None:
        row = self._db.execute("SELECT place FROM wool WHERE id = ?", (wool.id,)).fetchone()
        place = (
            row[0] if row else self._query_number("SELECT coalesce(max(place), -1) + 1 FROM wool")
        )
        self._db.execute(
            "INSERT OR REPLACE INTO wool VALUES (?, ?, ?)", (wool.id, place, _dump_json(wool))
        )

    def _query_number(self, query: str) -> int:
        return int(self._db.execute(query).fetchone()[0])

    # Records

    def records(self) -> tuple[Record, ...]:
        """Return all records, the oldest first; unreadable ones are left out."""
        found = []
        for n, text in self.rows("SELECT n, json FROM record ORDER BY n"):
            with contextlib.suppress(ValidationError):
                found.append(Record.model_validate_json(text).replaced(n=n))
        return tuple(found)

    def add_record(self, record: Record) -> Record:
        """Save a record and return it with its number."""
        with self.changing():
            cursor = self._db.execute("INSERT INTO record (json) VALUES (?)", (_dump_json(record),))
        return record.replaced(n=int(cursor.lastrowid or 0))

    def put_record(self, record: Record) -> None:
        """Save a changed record, such as one set aside."""
        with self.changing():
            self._db.execute(
                "UPDATE record SET json = ? WHERE n = ?", (_dump_json(record), record.n)
            )

    def drop_record(self, n: int) -> None:
        """Delete a record."""
        with self.changing():
            self._db.execute("DELETE FROM record WHERE n = ?", (n,))

    def restore(
        self,
        records: Iterable[Record],
        weighed: Iterable[Weighed],
        making: Mapping[str, Making],
    ) -> None:
        """Insert what was saved from another database, including numbers."""
        with self.changing():
            for record in records:
                row = (record.n, _dump_json(record))
                self._db.execute("INSERT OR REPLACE INTO record VALUES (?, ?)", row)
            marks = ", ".join("?" * len(_COLUMNS))
            for found in weighed:
                self._db.execute(
                    f"INSERT OR REPLACE INTO weighed ({', '.join(_COLUMNS)}) VALUES ({marks})",
                    astuple(found),
                )
            for name, kept in making.items():
                self._put_making(name, kept)

    # Makings

    def makings(self) -> dict[str, Making]:
        """Return all makings by their ids, without the designs they began with; a damaged one says so in
        ``unread``."""
        found: dict[str, tuple[str, Making]] = {}
        for name, text in self.rows("SELECT figure, json FROM making"):
            known = self._read.get(name)
            making = known[1] if known and known[0] == text else read_making(text)
            found[str(name)] = text, making
        self._read = found  # of a thousand few have changed when they are asked for again
        return {name: making for name, (_, making) in found.items()}

    def making(self, name: str) -> Making:
        """Return a making by its id; a new one if there is none."""
        rows = self.rows("SELECT json FROM making WHERE figure = ?", name)
        begun = self.rows("SELECT json, bench FROM begun WHERE making = ?", name)
        found = read_making(rows[0][0]) if rows else Making()
        return found.replaced(begun=begun[0][0], bench=begun[0][1]) if begun else found

    def change_making(self, name: str, before: Making, after: Making) -> Making:
        """Save the change from ``before`` to ``after``, keeping what another window has written meanwhile;
        return the result."""
        with self.changing():
            making = merge_making(self.making(name), before, after)
            self._put_making(name, making)
        return making

    def put_makings(self, makings: Mapping[str, Making]) -> None:
        """Save whole makings, such as imported ones."""
        with self.changing():
            for name, making in makings.items():
                self._put_making(name, making)

    def drop_making(self, name: str) -> None:
        """Delete a making."""
        with self.changing():
            self._db.execute("DELETE FROM making WHERE figure = ?", (name,))
            self._db.execute("DELETE FROM begun WHERE making = ?", (name,))

    def _put_making(self, name: str, making: Making) -> None:
        text = _dump_json(making.replaced(begun="", bench=""))
        self._db.execute("INSERT OR REPLACE INTO making VALUES (?, ?)", (name, text))
        if making.begun:
            row = name, making.begun, making.bench
            self._db.execute("INSERT OR REPLACE INTO begun VALUES (?, ?, ?)", row)
        else:
            self._db.execute("DELETE FROM begun WHERE making = ?", (name,))

    # What was weighed out

    def weighed(self, figure: str | None = None) -> tuple[Weighed, ...]:
        """Return the weighings of one figure or of all, the oldest first."""
        rows = self.rows(
            "SELECT n, day, figure, portion, wool, grams, state, taken FROM weighed "
            "WHERE ? IS NULL OR figure = ? ORDER BY n",
            figure,
            figure,
        )
        found = []
        for row in rows:
            with contextlib.suppress(ValidationError):
                found.append(_WEIGHED.validate_python(dict(zip(_COLUMNS, row, strict=True))))
        return tuple(found)

    def weigh(self, day: str, figure: str, portion: str, wool: str, grams: float) -> Weighed:
        """Save a weighing; an earlier one of the portion is replaced (and returned to the shelf)."""
        with self.changing():
            for row in [w for w in self.weighed(figure) if w.portion == portion]:
                self._undo_booking(row)
                self._db.execute("DELETE FROM weighed WHERE n = ?", (row.n,))
            cursor = self._db.execute(
                "INSERT INTO weighed (day, figure, portion, wool, grams, state) "
                "VALUES (?, ?, ?, ?, ?, 'weighed')",
                (day, figure, portion, wool, grams),
            )
        return Weighed(int(cursor.lastrowid or 0), day, figure, portion, wool, grams, "weighed")

    def unweigh(self, rows: Iterable[Weighed]) -> None:
        """Delete a weighing, returning it to the shelf if it was deducted."""
        with self.changing():
            for row in self._as_they_are(rows):
                self._undo_booking(row)
                self._db.execute("DELETE FROM weighed WHERE n = ?", (row.n,))

    def book(self, rows: Iterable[Weighed]) -> None:
        """Deduct weighings from the shelf. A heap never falls below 0, and later gets back no more than it
        gave."""
        with self.changing():
            for row in self._as_they_are(rows):
                if row.state == "weighed":
                    taken = -self._move_grams(row.wool, -row.grams)
                    self._db.execute(
                        "UPDATE weighed SET state = 'booked', taken = ? WHERE n = ?", (taken, row.n)
                    )

    def put_back(self, rows: Iterable[Weighed]) -> None:
        """Return deducted weighings to the shelf."""
        with self.changing():
            for row in self._as_they_are(rows):
                self._undo_booking(row)
                self._db.execute(
                    "UPDATE weighed SET state = 'weighed', taken = NULL WHERE n = ?", (row.n,)
                )

    def _as_they_are(self, rows: Iterable[Weighed]) -> list[Weighed]:
        """Return the present state of these rows, which another window may have deducted."""
        wanted = {row.n for row in rows}
        return [row for row in self.weighed() if row.n in wanted]

    def _undo_booking(self, row: Weighed) -> None:
        if row.state == "booked":
            self._move_grams(row.wool, row.grams if row.taken is None else row.taken)

    def _move_grams(self, wool_id: str, grams: float) -> float:
        """Add ``grams`` to a heap, or remove them; return the change (g)."""
        rows = self.rows("SELECT json FROM wool WHERE id = ?", wool_id)
        if not rows:
            return 0.0
        wool = Wool.model_validate_json(rows[0][0])
        if wool.grams is None:
            return 0.0
        after = max(0.0, wool.grams + grams)
        self._put_wool(wool.replaced(grams=after))
        return after - wool.grams


_COLUMNS = tuple(field.name for field in fields(Weighed))
_WEIGHED: TypeAdapter[Weighed] = TypeAdapter(Weighed)


def bench_path() -> Path:
    """Return the path of the maker's database."""
    return user_data_path("bambola") / "bench.sqlite"


def _dump_json(value: Any) -> str:
    text: str = value.model_dump_json(exclude_defaults=True)
    return text

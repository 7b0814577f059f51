"""Opens the database whatever its state: what is sound is kept, the rest is reported and set aside."""

from __future__ import annotations

import contextlib
import json
import os
import shutil
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError

from bambola.core.bench import Bench, Making, Record, Wool
from bambola.language import N_, tr
from bambola.store.bench_book import BenchBook, Weighed
from bambola.store.database import TROUBLE, BenchBookError

_ROW: TypeAdapter[Weighed] = TypeAdapter(Weighed)


def open_book(path: Path, start: Bench) -> tuple[BenchBook, str]:
    """Return the database at ``path``, and one sentence for the maker if there was trouble (else empty).

    Sound rows of a damaged file go into a new one, and the old file stays beside it under another name. If
    the file cannot be opened at all, the database is in memory, begun from ``start``.
    """
    book = None
    try:
        book = BenchBook(path, start)
        spoilt = _is_unsound(book)
        if not spoilt:
            return book, ""
    except BenchBookError as error:
        if not error.damaged:
            return BenchBook(None, start), tr(
                "{error} Until then the shelf is not kept.", error=error
            )
    if book is not None:
        book.close()
        book.wait_for_disk()
    try:
        return _salvage_to(path, start)
    except (OSError, *TROUBLE) as error:
        return BenchBook(None, start), (
            tr(
                "{path}: the bench is damaged and cannot be mended ({error}); the shelf is not kept.",
                path=path,
                error=error,
            )
        )


@dataclass
class _Sound:
    """The readable rows, and the number of unreadable ones of each kind."""

    rest: dict[str, Any] = field(default_factory=dict)
    wools: list[Wool] = field(default_factory=list)
    records: list[Record] = field(default_factory=list)
    weighed: list[Weighed] = field(default_factory=list)
    making: dict[str, Making] = field(default_factory=dict)
    lost: dict[str, int] = field(default_factory=dict)

    def lose(self, sort: str) -> None:
        self.lost[sort] = self.lost.get(sort, 0) + 1


def _is_unsound(book: BenchBook) -> bool:
    """Return whether anything in the database is unreadable. Raises :class:`BenchBookError`."""
    book.bench()
    assert book.path is not None
    with contextlib.closing(sqlite3.connect(book.path, timeout=0.25)) as db:
        return bool(_read_sound(db).lost)


def _open_for_reading(path: Path) -> sqlite3.Connection:
    """Return the file opened to read as much as possible: invalid text, missing descriptions of tables."""
    db = sqlite3.connect(path, timeout=0.25)
    db.text_factory = lambda raw: raw.decode("utf-8", "replace")
    with contextlib.suppress(*TROUBLE):
        db.execute("PRAGMA writable_schema = ON")
    return db


def _read_all_rows(
    db: sqlite3.Connection, columns: str, table: str, sound: _Sound
) -> Iterator[Any]:
    """Yield every reachable row, from either end of the table, in the order of the table."""
    found: dict[Any, Any] = {}
    broken = 0
    for way in ("ASC", "DESC"):
        try:
            for rowid, *row in db.execute(
                f"SELECT rowid, {columns} FROM {table} ORDER BY rowid {way}"
            ):
                found[rowid] = row
        except (*TROUBLE, OverflowError):
            broken += 1
    if broken:
        sound.lose(_SORTS[table])
    yield from (found[rowid] for rowid in sorted(found))


_SORTS = {
    "bench": "setting",
    "wool": "wool",
    "record": "record",
    "weighed": "weighing",
    "making": N_("page of making"),
    "begun": N_("page of making"),
}


def _read_sound(db: sqlite3.Connection) -> _Sound:
    """Return everything readable in a database."""
    sound = _Sound()
    for (text,) in _read_all_rows(db, "json", "bench", sound):
        for name, value in _parse_object(text, sound).items():
            try:
                kept = Bench.model_validate({"wools": (), name: value})
            except ValidationError:
                sound.lose("setting")
            else:
                sound.rest[name] = getattr(kept, name)
    for (text,) in _read_all_rows(db, "json", "wool", sound):
        with _counting_losses("wool", sound):
            sound.wools.append(Wool.model_validate_json(text))
    for n, text in _read_all_rows(db, "n, json", "record", sound):
        with _counting_losses("record", sound):
            sound.records.append(Record.model_validate_json(text).replaced(n=n))
    names = ("n", "day", "figure", "portion", "wool", "grams", "state", "taken")
    for row in _read_all_rows(db, ", ".join(names), "weighed", sound):
        with _counting_losses("weighing", sound):
            sound.weighed.append(_ROW.validate_python(dict(zip(names, row, strict=True))))
    for figure, text in _read_all_rows(db, "figure, json", "making", sound):
        with _counting_losses(tr("page of making"), sound):
            sound.making[str(figure)] = Making.model_validate_json(text)
    if "begun" in _table_names(db):  # earlier books have none
        there = _column_names(db, "begun")
        columns = [name for name in ("making", "json", "bench") if name in there]
        for making, text, *bench in _read_all_rows(db, ", ".join(columns), "begun", sound):
            known = sound.making.get(str(making), Making())
            sound.making[str(making)] = known.replaced(begun=str(text), bench="".join(bench))
    return sound


def _column_names(db: sqlite3.Connection, table: str) -> frozenset[str]:
    try:
        return frozenset(str(row[1]) for row in db.execute(f"PRAGMA table_info({table})"))
    except TROUBLE:
        return frozenset()


def _table_names(db: sqlite3.Connection) -> frozenset[str]:
    try:
        return frozenset(
            str(row[0]) for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        )
    except TROUBLE:
        return frozenset()


@contextlib.contextmanager
def _counting_losses(sort: str, sound: _Sound) -> Iterator[None]:
    try:
        yield
    except (ValidationError, TypeError, ValueError):
        sound.lose(sort)


def _parse_object(text: Any, sound: _Sound) -> dict[str, Any]:
    try:
        found = json.loads(text)
    except (ValueError, TypeError, RecursionError):
        found = None
    if isinstance(found, dict):
        return {name: value for name, value in found.items() if name in Bench.model_fields}
    sound.lose("setting")
    return {}


def _salvage_to(path: Path, start: Bench) -> tuple[BenchBook, str]:
    """Return a new database at ``path`` with the readable rows of the old one, which is kept beside it."""
    try:
        with contextlib.closing(_open_for_reading(path)) as db:
            sound = _read_sound(db)
    except TROUBLE:
        sound = _Sound()
    aside = path.with_name(f"{path.stem}-damaged-{datetime.now():%Y%m%d-%H%M%S}{path.suffix}")
    shutil.copy2(path, aside)
    fresh = path.with_name(f".{path.name}.new")
    fresh.unlink(missing_ok=True)
    book = BenchBook(fresh, _bench_of(sound, start))
    book.restore(sound.records, sound.weighed, sound.making)
    book.close()
    book.wait_for_disk()
    # What belongs to the damaged file must not get into the new one.
    for ending in ("-journal", "-wal", "-shm"):
        path.with_name(f"{path.name}{ending}").unlink(missing_ok=True)
    os.replace(fresh, path)
    return BenchBook(path, start), _salvage_text(path, aside, sound)


def _bench_of(sound: _Sound, start: Bench) -> Bench:
    """Return a bench from the readable rows; a blend of lost wools is lost too. Lost wools of the starting
    bench come back uncounted."""
    known = {wool.id: wool for wool in sound.wools}
    if "wool" in sound.lost:
        known |= {wool.id: wool for wool in start.wools if wool.id not in known}
    kept = []
    for wool in known.values():
        if all(p.wool in known and not known[p.wool].recipe for p in wool.recipe):
            kept.append(wool)
        else:
            sound.lose("wool")
    return start.replaced(**sound.rest, wools=tuple(kept) or start.wools)


def _salvage_text(path: Path, aside: Path, sound: _Sound) -> str:
    lost = ", ".join(f"{n} {sort}{'s' * (n > 1)}" for sort, n in sound.lost.items())
    if not sound.wools:
        what = tr("nothing in it could be read, so the shelf starts empty")
    else:
        what = tr("{thing} could not be read, all else is here", thing=lost or "part of it")
    return tr(
        "{name}: the bench was damaged; {what}. The damaged file is kept as {other}.",
        name=path.name,
        what=what,
        other=aside.name,
    )

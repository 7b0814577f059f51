"""The bench in its file: kept whole, booked off and put back, and refused whole when damaged."""

from __future__ import annotations

import json
import random
import sqlite3
import threading
import time
from pathlib import Path

import numpy as np
import pytest

from bambola.core.bench import Bench, Making, Record, WireStock, Wool
from bambola.core.bench.making import WHOLE_PAGE
from bambola.core.book.document import load_book
from bambola.core.figure import Brief, DocumentError
from bambola.core.words import ENGLISH, error_words
from bambola.demo import load_demo
from bambola.files import ExportError
from bambola.shipped import default_bench
from bambola.store import Journal
from bambola.store.bench_book import BenchBook
from bambola.store.database import BenchBookError
from bambola.store.photographs import Photographs
from bambola.store.salvage import open_book
from bambola.store.syncing import Syncing
from tests.effort import tries


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "kept" / "bench.sqlite"


def counted(book: BenchBook, wool: str, grams: float) -> None:
    now = book.bench()
    book.change_bench(now, now.with_wool(now.wool_by_id[wool].replaced(grams=grams)))


def test_bench_comes_back_as_it_was_put(path: Path) -> None:
    start = default_bench()
    assert BenchBook(path, start).bench() == start
    changed = start.replaced(scale_g=0.01, currency="kr", beginner=True).with_wool(
        Wool(
            id="own",
            name="My own",
            colour="#123456",
            grams=12.5,
            price=4.0,
            known_from={"cover": 3},
        )
    )
    stock = WireStock(id="x", name="X", metal="soft copper", diameter=0.8, length=1000)
    changed = changed.replaced(wire_stock=(*changed.wire_stock, stock))
    book = BenchBook(path, start)
    book.change_bench(start, changed)
    book.close()
    # What it is begun from counts only for a new book.
    assert BenchBook(path, Bench(wools=())).bench() == changed


def test_wool_is_booked_off_and_put_back_exactly(path: Path) -> None:
    book = BenchBook(path, default_bench())
    counted(book, "woad", 20.0)
    first = book.weigh("2026-03-01", "badger", "cape/coat/1/0", "woad", 3.25)
    uncounted = book.weigh("2026-03-01", "badger", "body/core/1/0", "core-batt", 30.0)
    assert book.bench().wool_by_id["woad"].grams == 20.0
    for _ in range(2):  # booking twice takes once
        book.book(book.weighed("badger"))
    assert book.bench().wool_by_id["woad"].grams == pytest.approx(16.75)
    assert book.bench().wool_by_id["core-batt"].grams is None
    book.put_back(book.weighed("badger"))
    assert book.bench().wool_by_id["woad"].grams == 20.0
    book.book(book.weighed("badger"))
    # Weighed again: the old weight goes back on the shelf, the new one waits to be booked.
    again = book.weigh("2026-03-02", "badger", "cape/coat/1/0", "woad", 4.0)
    assert book.bench().wool_by_id["woad"].grams == 20.0 and again.state == "weighed"
    assert [w.portion for w in book.weighed()] == [uncounted.portion, first.portion]
    book.unweigh(book.weighed())
    assert book.weighed() == ()


def test_records_are_kept_set_aside_and_struck_out(path: Path) -> None:
    book = BenchBook(path, default_bench())
    record = Record(day="2026-03-01", figure="Toad", part="Body", wool="core-batt", grams_in=4.0)
    kept = book.add_record(record)
    book.put_record(kept.replaced(aside=True))
    again = BenchBook(path, default_bench())
    assert again.records() == (kept.replaced(aside=True),)
    again.drop_record(kept.n)
    assert again.records() == ()


def test_no_more_is_put_back_than_heap_gave(path: Path) -> None:
    book = BenchBook(path, default_bench())
    counted(book, "woad", 5.0)
    book.weigh("2026-03-01", "badger", "cape/coat/1/0", "woad", 8.0)
    for _ in range(2):
        book.book(book.weighed())
        assert book.bench().wool_by_id["woad"].grams == 0.0
        book.put_back(book.weighed())
        assert book.bench().wool_by_id["woad"].grams == 5.0
    book.book(book.weighed())
    book.unweigh(book.weighed())
    assert book.bench().wool_by_id["woad"].grams == 5.0


def test_two_windows_write_what_they_changed_and_nothing_else(path: Path) -> None:
    one, two = BenchBook(path, default_bench()), BenchBook(path, default_bench())
    old, edition = one.bench(), two.edition()
    own = Wool(id="own", name="My own", colour="#123456")
    one.change_bench(old, old.with_wool(own).replaced(scale_g=0.01))
    woad = old.wool_by_id["woad"]
    one.change_bench(old, old.with_wool(woad.replaced(grams=7.0)))
    assert two.edition() != edition
    # The other has seen none of it, and changes other things of the same bench and the same wool.
    two.change_bench(old, old.with_wool(woad.replaced(price=3.0)).replaced(currency="kr"))
    now = one.bench()
    assert now.scale_g == 0.01 and now.currency == "kr" and now.wool_by_id["own"] == own
    assert now.wool_by_id["woad"] == woad.replaced(grams=7.0, price=3.0)
    row = one.weigh("2026-03-01", "badger", "cape/coat/1/0", "woad", 3.0)
    one.book([row])
    two.book([row])  # booked by the other meanwhile: taken once
    assert one.bench().wool_by_id["woad"].grams == 4.0


def filled(path: Path) -> None:
    book = BenchBook(path, default_bench())
    counted(book, "woad", 20.0)
    for n in range(200):
        book.add_record(
            Record(day="2026-03-01", figure=f"Toad {n}", part="Body", wool="woad", grams_in=4)
        )
    book.weigh("2026-03-01", "toad", "body/core/1/0", "woad", 3.0)
    book.change_making("toad", Making(), Making(at="core:body"))
    book.close()
    book.wait_for_disk()


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        ("UPDATE wool SET json = '{\"id\": 1' WHERE id = 'madder'", "1 wool could not"),
        (
            'UPDATE wool SET json = \'{"id": "madder", "grams": -5}\' WHERE id = \'madder\'',
            "1 wool",
        ),
        ('UPDATE bench SET json = \'{"scale_g": -1, "currency": "kr"}\'', "1 setting"),
        ("UPDATE record SET json = x'00ff' WHERE n IN (3, 5)", "2 records"),
        ("UPDATE weighed SET state = 'eaten'", "1 weighing"),
        ("UPDATE making SET json = '[]'", "1 page of making"),
        ("DROP TABLE weighed", "1 weighing"),
        ("DELETE FROM bench", "nothing"),
    ],
)
def test_damaged_book_keeps_sound_rows(path: Path, spoil: str, says: str) -> None:
    filled(path)
    db = sqlite3.connect(path)
    db.execute(spoil)
    db.commit()
    db.close()
    before = path.read_bytes()
    book, told = open_book(path, default_bench())
    if says == "nothing":  # no row of settings is no loss: they are all at their defaults
        says = "could not be read"
    assert says in told and "\n" not in told
    (aside,) = path.parent.glob("bench-damaged-*.sqlite")
    assert aside.read_bytes() == before and aside.name in told
    lost = 2 if "records" in says else 0
    assert len(book.records()) == 200 - lost and book.bench().wool_by_id["woad"].grams == 20.0
    assert len(book.weighed()) == ("weighing" not in says)
    assert book.making("toad").at == ("" if "making" in says else "core:body")
    if "setting" in says:
        assert book.bench().currency == "kr" and book.bench().scale_g == 0.1
    book.close()
    assert open_book(path, default_bench())[1] == ""  # mended for good


def test_pages_gone_wrong_cost_only_what_stood_on_them(path: Path) -> None:
    filled(path)
    data = bytearray(path.read_bytes())
    page = 4096
    hit = next(i for i in range(page, len(data), page) if b"Toad 120" in data[i : i + page])
    data[hit : hit + page] = b"\xff" * page
    path.write_bytes(bytes(data))
    book, told = open_book(path, default_bench())
    assert "could not be read" in told and 100 < len(book.records()) < 200
    assert book.bench().wool_by_id["woad"].grams == 20.0


def test_book_with_any_wrong_byte_opens(path: Path) -> None:
    """One byte that is no text stopped every start, or left a book that forgot all at the end."""
    filled(path)
    whole, rng = path.read_bytes(), random.Random(36)
    used = [at for at, byte in enumerate(whole) if byte]
    for at in rng.sample(used, tries(300)):
        for other in path.parent.iterdir():
            other.unlink()
        spoilt = bytearray(whole)
        spoilt[at] = rng.choice([0xFF, 0x80, 0x00, spoilt[at] ^ 1 << rng.randrange(8)])
        path.write_bytes(bytes(spoilt))
        book, told = open_book(path, default_bench())
        assert book.path == path and len(told) < 300 and "\n" not in told, (at, told)
        assert not told or next(path.parent.glob("bench-damaged-*")).read_bytes() == bytes(spoilt)
        have = book.bench().wool_by_id
        assert {wool.id for wool in default_bench().wools} <= have.keys(), at
        book.change_making("toad", Making(), Making(at="finish"))
        book.close()
        book.wait_for_disk()
        again, told = open_book(path, default_bench())
        assert not told and again.making("toad").at == "finish", (at, told)
        again.close()
        again.wait_for_disk()


def test_book_that_is_none_begins_anew_and_is_kept_aside(path: Path) -> None:
    path.parent.mkdir()
    path.write_text("this is no bench at all, only text" * 100)
    book, told = open_book(path, default_bench())
    assert "nothing in it could be read" in told and book.bench() == default_bench()
    assert next(path.parent.glob("bench-damaged-*")).read_text().startswith("this is no bench")


def test_newer_or_locked_book_is_left_alone(path: Path) -> None:
    filled(path)
    holder = sqlite3.connect(path, isolation_level=None)
    holder.execute("PRAGMA journal_mode = DELETE")  # as programs before this one held it
    holder.execute("BEGIN EXCLUSIVE")
    start = time.monotonic()
    book, told = open_book(path, default_bench())
    assert time.monotonic() - start < 2 and "locked" in told and book.path is None
    holder.execute("ROLLBACK")
    holder.execute("PRAGMA user_version = 99")
    before = path.read_bytes()
    book, told = open_book(path, default_bench())
    assert "newer Bambola" in told and book.path is None and path.read_bytes() == before
    assert not list(path.parent.glob("*damaged*"))


def test_book_that_another_program_writes_is_read_and_not_written(path: Path) -> None:
    filled(path)
    book = BenchBook(path, default_bench())
    holder = sqlite3.connect(path, isolation_level=None)
    holder.execute("BEGIN EXCLUSIVE")
    assert len(book.records()) == 200 and book.making("toad").at == "core:body"
    with pytest.raises(BenchBookError, match="locked"):
        book.change_making("toad", Making(), Making(at="finish"))
    holder.execute("ROLLBACK")
    assert book.change_making("toad", Making(), Making(at="finish")).at == "finish"


def test_window_does_not_wait_for_disk(path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A disk that takes for ever holds no change, and what was changed is there for whoever looks."""
    goes_on = threading.Event()
    checkpoint = Syncing._run

    def slowly(syncing: Syncing) -> None:
        goes_on.wait()
        checkpoint(syncing)

    monkeypatch.setattr(Syncing, "_run", slowly)
    book, other = BenchBook(path, default_bench()), BenchBook(path, default_bench())
    for n in range(50):
        book.change_making("toad", Making(), Making(at=f"core:p{n}:1"))
        assert other.making("toad").at == f"core:p{n}:1"
    reader = sqlite3.connect(path)
    assert reader.execute("SELECT count(*) FROM making").fetchone() == (1,)
    book.close()
    other.close()
    assert path.with_name(f"{path.name}-wal").stat().st_size > 10_000  # not in the file itself yet
    goes_on.set()
    for each in (book, other):
        each.wait_for_disk()
    reader.close()
    assert not path.with_name(f"{path.name}-wal").exists()
    alone = sqlite3.connect(path)
    assert "core:p49:1" in alone.execute("SELECT json FROM making").fetchone()[0]


def test_change_that_fails_changes_nothing(path: Path) -> None:
    book = BenchBook(path, default_bench())
    counted(book, "woad", 20.0)
    row = book.weigh("2026-03-01", "badger", "cape/coat/1/0", "woad", 3.0)
    other = sqlite3.connect(path, timeout=0)
    other.execute("BEGIN IMMEDIATE")
    book._db.execute("PRAGMA busy_timeout = 10")
    with pytest.raises(BenchBookError, match="nothing was changed"):
        book.book([row])
    other.execute("ROLLBACK")
    assert book.bench().wool_by_id["woad"].grams == 20.0
    assert book.weighed()[0].state == "weighed"


def test_only_damaged_entries_of_making_are_dropped(tmp_path: Path) -> None:
    sitting = {"day": "2026-02-20", "minutes": 20.0}
    kept = {
        "at": "core:body:1", "due": "2026-13-45", "sold": "0000-00-00", "minutes": {"a": 3.0, "b": -1.0},
        "sittings": [{**sitting, "day": "2026-02-30"}, sitting, {"day": "x"}], "reached_mm": 90.0,
    }  # fmt: skip
    book = BenchBook(tmp_path / "bench.sqlite", default_bench())
    book._db.execute("INSERT INTO making VALUES ('toad', ?)", (json.dumps(kept),))
    (making,) = book.makings().values()
    assert making == book.making("toad")
    assert set(making.unread) == {"due", "sold", "minutes", "sittings"}
    assert (making.at, making.minutes, making.reached_mm) == ("core:body:1", {"a": 3.0}, 90.0)
    assert [s.minutes for s in making.sittings] == [20.0] and making.due is making.sold is None
    # What is done with it goes on; nothing that was sound is lost by that.
    book.change_making("toad", making, making.replaced(minutes={"a": 5.0}))
    assert book.making("toad") == making.replaced(minutes={"a": 5.0}, unread=())
    with pytest.raises(DocumentError, match="due") as refused:
        load_book(json.dumps({"makings": {"toad": {"due": "2026-13-45"}}}), "book.json")
    assert "“2026-13-45” is not a day" in error_words(refused.value, ENGLISH)
    book.close()


def test_books_and_unsaved_work_are_for_their_owner_only(tmp_path: Path) -> None:
    path = tmp_path / "mine" / "bench.sqlite"
    BenchBook(path, default_bench()).close()
    assert path.stat().st_mode & 0o077 == path.parent.stat().st_mode & 0o077 == 0
    path.chmod(0o644)  # as it was made before
    BenchBook(path, default_bench()).close()
    assert path.stat().st_mode & 0o077 == 0
    own = Journal(tmp_path / "journal")
    own.write(load_demo().figure, Brief(), None)
    assert all(p.stat().st_mode & 0o077 == 0 for p in own.folder.glob("*.json"))
    own.clear()
    (tmp_path / "photographs").write_text("in the way")
    with pytest.raises(ExportError, match="photographs: it could not be made"):
        Photographs(tmp_path / "bench.sqlite").save(np.zeros((40, 40, 3), dtype=np.uint8))


def test_book_that_another_program_holds_is_waited_for_once(tmp_path: Path) -> None:
    path = tmp_path / "bench.sqlite"
    book = BenchBook(path, default_bench())
    other = sqlite3.connect(path, timeout=5)  # the book may just be syncing
    other.execute("BEGIN EXCLUSIVE")
    spent = []
    for n in range(4):
        began = time.monotonic()
        with pytest.raises(BenchBookError) as refused:
            book.change_making("toad", Making(), Making(at=f"core:body:{n}"))
        assert refused.value.busy
        spent.append(time.monotonic() - began)
    assert sum(spent[1:]) < spent[0] < 1.0
    other.execute("ROLLBACK")
    book.change_making("toad", Making(), Making(at="finish"))
    assert book.making("toad").at == "finish"
    other.close()
    book.close()


def test_begun_design_is_stored_separately_and_migrated(
    tmp_path: Path,
) -> None:
    path = tmp_path / "bench.sqlite"
    made = Making(at="finish", minutes={"a": 3.0}, begun="{}" * 1000, price="12.50")
    book = BenchBook(path, default_bench())
    book.change_making("toad", Making(), made)
    book.change_making("toad#2", Making(), Making(at="core:body:1"))
    book.close()
    db = sqlite3.connect(path)  # as the version before wrote it
    db.execute("DROP TABLE begun")
    db.execute("UPDATE making SET json = ? WHERE figure = 'toad'", (made.model_dump_json(),))
    db.execute("INSERT INTO making VALUES ('heron', 'no json')")
    db.execute("PRAGMA user_version = 3")
    db.commit()
    db.close()
    again = BenchBook(path, default_bench())
    assert again.making("toad") == made
    assert again.makings() == {
        "toad": made.replaced(begun=""),
        "toad#2": Making(at="core:body:1"),
        "heron": Making(unread=(WHOLE_PAGE,)),
    }
    again.drop_making("toad")
    assert again.making("toad") == Making() and set(again.makings()) == {"toad#2", "heron"}
    again.close()

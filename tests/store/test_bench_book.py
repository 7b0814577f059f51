"""The bench in its file: kept whole, booked off and put back, and refused whole when damaged."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from bambola.core.figure import Bench, Record, WireStock, Wool
from bambola.demo import default_bench
from bambola.store.bench_book import BenchBook, BenchBookError


@pytest.fixture
def path(tmp_path: Path) -> Path:
    return tmp_path / "kept" / "bench.sqlite"


def counted(book: BenchBook, wool: str, grams: float) -> None:
    book.put_wool(book.bench().wool_by_id[wool].replaced(grams=grams))


def test_a_bench_comes_back_as_it_was_put(path: Path) -> None:
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
    book.put_bench(changed)
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


@pytest.mark.parametrize("spoil", ["rubbish", "newer", "json", "field"])
def test_a_damaged_book_is_refused_in_words_and_left_alone(path: Path, spoil: str) -> None:
    BenchBook(path, default_bench()).close()
    if spoil == "rubbish":
        path.write_bytes(b"this is no bench at all, only text" * 100)
    else:
        db = sqlite3.connect(path)
        db.execute({
            "newer": "PRAGMA user_version = 99",
            "json": "UPDATE wool SET json = '{\"id\": 1' WHERE id = 'woad'",
            "field": "UPDATE wool SET json = '{\"id\": \"woad\", \"grams\": -5}' WHERE id = 'woad'",
        }[spoil])  # fmt: skip
        db.commit()
        db.close()
    before = path.read_bytes()
    with pytest.raises(BenchBookError) as refused:
        BenchBook(path, default_bench()).bench()
    assert str(path) in str(refused.value) and "\n" not in str(refused.value)
    assert path.read_bytes() == before


def test_a_change_that_fails_changes_nothing(path: Path) -> None:
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

"""The maker's bench kept between windows, and a damaged one that never stops the work."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from pathlib import Path

import pytest
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from bambola.core.bench import FreeTime, Making, Record
from bambola.demo import BADGER, load_demo
from bambola.desk.kit.theme import Theme
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell import app
from bambola.desk.shell.window import Window
from bambola.shipped import default_bench
from bambola.store import bench_book, open_design
from bambola.store.bench_book import BenchBook
from bambola.store.database import BenchBookError


def opened(path: Path) -> tuple[EditorSession, BenchDesk]:
    studio = EditorSession()
    desk = BenchDesk(studio, BenchBook(path, studio.bench))
    studio.open_document(load_demo(BADGER), None)
    return studio, desk


def test_shelf_records_and_progress_come_back(tmp_path: Path) -> None:
    path = tmp_path / "bench.sqlite"
    studio, desk = opened(path)
    desk.put_wool(desk.base.wool_by_id["woad"].replaced(grams=12.0))
    desk.add_record(
        Record(
            day="2026-03-01", figure="Toad", part="Body", wool="woad", grams_in=3.0, volume_cm3=20.0
        )
    )
    desk.weigh("cape/coat/1/0", "madder", 2.0)
    desk.set_free((FreeTime(weekday=6, start="10:00", minutes=60),))
    desk.keep_making(
        Making(at="coat:cape", minutes={"core:cape:1": 12.0}, notes={"coat:cape": "thin"})
    )
    learned = studio.bench.wool_by_id["woad"].density("medium")
    assert learned > 0.11
    desk.close()
    studio, desk = opened(path)
    woad = studio.bench.wool_by_id["woad"]
    assert woad.grams == 12.0 and woad.density("medium") == pytest.approx(learned)
    # What is kept is the starting value; what is learned is worked out anew.
    assert desk.base.wool_by_id["woad"].densities == {}
    assert [w.grams for w in desk.weighed.values()] == [2.0]
    assert studio.bench.free == (FreeTime(weekday=6, start="10:00", minutes=60),)
    assert desk.making.at == "coat:cape" and desk.making.notes == {"coat:cape": "thin"}
    desk.close()


def test_bench_of_another_figure_is_not_mixed_up(tmp_path: Path) -> None:
    studio, desk = opened(tmp_path / "bench.sqlite")
    desk.weigh("cape/coat/1/0", "madder", 2.0)
    from bambola.demo import TOAD

    studio.open_document(load_demo(TOAD), None)
    assert desk.weighed == {} and desk.making == Making()
    assert len(desk.book.weighed()) == 1
    desk.close()


def test_what_cannot_be_written_is_refused_and_nothing_is_changed(tmp_path: Path) -> None:
    path = tmp_path / "bench.sqlite"
    studio, desk = opened(path)
    said: list[str] = []
    studio.refused.connect(said.append)
    desk.book._db.execute("PRAGMA busy_timeout = 10")
    other = sqlite3.connect(path, timeout=0)
    other.execute("BEGIN EXCLUSIVE")
    before = studio.bench
    assert not desk.put_wool(desk.base.wool_by_id["woad"].replaced(grams=1.0))
    assert said and "\n" not in said[0] and studio.bench is before
    other.execute("ROLLBACK")
    assert desk.put_wool(desk.base.wool_by_id["woad"].replaced(grams=1.0))
    other.close()
    desk.close()


def test_book_from_before_make_view_is_taken_on(tmp_path: Path) -> None:
    path = tmp_path / "bench.sqlite"
    book = BenchBook(path, default_bench())
    book.close()
    db = sqlite3.connect(path)
    db.execute("DROP TABLE making")
    db.execute("DROP TABLE begun")
    db.execute("ALTER TABLE weighed DROP COLUMN taken")
    db.execute("PRAGMA user_version = 1")
    db.commit()
    db.close()
    again = BenchBook(path, default_bench())
    assert again.making("badger") == Making()
    again.change_making("badger", Making(), Making(at="finish"))
    assert again.making("badger").at == "finish"
    again._db.execute("UPDATE making SET json = '{\"at\": 7}'")
    assert again.making("badger") == Making(unread=("at",))
    again.close()


@pytest.mark.parametrize(
    "damage", ["", "no database at all, but long enough to be looked into" * 40]
)
def test_damaged_bench_never_stops_work(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot, damage: str
) -> None:
    path = tmp_path / "bench.sqlite"
    if damage:
        path.write_text(damage)
    monkeypatch.setattr(bench_book, "user_data_path", lambda name: tmp_path)
    monkeypatch.setattr("bambola.store.journal.user_data_path", lambda name: tmp_path)
    settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    window = app.set_up(Theme(), settings)
    qtbot.addWidget(window)
    window.show()
    QApplication.processEvents()
    told = window.message.text
    window.open_demo()
    assert window.studio.plan is not None
    window.bench_desk.put_wool(window.bench_desk.base.wool_by_id["woad"].replaced(grams=5.0))
    assert window.studio.bench.wool_by_id["woad"].grams == 5.0
    assert bool(damage) == ("nothing in it could be read" in told)
    assert [p.read_text() for p in tmp_path.glob("bench-damaged-*")] == [damage] * bool(damage)
    window.studio.undo_stack.setClean()
    window.close()


def test_two_windows_share_what_one_has_written(qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "shared.sqlite"
    one, two = (BenchDesk(EditorSession(), BenchBook(path, default_bench())) for _ in range(2))
    one.put_wool(one.base.wool_by_id["woad"].replaced(grams=30.0))
    two.put_wool(two.base.wool_by_id["madder"].replaced(grams=20.0))
    assert two.base.wool_by_id["woad"].grams == 30.0
    assert one.book.bench().wool_by_id["madder"].grams == 20.0
    qtbot.waitUntil(lambda: one.base.wool_by_id["madder"].grams == 20.0, timeout=5000)
    assert one.studio.bench.wool_by_id["madder"].grams == 20.0
    for desk in (one, two):
        desk.close()


def test_wools_that_shelf_lacks_stop_no_work(
    new_window: Callable[[], Window], tmp_path: Path
) -> None:
    """A book without a wool of the badger's ended its opening with a KeyError."""
    window = new_window()
    studio, desk = window.studio, window.bench_desk
    bare = desk.base.replaced(wools=tuple(w for w in desk.base.wools if w.id != "woad"))
    assert desk.put_bench(bare)
    window.open_demo()
    assert studio.plan and "missing from your shelf" in window.message.text
    assert "woad" not in {w.wool for w in studio.plan.wools}
    window.studio.undo_stack.setClean()
    # One that another window strikes out stays known while it lies on the table.
    again = desk.base.replaced(wools=tuple(w for w in desk.base.wools if w.id != "madder"))
    assert desk.put_bench(again) and studio.set_height(180.0)
    assert "madder" in {w.wool for w in studio.plan.wools}


def test_what_book_refuses_stays_in_hand_until_it_can_be_written(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "bench.sqlite"
    studio, desk = opened(path)
    desk.keep_making(Making(at="core:body", notes={"core:body": "firm"}))
    told: list[str] = []
    studio.refused.connect(told.append)

    def gone(*_: object) -> None:
        raise BenchBookError("The home is gone.")

    for name in ("change_making", "making"):
        monkeypatch.setattr(desk.book, name, gone)
    mine = desk.last_making.replaced(notes={"core:body": "firm", "coat:cape": "thin"})
    assert desk.keep_making(mine) is None and told
    assert desk.take_making().notes == mine.notes and desk.making.notes == {"core:body": "firm"}
    desk.reload()
    monkeypatch.undo()
    _, other = opened(path)  # writes something else meanwhile
    other.keep_making(other.take_making().replaced(minutes={"core:body": 9.0}))
    other.close()
    desk.reload()
    for kept in (desk.last_making, desk.making):
        assert kept.notes == mine.notes and kept.minutes == {"core:body": 9.0}
    assert desk.take_making() == desk.making
    desk.close()


def test_design_without_id_is_the_same_in_every_window(tmp_path: Path) -> None:
    demo, path, book = load_demo(BADGER), tmp_path / "a.json", tmp_path / "bench.sqlite"
    (first, one), (_, other) = opened(book), opened(book)
    found = [desk.with_id(demo.replaced(design=""), path) for desk in (one, other)]
    assert found[0].design == found[1].design != demo.figure.id
    assert one.with_id(found[0].replaced(design="x"), path).design == "x"
    first.open_document(found[0], path)
    one.keep_making(Making(at="core:body"))
    assert other.with_id(demo.replaced(design=""), path).design == found[0].design
    assert first.save(path) and open_design(path, first.bench).design == found[0].design
    # One that was begun under the figure's own id goes on under it.
    begun = tmp_path / "b.json"
    first.open_document(demo.replaced(design=demo.figure.id), begun)
    one.keep_making(Making(at="core:body"))
    assert not other.with_id(demo.replaced(design=""), begun).design
    one.close()
    other.close()

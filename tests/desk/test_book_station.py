"""The book at work: what is finished stands on the shelf, what came out otherwise is seen, prices kept."""

from __future__ import annotations

import json
from datetime import date
from decimal import Decimal
from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtCore import QDate, QPointF, QSettings, Qt
from PyQt6.QtWidgets import QFileDialog, QLineEdit, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.bench import Making
from bambola.core.book.costing import cost_of
from bambola.core.figure import Brief, Document
from bambola.desk.kit.lessons_box import LessonsBox
from bambola.desk.kit.theme import Theme
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.stations import BOOK, ORDER
from bambola.desk.shell.window import Window
from bambola.desk.stations.book.fair_dialog import FairDialog
from bambola.desk.stations.book.made_view import CAME, PLANNED
from bambola.desk.stations.order.ready_by import ReadyDialog
from bambola.store import Journal
from bambola.store.bench_book import BenchBook
from bambola.store.photographs import MOST_PX
from tests.figures import one_ball


def ball_on_the_table(window: Window) -> None:
    window.studio.open_document(Document(figure=one_ball(40.0), brief=Brief(height=90.0)), None)


def typed(qtbot: QtBot, field: QLineEdit, text: str) -> None:
    field.setFocus()
    field.selectAll()
    qtbot.keyClick(field, Qt.Key.Key_Delete)
    qtbot.keyClicks(field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def opened(qtbot: QtBot, window: Window, name: str) -> None:
    book = window.book_station
    qtbot.waitUntil(
        lambda: book.view.page is not None and book.view.page.name == name, timeout=20_000
    )


def test_figure_is_finished_and_second_begun(window: Window, qtbot: QtBot) -> None:
    """By keys: every step done, then the page of the making; another of the same design has pages, hours and
    wool of its own, and either is gone on with at the pad."""
    ball_on_the_table(window)
    plan, desk = window.studio.plan, window.bench_desk
    assert plan is not None
    pad, seconds = window.order_station.make, [0.0]
    pad.clock = lambda: seconds[0]
    window.make_it()
    first = desk.in_hand
    assert desk.weigh("body/core/1/0", plan.parts[0].portions[0].wool, 3.0)
    for step in plan.steps:
        seconds[0] += 60 * max(2.0, step.minutes)
        qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert window.station == BOOK
    opened(qtbot, window, first)
    book = window.book_station
    assert book.boards.in_hand == first and book.sheet.isVisible()
    made = desk.book.making(first)
    assert made.finished and made.spent == pytest.approx(
        sum(max(2.0, step.minutes) for step in plan.steps)
    )
    assert made.planned.keys() == made.minutes.keys()
    # What it teaches is laid before its maker, and counts once she takes it: here from the book, later.
    (laid,) = window.findChildren(LessonsBox)
    assert "is planned" in laid.changes.text() and not desk.estimates
    qtbot.keyClick(laid, Qt.Key.Key_Escape)
    assert not desk.estimates and not book.sheet.learned.isVisible()
    qtbot.mouseClick(book.sheet.lessons, Qt.MouseButton.LeftButton)
    (laid,) = book.sheet.findChildren(LessonsBox)
    qtbot.keyClick(laid, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: not book.sheet.lessons.isVisible())
    assert book.sheet.learned.isVisible() and desk.book.making(first).taught
    hours = {e.what: e for e in desk.estimates if e.what.startswith("pace:")}
    assert hours and desk.studio.bench.pace.sorts.keys() == {w.partition(":")[2] for w in hours}
    assert book.slip.hours.text().count("at the clock") >= len(hours)
    qtbot.keyClick(book.sheet.learned, Qt.Key.Key_Space)
    assert desk.book.making(first).aside and not desk.studio.bench.pace.sorts
    qtbot.keyClick(book.sheet.learned, Qt.Key.Key_Space)
    made = desk.book.making(first)
    qtbot.mouseClick(book.sheet.another_one, Qt.MouseButton.LeftButton)
    assert window.station == ORDER and window.order_station.is_making
    second = desk.in_hand
    assert second == f"{first}#2" and not desk.weighed and pad.which.isVisible()
    seconds[0] += 60
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert desk.book.making(first) == made  # of the first nothing is another
    assert desk.book.making(second).behind == (plan.steps[0].key,)
    pad.which.activated.emit(0)
    assert desk.in_hand == first and desk.weighed and pad.current_index == len(plan.steps) - 1
    pad.which.activated.emit(1)
    assert pad.current_index == 1
    window.go_to(BOOK)
    assert set(book.boards.rows.keys) == {"", first, second}


@pytest.fixture
def made(window: Window, qtbot: QtBot) -> str:
    """A badger in the book, 6 mm too low, and its page open; its id."""
    studio, desk = window.studio, window.bench_desk
    studio.set_height(220.0)
    assert studio.figure is not None
    begun = Document(figure=studio.figure, brief=studio.brief).model_dump_json()
    name = desk.in_hand
    making = Making(
        figure="Lamplighter badger", height_mm=220.0, begun=begun, finished="2026-11-21",
        minutes={"core:body:1": 600.0}, next_time="a smaller head",
    )  # fmt: skip
    assert desk.put_makings({name: making, "toad": Making(figure="Toad", finished="2025-02-03")})
    window.go_to(BOOK)
    book = window.book_station
    qtbot.keyClick(book.boards, Qt.Key.Key_Right)
    opened(qtbot, window, name)
    return name


def test_differences_are_shown_on_their_parts(window: Window, made: str, qtbot: QtBot) -> None:
    book, desk = window.book_station, window.bench_desk
    view, sheet = book.view, book.sheet
    typed(qtbot, sheet.reached, "214")
    qtbot.waitUntil(lambda: {PLANNED, CAME} <= view._prints.keys(), timeout=20_000)
    qtbot.waitUntil(lambda: view._placements[CAME].height == pytest.approx(214.0, abs=0.1))
    planned, came = view._picture_boxes()[PLANNED], view._picture_boxes()[CAME]
    assert came.height() / planned.height() == pytest.approx(214 / 220, rel=0.02)
    assert planned.right() < came.left()  # beside each other, by the mouse as well
    seen = view._prints[CAME].picture
    spot = view._visible_spot(view._prints[CAME], "cape", came)
    assert seen.parts and came.contains(spot)
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPointF(spot).toPoint())
    assert view.part == sheet.part == "cape"
    while view.part != "head":
        qtbot.keyClick(view, Qt.Key.Key_Right)
    typed(qtbot, sheet.fields["width"], "95")
    typed(qtbot, sheet.fields[""], "31 g")
    qtbot.waitUntil(lambda: len(view.page.off if view.page else ()) == 2, timeout=20_000)
    assert "width 95 for 83 mm" in view.accessibleDescription()
    kept = desk.book.making(made)
    assert kept.reached_mm == 214.0 and kept.sizes == {"head": {"width": 95.0}}
    assert kept.weights == {"head": 31.0}
    assert not sheet.join.isHidden()
    sheet.join.setFocus()
    qtbot.keyClicks(sheet.join, "came")
    sheet.join.activated.emit(sheet.join.currentIndex())
    (join,) = desk.book.making(made).held.items()
    assert join[0].startswith("head:") and join[1] is False
    typed(qtbot, sheet.reached, "tall")
    assert "tall" in sheet.fault.text() and desk.book.making(made).reached_mm == 214.0
    typed(qtbot, sheet.fields["width"], "")
    assert desk.book.making(made).sizes == {}


def test_prices_are_typed_beside_what_they_are_of(window: Window, made: str, qtbot: QtBot) -> None:
    book, desk = window.book_station, window.bench_desk
    slip = book.slip
    assert slip.told["rate"].text() == "–" and slip.unpriced.isVisible()
    for name, text in (
        ("rate", "18"),
        ("eyes:8", "0,35"),
        ("fees", "12.5 %"),
        ("wool:woad", "3.60"),
    ):
        typed(qtbot, slip.fields[name], text)
    steel = next(name for name in slip.fields if name.startswith("wire:"))
    typed(qtbot, slip.fields[steel], "4.2")
    typed(qtbot, slip.fields["price"], "300")
    qtbot.waitUntil(lambda: "hourly" in slip.told and slip.told["hourly"].isVisible())
    assert slip.told["rate"].text() == "180.00 €"  # ten hours were spent, whatever was planned
    assert book.view.page and book.view.page.plan
    cost = cost_of(book.view.page.plan, desk.base, 600.0)
    assert slip.told["total"].text() == desk.base.money_text(cost.total)
    assert slip.told["margin"].text() == desk.base.money_text(cost.sold_at(Decimal(300)).margin)
    qtbot.keyClick(slip.sold, Qt.Key.Key_Space)
    assert desk.set_eyes(8.0, 5)
    whole = desk.base
    typed(qtbot, slip.amounts["eyes:8"], "3")  # one rolled away
    typed(qtbot, slip.amounts[steel], "1200 mm")
    assert desk.book.making(made).used == {"eyes:8": 3.0, steel: 1200.0}
    qtbot.waitUntil(lambda: slip.told["eyes:8"].text() == "1.05 €", timeout=10_000)
    typed(qtbot, slip.amounts["eyes:8"], "some")
    assert "some" in slip.fault.text() and desk.book.making(made).used["eyes:8"] == 3.0
    typed(qtbot, slip.amounts["wool:woad"], "12.5 g")
    qtbot.waitUntil(lambda: slip.told["wool:woad"].text() == "1.80 €", timeout=10_000)
    qtbot.keyClick(slip.booked, Qt.Key.Key_Space)
    booked = desk.book.making(made).booked
    assert desk.base.eyes_of(8.0) == 2 and booked["eyes:8"] == 3.0 and booked[steel] > 0
    qtbot.waitUntil(slip.booked.isChecked, timeout=10_000)
    qtbot.keyClick(slip.booked, Qt.Key.Key_Space)
    assert desk.base == whole
    assert desk.base.eyes_of(8.0) == 5 and not desk.book.making(made).booked
    kept = desk.book.making(made)
    assert kept.price == Decimal(300) and kept.sold
    typed(qtbot, slip.fields["rate"], "a lot")
    assert "a lot" in slip.fault.text() and desk.base.money.rate == Decimal(18)
    typed(qtbot, slip.fields["fees"], "100")
    assert "100" in slip.fault.text() and desk.base.money.fees == Decimal("12.5")
    qtbot.keyClick(book.boards, Qt.Key.Key_Home)
    qtbot.keyClick(book.boards, Qt.Key.Key_Left)
    assert book.boards.in_hand == "" and not book.sheet.isVisible()
    assert window.studio.plan is not None  # the figure on the table: by what is planned
    assert slip.told["total"].text() == desk.base.money_text(
        cost_of(window.studio.plan, desk.base).total
    )


def test_shelf_is_searched_written_out_brought_in_and_struck_from(
    window: Window,
    made: str,
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    book, desk = window.book_station, window.bench_desk
    assert book.sheet.another_one.isVisible()
    book.select_making("toad")
    opened(qtbot, window, "toad")  # which does not lie on the table
    qtbot.mouseClick(book.view, Qt.MouseButton.LeftButton)  # nothing is to be seen of it
    assert not book.sheet.another_one.isVisible()
    book.select_making(made)
    opened(qtbot, window, made)
    for words, found in (("toad 2025", ("toad",)), ("smaller head", (made,)), ("heron", ())):
        book.search.setText(words)
        assert book.boards.rows.keys == found
        book.boards.grab()
    book.search.clear()
    path, table = tmp_path / "book.json", tmp_path / "book.csv"
    book.export_to(path)
    book.export_to(table)
    assert json.loads(path.read_text(encoding="utf-8"))["makings"].keys() == {made, "toad"}
    assert len(table.read_text(encoding="utf-8").splitlines()) == 3
    paper = tmp_path / "page.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(paper), ""))
    with qtbot.waitSignal(book.reader.written, timeout=30_000):
        book.ask_page()
    assert paper.read_bytes().startswith(b"%PDF")
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Yes)
    book.select_making(made)
    book.strike_out()
    assert set(desk.makings) == {"toad"} and book.boards.in_hand == ""
    refused: list[str] = []
    window.studio.refused.connect(refused.append)
    book.strike_out()
    book.ask_page()
    book.import_from(table)
    book.export_to(tmp_path / "nowhere" / "book.json")
    assert len(refused) == 4 and set(desk.makings) == {"toad"}
    book.import_from(path)
    assert set(desk.makings) == {made, "toad"}


def test_missing_design_is_told_and_thousand_makings_shown(window: Window, qtbot: QtBot) -> None:
    makings = {
        f"toad#{n}": Making(figure=f"Toad {n}", finished=f"2024-{1 + n % 12:02d}-01", begun="{}")
        for n in range(2, 1002)
    }
    assert window.bench_desk.put_makings(makings)
    window.go_to(BOOK)
    book = window.book_station
    assert book.boards.rows.rowCount() == 1001
    seen = sum(book.boards.box(n).top() < book.height() for n in range(1001))
    book.boards.grab()
    assert len(book.boards._asked) <= 1001 and seen < 40
    book.select_making("toad#7")
    opened(qtbot, window, "toad#7")
    assert "not kept" in book.view.accessibleDescription() and not book.slip.isVisible()


def test_order_tells_last_day_to_begin(window: Window, qtbot: QtBot) -> None:
    window.studio.set_height(220.0)
    window.go_to(ORDER)
    button, desk = window.order_station.ready, window.bench_desk
    button.today = lambda: date(2026, 3, 2)
    dialog = ReadyDialog(window, window.theme, desk, date(2026, 3, 2))
    dialog.day.setDate(QDate(2026, 6, 1))
    assert "Begin by" in dialog.told.text() and "Order what is missing" in dialog.told.text()
    dialog.day.setDate(QDate(2026, 3, 9))
    assert "Too late" in dialog.told.text() and "left out" in dialog.told.text()
    due = dialog.chosen_date
    assert due == date(2026, 3, 9)
    assert desk.change_making(desk.in_hand, due=due.isoformat())
    button.refresh()
    assert button.text() == "Too late for Mon 9 Mar"
    dialog.wanted.setChecked(False)
    assert dialog.chosen_date is None and dialog.told.text() == "" and not dialog.day.isEnabled()
    desk.change_making(desk.in_hand, due="2026-06-01")
    assert button.text() == "Ready by Mon 1 Jun"
    desk.set_free(())
    button.refresh()
    assert (
        button.text() == "Ready by Mon 1 Jun"
    )  # that there are no free times is told at the thread
    dialog.wanted.setChecked(True)
    assert "free times" in dialog.told.text()
    dialog.reject()


def test_fair_is_planned_from_book(window: Window, made: str, qtbot: QtBot, tmp_path: Path) -> None:
    book, desk = window.book_station, window.bench_desk
    assert desk.change_making(made, price=Decimal(300))
    window.studio.set_height(160.0)
    offered = book.offered()
    assert set(offered) == {"", made} and offered[made].price == Decimal(300)
    dialog = FairDialog(book, window.studio, window.theme, offered)
    for row in dialog.rows.values():
        row.taken.setChecked(False)
    dialog.work_out()
    assert "price" in dialog.told.text()
    own = dialog.rows[""]
    qtbot.keyClicks(own.price, "dear")
    dialog.work_out()
    assert own.taken.isChecked() and "dear" in dialog.told.text()
    own.price.setText("150")
    dialog.rows[made].taken.setChecked(True)
    dialog.day.setDate(dialog.day.date().addDays(20))
    dialog.work_out()
    qtbot.waitUntil(lambda: dialog.fair is not None, timeout=30_000)
    assert dialog.fair is not None and "No other choice" in dialog.told.text()
    told = [row.count.text() for row in dialog.rows.values()]
    assert sorted(told) == sorted(f"× {n}" for n in dialog.fair.counts) and sum(dialog.fair.counts)
    path = tmp_path / "fair.ics"
    dialog.write_calendar(path)
    assert path.read_text().count("BEGIN:VEVENT") == len(dialog.fair.calendar.sittings)  # type: ignore[union-attr]
    dialog.write_calendar(tmp_path / "nowhere" / "fair.ics")
    assert "nowhere" in dialog.told.text()
    kits = tmp_path / "kits.pdf"
    dialog.write_kits(kits)
    qtbot.waitUntil(lambda: dialog.kits.isEnabled(), timeout=60_000)
    assert kits.read_bytes().startswith(b"%PDF")
    dialog.day.setDate(dialog.day.minimumDate())
    dialog.work_out()
    qtbot.waitUntil(lambda: "free time" in dialog.told.text(), timeout=30_000)
    dialog.work_out()
    dialog.reject()  # while it is looked for


def test_what_was_noted_before_is_told_again_at_its_step(window: Window, qtbot: QtBot) -> None:
    ball_on_the_table(window)
    plan, desk = window.studio.plan, window.bench_desk
    assert plan is not None
    one, two = (str(step.key) for step in plan.steps[:2])
    before = Making(
        notes={two: "with the fine needle"}, checks={one: {"1": "failed"}}, finished="2026-01-02",
        mended={two: ("felted on",)}, next_time="a firmer core",
    )  # fmt: skip
    desk.put_makings({window.studio.design: before})
    window.open_demo()
    ball_on_the_table(window)  # opened again, it says so at once
    assert "a firmer core" in window.message.text
    desk.make_another()
    window.make_it()
    pad = window.order_station.make
    assert pad.last_time.isVisible()
    assert "a firmer core" in pad.last_time.text() and "check failed" in pad.last_time.text()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert "with the fine needle" in pad.last_time.text() and "felted on" in pad.last_time.text()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert not pad.last_time.isVisible()


def test_photographs_are_copied_beside_book_smaller(tmp_path: Path, qtbot: QtBot) -> None:
    studio = EditorSession()
    book = BenchBook(tmp_path / "bench.sqlite", studio.bench)
    name = "toad"
    book.put_makings({name: Making(figure="Toad", finished="2026-01-02")})
    settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    window = Window(studio, Theme(), settings, Journal(tmp_path / "journal"), book)
    qtbot.addWidget(window)
    window.resize(1280, 800)
    window.open_demo()
    window.show()
    window.open_page(name)
    opened(qtbot, window, name)
    strip = window.book_station.sheet.photos
    large, note = tmp_path / "large.png", tmp_path / "note.png"
    Image.new("RGB", (3200, 1600), "#7c8a55").save(large)
    note.write_text("no picture")
    strip.add_picture(large)
    qtbot.waitUntil(lambda: len(book.making(name).photographs) == 1, timeout=30_000)
    qtbot.waitUntil(lambda: strip.list.count() == 1, timeout=10_000)
    (kept,) = book.making(name).photographs
    path = strip.photographs.path(kept)
    assert path is not None and max(Image.open(path).size) <= MOST_PX
    refused: list[str] = []
    studio.refused.connect(refused.append)
    strip.add_picture(note)
    qtbot.waitUntil(lambda: refused != [], timeout=30_000)
    assert "note.png" in refused[0] and book.making(name).photographs == (kept,)
    path.unlink()
    assert strip.photographs.path(kept) is None and strip.photographs.path("../s.ini") is None
    strip.list.clear()
    strip.show_names((kept,))
    (gone,) = (strip.list.item(n) for n in range(strip.list.count()))
    assert gone is not None and gone.text() == "photograph 1: gone"
    strip.list.setCurrentRow(0)
    qtbot.keyClick(strip, Qt.Key.Key_Delete)
    assert book.making(name).photographs == ()
    window.studio.undo_stack.setClean()
    window.close()


def test_tab_goes_through_book_in_order_it_is_read(window: Window, made: str, qtbot: QtBot) -> None:
    book = window.book_station
    sheet, slip = book.sheet, book.slip
    sheet.show_part("head")
    wanted = [
        book.boards, book.view, sheet.another_one, sheet.photos.add, sheet.reached, sheet.next_time,
        *sheet.fields.values(), sheet.join,
        *(f for name in slip.fields for f in (slip.amounts.get(name), slip.fields[name]) if f), slip.sold,
    ]  # fmt: skip
    window.activateWindow()
    book.boards.setFocus()
    met: list[QWidget | None] = [window.focusWidget()]
    for _ in wanted[1:]:
        window.focusNextChild()
        met.append(window.focusWidget())
    assert met == wanted
    assert all(widget.accessibleName() or hasattr(widget, "text") for widget in wanted)

"""What the wool station shows and takes: shelf, cards, pan and screen, looked at one by one."""

from __future__ import annotations

import os
import pty
import tty
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QSettings, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog, QLineEdit, QMenu
from pytestqt.qtbot import QtBot

from bambola.core.bench import Record
from bambola.core.bench.shelved import with_shelved
from bambola.core.quantities import Units
from bambola.demo import sample_shelf
from bambola.desk.kit.card_rows import how_sure
from bambola.desk.kit.true_size import ScreenDialog
from bambola.desk.session.settings import Settings
from bambola.desk.shell.stations import WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import PAN, SHELF, TABLE
from bambola.desk.stations.wool.hand import in_few_signs
from bambola.desk.stations.wool.station import WoolStation
from bambola.desk.stations.wool.whole_shelf import LEFT as THERE
from bambola.desk.stations.wool.whole_shelf import LOT, PRICE, SHOP, WholeShelf
from bambola.devices.protocol import weight_line

LEFT = Qt.MouseButton.LeftButton
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def station(window: Window) -> WoolStation:
    window.go_to(WOOL)
    return window.wool_station


@pytest.fixture
def stocked(station: WoolStation, window: Window) -> WoolStation:
    station.show_face(SHELF)
    window.bench_desk.put_bench(sample_shelf(window.bench_desk.base))
    return station


@pytest.fixture
def line() -> Iterator[tuple[int, str]]:
    """A serial line with nobody at its other end: where to write, and where it is."""
    master, slave = pty.openpty()
    tty.setraw(slave)
    yield master, os.ttyname(slave)
    for end in (master, slave):
        os.close(end)


def test_shelf_shows_what_is_needed_first_and_tells_each_heap(
    stocked: WoolStation, qtbot: QtBot
) -> None:
    boards = stocked.shelf.boards
    needed = set(boards.totals)
    ids = [w.id for w in boards.wools]
    assert set(ids[: len(needed)]) == needed and len(ids) == len(set(ids))
    told = {w.id: boards._heap_text(w) for w in boards.wools}
    assert told["woad"][1] and told["woad"][0].startswith("short of")
    assert told["scraps"] == ("18 g go into cores", False)
    assert told["lichen"] == ("not used here", False)
    boxes = [boards.box(i) for i in range(len(ids))]
    assert not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[:i])
    boards.setFocus()
    qtbot.keyClick(boards, Qt.Key.Key_Down)
    assert boards.current_row == boards._column_count()
    qtbot.keyClick(boards, Qt.Key.Key_Up)
    qtbot.keyClick(boards, Qt.Key.Key_Left)
    assert boards.current_row == 0 and boards.wool is not None
    assert boards.wool.name in boards.accessibleDescription()


def test_scraps_that_do_not_felt_are_of_no_use(
    stocked: WoolStation, window: Window, qtbot: QtBot
) -> None:
    before = {t.wool: t.scraps_g for t in window.studio.plan.wools}  # type: ignore[union-attr]
    assert sum(before.values()) == pytest.approx(18.0)
    window.studio.selection.select_wool("scraps")
    card = stocked.wool_card
    assert card.scraps.isChecked() and card.felts.isChecked()
    card.felts.click()
    after = {t.wool: t.scraps_g for t in window.studio.plan.wools}  # type: ignore[union-attr]
    assert sum(after.values()) == 0.0
    assert (
        stocked.shelf.boards._heap_text(window.studio.bench.wool_by_id["scraps"])[0]
        == "not used here"
    )
    card.form.setCurrentIndex(0)
    card.form.activated.emit(0)
    assert window.bench_desk.base.wool_by_id["scraps"].form == "batt"


def test_what_would_do_instead_and_price_are_on_slip(stocked: WoolStation, window: Window) -> None:
    slip, desk = stocked.slip, window.bench_desk
    assert slip._list.text().splitlines() == [
        "1 × 25 g Woad teal, 3.60 €", "2 × Eyes, 8 mm", "at least 3.60 €",
    ]  # fmt: skip
    assert desk.set_eyes(8.0, 2)
    assert slip._list.text().splitlines() == ["1 × 25 g Woad teal, 3.60 €", "together 3.60 €"]
    assert slip._instead.text() == "Sea teal on the shelf would do for woad teal."
    window.bench_desk.put_wool(window.bench_desk.base.wool_by_id["woad"].replaced(price=None))
    assert "€" not in slip._list.text()
    window.bench_desk.put_wool(window.bench_desk.base.wool_by_id["woad"].replaced(grams=90.0))
    assert (
        slip._list.text() == "Nothing: you have everything on the shelf."
        and not slip._instead.isVisible()
    )


def test_weighed_wool_goes_off_shelf_and_back(stocked: WoolStation, window: Window) -> None:
    hand, slip = stocked.hand, stocked.slip
    first = next(w for w in hand.portions if w.portion.wool == "madder")
    hand.select_portion(first.key)
    assert stocked.weigher.enter(2.5)
    assert "2.5 g weighed out" in slip._weighed.text() and slip.book.isVisible()
    QTest.mouseClick(slip.book, LEFT)
    assert window.bench_desk.base.wool_by_id["madder"].grams == pytest.approx(23.5)
    assert "booked off" in slip._weighed.text() and not slip.book.isVisible()
    QTest.mouseClick(slip.back, LEFT)
    assert window.bench_desk.base.wool_by_id["madder"].grams == pytest.approx(26.0)
    QTest.mouseClick(slip.book, LEFT)
    hand.select_portion(first.key)
    stocked.show_face(PAN)
    assert stocked.weigher.strike_last()
    assert window.bench_desk.base.wool_by_id["madder"].grams == pytest.approx(26.0)
    assert not stocked.weigher.strike_last() or hand.done == {}


def test_record_that_looks_like_slip_is_marked(stocked: WoolStation, window: Window) -> None:
    desk = window.bench_desk
    for n, density in enumerate((0.11, 0.105, 0.115, 0.108, 1.1)):
        desk.add_record(
            Record(day=f"2026-03-0{n + 1}", figure="Toad", part=f"P{n}", wool="core-batt",
                   grams_in=density * 20, volume_cm3=20.0)
        )  # fmt: skip
    window.studio.selection.select_wool("core-batt")
    texts = [row.text() for row in stocked.wool_card.rows]
    assert sum("looks like a slip" in t for t in texts) == 1 and "looks like a slip" in texts[0]
    assert (
        "packed (medium)" in stocked.wool_card._known.text()
        and "from 5 pieces" in stocked.wool_card._known.text()
    )
    value = window.studio.bench.wool_by_id["core-batt"].density("medium")
    assert value == pytest.approx(0.11, rel=0.05)
    plan = window.studio.plan
    assert plan is not None
    assert how_sure(plan.part("body").portions[0]).startswith("5 of your own pieces, ±")
    assert desk.drop_record(desk.records[-1])
    assert not any("slip" in row.text() for row in stocked.wool_card.rows)


def test_screen_is_measured_by_keys_and_with_ruler(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    dialog = ScreenDialog(station, window.theme, window.true_size)
    held = dialog.held
    before = held.scale
    qtbot.keyClick(held, Qt.Key.Key_Right)
    wider = held.scale
    qtbot.keyClick(held, Qt.Key.Key_Left, SHIFT)
    assert before < held.scale < wider
    QTest.mouseClick(dialog.with_ruler, LEFT)
    assert not held.card and not dialog.with_card.isChecked()
    held.pull_to(20 + 4.2 * 100.0)
    dialog.reject()
    assert not window.true_size.is_measured(station)
    dialog.accept()
    assert window.true_size.px_per_mm(station) == pytest.approx(4.2)
    held.pull_to(-500)
    assert held.scale == 1.0
    held.pull_to(10**6)
    assert held.scale == 40.0


def test_spoilt_screen_size_is_not_believed(tmp_path: Path) -> None:
    store = QSettings(str(tmp_path / "screens.ini"), QSettings.Format.IniFormat)
    for wrong in ("many", 0.0, 900.0):
        store.setValue("screens/left", wrong)
        assert Settings(store).screen_px_per_mm("left") is None
    settings = Settings(store)
    settings.set_screen_px_per_mm("left", 5.5)
    assert settings.screen_px_per_mm("left") == 5.5
    settings.sync()
    assert Settings(store).screen_px_per_mm("left") == 5.5


def test_pan_follows_real_line_and_tells_another_device(
    station: WoolStation, window: Window, qtbot: QtBot, line: tuple[int, str]
) -> None:
    station.show_face(PAN)
    master, where = line
    assert station.scale.link.open(where)
    os.write(master, b"HELLO scale 1\nRANGE 0.01 200 g " + b"00\n")
    os.write(master, weight_line(2.31, "moving").encode())
    qtbot.waitUntil(lambda: station.weigher.state.grams == pytest.approx(2.31), timeout=10_000)
    assert station.weigher.step_g == window.studio.bench.scale_g  # the spoilt range was not taken
    station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "leg"))
    os.write(master, weight_line(2.3, "moving").encode())
    qtbot.waitUntil(lambda: station.weigher.words == "A little more.", timeout=10_000)
    os.write(master, weight_line(9999.0, "over").encode())
    qtbot.waitUntil(lambda: station.weigher.state.standing == "over", timeout=10_000)
    assert not station.hand.done
    os.write(master, b"HELLO caliper 1\n")
    qtbot.waitUntil(lambda: not station.scale.link.is_open, timeout=10_000)
    assert "Bambola needs a scale with protocol 1" in window.message.text
    assert station.weigher.words.startswith("Connect a scale")


def test_scale_menu_offers_ports_and_refuses_what_is_none(
    station: WoolStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    menu = QMenu()
    station.scale._fill_menu(menu)
    words = [action.text() for action in menu.actions()]
    assert (
        "The simulated scale" in words and "Another port…" in words and "Put it away" not in words
    )
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("/no/such/port", True))
    menu.actions()[words.index("Another port…")].trigger()
    assert "cannot be opened" in window.message.text and not station.scale.link.is_open


def test_portion_in_queue_is_taken_by_mouse(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    station.show_face(PAN)
    pan = station.pan
    queue = pan.queue_box()
    beads = pan.queue.cells(queue)
    i, cell = beads[-1]
    qtbot.mouseClick(pan, LEFT, pos=QPoint(round(cell.center().x()), round(cell.center().y())))
    assert (
        station.hand.current_index == i
        and window.studio.selection.part == station.hand.portions[i].part
    )
    assert any(n == i for n, _ in pan.queue.cells(queue))


@pytest.mark.parametrize(("high", "scale"), [(800, 1.0), (700, 1.5), (700, 2.0)])
def test_scale_reading_fits_at_any_text_size(
    station: WoolStation, window: Window, high: int, scale: float
) -> None:
    window.theme.set(scale=scale)
    window.resize(1024, high)
    station.show_face(PAN)
    window.grab()
    pan = station.pan
    queue, box = pan.queue_box(), pan.scale_box()
    _, radius, number, words = pan.places(box)
    assert box.contains(number) and box.contains(words) and not number.intersects(words)
    assert not box.intersects(queue)
    # The queue gives way first, and then the dial.
    assert (queue.height() > 0) == (scale == 1) and (radius > 0) == (scale < 2)


def test_tiny_amount_is_pinch(station: WoolStation, window: Window) -> None:
    station.show_face(TABLE)
    inner = next(w for w in station.hand.portions if (w.part, w.portion.role) == ("ear", "inset"))
    assert inner.portion.tear is not None and inner.portion.tear.parts > 24
    station.hand.select_portion(inner.key)
    told = station.card._take.text()
    assert "a pinch of cream that rolls to a ball of" in told and "tear" not in told
    signs = in_few_signs(inner.portion, inner.least_g, window.studio.units)
    assert signs.endswith("mm pinch")
    station.weigher.enter(1.0)
    assert "pull off a pinch that rolls to a ball of" in station.weigher.said


def test_cards_speak_makers_units(station: WoolStation, window: Window) -> None:
    station.show_face(TABLE)
    station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "body"))
    window.studio.set_units(Units("in", "oz", 16))
    card = station.card
    assert " oz " in card._take.text() and " in;" in card._roll.text()
    assert "oz stays in the figure" in card._why.text() and not card._why.isVisible()
    QTest.mouseClick(card.ask_why, LEFT)
    assert card._why.isVisible()
    QTest.keyClick(card.ask_why, Qt.Key.Key_Space)
    assert not card._why.isVisible()
    window.studio.set_units(Units())
    ear = next(w.key for w in station.hand.portions if w.part == "ear")
    station.hand.select_portion(ear)
    assert card._roll.text().startswith("Lay a sheet") and "split it down" in card._twin.text()
    coat = next(
        w.key for w in station.hand.portions if (w.part, w.portion.role) == ("cape", "coat")
    )
    station.hand.select_portion(coat)
    assert (
        "thin veils" in card._roll.text() and not card.ask_mend.isVisible() and card.log.isVisible()
    )


def test_blend_says_how_to_mix_it(stocked: WoolStation, window: Window) -> None:
    stocked.show_face(TABLE)
    desk = window.bench_desk
    desk.put_wool(desk.base.wool_by_id["badger-grey"].replaced(grams=0.0))
    stocked.hand.select_portion(
        next(w.key for w in stocked.hand.portions if w.portion.wool == "badger-grey")
    )
    text = stocked.card._mix.text()
    assert stocked.card._mix.isVisible() and "2 of charcoal" in text and "3 of cream" in text
    assert "pull apart" in text
    plan = window.studio.plan
    assert plan is not None and plan.mixes[0].wool == "badger-grey"
    assert not any(t.wool == "badger-grey" and t.buy_g > 0 for t in plan.wools)


def test_whole_shelf_is_typed_and_shopping_follows_shop_by_shop(
    stocked: WoolStation, window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Wool, eyes, wire, cloth, needles and glue in one table, by keys; what is short is told under its shop
    with its lot, and a needle of which none is left."""
    told: list[str] = []
    window.studio.refused.connect(told.append)

    def type_in(dialog: WholeShelf) -> int:
        dialog.show()
        model, table = dialog.model, dialog.table

        def typed(key: str, column: int, text: str) -> bool:
            row = next(i for i, one in enumerate(model.rows) if one.key == key)
            index = model.index(row, column)
            table.setCurrentIndex(index)
            table.edit(index)
            editor = table.findChildren(QLineEdit)[-1]
            editor.setText(text)
            qtbot.keyClick(editor, Qt.Key.Key_Return)
            qtbot.wait(10)
            return model.data(model.index(row, column), Qt.ItemDataRole.EditRole) != ""

        sorts = {one.key.partition(":")[0] for one in model.rows}
        assert sorts == {"wool", "eyes", "wire", "stuff", "needle", "glue"}
        assert typed("wool:woad", SHOP, "the mill") and typed("wool:woad", LOT, "17")
        assert typed("eyes:8", SHOP, "Bead stall") and typed("eyes:8", PRICE, "0,35")
        assert typed("glue:white", THERE, "0 g") and typed("needle:38", PRICE, "1.20")
        typed("needle:38", THERE, "two")
        typed("wool:woad", PRICE, "-3")
        typed("eyes:8", SHOP, "x" * 81)
        return 1

    monkeypatch.setattr(WholeShelf, "exec", type_in)
    qtbot.mouseClick(stocked.whole, Qt.MouseButton.LeftButton)
    assert ["two" in told[0], "-3" in told[1], "80 letters" in told[2]] == [True] * 3
    lines = stocked.slip._list.text().splitlines()
    assert lines[:3] == ["From Bead stall:", "2 × Eyes, 8 mm, 0.70 €", "From the mill:"]
    assert lines[3] == "1 × 25 g Woad teal, from lot 17 if you can get it, 3.60 €"
    assert lines[4:6] == ["From any shop:", "White glue, 20 g"]
    desk = window.bench_desk
    assert desk.put_bench(with_shelved(desk.base, "needle:38", left=0))
    assert "Needles 38" in stocked.slip._list.text()
    # What is gone of a heap since it was counted was used for this figure.
    window.studio.selection.select_wool("woad")
    heap = desk.base.wool_by_id["woad"].grams
    assert heap is not None
    monkeypatch.setattr(QInputDialog, "getText", lambda *_: (f"{heap - 2.5:g} g", True))
    qtbot.mouseClick(stocked.wool_card.heap, Qt.MouseButton.LeftButton)
    assert desk.making.used == {"wool:woad": pytest.approx(2.5)}
    assert desk.base.wool_by_id["woad"].grams == pytest.approx(heap - 2.5)

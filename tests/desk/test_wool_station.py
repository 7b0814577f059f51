"""The wool station at work: the table, the pan with a scale that is there, splitting, the shelf."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QEventLoop, QPoint, QRectF, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog, QInputDialog
from pytestqt.qtbot import QtBot

from bambola.core.wool.learning import with_learned_numbers
from bambola.core.wool.splitting import SplitPlan
from bambola.demo import BADGER, HERON, TOAD, sample_shelf
from bambola.desk.kit.swatch import SwatchDialog
from bambola.desk.kit.true_size import CARD_MM, ScreenDialog
from bambola.desk.shell.stations import RESIZE, WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import PAN, SHELF, SPLITTING, TABLE
from bambola.desk.stations.wool.station import WoolStation
from tests.effort import THOROUGH

LEFT = Qt.MouseButton.LeftButton
PACE = 20
"""The simulated scale and the pan's clock run so many times as fast as on a kitchen table."""


@pytest.fixture
def station(window: Window) -> Iterator[WoolStation]:
    window.go_to(WOOL)
    made = window.wool_station
    made.weigher.clock = lambda: time.monotonic() * PACE
    yield made
    made.scale.close_link()


class Scale:
    """The simulated scale as a maker's hands use it."""

    def __init__(self, station: WoolStation, qtbot: QtBot) -> None:
        self.station, self.qtbot = station, qtbot
        self.plug_in()

    def plug_in(self) -> None:
        self.station.scale.start_simulated(plain=True, more=("--pace", str(PACE)))
        self.qtbot.waitUntil(lambda: self.station.scale.link.is_open, timeout=20_000)

    def say(self, words: str) -> None:
        process = self.station.scale.simulated
        assert process is not None
        process.write(f"{words}\n".encode())

    def weigh(self, grams: float) -> float:
        """Lay wool on until it is taken down, and lift it off; what was taken."""
        taken: list[float] = []
        self.station.weigher.taken.connect(taken.append)
        self.say(f"load {grams:.4f}")
        self.qtbot.waitUntil(lambda: bool(taken), timeout=20_000)
        self.station.weigher.taken.disconnect(taken.append)
        self.say("load 0")
        weigher = self.station.weigher
        self.qtbot.waitUntil(
            lambda: weigher.state.clear and weigher.state.grams == 0.0, timeout=20_000
        )
        return taken[0]


@pytest.mark.parametrize("demo", [TOAD, *([BADGER] if THOROUGH else ())])
def test_figure_is_weighed_out_with_unplugging_in_middle(
    station: WoolStation, window: Window, qtbot: QtBot, demo: Path
) -> None:
    window.open_demo(demo)
    window.bench_desk.put_bench(sample_shelf(window.bench_desk.base))
    station.show_face(PAN)
    scale, hand = Scale(station, qtbot), station.hand
    hand.select_portion(hand.portions[0].key)
    lay: dict[str, float] = {}
    half = len(hand.portions) // 2
    for i in range(len(hand.portions)):
        now, aim = hand.current, station.weigher.aim
        assert now is not None and aim is not None and now.key not in hand.done
        if i == half:
            # Pulled out with wool on the pan: what was taken is kept, nothing half weighed is.
            scale.say(f"load {aim.best:.4f}")
            scale.say("off")
            qtbot.waitUntil(lambda: not station.scale.link.is_open, timeout=20_000)
            assert "unplugged" in window.message.text or "silent" in window.message.text
            assert len(hand.done) == half and hand.current is now
            station.scale.close_link()
            scale.plug_in()
        laid = aim.best if aim.parts > 1 else (aim.least + aim.most) / 2
        taken = scale.weigh(laid)
        lay[now.key] = laid / aim.parts
        assert taken == pytest.approx(lay[now.key], abs=0.16 / aim.parts)
        assert hand.done[now.key].grams == taken
    assert set(hand.done) == {w.key for w in hand.portions}
    # The records hold what lay on the pan, and the shelf gives just that.
    assert window.studio.figure is not None
    kept = window.bench_desk.book.weighed(window.studio.figure.id)
    assert {w.portion: w.grams for w in kept} == {k: w.grams for k, w in hand.done.items()}
    before = {w.id: w.grams for w in window.bench_desk.base.wools}
    station.show_face(SHELF)
    QTest.mouseClick(station.slip.book, LEFT)
    after = {w.id: w.grams for w in window.bench_desk.base.wools}
    for wool in {w.wool for w in kept}:
        out = sum(w.grams for w in kept if w.wool == wool)
        assert after[wool] == pytest.approx(max(0.0, (before[wool] or 0.0) - out))
    pairs = [w for w in hand.portions if w.twin and w.portion.tear is None]
    for w in pairs:
        assert hand.done[w.key].grams == pytest.approx(
            hand.done[str(w.twin)].grams, rel=0.08, abs=0.1
        )


def test_pan_by_keys_alone(station: WoolStation, window: Window, qtbot: QtBot) -> None:
    station.show_face(PAN)
    scale, hand, pan = Scale(station, qtbot), station.hand, station.pan
    hand.select_portion(hand.portions[0].key)
    first = hand.current
    assert first is not None
    scale.say("load 12.0")
    qtbot.waitUntil(lambda: abs(station.weigher.state.grams - 12) < 0.15, timeout=20_000)
    assert station.weigher.state.standing == "more"
    qtbot.keyClick(pan, Qt.Key.Key_Space)  # less than planned, but the maker knows
    assert hand.done[first.key].grams == pytest.approx(12.0, abs=0.25)
    assert hand.current is not first and "recorded" in station.weigher.said
    qtbot.keyClick(pan, Qt.Key.Key_Backspace)
    assert first.key not in hand.done and hand.current == first
    qtbot.keyClick(pan, Qt.Key.Key_N)
    qtbot.waitUntil(lambda: abs(station.weigher.state.grams) < 0.3, timeout=20_000)
    qtbot.keyClick(pan, Qt.Key.Key_Right)
    assert hand.current == hand.portions[1]
    qtbot.keyClick(pan, Qt.Key.Key_Left)
    scale.say("load 900")
    qtbot.waitUntil(lambda: station.weigher.state.standing == "over", timeout=20_000)
    assert not station.weigher.take_now() and not hand.done
    assert "more than the scale can carry" in pan.accessibleDescription()


def test_without_scale_weight_is_typed(
    station: WoolStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    station.show_face(PAN)
    hand = station.hand
    hand.select_portion(hand.portions[0].key)
    said = iter([("lots", True), ("-3 g", True), ("1 oz", True)])
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: next(said))
    for _ in range(3):
        QTest.mouseClick(station.typed, LEFT)
    assert hand.done[hand.portions[0].key].grams == pytest.approx(28.35, abs=0.01)
    assert (len(hand.done) == 1 and "lots" in window.message.text) or window.message.isVisible()


def test_everything_lies_on_table_at_one_scale(station: WoolStation, window: Window) -> None:
    station.show_face(TABLE)
    cloth, plan = station.table.cloth, window.studio.plan
    assert plan is not None
    for place in cloth.laid:
        part = plan.part(place.setting.part)
        for thing, box in zip(place.setting.things, place.boxes, strict=True):
            assert box.width() == pytest.approx(thing.size[0] * cloth.scale)
            if thing.kind == "bundle" and thing.portion is not None:
                loose = part.portions[thing.portion].loose_mm
                assert max(thing.size) == pytest.approx(max(loose["along"], loose["across"]))
            assert place.box.adjusted(-1, -1, 1, 1).contains(box)
    boxes = [place.box for place in cloth.laid]
    assert len(boxes) == len(plan.parts)
    assert not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[:i])
    assert max(b.bottom() for b in boxes) <= cloth.height() + 1


def test_portions_come_to_hand_by_mouse_and_keys(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    cloth = station.table.cloth
    place = next(p for p in cloth.laid if p.setting.part == "cape")
    coat: QRectF = place.boxes[1]
    qtbot.mouseClick(
        cloth.cloth, LEFT, pos=QPoint(round(coat.center().x()), round(place.box.center().y()))
    )
    now = station.hand.current
    assert now is not None and (now.part, now.portion.role) == ("cape", "coat")
    assert window.studio.selection.part == "cape" and "Cape" in cloth.accessibleDescription()
    qtbot.keyClick(cloth, Qt.Key.Key_Right)
    assert station.hand.current is not None and station.hand.current.part == "collar"
    window.studio.selection.select_part("tail")
    assert station.hand.current is not None and station.hand.current.part == "tail"
    # Asked by a screen reader while another figure is on the table, and the wool is not looked at.
    window.go_to(RESIZE)
    window.open_demo(TOAD)
    told = [cloth.rows.data(cloth.rows.index(i)) for i in range(cloth.rows.rowCount())]
    assert told and not any(told)


def test_true_size_is_measured_against_card(station: WoolStation, window: Window) -> None:
    dialog = ScreenDialog(station, window.theme, window.true_size)
    dialog.held.pull_to(20 + CARD_MM[0] * 5.0)
    dialog.accept()
    assert window.true_size.px_per_mm(station) == pytest.approx(5.0)
    station.one_to_one.setChecked(True)
    assert station.table.cloth.scale == pytest.approx(5.0)
    plan = window.studio.plan
    assert plan is not None
    body = next(p for p in station.table.cloth.laid if p.setting.part == "body")
    loose = plan.part("body").portions[0].loose_mm
    assert body.boxes[0].width() == pytest.approx(5 * max(loose["along"], loose["across"]))
    assert window.wire_station.ruler.rulers._screen.is_measured(station)


def test_tree_is_drawn_for_every_colour_that_is_chosen(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    window.open_demo(HERON)
    window.go_to(WOOL)
    station.show_face(SPLITTING)
    splitter = station.splitter
    chosen = splitter.wools if THOROUGH else splitter.wools[-2:]
    for i, wool in enumerate(chosen):
        splitter.choose(wool)
        qtbot.waitUntil(lambda: splitter.is_settled, timeout=60_000)
        found = splitter.found
        assert isinstance(found, SplitPlan) and found.proved, i
        assert ("split" in station.tree.accessibleDescription()) and found.hank_g > 0
    qtbot.keyClick(station.tree, Qt.Key.Key_Left)
    assert splitter.wool == splitter.wools[-2]
    QTest.mouseClick(station.from_pack, LEFT)
    qtbot.waitUntil(lambda: splitter.is_settled, timeout=60_000)
    pack = window.studio.bench.wool_by_id[splitter.wool].pack_g
    assert splitter.hank_g % pack == pytest.approx(0.0)
    assert set(splitter.trees()) == set(chosen)


def test_shelf_is_counted_and_what_is_short_is_told(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    station.show_face(SHELF)
    card, slip, boards = station.wool_card, station.slip, station.shelf.boards
    assert "Nothing on the shelf is counted" in slip._weighed.text()
    every = len(window.studio.plan.wools) + 1  # type: ignore[union-attr]
    assert slip._list.text().count("×") == every  # and its eyes
    window.studio.selection.select_wool("woad")
    card.grams.setText("2 g")
    card.price.setText("3,60")
    qtbot.keyClick(card.price, Qt.Key.Key_Return)
    woad = window.bench_desk.base.wool_by_id["woad"]
    assert (woad.grams, woad.price) == (2.0, 3.6)
    assert "3.60 €" in slip._list.text()
    card.grams.setText("200 g")
    qtbot.keyClick(card.grams, Qt.Key.Key_Return)
    assert "Woad" not in slip._list.text() and boards._heap_text(woad)[0].endswith("will be left")
    card.pack.setText("0 g")
    qtbot.keyClick(card.pack, Qt.Key.Key_Return)
    assert window.bench_desk.base.wool_by_id["woad"].pack_g == 25.0
    assert window.message.isVisible()
    qtbot.keyClick(boards, Qt.Key.Key_Right)
    assert boards.wool is not None and boards.wool.id != "woad"


def test_swatch_teaches_and_undo_still_fits_new_bench(
    station: WoolStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = window.studio
    studio.set_height(300.0)
    plan = studio.plan
    assert plan is not None
    before = plan.part("body").portions[0]
    station.show_face(SHELF)
    window.studio.selection.select_wool("core-batt")

    def fill(dialog: SwatchDialog) -> int:
        dialog.loose.setText("60 × 40")
        dialog.accept()
        assert "60 × 40 × 40" in dialog.fault.text()
        dialog.loose.setText("56 × 44 × 44")
        dialog.felted.setText("32 × 30 × 30")
        dialog.accept()
        return int(QDialog.DialogCode.Accepted)

    monkeypatch.setattr(SwatchDialog, "exec", fill)
    QTest.mouseClick(station.wool_card.swatch, LEFT)
    desk = window.bench_desk
    (record,) = desk.records
    assert record.part == "Swatch" and studio.bench == with_learned_numbers(
        desk.base, desk.estimates
    )
    assert studio.plan is not None
    now = studio.plan.part("body").portions[0]
    assert now.pieces == 1 and now.spread < before.spread and now.grams > before.grams
    studio.undo_stack.undo()
    assert (
        studio.plan.to_height_mm == pytest.approx(220)
        and studio.plan.part("body").portions[0].pieces == 1
    )
    station.wool_card.rows[0].click()
    assert desk.records[0].aside and studio.plan.part("body").portions[0].pieces == 0


def test_piece_is_mended_and_logged(station: WoolStation, window: Window, qtbot: QtBot) -> None:
    station.show_face(TABLE)
    station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "body"))
    card, now = station.card, station.hand.current
    assert now is not None
    wanted = list(now.portion.finished_mm.values())
    card.grams.setText(f"{now.portion.grams:.2f} g")
    for field, mm in zip((card.along, card.across, card.through), wanted, strict=True):
        field.setText(f"{mm * 1.1:.2f}")
    QTest.mouseClick(card.ask_mend, LEFT)
    assert "10 % too large" in card.advice.text() and "felt on" in card.advice.text()
    card.grams.setText(f"{now.portion.grams * 2.5:.2f} g")
    QTest.mouseClick(card.ask_mend, LEFT)
    assert "cut or peel off" in card.advice.text()
    QTest.mouseClick(card.log, LEFT)
    (record,) = window.bench_desk.records
    assert record.wool == now.portion.wool and record.grams_in == pytest.approx(
        now.portion.grams * 2.5, rel=1e-3
    )
    # A coat is logged by the skin it covers: twice the wool asked for moves the cover.
    station.hand.select_portion(
        next(w.key for w in station.hand.portions if (w.part, w.portion.role) == ("body", "coat"))
    )
    coat = station.hand.current
    assert coat is not None and not card.along.isVisible()
    card.grams.setText(f"{coat.portion.grams * 2:.4f} g")
    card.trimmed.setText("0 g")
    card.minutes.setText("25 min")
    QTest.mouseClick(card.log, LEFT)
    skin = window.bench_desk.records[-1]
    assert skin.minutes == 25 and skin.grams / (skin.area_cm2 or 1) == pytest.approx(
        2 * 0.016, rel=0.01
    )
    assert 1.1 < window.studio.bench.wool_by_id["woad"].cover < 2
    card.minutes.setText("long")
    QTest.mouseClick(card.log, LEFT)
    station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "body"))
    card.along.setText("thick")
    qtbot.keyClick(card.along, Qt.Key.Key_Return)
    assert len(window.bench_desk.records) == 2 and window.message.isVisible()


def test_window_closed_in_middle_of_work_ends_quietly(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    station.show_face(PAN)
    scale = Scale(station, qtbot)
    scale.say("load 5")
    station.show_face(SPLITTING)
    window.studio.undo_stack.setClean()
    window.close()
    loop = QEventLoop()
    QTimer.singleShot(200, loop.quit)
    loop.exec()
    assert not station.scale.link.is_open and station.scale.simulated is None


def test_several_are_asked_for_and_undone(
    station: WoolStation, window: Window, qtbot: QtBot
) -> None:
    station.show_face(SHELF)
    plan = window.studio.plan
    assert plan is not None
    one = {t.wool: t.need_g for t in plan.wools}
    station.count.setValue(3)
    now = window.studio.plan
    assert now is not None and now.count == 3
    assert {t.wool: t.need_g for t in now.wools} == pytest.approx(
        {w: 3 * g for w, g in one.items()}
    )
    assert len(station.hand.portions) == 3 * len(
        [w for w in station.hand.portions if w.figure == 1]
    )
    window.studio.undo_stack.undo()
    assert station.count.value() == 1

"""At the pad: checks answered by digits, something wrong told and mended, a part taken over as it is; by
keys."""

from __future__ import annotations

import shutil
from dataclasses import replace
from datetime import date
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from bambola.core.bench import FreeTime
from bambola.core.methods import sheet_for
from bambola.core.quantities import parse_length, show_mass
from bambola.core.rescue import SYMPTOM_BY_ID, WantedPiece, wanted_at, wanted_of
from bambola.core.rescue.upright import drawn_mask
from bambola.demo import TOAD
from bambola.desk.kit.theme import Theme
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.stations import ORDER, RESIZE
from bambola.desk.shell.window import Window
from bambola.desk.stations.order.make_view import MakeView
from bambola.desk.stations.order.rescue_box import RescueBox
from bambola.desk.stations.order.symptom_marks import MARKS, mark, mark_size
from bambola.devices import simulated_camera
from bambola.devices.protocol import Weight
from bambola.devices.simulated_camera import upright
from bambola.store import Journal
from bambola.store.bench_book import BenchBook


@pytest.fixture
def pad(window: Window) -> MakeView:
    window.make_it()
    view = window.order_station.make
    assert isinstance(view, MakeView)
    keys = [step.key for step in view.steps]
    view.step(keys.index("core:arm:1") - view.current_index)
    return view


def wanted_now(pad: MakeView) -> WantedPiece:
    """How large the piece on the pad should be."""
    assert pad.studio.plan is not None and pad.current_step is not None
    wanted = wanted_at(pad.studio.plan, pad.current_step, pad.studio.bench)
    assert wanted is not None
    return wanted


def take(box: RescueBox, symptom: str) -> None:
    while box.symptom is None or box.symptom.id != symptom:
        box.list.setCurrentRow(box.list.currentRow() + 1)


def opened(monkeypatch: pytest.MonkeyPatch, use: object) -> None:
    def run(box: RescueBox) -> int:
        box.show()
        use(box)  # type: ignore[operator]
        return 0  # it may be gone by now

    monkeypatch.setattr(RescueBox, "exec", run)


def test_digit_passes_check_and_again_fails_it(pad: MakeView, qtbot: QtBot) -> None:
    key = pad.current_step.key if pad.current_step else ""
    came = []
    for _ in range(4):
        qtbot.keyClick(pad, Qt.Key.Key_1)
        came.append(pad.making.checks[key].get("1"))
    assert came == ["passed", "failed", "skipped", None]
    qtbot.keyClick(pad, Qt.Key.Key_2)
    assert pad.desk.making.checks[key] == {"2": "passed"}  # kept at once
    assert "[2] ✓" in pad.words.toPlainText()


def test_rescue_by_keys_is_recorded(
    pad: MakeView, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = pad.studio
    assert studio.plan is not None
    wanted = wanted_now(pad)

    def by_keys(box: RescueBox) -> None:
        while box.symptom is None or box.symptom.id != "long-and-thin":
            qtbot.keyClick(box.list, Qt.Key.Key_Down)
        assert "Bambola needs" in box.told.text()
        qtbot.keyClicks(box.fields["length"], f"{wanted.length * 1.12:.1f}")
        qtbot.keyClicks(box.fields["thickness"], f"{wanted.thick * 0.92:.1f}")
        assert "from the tip" in box.told.text() and "in a hairy layer" in box.told.text()
        qtbot.waitUntil(box.onward.leave.isEnabled, timeout=20_000)
        ways = box.onward.stands._ways
        assert [words.partition(":")[0] for words, _ in ways] == ["fitted", "left as it is"]
        assert all(float(np.vstack(runs)[:, 1].max()) > 0 for _, runs in ways)
        box.activateWindow()
        qtbot.waitUntil(box.isActiveWindow)
        with qtbot.waitSignal(box.accepted):
            QTest.keyClick(box.windowHandle(), Qt.Key.Key_M, Qt.KeyboardModifier.AltModifier)

    opened(monkeypatch, by_keys)
    qtbot.keyClick(pad, Qt.Key.Key_W)
    told = pad.desk.making.mended["core:arm:1"]
    assert told[0].startswith("too long and too thin: Turn the wire’s end back")


def test_part_is_taken_over_as_it_is_and_undone(
    pad: MakeView, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = pad.studio
    plan = studio.plan
    assert plan is not None
    wanted = wanted_now(pad)

    def take_over(box: RescueBox) -> None:
        box.fields["length"].setText(f"{wanted.length * 1.15:.2f}")
        box.fields["thickness"].setText(f"{wanted.thick:.2f}")
        box.fields["weight"].setText(f"{wanted.grams + 1:.2f} g")
        qtbot.waitUntil(box.onward.fit.isEnabled, timeout=20_000)
        box.onward.fit.click()

    opened(monkeypatch, take_over)
    pad.ask_rescue()
    after = studio.plan
    assert after is not None and after is not plan
    # The core is longer by 15 %; what lies within the body and the coat are as they were.
    assert after.part("arm").to_mm["length"] == pytest.approx(
        plan.part("arm").to_mm["length"] + 0.15 * wanted.length, rel=2e-3
    )
    assert after.to_height_mm == pytest.approx(plan.to_height_mm)
    # It was a gram too heavy; it is so in what stands and falls.
    assert studio.brief.found["arm"] == pytest.approx(plan.part("arm").grams + 1, abs=0.02)
    assert pad.current_step is not None and pad.current_step.key == "core:arm:1"
    studio.undo_stack.undo()
    assert studio.plan is not None
    assert studio.plan.part("arm").to_mm == pytest.approx(plan.part("arm").to_mm)


def test_wanted_piece_matches_sizes_to_stop_at(pad: MakeView) -> None:
    plan, bench = pad.studio.plan, pad.studio.bench
    assert plan is not None
    for step in plan.steps:
        wanted = wanted_at(plan, step, bench)
        if step.part is None or wanted is None:
            assert wanted is None
        elif not step.key.startswith("core:"):
            assert replace(wanted, end_g=0.0) == wanted_of(plan, step.part, bench)
        else:
            stops = {s.what.kind: s for s in sheet_for(plan, step, bench).card.stop}
            length = stops.get("measure.length")
            if length is not None and len(stops) > 1:
                assert length.low <= wanted.length <= length.high, step.key
            core = sum(p.grams for p in plan.part(step.part).portions if p.role == "core")
            assert wanted.grams <= core * 1.2 or wanted == wanted_of(plan, step.part, bench), (
                step.key
            )


def test_round_that_others_follow_is_not_taken_over(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.studio.set_height(300.0)  # a head of two rounds
    window.make_it()
    pad = window.order_station.make
    offered = {}

    def read(box: RescueBox) -> None:
        take(box, "too-big")
        assert box.wanted is not None
        box.fields["length"].setText(f"{box.wanted.length * 1.2:.1f}")
        box.fields["thickness"].setText(f"{box.wanted.thick * 1.2:.1f}")
        assert box.advice is not None and box.advice.actions
        offered[box.step.key] = box.onward.isVisible()
        box.reject()

    opened(monkeypatch, read)
    keys = [step.key for step in pad.steps]
    for key in ("core:head:1", "core:head:2"):
        pad.step(keys.index(key) - pad.current_index)
        pad.ask_rescue()
    assert offered == {"core:head:1": False, "core:head:2": True}


def test_bad_readings_are_told_and_nothing_is_lost(
    pad: MakeView, monkeypatch: pytest.MonkeyPatch
) -> None:
    def try_it(box: RescueBox) -> None:
        box.fields["length"].setText("very long")
        assert "very long" in box.told.text() and not box.onward.isVisible()
        box._enter_reading(118.4)
        box.reject()
        assert box.result() == QDialog.DialogCode.Rejected

    opened(monkeypatch, try_it)
    before = pad.making
    pad.ask_rescue()
    assert pad.making.mended == before.mended


def test_last_entry_at_pad_is_taken_back(pad: MakeView, qtbot: QtBot) -> None:
    key = pad.current_step.key if pad.current_step else ""
    qtbot.keyClick(pad, Qt.Key.Key_1)
    qtbot.keyClick(pad, Qt.Key.Key_2)
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.current_step is not None and pad.current_step.key != key
    qtbot.keyClick(pad, Qt.Key.Key_U)
    assert pad.current_step.key == key and pad.making.checks[key] == {"1": "passed", "2": "passed"}
    qtbot.keyClick(pad, Qt.Key.Key_U)
    assert pad.desk.making.checks[key] == {"1": "passed"}
    qtbot.keyClick(pad, Qt.Key.Key_U)
    assert pad.making.checks.get(key, {}) == {}


def test_sittings_are_recorded_and_break_is_welcomed(pad: MakeView, window: Window) -> None:
    now = [0.0]
    pad.clock = lambda: now[0]
    pad.today = lambda: date(2026, 3, 2)
    pad.resume()
    now[0] += 42 * 60
    pad.step(1)
    now[0] += 8 * 60
    window.order_station.show_make(False)
    (sitting,) = pad.desk.making.sittings
    assert (sitting.day, sitting.first) == ("2026-03-02", "core:arm:1")
    assert sitting.minutes == pytest.approx(50.0)
    pad.today = lambda: date(2026, 3, 5)
    window.order_station.show_make(True)
    assert not pad.welcome.isVisible()
    window.order_station.show_make(False)
    pad.today = lambda: date(2026, 4, 2)
    window.order_station.show_make(True)
    told = pad.welcome.text()
    assert pad.welcome.isVisible() and told.startswith("You were away for 31 days")
    assert "On the pad lies the" in told and "To fetch:" in told and "needle" in told
    pad.step(1)
    assert not pad.welcome.isVisible()


def test_sittings_begin_with_what_is_not_done(pad: MakeView, window: Window) -> None:
    station, plan = window.order_station, pad.studio.plan
    assert plan is not None
    window.bench_desk.set_free((FreeTime(weekday=2, start="19:00", minutes=120),))
    pad.step(11 - pad.current_index)
    station.show_make(False)
    calendar = station.sittings.calendar
    assert calendar is not None
    worked = {piece.n for sitting in calendar.sittings for piece in sitting.pieces}
    lying = {step.n for step in plan.steps if step.kind == "wait"}
    assert worked == {step.n for step in plan.steps[11:]} - lying
    spent = sum(piece.minutes for sitting in calendar.sittings for piece in sitting.pieces)
    assert spent == pytest.approx(sum(s.minutes for s in plan.steps[11:] if s.n not in lying))
    start, end, title, *_ = station.long.beads._sitting_spans(plan)[0]
    assert (start, end, title) == (0, 11, "done")
    # Another figure has its own beginning, whichever page is seen.
    window.go_to(RESIZE)
    window.open_demo(TOAD)
    other = window.sittings.calendar
    assert other is not None and other.sittings[0].pieces[0].n == 1


def test_weight_from_scale_and_sizes_from_caliper_make_advice(
    pad: MakeView, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = pad.studio
    assert studio.plan is not None
    wanted = wanted_now(pad)

    def read(box: RescueBox) -> None:
        take(box, "too-big")
        box.device.link.reading.emit(wanted.length * 1.2)
        box.device.link.reading.emit(wanted.thick * 1.2)
        assert box.fields["length"].text() and box.fields["thickness"].text()
        assert box.advice is not None
        heavy = box.advice.now.volume * 0.19
        box._enter_weight(Weight(heavy, "steady"))
        assert box.advice is not None and box.advice.now.density == pytest.approx(0.19, rel=0.02)
        assert {"peel", "cut-base"} & {
            a.do for a in box.advice.actions
        }  # as hard as it is, it must go
        box.reject()

    opened(monkeypatch, read)
    pad.ask_rescue()


def test_missing_wool_tells_amount_and_substitutes(
    pad: MakeView, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio, plan = pad.studio, pad.studio.plan
    assert plan is not None
    step = next(s for s in plan.steps if s.key == "coat:body")
    pad.step(step.n - 1 - pad.current_index)
    wool = studio.bench.wool_by_id[str(step.wool)]
    twin = wool.model_copy(update={"id": "twin", "name": "Twin teal", "grams": 500.0})
    far = wool.model_copy(update={"id": "far", "name": "Far red", "colour": "#C03020"})
    little = twin.model_copy(update={"id": "little", "name": "A wisp", "grams": 0.01})
    bench = studio.bench
    for other in (twin, far, little):
        bench = bench.with_wool(other)
    studio.use_bench(bench)
    done = [s.key for s in plan.steps[: step.n - 1]]
    later = sum(
        portion.take_g * share * (job.count if (job := plan.job_of(s)) else 1)
        for s in plan.steps[step.n - 1 :]
        for portion, share in plan.laid_by(s)
        if portion.wool == wool.id
    )

    def read(box: RescueBox) -> None:
        box.done_keys = done
        take(box, "ran-out")
        told = box.told.text()
        assert (
            f"{show_mass(later, studio.units)} of {wool.name} will be missing from here on." in told
        )
        assert "Twin teal" in told and "Far red" not in told and "A wisp" not in told
        box.reject()

    opened(monkeypatch, read)
    pad.ask_rescue()


def test_every_symptom_has_picture_of_its_own(pad: MakeView) -> None:
    assert MARKS.keys() == SYMPTOM_BY_ID.keys()
    seen = set()
    for symptom in MARKS:
        image = mark(symptom, pad.theme).pixmap(mark_size(pad.theme)).toImage()
        inked = [
            (x, y)
            for x in range(image.width()) for y in range(image.height())
            if image.pixelColor(x, y).alpha() > 128
        ]  # fmt: skip
        edge = {image.width() - 1, 0}
        assert len(inked) > 40 and not any(x in edge for x, _ in inked), symptom
        seen.add(frozenset(inked))
    assert len(seen) == len(MARKS)


def test_right_size_is_recorded_with_its_step(
    pad: MakeView, monkeypatch: pytest.MonkeyPatch
) -> None:
    studio = pad.studio
    assert studio.plan is not None
    wanted = wanted_now(pad)

    def read(box: RescueBox) -> None:
        take(box, "too-big")
        box.device.link.reading.emit(wanted.length * 1.01)
        box.device.link.reading.emit(wanted.thick)
        assert not box.onward.isVisible() and box.mend.text() == "It is right: &keep it"
        box.mend.click()

    opened(monkeypatch, read)
    pad.ask_rescue()
    assert pad.making.mended["core:arm:1"] == ("read: 99 mm long, 28 mm thick; right",)
    assert "Kept: read: 99 mm long" in pad.words.toPlainText()
    pad.undo()
    assert "Kept:" not in pad.words.toPlainText()


def test_killed_window_resumes_at_last_entry(qtbot: QtBot, tmp_path: Path) -> None:
    def started() -> Window:
        theme = Theme()
        theme.set(dark=False, scale=1.0)
        settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
        studio = EditorSession()
        book = BenchBook(tmp_path / "bench.sqlite", studio.bench)
        made = Window(studio, theme, settings, Journal(tmp_path / "journal"), book)
        made.show()
        made.open_demo()
        made.go_to(ORDER)
        return made

    first = started()
    first.make_it()
    pad = first.order_station.make
    for _ in range(4):
        qtbot.keyClick(pad, Qt.Key.Key_1)
        qtbot.keyClick(pad, Qt.Key.Key_Space)
    entered = pad.making
    second = started()  # the first says no good-bye
    assert second.bench_desk.making == entered
    second.make_it()
    assert second.order_station.make.making == entered
    for window in (first, second):
        window.studio.undo_stack.setClean()
        window.close()


def test_piece_is_read_off_its_picture_and_picture_is_kept(
    tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A folder is watched that a telephone fills; what it shows stands in the boxes, with what to do; a
    picture of nothing says what to do about it. The picture goes to the making."""
    studio, folder = EditorSession(), tmp_path / "phone"
    folder.mkdir()
    settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    book = BenchBook(tmp_path / "bench.sqlite", studio.bench)
    window = Window(studio, Theme(), settings, Journal(tmp_path / "journal"), book)
    window.show()
    window.open_demo()
    window.make_it()
    pad = window.order_station.make
    assert isinstance(pad, MakeView)
    pad.step([step.key for step in pad.steps].index("core:snout:1") - pad.current_index)
    wanted = wanted_now(pad)
    told: list[str] = []

    def from_pictures(box: RescueBox) -> None:
        Image.new("RGB", (400, 300), (150, 120, 90)).save(folder / "before.png")
        box.photo.follow(folder)
        (folder / "broken.png").symlink_to("nowhere")  # ends nothing
        Image.new("RGB", (400, 300), (150, 120, 90)).save(folder / "nothing.png")
        qtbot.waitUntil(lambda: "bank card" in box.photo.told.text(), timeout=30_000)
        assert box.fields["length"].text() == "" and box.picture is None
        sizes = ["--length", f"{wanted.length * 1.2:.1f}", "--width", f"{wanted.thick:.1f}"]
        assert simulated_camera.main([str(folder), *sizes]) == 0
        qtbot.waitUntil(lambda: box.picture is not None, timeout=60_000)
        assert box.symptom is not None and box.symptom.id == "too-long"
        read = parse_length(box.fields["length"].text())
        assert read == pytest.approx(wanted.length * 1.2, rel=0.03)
        assert box.advice is not None and box.outlines._seen is not None
        assert "too long" in box.photo.told.text()
        shutil.rmtree(folder)
        qtbot.waitUntil(lambda: "phone is gone" in box.photo.told.text(), timeout=10_000)
        assert not box.photo.watch.isChecked()
        box.mend.click()
        told.append(box.mended)

    opened(monkeypatch, from_pictures)
    qtbot.keyClick(pad, Qt.Key.Key_W)
    assert told[0].startswith("too long")
    (name,) = pad.making.photographs
    assert (tmp_path / "photographs" / name).exists()
    studio.undo_stack.setClean()
    window.close()


def test_finished_figure_is_judged_by_its_picture(
    pad: MakeView, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = pad.studio.plan
    assert plan is not None
    mask = drawn_mask(plan.solids.placement, 0.4)
    Image.fromarray(upright(mask, 0.4, 4.0, seed=2)).save(tmp_path / "leans.png")
    pad.step([step.key for step in pad.steps].index("check:stand") - pad.current_index)

    def from_picture(box: RescueBox) -> None:
        assert box.photo.isVisible() and "from the front" in box.photo.open.toolTip()
        box.photo.read(tmp_path / "leans.png")
        qtbot.waitUntil(lambda: "leans" in box.photo.told.text(), timeout=30_000)
        assert box.symptom is not None and box.symptom.id == "leans" and box.told.text()

    opened(monkeypatch, from_picture)
    pad.ask_rescue()

"""Regenerate the screenshots of the main views from the demo data: ``scripts/screenshots.py FOLDER``; in
another language, named after it, those that its guide shows."""

from __future__ import annotations

import json
import sys
import tempfile
from dataclasses import replace
from datetime import date
from decimal import Decimal
from pathlib import Path

from PyQt6.QtCore import QLocale, QSettings
from PyQt6.QtWidgets import QApplication, QDoubleSpinBox

from bambola.core.bench import Making, Record
from bambola.core.bench.making import Sitting
from bambola.core.bench.money import Money
from bambola.core.bench.shelved import with_shelved
from bambola.core.figure import Document, Stroke, Taken
from bambola.core.solids import own_copy
from bambola.demo import BADGER, HERON, PICTURES, TOAD, load_demo, sample_shelf
from bambola.desk.kit.theme import Theme, load_faces
from bambola.desk.kit.views import VIEWS
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.app import teach_toolkit
from bambola.desk.shell.packet_dialog import PacketDialog
from bambola.desk.shell.stations import BOOK, FACE, MEASURE, ORDER, WIRE, WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.face.station import FaceStation
from bambola.desk.stations.menus import PARTS
from bambola.desk.stations.order.ways_sheet import WaysSheet
from bambola.desk.stations.resize.height_dialog import HeightDialog
from bambola.desk.stations.wool.station import WoolStation
from bambola.language import choose_language, current_catalogue, set_language, tr
from bambola.store import Journal
from benchmarks.row import SMALLEST
from benchmarks.window import wait
from scripts.guide_pictures import OF

SHOTS: tuple[tuple[str, dict[str, object]], ...] = (
    ("resize-front", {"swept": True}),
    ("heights", {"swept": True, "asked": ("wool", "hours", "questions")}),
    ("face", {"station": FACE, "mark": "eye:eye"}),
    ("print", {"print": True}),
    ("resize-dark-large", {"dark": True, "scale": 1.5}),
    ("wire-walk", {"station": WIRE, "face": 0, "wire": "legs"}),
    ("wire-ruler", {"station": WIRE, "face": 1, "wire": "legs"}),
    ("wool-table", {"station": WOOL, "wool": "table"}),
    ("wool-pan", {"station": WOOL, "wool": "pan"}),
    ("wool-splitting", {"station": WOOL, "wool": "splitting", "dark": True}),
    ("wool-shelf", {"station": WOOL, "wool": "shelf"}),
    ("order", {"station": ORDER, "height": 320.0, "step": "join:muffler"}),
    ("make", {"station": ORDER, "step": "coat:arm", "make": True}),
    ("ways", {"station": ORDER, "ways": "firmness"}),
    ("book", {"station": BOOK, "book": "lamplighter-badger"}),
    ("measure-picture", {"pose": "picture"}),
    ("measure-shape", {"pose": "shape"}),
    ("measure-round", {"pose": "round", "dark": True}),
    ("begin", {"pose": "begin"}),
)


def main(folder: Path, language: str = "en") -> None:
    """Write every screenshot into ``folder``."""
    choose_language(language)
    comma = QLocale(language).decimalPoint()
    set_language(current_catalogue(), comma)
    folder.mkdir(parents=True, exist_ok=True)
    app = QApplication(["bambola"])
    load_faces()
    teach_toolkit(app)
    with tempfile.TemporaryDirectory() as scratch:
        for name, look in SHOTS[:1] if SMALLEST else SHOTS:
            if language == "en" or name in OF.values():
                _shoot(folder / f"{name}.png", Path(scratch), {**look, "comma": comma})


def _shoot(path: Path, scratch: Path, look: dict[str, object]) -> None:
    theme = Theme()
    theme.set(dark=bool(look.get("dark")), scale=float(str(look.get("scale", 1.0))))
    kept = QSettings(str(scratch / f"{path.stem}.ini"), QSettings.Format.IniFormat)
    settings = Settings(kept)
    studio = EditorSession()
    studio.units = replace(studio.units, decimal=str(look["comma"]), wisp=tr("a wisp"))
    window = Window(studio, theme, settings, Journal(scratch / "journal"))
    window.resize(1280, 800)
    if look.get("pose") != "begin":
        window.open_demo()
    window.show()
    while window.pages.make_next():
        pass
    if "pose" in look:
        _pose(window, str(look["pose"]))
        _settle(window)
        window.grab().save(str(path))
        window.studio.undo_stack.setClean()
        window.close()
        return
    window.resize_station.table.turn_to(
        {name: c for name, _, c in VIEWS}[str(look.get("view", "front"))]
    )
    window.go_to(int(str(look.get("station", 1))))
    _ask(window, look)
    if "wool" in look:
        _lay_wool(window, str(look["wool"]))
    if "step" in look:
        window.order_station.begin_on(date(2026, 3, 2))
        window.thread_strip.select_row(_index(window, look["step"]))
    if "make" in look:
        window.order_station.show_make(True)
        window.thread_strip.select_row(_index(window, look["step"]))
        window.order_station.make.refresh()
    if "book" in look:
        _lay_book(window, str(look["book"]))
    if "mark" in look:
        page = window.pages[FACE]
        assert isinstance(page, FaceStation)
        page.heads.select_mark(str(look["mark"]))
    if _shoot_dialog(window, look, path):
        return
    if "part" in look:
        window.studio.selection.select_part(str(look["part"]))
    if look.get("wool") != "pan":  # on the pan every second counts
        _settle(window)
    window.grab().save(str(path))
    window.studio.undo_stack.setClean()
    window.close()


def _ask(window: Window, look: dict[str, object]) -> None:
    """What is asked of the figure, and which wire is in hand."""
    if "height" in look:
        window.studio.set_height(float(str(look["height"])))
    if "swept" in look:
        _sweep(window)
    if "face" in look:
        window.wire_station.show_face(int(str(look["face"])))
        window.wire_station.walk.select_wire(str(look.get("wire", "")), 2)


def _lay_book(window: Window, name: str) -> None:
    """A shelf of made-up makings, the page of one of them, and prices."""
    desk = window.bench_desk
    bench = with_shelved(sample_shelf(desk.base), "eyes:8", price=0.35)
    for stock in bench.wire_stock:
        price = 4.2 if stock.form == "coil" else None
        bench = with_shelved(bench, f"wire:{stock.id}", price=price)
    told = {"rate": "18", "small": "0.5", "packing": "2.4", "overheads": "10", "fees": "12.5"}
    desk.put_bench(bench.replaced(money=Money.model_validate(told)))
    shelf = ((BADGER, 220.0, 214.0), (HERON, 120.0, 121.0), (TOAD, 140.0, 140.0))
    for day, (path, planned, reached) in enumerate(shelf, 1):
        document = load_demo(path)
        brief = document.brief.at_height(planned)
        making = Making(
            figure=document.figure.name,
            height_mm=planned,
            begun=Document(figure=document.figure, brief=brief).model_dump_json(),
            minutes={"core:body:1": 300.0 + 90.0 * day},
            sittings=(Sitting(day=f"2026-02-{20 - day}", minutes=90.0),),
            finished=f"2026-02-{20 - day}",
            reached_mm=reached,
            price=Decimal(480),
            next_time="a smaller core in the head, rolled tighter",
        )
        if document.figure.id == name:
            making = making.replaced(sizes={"head": {"width": 91.0, "height": 80.0}})
        desk.put_makings({document.figure.id: making})
    window.book_station.select_making(name)


def _shoot_dialog(window: Window, look: dict[str, object], path: Path) -> bool:
    """Return a picture of a dialog rather than of the window; whether that was asked for."""
    if "print" in look:
        _shoot_packet(window, path)
    if "ways" in look:
        _shoot_ways(window, str(look["ways"]), path)
    if "asked" in look:
        _shoot_heights(window, look["asked"], path)
    return bool({"print", "ways", "asked"} & look.keys())


def _sweep(window: Window) -> None:
    """What turns at other heights, for somebody with a shelf."""
    window.bench_desk.put_bench(sample_shelf(window.bench_desk.base))
    heights = window.resize_station.heights
    heights.sweep()
    while heights.swept is None:
        wait(100)


def _shoot_heights(window: Window, asked: object, path: Path) -> None:
    """A height asked for backwards, with sizes beside each other."""
    page = window.resize_station
    dialog = HeightDialog(
        page, page.studio, page.theme, page.darkroom, page.heights, page.bench_desk
    )
    dialog.show()
    hours = dialog.rows.rows["hours"].field
    assert isinstance(asked, tuple) and isinstance(hours, QDoubleSpinBox)
    hours.setValue(11.0)
    for name in asked:
        dialog.rows.rows[name].box.setChecked(True)
    while len(dialog.tape.bars) < len(asked):
        wait(100)
    dialog.lay.click()
    wait(4000)
    dialog.grab().save(str(path))
    dialog.reject()
    window.studio.undo_stack.setClean()
    window.close()


def _shoot_packet(window: Window, path: Path) -> None:
    """The packet as it is chosen and printed."""
    dialog = PacketDialog(window, window.studio, window.theme, window.settings, {})
    dialog.show()
    while dialog.document.pageCount() < 10:
        wait(100)
    dialog.kinds.setCurrentRow(1)
    wait(1500)
    dialog.grab().save(str(path))
    dialog.reject()
    window.studio.undo_stack.setClean()
    window.close()


def _shoot_ways(window: Window, choice: str, path: Path) -> None:
    """The sheet of how the maker works, with one switch in hand."""
    window.studio.school("eyes", "felted")
    _settle(window)
    sheet = WaysSheet(window.order_station, window.studio, window.theme, window.darkroom)
    sheet.show()
    sheet.cards[choice].head.click()
    _settle(window)
    sheet.grab().save(str(path))
    sheet.reject()
    window.studio.undo_stack.setClean()
    window.close()


def _index(window: Window, key: object) -> int:
    """Return where the step of this key stands."""
    plan = window.studio.plan
    assert plan is not None
    return [step.key for step in plan.steps].index(str(key))


def _lay_wool(window: Window, what: str) -> None:
    """Bring the wool station to the middle of some work."""
    station, desk = window.wool_station, window.bench_desk
    desk.put_bench(sample_shelf(desk.base))
    station.show_face({"table": 0, "blank": 0, "pan": 1, "splitting": 2, "shelf": 3}[what])
    if what == "blank":
        window.open_demo(HERON)
        station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "wing"))
        station.one_to_one.setChecked(True)
    elif what == "splitting":
        station.splitter.choose("charcoal")
    elif what == "shelf":
        for n, density in enumerate((0.104, 0.111, 0.098, 0.107)):
            desk.add_record(
                Record(day=f"2026-03-0{n + 1}", figure="Garden toad", part="Body", wool="core-batt",
                       grams_in=density * 21 / 0.95, grams_trimmed=density * 21 / 0.95 * 0.05, volume_cm3=21)
            )  # fmt: skip
    elif what == "pan":
        _weigh(station)


def _weigh(station: WoolStation) -> None:
    """Some portions weighed out, and the next on the pan."""
    station.scale.start_simulated(plain=True)
    wait(1500)
    scale = station.scale.simulated
    assert scale is not None
    for _ in range(3):
        aim = station.weigher.aim
        assert aim is not None
        station.weigher.enter(round((aim.least + aim.most) / 2, 1))
    station.hand.select_portion(next(w.key for w in station.hand.portions if w.part == "snout"))
    scale.write(b"load 2.3\n")
    wait(1150)


def _settle(window: Window) -> None:
    """Wait until every picture and silhouette is there."""
    for i in range(200):
        wait(100)
        idle = window.darkroom.is_idle and window.measure_station.sighting.is_idle
        idle = idle and window.wool_station.is_idle
        if i > 8 and idle and (window.wire_station.is_idle or window.station != WIRE):
            break
    wait(300)


def _pose(window: Window, pose: str) -> None:
    """Bring the measure station, or the start page, to the middle of some work."""
    if pose == "begin":
        window.new_figure()
        window.start_page.shelf.select_row(3)
        window.start_page.sliders["beak"].setValue(60)
        return
    window.open_demo(HERON)
    window.go_to(MEASURE)
    station, board = window.measure_station, window.measure_station.board
    board.turn_to("side")
    if pose == "picture":
        station.sighting.read_picture("side", PICTURES / "heron-side-busy.jpg")
        _settle(window)
        _frame_truly(window)
        station.go_to_step(PARTS)
        window.studio.selection.select_part("neck")
        neck = own_copy(board.placement(), "neck")
        assert neck is not None
        station.line.draw(
            [board.seen_from(neck.point(share)) for share in (0.0, 0.22, 0.5, 0.78, 1.0)]
        )
    elif pose == "shape":
        window.studio.selection.select_part("tail")
        station.shape.grip = "length"
    else:
        survey = window.studio.survey
        for part, measure, mm in (
            ("body", "height", 99.0),
            ("body", "width", 56.0),
            ("wing", "length", 107.0),
        ):
            survey = survey.with_readings(Taken(part=part, measure=measure, mm=mm, how="caliper"))
        window.studio.edit("Measure", survey=survey)
        station.card.show_pane(1)
        _settle(window)
        station.card.round.rows[0].entry.setFocus()


def _frame_truly(window: Window) -> None:
    """Ground, midline, scale and crop as the picture was taken."""
    note = json.loads((PICTURES / "heron.json").read_text())["heron-side-busy"]
    framing = window.studio.survey.framing("side")
    assert framing is not None
    away = Stroke(
        points=((960.0, 260.0), (1030.0, 330.0), (960.0, 440.0)), radius=90.0, figure=False
    )
    framed = framing.replaced(
        turn=-note["askew_deg"], ground=note["ground"], midline=note["midline"], mm_px=note["mm_px"],
        crop=(132.0, 14.0, framing.width - 8.0, framing.height - 14.0), strokes=(away,),
    )  # fmt: skip
    window.studio.edit("Frame the picture", survey=window.studio.survey.framed(framed))
    _settle(window)


if __name__ == "__main__":
    main(Path(sys.argv[1]), *sys.argv[2:])

"""Regenerate the screenshots of the main views from the demo data."""

from __future__ import annotations

import json
import sys
import tempfile
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bambola.core.figure import Stroke, Taken
from bambola.core.solids import own_copy
from bambola.demo import HERON, PICTURES
from bambola.desk.settings import Settings
from bambola.desk.stations.measure import PARTS
from bambola.desk.stations.resize import VIEWS
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme, load_faces
from bambola.desk.window import MEASURE, ORDER, WIRE, Window
from bambola.store import Journal

SHOTS: tuple[tuple[str, dict[str, object]], ...] = (
    ("resize-front", {}),
    ("resize-side", {"view": "side", "part": "snout"}),
    ("resize-dark-large", {"dark": True, "scale": 1.5}),
    ("wire-walk", {"station": WIRE, "face": 0, "wire": "legs"}),
    ("wire-ruler", {"station": WIRE, "face": 1, "wire": "legs"}),
    ("wire-ground", {"station": WIRE, "face": 2, "steady": 16.0}),
    ("order", {"station": ORDER, "step": 29}),
    ("measure-picture", {"pose": "picture"}),
    ("measure-shape", {"pose": "shape"}),
    ("measure-round", {"pose": "round", "dark": True}),
    ("begin", {"pose": "begin"}),
)


def main(folder: Path) -> None:
    """Write every screenshot into ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    app = QApplication(["bambola"])
    app.setStyle("Fusion")
    load_faces()
    with tempfile.TemporaryDirectory() as scratch:
        for name, look in SHOTS:
            _shoot(folder / f"{name}.png", Path(scratch), look)


def _shoot(path: Path, scratch: Path, look: dict[str, object]) -> None:
    theme = Theme()
    theme.set(dark=bool(look.get("dark")), scale=float(str(look.get("scale", 1.0))))
    kept = QSettings(str(scratch / f"{path.stem}.ini"), QSettings.Format.IniFormat)
    settings = Settings(kept)
    window = Window(Studio(), theme, settings, Journal(scratch / "journal"))
    if look.get("pose") != "begin":
        window.open_demo()
    window.show()
    if "pose" in look:
        _pose(window, str(look["pose"]))
        _settle(window)
        window.grab().save(str(path))
        window.studio.undo_stack.setClean()
        window.close()
        return
    window.resize_station.table.look(
        {name: c for name, _, c in VIEWS}[str(look.get("view", "front"))]
    )
    window.go_to(int(str(look.get("station", 1))))
    if "face" in look:
        window.wire_station.show_face(int(str(look["face"])))
        window.wire_station.walk.take_wire(str(look.get("wire", "")), 2)
        window.studio.wish("Wish it steadier", steady=float(str(look.get("steady", 8.0))))
    if "step" in look:
        window.thread_strip.walk_to(int(str(look["step"])))
    if "part" in look:
        window.studio.select(str(look["part"]))
    _settle(window)
    window.grab().save(str(path))
    window.studio.undo_stack.setClean()
    window.close()


def _settle(window: Window) -> None:
    """Wait until every picture and silhouette is there."""
    for i in range(200):
        QTest.qWait(100)
        idle = window.darkroom.is_idle and window.measure_station.sighting.is_idle
        if i > 8 and idle and (window.wire_station.is_idle or window.station != WIRE):
            break
    QTest.qWait(300)


def _pose(window: Window, pose: str) -> None:
    """Bring the measure station, or the start page, to the middle of some work."""
    if pose == "begin":
        window.new_figure()
        window.start_page.shelf.choose(3)
        window.start_page.sliders["beak"].setValue(60)
        return
    window.open_demo(HERON)
    window.go_to(MEASURE)
    station, board = window.measure_station, window.measure_station.board
    board.look("side")
    if pose == "picture":
        station.lay_picture("side", PICTURES / "heron-side-busy.jpg")
        _settle(window)
        _frame_truly(window)
        station.take_step(PARTS)
        window.studio.select("neck")
        neck = own_copy(board.placement(), "neck")
        assert neck is not None
        station.line.draw(
            [board.seen_from(neck.point(share)) for share in (0.0, 0.22, 0.5, 0.78, 1.0)]
        )
    elif pose == "shape":
        window.studio.select("tail")
        station.shape.grip = "length"
    else:
        survey = window.studio.survey
        for part, measure, mm in (
            ("body", "height", 99.0),
            ("body", "width", 56.0),
            ("wing", "length", 107.0),
        ):
            survey = survey.took(Taken(part=part, measure=measure, mm=mm, how="caliper"))
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
    main(Path(sys.argv[1]))

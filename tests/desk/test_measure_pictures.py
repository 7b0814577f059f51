from __future__ import annotations

from collections.abc import Callable

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.core.figure import Brief, Figure
from bambola.core.plan import make_plan
from bambola.demo import PICTURES
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import OUTLINE, PICTURE
from bambola.shipped import default_bench
from tests.desk.maker import Maker
from tests.effort import thorough
from tests.typing_hands import type_text


def core_wool(figure: Figure) -> float:
    plan = make_plan(figure, Brief(), default_bench())
    return sum(
        part.count * portion.grams
        for part in plan.parts
        for portion in part.portions
        if portion.role == "core"
    )


def start(window: Window, qtbot: QtBot, backdrop: str) -> Maker:
    """The maker has chosen two pictures of a heron 300 mm high."""
    maker = Maker(window, qtbot, backdrop)
    pictures = {view: PICTURES / f"heron-{view}-{backdrop}.jpg" for view in ("front", "side")}
    window.start_with_pictures(pictures, 300.0)  # type: ignore[arg-type]
    for view in ("side", "front"):
        maker.board.turn_to(view)  # type: ignore[arg-type]
        maker.wait_for_outline()
    return maker


def off(maker: Maker) -> dict[str, float]:
    """How far each measure is from what was photographed, as a share of it."""
    figure = maker.station.studio.figure
    assert figure
    return {
        f"{part.id}.{name}": figure.by_id[part.id].shape.measures()[name] / mm - 1
        for part in maker.truth.parts
        for name, mm in part.shape.measures().items()
    }


def frame_on_the_sill(maker: Maker) -> None:
    """Straighten along the ruler, crop it off, set the scale by it, and stroke out what is no heron."""
    hand, board, station = maker.station.frame_hand, maker.board, maker.station
    station.go_to_step(PICTURE)
    top, foot = maker.note()["ruler"]  # type: ignore[misc]
    framing = board.framing
    assert framing and board.lay
    ends = [framing.to_mm(*framing.straightened(*maker.askew(*end))) for end in (top, foot)]
    a, b = (board.lay.to_screen(*end) for end in ends)
    knob, line = hand.places()["tilt"], hand.places()["ground"]
    lean = (a.x() - b.x()) / (b.y() - a.y())
    maker.drag(knob, QPointF(knob.x() + lean * (line.y() - knob.y()), knob.y()))
    framing = board.framing
    assert framing and abs(framing.turn + maker.note()["askew_deg"]) < 0.3
    for pin, end in (("ruler-a", top), ("ruler-b", foot)):
        seen = framing.to_mm(*framing.straightened(*maker.askew(*end)))
        maker.drag(hand.places()[pin], board.lay.to_screen(*seen))
    maker.chip("Between the pins…")
    board.entry.selectAll()
    type_text(board.entry, "15 cm")
    QTest.keyClick(board.entry, Qt.Key.Key_Return)
    corner = hand.places()["crop-a"]
    beside = board.lay.to_screen(*framing.to_mm(top[0] + 80, framing.ground))
    maker.drag(corner, QPointF(beside.x(), corner.y()))
    station.go_to_step(OUTLINE)
    maker.wait_for_outline()
    maker.chip("Take from it")
    for y in (0.155, 0.17, 0.19, 0.21, 0.225):
        run = [
            board.lay.to_screen(*framing.to_mm(x * framing.width, y * framing.height))
            for x in (0.8, 0.95)
        ]
        maker.drag(*run)
    maker.wait_for_outline()


BACKDROPS = [("plain", 0.03, 0.08), ("busy", 0.05, 0.12)]
"""How far off measures and wool may be, as shares, where what is behind the heron is easily told or not."""


def test_tilted_picture_is_framed_by_ruler(new_window: Callable[[], Window], qtbot: QtBot) -> None:
    maker = start(new_window(), qtbot, "busy")
    frame_on_the_sill(maker)
    framing = maker.board.framing
    assert framing and framing.mm_px == pytest.approx(0.205, rel=0.01)


@thorough
@pytest.mark.parametrize(("backdrop", "size", "wool"), BACKDROPS)
def test_heron_is_recovered_from_its_pictures(
    backdrop: str, size: float, wool: float, new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    maker = start(new_window(), qtbot, backdrop)
    for view in ("front", "side") if backdrop == "busy" else ():
        maker.board.turn_to(view)  # type: ignore[arg-type]
        frame_on_the_sill(maker)
        framing = maker.board.framing
        assert framing and framing.mm_px == pytest.approx(0.205, rel=0.01)
    maker.measure_parts()
    maker.lay_wools()
    figure = maker.station.studio.figure
    assert figure and set(figure.by_id) == set(maker.truth.by_id)
    assert {p.id: p.parent for p in figure.parts} == {p.id: p.parent for p in maker.truth.parts}
    # Parents are proposed from contact, and pairs from where they lie.
    right = {
        part: (parent == maker.truth.by_id[part].parent, pair == maker.truth.by_id[part].pair)
        for part, (parent, pair) in maker.proposed.items()
        if part not in ("body", "foot", "wing")
    }
    assert sum(a and b for a, b in right.values()) >= 5, right
    found = off(maker)
    assert max(abs(x) for x in found.values()) < size, found
    assert core_wool(figure) == pytest.approx(core_wool(maker.truth), rel=wool)
    assert make_plan(figure, Brief(), default_bench()).from_height_mm == pytest.approx(
        300, rel=0.02
    )
    # Everything is one step of undo, back to the round placeholder the pictures began with.
    stack = maker.station.studio.undo_stack
    while stack.canUndo():
        stack.undo()
    assert maker.station.studio.figure and len(maker.station.studio.figure.parts) == 1

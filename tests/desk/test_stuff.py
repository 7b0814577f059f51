"""What is not wool, in the window: put on by a touch, chosen in the dialog, counted on the shelf."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from bambola.desk.shell.stations import MEASURE, WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from bambola.desk.stations.measure.part_dialogs import BentDialog
from bambola.desk.stations.measure.stuff_fields import HOLLOW
from bambola.desk.stations.wool.materials import COLUMNS, MaterialsDialog
from tests.desk.outfits import Ask, choose


def test_part_becomes_cloth_clay_hollow_and_wool_again(window: Window, ask: Ask) -> None:
    def cloth(dialog: OutfitDialog) -> None:
        choose(dialog.stuff.of, "cotton")
        assert not dialog.fur.isVisible() and "Its coat" in dialog.told.text()
        choose(dialog.stuff.fixed, "glued")
        dialog.stuff.layers.setValue(2)

    studio = window.studio
    before = studio.figure
    ask("ear", cloth)
    assert studio.figure is not None
    ear = studio.figure.by_id["ear"]
    assert ear.stuff is not None and (ear.stuff.kind, ear.stuff.fixed, ear.core) == (
        "cloth",
        "glued",
        "cotton",
    )
    assert ear.coat is None and not ear.places
    studio.settle()
    assert studio.plan is not None
    (row,) = (r for r in studio.plan.patterns if r.part == "ear")
    assert row.pieces[0].count == 2 and row.pieces[0].form == "outline"
    keys = [s.key for s in studio.plan.steps if s.part == "ear"]
    assert keys == ["pattern:ear", "join:ear", "dry:ear"]

    def hollow(dialog: OutfitDialog) -> None:
        choose(dialog.stuff.of, HOLLOW)
        assert "pressed in" in dialog.told.text()

    ask("nose", hollow)
    assert studio.figure.by_id["nose"].hollow
    ask("nose", lambda dialog: choose(dialog.stuff.of, None))
    assert not studio.figure.by_id["nose"].hollow
    ask("ear", lambda dialog: choose(dialog.stuff.of, None))
    again = studio.figure.by_id["ear"]
    assert again.stuff is None and again.core in studio.bench.wool_by_id
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.figure == before


def test_things_to_put_on_are_offered_and_lie_there(window: Window, qtbot: QtBot) -> None:
    window.go_to(MEASURE)
    station, studio = window.measure_station, window.studio
    qtbot.waitUntil(lambda: station.board.is_pictured, timeout=20_000)
    window.actions_["step_6"].trigger()
    studio.selection.select_part("body")
    menu = station.dress.ready_menu()
    words = {action.text(): action for action in menu.actions() if action.text()}
    assert len(words) >= 16
    words["Net skirt"].trigger()
    assert studio.figure is not None
    skirt = studio.figure.by_id["net-skirt"]
    assert studio.selection.part == "net-skirt" and skirt.stuff is not None
    assert "hair" not in station.dress.grips()
    qtbot.waitUntil(lambda: "net" in station.card.head.outfit.text())
    assert not station.card.head.firm.isEnabled()
    station.board.turn_to("side")
    studio.undo_stack.undo()
    assert "net-skirt" not in studio.figure.by_id


def test_materials_are_counted_changed_and_refused(window: Window) -> None:
    window.go_to(WOOL)
    station, said = window.wool_station, []
    window.studio.refused.connect(said.append)
    dialog = MaterialsDialog(station, window.studio, station.desk)
    dialog.show()
    model, fields = dialog.model, [column.field for column in COLUMNS]

    def typed(row: int, field: str, text: object, role: int = Qt.ItemDataRole.EditRole) -> bool:
        return model.setData(model.index(row, fields.index(field)), text, role)

    assert typed(0, "left", "1200 mm") and station.desk.base.materials[0].left == 1200
    assert typed(0, "name", "Blue linen") and model.index(0, 0).data() == "Blue linen"
    assert typed(0, "price", "7,50") and station.desk.base.materials[0].price == 7.5
    check = Qt.ItemDataRole.CheckStateRole
    assert typed(0, "frays", Qt.CheckState.Unchecked, check)
    assert not station.desk.base.materials[0].frays
    for field, text in (("thickness", "0"), ("wide", "wide"), ("price", "-1"), ("price", "much")):
        assert not typed(0, field, text)
    assert len(said) == 4 and all(sentence.endswith(".") for sentence in said)
    many = len(model.rows)
    dialog.add(station.desk.base.materials[2])
    assert len(model.rows) == many + 1 and model.rows[-1].id == "satin-ribbon-2"
    dialog.table.setCurrentIndex(model.index(many, 0))
    QTest.mouseClick(dialog.strike, Qt.MouseButton.LeftButton)
    assert len(model.rows) == many
    dialog.close()


def test_base_is_made_thicker(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    def run(dialog: BentDialog) -> int:
        dialog.foot.setValue(2.0)
        return 1

    monkeypatch.setattr(BentDialog, "exec", run)
    window.go_to(MEASURE)
    window.studio.selection.select_part("ear")
    window.actions_["bent"].trigger()
    assert window.studio.figure is not None
    assert window.studio.figure.by_id["ear"].shape.foot == 2.0  # type: ignore[union-attr]

"""Fur and clothes for the part in hand: what comes of them is said at once, nothing wrong is kept."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialogButtonBox
from pytestqt.qtbot import QtBot

from bambola.desk.shell.stations import ORDER
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from bambola.desk.stations.measure.wearing import fur_on
from tests.desk.outfits import Ask, choose


def test_fur_is_given_counted_and_undone(window: Window, ask: Ask, qtbot: QtBot) -> None:
    def fur(dialog: OutfitDialog) -> bool:
        assert "Bare skin" in dialog.told.text()
        choose(dialog.fur.kind, "locks")
        choose(dialog.fur.wool, "reed")
        for text, ok in (("nonsense", False), ("-3 mm", False), ("11 mm", True)):
            dialog.fur.spacing.setText(text)
            dialog.fur.changed.emit()
            button = dialog.buttons.button(QDialogButtonBox.StandardButton.Ok)
            assert button is not None and button.isEnabled() is ok and dialog.told.text()
        # 64 mm over the head from its neck to its crown, a row every 11 mm.
        assert "6 rows of hair" in dialog.told.text()
        return True

    ask("head", fur)
    assert window.studio.figure is not None
    worn = fur_on(window.studio.figure.by_id["head"])
    assert worn is not None and (worn.wool, worn.kind, worn.spacing) == ("reed", "locks", 11.0)
    head = window.measure_station.card.head
    qtbot.waitUntil(lambda: head.outfit.text() == "curly locks")
    window.go_to(ORDER)
    plan = window.studio.plan
    assert plan is not None and sum(s.key.startswith("fur:head") for s in plan.steps) >= 6
    window.studio.undo_stack.undo()
    assert not window.studio.figure.by_id["head"].furs


def test_part_becomes_clothing_and_order_follows(window: Window, ask: Ask) -> None:
    def knit(dialog: OutfitDialog) -> bool:
        assert "does not pass over the head" in dialog.told.text()
        choose(dialog.clothing.cloth, 0.40)
        dialog.clothing.opening.setText("120 mm")
        dialog.clothing.bought.setChecked(True)
        dialog.clothing.mass.setText("4 g")
        for action in dialog.clothing._menu.actions():
            action.setChecked(action.data() == "arm")
        assert "stretched to 168 mm it passes over the head" in dialog.told.text()
        return True

    ask("cape", knit)
    figure, plan = window.studio.figure, window.studio.plan
    assert figure is not None and plan is not None
    cape = figure.by_id["cape"]
    assert cape.garment is not None and cape.over == ("arm",)
    assert (cape.garment.bought, cape.garment.mass, cape.garment.stretch) == (True, 4.0, 0.40)
    assert [s.key for s in plan.steps if s.part == "cape"] == ["join:cape"]

    def off(dialog: OutfitDialog) -> bool:
        choose(dialog.clothing.kind, "")
        return True

    ask("cape", off)
    assert window.studio.figure is not None
    assert window.studio.figure.by_id["cape"].garment is None


def test_root_cannot_be_clothing(window: Window, ask: Ask) -> None:
    before = window.studio.figure

    def look(dialog: OutfitDialog) -> bool:
        assert not dialog.clothing.isVisible()
        choose(dialog.fur.kind, "pile")
        return False

    ask("body", look)
    assert window.studio.figure is before and not window.studio.undo_stack.canUndo()

    def tied(dialog: OutfitDialog) -> bool:
        for kind, shown in (("sash", "tails"), ("skirt", "strip"), ("pulled over", "opening")):
            choose(dialog.clothing.kind, kind)
            for name in ("tails", "strip", "opening"):
                assert getattr(dialog.clothing, name).isVisible() is (name == shown)
        choose(dialog.clothing.kind, "wrap")
        dialog.clothing.tails.setText("40 mm")
        dialog.clothing.changed.emit()
        assert "knot and tails included" in dialog.told.text()
        return False

    ask("collar", tied)


def test_what_can_never_go_on_is_not_taken(window: Window, ask: Ask) -> None:
    def over_the_body(dialog: OutfitDialog) -> bool:
        choose(dialog.clothing.passes, "body")
        button = dialog.buttons.button(QDialogButtonBox.StandardButton.Ok)
        assert button is not None and not button.isEnabled()
        assert dialog.told.text().startswith("Collar can never go on")
        return False

    ask("collar", over_the_body)

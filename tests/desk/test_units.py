"""Who thinks in inches and ounces reads nothing else, on screen and on paper, and the other way round."""

from __future__ import annotations

import pytest
from pytestqt.qtbot import QtBot

from bambola.demo import BADGER, HERON, TOAD
from bambola.desk.shell.stations import STATIONS
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from tests.desk.reading import painted, texts_of
from tests.effort import THOROUGH, some
from tests.said import BOTH_UNITS, strays


@pytest.mark.parametrize("unit", BOTH_UNITS if THOROUGH else ["in"])
def test_no_station_nor_dialog_tells_quantity_in_other_units(
    window: Window, qtbot: QtBot, unit: str
) -> None:
    window.studio.set_units(BOTH_UNITS[unit][0])
    found: set[str] = set()
    for demo in (BADGER, HERON, TOAD) if THOROUGH else (BADGER,):
        window.files.open_path(demo)
        assert window.studio.figure is not None
        parts = [part.id for part in window.studio.figure.parts]
        for at in range(len(STATIONS)):
            with painted() as told:
                window.go_to(at)
                for part in some(parts, 3):
                    window.studio.selection.select_part(part)
                    qtbot.wait(5)
                window.grab()
            found |= told | set(texts_of(window))
        dialog = OutfitDialog(window, window.studio, parts[-1])
        found |= set(texts_of(dialog))
        dialog.deleteLater()
    assert len(found) > 300
    assert not strays(found, unit)

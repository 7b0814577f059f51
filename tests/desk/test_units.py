"""Who thinks in inches and ounces reads nothing else, on screen and on paper, and the other way round."""

from __future__ import annotations

import io
import re
from datetime import UTC, date, datetime
from pathlib import Path

import pytest
from pypdf import PdfReader
from pytestqt.qtbot import QtBot

from bambola.core.export.formats import FORMATS, Asked
from bambola.core.plan import make_plan
from bambola.core.quantities import Units
from bambola.core.words import Words
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.desk.shell.stations import STATIONS
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from bambola.shipped import default_bench
from tests.desk.reading import painted, texts_of
from tests.effort import THOROUGH
from tests.said import IMPERIAL, METRIC, SOLD_OR_SMALL

BOTH = {"in": (Units("in", "oz"), METRIC), "mm": (Units(), IMPERIAL)}


def strays(texts: set[str], unit: str) -> list[str]:
    """Those of ``texts`` that tell a quantity in the units that were not asked for."""
    return sorted(text for text in texts if BOTH[unit][1].search(SOLD_OR_SMALL.sub("", text)))


@pytest.mark.parametrize("unit", BOTH if THOROUGH else ["in"])
def test_no_station_nor_dialog_tells_a_quantity_in_the_other_units(
    window: Window, qtbot: QtBot, unit: str
) -> None:
    window.studio.set_units(BOTH[unit][0])
    found: set[str] = set()
    for demo in (BADGER, HERON, TOAD) if THOROUGH else (BADGER,):
        window.files.open_path(demo)
        assert window.studio.figure is not None
        parts = [part.id for part in window.studio.figure.parts]
        for at in range(len(STATIONS)):
            with painted() as told:
                window.go_to(at)
                for part in parts:
                    window.studio.selection.take_part(part)
                    qtbot.wait(5)
                window.grab()
            found |= told | set(texts_of(window))
        dialog = OutfitDialog(window, window.studio, parts[-1])
        found |= set(texts_of(dialog))
        dialog.deleteLater()
    assert len(found) > 300
    assert not strays(found, unit)


def _read(data: bytes) -> str:
    if data.startswith(b"%PDF"):
        return " ".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)
    text = data.decode().replace("\r\n ", "")  # a long line of a calendar is folded
    return re.sub(r"<(?!text|title)[^>]*>", "", text)


@pytest.mark.parametrize(
    ("demo", "unit"),
    [(TOAD, "in"), *([(BADGER, "in"), (HERON, "in"), (HERON, "mm")] if THOROUGH else ())],
)
def test_nothing_written_for_people_tells_a_quantity_in_the_other_units(
    demo: Path, unit: str
) -> None:
    bench, document = default_bench(), load_demo(demo)
    plan = make_plan(document.figure, document.brief, bench)
    units = BOTH[unit][0]
    asked = Asked(plan, document.figure, bench, date(2026, 11, 26), datetime.now(UTC), Words(units))
    for form in FORMATS:
        if form.id == "json":  # it is for other programs
            continue
        made = form.make(asked)
        for name, data in ({form.id: made} if isinstance(made, bytes) else made).items():
            text = _read(data)
            assert "\x00" not in text, f"{name}: a sign that the face does not have"
            assert not strays(set(text.splitlines()), unit), name

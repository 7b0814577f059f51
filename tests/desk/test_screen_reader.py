"""The badger is made ready by one who cannot see the window: by names and roles, from another program."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.desk.reader import IS_THERE, reading

pytestmark = pytest.mark.skipif(not IS_THERE, reason="there is no X server or message bus here")


def test_the_badger_is_made_ready_by_names_and_roles_alone(tmp_path: Path) -> None:
    with reading(tmp_path) as reader:
        reader.find("push button", "Look at the badger").press()
        stations = reader.find("list", "Stations")
        assert stations.items == ["Measure", "Resize", "Face", "Wire", "Wool", "Order", "Book"]

        # What is to be decided, and what is only told.
        marks = reader.find("list", "Things to decide")
        assert marks.items[0].startswith("Open: Head") and marks.selected == marks.items[:1]
        marks.select(marks.items[-1])
        assert reader.hears(marks.items[-1].removeprefix("Open: ").removeprefix("Answered: "))

        # The thread along the foot, and the same step in hand where the order is laid out.
        thread = reader.find("list", "Order of making")
        steps = len(thread.items)
        thread.select("12 of")
        stations.select("Order")
        order = reader.find("list", "The order, sitting by sitting")
        reader.wait(lambda: order if order.selected else None, "nothing is in hand")
        assert len(order.items) == steps and order.selected[0].startswith("12 of")
        order.select("20 of")
        assert reader.hears(order.items[19].split("   ")[1])

        # Another way of wiring it.
        stations.select("Wire")
        schools = reader.find("list", "Schools of wiring")
        reader.wait(lambda: schools if len(schools.items) == 6 else None, "no schools")
        assert schools.selected[0].startswith("As drawn")
        schools.select("One wire")
        reader.find("push button", "Wire it so").press()
        reader.wait(lambda: order if len(order.items) < steps else None, "it is wired as before")

        # A portion to weigh out, and a wool of the shelf.
        stations.select("Wool")
        table = reader.find("list", "Wool on the table")
        reader.wait(lambda: table if table.items else None, "no wool")
        cape = next(words for words in table.items if words.startswith("Cape"))
        table.select(cape)
        assert reader.hears("Cape") and table.selected == [cape]
        reader.find("check box", "What is there and what to buy").press()
        shelf = reader.find("list", "Wool on the shelf")
        shelf.select("Walnut brown")
        assert shelf.selected[0].startswith("Walnut brown") and reader.hears("Walnut brown")

"""The badger is made ready by one who cannot see the window: by names and roles, from another program."""

from __future__ import annotations

from pathlib import Path

import pytest

from bambola.desk.shell.stations import STATIONS
from bambola.language import catalogue_of, languages
from tests.desk.reader import IS_THERE, reading
from tests.effort import some

pytestmark = pytest.mark.skipif(not IS_THERE, reason="there is no X server or message bus here")


@pytest.mark.parametrize("language", some(languages(), 1))
def test_badger_is_made_ready_by_names_and_roles_alone(tmp_path: Path, language: str) -> None:
    say = catalogue_of(language).gettext
    with reading(tmp_path, language) as reader:
        reader.find("push button", say("Look at the badger")).press()
        stations = reader.find("list", say("Stations"))
        assert stations.items == [say(one.words).replace("&", "") for one in STATIONS]
        *_, wire, wool, order_of, _ = stations.items

        # What is to be decided, and what is only told.
        marks = reader.find("list", say("Questions and notes"))
        open_, answered = (
            say(told).format(question="") for told in ("Open: {question}", "Answered: {question}")
        )
        assert marks.items[0].startswith(open_) and marks.selected == marks.items[:1]
        marks.select(marks.items[-1])
        assert reader.hears(marks.items[-1].removeprefix(open_).removeprefix(answered))

        # The thread along the foot, and the same step in hand where the order is laid out.
        thread = reader.find("list", say("Order of making"))
        steps = len(thread.items)

        def numbered(n: int) -> str:
            return say("{n} of {of}   {text}").format(n=n, of=steps, text="")

        thread.select(numbered(12))
        stations.select(order_of)
        order = reader.find("list", say("The order, sitting by sitting"))
        reader.wait(lambda: order if order.selected else None, "nothing is in hand")
        assert len(order.items) == steps and order.selected[0].startswith(numbered(12))
        order.select(numbered(20))
        assert reader.hears(order.items[19].split("   ")[1])

        # Another way of wiring it.
        stations.select(wire)
        schools = reader.find("list", say("Schools of wiring"))
        reader.wait(lambda: schools if len(schools.items) == 6 else None, "no schools")
        assert schools.selected[0].startswith(say("As drawn"))
        schools.select(say("One wire"))
        reader.find("push button", say("Wire it so")).press()
        reader.wait(lambda: order if len(order.items) < steps else None, "it is wired as before")

        # A portion to weigh out, and a wool of the shelf.
        stations.select(wool)
        table = reader.find("list", say("Wool on the table"))
        reader.wait(lambda: table if table.items else None, "no wool")
        cape = next(words for words in table.items if words.startswith(say("Cape")))
        table.select(cape)
        assert reader.hears(say("Cape")) and table.selected == [cape]
        reader.find("check box", say("What you have and what to buy")).press()
        shelf = reader.find("list", say("Wool on the shelf"))
        shelf.select(say("Walnut brown"))
        assert shelf.selected[0].startswith(say("Walnut brown")) and reader.hears(
            say("Walnut brown")
        )

"""The actions of the menu *Height*. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

MENU: StationMenu = (
    N_("Hei&ght"),
    (
        PageAction("heights", N_("&What height?…"), lambda page: page.ask_heights(), "Ctrl+Alt+H"),
        None,
        PageAction("turn_up", N_("Next turn &up"), lambda page: page.table.go_to_turn(True)),
        PageAction("turn_down", N_("Next turn &down"), lambda page: page.table.go_to_turn(False)),
    ),
)

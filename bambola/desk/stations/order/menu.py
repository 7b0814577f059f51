"""The actions of the menu *Order*. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

MENU: StationMenu = (
    N_("O&rder"),
    (
        PageAction("ways", N_("How you &work…"), lambda page: page.ask_ways(), "Ctrl+Shift+W"),
        PageAction("tools", N_("&Needles, glue and hands…"), lambda page: page.ask_tools()),
        PageAction("minding", N_("What &counts in the order…"), lambda page: page.ask_weights()),
        PageAction("free", N_("&Free times…"), lambda page: page.ask_free()),
    ),
)

"""The actions of the menu *Book*. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

MENU: StationMenu = (
    N_("&Book"),
    (
        PageAction("another", N_("Make &another"), lambda page: page.make_another()),
        PageAction("fair", N_("Plan a &fair…"), lambda page: page.ask_fair()),
        PageAction("strike_out", N_("&Strike out…"), lambda page: page.strike_out()),
        None,
        PageAction("made_page", N_("&Page as PDF…"), lambda page: page.ask_page()),
        PageAction("book_out", N_("&Write the book out…"), lambda page: page.ask_export()),
        PageAction("book_in", N_("&Bring makings in…"), lambda page: page.ask_import()),
    ),
)

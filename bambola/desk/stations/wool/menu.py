"""The views of *Wool* and the actions of its menu. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

FACES = (
    (N_("Table"), N_("Every portion at its loose size")),
    (N_("Pan"), N_("Weigh it out")),
    (N_("Splitting"), N_("Measure out without a scale")),
    (N_("Shelf"), N_("What is there and what to buy")),
)
TABLE, PAN, SPLITTING, SHELF = range(4)

MENU: StationMenu = (
    N_("W&ool"),
    (
        PageAction("wool_0", N_("On the &table"), lambda page: page.show_face(TABLE), "Ctrl+F10"),
        PageAction("wool_1", N_("On the &pan"), lambda page: page.show_face(PAN), "Ctrl+F11"),
        PageAction(
            "wool_2", N_("By &splitting"), lambda page: page.show_face(SPLITTING), "Ctrl+F12"
        ),
        PageAction("wool_3", N_("The s&helf"), lambda page: page.show_face(SHELF), "Ctrl+Shift+F9"),
    ),
)

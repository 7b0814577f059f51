"""The views of *Wire* and the actions of its menu. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

FACES = (
    (N_("Walk"), N_("The walk of the wire over the skeleton")),
    (N_("Ruler"), N_("Every wire along the ruler")),
    (N_("Ground"), N_("How the figure stands")),
)
WALK, RULER, GROUND = range(3)

MENU: StationMenu = (
    N_("&Wire"),
    (
        PageAction(
            "face_0",
            N_("&Walk over the skeleton"),
            lambda page: page.show_face(WALK),
            "Ctrl+F7",
        ),
        PageAction("face_1", N_("Along the &ruler"), lambda page: page.show_face(RULER), "Ctrl+F8"),
        PageAction("face_2", N_("On the &ground"), lambda page: page.show_face(GROUND), "Ctrl+F9"),
    ),
)

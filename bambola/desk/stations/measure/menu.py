"""The steps of *Measure* and the actions of its menu. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageAction, StationMenu
from bambola.language import N_

STEPS = (
    N_("Picture"),
    N_("Outline"),
    N_("Parts"),
    N_("Shape"),
    N_("Face"),
    N_("Wire"),
    N_("Dress"),
    N_("Places"),
)
PICTURE, OUTLINE, PARTS, SHAPE, FACE, WIRE, DRESS, PLACES = range(8)

MENU: StationMenu = (
    N_("&Measure"),
    (
        PageAction(
            "step_0", N_("Lay the &picture"), lambda page: page.step_in_hand(PICTURE), "Ctrl+F1"
        ),
        PageAction("step_1", N_("Cut it &out"), lambda page: page.step_in_hand(OUTLINE), "Ctrl+F2"),
        PageAction(
            "step_2",
            N_("&Draw along the parts"),
            lambda page: page.step_in_hand(PARTS),
            "Ctrl+F3",
        ),
        PageAction("step_3", N_("&Shape it"), lambda page: page.step_in_hand(SHAPE), "Ctrl+F4"),
        PageAction(
            "step_4", N_("&Face and patches"), lambda page: page.step_in_hand(FACE), "Ctrl+F5"
        ),
        PageAction(
            "step_5", N_("Bones and &wire"), lambda page: page.step_in_hand(WIRE), "Ctrl+F6"
        ),
        PageAction(
            "step_6", N_("&Fur and clothes"), lambda page: page.step_in_hand(DRESS), "Ctrl+Shift+D"
        ),
        PageAction(
            "step_7",
            N_("P&laces on a part"),
            lambda page: page.step_in_hand(PLACES),
            "Ctrl+Shift+F7",
        ),
        None,
        PageAction(
            "pane_0", N_("The part in &hand"), lambda page: page.card.show_pane(0), "Ctrl+E"
        ),
        PageAction("pane_1", N_("Guided &round"), lambda page: page.card.show_pane(1), "Ctrl+G"),
        PageAction("pane_2", N_("&Checks"), lambda page: page.card.show_pane(2), "Ctrl+J"),
        PageAction("pane_3", N_("A&ll parts"), lambda page: page.card.show_all(), "Ctrl+Alt+L"),
        None,
        PageAction(
            "paste_picture", N_("Paste a pict&ure"), lambda page: page.paste_picture(), "Ctrl+V"
        ),
        PageAction(
            "propose", N_("P&ropose its parts…"), lambda page: page.propose_parts(), "Ctrl+Alt+P"
        ),
        PageAction("regroup", N_("&Join and cut parts"), lambda page: page.regroup(), "Ctrl+Alt+J"),
        PageAction("sizes_table", N_("Sizes from a &table…"), lambda page: page.ask_table()),
        PageAction("pattern", N_("Flat parts from a patter&n…"), lambda page: page.pattern.ask()),
        PageAction("furrows", N_("&Toes and furrows…"), lambda page: page.ask_furrows()),
        PageAction("bent", N_("How a flat part is &bent…"), lambda page: page.ask_bent()),
        PageAction("row", N_("A ro&w of the part…"), lambda page: page.ask_row()),
        PageAction("hard_core", N_("A &hard core in the part…"), lambda page: page.ask_core()),
    ),
)

"""The steps of *Measure* and the actions of its menu. Read before any page is created."""

from __future__ import annotations

from bambola.desk.stations.page import PageDeed, StationMenu
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
        PageDeed(
            "step_0", N_("Lay the &picture"), lambda page: page.step_in_hand(PICTURE), "Ctrl+F1"
        ),
        PageDeed("step_1", N_("Cut it &out"), lambda page: page.step_in_hand(OUTLINE), "Ctrl+F2"),
        PageDeed(
            "step_2",
            N_("&Draw along the parts"),
            lambda page: page.step_in_hand(PARTS),
            "Ctrl+F3",
        ),
        PageDeed("step_3", N_("&Shape it"), lambda page: page.step_in_hand(SHAPE), "Ctrl+F4"),
        PageDeed(
            "step_4", N_("&Face and patches"), lambda page: page.step_in_hand(FACE), "Ctrl+F5"
        ),
        PageDeed("step_5", N_("Bones and &wire"), lambda page: page.step_in_hand(WIRE), "Ctrl+F6"),
        PageDeed(
            "step_6", N_("&Fur and clothes"), lambda page: page.step_in_hand(DRESS), "Ctrl+Shift+D"
        ),
        PageDeed(
            "step_7",
            N_("P&laces on a part"),
            lambda page: page.step_in_hand(PLACES),
            "Ctrl+Shift+F7",
        ),
        None,
        PageDeed("pane_0", N_("The part in &hand"), lambda page: page.card.show_pane(0), "Ctrl+E"),
        PageDeed("pane_1", N_("Guided &round"), lambda page: page.card.show_pane(1), "Ctrl+G"),
        PageDeed("pane_2", N_("&Checks"), lambda page: page.card.show_pane(2), "Ctrl+J"),
        PageDeed("pane_3", N_("A&ll parts"), lambda page: page.card.show_all(), "Ctrl+Alt+L"),
        None,
        PageDeed(
            "paste_picture", N_("Paste a pict&ure"), lambda page: page.paste_picture(), "Ctrl+V"
        ),
        PageDeed(
            "propose", N_("P&ropose its parts…"), lambda page: page.propose_parts(), "Ctrl+Alt+P"
        ),
        PageDeed("regroup", N_("&Join and cut parts"), lambda page: page.regroup(), "Ctrl+Alt+J"),
        PageDeed("sizes_table", N_("Sizes from a &table…"), lambda page: page.ask_table()),
        PageDeed("pattern", N_("Flat parts from a patter&n…"), lambda page: page.pattern.ask()),
        PageDeed("furrows", N_("&Toes and furrows…"), lambda page: page.ask_furrows()),
        PageDeed("bent", N_("How a flat part is &bent…"), lambda page: page.ask_bent()),
        PageDeed("row", N_("A ro&w of the part…"), lambda page: page.ask_row()),
        PageDeed("hard_core", N_("A &hard core in the part…"), lambda page: page.ask_core()),
    ),
)

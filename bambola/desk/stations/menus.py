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

MEASURE_MENU: StationMenu = (
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
            "pane_0", N_("The selected &part"), lambda page: page.card.show_pane(0), "Ctrl+E"
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


BOOK_MENU: StationMenu = (
    N_("&Book"),
    (
        PageAction("another", N_("Make &another"), lambda page: page.make_another()),
        PageAction("fair", N_("Plan a &fair…"), lambda page: page.ask_fair()),
        PageAction("strike_out", N_("&Delete…"), lambda page: page.strike_out()),
        None,
        PageAction("made_page", N_("&Page as PDF…"), lambda page: page.ask_page()),
        PageAction("book_out", N_("&Export the book…"), lambda page: page.ask_export()),
        PageAction("book_in", N_("&Import makings…"), lambda page: page.ask_import()),
    ),
)


ORDER_MENU: StationMenu = (
    N_("O&rder"),
    (
        PageAction("ways", N_("How you &work…"), lambda page: page.ask_ways(), "Ctrl+Shift+W"),
        PageAction("tools", N_("&Needles, glue and hands…"), lambda page: page.ask_tools()),
        PageAction("minding", N_("What &matters in the order…"), lambda page: page.ask_weights()),
        PageAction("free", N_("&Free times…"), lambda page: page.ask_free()),
    ),
)


RESIZE_MENU: StationMenu = (
    N_("Hei&ght"),
    (
        PageAction("heights", N_("&What height?…"), lambda page: page.ask_heights(), "Ctrl+Alt+H"),
        None,
        PageAction("turn_up", N_("Next change &up"), lambda page: page.table.go_to_turn(True)),
        PageAction("turn_down", N_("Next change &down"), lambda page: page.table.go_to_turn(False)),
    ),
)


WIRE_FACES = (
    (N_("Walk"), N_("The walk of the wire over the skeleton")),
    (N_("Ruler"), N_("Every wire along the ruler")),
    (N_("Ground"), N_("How the figure stands")),
)
WALK, RULER, GROUND = range(3)

WIRE_MENU: StationMenu = (
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


WOOL_FACES = (
    (N_("Table"), N_("Every portion at its loose size")),
    (N_("Pan"), N_("Weigh it out")),
    (N_("Splitting"), N_("Measure out without a scale")),
    (N_("Shelf"), N_("What you have and what to buy")),
)
TABLE, PAN, SPLITTING, SHELF = range(4)

WOOL_MENU: StationMenu = (
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

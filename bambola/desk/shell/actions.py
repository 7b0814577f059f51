"""Every action of the window with its words and keys, in one place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtGui import QAction, QActionGroup, QKeySequence
from PyQt6.QtWidgets import QMainWindow, QMenu

from bambola.core.export.formats import FORMATS


@dataclass(frozen=True)
class Deed:
    """One action: its name here, its words, its keys, and whether it is a switch."""

    name: str
    words: str
    keys: str = ""
    switch: str = ""  # actions of one switch exclude each other; "alone" toggles by itself


MENUS: tuple[tuple[str, tuple[Deed | None, ...]], ...] = (
    ("&File", (
        Deed("new", "&New figure…", "Ctrl+N"),
        Deed("open", "&Open…", "Ctrl+O"),
        Deed("open_copy", "Open a &copy…"),
        Deed("demo", "Open the lamplighter &badger"),
        Deed("demo_heron", "Open the marsh &heron"),
        Deed("demo_toad", "Open the garden &toad"),
        None,
        Deed("save", "&Save", "Ctrl+S"),
        Deed("save_as", "Save &as…", "Ctrl+Shift+S"),
        None,
        *(Deed(f"export_{form.id}", form.words, form.keys) for form in FORMATS),
        None,
        Deed("quit", "&Quit", "Ctrl+Q"),
    )),
    ("&Edit", (
        Deed("height", "Type a new &height", "Ctrl+H"),
        Deed("next_part", "&Next part", "Ctrl+Right"),
        Deed("previous_part", "&Previous part", "Ctrl+Left"),
        Deed("hold", "Hold the part as &made", "Ctrl+L"),
        Deed("question", "Go to the open &question", "Ctrl+K"),
        Deed("make", "&Make it, step by step", "Ctrl+M"),
        None,
        Deed("copy_part", "&Copy a part from another design…"),
        Deed("outfit", "&Fur and clothes…", "Ctrl+Shift+F"),
        Deed("take_away", "&Take the part away", "Ctrl+Delete"),
    )),
    ("&Measure", (
        Deed("step_0", "Lay the &picture", "Ctrl+F1"),
        Deed("step_1", "Cut it &out", "Ctrl+F2"),
        Deed("step_2", "&Draw along the parts", "Ctrl+F3"),
        Deed("step_3", "&Shape it", "Ctrl+F4"),
        Deed("step_4", "&Face and patches", "Ctrl+F5"),
        Deed("step_5", "Bones and &wire", "Ctrl+F6"),
        None,
        Deed("pane_0", "The part in &hand", "Ctrl+E"),
        Deed("pane_1", "Guided &round", "Ctrl+G"),
        Deed("pane_2", "&Checks", "Ctrl+J"),
    )),
    ("&Wire", (
        Deed("face_0", "&Walk over the skeleton", "Ctrl+F7"),
        Deed("face_1", "Along the &ruler", "Ctrl+F8"),
        Deed("face_2", "On the &ground", "Ctrl+F9"),
    )),
    ("W&ool", (
        Deed("wool_0", "On the &table", "Ctrl+F10"),
        Deed("wool_1", "On the &pan", "Ctrl+F11"),
        Deed("wool_2", "By &splitting", "Ctrl+F12"),
        Deed("wool_3", "The s&helf", "Ctrl+Shift+F9"),
    )),
    ("&View", (
        Deed("station_0", "M&easure", "Alt+1", "station"),
        Deed("station_1", "&Resize", "Alt+2", "station"),
        Deed("station_2", "&Wire", "Alt+3", "station"),
        Deed("station_3", "W&ool", "Alt+4", "station"),
        Deed("station_4", "&Order", "Alt+5", "station"),
        None,
        Deed("view_front", "From the &front", "Ctrl+1", "view"),
        Deed("view_side", "From its &left side", "Ctrl+2", "view"),
        Deed("view_back", "From the &back", "Ctrl+3", "view"),
        Deed("view_top", "From &above", "Ctrl+4", "view"),
        None,
        Deed("length_mm", "&Millimetres", "", "length"),
        Deed("length_cm", "&Centimetres", "", "length"),
        Deed("length_in", "&Inches", "", "length"),
        Deed("fraction_8", "Inches in &eighths", "", "fraction"),
        Deed("fraction_16", "Inches in si&xteenths", "", "fraction"),
        Deed("fraction_32", "Inches in &thirty-seconds", "", "fraction"),
        Deed("mass_g", "&Grams", "", "mass"),
        Deed("mass_oz", "O&unces", "", "mass"),
        None,
        Deed("text_larger", "&Larger text", "Ctrl++"),
        Deed("text_smaller", "&Smaller text", "Ctrl+-"),
        Deed("text_normal", "&Normal text", "Ctrl+0"),
        Deed("dark", "&Dark", "Ctrl+D", "alone"),
    )),
    ("&Help", (
        Deed("keys", "&Keys", "F1"),
        Deed("about", "&About Bambola"),
    )),
)  # fmt: skip

HAND_KEYS = (
    ("Up, Down", "raise or lower the flag by 1 mm (with Shift by a tenth)"),
    ("Page Up, Page Down", "by 10 mm"),
    ("Enter, or a digit", "type the height"),
    ("Left, Right", "turn the figures"),
    (
        "Left, Right on the thread",
        "walk through the order (with Shift pull a bead; Backspace: undo it)",
    ),
    ("Space, Left, P, N, Esc while making", "done and on, back, pause, a note, leave"),
    ("G on the board", "take the next grip or line"),
    ("Arrows on the board", "move, turn or stretch by 1 mm (with Shift by a tenth)"),
    ("Enter, or a digit on the board", "type the number of the grip in hand"),
    ("Arrows, Space, Enter while drawing", "point, set a point, end the line (with Alt by 5 mm)"),
    ("N, H while drawing", "a new part; without the outline"),
    ("+, −, Home on the board", "larger, smaller, all of it"),
    ("Enter on a wool", "lay it on the part in hand (with Shift as its core)"),
    ("Left, Right on the skeleton", "walk along the wire (with Shift bend the limb by 5°)"),
    ("Up, Down on the skeleton or ruler", "next wire"),
    ("+, − on the skeleton", "one strand more or less of the bone in hand"),
    ("[, ] on the skeleton", "move the outer joint of the bone in hand along its part"),
    (">, < and . at the wire", "stouter, thinner, as planned"),
    ("Up, Down on the ground", "wish it steadier, or nodding more"),
    ("Left, Right on the table, the pan, the tree, the shelf", "the next portion, colour or wool"),
    ("Space, N, Backspace at the pan", "take it down as it is, nought, weigh the last again"),
    ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
)


class Actions:
    """The window's actions by name."""

    def __init__(self, window: QMainWindow, deeds: dict[str, Callable[[], None]]) -> None:
        self.by_name: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        groups: dict[str, QActionGroup] = {}
        bar = window.menuBar()
        assert bar is not None
        for title, entries in MENUS:
            menu = bar.addMenu(title)
            assert menu is not None
            self.menus[title.replace("&", "")] = menu
            for deed in entries:
                if deed is None:
                    menu.addSeparator()
                    continue
                action = QAction(deed.words, window)
                if deed.keys:
                    action.setShortcut(QKeySequence(deed.keys))
                action.setCheckable(bool(deed.switch))
                if deed.switch and deed.switch != "alone":
                    groups.setdefault(deed.switch, QActionGroup(window)).addAction(action)
                action.triggered.connect(lambda _=False, do=deeds[deed.name]: do())
                menu.addAction(action)
                self.by_name[deed.name] = action

    def __getitem__(self, name: str) -> QAction:
        return self.by_name[name]

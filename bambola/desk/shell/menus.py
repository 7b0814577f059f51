"""All actions of the menus in one place: their words, keys and functions."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLocale

from bambola.core.export.formats import FORMATS, Format
from bambola.demo import HERON, TOAD
from bambola.desk.kit.menu_action import Menu, MenuAction
from bambola.desk.kit.views import VIEWS
from bambola.desk.shell.frame import Frame
from bambola.desk.shell.guide import ask_what_is
from bambola.desk.shell.help import show_about, show_keys
from bambola.desk.shell.notes import edit_as_list, new_from_notes
from bambola.desk.shell.stations import STATIONS
from bambola.desk.stations.page import PageAction
from bambola.language import N_, languages

if TYPE_CHECKING:
    from bambola.desk.stations.measure.part_head import PartHead

_FROM = {
    "front": N_("From the &front"),
    "side": N_("From its &left side"),
    "back": N_("From the &back"),
    "top": N_("From &above"),
}


def menus_of(window: Frame) -> list[Menu]:
    """Return the menus of a window: its own, with those of its stations in the middle."""
    own = [menu for i in range(len(STATIONS)) if (menu := _station_menu(window, i))]
    return [_file_menu(window), _edit_menu(window), *own, _view_menu(window), _help_menu(window)]


def _file_menu(window: Frame) -> Menu:
    files = window.files

    def export(form: Format) -> MenuAction:
        name = f"export_{form.id}"
        return MenuAction(
            name, form.words, lambda: files.ask_export(form), form.keys, needs_figure=True
        )

    return N_("&File"), (
        MenuAction("new", N_("&New figure…"), window.new_figure, "Ctrl+N"),
        MenuAction(
            "new_notes", N_("New from my no&tes…"), lambda: new_from_notes(window), "Ctrl+Shift+N"
        ),
        MenuAction("open", N_("&Open…"), files.ask_open, "Ctrl+O"),
        MenuAction("open_copy", N_("Open a &copy…"), lambda: files.ask_open(as_copy=True)),
        MenuAction("demo", N_("Open the lamplighter &badger"), window.open_demo),
        MenuAction("demo_heron", N_("Open the marsh &heron"), lambda: window.open_demo(HERON)),
        MenuAction("demo_toad", N_("Open the garden &toad"), lambda: window.open_demo(TOAD)),
        None,
        MenuAction("save", N_("&Save"), files.save, "Ctrl+S", needs_figure=True),
        MenuAction(
            "save_as", N_("Save &as…"), files.ask_save_as, "Ctrl+Shift+S", needs_figure=True
        ),
        None,
        MenuAction("print", N_("&Print…"), window.ask_print, "Ctrl+P", needs_figure=True),
        None,
        *(export(form) for form in FORMATS),
        None,
        MenuAction("close", N_("&Close the window"), window.close, "Ctrl+W"),
        MenuAction("quit", N_("&Quit"), window.close, "Ctrl+Q"),
    )


def _edit_menu(window: Frame) -> Menu:
    def head() -> PartHead:
        return window.measure_station.card.head

    edits = (
        MenuAction("find", N_("&Find…"), window.ask_find, "Ctrl+F"),
        MenuAction("height", N_("Type a new &height"), window.type_height, "Ctrl+H"),
        MenuAction("next_part", N_("&Next part"), lambda: window.step_part(1), "Ctrl+Right"),
        MenuAction(
            "previous_part", N_("&Previous part"), lambda: window.step_part(-1), "Ctrl+Left"
        ),
        MenuAction("hold", N_("Hold the part as &made"), window.toggle_hold, "Ctrl+L"),
        MenuAction("question", N_("Go to the open &question"), window.go_to_question, "Ctrl+K"),
        MenuAction(
            "as_list", N_("The parts as a &list…"), lambda: edit_as_list(window), "Ctrl+Shift+L"
        ),
        MenuAction("make", N_("&Make it, step by step"), window.make_it, "Ctrl+M"),
        None,
        MenuAction(
            "copy_part", N_("&Copy a part from another design…"), lambda: head().graft_asked.emit()
        ),
        MenuAction(
            "outfit", N_("&Fur and clothes…"), lambda: head().outfit_asked.emit(), "Ctrl+Shift+F"
        ),
        MenuAction("take_away", N_("&Remove the part"), lambda: head().take_away(), "Ctrl+Delete"),
    )
    return N_("&Edit"), tuple(action and replace(action, needs_figure=True) for action in edits)


def _station_menu(window: Frame, index: int) -> Menu | None:
    """Return a station's own menu; choosing any of its actions goes to the station first."""
    menu = STATIONS[index].menu

    def there(action: PageAction) -> MenuAction:
        def do() -> None:
            window.go_to(index)
            action.do(window.pages[index])

        return MenuAction(action.name, action.words, do, action.keys)

    return (
        (menu[0], tuple(there(action) if action else None for action in menu[1])) if menu else None
    )


def _view_menu(window: Frame) -> Menu:
    stations = (
        MenuAction(
            f"station_{i}",
            station.words,
            lambda i=i: window.go_to(i),  # type: ignore[misc]
            f"Alt+{i + 1}",
            "station",
        )
        for i, station in enumerate(STATIONS)
    )
    views = (
        MenuAction(
            f"view_{name}",
            _FROM[name],
            partial(window.turn_to, name, camera),
            f"Ctrl+{i}",
            "view",
        )
        for i, (name, _, camera) in enumerate(VIEWS, 1)
    )
    return N_("&View"), (
        *stations,
        None,
        *views,
        None,
        MenuAction(
            "length_mm",
            N_("&Millimetres"),
            lambda: window.looks.set_units(length="mm"),
            switch="length",
        ),
        MenuAction(
            "length_cm",
            N_("&Centimetres"),
            lambda: window.looks.set_units(length="cm"),
            switch="length",
        ),
        MenuAction(
            "length_in", N_("&Inches"), lambda: window.looks.set_units(length="in"), switch="length"
        ),
        *(
            MenuAction(
                f"fraction_{n}",
                words,
                partial(window.looks.set_units, fraction=n),
                switch="fraction",
            )
            for n, words in (
                (8, N_("Inches in &eighths")),
                (16, N_("Inches in si&xteenths")),
                (32, N_("Inches in &thirty-seconds")),
            )
        ),
        MenuAction("mass_g", N_("&Grams"), lambda: window.looks.set_units(mass="g"), switch="mass"),
        MenuAction(
            "mass_oz", N_("O&unces"), lambda: window.looks.set_units(mass="oz"), switch="mass"
        ),
        None,
        MenuAction(
            "hold_here",
            N_("Hold it &here, at actual size"),
            window.hold_here,
            "Ctrl+T",
            needs_figure=True,
        ),
        MenuAction(
            "true_size",
            N_("Show at &actual size"),
            window.at_true_size,
            "Ctrl+Shift+T",
            needs_figure=True,
        ),
        MenuAction("measure_screen", N_("Measure the scree&n…"), window.measure_screen),
        MenuAction("text_larger", N_("&Larger text"), lambda: window.looks.text_step(1), "Ctrl++"),
        MenuAction(
            "text_smaller", N_("&Smaller text"), lambda: window.looks.text_step(-1), "Ctrl+-"
        ),
        MenuAction("text_normal", N_("&Normal text"), lambda: window.looks.text_to(1.0), "Ctrl+0"),
        MenuAction("dark", N_("&Dark"), window.looks.toggle_dark, "Ctrl+D", "alone"),
        MenuAction("full_screen", N_("F&ull screen"), window.toggle_full_screen, "F11"),
        None,
        *(
            MenuAction(
                f"language_{code or 'system'}",
                _own_name(code) if code else N_("Language of the s&ystem"),
                partial(window.looks.set_language, code),
                switch="language",
            )
            for code in (None, *languages())
        ),
    )


def _own_name(code: str) -> str:
    """Return a language's name in itself; for English without a country."""
    language = QLocale(code)
    if language.language() == QLocale.Language.English:
        return QLocale.languageToString(language.language())
    return language.nativeLanguageName().capitalize()


def _help_menu(window: Frame) -> Menu:
    return N_("&Help"), (
        MenuAction("learn", N_("&Learn: a practice piece"), window.learn),
        MenuAction("learn_figure", N_("Learn: a first &figure"), lambda: window.learn(1)),
        MenuAction("learn_stop", N_("Tell every step in f&ull"), window.lesson.stop),
        None,
        MenuAction("guide", N_("&Guide"), window.show_guide, "F1"),
        MenuAction("what_is", N_("&What is this?"), lambda: ask_what_is(window), "Shift+F1"),
        MenuAction("keys", N_("&Keys"), lambda: show_keys(window, window.menu_actions)),
        MenuAction("report", N_("&Report a fault…"), window.report_fault),
        MenuAction("about", N_("&About Bambola"), lambda: show_about(window)),
    )

"""Every deed of the menus, and what does it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from bambola.core.export.formats import FORMATS
from bambola.demo import HERON, TOAD
from bambola.desk.kit.views import VIEWS
from bambola.desk.shell.help import show_about, show_keys
from bambola.desk.stations import STATIONS
from bambola.desk.stations.wire.station import FACES
from bambola.desk.stations.wool.station import FACES as WOOL_FACES

if TYPE_CHECKING:
    from bambola.desk.shell.window import Window


def deeds_of(window: Window) -> dict[str, Callable[[], None]]:
    """What each action of the menus does."""
    measure = window.measure_station
    deeds: dict[str, Callable[[], None]] = {
        "new": window.new_figure, "open": window.files.ask_open,
        "open_copy": lambda: window.files.ask_open(as_copy=True), "demo": window.open_demo,
        "demo_heron": lambda: window.open_demo(HERON), "demo_toad": lambda: window.open_demo(TOAD),
        "save": lambda: cast(None, window.files.save()),
        "save_as": lambda: cast(None, window.files.ask_save_as()),
        "quit": lambda: cast(None, window.close()),
        "height": window.type_height, "next_part": lambda: window.step_part(1),
        "previous_part": lambda: window.step_part(-1), "hold": window.toggle_hold,
        "question": window.go_to_question, "make": window.make_it,
        "take_away": measure.card.head.take_away, "copy_part": measure.card.head.graft_asked.emit,
        "outfit": measure.card.head.outfit_asked.emit,
        "pane_0": lambda: window.show_pane(0), "pane_1": lambda: window.show_pane(1),
        "pane_2": lambda: window.show_pane(2),
        "text_larger": lambda: window.text_step(1), "text_smaller": lambda: window.text_step(-1),
        "text_normal": lambda: window.text_to(1.0), "dark": window.toggle_dark,
        "keys": lambda: show_keys(window), "about": lambda: show_about(window),
    }  # fmt: skip
    for form in FORMATS:
        deeds[f"export_{form.id}"] = lambda form=form: window.files.ask_export(form)  # type: ignore[misc]
    for i in range(len(STATIONS)):
        deeds[f"station_{i}"] = lambda i=i: window.go_to(i)  # type: ignore[misc]
    for name, _, camera in VIEWS:
        deeds[f"view_{name}"] = lambda name=name, camera=camera: window.look(name, camera)  # type: ignore[misc]
    for face in range(len(FACES)):
        deeds[f"face_{face}"] = lambda face=face: window.show_face(face)  # type: ignore[misc]
    for face in range(len(WOOL_FACES)):
        deeds[f"wool_{face}"] = lambda face=face: window.show_wool(face)  # type: ignore[misc]
    for step in range(len(measure.hands)):
        deeds[f"step_{step}"] = lambda step=step: window.take_step(step)  # type: ignore[misc]
    for unit in ("mm", "cm", "in"):
        deeds[f"length_{unit}"] = lambda unit=unit: window.set_units(length=unit)  # type: ignore[misc]
    for n in (8, 16, 32):
        deeds[f"fraction_{n}"] = lambda n=n: window.set_units(fraction=n)  # type: ignore[misc]
    for mass in ("g", "oz"):
        deeds[f"mass_{mass}"] = lambda mass=mass: window.set_units(mass=mass)  # type: ignore[misc]
    return deeds

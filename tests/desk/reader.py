"""A screen reader: another program that knows the window by names and roles alone, over AT-SPI."""

from __future__ import annotations

import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from jeepney import DBusAddress, MessageType, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection

from benchmarks.display import display

IS_THERE = all(shutil.which(command) for command in ("Xvfb", "dbus-daemon"))
ATSPI = "org.a11y.atspi"
SELECTED = 23
"""Place of its bit among the states (atspi-constants.h)."""
SHOWING = 25
PATIENCE_S = 30.0


@dataclass(frozen=True)
class TableThing:
    """Something on the screen, by its address on the bus."""

    reader: Reader
    bus: str
    path: str

    def ask(
        self, interface: str, method: str, signature: str = "", *body: object
    ) -> tuple[object, ...]:
        address = DBusAddress(self.path, self.bus, interface)
        message = new_method_call(address, method, signature or None, body)
        reply = self.reader.connection.send_and_get_reply(message, timeout=PATIENCE_S)
        if reply.header.message_type == MessageType.error:
            raise LookupError(f"{method}: {reply.body}")
        answer: tuple[object, ...] = reply.body
        return answer

    @property
    def name(self) -> str:
        got = self.ask(
            "org.freedesktop.DBus.Properties", "Get", "ss", f"{ATSPI}.Accessible", "Name"
        )
        return str(got[0][1])  # type: ignore[index]

    @property
    def role(self) -> str:
        return str(self.ask(f"{ATSPI}.Accessible", "GetRoleName")[0])

    @property
    def inside(self) -> list[TableThing]:
        found = self.ask(f"{ATSPI}.Accessible", "GetChildren")[0]
        return [TableThing(self.reader, bus, path) for bus, path in found]  # type: ignore[attr-defined]

    def has(self, state: int) -> bool:
        low, high = self.ask(f"{ATSPI}.Accessible", "GetState")[0]  # type: ignore[misc]
        return bool((low | high << 32) >> state & 1)

    def every(self, role: str) -> Iterator[TableThing]:
        """All of a role within, that are shown."""
        for thing in self.inside:
            if thing.role == role and thing.has(SHOWING):
                yield thing
            if thing.role not in ("list", "combo box", "menu bar"):
                yield from thing.every(role)

    # What a reader's hands can do

    def press(self) -> None:
        self.ask(f"{ATSPI}.Action", "DoAction", "i", 0)

    def select(self, starts: str) -> None:
        """Select the item of this list whose name begins so."""
        place = next(i for i, item in enumerate(self.inside) if item.name.startswith(starts))
        self.ask(f"{ATSPI}.Selection", "SelectChild", "i", place)

    @property
    def items(self) -> list[str]:
        return [item.name for item in self.inside]

    @property
    def selected(self) -> list[str]:
        return [item.name for item in self.inside if item.has(SELECTED)]


class Reader:
    """Reads one program's window."""

    def __init__(self, connection: DBusConnection) -> None:
        self.connection = connection
        self.registry = TableThing(self, f"{ATSPI}.Registry", "/org/a11y/atspi/accessible/root")

    def find(self, role: str, name: str) -> TableThing:
        """What is shown under a role and a name, waited for."""
        return self.wait(
            lambda: next(
                (
                    t
                    for app in self.registry.inside
                    for t in app.every(role)
                    if t.name.startswith(name)
                ),
                None,
            ),
            f"no {role} “{name}”",
        )

    def wait(self, look: Callable[[], TableThing | None], lacking: str) -> TableThing:
        until = time.monotonic() + PATIENCE_S
        while time.monotonic() < until:
            try:
                found = look()
            except LookupError:
                found = None  # it went while it was looked at
            if found:
                return found
            time.sleep(0.1)
        raise AssertionError(lacking)

    def hears(self, words: str) -> bool:
        """Whether a label that says so is shown, soon."""
        return bool(self.wait(
            lambda: next(
                (t for app in self.registry.inside for t in app.every("label") if words in t.name), None
            ),
            f"nobody says “{words}”",
        ))  # fmt: skip


@contextmanager
def reading(folder: Path, language: str) -> Iterator[Reader]:
    """The program on a display of its own in a ``language``, and who reads it."""
    with display() as environment:
        environment["LANGUAGE"] = language
        for name in ("DATA", "CONFIG", "CACHE", "RUNTIME"):
            place = folder / name
            place.mkdir(mode=0o700)
            environment["XDG_RUNTIME_DIR" if name == "RUNTIME" else f"XDG_{name}_HOME"] = str(place)
        environment["QT_LINUX_ACCESSIBILITY_ALWAYS_ON"] = "1"
        bus = subprocess.Popen(
            ["dbus-daemon", "--session", "--print-address", "--nofork", "--nopidfile"],
            stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=environment,
        )  # fmt: skip
        assert bus.stdout is not None
        environment["DBUS_SESSION_BUS_ADDRESS"] = bus.stdout.readline().strip()
        program = subprocess.Popen([Path(sys.executable).with_name("bambola-gui")], env=environment)
        try:
            with open_dbus_connection(environment["DBUS_SESSION_BUS_ADDRESS"]) as session:
                access = DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus")
                told = session.send_and_get_reply(new_method_call(access, "GetAddress"))
            with open_dbus_connection(told.body[0]) as connection:
                yield Reader(connection)
        finally:
            for process in (program, bus):
                process.terminate()
                process.wait(20)

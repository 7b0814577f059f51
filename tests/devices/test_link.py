"""A simulated caliper at the other end of a real pseudo-terminal."""

from __future__ import annotations

import os
import pty
import subprocess
import sys
import tty
from collections.abc import Iterator

import pytest
from pytestqt.qtbot import QtBot

from bambola.devices.link import MOST_WAITING, DeviceLink, ports
from bambola.devices.protocol import Reading, reading_line
from bambola.devices.simulated_caliper import Caliper


class Heard:
    """What a link has said."""

    def __init__(self, link: DeviceLink) -> None:
        self.readings: list[float] = []
        self.troubles: list[str] = []
        link.reading.connect(self.readings.append)
        link.trouble.connect(self.troubles.append)


@pytest.fixture
def link(qtbot: QtBot) -> Iterator[DeviceLink]:
    made = DeviceLink("caliper")
    yield made
    made.close()


@pytest.fixture
def caliper() -> Iterator[Caliper]:
    made = Caliper()
    yield made
    made.unplug()


def test_shipped_program_is_heard_and_missed(link: DeviceLink, qtbot: QtBot) -> None:
    program = subprocess.Popen(
        [sys.executable, "-m", "bambola.devices.simulated_caliper", "--plain"],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert program.stdin and program.stdout and program.stderr
    heard = Heard(link)
    assert link.open(program.stdout.readline().strip()) and link.is_open
    for count, words in ((1, "23.41\nagain\nseven\n"), (2, "1.5\n")):
        program.stdin.write(words)
        program.stdin.flush()
        qtbot.waitUntil(lambda count=count: len(heard.readings) == count, timeout=20_000)
    assert heard.readings == [23.41, 1.5] and not heard.troubles
    assert "write millimetres" in program.stderr.readline()
    program.stdin.write("off\n")
    program.stdin.flush()
    qtbot.waitUntil(lambda: bool(heard.troubles), timeout=20_000)
    assert "What was taken is kept" in heard.troubles[0] and not link.is_open
    assert program.wait(5) == 0


def test_computer_without_serial_ports_says_so_in_one_sentence(
    link: DeviceLink, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setitem(sys.modules, "PyQt6.QtSerialPort", None)  # as where its library is missing
    heard = Heard(link)
    assert ports() == [] and not link.open("/dev/ttyUSB0") and not link.is_open
    (said,) = heard.troubles
    assert "cannot be used on this computer" in said and "type what the" in said


def test_rubbish_is_told_once_and_link_goes_on(
    link: DeviceLink, caliper: Caliper, qtbot: QtBot
) -> None:
    heard = Heard(link)
    link.open(caliper.where)
    for _ in range(7):
        caliper.send_noise()
    caliper.press(12.0)
    qtbot.waitUntil(lambda: heard.readings == [12.0], timeout=20_000)
    assert len(heard.troubles) == 1 and "cannot be read" in heard.troubles[0]


def test_every_reading_of_burst_is_taken_in_turn(
    link: DeviceLink, caliper: Caliper, qtbot: QtBot
) -> None:
    """While one is entered, which takes its time, those that follow wait for it; too many are told."""
    heard = Heard(link)
    link.reading.connect(lambda _: qtbot.wait(5))  # what is entered lets others arrive meanwhile
    link.open(caliper.where)
    sent = [10.0 + n for n in range(20)]
    for mm in sent:
        caliper.press(mm)
    qtbot.waitUntil(lambda: len(heard.readings) == len(sent), timeout=20_000)
    assert heard.readings == sent and not heard.troubles
    link.reading.disconnect()
    for mm in range(MOST_WAITING + 1):
        link._handle_reading(Reading(mm, float(mm), "mm"))
    (told,) = heard.troubles
    assert "50 mm was not taken" in told


def test_silent_device_is_given_up_without_hang(link: DeviceLink, qtbot: QtBot) -> None:
    master, slave = pty.openpty()
    tty.setraw(slave)
    heard = Heard(link)
    link._silence.setInterval(200)
    link.open(os.ttyname(slave))
    qtbot.waitUntil(lambda: bool(heard.troubles), timeout=20_000)
    assert "has been silent" in heard.troubles[0] and not link.is_open
    os.close(master)
    os.close(slave)


@pytest.mark.parametrize("hello", ["HELLO scale 1\n", "HELLO caliper 7\n"])
def test_another_device_is_not_used(link: DeviceLink, qtbot: QtBot, hello: str) -> None:
    master, slave = pty.openpty()
    tty.setraw(slave)
    heard = Heard(link)
    link.open(os.ttyname(slave))
    os.write(master, hello.encode() + reading_line(1, 9.0).encode())
    qtbot.waitUntil(lambda: bool(heard.troubles), timeout=20_000)
    assert "Bambola needs" in heard.troubles[0] and not link.is_open and not heard.readings
    os.close(master)
    os.close(slave)


def test_port_that_is_not_there_is_refused_in_words(link: DeviceLink) -> None:
    heard = Heard(link)
    assert not link.open("/dev/no-such-port")
    assert heard.troubles[0].startswith("/dev/no-such-port: the caliper cannot be opened")
    assert isinstance(ports(), list)


def test_another_can_be_opened_while_one_is_open(
    link: DeviceLink, caliper: Caliper, qtbot: QtBot
) -> None:
    heard, other = Heard(link), Caliper()
    link.open(caliper.where)
    link.open(other.where)
    caliper.press(1.0)
    other.press(2.0)
    qtbot.waitUntil(lambda: heard.readings == [2.0], timeout=20_000)
    other.unplug()


def test_weight_from_caliper_is_not_taken_for_length(link: DeviceLink, qtbot: QtBot) -> None:
    master, slave = pty.openpty()
    tty.setraw(slave)
    heard = Heard(link)
    link.open(os.ttyname(slave))
    os.write(master, reading_line(1, 31.0, "g").encode() + reading_line(2, 1.0, "in").encode())
    qtbot.waitUntil(lambda: heard.readings == [25.4], timeout=20_000)
    assert len(heard.troubles) == 1 and "in g" in heard.troubles[0]
    os.close(master)
    os.close(slave)

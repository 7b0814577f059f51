"""The simulated scale at the other end of a real pseudo-terminal, and its lines."""

from __future__ import annotations

import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from bambola.devices.link import DeviceLink
from bambola.devices.protocol import (
    LineSplitter,
    Range,
    UnreadableLine,
    Weight,
    checksum,
    parse_message,
    range_line,
    weight_line,
)
from bambola.devices.simulated import show_at_hand


@given(st.floats(-500, 5000), st.sampled_from(["steady", "moving", "over"]), st.integers(0, 3))
def test_weight_comes_over_line_as_it_was(grams: float, state: str, places: int) -> None:
    (said,) = LineSplitter().feed(weight_line(grams, state, places).encode())
    assert isinstance(said, Weight) and said.state == state
    assert said.grams == pytest.approx(grams, abs=0.51 * 10**-places)


@pytest.mark.parametrize(
    "text",
    ["WEIGHT 1.0 g steady", "WEIGHT 1e9 g steady 00", "WEIGHT 1.0 kg steady 12", "WEIGHT nan g over 00",
     "RANGE 0 500 g 00", "RANGE 10 1 g 00", "WEIGHT 900000.0 g steady 00"],
)  # fmt: skip
def test_spoilt_weight_is_never_taken(text: str) -> None:
    for line in (text, f"{text.rpartition(' ')[0]} {checksum(text.rpartition(' ')[0])}"):
        assert isinstance(parse_message(line.encode()), UnreadableLine)
    good = weight_line(12.3, "steady").strip().encode()
    for i in range(len(good)):
        spoilt = good[:i] + bytes([good[i] ^ 1]) + good[i + 1 :]
        assert not isinstance(parse_message(spoilt), Weight)
    assert parse_message(range_line(0.01, 200).strip().encode()) == Range(0.01, 200.0)


def test_shipped_scale_settles_overloads_and_is_missed(qtbot: QtBot) -> None:
    program = subprocess.Popen(
        [sys.executable, "-m", "bambola.devices.simulated_scale", "--plain", "--capacity", "50"],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert program.stdin and program.stdout and program.stderr
    link = DeviceLink("scale")
    weights: list[Weight] = []
    ranges: list[Range] = []
    troubles: list[str] = []
    link.weight.connect(weights.append)
    link.range.connect(ranges.append)
    link.trouble.connect(troubles.append)
    assert link.open(program.stdout.readline().strip())

    def say(word: str) -> None:
        assert program.stdin
        program.stdin.write(f"{word}\n")
        program.stdin.flush()

    say("load 12.3")
    qtbot.waitUntil(lambda: bool(weights) and weights[-1].state == "steady", timeout=20_000)
    assert weights[-1].grams == pytest.approx(12.3, abs=0.15)
    qtbot.waitUntil(lambda: ranges == [Range(0.1, 50.0)] * max(1, len(ranges)), timeout=20_000)
    say("add 60")
    qtbot.waitUntil(lambda: weights[-1].state == "over", timeout=20_000)
    say("load 7")
    say("tare")
    say("rubbish")
    say("fly")
    assert "write load" in program.stderr.readline()
    say("off")
    qtbot.waitUntil(lambda: bool(troubles), timeout=20_000)
    assert "scale" in troubles[0] and not link.is_open
    program.wait(20)


def test_simulated_device_stays_over_window_it_is_used_with(qtbot: QtBot) -> None:
    """It covered the portions, and was gone behind the window at the first press there."""
    window = QWidget()
    qtbot.addWidget(window)
    window.setFixedSize(240, 200)
    show_at_hand(window)
    assert window.windowFlags() & Qt.WindowType.WindowStaysOnTopHint
    screen = window.screen()
    assert screen is not None
    room, box = screen.availableGeometry(), window.frameGeometry()
    assert room.contains(box) and room.bottom() - box.bottom() < 80 > room.right() - box.right()

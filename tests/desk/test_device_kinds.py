"""A device is added whole: with its simulator, its page, a reader of its lines and a station that uses it."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.shell.window import Window
from bambola.devices.kinds import DEVICES, DeviceKind
from bambola.devices.protocol import Hello, parse_message

PAGE = (Path(__file__).parents[2] / "docs/devices.md").read_text(encoding="utf-8")


@pytest.mark.parametrize("kind", DEVICES)
def test_device_has_simulator_page_and_reader(kind: DeviceKind) -> None:
    device = DEVICES[kind]
    assert callable(device.simulator().main)
    assert f"\n## {device.chapter}\n" in PAGE and f"bambola-{kind}" in PAGE
    assert parse_message(f"HELLO {kind} 1".encode()) == Hello(kind, 1)


def test_every_device_is_used_by_a_station(window: Window) -> None:
    while window.pages.make_next():
        pass
    rows = [row for row in window.findChildren(QWidget) if isinstance(row, DeviceRow)]
    assert {row.kind for row in rows} == set(DEVICES)

"""The base of simulated devices: a pseudo-terminal, hello and alive messages, and a plug."""

from __future__ import annotations

import contextlib
import os
import pty
import threading
import time
import tty
from typing import TYPE_CHECKING

from bambola.devices.protocol import VERSION

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QWidget


FRAME_PX = 28
"""Room for the frame that is put round a window."""


class SimulatedDevice:
    """The device's side of a simulated serial line."""

    def __init__(self, kind: str) -> None:
        self._master, self._slave = pty.openpty()
        tty.setraw(self._slave)
        os.set_blocking(self._master, False)
        self.where = os.ttyname(self._slave)
        self.is_on = True
        self.send(f"HELLO {kind} {VERSION}\n")
        threading.Thread(target=self._keep_alive, daemon=True).start()

    def send(self, line: str) -> None:
        """Send a line; one that nobody reads is lost, as on a real wire."""
        with contextlib.suppress(OSError):
            os.write(self._master, line.encode("ascii", "replace"))

    def send_noise(self) -> None:
        """Send noise, like a loose cable."""
        self.send("RE\x7f\x01AD 9z 1#.2\n")

    def unplug(self) -> None:
        """Unplug the device."""
        if self.is_on:
            self.is_on = False
            os.close(self._slave)
            os.close(self._master)

    def _keep_alive(self) -> None:
        while self.is_on:
            self.send("ALIVE\n")
            time.sleep(1.0)


def show_at_hand(window: QWidget) -> None:
    """Show a device's window on top of the others in the lower right corner, where it covers nothing
    needed."""
    from PyQt6.QtCore import Qt

    window.setWindowFlag(Qt.WindowType.WindowStaysOnTopHint)
    window.adjustSize()
    screen = window.screen()
    if screen is not None:
        room = screen.availableGeometry()
        # What frames a window is not known before it is shown.
        window.move(
            room.right() - window.width() - FRAME_PX, room.bottom() - window.height() - FRAME_PX
        )
    window.show()

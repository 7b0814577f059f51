"""What is as large as the real thing: the packet on paper, and the glass to hold the work against.

Both lay out pages or screens of their own; they are loaded when they are asked for.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from bambola.desk.shell.window import Window


def ask_print(window: Window) -> None:
    """The packet: everything on paper, with a preview."""
    from bambola.desk.shell.packet_dialog import PacketDialog

    PacketDialog(window, window.studio, window.theme, window.settings, window.splits()).exec()


def hold_here(window: Window) -> None:
    """The part in hand at true size on the glass, to hold the work against."""
    from bambola.desk.kit.hold_view import HoldView

    part = window.studio.selection.part
    HoldView(window, window.studio, window.theme, window.true_size, part).exec()

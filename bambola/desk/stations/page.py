"""What the window asks of a station's page."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from bambola.core.figure import Sight
from bambola.core.relief import Camera
from bambola.desk.kit.deed import Menu


class Page(QWidget):
    """A station's page. Where it has nothing of its own, the window does it in its stead."""

    has_thread = True
    """Whether the thread of the order runs along its foot."""

    def menu(self) -> Menu | None:
        """A menu of its own, whose deeds are done here."""
        return None

    def look(self, view: Sight, camera: Camera) -> bool:
        """See the figure from another side; whether the page has one of its own to show."""
        return False

    @property
    def seen_from(self) -> Camera | None:
        """From where its own figure is seen."""
        return None

    def close_down(self) -> None:
        """Let go of what is still running."""

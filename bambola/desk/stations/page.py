"""What the window asks of a station's page."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ClassVar, TypeAlias

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from bambola.core.figure import Sight
from bambola.core.relief import Camera


@dataclass(frozen=True, slots=True)
class PageDeed:
    """An entry of a station's own menu: what it does, is done to its page."""

    name: str
    words: str
    do: Callable[[Any], object]
    keys: str = ""


StationMenu: TypeAlias = tuple[str, tuple[PageDeed | None, ...]]
"""A station's own menu: its title and deeds; None draws a line between them."""


class Page(QWidget):
    """A station's page, made when the station is first gone to. Where it has nothing of its own, the window
    does it in its stead."""

    has_thread: ClassVar[bool] = True
    """Whether the thread of the order runs along its foot."""
    view_changed = pyqtSignal()
    """Its figure is seen from another side."""
    lesson_asked = pyqtSignal(int)
    """Another lesson is to begin, by its number."""

    def look(self, view: Sight, camera: Camera) -> bool:
        """See the figure from another side; whether the page has one of its own to show."""
        return False

    def take_keys(self) -> None:
        """Have the keys where hands are first."""

    @property
    def seen_from(self) -> Camera | None:
        """From where its own figure is seen."""
        return None

    def close_down(self) -> None:
        """Let go of what is still running."""

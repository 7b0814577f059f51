"""The interface between the window and a station's page."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ClassVar, TypeAlias

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from bambola.core.figure import Sight
from bambola.core.relief import Camera


class TrueSizeWheel(QObject):
    """Watches the wheel over views: Ctrl with the wheel up switches to true size, down switches back."""

    wished = pyqtSignal(bool)

    def __init__(self, owner: QWidget, *views: QWidget) -> None:
        super().__init__(owner)
        for view in views:
            inner = view.viewport() if isinstance(view, QAbstractScrollArea) else None
            (inner or view).installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if not isinstance(event, QWheelEvent):
            return False
        turned = event.angleDelta().y()
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier or not turned:
            return False
        self.wished.emit(turned > 0)
        return True


@dataclass(frozen=True, slots=True)
class PageAction:
    """An entry of a station's own menu, acting on its page."""

    name: str
    words: str
    do: Callable[[Any], object]
    keys: str = ""


StationMenu: TypeAlias = tuple[str, tuple[PageAction | None, ...]]
"""A station's own menu: its title and actions; None draws a line between them."""


class Page(QWidget):
    """A station's page, created when the station is first opened. Where it returns nothing, the window acts
    instead."""

    has_thread: ClassVar[bool] = True
    """Whether the thread of the order runs along its foot."""
    view_changed = pyqtSignal()
    """Its figure is seen from another side."""
    true_size_wished = pyqtSignal(bool)
    """What is under the hand is to be shown at true size, or as before."""
    making_asked = pyqtSignal()
    """The figure is to be made, step by step."""
    book_asked = pyqtSignal(str)
    """The page of a making is to be opened, by its id."""
    set_printed = pyqtSignal(tuple)
    """The figure is to be printed at several heights (mm), as one pattern."""
    lesson_asked = pyqtSignal(int)
    """Another lesson is to begin, by its number."""

    @property
    def guide(self) -> str | None:
        """Its present page of the guide, if that is not its station's."""
        return None

    def turn_to(self, view: Sight, camera: Camera) -> bool:
        """Show the figure from another side; return whether the page has a figure of its own."""
        return False

    def at_true_size(self, on: bool | None) -> bool:
        """Show strips or bundles at true size, or as before (None toggles); return whether the page has
        any."""
        return False

    def wheel_over(self, *views: QWidget) -> None:
        """Let Ctrl with the wheel over these widgets switch to true size."""
        TrueSizeWheel(self, *views).wished.connect(self.true_size_wished)

    def take_keys(self) -> None:
        """Focus the widget that is used first."""

    @property
    def seen_from(self) -> Camera | None:
        """The side its own figure is seen from."""
        return None

    def close_down(self) -> None:
        """Stop everything running in the background."""

"""*Find*: a field that finds a part, a step, a wool or an action of the menus by its words."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QMenu, QVBoxLayout

from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import set_spacing
from bambola.desk.shell.stations import MEASURE, ORDER, WOOL
from bambola.desk.stations.menus import SHELF
from bambola.language import tr

if TYPE_CHECKING:
    from bambola.desk.shell.frame import Frame

_MOST_ROWS = 60


class FindTarget:
    """Something that can be found: its words, its kind, and the function that goes there."""

    def __init__(self, words: str, kind: str, go: Callable[[], None]) -> None:
        self.words, self.kind, self.go = words, kind, go
        self.folded = f"{words} {kind}".casefold()


def targets_of(window: Frame, menus: Mapping[str, QMenu]) -> Iterator[FindTarget]:
    """Yield everything that can be found at present: of the open figure first, then the actions of ``menus``,
    which are given by their titles."""
    studio = window.studio
    if studio.figure is not None:
        for part in studio.figure.parts:
            yield FindTarget(part.name, tr("part"), lambda id=part.id: _go_to_part(window, id))  # type: ignore[misc]
    if studio.plan is not None:
        for step in studio.plan.steps:
            told = f"{step.n}. {studio.say(step.text)}"
            yield FindTarget(told, tr("step"), lambda key=str(step.key): _go_to_step(window, key))  # type: ignore[misc]
    for wool in studio.bench.wools:
        yield FindTarget(wool.name, tr("wool"), lambda id=wool.id: _go_to_wool(window, id))  # type: ignore[misc]
    for title, menu in menus.items():
        for action in menu.actions():
            if action.text() and action.isEnabled() and action.menu() is None:
                words = action.text().replace("&", "")
                yield FindTarget(words, menu.title().replace("&", "") or title, action.trigger)


def _go_to_part(window: Frame, part: str) -> None:
    if window.station < 0 or not window.pages[window.station].has_thread:
        window.go_to(MEASURE)
    window.studio.selection.select_part(part)


def _go_to_step(window: Frame, key: str) -> None:
    window.go_to(ORDER)
    window.studio.selection.select_step(key)


def _go_to_wool(window: Frame, wool: str) -> None:
    window.go_to(WOOL)
    window.wool_station.show_face(SHELF)
    window.studio.selection.select_wool(wool)


class FindDialog(FittedDialog):
    """A field over a list of what it finds; Enter goes to the selected row."""

    def __init__(self, window: Frame, menus: Mapping[str, QMenu]) -> None:
        super().__init__(window)
        self.setWindowTitle(tr("Find"))
        self.targets = list(targets_of(window, menus))
        self.field, self.list = QLineEdit(), QListWidget()
        self.field.setAccessibleName(tr("Find a part, a step, a wool or an action"))
        self.field.setPlaceholderText(tr("part, step, wool or action"))
        self.list.setAccessibleName(tr("What was found"))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.list, 1)
        set_spacing(window.theme, column, (16, 16, 16, 16), gap=8)
        self.field.textChanged.connect(self.search)
        self.field.returnPressed.connect(self.go)
        self.list.itemActivated.connect(lambda _: self.go())
        self.list.itemClicked.connect(lambda _: self.go())
        self.set_size(window.theme, 560, 420)
        self.search("")

    def search(self, text: str) -> None:
        """List the targets that contain every word of ``text``."""
        words = text.casefold().split()
        found = [each for each in self.targets if all(word in each.folded for word in words)]
        self.list.clear()
        for each in found[:_MOST_ROWS]:
            item = QListWidgetItem(tr("{what} · {kind}", what=each.words, kind=each.kind))
            item.setData(Qt.ItemDataRole.UserRole, each)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def go(self) -> None:
        """Close, and go to the selected row."""
        item = self.list.currentItem()
        if item is not None:
            target: FindTarget = item.data(Qt.ItemDataRole.UserRole)
            self.accept()
            target.go()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrow keys move in the list while the field keeps the focus."""
        if event is not None and event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            row = self.list.currentRow() + (1 if event.key() == Qt.Key.Key_Down else -1)
            self.list.setCurrentRow(max(0, min(self.list.count() - 1, row)))
        else:
            super().keyPressEvent(event)

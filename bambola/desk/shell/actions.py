"""The actions of the window, made from the deeds of its menus."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtGui import QAction, QActionGroup, QKeySequence
from PyQt6.QtWidgets import QMainWindow, QMenu

from bambola.desk.kit.menu_action import Menu, MenuAction
from bambola.language import tr


class Actions:
    """The window's actions by name."""

    def __init__(self, window: QMainWindow, menus: Sequence[Menu]) -> None:
        self.deeds = [deed for _, entries in menus for deed in entries if deed]
        self.by_name: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        self._window = window
        self._groups: dict[str, QActionGroup] = {}
        bar = window.menuBar()
        assert bar is not None
        for title, entries in menus:
            menu = bar.addMenu(tr(title))
            assert menu is not None
            self.menus[title.replace("&", "")] = menu
            for deed in entries:
                if deed is None:
                    menu.addSeparator()
                else:
                    menu.addAction(self._action(deed))

    def _action(self, deed: MenuAction) -> QAction:
        action = QAction(tr(deed.words), self._window)
        if deed.keys:
            action.setShortcut(QKeySequence(deed.keys))
        action.setCheckable(bool(deed.switch))
        if deed.switch and deed.switch != "alone":
            group = self._groups.setdefault(deed.switch, QActionGroup(self._window))
            group.addAction(action)
        action.triggered.connect(lambda _=False: deed.do())
        self.by_name[deed.name] = action
        return action

    def enable(self, figure: bool) -> None:
        """Offer what can be done with a figure on the table, or without."""
        for deed in self.deeds:
            if deed.needs_figure:
                self.by_name[deed.name].setEnabled(figure)

    def __getitem__(self, name: str) -> QAction:
        return self.by_name[name]

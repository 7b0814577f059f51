"""The window: a frame with its menus, and what these show of how it stands."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtGui import (
    QAction,
    QActionGroup,
    QContextMenuEvent,
    QKeySequence,
    QResizeEvent,
)
from PyQt6.QtWidgets import QMainWindow, QMenu

from bambola.desk.kit.menu_action import Menu, MenuAction
from bambola.desk.kit.views import VIEWS
from bambola.desk.running.crash_log import log_error
from bambola.desk.shell.frame import Frame
from bambola.desk.shell.menus import menus_of
from bambola.desk.shell.notes import new_from_notes
from bambola.desk.shell.stations import RESIZE, STATIONS
from bambola.desk.stations.page import Page
from bambola.language import N_, tr


class Actions:
    """The window's actions by name."""

    def __init__(self, window: QMainWindow, menus: Sequence[Menu]) -> None:
        self.menu_actions = [entry for _, entries in menus for entry in entries if entry]
        self.by_name: dict[str, QAction] = {}
        self.menus: dict[str, QMenu] = {}
        self._window = window
        self._groups: dict[str, QActionGroup] = {}
        bar = window.menuBar()
        assert bar is not None
        self.more = QMenu("»", window)
        for title, entries in menus:
            menu = bar.addMenu(tr(title))
            assert menu is not None
            self.menus[title.replace("&", "")] = menu
            for entry in entries:
                if entry is None:
                    menu.addSeparator()
                else:
                    menu.addAction(self._make_action(entry))
        bar.addMenu(self.more)

    def _make_action(self, entry: MenuAction) -> QAction:
        action = QAction(tr(entry.words), self._window)
        if entry.keys:
            action.setShortcut(QKeySequence(entry.keys))
        action.setCheckable(bool(entry.switch))
        if entry.switch and entry.switch != "alone":
            group = self._groups.setdefault(entry.switch, QActionGroup(self._window))
            group.addAction(action)
        action.triggered.connect(lambda _=False: entry.do())
        self.by_name[entry.name] = action
        return action

    def fit_bar(self, room: int) -> None:
        """Put the menus that do not fit into ``room`` px behind a mark at the end of the bar."""
        bar = self._window.menuBar()
        assert bar is not None
        titles = [action for menu in self.menus.values() if (action := menu.menuAction())]
        more = self.more.menuAction()
        assert more is not None
        metrics, edge = bar.fontMetrics(), 2 * bar.fontMetrics().averageCharWidth() + 10
        widths = [
            metrics.horizontalAdvance(action.text().replace("&", "")) + edge for action in titles
        ]
        mark = metrics.horizontalAdvance(self.more.title()) + edge
        shown = len(titles)
        while shown > 1 and sum(widths[:shown]) + (mark if shown < len(titles) else 0) > room:
            shown -= 1
        self.more.clear()
        for n, action in enumerate(titles):
            if n < shown:
                bar.insertAction(more, action)
            else:
                bar.removeAction(action)
                self.more.addAction(action)
        more.setVisible(shown < len(titles))

    def enable(self, figure: bool) -> None:
        """Offer what can be done with a figure on the table, or without."""
        for entry in self.menu_actions:
            if entry.needs_figure:
                self.by_name[entry.name].setEnabled(figure)

    def __getitem__(self, name: str) -> QAction:
        return self.by_name[name]


class Window(Frame):
    """One window, one figure."""

    def _add_menus(self) -> None:
        self.actions_ = Actions(self, menus_of(self))
        self.menu_actions = self.actions_.menu_actions
        self._join_up()
        self._show_files()
        self.theme.changed.connect(self._fit_menus)
        self.resize_station.take_keys()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """Offer the menu of what is shown: of the station, or of the file."""
        if event is None:
            return
        menu = STATIONS[self.station].menu if self.station >= 0 else None
        usual = N_("&Edit") if self.station >= 0 else N_("&File")
        title = (menu[0] if menu else usual).replace("&", "")
        self.actions_.menus[title].popup(event.globalPos())
        event.accept()

    def ask_find(self) -> None:
        """Ask for a part, a step, a wool or an action, and go there."""
        from bambola.desk.shell.find import FindDialog

        FindDialog(self, self.actions_.menus).exec()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit_menus()

    def _fit_menus(self) -> None:
        self.actions_.fit_bar(self.width() - self.theme.px(40))

    def go_to(self, index: int) -> None:
        """Go to a station."""
        super().go_to(index)
        if self.studio.plan is not None:
            self.actions_[f"station_{index}"].setChecked(True)
            self._sync_switches()

    def _join_up(self) -> None:
        studio, edit = self.studio, self.actions_.menus["Edit"]
        # Qt does not keep these for us: unless we do, they go with the next collection.
        self._history: list[QAction] = []
        for make, words, keys in (
            (studio.undo_stack.createRedoAction, tr("Redo"), "Ctrl+Shift+Z"),
            (studio.undo_stack.createUndoAction, tr("Undo"), "Ctrl+Z"),
        ):
            action = make(self, words)
            assert action is not None
            action.setShortcut(keys)
            edit.insertAction(edit.actions()[0], action)
            self._history.append(action)
        edit.insertSeparator(edit.actions()[2])
        self.recent_menu = self.actions_.menus["File"].addMenu(tr("Open &recent"))
        assert self.recent_menu is not None
        self.actions_.menus["File"].insertMenu(self.actions_["save"], self.recent_menu)
        studio.refused.connect(lambda text: self.message.say(text, serious=True))
        studio.planning_slowly.connect(self._tell_planning)
        self.darkroom.spoilt.connect(
            lambda _, error: self.message.say(log_error(error), serious=True)
        )
        studio.file_changed.connect(self._show_files)
        studio.figure_changed.connect(self._figure_on_table)
        studio.selection.part_changed.connect(self._sync_hold)
        studio.plan_changed.connect(self._sync_hold)
        studio.bench_changed.connect(self._update_colours)
        studio.units_changed.connect(self._sync_switches)
        self.looks.changed.connect(self._sync_switches)
        self.looks.later.connect(self._say_language)
        self.header.path.taken.connect(lambda row, _: self.go_to(row))
        self.header.badge.asked.connect(self.go_to_question)
        self.welcome.open_asked.connect(lambda: self.files.ask_open())
        self.welcome.demo_asked.connect(self.open_demo)
        self.welcome.new_asked.connect(self.new_figure)
        self.welcome.learn_asked.connect(lambda: self.learn())
        self.start_page.started.connect(self.start_with)
        self.start_page.pictures_chosen.connect(self.start_with_pictures)
        self.start_page.notes_asked.connect(lambda: new_from_notes(self))
        self.start_page.put_away.connect(self._leave_start)
        self.welcome.recent_asked.connect(lambda path: self.files.open_path(Path(path)))
        self.welcome.going_on_asked.connect(self.go_on_with)
        self.files.said.connect(self.message.say)
        self.files.picture_given.connect(self.new_figure_from)
        self.files.splits = self.splits
        self.files.opened.connect(self._on_opened)
        self.files.leaving.connect(self._keep_picture)
        self._sync_switches()

    def _join_page(self, page: Page) -> None:
        super()._join_page(page)
        page.view_changed.connect(self._sync_switches)

    # Showing

    def _on_opened(self) -> None:
        self.message.hide()
        self._show_files()

    def _figure_on_table(self) -> None:
        self.go_to(self.station if self.station >= 0 else RESIZE)

    def _show_files(self) -> None:
        studio, have = self.studio, self.studio.figure is not None
        if not have and self.station >= 0:
            self.stack.setCurrentIndex(0)
        name = studio.path.name if studio.path else (studio.figure.name if studio.figure else "")
        self.setWindowTitle(f"{name}[*] – Bambola" if name else "Bambola[*]")
        self.setWindowModified(not studio.is_saved)
        self.thread_strip.setVisible(
            have and (self.station < 0 or self.pages[self.station].has_thread)
        )
        self.header.path.setVisible(have)
        self.actions_.enable(have)
        assert self.recent_menu is not None
        self.recent_menu.clear()
        for path in self.settings.recent:
            entry = self.recent_menu.addAction(Path(path).name)
            assert entry is not None
            entry.setToolTip(path)
            entry.triggered.connect(lambda _=False, path=path: self.files.open_path(Path(path)))
        self.recent_menu.setEnabled(bool(self.settings.recent))
        if not have:
            self.welcome.show_designs(self.settings.recent, self.bench_desk.half_made)

    def _sync_hold(self) -> None:
        held = bool(self.studio.selection.part and self.studio.is_held(self.studio.selection.part))
        self.actions_["hold"].setText(
            tr("Let the part scale again") if held else tr("Hold the part as &made")
        )

    def _tell_planning(self, slowly: bool) -> None:
        words = tr("Working it out…")
        if slowly:
            self.message.say(words, serious=False)
        elif self.message.text == words:
            self.message.hide()

    def _say_language(self) -> None:
        self.message.say(tr("The language changes when you next start Bambola."), serious=False)
        self._sync_switches()

    def _sync_switches(self) -> None:
        units = self.studio.units
        for name in (
            f"language_{self.settings.language or 'system'}",
            f"length_{units.length}",
            f"mass_{units.mass}",
            f"fraction_{units.inch_fraction}",
        ):
            self.actions_[name].setChecked(True)
        own = self.pages[self.station].seen_from if self.station >= 0 else None
        camera = own or self.resize_station.table.camera
        for name, _, seen in VIEWS:
            self.actions_[f"view_{name}"].setChecked(seen == camera)
        self.actions_["dark"].setChecked(self.theme.dark)

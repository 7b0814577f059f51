"""The connection to a device on a serial port, real or simulated."""

from __future__ import annotations

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QInputDialog, QLabel, QMenu, QPushButton, QWidget

from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme
from bambola.desk.running.children import ChildProcess
from bambola.desk.session.studio import EditorSession
from bambola.devices.kinds import DEVICES, DeviceKind
from bambola.devices.link import DeviceLink, ports
from bambola.language import tr


class DeviceRow(QWidget):
    """Connects one kind of device, real or simulated; its ``link`` delivers what it sends. ``does`` says what
    a connected one is good for."""

    def __init__(self, studio: EditorSession, theme: Theme, kind: DeviceKind, does: str) -> None:
        super().__init__()
        self.studio, self.theme, self.kind, self._does = studio, theme, kind, does
        self.link = DeviceLink(kind, self)
        self._process: ChildProcess | None = None
        self._told = QLabel()
        self._told.setWordWrap(True)
        self.button = QPushButton()
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self._fill_menu(menu))
        self.button.setMenu(menu)
        row = FlowLayout(self)
        row.addWidget(self._told)
        row.addWidget(self.button)
        row.set_end(1)
        self.link.trouble.connect(studio.refused)
        self.link.state_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show whether a device is connected."""
        where = self.link.where if self.link.is_open else ""
        self._told.setText(
            tr(
                "{title} at {where}: {does}.",
                title=tr(DEVICES[self.kind].title),
                where=where,
                does=self._does,
            )
            if where
            else tr("No {kind:lower} is connected.", kind=tr(DEVICES[self.kind].title))
        )
        self.button.setText(tr(DEVICES[self.kind].title))
        self.button.setAccessibleName(
            tr("Connect a {kind:lower}", kind=tr(DEVICES[self.kind].title))
        )

    def _fill_menu(self, menu: QMenu) -> None:
        menu.clear()
        for where, name in ports():
            self._add_offer(menu, f"{where}  {name}", lambda where=where: self.link.open(where))
        self._add_offer(menu, tr("Another port…"), self._ask_port)
        self._add_offer(
            menu,
            tr("The simulated {kind:lower}", kind=tr(DEVICES[self.kind].title)),
            self.start_simulated,
        )
        if self.link.is_open:
            self._add_offer(menu, tr("Put it away"), self.close_link)

    def _add_offer(self, menu: QMenu, words: str, do: object) -> None:
        action = QAction(words, menu)
        assert callable(do)
        action.triggered.connect(lambda _=False: do())
        menu.addAction(action)

    def _ask_port(self) -> None:
        where, taken = QInputDialog.getText(
            self, tr(DEVICES[self.kind].title), tr("Port"), text="/dev/ttyUSB0"
        )
        if taken and where.strip():
            self.link.open(where.strip())

    def start_simulated(self, plain: bool = False, more: tuple[str, ...] = ()) -> None:
        """Start a simulated device as a program of its own and connect to it."""
        arguments = [*(["--plain"] if plain else []), *more]
        process = ChildProcess(self)

        def open_port(line: bytes) -> None:
            if where := line.decode(errors="replace").strip():
                process.line_read.disconnect(open_port)
                process.ended.disconnect()  # from now on the link tells of its end
                self.link.open(where)

        process.line_read.connect(open_port)
        process.ended.connect(
            lambda: self.studio.refused.emit(
                tr(
                    "The simulated {kind:lower} could not be started.",
                    kind=tr(DEVICES[self.kind].title),
                )
            )
        )
        self._process = process
        process.start(DEVICES[self.kind].simulator().__name__, *arguments)

    @property
    def simulated(self) -> ChildProcess | None:
        """The simulated device's process, if one was started."""
        return self._process

    def close_link(self) -> None:
        """Disconnect, and end a simulated one that was started here."""
        self.link.close()
        if self._process is not None:
            process, self._process = self._process, None
            process.end()

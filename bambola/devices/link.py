"""The connection to a measuring device on a serial port."""

from __future__ import annotations

from collections import deque
from typing import TYPE_CHECKING, assert_never

from PyQt6.QtCore import QIODevice, QObject, QTimer, pyqtSignal

from bambola.devices.kinds import DEVICES, DeviceKind
from bambola.devices.protocol import (
    SILENT_S,
    VERSION,
    Alive,
    Hello,
    LineSplitter,
    Message,
    Range,
    Reading,
    Repeats,
    UnreadableLine,
    Weight,
)
from bambola.language import tr

if TYPE_CHECKING:
    from PyQt6.QtSerialPort import QSerialPort

BAUD = 9600
_PATIENCE = 3
MOST_WAITING = 50
"""So many readings wait for the one before them to be entered. Judged."""


def ports() -> list[tuple[str, str]]:
    """Return the serial ports of this computer with their names; empty if none is usable."""
    try:
        from PyQt6.QtSerialPort import QSerialPortInfo
    except ImportError:  # a library that it needs is not on every machine
        return []
    return [
        (info.systemLocation(), info.description() or info.portName())
        for info in QSerialPortInfo.availablePorts()
    ]


class DeviceLink(QObject):
    """The connection to one device at a time; ``trouble`` reports errors in one sentence.

    Readings are delivered outside the port's own signal, one after the other: a receiver may take longer than
    the next reading, which waits for it. Those that find :data:`MOST_WAITING` waiting are told as not taken.
    """

    reading = pyqtSignal(float)
    weight = pyqtSignal(object)
    range = pyqtSignal(object)
    trouble = pyqtSignal(str)
    state_changed = pyqtSignal()

    def __init__(self, kind: DeviceKind, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.kind, self.where = kind, ""
        self._port: QSerialPort | None = None
        self._lines, self._repeats = LineSplitter(), Repeats()
        self._rubbish = 0
        self._waiting: deque[float] = deque()
        self._turn = QTimer(self)
        self._turn.setSingleShot(True)
        self._turn.setInterval(0)
        self._turn.timeout.connect(self._hand_on)
        self._silence = QTimer(self)
        self._silence.setSingleShot(True)
        self._silence.setInterval(round(SILENT_S * 1000))
        self._silence.timeout.connect(self._gone_silent)

    @property
    def is_open(self) -> bool:
        """Whether a device is connected."""
        return self._port is not None

    def open(self, where: str) -> bool:
        """Connect to the port at ``where``, or report why not."""
        self.close()
        try:
            from PyQt6.QtSerialPort import QSerialPort
        except ImportError as error:
            self.trouble.emit(
                tr(
                    "Serial ports cannot be used on this computer ({reason}): type what the {kind} "
                    "shows.",
                    reason=error,
                    kind=self.kind,
                )
            )
            return False
        port = QSerialPort(self)
        port.setPortName(where)
        port.setBaudRate(BAUD)
        if not port.open(QIODevice.OpenModeFlag.ReadOnly):
            reason = port.errorString() or tr("it does not answer")
            self.trouble.emit(
                tr(
                    "{where}: the {kind} cannot be opened ({reason}).",
                    where=where,
                    kind=self.kind,
                    reason=reason,
                )
            )
            port.deleteLater()
            return False
        self._port, self.where = port, where
        self._lines, self._repeats, self._rubbish = LineSplitter(), Repeats(), 0
        port.readyRead.connect(self._read_port)
        port.errorOccurred.connect(self._on_port_error)
        self._silence.start()
        self.state_changed.emit()
        return True

    def close(self) -> None:
        """Disconnect."""
        self._silence.stop()
        self._turn.stop()
        self._waiting.clear()
        if self._port is None:
            return
        port, self._port = self._port, None
        port.errorOccurred.disconnect(self._on_port_error)
        port.close()
        port.deleteLater()
        self.state_changed.emit()

    def _read_port(self) -> None:
        if self._port is None:
            return
        for message in self._lines.feed(self._port.readAll().data()):
            self._handle_message(message)

    def _handle_message(self, message: Message) -> None:
        if self._port is None:
            return
        if isinstance(message, UnreadableLine):
            self._handle_rubbish(message)
            return
        self._silence.start()
        if not isinstance(message, Alive):
            self._rubbish = 0
        match message:
            case Alive():
                pass
            case Hello():
                self._repeats.forget()
                self._handle_hello(message)
            case Weight():
                self.weight.emit(message)
            case Range():
                self.range.emit(message)
            case Reading():
                if self._repeats.is_new(message):
                    self._handle_reading(message)
            case _:
                assert_never(message)

    def _handle_rubbish(self, line: UnreadableLine) -> None:
        self._rubbish += 1
        if self._rubbish == _PATIENCE:
            self.trouble.emit(
                tr(
                    "The data from {where} cannot be read ({why}): it may be another device, or the"
                    " cable is loose. Nothing was recorded.",
                    where=self.where,
                    why=line.why,
                )
            )

    def _handle_reading(self, said: Reading) -> None:
        wanted = DEVICES[self.kind].unit
        if said.unit != wanted:
            self.trouble.emit(
                tr(
                    "The {kind} at {where} sent a reading in {unit}; a {kind} measures in {wanted}."
                    " It was ignored.",
                    kind=self.kind,
                    where=self.where,
                    unit=said.unit,
                    wanted=wanted,
                )
            )
            return
        if len(self._waiting) >= MOST_WAITING:
            told = tr(
                "The {kind} at {where} sends faster than can be entered: {value:g} {unit} was not taken.",
                kind=self.kind,
                where=self.where,
                value=said.value,
                unit=said.unit,
            )
            self.trouble.emit(told)
            return
        self._waiting.append(said.value)
        self._turn.start()

    def _hand_on(self) -> None:
        if self._waiting:
            value = self._waiting.popleft()
            if self._waiting:
                self._turn.start()
            self.reading.emit(value)

    def _handle_hello(self, hello: Hello) -> None:
        if hello.kind != self.kind or hello.version > VERSION:
            where = self.where
            self.close()
            self.trouble.emit(
                tr(
                    "The device at {where} is a {kind} with protocol {version}; Bambola needs a "
                    "{kind_2} with protocol {version_2}.",
                    where=where,
                    kind=hello.kind,
                    version=hello.version,
                    kind_2=self.kind,
                    version_2=VERSION,
                )
            )

    def _on_port_error(self, error: QSerialPort.SerialPortError) -> None:
        if self._port is not None and error != self._port.SerialPortError.NoError:
            self._on_disconnected(tr("was unplugged"))

    def _gone_silent(self) -> None:
        self._on_disconnected(tr("has been silent for {silent_s:.0f} seconds", silent_s=SILENT_S))

    def _on_disconnected(self, how: str) -> None:
        where = self.where
        self.close()
        self.trouble.emit(
            tr(
                "The {kind} at {where} {how}. What was taken is kept; plug it in and connect again.",
                kind=self.kind,
                where=where,
                how=how,
            )
        )

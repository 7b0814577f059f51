"""One window for one maker: a second start hands its design to the window that is open, and ends."""

from __future__ import annotations

import hashlib
import json
import os
from pathlib import Path

from platformdirs import user_data_path
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

_CONNECT_MS = 300
_ANSWER_MS = 1500
_MOST_BYTES = 20_000


def server_name() -> str:
    """What the window that is open is called: its own for each maker, data folder and screen."""
    screen = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or ""
    key = f"{os.getuid()} {user_data_path('bambola')} {screen}"
    return f"bambola-{hashlib.sha256(key.encode()).hexdigest()[:16]}"


def hand_over(design: Path | None, name: str | None = None) -> bool:
    """Hand ``design`` (None: only the wish to be seen) to the window that is open; whether it was taken."""
    socket = QLocalSocket()
    socket.connectToServer(name or server_name())
    if not socket.waitForConnected(_CONNECT_MS):
        return False
    asked = {"open": str(design.absolute()) if design else None}
    socket.write(json.dumps(asked).encode() + b"\n")
    # A window that hangs does not answer: then this start opens one of its own.
    while not socket.canReadLine():
        if not socket.waitForReadyRead(_ANSWER_MS):
            return False
    return socket.readLine().data() == b"taken\n"


class Doorkeeper(QObject):
    """Listens for later starts, and tells which design each brings (an empty text: none)."""

    came = pyqtSignal(str)

    def __init__(self, parent: QObject, name: str | None = None) -> None:
        super().__init__(parent)
        name = name or server_name()
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._open)
        if not self._server.listen(name):
            # Nobody answered there, or this start would have ended: it is what a crash left.
            QLocalServer.removeServer(name)
            self._server.listen(name)

    def _open(self) -> None:
        while (socket := self._server.nextPendingConnection()) is not None:
            socket.disconnected.connect(socket.deleteLater)
            socket.readyRead.connect(lambda socket=socket: self._hear(socket))
            self._hear(socket)

    def _hear(self, socket: QLocalSocket) -> None:
        if not socket.canReadLine():
            if socket.bytesAvailable() > _MOST_BYTES:
                socket.abort()
            return
        try:
            asked = json.loads(socket.readLine().data())
            wanted = asked.get("open") or ""
        except (ValueError, AttributeError, RecursionError):
            socket.abort()
            return
        socket.write(b"taken\n")
        socket.flush()
        self.came.emit(str(wanted))

    def close(self) -> None:
        """Let the next start open a window of its own."""
        self._server.close()

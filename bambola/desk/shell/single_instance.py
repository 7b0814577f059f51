"""One window per maker: a second start hands its design to the window that is open, and ends.

The two talk over a socket in a folder that only this user can write. Whoever answers there is still asked
who they are before a path is sent, and has a fixed time to answer.
"""

from __future__ import annotations

import hashlib
import json
import os
import socket
import stat
import struct
import tempfile
import time
from contextlib import suppress
from pathlib import Path

from platformdirs import user_data_path
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtNetwork import QLocalServer, QLocalSocket

_DEADLINE_S = 1.5
"""How long a second start waits for the answer, in all. A window that hangs does not answer: then this start
opens a window of its own. Judged."""
_MAX_BYTES = 20_000
_TAKEN = b"taken\n"
_CREDENTIALS = struct.Struct("3i")  # ucred of unix(7): process, user, group


def socket_path() -> Path | None:
    """Return where the open window listens: one socket for each user, data folder and screen.

    It lies in the user's runtime folder, or else in a folder of the user's own beside other temporary files.
    None where neither is safe: then every start opens a window of its own.
    """
    folder = _private_folder()
    if folder is None:
        return None
    screen = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or ""
    key = f"{user_data_path('bambola')} {screen}"
    return folder / f"bambola-{hashlib.sha256(key.encode()).hexdigest()[:16]}"


def _private_folder() -> Path | None:
    """Return a folder that only this user can write, or None."""
    if (runtime := os.environ.get("XDG_RUNTIME_DIR")) and _is_private(Path(runtime)):
        return Path(runtime)
    own = Path(tempfile.gettempdir()) / f"bambola-{os.getuid()}"
    with suppress(OSError):
        own.mkdir(mode=0o700)
    return own if _is_private(own) else None


def _is_private(folder: Path) -> bool:
    try:
        found = folder.lstat()
    except OSError:
        return False
    is_ours = stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid()
    return is_ours and not found.st_mode & (stat.S_IWGRP | stat.S_IWOTH)


def hand_over(design: Path | None, demo: bool = False, path: Path | None = None) -> bool:
    """Return hand a design, the demo, or only the request to be seen to the open window; return whether it
    accepted.

    ``path`` is the socket (None: the usual one). A socket of another user learns nothing.
    """
    path = path or socket_path()
    if path is None:
        return False
    request = {"open": str(design.absolute()) if design else None, "demo": demo}
    until = time.monotonic() + _DEADLINE_S
    answer = b""
    try:
        with socket.socket(socket.AF_UNIX) as line:
            line.settimeout(_DEADLINE_S)
            line.connect(os.fspath(path))
            if _owner_of(line) != os.getuid():
                return False
            line.sendall(json.dumps(request).encode() + b"\n")
            while len(answer) < len(_TAKEN) and (left := until - time.monotonic()) > 0:
                line.settimeout(left)
                if not (piece := line.recv(len(_TAKEN))):
                    break
                answer += piece
    except OSError:
        return False
    return answer == _TAKEN


def _owner_of(line: socket.socket) -> int:
    """Return the user who runs the other end."""
    raw = line.getsockopt(socket.SOL_SOCKET, socket.SO_PEERCRED, _CREDENTIALS.size)
    return int(_CREDENTIALS.unpack(raw)[1])


class InstanceServer(QObject):
    """Listens for later starts: ``asked`` tells which design each hands over (an empty text: none), and
    whether it asks for the demo."""

    asked = pyqtSignal(str, bool)

    def __init__(self, parent: QObject, path: Path | None = None) -> None:
        super().__init__(parent)
        path = path or socket_path()
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._accept_connections)
        if path is not None and not self._server.listen(os.fspath(path)):
            # Nobody answered there, or this start would have ended: a crash left it.
            QLocalServer.removeServer(os.fspath(path))
            self._server.listen(os.fspath(path))

    def _accept_connections(self) -> None:
        while (line := self._server.nextPendingConnection()) is not None:
            line.disconnected.connect(line.deleteLater)
            line.readyRead.connect(lambda line=line: self._read_request(line))
            self._read_request(line)

    def _read_request(self, line: QLocalSocket) -> None:
        if not line.canReadLine():
            if line.bytesAvailable() > _MAX_BYTES:
                line.abort()
            return
        try:
            request = json.loads(line.readLine().data())
            design, demo = request.get("open") or "", bool(request.get("demo"))
        except (ValueError, AttributeError, RecursionError):
            line.abort()
            return
        line.write(_TAKEN)
        line.flush()
        self.asked.emit(str(design), demo)

    def close(self) -> None:
        """Let the next start open a window of its own."""
        self._server.close()

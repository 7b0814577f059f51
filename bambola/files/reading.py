"""Reads regular files up to a size limit, and refuses everything else at once."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from bambola.language import N_, tr


class FileRefusedError(OSError):
    """Raised for a file that is not read; the message is one sentence."""


_KINDS = (
    (stat.S_ISDIR, N_("a folder")),
    (stat.S_ISFIFO, N_("a pipe")),
    (stat.S_ISCHR, N_("a device")),
    (stat.S_ISBLK, N_("a device")),
    (stat.S_ISSOCK, N_("a socket")),
)


def read_regular(path: Path, most: int, what: str) -> bytes:
    """Return the contents of the file at ``path``, at most ``most`` bytes; ``what`` names it in errors (such
    as "a design").

    Folders, pipes, devices and kernel files without a size are refused before a byte is read, so that nothing
    can block. Raises :class:`FileRefusedError`.
    """
    name = short_name(path)
    try:
        # A pipe without a writer would hold a plain open for ever.
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError as error:
        raise FileRefusedError(
            tr("{name}: it cannot be read ({strerror}).", name=name, strerror=error.strerror)
        ) from None
    except ValueError:
        raise FileRefusedError(tr("{name}: a file cannot have this name.", name=name)) from None
    try:
        return _read_handle(handle, name, most, what)
    except OSError as error:
        if isinstance(error, FileRefusedError):
            raise
        raise FileRefusedError(
            tr("{name}: it cannot be read ({strerror}).", name=name, strerror=error.strerror)
        ) from None
    finally:
        os.close(handle)


def _read_handle(handle: int, name: str, most: int, what: str) -> bytes:
    found = os.fstat(handle)
    if not stat.S_ISREG(found.st_mode):
        kind = next((words for test, words in _KINDS if test(found.st_mode)), tr("no plain file"))
        raise FileRefusedError(
            tr(
                "{name}: it cannot be read (it is {kind}, not {what}).",
                name=name,
                kind=kind,
                what=what,
            )
        )
    if found.st_size == 0:
        raise FileRefusedError(tr("{name}: it cannot be read (there is nothing in it).", name=name))
    too_large = tr(
        "{name}: the file is over {most} MB, too large for {what}.",
        name=name,
        most=most // 1000000,
        what=what,
    )
    if found.st_size > most:
        raise FileRefusedError(too_large)
    pieces, left = [], most + 1
    while left > 0 and (piece := os.read(handle, min(left, 1 << 20))):
        pieces.append(piece)
        left -= len(piece)
    if left <= 0:  # it grew while it was read
        raise FileRefusedError(too_large)
    return b"".join(pieces)


def short_name(path: Path) -> str:
    """Return a path for a sentence: one line, printable, not too long."""
    text = " ".join(str(path).encode("utf-8", "replace").decode().split())
    text = "".join(c if c.isprintable() else "?" for c in text)
    return text if len(text) <= 160 else f"…{text[-159:]}"

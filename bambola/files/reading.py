"""Regular files read up to a limit; whatever else may stand under a name is refused at once."""

from __future__ import annotations

import os
import stat
from pathlib import Path


class FileRefusedError(OSError):
    """A file that is not read; the message is one sentence."""


_KINDS = (
    (stat.S_ISDIR, "a folder"),
    (stat.S_ISFIFO, "a pipe"),
    (stat.S_ISCHR, "a device"),
    (stat.S_ISBLK, "a device"),
    (stat.S_ISSOCK, "a socket"),
)


def read_regular(path: Path, most: int, what: str) -> bytes:
    """All of the file at ``path``, which is to be ``what`` (such as "a design") of at most ``most`` bytes.

    Folders, pipes, devices and the files of the kernel, which tell no size, are refused before a byte is
    read, so that nothing can be waited for. Raises :class:`FileRefusedError`.
    """
    name = short_name(path)
    try:
        # A pipe without a writer would hold a plain open for ever.
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError as error:
        raise FileRefusedError(f"{name}: it cannot be read ({error.strerror}).") from None
    except ValueError:
        raise FileRefusedError(f"{name}: no file can have such a name.") from None
    try:
        return _read(handle, name, most, what)
    except OSError as error:
        if isinstance(error, FileRefusedError):
            raise
        raise FileRefusedError(f"{name}: it cannot be read ({error.strerror}).") from None
    finally:
        os.close(handle)


def _read(handle: int, name: str, most: int, what: str) -> bytes:
    found = os.fstat(handle)
    if not stat.S_ISREG(found.st_mode):
        kind = next((words for test, words in _KINDS if test(found.st_mode)), "no plain file")
        raise FileRefusedError(f"{name}: it cannot be read (it is {kind}, not {what}).")
    if found.st_size == 0:
        raise FileRefusedError(f"{name}: it cannot be read (there is nothing in it).")
    too_large = f"{name}: the file is over {most // 1_000_000} MB, too large for {what}."
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
    """A path for a sentence: on one line, printable, and not too long."""
    text = " ".join(str(path).encode("utf-8", "replace").decode().split())
    text = "".join(c if c.isprintable() else "?" for c in text)
    return text if len(text) <= 160 else f"…{text[-159:]}"

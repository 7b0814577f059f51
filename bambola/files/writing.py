"""Writes files atomically."""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import secrets
import shutil
import socket
import stat
from collections.abc import Mapping
from pathlib import Path

from bambola.files.reading import short_name
from bambola.language import tr


class ExportError(OSError):
    """Raised for a file that could not be written; the message is one sentence."""


PRIVATE = 0o600
"""The mode of a file that only its owner reads."""


def write_whole(
    path: Path,
    data: bytes,
    keep_previous: bool = False,
    private: bool = False,
    can_be_lost: bool = False,
) -> None:
    """Write ``data`` to ``path`` by a temporary file, flush, sync and rename.

    What was there stays untouched until the new file is safe on the disk, and hands its permissions on;
    ``keep_previous`` keeps it beside the new one with ``~`` at its end. A symbolic link stays one: what
    it leads to is written. A ``private`` file is for its owner only. For what ``can_be_lost`` when the power
    fails, such as what can be worked out again, the disk is not waited for. Raises :class:`ExportError`.
    """
    temporary = None
    try:
        target = Path(os.path.realpath(path))
        mode = PRIVATE if private else _mode_of(target)
        _sweep_up(target)
        temporary = _spare(target, "tmp")
        handle = os.open(temporary, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)
        with os.fdopen(handle, "wb") as file:
            if mode is not None:
                os.fchmod(handle, mode)
            file.write(data)
            file.flush()
            if not can_be_lost:
                os.fsync(handle)
        if keep_previous and target.exists():
            _keep_backup(target)
        os.replace(temporary, target)
        if not can_be_lost:
            _sync_folder(target.parent)
    except (OSError, ValueError) as error:
        if temporary is not None:
            with contextlib.suppress(OSError):
                temporary.unlink()
        reason = (error.strerror if isinstance(error, OSError) else None) or str(error)
        raise ExportError(
            tr(
                "{short_name}: it could not be written ({reason}); what was there before is unchanged.",
                short_name=short_name(path),
                reason=reason,
            )
        ) from None


def make_private_folder(folder: Path) -> None:
    """Make a folder that only its owner reads, if it is not there. Raises :class:`ExportError`."""
    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    except OSError as error:
        raise ExportError(
            tr(
                "{folder}: it could not be made ({strerror}).",
                folder=folder,
                strerror=error.strerror,
            )
        ) from None


def write_made(where: Path, made: bytes | Mapping[str, bytes]) -> None:
    """Write a file to ``where``, or several by their names into the folder ``where``, which is made if it is
    not there. Raises :class:`ExportError`."""
    if isinstance(made, bytes):
        write_whole(where, made)
        return
    try:
        where.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise ExportError(
            tr(
                "{short_name}: this folder cannot be made ({strerror}).",
                short_name=short_name(where),
                strerror=error.strerror,
            )
        ) from None
    for name, data in made.items():
        write_whole(where / name, data)


def _spare(target: Path, ending: str) -> Path:
    """Return a hidden name beside ``target`` that tells what it is for, and the machine and process that use
    it."""
    return target.with_name(f"{_spare_stem(target)}{os.getpid()}-{secrets.token_hex(4)}.{ending}")


def _spare_stem(target: Path) -> str:
    told = f"{socket.gethostname()}/{target.name}".encode("utf-8", "surrogateescape")
    return f".{hashlib.sha256(told).hexdigest()[:12]}-"


def _sweep_up(target: Path) -> None:
    """Remove what processes of this machine that were killed while writing ``target`` have left beside it."""
    with contextlib.suppress(OSError):
        for left in target.parent.glob(f"{_spare_stem(target)}*"):
            process = left.name.split("-")[1]
            if process.isdigit() and not Path(f"/proc/{process}").exists():
                left.unlink(missing_ok=True)


def _mode_of(target: Path) -> int | None:
    """Return the permissions of the file at ``target``; None if there is none. Only plain files are
    replaced."""
    try:
        found = target.lstat()
    except FileNotFoundError:
        return None
    if not stat.S_ISREG(found.st_mode):
        raise OSError(
            errno.EINVAL,
            tr("there is already something of that name, and it is not an ordinary file"),
        )
    return stat.S_IMODE(found.st_mode)


def _keep_backup(target: Path) -> None:
    """Keep ``target`` under its name with ``~``: by a second name, or by a copy where disks know none."""
    backup = target.with_name(target.name + "~")
    spare = _spare(target, "old")
    try:
        try:
            os.link(target, spare)
        except OSError:
            shutil.copy2(target, spare)
        os.replace(spare, backup)
    except OSError as error:
        with contextlib.suppress(OSError):
            spare.unlink()
        if (
            error.errno != errno.ENAMETOOLONG
        ):  # a name that bears no ``~`` keeps no previous version
            raise


def _sync_folder(folder: Path) -> None:
    """Have the new name itself on the disk, where the file system can."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)

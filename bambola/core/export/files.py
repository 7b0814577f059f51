"""Files written whole or not at all."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path


class ExportError(OSError):
    """A file that could not be written; the message is one sentence."""


def write_whole(path: Path, data: bytes, keep_previous: bool = False) -> None:
    """Write ``data`` to ``path`` by a temporary file, flush, sync and rename.

    What was there stays untouched until the new file is safe on the disk; ``keep_previous`` keeps
    it beside the new one with ``~`` at its end. Raises :class:`ExportError`.
    """
    temporary = None
    try:
        handle, name = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        temporary = Path(name)
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, 0o644)
        if keep_previous and path.exists():
            backup = path.with_name(path.name + "~")
            with contextlib.suppress(FileNotFoundError):
                backup.unlink()
            os.link(path, backup)
        os.replace(temporary, path)
    except OSError as error:
        if temporary is not None:
            with contextlib.suppress(OSError):
                temporary.unlink()
        reason = error.strerror or str(error)
        raise ExportError(
            f"{path}: it could not be written ({reason}); what was there before is unchanged."
        ) from None

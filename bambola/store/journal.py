"""The journal: unsaved work, written as it is done and offered back after a crash."""

from __future__ import annotations

import contextlib
import json
import os
from dataclasses import dataclass
from pathlib import Path

from platformdirs import user_data_path

from bambola.core.export.files import ExportError, write_whole
from bambola.core.figure import Brief, Document, DocumentError, Figure, dump_document, load_document


@dataclass(frozen=True)
class Recovered:
    """Unsaved work found in the journal, and the file it belongs to if it had one."""

    document: Document
    path: Path | None


class Journal:
    """One journal file a running window, named by its process, in the user's data folder."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or user_data_path("bambola") / "journal"
        self._own = self.folder / f"{os.getpid()}-{id(self):x}.json"

    def write(self, figure: Figure, brief: Brief, path: Path | None) -> None:
        """Keep the work as it is now. A journal that cannot be written never stops the work."""
        entry = {"path": str(path) if path else None, "document": dump_document(figure, brief)}
        with contextlib.suppress(OSError, ExportError):
            self.folder.mkdir(parents=True, exist_ok=True)
            write_whole(self._own, json.dumps(entry).encode())

    def clear(self) -> None:
        """The work is saved or given up: nothing to keep."""
        with contextlib.suppress(OSError):
            self._own.unlink()

    def left_behind(self) -> Recovered | None:
        """Take the newest work of a window that did not end well; its entry is removed."""
        try:
            entries = sorted(
                self.folder.glob("*.json"), key=lambda p: p.stat().st_mtime, reverse=True
            )
        except OSError:
            return None
        for entry in entries:
            if entry == self._own or _is_running(entry.stem.split("-")[0]):
                continue
            found = _read(entry)
            with contextlib.suppress(OSError):
                entry.unlink()
            if found:
                return found
        return None


def _read(entry: Path) -> Recovered | None:
    try:
        kept = json.loads(entry.read_bytes())
        document = load_document(kept["document"], entry.name)
    except (OSError, ValueError, KeyError, TypeError, DocumentError):
        return None
    return Recovered(document, Path(kept["path"]) if kept.get("path") else None)


def _is_running(pid: str) -> bool:
    if not pid.isdigit():
        return False
    try:
        os.kill(int(pid), 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True

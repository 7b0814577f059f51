"""Designs on disk: refused whole or opened whole, saved whole with the previous version kept."""

from __future__ import annotations

import hashlib
from pathlib import Path

from bambola.core.bench import Bench, check_wools
from bambola.core.figure import (
    Brief,
    Document,
    DocumentError,
    Figure,
    Survey,
    dump_document,
    load_document,
)
from bambola.core.figure.document import MAX_BYTES
from bambola.files import ExportError, FileRefusedError, read_regular, write_whole
from bambola.language import tr


def open_design(path: Path, bench: Bench) -> Document:
    """The design at ``path``. Raises :class:`DocumentError` with one sentence for the maker."""
    try:
        data = read_regular(path, MAX_BYTES, tr("a design"))
    except FileRefusedError as error:
        raise DocumentError(str(error)) from None
    document = load_document(data, path.name)
    check_wools(document.figure, bench, path.name)
    return document


def fingerprint(path: Path) -> str | None:
    """What tells whether the file at ``path`` is still the same; None if it cannot be read."""
    try:
        return hashlib.sha256(read_regular(path, MAX_BYTES, tr("a design"))).hexdigest()
    except FileRefusedError:
        return None


def save_design(path: Path, figure: Figure, brief: Brief, survey: Survey | None = None) -> None:
    """Save to ``path``, keeping what was there as ``path~``. Raises :class:`ExportError`."""
    write_whole(path, dump_document(figure, brief, survey).encode(), keep_previous=True)


__all__ = ["DocumentError", "ExportError", "fingerprint", "open_design", "save_design"]

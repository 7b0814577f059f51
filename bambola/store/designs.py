"""Designs on disk: refused whole or opened whole, saved whole with the previous version kept."""

from __future__ import annotations

from pathlib import Path

from bambola.core.export.files import ExportError, write_whole
from bambola.core.figure import (
    Bench,
    Brief,
    Document,
    DocumentError,
    Figure,
    Survey,
    check_wools,
    dump_document,
    load_document,
)
from bambola.core.figure.document import MAX_BYTES


def open_design(path: Path, bench: Bench) -> Document:
    """The design at ``path``. Raises :class:`DocumentError` with one sentence for the maker."""
    try:
        if path.stat().st_size > MAX_BYTES:
            raise DocumentError(
                f"{path.name}: the file is over {MAX_BYTES // 1_000_000} MB, too large."
            )
        data = path.read_bytes()
    except OSError as error:
        raise DocumentError(f"{path}: it cannot be read ({error.strerror}).") from None
    document = load_document(data, path.name)
    check_wools(document.figure, bench, path.name)
    return document


def save_design(path: Path, figure: Figure, brief: Brief, survey: Survey | None = None) -> None:
    """Save to ``path``, keeping what was there as ``path~``. Raises :class:`ExportError`."""
    write_whole(path, dump_document(figure, brief, survey).encode(), keep_previous=True)


__all__ = ["DocumentError", "ExportError", "open_design", "save_design"]

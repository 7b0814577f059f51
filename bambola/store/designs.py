"""Designs on disk: refused whole or opened whole, saved whole with the previous version kept."""

from __future__ import annotations

import hashlib
import secrets
from pathlib import Path

from bambola.core.bench import Bench, check_wools
from bambola.core.facts import RefusedError
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
from bambola.store.told import told


def open_design(path: Path, bench: Bench) -> Document:
    """The design at ``path``. Raises :class:`DocumentError` with one sentence for the maker."""
    try:
        data = read_regular(path, MAX_BYTES, tr("a design"))
    except FileRefusedError as error:
        raise DocumentError(str(error)) from None
    if data.startswith(PDF):
        data = _within(data, path.name)
    document = load_document(data, path.name)
    check_wools(document.figure, bench, path.name)
    return document


PDF = b"%PDF"
"""How a PDF begins: a packet may have its design within."""


def _within(pdf: bytes, name: str) -> bytes:
    """The design that travels within a PDF."""
    from bambola.core.export.packet.attached import design_in

    try:
        return design_in(pdf)[1]
    except RefusedError as error:
        raise DocumentError(f"{name}: {told(error)}") from None


def fingerprint(path: Path) -> str | None:
    """What tells whether the file at ``path`` is still the same; None if it cannot be read."""
    try:
        return hashlib.sha256(read_regular(path, MAX_BYTES, tr("a design"))).hexdigest()
    except FileRefusedError:
        return None


def save_design(
    path: Path, figure: Figure, brief: Brief, survey: Survey | None = None, design: str = ""
) -> None:
    """Save to ``path``, keeping what was there as ``path~``. Raises :class:`ExportError`."""
    write_whole(path, dump_document(figure, brief, survey, design).encode(), keep_previous=True)


def new_design(figure: Figure) -> str:
    """What tells a design of this figure from every other."""
    return f"{figure.id}-{secrets.token_hex(4)}"


__all__ = [
    "DocumentError",
    "ExportError",
    "fingerprint",
    "new_design",
    "open_design",
    "save_design",
]

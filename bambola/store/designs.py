"""Design files: opened or refused as a whole, and saved as a whole with the previous version kept."""

from __future__ import annotations

import hashlib
import json
import secrets
import threading
from pathlib import Path

from bambola.core.bench import Bench, check_wools
from bambola.core.export.packet.build import ENDING
from bambola.core.facts import Fact
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
from bambola.files import FileRefusedError, read_regular, write_whole
from bambola.files.limited import BusyError, run_helper
from bambola.language import tr
from bambola.store.database import fact_sentence


def open_design(path: Path, bench: Bench, stop: threading.Event | None = None) -> Document:
    """Return the design at ``path``, or the one within a packet. Raises :class:`DocumentError` with one
    sentence for the maker, and :class:`StoppedError` once ``stop`` is set."""
    try:
        data = read_regular(path, MAX_BYTES, tr("a design"))
    except FileRefusedError as error:
        raise DocumentError(str(error)) from None
    document = load_document(design_of(data, path.name, stop), path.name)
    check_wools(document.figure, bench, path.name)
    return document


PDF = b"%PDF"
"""How a PDF begins: a packet may have its design within."""
PATIENCE_S = 4.5
"""Of work: its own program gives up after four seconds."""


def design_of(data: bytes, name: str, stop: threading.Event | None = None) -> bytes:
    """Return the text of a design, extracted from a PDF if attached to one. Raises :class:`DocumentError`."""
    if not data.startswith(PDF):
        return data
    try:
        answer = run_helper("bambola.files.attached_job", [ENDING], data, PATIENCE_S, stop)
    except BusyError as error:
        raise DocumentError(str(error)) from None
    line, _, held = answer.partition(b"\n")
    refused = json.loads(line).get("refused") if line else "damaged"
    if refused is None:
        return held
    wrong = Fact("refused.pdf-empty" if refused == "empty" else "refused.pdf")
    raise DocumentError(f"{' '.join(name.split())}: {fact_sentence(wrong)}")


def fingerprint(path: Path) -> str | None:
    """Return a value that changes when the file at ``path`` changes; None if it cannot be read."""
    try:
        return hashlib.sha256(read_regular(path, MAX_BYTES, tr("a design"))).hexdigest()
    except FileRefusedError:
        return None


def save_design(
    path: Path, figure: Figure, brief: Brief, survey: Survey | None = None, design: str = ""
) -> None:
    """Save to ``path``, keeping the previous version as ``path~``. Raises :class:`ExportError`."""
    write_whole(path, dump_document(figure, brief, survey, design).encode(), keep_previous=True)


def new_design(figure: Figure) -> str:
    """Return a new unique id for a design of this figure."""
    return f"{figure.id}-{secrets.token_hex(4)}"

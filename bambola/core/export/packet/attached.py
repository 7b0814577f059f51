"""A design that travels within a PDF, and is taken out of it again."""

from __future__ import annotations

import io

from bambola.core.facts import Fact, RefusedError

ENDING = ".bambola.json"


def attached_name(file: str) -> str:
    """The name a design travels under: one by which it is known again."""
    return file if file.endswith(ENDING) else file.partition(".")[0] + ENDING


def with_design(pdf: bytes, name: str, design: bytes) -> bytes:
    """The PDF with ``design`` attached under a file name."""
    from pypdf import PdfWriter

    writer = PdfWriter(clone_from=io.BytesIO(pdf))
    writer.add_attachment(name, design)
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def design_in(pdf: bytes) -> tuple[str, bytes]:
    """The design within a PDF: its file name and what it holds. Raises :class:`RefusedError`."""
    from pypdf import PdfReader
    from pypdf.errors import PyPdfError

    try:
        attached = PdfReader(io.BytesIO(pdf)).attachments
        for name, held in attached.items():
            if name.endswith(ENDING):
                return name, held[0]
    except (PyPdfError, ValueError, KeyError, OSError) as error:
        raise RefusedError(Fact("refused.pdf")) from error
    raise RefusedError(Fact("refused.pdf-empty"))

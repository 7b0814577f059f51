"""Attaches a design to a PDF; ``store/designs`` extracts it."""

from __future__ import annotations

import io

from bambola.core.figure.fields import in_letters

ENDING = ".bambola.json"


def attached_name(file: str) -> str:
    """Return the file name of the attached design, by which it is found again."""
    file = in_letters(file)
    return file if file.endswith(ENDING) else file.partition(".")[0] + ENDING


def with_design(pdf: bytes, name: str, design: bytes) -> bytes:
    """Return the PDF with ``design`` attached under a file name."""
    from pypdf import PdfWriter

    writer = PdfWriter(clone_from=io.BytesIO(pdf))
    writer.add_attachment(name, design)
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()

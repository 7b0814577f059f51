"""A helper process, limited in time and memory, that extracts an attachment from a PDF.

Its argument is the ending of the wanted attachment; the PDF comes on standard input. Writes one JSON line,
``{"name"}`` followed by the attachment, or ``{"refused": "damaged" | "empty"}``.
"""

from __future__ import annotations

import io
import json
import logging
import sys

from bambola.files.limited import limit_self

CPU_S, MEMORY_BYTES = 4, 280_000_000
"""A packet of ours takes a twentieth of the time and a third of the memory. Judged."""


def main() -> None:
    """Handle one request."""
    limit_self(CPU_S, MEMORY_BYTES)
    ending, pdf = sys.argv[1], sys.stdin.buffer.read()
    said, found = _read_attachment(pdf, ending)
    sys.stdout.buffer.write(json.dumps(said).encode() + b"\n" + found)
    sys.stdout.buffer.flush()


def _read_attachment(pdf: bytes, ending: str) -> tuple[dict[str, str], bytes]:
    from pypdf import PdfReader

    logging.disable(logging.CRITICAL)
    try:
        for name, held in PdfReader(io.BytesIO(pdf)).attachments.items():
            if name.endswith(ending):
                return {"name": name}, held[0]
    except Exception:  # whatever a damaged or hostile file leads it to
        return {"refused": "damaged"}, b""
    return {"refused": "empty"}, b""


if __name__ == "__main__":
    main()

"""Reads tables from files: text separated by tabs, commas or semicolons, or the first sheet of an
OpenDocument spreadsheet (ISO/IEC 26300, office:spreadsheet).

They are read in a helper process with limits, as pictures are: a sheet of 2 kB may unpack to gigabytes. As a
program it reads the file from standard input and writes one JSON line, ``{"text"}`` or ``{"refused":
"no-table" | "large" | "cell"}``.
"""

from __future__ import annotations

import csv
import io
import json
import sys
import zipfile
from collections.abc import Iterator
from pathlib import Path
from threading import Event
from xml.etree import ElementTree

from bambola.files.limited import limit_self, run_helper
from bambola.files.reading import FileRefusedError, read_regular, short_name
from bambola.language import tr

MAX_BYTES = 1_000_000
MAX_ROWS, MAX_COLUMNS, MAX_CELL = 2000, 60, 2000
"""A table of sizes has a row for each of at most 400 parts. Judged."""
CPU_S, PATIENCE_S = 4, 8.0
MEMORY_BYTES = 400_000_000
"""A sheet of 16 MB takes about half of that. Judged."""
_MAX_XML = 16_000_000
_TABLE = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
_OFFICE = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
_TEXT = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"
_BYTE_ORDER_MARKS = (b"\xff\xfe", b"\xfe\xff")


def table_text(path: Path, stop: Event | None = None) -> str:
    """Return the table in the file at ``path`` as lines of cells, with its own separators or tabs. Raises
    :class:`FileRefusedError`, and :class:`StoppedError` once ``stop`` is set."""
    data, name = read_regular(path, MAX_BYTES, tr("a table")), short_name(path)
    answer = run_helper(__name__, (), data, PATIENCE_S, stop)
    try:
        found = json.loads(answer)
    except ValueError:
        found = {"refused": "large"}
    if "text" in found:
        return str(found["text"])
    raise FileRefusedError(_refusal_text(name, found["refused"]))


def _refusal_text(name: str, why: str) -> str:
    if why == "large":
        return tr(
            "{name}: the table is too large; it may have up to {rows} rows of {columns} columns.",
            name=name,
            rows=MAX_ROWS,
            columns=MAX_COLUMNS,
        )
    if why == "cell":
        return tr(
            "{name}: one cell has over {most} characters. A table has a size or a name in each.",
            name=name,
            most=MAX_CELL,
        )
    return tr("{name}: this table cannot be read; save it as CSV or ODS.", name=name)


class _RefusedError(Exception):
    """Why a table is not read, as the answer says it."""


def main() -> None:
    """Print the table on standard input as JSON."""
    limit_self(CPU_S, MEMORY_BYTES)
    data = sys.stdin.buffer.read()
    try:
        answer = {"text": _from_sheet(data) if data.startswith(b"PK") else _decode_text(data)}
    except _RefusedError as error:
        answer = {"refused": str(error)}
    except MemoryError:
        answer = {"refused": "large"}
    except Exception:  # a stranger's file may end in any of a dozen errors
        answer = {"refused": "no-table"}
    print(json.dumps(answer))


def _decode_text(data: bytes) -> str:
    """Return the plain text in UTF-8, or in UTF-16 as spreadsheets save it, or else in Windows-1252."""
    if data.startswith(_BYTE_ORDER_MARKS):
        return data.decode("utf-16")
    if b"\0" in data:
        raise _RefusedError("no-table")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _from_sheet(data: bytes) -> str:
    """Return the first sheet of a spreadsheet, its cells parted by tabs."""
    with zipfile.ZipFile(io.BytesIO(data)) as packed, packed.open("content.xml") as file:
        content = file.read(_MAX_XML + 1)
    if len(content) > _MAX_XML:
        raise _RefusedError("large")
    if b"<!DOCTYPE" in content[:1000]:
        raise _RefusedError("no-table")
    sheet = ElementTree.fromstring(content).find(f".//{_TABLE}table")
    text = io.StringIO()
    if sheet is not None:
        csv.writer(text, delimiter="\t").writerows(_sheet_rows(sheet))
    return text.getvalue()


def _sheet_rows(sheet: ElementTree.Element) -> Iterator[list[str]]:
    count = 0
    for row in sheet.iter(f"{_TABLE}table-row"):
        cells: list[str] = []
        for cell in row:
            times, value = int(cell.get(f"{_TABLE}number-columns-repeated", "1")), _cell_value(cell)
            if len(value) > MAX_CELL:
                raise _RefusedError("cell")
            if value and len(cells) + times > MAX_COLUMNS:
                raise _RefusedError("large")
            cells += [value] * min(times, MAX_COLUMNS - len(cells))
        count += any(cells)
        if count > MAX_ROWS:
            raise _RefusedError("large")
        yield cells


def _cell_value(cell: ElementTree.Element) -> str:
    """Return the value of a cell; numbers in full, however few digits are displayed."""
    if cell.get(f"{_OFFICE}value-type") == "float":
        return cell.get(f"{_OFFICE}value", "")
    return " ".join("".join(line.itertext()) for line in cell.iter(f"{_TEXT}p"))


if __name__ == "__main__":
    main()

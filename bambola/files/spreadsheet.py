"""Tables out of files: what is parted by tabs, commas or semicolons, and the first sheet of an OpenDocument
spreadsheet (ISO/IEC 26300, office:spreadsheet), with limits on what a stranger's file may ask for."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterator
from pathlib import Path
from xml.etree import ElementTree

from bambola.files.reading import FileRefusedError, read_regular, short_name
from bambola.language import tr

MOST_BYTES = 1_000_000
_MOST_XML = 16_000_000
"""Of a sheet laid out, before it is read; a table of sizes has a thousandth of that."""
_MOST_ROWS, _MOST_COLUMNS = 2000, 60
_TABLE = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
_OFFICE = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
_TEXT = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"


def table_text(path: Path) -> str:
    """The table in the file at ``path`` as lines of cells parted as its maker did, or by tabs. Raises
    :class:`FileRefusedError`."""
    data = read_regular(path, MOST_BYTES, tr("a table"))
    if not data.startswith(b"PK"):
        return data.decode("utf-8-sig", errors="replace")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed, packed.open("content.xml") as file:
            content = file.read(_MOST_XML + 1)
        if len(content) > _MOST_XML or b"<!DOCTYPE" in content[:1000]:
            raise ValueError
        root = ElementTree.fromstring(content)
        sheet = root.find(f".//{_TABLE}table")
        rows = list(_rows(sheet)) if sheet is not None else []
    except Exception:  # a stranger's file may end in any of a dozen errors
        raise FileRefusedError(
            tr(
                "{name}: it is no table that can be read; save it as CSV or ODS.",
                name=short_name(path),
            )
        ) from None
    text = io.StringIO()
    csv.writer(text, delimiter="\t").writerows(rows)
    return text.getvalue()


def _rows(sheet: ElementTree.Element) -> Iterator[list[str]]:
    for n, row in enumerate(sheet.iter(f"{_TABLE}table-row")):
        if n == _MOST_ROWS:
            return
        cells: list[str] = []
        for cell in row:
            times = int(cell.get(f"{_TABLE}number-columns-repeated", "1"))
            cells += [_told(cell)] * min(times, _MOST_COLUMNS - len(cells))
        yield cells


def _told(cell: ElementTree.Element) -> str:
    """What a cell says: a number in full, however few of its digits are shown."""
    if cell.get(f"{_OFFICE}value-type") == "float":
        return cell.get(f"{_OFFICE}value", "")
    return " ".join("".join(line.itertext()) for line in cell.iter(f"{_TEXT}p"))

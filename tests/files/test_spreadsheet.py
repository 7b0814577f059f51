"""Tables read out of files, those of strangers included."""

from __future__ import annotations

import io
import time
import zipfile
from pathlib import Path

import pytest

from bambola.core.facts import RefusedError
from bambola.core.notes.reading import read_notes
from bambola.core.plan.reading.sizes_table import read_sizes
from bambola.core.words import ENGLISH, error_words
from bambola.files import FileRefusedError
from bambola.files.spreadsheet import PATIENCE_S, table_text
from tests.calm import helpers_worked_s
from tests.effort import some

HEAD = (
    '<?xml version="1.0" encoding="UTF-8"?><office:document-content'
    ' xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"'
    ' xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"'
    ' xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0">'
)
WORD = '<table:table-cell office:value-type="string"><text:p>{}</text:p></table:table-cell>'
NUMBER = (
    '<table:table-cell office:value-type="float" office:value="{}"><text:p>43</text:p>'
    "</table:table-cell>"
)


def saved(path: Path, rows: str, head: str = HEAD) -> Path:
    sheet = f"<office:body><office:spreadsheet><table:table>{rows}</table:table>"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        packed.writestr(
            "content.xml",
            f"{head}{sheet}</office:spreadsheet></office:body></office:document-content>",
        )
    return path


def row(*cells: str) -> str:
    return f"<table:table-row>{''.join(cells)}</table:table-row>"


def test_spreadsheet_and_same_table_as_text_say_same(tmp_path: Path) -> None:
    rows = row(WORD.format("Part"), WORD.format("Length"), WORD.format("Width (cm)"))
    empty = '<table:table-cell table:number-columns-repeated="16000"/>'
    rows += row(empty) + row(
        WORD.format("Left &amp; right ear"), NUMBER.format(42.625), NUMBER.format(3.1)
    )
    rows += f'<table:table-row table:number-rows-repeated="1048000">{empty}</table:table-row>'
    found = read_sizes(table_text(saved(tmp_path / "sizes.ods", rows)), "mm")
    plain = tmp_path / "sizes.csv"
    plain.write_text(
        "Part;Length;Width (cm)\n\nLeft & right ear;42,625;3,1\n", encoding="utf-8-sig"
    )
    assert found == read_sizes(table_text(plain), "mm")
    assert found[0].sizes == pytest.approx({"length": 42.625, "width": 31.0})


def test_sheet_of_parts_is_read_as_notes(tmp_path: Path) -> None:
    rows = row(*map(WORD.format, ("Part", "Number", "Width", "Height")))
    rows += row(WORD.format("Body"), *map(NUMBER.format, (1, 70, 92)))
    rows += row(WORD.format("Ears"), *map(NUMBER.format, (2, 7, 9)))
    notes = read_notes(table_text(saved(tmp_path / "parts.ods", rows)), "mm", {})
    assert not notes.faults
    assert [(entry.count, entry.kind) for entry in notes.entries] == [(1, "body"), (2, "ear")]


def test_hostile_spreadsheets_are_refused(tmp_path: Path) -> None:
    entities = '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa">]>' + HEAD.partition("?>")[2]
    hostile = [
        saved(tmp_path / "entities.ods", row(WORD.format("&a;")), entities),
        saved(tmp_path / "broken.ods", "<table:table-row>"),
        saved(
            tmp_path / "count.ods",
            '<table:table-row><table:table-cell table:number-columns-repeated="x"/></table:table-row>',
        ),
    ]
    with zipfile.ZipFile(tmp_path / "other.zip", "w") as packed:
        packed.writestr("readme.txt", "no table")
    (tmp_path / "cut.ods").write_bytes(b"PK\x03\x04" + b"\0" * 30)
    damaged = bytearray(saved(tmp_path / "damaged.ods", row(WORD.format("x" * 900))).read_bytes())
    at = damaged.index(b"content.xml") + len(b"content.xml")
    damaged[at : at + 40] = b"\xff" * 40
    (tmp_path / "damaged.ods").write_bytes(damaged)
    hostile.append(tmp_path / "damaged.ods")
    began = time.process_time()
    for path in (*hostile, tmp_path / "other.zip", tmp_path / "cut.ods"):
        with pytest.raises(
            FileRefusedError, match=f"{path.name}: this table cannot be read"
        ) as refused:
            table_text(path)
        assert "\n" not in str(refused.value)
    assert time.process_time() - began < 5


def _hostile_tables() -> list[tuple[str, bytes, str]]:
    """Some sixty tables by name, and what each is refused with; an empty text: it may be read."""
    head = "Part;Length\n"
    large, cell, quote = "too large", "one cell has over", "quotation mark"
    found: list[tuple[str, bytes, str]] = []
    for n in (3_000, 20_000):
        found.append((f"rows{n}.csv", (head + "Ear;4\n" * n).encode(), "too long"))
        found.append((f"rows{n}.ods", _packed(row(WORD.format("x")) * n), large))
        found.append((f"columns{n}.ods", _packed(row(*[WORD.format("x")] * n)), large))
    for n in (140_000, 900_000):
        found.append((f"cell{n}.csv", (head + "x" * n).encode(), quote))
        found.append((f"cell{n}.ods", _packed(row(WORD.format("x" * n))), cell))
        found.append((f"open{n}.csv", (head + '"' + "Ear;4\n" * (n // 100)).encode(), quote))
    for n in (17_000_000, 60_000_000):
        found.append((f"bomb{n}.ods", _packed(row(WORD.format("x" * n))), large))
    deep = "<table:x>" * 900_000 + "</table:x>" * 900_000
    found.append(("deep.ods", _packed(deep), "table"))
    many = row('<table:table-cell table:number-columns-repeated="99999999"/>') * 50
    found.append(("repeated.ods", _packed(many), ""))
    for n, code in enumerate(
        ("utf-16", "utf-16-le", "utf-16-be", "utf-8-sig", "cp1252", "latin-1")
    ):
        told = "table cannot be read" if code in ("utf-16-le", "utf-16-be") else ""
        found.append((f"code{n}.csv", f"{head}Öhr;4\n".encode(code), told))
    found += [(f"byte{b}.csv", bytes([b]) * 50_000, "") for b in range(0, 256, 7)]
    return found


def _packed(rows: str) -> bytes:
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as packed:
        sheet = f"<office:body><office:spreadsheet><table:table>{rows}</table:table>"
        end = "</office:spreadsheet></office:body></office:document-content>"
        packed.writestr("content.xml", f"{HEAD}{sheet}{end}")
    return data.getvalue()


@pytest.mark.parametrize(
    ("name", "data", "told"), some(_hostile_tables(), 20), ids=lambda one: str(one)[:12]
)
def test_hostile_tables_are_refused_in_sentence_or_read(
    name: str, data: bytes, told: str, tmp_path: Path
) -> None:
    path = tmp_path / name
    path.write_bytes(data)
    began = helpers_worked_s()
    try:
        found = read_sizes(table_text(path), "mm")
        assert not told and (found or name.startswith("byte"))
    except (FileRefusedError, RefusedError) as error:
        text = error_words(error, ENGLISH)
        assert told in text and "\n" not in text and len(text) < 300
    assert helpers_worked_s() - began < PATIENCE_S + 2

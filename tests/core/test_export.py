from __future__ import annotations

import csv
import errno
import io
import json
import os
import re
from datetime import UTC, date, datetime
from pathlib import Path

import pytest
from pypdf import PdfReader

from bambola import __version__
from bambola.core.bench import Bench
from bambola.core.export.formats import FORMAT_BY_ID, FORMATS, ExportRequest, Format
from bambola.core.export.json_plan import plan_data, plan_json
from bambola.core.export.svg import true_size_svgs
from bambola.core.export.tables import of_country, plan_tables
from bambola.core.figure import Document, Part
from bambola.core.plan import make_plan
from bambola.core.quantities import Units
from bambola.core.words import ENGLISH, Words
from bambola.files import ExportError, write_whole
from tests.effort import THOROUGH
from tests.figures import ball, figure_of
from tests.pseudo import Pseudo, pseudo

pytestmark = pytest.mark.usefixtures("coarse_felt")


def test_tables_hold_every_part_wool_wire_and_step(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    tables = {
        name: list(csv.DictReader(io.StringIO(text)))
        for name, text in plan_tables(plan, ENGLISH).items()
    }
    assert {row["id"] for row in tables["parts.csv"]} == set(badger.figure.by_id)
    assert len(tables["steps.csv"]) == len(plan.steps) and len(tables["wires.csv"]) == 3
    grams = sum(
        float(row["felted in each, g"]) * int(row["how many"]) for row in tables["wool.csv"]
    )
    assert grams == pytest.approx(plan.wool_g, abs=0.05)


def test_tables_for_spreadsheet_open_with_countrys_decimal_sign(
    bench: Bench, badger: Document
) -> None:
    plan, words = make_plan(badger.figure, badger.brief, bench), Words(Units(decimal=","))
    plain, sheet = plan_tables(plan, words), plan_tables(plan, words, of_country(words))
    assert all(text.count("\r\n") == text.count("\n") for text in plain.values())  # RFC 4180
    for name, text in sheet.items():
        assert text[0] == "\ufeff" != plain[name][0]
        there = csv.reader(io.StringIO(text[1:]), delimiter=";")
        for row, same in zip(there, csv.reader(io.StringIO(plain[name])), strict=True):
            for cell, number in zip(row, same, strict=True):
                assert cell in (number, number.replace(".", ","))
    assert ";117," not in plain["wool.csv"] and "," in sheet["wool.csv"].splitlines()[1]


def test_tables_speak_makers_language_and_count_in_makers_units(
    bench: Bench, badger: Document
) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    here, there = (
        {name: list(csv.reader(io.StringIO(text))) for name, text in tables.items()}
        for tables in (
            plan_tables(plan, Words(Units("mm", "g"))),
            plan_tables(plan, Words(Units("in", "oz"), Pseudo())),
        )
    )
    per = {"mm": 25.4, "g": 28.349523125, "cm²": 2.54**2, "cm³": 2.54**3}
    counted = set()
    for name, rows in here.items():
        assert len(rows) == len(there[name]) and all(h.startswith("⟦") for h in there[name][0])
        for at, head in enumerate(rows[0]):
            unit = head.rpartition(", ")[2]
            if unit in per and not head.startswith(("thick", "loose")):  # as sold; for hands
                counted.add(unit)
                ours = [row[at] for row in rows[1:]]
                theirs = [row[at] for row in there[name][1:]]
                for a, b in zip(ours, theirs, strict=True):
                    if ";" not in a:
                        assert float(b) * per[unit] == pytest.approx(float(a), abs=0.14), head
    assert counted == set(per)
    assert not any(cell == "'" for rows in here.values() for row in rows for cell in row)
    said = {row[2] for row in there["wires.csv"][1:]}
    assert said == {pseudo("soft steel")}, "what wire is of is said in the language too"


def test_json_plan_has_its_values_and_final_newline(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    text = plan_json(plan, bench)
    told = {"version": __version__, **plan_data(plan, bench)}
    assert text.endswith("}\n") and json.loads(text) == json.loads(json.dumps(told))
    assert re.search(r"\d\.\d{6}\b", text) and not re.search(r"\d\.\d{7}", text)


@pytest.mark.parametrize(
    "name", ["=1+1", "＝1+1", "－1", "@a"]
)  # of full width, some take it for the same
def test_name_like_formula_stays_text(name: str, bench: Bench) -> None:
    figure = figure_of(Part(id="b", name=name, shape=ball(40), core="cream"))
    plan = make_plan(figure, Document(figure=figure).brief, bench)
    assert f"'{name}" in plan_tables(plan, ENGLISH)["parts.csv"]


def test_work_sheet_is_readable_and_carries_its_own_type(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, bench)
    asked = ExportRequest(plan, badger.figure, bench, date(2026, 11, 27), datetime.now(UTC),
                  Words(Units("in", "oz")))  # fmt: skip
    data = FORMAT_BY_ID["pdf"].make(asked)
    assert isinstance(data, bytes)
    reader = PdfReader(io.BytesIO(data))
    assert len(reader.pages) >= 3
    text = " ".join(" ".join(page.extract_text().split()) for page in reader.pages)
    for words in (
        "Lamplighter badger",
        "8 11/16 in",
        "Woad teal, coat",
        "Leg hoop: cut",
        "Coat the head",
        "Not decided yet",
        "Head: joined by scarf, not by fringe",
        "see a doctor",
    ):
        assert words in text, words
    fonts = {
        str(f["/BaseFont"])
        for p in reader.pages
        for f in (r.get_object() for r in p["/Resources"]["/Font"].values())
    }
    assert any("Atkinson" in name for name in fonts) and any("Fraunces" in name for name in fonts)


def test_outlines_are_at_true_size(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(180), bench)
    svg = true_size_svgs(plan, bench)["front.svg"]
    assert re.search(r'width="[\d.]+mm"', svg)
    paths = re.findall(r'class="outline" d="(M[^"]+Z)"', svg)
    ys = [float(y) for path in paths for y in re.findall(r",([\d.]+)", path)]
    assert 180 < max(ys) - min(ys) < 200  # ears stand above the crown


def test_file_is_written_whole_or_not_at_all(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "plan.json"
    write_whole(path, b"first")
    write_whole(path, b"second", keep_previous=True)
    assert path.read_bytes() == b"second" and (tmp_path / "plan.json~").read_bytes() == b"first"

    def full(_: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(
        ExportError, match=r"plan\.json: it could not be written \(No space left on device\)"
    ):
        write_whole(path, b"third")
    assert path.read_bytes() == b"second" and len(list(tmp_path.iterdir())) == 2


@pytest.mark.parametrize(
    "form",
    [form for form in FORMATS if form.ending == ".pdf"][: None if THOROUGH else 1],
    ids=lambda f: f.id,
)
def test_paper_is_written_as_bytes_not_as_letters(
    form: Format, bench: Bench, badger: Document
) -> None:
    """Streams in letters take a quarter more room, and their writing a third of the time."""
    plan = make_plan(badger.figure, badger.brief, bench)
    asked = ExportRequest(
        plan, badger.figure, bench, date(2026, 11, 27), datetime.now(UTC), Words()
    )
    made = form.make(asked)
    for data in (made,) if isinstance(made, bytes) else made.values():
        if data.startswith(b"%PDF"):
            assert b"ASCII85Decode" not in data
            assert len(PdfReader(io.BytesIO(data)).pages) > 0

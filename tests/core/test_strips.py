"""Bend strips at true size, measured in the files themselves."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.export.strips import ROOM_MM, letter_of, rows_of, strip_svg, strips_pdf
from bambola.core.figure import Brief, Document
from bambola.core.plan import Plan, make_plan
from bambola.demo import BADGER, HERON, load_demo

SVG = "{http://www.w3.org/2000/svg}"
MM_PER_POINT = 25.4 / 72


def plans(bench: Bench) -> list[Plan]:
    badger, heron = load_demo(BADGER), load_demo(HERON)
    return [
        make_plan(badger.figure, Brief(height=220), bench),
        make_plan(badger.figure, Brief(height=700, schools={"wire": "continuous"}), bench),
        make_plan(heron.figure, Brief(height=420, schools={"wire-stock": "chenille"}), bench),
    ]


def test_an_svg_strip_is_as_long_as_its_wire_is_cut(bench: Bench) -> None:
    for plan in plans(bench):
        for wire in plan.wires:
            root = ET.fromstring(strip_svg(wire))
            assert root.get("width") == f"{float(root.get('viewBox', '').split()[2]):.3f}mm"
            lines = [e for e in root.iter(f"{SVG}line") if e.get("class") == "wire"]
            drawn = sum(float(e.get("x2", 0)) - float(e.get("x1", 0)) for e in lines)
            assert drawn == pytest.approx(wire.cut_mm, abs=0.2) and len(lines) == len(wire.pieces)
            marks = [e for e in root.iter(f"{SVG}line") if e.get("class") == "bend"]
            assert len(marks) >= len(wire.bends)
            if len(wire.pieces) == 1:
                start = float(lines[0].get("x1", 0))
                at = sorted(float(e.get("x1", 0)) - start for e in marks)
                assert at == pytest.approx([b.at_mm for b in wire.bends], abs=0.01)


def test_pdf_strips_add_up_to_the_cut_lengths_over_as_many_pages_as_it_takes(bench: Bench) -> None:
    for plan in plans(bench):
        pages = strips_pdf(plan).decode("latin-1")
        assert strips_pdf(plan) == strips_pdf(plan)
        # The wire is the only thing drawn in this colour; the pages are scaled to millimetres.
        scales = {float(x) for x in re.findall(r"([\d.]+) 0 0 [\d.]+ 0 0 cm", pages)} - {1.0}
        assert list(scales) == [pytest.approx(1 / MM_PER_POINT, rel=1e-4)]
        drawn, woad = 0.0, False
        for line in pages.splitlines():
            if line.endswith(" RG"):
                woad = line.startswith(".247059 .392157 .458824")
            run = re.search(r"n ([\d.]+) ([\d.]+) m ([\d.]+) ([\d.]+) l S", line)
            if run and woad:
                assert run.group(2) == run.group(4)
                drawn += float(run.group(3)) - float(run.group(1))
        assert drawn == pytest.approx(sum(w.cut_mm for w in plan.wires), abs=0.2)


def test_rows_meet_at_their_match_marks() -> None:
    rows = rows_of(3 * ROOM_MM - 1)
    assert [(r.before, r.after) for r in rows] == [("", "A"), ("A", "B"), ("B", "")]
    assert rows[0].end_mm == rows[1].start_mm and rows[-1].end_mm == 3 * ROOM_MM - 1
    assert [letter_of(i) for i in (0, 25, 26, 27)] == ["A", "Z", "AA", "AB"]
    assert len(rows_of(10.0)) == 1


def test_the_command_writes_strips(tmp_path: Path, badger: Document) -> None:
    assert main(["plan", str(BADGER), "--strips", str(tmp_path / "strips.pdf")]) == 0
    assert (tmp_path / "strips.pdf").read_bytes().startswith(b"%PDF")
    assert main(["plan", str(BADGER), "--svg", str(tmp_path / "svg")]) == 0
    assert (tmp_path / "svg" / "wire-legs.svg").exists()

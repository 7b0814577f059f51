"""Pieces of a paper pattern read out of drawings, those of strangers included."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from bambola.core.figure import Brief
from bambola.core.plan import make_plan
from bambola.core.plan.reading.pattern_pieces import PatternOutline, leaf_of, with_piece
from bambola.core.solids import place
from bambola.core.solids.meshes import solid_of
from bambola.files import FileRefusedError
from bambola.files.pattern import MOST_PIECES, PATIENCE_S, read_pattern
from bambola.shipped import body_plans, default_bench
from tests.calm import helpers_worked_s
from tests.effort import THOROUGH

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:d="urn:d"'
PIECES = """
 <g transform="translate(10,20) scale(1 2)"><ellipse id="ear" cx="40" cy="60" rx="40" ry="30"/></g>
 <path d:label="Wing" d="M 100 100 H 180 V 220 H 100 Z"/>
 <path id="open" d="M 0 0 L 100 100 L 120 90"/>
"""


def saved(
    path: Path, within: str, head: str = ' width="100mm" height="150mm" viewBox="0 0 200 300"'
) -> Path:
    path.write_text(f"{HEAD}{head}>{within}</svg>", encoding="utf-8")
    return path


@pytest.mark.parametrize(
    ("head", "mm"),
    [
        (' width="100mm" height="150mm" viewBox="0 0 200 300"', 0.5),
        (' width="2in" height="3in" viewBox="0 0 200 300"', 0.254),
        (' width="200" height="300"', 25.4 / 96),
    ],
)
def test_closed_outlines_are_pieces_at_true_size(tmp_path: Path, head: str, mm: float) -> None:
    wing, ear = (
        PatternOutline(*piece) for piece in read_pattern(saved(tmp_path / "p.svg", PIECES, head))
    )
    assert (wing.name, ear.name) == ("Wing", "ear")
    assert wing.size == pytest.approx((80 * mm, 120 * mm), rel=1e-4)
    assert ear.size == pytest.approx((80 * mm, 120 * mm), rel=1e-3)
    flat = leaf_of(ear, 3.0)
    solid = solid_of(flat)
    low, high = solid.bounding_box()[:3], solid.bounding_box()[3:]
    assert high[2] - low[2] == pytest.approx(120 * mm, rel=0.02)
    # An ellipse of a sheet: its rim is round, so that it holds a little less than a cut one.
    cut = math.pi / 4 * (80 * mm) * (120 * mm) * 3.0
    assert 0.85 * cut < solid.volume() <= 1.01 * cut


def test_piece_becomes_part_that_is_felted(tmp_path: Path) -> None:
    bench = default_bench()
    bird = next(plan.figure for plan in body_plans() if plan.figure.id == "bird")
    _, ear = (PatternOutline(*piece) for piece in read_pattern(saved(tmp_path / "p.svg", PIECES)))
    now, part = with_piece(bird, ear, "Crest", "head", False, 3.0, bench)
    now, fin = with_piece(now, ear, "Fin", "body", True, 3.0, bench)
    assert now.by_id[part].core == "reed" and now.by_id[fin].pair
    assert len(place(now).copies_of(fin)) == 2
    # On cloth it is of a wool of the bench, and not of the cloth.
    doll = next(plan.figure for plan in body_plans() if plan.figure.id == "dressed-doll")
    cloth = next(part for part in doll.parts if part.stuff is not None)
    dressed, bow = with_piece(doll, ear, "Bow", cloth.id, False, 3.0, bench)
    assert dressed.by_id[bow].core in bench.wool_by_id
    plan = make_plan(now, Brief(height=2 * place(now).height), bench)
    sized = next(p for p in plan.parts if p.id == part)
    assert sized.to_mm["width"] == pytest.approx(80, rel=0.02)
    assert sum(step.part == part for step in plan.steps) >= 1


HOSTILE = {
    "empty": "",
    "open": '<path d="M 0 0 L 10 10"/>',
    "not a drawing": "</svg><svg>",
    "no numbers": '<path d="M nan inf L zz"/>',
    "flat": '<path d="M 0 0 L 10 0 L 20 0 Z"/>',
    "bomb": "<defs><g id='a0'><rect width='1' height='1'/></g>"
    + "".join(f"<g id='a{n}'>" + f"<use href='#a{n - 1}'/>" * 10 + "</g>" for n in range(1, 12))
    + "</defs><use href='#a11'/>",
    "itself": "<g id='a'><use href='#a'/></g>",
    "many": "<rect width='3' height='4'/>" * 20_000,
}


SLOW = ("bomb", "many")
"""They run into the limit of time, as what refers to itself does."""


@pytest.mark.parametrize("kind", [k for k in HOSTILE if THOROUGH or k not in SLOW])
def test_what_is_no_pattern_is_refused_in_sentence_and_soon(kind: str, tmp_path: Path) -> None:
    began = helpers_worked_s()
    with pytest.raises(FileRefusedError) as told:
        read_pattern(saved(tmp_path / "p.svg", HOSTILE[kind]))
    assert "p.svg: this is not an SVG" in str(told.value) or "no closed outline" in str(told.value)
    assert helpers_worked_s() - began < PATIENCE_S + 2


def test_of_drawing_of_hundreds_largest_are_taken(tmp_path: Path) -> None:
    many = "".join(f"<rect width='3' height='{4 + n % 90}'/>" for n in range(300))
    found = read_pattern(saved(tmp_path / "p.svg", many))
    assert len(found) == MOST_PIECES and PatternOutline(*found[0]).size[1] == pytest.approx(93 / 2)

"""Blanks of flat parts against an independent computation with shapely."""

from __future__ import annotations

import xml.etree.ElementTree as ET

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from shapely.affinity import scale
from shapely.geometry import Polygon, box

from bambola.core.bench import Bench
from bambola.core.export.svg import true_size_svgs
from bambola.core.figure import Brief, Document, Leaf
from bambola.core.plan import make_plan
from bambola.core.plan.counter.weighing import blanks_of
from bambola.core.solids.forms import leaf_outline
from bambola.core.wool import blank_of
from bambola.core.wool.blanks import area_of, is_pointed
from bambola.demo import HERON, load_demo
from tests.effort import examples

POINTED = ((-0.3, 0.0), (0.3, 0.0), (0.5, 0.3), (0.08, 0.9), (0.0, 1.0), (-0.08, 0.9), (-0.5, 0.3))


@examples(25)
@example(60.0, 88.0, 3.0, 0.11, 10.0, False)
@given(
    st.floats(12, 200), st.floats(10, 90), st.floats(1, 8), st.floats(0.05, 0.2), st.floats(6, 25),
    st.booleans(),
)  # fmt: skip
def test_blank_is_finished_outline_over_its_shrinkage_with_margins(
    length: float, width: float, thick: float, packed: float, fringe: float, pointed: bool
) -> None:
    shape = {"outline": POINTED} if pointed else {}
    leaf = Leaf(length=length, width=width, thickness=thick, **shape)
    blank = blank_of(leaf, 0.035, packed, fringe)
    shrink = (0.035 / packed) ** 0.2
    finished = Polygon(leaf_outline(leaf))
    longer = 1 + thick / length if is_pointed(leaf_outline(leaf)) else 1.0
    fold = scale(finished, 1 / shrink, longer / shrink, origin=(0, 0))
    assert area_of(blank.fold) == pytest.approx(finished.area * longer / shrink**2, rel=1e-6)
    margin = max(6.0, 0.15 * (fold.bounds[2] - fold.bounds[0]))
    assert blank.margin_mm == pytest.approx(margin) and blank.shrink == pytest.approx(shrink)
    laid = fold.buffer(margin, quad_segs=64)
    above = laid.intersection(box(-1e4, 0, 1e4, 1e4))
    low = min(x for x, y in above.exterior.coords if abs(y) < 1e-9)
    high = max(x for x, y in above.exterior.coords if abs(y) < 1e-9)
    whole = above.union(box(low, -fringe, high, 1e-9))
    assert blank.area_mm2 == pytest.approx(whole.area, rel=2e-3)
    assert Polygon(blank.outline).buffer(1e-3).contains(Polygon(blank.fold))


def test_point_loses_thickness_and_round_end_does_not() -> None:
    sharp = Leaf(length=60, width=20, thickness=4, outline=POINTED)
    assert is_pointed(leaf_outline(sharp)) and not is_pointed(
        leaf_outline(Leaf(length=17, width=16, thickness=4))
    )
    assert blank_of(sharp, 0.11, 0.11, 8).fold[:, 1].max() == pytest.approx(64)


def test_blanks_are_drawn_at_true_size_for_flat_parts_only(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, Brief(height=220), bench)
    drawn, blanks = true_size_svgs(plan, bench), blanks_of(plan, bench)
    assert {name for name in drawn if name.startswith("blank")} == {"blank-ear.svg"}
    assert set(blanks) == {"ear"}
    root = ET.fromstring(drawn["blank-ear.svg"])
    path = next(e for e in root.iter() if e.get("class") == "blank-ear").get("d", "")
    points = [tuple(map(float, p.split(","))) for p in path.strip("MZ ").split(" L")]
    assert Polygon(points).area == pytest.approx(blanks["ear"].area_mm2, rel=1e-3)
    assert root.get("width", "").endswith("mm")
    for height in (60, 120):
        heron = make_plan(load_demo(HERON).figure, Brief(height=height), bench)
        assert set(blanks_of(heron, bench)) == {"wing"}

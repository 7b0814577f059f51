"""Wool on paper: what is printed is as large as it is, and nothing is left out."""

from __future__ import annotations

import io
import re

import numpy as np
import pytest
from pypdf import PdfReader

from bambola.core.bench import Bench
from bambola.core.export.wool_outlines import blank_outlines, bundle_outlines
from bambola.core.export.wool_sheets import (
    MARGIN_MM,
    OVERLAP_MM,
    tiles,
    wool_sheets,
)
from bambola.core.figure import Brief, Document
from bambola.core.plan import make_plan
from bambola.core.plan.counter.weighing import split_wishes, weighings
from bambola.core.quantities import Units
from bambola.core.wool.splitting import split_plan
from bambola.core.words import ENGLISH, Words
from tests.said import said

NUMBER = r"(-?[\d.]+)"


def drawn_paths(data: bytes) -> list[np.ndarray]:
    """The closed lines of a PDF as points (n, 2) in mm of its page, by its drawing commands."""
    found = []
    for page in PdfReader(io.BytesIO(data)).pages:
        content = page.get_contents()
        assert content is not None
        text = content.get_data().decode("latin-1")
        for path in re.findall(rf"n ((?:{NUMBER} {NUMBER} [ml] )+)h", text.replace("\n", " ")):
            found.append(np.array(re.findall(rf"{NUMBER} {NUMBER} [ml]", path[0]), dtype=float))
    return found


def test_outlines_are_printed_at_true_size(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, Brief(height=120), bench)
    data = wool_sheets(plan, bench)
    sizes = [np.ptp(path, axis=0) for path in drawn_paths(data)]
    small = [*blank_outlines(plan, bench, ENGLISH), *bundle_outlines(plan, ENGLISH)]
    assert len(small) > 15
    for outline in small:
        left, low, right, high = outline.box
        if right - left < 210 - 2 * MARGIN_MM and high - low < 250:
            want = np.array([right - left, high - low])
            assert min(np.abs(size - want).max() for size in sizes) < 0.1, outline.title
    for part in plan.parts:
        core = next(
            (p for p in part.portions if p.role == "core" and p.form == "ball" and p.take_g > 0),
            None,
        )
        if core is not None:
            want = sorted((core.loose_mm["along"], core.loose_mm["across"]))
            assert min(np.abs(np.sort(s) - want).max() for s in sizes) < 0.2, part.id


def test_every_portion_bag_and_tree_is_on_the_sheets(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, Brief(height=220, count=2), bench)
    split = split_plan(split_wishes(plan, "woad", bench))
    data = wool_sheets(plan, bench, Words(Units(mass="oz")), {"woad": split})
    text = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)
    for w in weighings(plan):
        assert said(w.title) in text
    assert text.count("[   ]") == len(weighings(plan))
    assert "2 of 2" in text and "Woad teal" in text and "oz" in text and "buy" in text
    assert re.search(rf"\b{split.splits}\.  Tear", text) and "blank" in text
    assert data == wool_sheets(plan, bench, Words(Units(mass="oz")), {"woad": split})


@pytest.mark.parametrize("box", [(0, 0, 400, 90), (-150, -150, 150, 150), (0, 0, 700, 900)])
def test_what_is_larger_than_a_page_is_cut_without_gaps(
    box: tuple[float, float, float, float],
) -> None:
    room = (186.0, 255.0)
    pieces = list(tiles(box, room))
    grid = np.stack(
        np.meshgrid(np.linspace(box[0], box[2], 60), np.linspace(box[1], box[3], 60)), axis=-1
    ).reshape(-1, 2)
    seen = np.zeros(len(grid), dtype=int)
    for _, _, left, top in pieces:
        inside = (grid >= [left - 1e-9, top - room[1]]) & (grid <= [left + room[0], top + 1e-9])
        seen += inside.all(axis=1)
    assert (seen > 0).all() and len({(c, r) for c, r, *_ in pieces}) == len(pieces)
    columns = {c: left for c, _, left, _ in pieces}
    for c in range(1, len(columns)):
        assert columns[c] - columns[c - 1] == pytest.approx(room[0] - OVERLAP_MM)

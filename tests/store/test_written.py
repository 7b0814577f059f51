"""What an earlier version wrote is opened: no maker loses a design, a bench, a book or a packet."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from bambola.core.bench import load_bench
from bambola.core.plan import make_plan
from bambola.shipped import default_bench
from bambola.store.designs import open_design
from bambola.store.salvage import open_book
from tests.store.written import BRIEF, DESIGN, MAKING, RECORD, SURVEY, WRITTEN


@pytest.mark.parametrize("folder", sorted(WRITTEN.iterdir()), ids=lambda folder: folder.name)
def test_what_version_wrote_is_opened_by_this_one(folder: Path, tmp_path: Path) -> None:
    design = open_design(folder / "wren.bambola.json", default_bench())
    brief = design.brief.replaced(from_before=False)
    assert (brief, design.survey, design.design) == (BRIEF, SURVEY, DESIGN)
    assert open_design(folder / "wren.pdf", default_bench()) == design  # it travels within
    bench = load_bench((folder / "bench.json").read_bytes(), "bench.json")
    assert bench.scale_g == 0.01 and make_plan(design.figure, design.brief, bench).steps
    shutil.copy(folder / "bench.sqlite", tmp_path)
    book, told = open_book(tmp_path / "bench.sqlite", default_bench())
    assert not told and book.making(DESIGN) == MAKING
    assert [record.replaced(n=0) for record in book.records()] == [RECORD]
    assert [row.grams for row in book.weighed(DESIGN)] == [1.25]
    assert book.bench().wool_by_id["woad"].grams == pytest.approx(18.75)
    book.close()

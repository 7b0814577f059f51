"""The book: how a figure came out, and makings written out and brought in."""

from __future__ import annotations

import csv
import io
import json
from datetime import date
from decimal import Decimal
from pathlib import Path

import numpy as np
import pytest
from pypdf import PdfReader

from bambola.cli import main
from bambola.core.bench import Making, WireStock
from bambola.core.bench.making import Sitting, making_id, nth_of
from bambola.core.bench.shelved import left_of, with_shelved
from bambola.core.book.booking import booked_off, put_back, to_book
from bambola.core.book.came_out import as_it_came, came_off, joins_held
from bambola.core.book.costing import cost_of
from bambola.core.book.document import dump_book, load_book
from bambola.core.export.made_page import made_pdf
from bambola.core.export.packet.papers import PAPERS
from bambola.core.figure import Brief, DocumentError
from bambola.core.plan import make_plan
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, load_demo, sample_shelf
from bambola.shipped import body_plans, default_bench
from bambola.store.bench_book import BenchBook
from tests.effort import some, tries

MADE = Making(
    figure="Lamplighter badger", height_mm=220.0, at="finish", behind=("core:body:1",),
    minutes={"core:body:1": 45.0, "coat:body": 30.0}, notes={"coat:body": "thinner, next time"},
    checks={"core:body:1": {"1": "failed"}}, mended={"core:body:1": ("felt on",)},
    sittings=(Sitting(day="2026-11-02", minutes=75.0, first="core:body:1", last="coat:body"),),
    finished="2026-11-09", reached_mm=216.0, sizes={"head": {"width": 60.0}},
    weights={"head": 9.0}, next_time="a lighter head", price="95.00", sold="2026-12-01",
    begun='{"figure": "as it was"}',
)  # fmt: skip


def test_figure_stands_as_it_came_out() -> None:
    """Higher and lower as a whole, or in one part, by the sizes it was found to have."""
    bench = default_bench()
    plan = make_plan(load_demo(BADGER).figure, Brief(height=220.0), bench)
    assert as_it_came(plan, Making(), bench).height == pytest.approx(220.0, rel=1e-6)
    assert as_it_came(plan, Making(reached_mm=213.0), bench).height == pytest.approx(
        213.0, abs=0.01
    )
    wide = plan.part("tail").to_mm["thickness"] * 1.2
    came = as_it_came(plan, Making(sizes={"tail": {"thickness": wide}}, reached_mm=213.0), bench)
    tail, body = (came.figure.by_id[name].shape.measures() for name in ("tail", "body"))
    assert tail["thickness"] == pytest.approx(wide)
    # What was not measured has come out in proportion to the height.
    share = came.height / plan.to_height_mm
    assert body["height"] == pytest.approx(plan.part("body").to_mm["height"] * share, rel=2e-3)
    # What the design does not have any more is passed over.
    gone = Making(sizes={"wing": {"width": 9.0}, "head": {"length": 9.0}})
    assert as_it_came(plan, gone, bench).height == pytest.approx(220.0, rel=1e-6)
    # No figure of 20 m can be had: it is shown so high all the same.
    assert as_it_came(plan, Making(reached_mm=20_000.0), bench).height == pytest.approx(20_000.0)


def test_only_differences_beyond_tolerance_are_reported() -> None:
    plan = make_plan(load_demo(BADGER).figure, Brief(height=220.0), default_bench())
    head = plan.part("head")
    name, mm = next(iter(head.to_mm.items()))
    for share, told in ((1.05, False), (0.95, False), (1.07, True), (0.9, True)):
        off = came_off(plan, Making(sizes={"head": {name: mm * share}, "gone": {"width": 9.0}}))
        assert [(row.part, row.what) for row in off] == ([("head", name)] if told else [])
        assert not told or off[0].share == pytest.approx(share - 1)
    for share, told in ((1.07, False), (1.1, True), (0.85, True)):
        off = came_off(plan, Making(weights={"head": head.grams * share}))
        assert [row.kind for row in off] == (["weight"] if told else [])


def test_makings_of_design_are_counted() -> None:
    for n in (1, 2, 31):
        assert nth_of(making_id("toad-17", n)) == ("toad-17", n)
    assert nth_of("toad#last") == ("toad#last", 1) and nth_of("") == ("", 1)
    assert MADE.spent == 75.0 and MADE.first_day == "2026-11-02" and MADE.failed == ("core:body:1",)
    assert not Making(at="a").is_begun and Making(finished="2026-01-01").is_begun


def test_book_is_written_out_and_brought_in_whole() -> None:
    makings = {"badger": MADE, "badger#2": Making()}
    assert load_book(dump_book(makings), "book.json") == makings
    # A book of many makings is larger than any design, and is brought in all the same.
    many = {f"badger#{n}": Making(begun="x" * 100_000) for n in range(2, 252)}
    assert len(dump_book(many)) > 20_000_000 and load_book(dump_book(many), "book.json") == many
    for wrong, says in (
        ("[]", "no-object"),
        ('{"book": 2}', "book"),
        ('{"makings": {"": {}}}', ""),
    ):
        with pytest.raises(DocumentError) as refused:
            load_book(wrong, "book.json")
        assert says in str(refused.value)


def test_command_lists_shows_and_exports(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "bench.sqlite"
    book = BenchBook(path, default_bench())
    book.put_makings({"badger": MADE, "badger#2": Making(figure="Lamplighter badger", at="a")})
    book.close()
    own = ["book", "--bench-book", str(path)]

    def told(*asked: str) -> str:
        assert main([*own, *asked]) == 0
        return capsys.readouterr().out

    (row,) = json.loads(told("list", "--json"))  # the second is not begun
    assert row["id"] == "badger" and row["hours"] == 1.25 and row["failed"] == ["core:body:1"]
    assert date.fromisoformat(row["finished"]) and row["price"] == "95.00"
    shown = told("show", "badger")
    assert "216 mm" in shown and "felt on" in shown and "a lighter head" in shown
    whole, table = tmp_path / "all.json", tmp_path / "all.csv"
    told("export", "-o", str(whole))
    told("export", "-o", str(table))
    assert load_book(whole.read_bytes(), "all.json")["badger"] == MADE
    head, one, _ = csv.reader(io.StringIO(table.read_text(encoding="utf-8")))
    assert dict(zip(head, one, strict=True))["reached, mm"] == "216.000"
    other = ["book", "--bench-book", str(tmp_path / "other.sqlite")]
    assert main([*other, "list"]) == 2 and "no bench book" in capsys.readouterr().err
    assert main([*other, "import", str(whole)]) == 0
    assert "2 makings" in capsys.readouterr().out
    assert main([*other, "show", "nobody"]) == 2 and "nobody" in capsys.readouterr().err


def test_eyes_stuff_and_glue_are_deducted_and_returned() -> None:
    """As much as is there, and no more; what was taken comes back, whatever happened in between."""
    doll = next(plan.figure for plan in body_plans() if plan.figure.id == "dressed-doll")
    bench = default_bench().replaced(wire_stock=())
    plan = make_plan(doll, Brief(height=160.0, count=2), bench)
    wanted = to_book(plan, bench, {})
    assert any(key.startswith("stuff:") for key in wanted) and min(wanted.values()) > 0
    assert booked_off(bench, wanted) == (bench, {})  # nothing of it is counted
    counted = bench.replaced(materials=tuple(m.replaced(left=5_000.0) for m in bench.materials))
    for key in wanted:
        if key.startswith("eyes:"):
            counted = with_shelved(counted, key, left=3)
    counted = with_shelved(with_shelved(counted, "glue:white", left=8.0), "needle:38", left=4)
    wanted = to_book(plan, counted, {"needle:38": 1.0})
    drops = wanted["glue:white"] / 0.05
    assert drops == round(drops) > 0  # a drop for each place that is glued
    less, taken = booked_off(counted, wanted)
    assert taken == {
        key: min(amount, {"eyes": 3.0, "glue": 8.0, "need": 4.0}.get(key[:4], 5_000.0))
        for key, amount in wanted.items()
    }
    assert all(
        left_of(less, key) == pytest.approx(left_of(counted, key) - amount)
        for key, amount in taken.items()
    )
    assert put_back(less, taken) == counted
    again, more = booked_off(less, dict.fromkeys(wanted, 1000000.0))
    assert all(left_of(again, key) == 0 for key in wanted)
    assert put_back(put_back(again, more), taken) == counted


def test_cut_wire_is_deducted_and_leaves_offcuts() -> None:
    """Of a coil the millimetres that are cut; a stem that was opened is gone, and what is left of it lies on
    the shelf to be cut from next."""
    bench = sample_shelf(default_bench())
    plan = make_plan(load_demo(BADGER).figure, Brief(height=220.0), bench)
    wanted = to_book(plan, bench, {})
    cut = sum(sum(c.cuts) for c in plan.cutting if c.form == "coil" and not c.to_buy)
    coils = {f"wire:{s.id}" for s in bench.wire_stock if s.form == "coil"}
    assert cut > 0 and sum(wanted[key] for key in coils & wanted.keys()) == pytest.approx(cut)
    less, taken = booked_off(bench, wanted)
    before, after = (sum(s.metres_mm for s in b.wire_stock) for b in (bench, less))
    gone = sum(c.length_mm - (c.waste_mm if c.waste_mm >= 30 else 0) for c in plan.cutting)
    assert before - after == pytest.approx(gone, abs=1.0 * len(plan.cutting))
    assert put_back(less, taken) == bench
    stems = WireStock(id="stems", name="Stems", metal="soft steel", diameter=2.0, form="stem",
                      length=300.0, count=2)  # fmt: skip
    two = bench.replaced(wire_stock=(stems,))
    taken = {"wire:stems": 1.0, "offcut:stems:120": -1.0}
    opened, booked = booked_off(two, taken)
    assert booked == taken
    assert [(s.id, s.form, s.length, s.count) for s in opened.wire_stock] == [
        ("stems", "stem", 300.0, 1), ("stems-120", "offcut", 120.0, 1),
    ]  # fmt: skip
    # Keys that another book made up take nothing, and end nothing.
    for key in ("needle:x", "eyes:0", "glue:tar", "foo:1", "plain", "offcut:a", "offcut:stems:abc"):
        assert put_back(bench, {key: -1.0}) == bench
    assert cost_of(plan, bench, 10.0, {"foo:1": 2.0, "needle:x": 1.0}).total >= 0
    more, _ = booked_off(opened, {"offcut:stems:120": -1.0})
    assert more.wire_stock[1].count == 2 and put_back(opened, booked) == two


def test_which_joins_held_is_learned_and_intervals_are_honest() -> None:
    random, inside, told = np.random.default_rng(12), 0, 0
    for _ in range(tries(4000)):
        true = {kind: random.beta(0.5, 0.5) for kind in ("fringe", "peg")}
        held = {
            f"part-{n}:{kind}": bool(random.random() < share)
            for kind, share in true.items()
            for n in range(int(random.integers(1, 20)))
        }
        for found in joins_held([Making(held=held)]):
            rows = [h for key, h in held.items() if key.endswith(found.kind)]
            assert (found.held, found.of) == (sum(rows), len(rows))
            inside += found.low <= true[found.kind] <= found.high
            told += 1
    assert told >= 500 and inside / told == pytest.approx(0.92, abs=0.03)  # open where all held


def test_page_of_book_is_put_on_paper() -> None:
    bench = default_bench()
    plan = make_plan(load_demo(BADGER).figure, Brief(height=220.0), bench)
    making = MADE.replaced(
        notes={str(plan.steps[0].key): "thinner, next time"},
        sittings=tuple(Sitting(day=f"2026-11-{n:02d}", minutes=10.0 * n) for n in range(1, 28)),
    )
    came, off = as_it_came(plan, making, bench), came_off(plan, making)
    priced = bench.replaced(money=bench.money.replaced(rate=Decimal(20)))
    cost = cost_of(plan, priced, making.spent)
    for paper in some(list(PAPERS.values()), 1):
        data = made_pdf(making, plan, came, off, cost, priced, ENGLISH, paper)
        reader = PdfReader(io.BytesIO(data))
        assert abs(float(reader.pages[0].mediabox.width) / 72 * 25.4 - paper.wide) < 0.1
        text = " ".join(" ".join(p.extract_text() for p in reader.pages).split())
        for words in (
            "Lamplighter badger", "220 mm", "216 mm", "2026-11-27: 270 min", "felt on",
            "thinner, next time", "a lighter head", "Head, width: 60 mm for 83 mm",
            f"together {cost.total} €", "price 95.00 €", "an hour earned",
        ):  # fmt: skip
            assert words in text, (paper.id, words)

"""Variants made at once: each figure keeps its own order, what is alike is done once, nothing is lost."""

from __future__ import annotations

import io
import itertools
import json
import re
from dataclasses import replace
from functools import cache
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.export.drawn import DrawnText as Letters
from bambola.core.export.together_sheets import together_pages, together_pdf
from bambola.core.figure import Brief, dump_document
from bambola.core.plan import make_plan
from bambola.core.plan.counter.together import (
    Together,
    _is_alike,
    _longest_common,
    _Made,
    make_together,
    named_variants,
    split_together,
)
from bambola.core.plan.counter.weighing import split_wishes
from bambola.core.quantities import Units
from bambola.core.wool.splitting import share_of, split_plan
from bambola.core.words import Words
from bambola.demo import BADGER, TOAD, load_demo
from tests.core.kept_paper import three_badgers
from tests.pseudo import Pseudo
from tests.said import IMPERIAL, METRIC, SOLD_OR_SMALL

BADGER_ = load_demo(BADGER).figure


@pytest.fixture(scope="module")
def both(bench: Bench) -> Together:
    return make_together(named_variants(BADGER_, three_badgers(), ["", "Sad", "Sitting"]), bench)


def test_every_figure_is_made_in_its_own_order(both: Together) -> None:
    for i, plan in enumerate(both.plans):
        mine = [dict(act.steps)[i] for act in both.acts if i in act.figure_count]
        assert mine == list(plan.steps)


def test_like_steps_are_done_at_once(both: Together) -> None:
    done: dict[tuple[int, ...], set[str]] = {}
    for act in both.acts:
        done.setdefault(act.figure_count, set()).add(act.step.key)
        for i, step in act.steps:
            part = next((p for p in both.plans[i].parts if p.id == step.part), None)
            first = next(
                (p for p in both.plans[act.figure_count[0]].parts if p.id == step.part), None
            )
            if part and first:
                assert list(part.to_mm.values()) == pytest.approx(
                    list(first.to_mm.values()), rel=0.021
                )
    # The legs of the one that sits are other legs, on another wire; all spines are alike.
    assert "cut:spine" in done[0, 1, 2] and "cut:legs" in done[0, 1]
    assert {"cut:legs", "core:leg:1", "crease:leg"} <= done[2,]
    # The marks of the sad face lie elsewhere: its head is marked by itself.
    assert all("mark:head" not in keys for of, keys in done.items() if 1 in of and len(of) > 1)


def test_same_figure_twice_is_made_step_by_step_for_both(bench: Bench) -> None:
    twice = make_together(named_variants(BADGER_, Brief(height=200.0), ["", ""]), bench)
    assert all(act.figure_count == (0, 1) for act in twice.acts)
    count = make_plan(BADGER_, Brief(height=200.0, count=2), bench)
    assert [w.grams for w in twice.wools] == pytest.approx([w.grams for w in count.wools])
    assert twice.cutting == count.cutting


def test_wool_wire_and_bags_are_those_of_all(both: Together, bench: Bench) -> None:
    for total in both.wools:
        each = sum(w.grams for plan in both.plans for w in plan.wools if w.wool == total.wool)
        assert total.grams == pytest.approx(each)
    cut = sorted(mm for stock in both.cutting for mm in stock.cuts)
    assert cut == sorted(p.mm for plan in both.plans for wire in plan.wires for p in wire.pieces)
    assert [Words().say(bag.title) for bag in both.bags] == ["Lamplighter badger", "Sad", "Sitting"]
    for bag, plan in zip(both.bags, both.plans, strict=True):
        assert {w.part for w in bag.weighings} == {p.id for p in plan.parts if p.portions}


def test_one_hank_is_split_for_all(both: Together, bench: Bench) -> None:
    wishes = split_together(both, "woad", bench)
    single = [w for plan in both.plans for w in split_wishes(plan, "woad", bench)]
    assert sum(w.count for w in wishes) == sum(w.count for w in single)
    assert len(wishes) < len(single)
    tree = split_plan(wishes, patience_s=5.0)
    for wish in wishes:
        for copy in range(wish.count):
            got = sum(share_of(p.size) for p in tree.pieces if (p.to, p.copy) == (wish.id, copy))
            assert got * tree.hank_g == pytest.approx(wish.grams, rel=0.09)
    pages = PdfReader(io.BytesIO(together_pdf(both, bench, Words(), {"woad": tree}))).pages
    text = " ".join(page.extract_text() for page in pages)
    assert "Splitting: Woad teal" in text and "box 3: Sitting" in text
    assert "Felt the fold of both legs, back to back (Sitting)" in " ".join(text.split())


def test_its_sheets_speak_another_language_and_inches(both: Together, bench: Bench) -> None:
    own = {p.name for plan in both.plans for p in plan.parts} | {w.name for w in both.wools}
    own |= {f.name for f in both.plans[0].fittings} | {*both.names, both.plans[0].figure}
    own |= {stock.name for stock in bench.wire_stock}
    for words in (Words(catalogue=Pseudo()), Words(Units("in", "oz"), Pseudo())):
        told = [
            i for p in together_pages(both, bench, words) for i in p.items if isinstance(i, Letters)
        ]
        lines = " ".join(item.text for item in told)
        for name in sorted(own, key=len, reverse=True):
            lines = lines.replace(name, "").replace(name.lower(), "")
        while (less := re.sub(r"⟦[^⟦⟧]*⟧", "", lines)) != lines:
            lines = less
        # Wrapped lines leave brackets open; plain words of the language would stay as they are.
        assert not {"together", "wool", "order", "steps", "with", "pack"} & set(lines.split())
        text = SOLD_OR_SMALL.sub("", METAL.sub("", " ".join(item.text for item in told)))
        stray = IMPERIAL if words.units.length == "mm" else METRIC
        assert not stray.search(text), stray.search(text)


METAL = re.compile(r"[Ss]oft steel [\d.]+ mm")


def test_command_tells_it_and_refuses_in_one_sentence(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    design = tmp_path / "badger.bambola.json"
    design.write_text(dump_document(BADGER_, three_badgers()), encoding="utf-8")
    assert main(["together", str(design), "--variant", "Sad"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [f["variant"] for f in told["figures"]] == ["", "Sad"]
    assert {tuple(act["of"]) for act in told["acts"]} <= {(0,), (1,), (0, 1)}
    # Those without a height of their own are at the one that is asked for.
    free = three_badgers()
    free = free.replaced(variants=tuple(v.replaced(height=None) for v in free.variants))
    design.write_text(dump_document(BADGER_, free), encoding="utf-8")
    assert main(["together", str(design), "--height", "200mm"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [f["height_mm"] for f in told["figures"]] == pytest.approx([200.0] * 3)
    for arguments, why in (
        (["--variant", "Glad"], "“Glad” is not known; use Sad, Sitting."),
        (["--variant", "Sad", "--height", "3mm"], "cannot"),
    ):
        assert main(["together", str(design), *arguments]) == 2
        said = capsys.readouterr().err
        assert said.count("\n") == 1 and (why in said or why == "cannot")
    assert main(["together", str(BADGER)]) == 2
    assert "has no variants" in capsys.readouterr().err


@given(st.text("abc", max_size=9), st.text("abc", max_size=9))
def test_as_much_as_can_be_is_done_at_once(first: str, second: str) -> None:
    made = {letter: _Made((letter,), (), (), ()) for letter in "abc"}
    found = list(_longest_common([made[a] for a in first], [made[b] for b in second]))
    assert all(first[k] == second[m] for k, m in found)
    assert all(a[0] < b[0] and a[1] < b[1] for a, b in itertools.pairwise(found))

    @cache
    def longest(k: int, m: int) -> int:
        if k == len(first) or m == len(second):
            return 0
        both = 1 + longest(k + 1, m + 1) if first[k] == second[m] else 0
        return max(both, longest(k + 1, m), longest(k, m + 1))

    assert len(found) == longest(0, 0)


def test_likeness_has_tolerance() -> None:
    one = _Made(("core",), (50.0, 30.0), (4.0,), (20.0, 5.0))
    for other, alike in (
        (one, True),
        (replace(one, mm=(51.0, 30.5)), True),  # two hundredths
        (replace(one, mm=(51.1, 30.0)), False),
        (replace(one, mm=(50.0,)), False),
        (replace(one, mm=(50.0, 30.0, 7.0)), False),
        (replace(one, marks=(20.5, 4.5)), True),  # half a millimetre
        (replace(one, marks=(20.6, 5.0)), False),
        (replace(one, marks=()), False),
        (replace(one, what=("coat",)), False),
        (replace(one, grams=(4.25,)), True),  # six
        (replace(one, grams=(4.26,)), False),
    ):
        assert _is_alike(one, other) is alike and _is_alike(other, one) is alike, other


def test_different_designs_share_one_split(
    bench: Bench, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Two badgers and a toad: each in its own order, wool and wire in the sums, a bag for every figure."""
    toad = load_demo(TOAD).figure
    asked = [
        (BADGER_.name, BADGER_, Brief(height=150.0, count=2)),
        (toad.name, toad, Brief(height=90.0)),
    ]
    both = make_together(asked, bench)
    for i, plan in enumerate(both.plans):
        assert [dict(act.steps)[i] for act in both.acts if i in act.figure_count] == list(
            plan.steps
        )
    for total in both.wools:
        each = (t.taken_g for plan in both.plans for t in plan.wools if t.wool == total.wool)
        assert total.taken_g == pytest.approx(sum(each))
    assert [Words().say(bag.title) for bag in both.bags] == [
        "1 of 2: Lamplighter badger", "2 of 2: Lamplighter badger", toad.name,
    ]  # fmt: skip
    wishes = split_together(both, "core-batt", bench)
    single = [w for plan in both.plans for w in split_wishes(plan, "core-batt", bench)]
    assert sum(w.count * w.grams for w in wishes) == pytest.approx(
        sum(w.count * w.grams for w in single), rel=0.06
    )
    out = tmp_path / "kits.pdf"
    own = ["together", str(BADGER), "--height", "150mm", "--with", str(TOAD), "90mm"]
    assert main([*own, "2", "-o", str(out)]) == 0
    text = " ".join(p.extract_text() for p in PdfReader(out).pages)
    assert f"{BADGER_.name}, {toad.name}" in text and f"2 of 2: {toad.name}" in text
    assert main([*own, "none"]) == 2 and "none is not allowed" in capsys.readouterr().err

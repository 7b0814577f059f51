from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bambola.core.figure import Bench, Brief, Coat, Document, Figure, Fur, Inset, Leaf, Part, Wool
from bambola.core.plan import make_plan
from bambola.core.solids import measure_solids
from bambola.core.wool import PartWool, part_wool, tear_of, wool_totals
from bambola.demo import default_bench
from tests.core.test_solids import overlapping
from tests.figures import ball, figure_of, figures, one_ball


def wool_of(figure: Figure, bench: Bench) -> dict[str, PartWool]:
    return part_wool(figure, measure_solids(figure), bench)


def test_core_and_coat_of_a_ball_by_hand(bench: Bench) -> None:
    wool = wool_of(one_ball(40.0, coat=Coat(wool="woad")), bench)["body"]
    core, coat = wool.portions
    total = 0.11 * 4 / 3 * math.pi * 2.0**3
    assert coat.grams == pytest.approx(0.016 * 4 * math.pi * 2.0**2, rel=0.005)
    assert core.grams + coat.grams == pytest.approx(total, rel=0.005)
    # A ball of medium firmness starts 1.46 times as wide: (0.11 / 0.035) to the third.
    inner = 40 - 2 * wool.coat_mm
    assert core.loose_mm["across"] == pytest.approx(inner * (0.11 / 0.035) ** (1 / 3))
    assert wool.coat_mm == pytest.approx(0.016 / 0.11 * 10)


@pytest.mark.parametrize("cover", ["like", "over", "contrast", 0.03])
def test_coat_lies_on_exposed_skin_only(bench: Bench, cover: str | float) -> None:
    apart = overlapping(20.0, 20.0, 20.0)
    coat = Coat(wool="woad", cover=cover)  # type: ignore[arg-type]
    figure = apart.replaced(parts=tuple(p.replaced(coat=coat) for p in apart.parts))
    grams = sum(
        p.grams
        for part in wool_of(figure, bench).values()
        for p in part.portions
        if p.role == "coat"
    )
    # Two balls sunk half into each other: the union loses two caps of height 10.
    skin = 2 * 4 * math.pi * 20**2 - 2 * 2 * math.pi * 20 * 10
    per_cm2 = {"like": 0.012, "over": 0.016, "contrast": 0.024}.get(str(cover), cover)
    assert grams == pytest.approx(float(per_cm2) * skin / 100, rel=0.006)


def test_a_patch_takes_its_wool_from_the_coat(bench: Bench) -> None:
    half = Inset(id="half", wool="cream", outline=((-2, -2), (2, -2), (2, 2), (-2, 2)))
    wool = wool_of(one_ball(40.0, coat=Coat(wool="woad"), insets=(half,)), bench)["body"]
    _, coat, inset = wool.portions
    assert coat.grams == pytest.approx(0.016 * 2 * math.pi * 4, rel=0.01)
    # The patch is tucked 3 mm under the coat along its edge, here the ball's own circle.
    assert inset.grams - coat.grams == pytest.approx(0.016 * math.pi * 4 * 0.3, rel=0.06)


@pytest.mark.parametrize("share", [0.3, 0.6, 0.9])
def test_the_edge_of_a_round_patch_is_a_circle_on_the_skin(share: float) -> None:
    turn = [math.tau * i / 90 for i in range(90)]
    outline = tuple((share * math.cos(a), share * math.sin(a)) for a in turn)
    disc = Inset(id="disc", wool="cream", outline=outline)
    solid = measure_solids(one_ball(40.0, insets=(disc,))).measured[0]
    assert solid.edges_mm[0] == pytest.approx(math.tau * 20 * share, rel=0.04)
    cap = math.tau * 20**2 * (1 - math.sqrt(1 - share**2))
    assert solid.patches_mm2[0] == pytest.approx(cap, rel=0.04)


def test_shrinkage_keeps_the_mass_in_every_form(bench: Bench) -> None:
    flat = figure_of(
        Part(id="ear", name="Ear", shape=Leaf(length=30, width=20, thickness=4), core="cream")
    )
    for figure, ratio in ((flat, 0.11 / 0.035), (one_ball(30.0, firmness="hard"), 0.20 / 0.035)):
        core = next(iter(wool_of(figure, bench).values())).portions[0]
        grown = math.prod(core.loose_mm.values()) / math.prod(core.finished_mm.values())
        assert grown == pytest.approx(ratio)


def test_seam_wool_follows_the_join_line(bench: Bench) -> None:
    for join, wide, cover in (("patch", 3.0, 0.016), ("scarf", min(2.5, 2.8 / 3), 0.05)):
        figure = overlapping(28.0)
        figure = figure.replaced(parts=(figure.parts[0], figure.parts[1].replaced(join=join)))
        solids = measure_solids(figure)
        seam = part_wool(figure, solids, bench)["head"].portions[-1]
        assert seam.role == "seam"
        assert seam.grams == pytest.approx(cover * wide * solids.measured[1].join_line_mm / 10)


def test_fur_grows_with_the_skin_unless_its_hair_lengthens(bench: Bench) -> None:
    for lengthens, power in ((False, 2), (True, 3)):
        fur = Fur(wool="reed", hair=30, spacing=10, lengthens=lengthens)
        small = make_plan(figure := one_ball(40.0, fur=fur), _brief(40), bench)
        large = make_plan(figure, _brief(80), bench)
        grams = [p.parts[0].portions[-1].grams for p in (small, large)]
        assert grams[1] == pytest.approx(grams[0] * 2**power)
        assert [sum(s.kind == "fur row" for s in p.steps) for p in (small, large)] == [4, 8]


def _brief(height: float):  # type: ignore[no-untyped-def]
    from bambola.core.figure import Brief

    return Brief(height=height)


def test_take_and_keep_by_are_percentiles_with_handling_loss(bench: Bench) -> None:
    own = Wool(id="own", name="Own", colour="#ffffff", calibrated=True)
    calibrated = bench.replaced(wools=(*bench.wools, own))
    for wool, spread in (("core-batt", 0.20), ("own", 0.07)):
        figure = figure_of(Part(id="b", name="B", shape=ball(40), core=wool))
        core = wool_of(figure, calibrated)["b"].portions[0]
        taken = core.grams / 0.96
        assert core.take_g == pytest.approx(taken * math.exp(-0.8416 * spread), rel=1e-4)
        assert core.take_g + core.keep_by_g == pytest.approx(
            taken * math.exp(1.2816 * spread), rel=1e-4
        )


@settings(max_examples=15)
@given(figures(), st.floats(0.3, 3.0))
def test_grams_are_never_negative_and_totals_add_up(figure: Figure, s: float) -> None:
    bench = default_bench()
    wool = wool_of(figure, bench)
    for part in wool.values():
        assert all(p.grams >= 0 and p.take_g >= 0 and p.keep_by_g >= 0 for p in part.portions)
    totals, _ = wool_totals(wool, dict.fromkeys(wool, 2), bench, figures=3)
    assert sum(t.grams for t in totals) == pytest.approx(6 * sum(p.grams for p in wool.values()))
    assert all(t.packs * bench.wool_by_id[t.wool].pack_g >= t.buy_g for t in totals)


def test_the_badger_weighs_what_such_a_figure_weighs(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.as_made(), bench)
    coats = sum(
        p.grams * part.count
        for part in plan.parts
        for p in part.portions
        if p.role in ("coat", "inset")
    )
    assert plan.from_height_mm == pytest.approx(140.0, abs=0.01)
    assert 20 <= plan.wool_g <= 45 and 5 <= coats <= 9


@given(st.floats(1e-4, 5.0), st.sampled_from([0.01, 0.1, 1.0]))
def test_what_a_scale_cannot_show_is_torn_off_what_it_can(grams: float, step: float) -> None:
    tear = tear_of(grams, step)
    if grams >= 2.5 * step:
        assert tear is None
    elif tear is not None:
        steps = tear.weigh_g / step
        assert steps == pytest.approx(round(steps)) and steps >= 10
        assert tear.weigh_g / tear.parts == pytest.approx(grams, rel=0.051)
        halves = tear.parts
        while halves % 2 == 0 or halves % 3 == 0:
            halves //= 2 if halves % 2 == 0 else 3
        assert halves == 1
    else:
        assert grams * 1024 < 10 * step


def test_a_finer_scale_weighs_what_a_coarse_one_must_tear(badger: Document) -> None:
    coarse, fine = (default_bench().replaced(scale_g=g) for g in (1.0, 0.001))
    torn = []
    for bench in (coarse, fine):
        parts = make_plan(badger.figure, Brief(height=140), bench).parts
        torn.append([p for part in parts for p in part.portions if p.tear])
    assert len(torn[0]) > 10 and not torn[1]


def test_a_soft_centre_saves_what_its_offer_says(bench: Bench) -> None:
    figure = one_ball(40.0, coat=Coat(wool="woad"))
    solid = make_plan(figure, Brief(height=160), bench)
    offer = next(n for n in solid.notices if n.code == "soft-centre:body")
    assert not offer.is_open and {o.id for o in offer.options} == {"soft-centre", "solid"}
    soft = make_plan(figure, Brief(height=160).answered("soft-centre:body", "soft-centre"), bench)
    shell, centre, *_ = soft.part("body").portions
    # A ball of 160 mm: within 20 mm lies a ball of 120 mm, at 1.6 times the start density.
    volume = 4 / 3 * math.pi * 6.0**3
    assert centre.detail == "soft centre" and centre.grams == pytest.approx(
        1.6 * 0.035 * volume, rel=0.01
    )
    assert centre.loose_mm["across"] == pytest.approx(120)
    saved = solid.part("body").grams - soft.part("body").grams
    assert saved == pytest.approx((0.11 - 1.6 * 0.035) * volume, rel=0.01)
    hours = (solid.minutes - soft.minutes) / 60
    assert f"{saved:.0f} g and {hours:.1f} h" in offer.text and hours > 0
    assert soft.balance.mass_g == pytest.approx(solid.balance.mass_g - saved)
    assert soft.part("body").rounds == 1 and solid.part("body").rounds == 4
    told = next(n for n in soft.notices if n.code == "soft-centre:body")
    assert told.answer == "soft-centre"
    # A thinner one has none, whatever was answered.
    thin = Brief(height=80).answered("soft-centre:body", "soft-centre")
    assert [p.detail for p in make_plan(figure, thin, bench).part("body").portions] == ["", ""]
    assert shell.grams > 0

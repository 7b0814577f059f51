from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, Wool
from bambola.core.figure import (
    Brief,
    Coat,
    Document,
    Figure,
    Fur,
    Joint,
    Limb,
    Part,
    Rope,
    Sausage,
    Seat,
)
from bambola.core.figure.places import fur_all_over
from bambola.core.plan import make_plan
from bambola.core.solids import measure_solids
from bambola.core.wool import PartWool, part_wool, tear_of, wool_totals
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from tests.core.test_solids import overlapping
from tests.effort import examples
from tests.figures import ball, figure_of, figures, one_ball, patch
from tests.said import said


def wool_of(figure: Figure, bench: Bench) -> dict[str, PartWool]:
    return part_wool(figure, measure_solids(figure), bench)


def test_core_and_coat_of_ball_by_hand(bench: Bench) -> None:
    wool = wool_of(one_ball(40.0, coat=Coat(wool="woad")), bench)["body"]
    core, coat = wool.portions
    total = 0.11 * 4 / 3 * math.pi * 2.0**3
    assert coat.grams == pytest.approx(0.016 * 4 * math.pi * 2.0**2, rel=0.005)
    assert core.grams + coat.grams == pytest.approx(total, rel=0.005)
    # A ball of medium firmness starts 1.46 times as wide: (0.11 / 0.035) to the third.
    inner = 40 - 2 * wool.coat_mm
    assert core.loose_mm["across"] == pytest.approx(inner * (0.11 / 0.035) ** (1 / 3), rel=0.01)
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


def test_patch_takes_its_wool_from_coat(bench: Bench) -> None:
    half = patch("half", "cream", outline=((-2, -2), (2, -2), (2, 2), (-2, 2)))
    wool = wool_of(one_ball(40.0, coat=Coat(wool="woad"), places=(half,)), bench)["body"]
    _, coat, inset = wool.portions
    assert coat.grams == pytest.approx(0.016 * 2 * math.pi * 4, rel=0.01)
    # The patch is tucked 3 mm under the coat along its edge, here the ball's own circle.
    assert inset.grams - coat.grams == pytest.approx(0.016 * math.pi * 4 * 0.3, rel=0.02)


@pytest.mark.parametrize("share", [0.1, 0.3, 0.6, 0.9])
def test_edge_of_round_patch_is_circle_on_skin(share: float) -> None:
    turn = [math.tau * i / 90 for i in range(90)]
    outline = tuple((share * math.cos(a), share * math.sin(a)) for a in turn)
    disc = patch("disc", "cream", outline=outline)
    solid = measure_solids(one_ball(40.0, places=(disc,))).measured[0]
    assert solid.edges_mm[0] == pytest.approx(math.tau * 20 * share, rel=0.01)
    cap = math.tau * 20**2 * (1 - math.sqrt(1 - share**2))
    assert solid.patches_mm2[0] == pytest.approx(cap, rel=0.01)


def test_small_patch_area_matches_skin() -> None:
    turn = [math.tau * i / 90 for i in range(90)]
    outline = tuple((0.6 + 0.08 * math.cos(a), 0.2 + 0.08 * math.sin(a)) for a in turn)
    disc = patch("disc", "cream", outline=outline)
    # Skin over (u, v) is 1 / sqrt(1 - u² - v²) times as large; summed over rings of the disc.
    r, a = np.meshgrid((np.arange(200) + 0.5) / 200 * 0.08, np.array(turn))
    u, v = 0.6 + r * np.cos(a), 0.2 + r * np.sin(a)
    skin = float((r / np.sqrt(1 - u * u - v * v)).sum()) * 0.08 / 200 * math.tau / 90 * 20**2
    for mirrored, times in ((False, 1), (True, 2)):
        where = disc.where.replaced(mirrored=mirrored)
        figure = one_ball(40.0, places=(disc.replaced(where=where),))
        assert measure_solids(figure).measured[0].patches_mm2[0] == pytest.approx(
            skin * times, rel=0.01
        )


# Volume (mm³) of what is rolled, by hand; how much of the shrinkage (in log) is along and across it.
ROLLED = {
    "ball": (lambda a, b, c: math.pi / 6 * a * b * c, (1 / 3, 1 / 3, 1 / 3)),
    "sausage": (
        lambda a, b, c: math.pi / 4 * b * c * (a - math.sqrt(b * c)) + math.pi / 6 * (b * c) ** 1.5
        if a > math.sqrt(b * c) else math.pi / 6 * a * b * c,
        (0.22, 0.39, 0.39),
    ),
    "cone": (lambda a, b, c: math.pi / 12 * a * b * c, (0.28, 0.36, 0.36)),
    "sheet": (lambda a, b, c: a * b * c, (0.2, 0.2, 0.6)),
}  # fmt: skip


@pytest.mark.parametrize(
    ("demo", "heights"), [(BADGER, (140, 320)), (HERON, (120, 300)), (TOAD, (45, 95))]
)
def test_bundles_felt_to_visible_size(bench: Bench, demo: Path, heights: tuple[float, ...]) -> None:
    document, forms = load_demo(demo), set()
    for height in heights:
        plan = make_plan(document.figure, document.brief.at_height(height), bench)
        for part in plan.parts:
            for core in (p for p in part.portions if p.role == "core" and p.form != "veil"):
                volume, weights = ROLLED[core.form]
                loose, done = tuple(core.loose_mm.values()), tuple(core.finished_mm.values())
                assert volume(*loose) / 1000 * 0.035 == pytest.approx(core.grams, rel=1e-6)
                q = 0.035 / {"soft": 0.07, "medium": 0.11, "firm": 0.15, "hard": 0.2}[part.firmness]
                felted = [mm * q**w / d for mm, w, d in zip(loose, weights, done, strict=True)]
                assert felted == pytest.approx([felted[0]] * 3)
                forms.add(core.form)
    assert len(forms) > 1


def test_what_lies_in_its_neighbour_is_not_rolled(bench: Bench) -> None:
    # A ball of 30 mm sunk half into one of 60: they meet where x² + z² = 30² and x² + (z - 30)² = 15².
    def head(sink: float) -> Figure:
        body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
        on_top = Part(
            id="head",
            name="Head",
            parent="body",
            shape=ball(30),
            core="cream",
            seat=Seat(sink=sink),
        )
        return figure_of(body, on_top)

    core = wool_of(head(15.0), bench)["head"].portions[0]
    hidden_to = 15**2 / (2 * 30)  # below the head's own middle
    assert core.finished_mm["along"] == pytest.approx(15 + hidden_to, rel=0.01)
    assert core.finished_mm["across"] == pytest.approx(30, rel=0.01)
    capped = make_plan(head(24.0), Brief(), bench)
    assert [p.form for p in capped.part("head").portions] == ["veil"]
    assert capped.part("head").made == "in place"
    assert any(n.code == "hidden:head" and "cap" in said(n.title) for n in capped.notices)
    gone = make_plan(head(40.0), Brief(), bench)
    assert gone.part("head").portions == () and not any(s.part == "head" for s in gone.steps)
    assert any(n.code == "hidden:head" and "left out" in said(n.title) for n in gone.notices)


def test_limb_is_as_long_as_it_is_over_all(bench: Bench) -> None:
    # Joints 46 mm apart, round ends of 40 and 30 mm: 20 + 46 + 15.
    limb = Limb(joints=(Joint(x=0, y=0, z=0, diameter=40), Joint(x=0, y=0, z=46, diameter=30)))
    assert limb.measures()["length"] == 81
    assert limb.scaled(2).measures() == {"length": 162, "thickness": 80}
    longer = limb.resized({"length": 100.0})
    assert longer.measures() == {"length": 100, "thickness": 40} and longer.joints[1].z == 65
    rope = Rope(points=((0, 0, 0), (0, 0, 30)), thickness=10, tip=0.5)
    assert rope.measures()["length"] == 30 + 5 + 2.5
    assert rope.resized({"thickness": 20.0}).measures()["length"] == pytest.approx(37.5)


def test_seam_wool_of_small_figure_is_small_share(bench: Bench) -> None:
    legs = Part(
        id="leg", name="Leg", parent="body", pair=True, join="patch", core="cream",
        shape=Sausage(length=8, diameter=4), seat=Seat(along=0.3, around=90, sink=1),
        made="apart",
    )  # fmt: skip
    plan = make_plan(figure_of(*one_ball(10).parts, legs), Brief(height=16.0), bench)
    seam = sum(p.grams * x.count for x in plan.parts for p in x.portions if p.role == "seam")
    assert 0 < seam < 0.12 * plan.wool_g


def test_seam_wool_follows_join_line(bench: Bench) -> None:
    # A patch: 15 mm each side, or a quarter of the thinner part, here of 28 mm.
    for join, wide, cover in (("patch", 1.4, 0.016), ("scarf", min(2.5, 2.8 / 3), 0.05)):
        figure = overlapping(28.0)
        figure = figure.replaced(parts=(figure.parts[0], figure.parts[1].replaced(join=join)))
        solids = measure_solids(figure)
        seam = part_wool(figure, solids, bench)["head"].portions[-1]
        assert seam.role == "seam"
        assert seam.grams == pytest.approx(cover * wide * solids.measured[1].join_line_mm / 10)


def test_fur_grows_with_skin_unless_its_hair_lengthens(bench: Bench) -> None:
    for lengthens, power in ((False, 2), (True, 3)):
        fur = Fur(wool="reed", hair=30, spacing=10, lengthens=lengthens)
        small = make_plan(figure := one_ball(40.0, places=(fur_all_over(fur),)), _brief(40), bench)
        large = make_plan(figure, _brief(80), bench)
        grams = [p.parts[0].portions[-1].grams for p in (small, large)]
        assert grams[1] == pytest.approx(grams[0] * 2**power)
        assert [sum(s.kind == "fur row" for s in p.steps) for p in (small, large)] == [
            7,
            13,
        ]  # over the skin: π × 40 / 2 and π × 80 / 2


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


@examples(15)
@given(figures(), st.floats(0.3, 3.0))
def test_grams_are_never_negative_and_totals_add_up(figure: Figure, s: float) -> None:
    bench = default_bench()
    wool = wool_of(figure, bench)
    for part in wool.values():
        assert all(p.grams >= 0 and p.take_g >= 0 and p.keep_by_g >= 0 for p in part.portions)
    totals, _ = wool_totals(wool, dict.fromkeys(wool, 2), bench, figures=3)
    assert sum(t.grams for t in totals) == pytest.approx(6 * sum(p.grams for p in wool.values()))
    assert all(t.packs * bench.wool_by_id[t.wool].pack_g >= t.buy_g for t in totals)


def test_badger_weighs_what_such_figure_weighs(bench: Bench, badger: Document) -> None:
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
def test_what_scale_cannot_show_is_torn_off_what_it_can(grams: float, step: float) -> None:
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


def test_finer_scale_weighs_what_coarse_one_must_tear(badger: Document) -> None:
    coarse, fine = (default_bench().replaced(scale_g=g) for g in (1.0, 0.001))
    torn = []
    for bench in (coarse, fine):
        parts = make_plan(badger.figure, Brief(height=140), bench).parts
        torn.append([p for part in parts for p in part.portions if p.tear])
    assert len(torn[0]) > 10 and not torn[1]


def test_soft_centre_saves_what_its_offer_says(bench: Bench) -> None:
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
    assert centre.loose_mm["across"] == pytest.approx(120, rel=1e-3)
    saved = solid.part("body").grams - soft.part("body").grams
    assert saved == pytest.approx((0.11 - 1.6 * 0.035) * volume, rel=0.01)
    spent = [sum(s.minutes for s in plan.steps if s.kind == "shape") for plan in (solid, soft)]
    hours = (spent[0] - spent[1]) / 60
    assert f"{saved:.1f} g and {hours:.1f} h" in said(offer.text) and hours > 0
    assert soft.balance.mass_g == pytest.approx(solid.balance.mass_g - saved)
    assert soft.part("body").rounds == 1 and solid.part("body").rounds == 3
    told = next(n for n in soft.notices if n.code == "soft-centre:body")
    assert told.answer == "soft-centre"
    # A thinner one has none, whatever was answered.
    thin = Brief(height=80).answered("soft-centre:body", "soft-centre")
    assert [p.detail for p in make_plan(figure, thin, bench).part("body").portions] == ["", ""]
    assert shell.grams > 0

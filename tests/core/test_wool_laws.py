"""Wool against sums done by hand: bundles, tears, seams, soft centres, scraps, blends and packs."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from statistics import NormalDist

import numpy as np
import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from bambola.core.bench import Bench, Ingredient, Wool
from bambola.core.bench.wools import volume_of
from bambola.core.figure import Coat, Document, Fur, Part, Rope, Sausage, Seat
from bambola.core.figure.places import fur_all_over
from bambola.core.plan import make_plan
from bambola.core.solids import measure_solids
from bambola.core.wool import Portion, part_wool, soft_share
from bambola.core.wool.amounts import amount, is_plain_core, kept_by, pinch_mm
from bambola.core.wool.bundles import as_read, heap_across, loose_size, ring_size
from bambola.core.wool.layers import tuck_mm
from bambola.core.wool.pan import aim_for
from bambola.core.wool.portion import TornLump, tear_of, wool_band
from bambola.core.wool.portions import SOFT_DETAIL, SOFT_FACTOR, fur_rows
from bambola.core.wool.shelf import wool_totals
from tests.effort import examples
from tests.figures import ball, figure_of, one_ball, patch

EGG = ball(120.0).replaced(height=200.0)
FORMS = ("ball", "sausage", "cone", "sheet")


def wool_of(bench: Bench, id: str, **changes: object) -> Wool:
    return bench.wool_by_id[id].replaced(**changes)


@pytest.mark.parametrize("form", FORMS)
def test_loose_size_felts_to_wanted_size(form: str, bench: Bench) -> None:
    wool, finished = bench.wool_by_id["core-batt"], {"along": 60.0, "across": 24.0, "through": 20.0}
    loose = loose_size(finished, form, wool, 0.11, 2.0)  # type: ignore[arg-type]
    sides = tuple(loose.values())
    assert volume_of(form, sides) * wool.start_density == pytest.approx(2.0)  # type: ignore[arg-type]
    # Each side shrinks by the same power of the ratio of densities, times one number for all.
    q, weights = wool.start_density / 0.11, wool.shrink_weights(form)  # type: ignore[arg-type]
    assert sum(weights) == pytest.approx(1.0)
    shares = [
        was * q**w / now for was, w, now in zip(sides, weights, finished.values(), strict=True)
    ]
    assert shares == pytest.approx([shares[0]] * 3)
    tight = loose_size(finished, form, wool, 0.11, 2.0, 1.6)  # type: ignore[arg-type]
    assert volume_of(form, tuple(tight.values())) * 1.6 == pytest.approx(volume_of(form, sides))  # type: ignore[arg-type]
    radius = (3 * 2.0 / wool.start_density / (4 * math.pi)) ** (1 / 3)  # cm
    assert heap_across(2.0, wool) == pytest.approx(20 * radius)


def test_size_is_read_along_and_how_thick_it_is() -> None:
    size = {"along": 60.0, "across": 24.0, "through": 20.0}
    # Of a round one a thread gives what is between its two thicknesses.
    assert as_read(size, flat=False) == pytest.approx((60.0, math.sqrt(24.0 * 20.0)))
    assert as_read(size, flat=True) == (60.0, 20.0)  # through a sheet
    low = {"along": 10.0, "across": 24.0, "through": 20.0}
    assert as_read(low, flat=False) == (10.0, 24.0)  # over a pad


@example(0.012, 0.01)
@example(0.0249, 0.01)
@given(st.floats(0.0005, 2.0), st.sampled_from([0.001, 0.01, 0.1, 1.0]))
@examples(80)
def test_pinch_is_torn_off_lump_that_scale_shows(grams: float, step: float) -> None:
    tear = tear_of(grams, step)
    if grams >= 2.5 * step:  # half of its step is a fifth of it, or less
        assert tear is None
        return
    if grams * 1024 / step < 9.4:  # even the most parts would not move the scale
        assert tear is None
        return
    assume(tear is not None)
    assert tear is not None and tear.weigh_g / step == pytest.approx(round(tear.weigh_g / step))
    assert round(tear.weigh_g / step) >= 10 and tear.parts <= 1024
    left = tear.parts
    for by in (2, 3):
        while left % by == 0:
            left //= by
    assert left == 1  # by halves and thirds alone
    assert tear.weigh_g == pytest.approx(grams * tear.parts, abs=step / 2 * 1.001)


def test_take_and_reach_are_twentieth_and_ninetieth_of_hundred() -> None:
    for grams, lost, spread in ((10.0, 0.04, 0.2), (0.3, 0.0, 0.1), (2.0, 0.1, 0.0)):
        low, high = wool_band(grams, lost, spread)
        usual = grams / (1 - lost)
        if spread:
            scatter = NormalDist(math.log(usual), spread)
            assert scatter.cdf(math.log(low)) == pytest.approx(0.2)
            assert scatter.cdf(math.log(high)) == pytest.approx(0.9)
        else:
            assert low == high == usual


def with_tail(**tail: object) -> tuple[Part, Part]:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    made = {
        "id": "tail",
        "name": "Tail",
        "parent": "body",
        "core": "core-batt",
        "shape": ball(20.0),
    }
    return body, Part.model_validate({**made, "seat": Seat(along=0.5, around=180, sink=8), **tail})


def portions(bench: Bench, *parts: Part, **more: object) -> tuple[dict[str, Portion], float, float]:
    """The tail's portions by role; the area of its join line's circle, mm, and its skin, cm²."""
    figure = figure_of(*parts)
    solids = measure_solids(figure)
    wool = part_wool(figure, solids, bench, **more)["tail"]  # type: ignore[arg-type]
    (one,) = [solid for _, solid in solids.copies_of("tail")]
    return {p.role: p for p in wool.portions}, one.join_line_mm, one.exposed_mm2 / 100


def test_lumps_tear_into_products_of_two_and_three() -> None:
    """Those that divide a power of six; ten marks of the scale is the least lump."""
    numbers = [n for n in range(5, 1025) if 6**10 % n == 0]
    assert [getattr(tear_of(10 * 0.01 / n, 0.01), "parts", None) for n in numbers] == numbers


def test_seam_width_is_limited_by_thinner_part(bench: Bench) -> None:
    for thick in (20.0, 100.0):
        body, tail = with_tail(shape=ball(thick), join="patch")
        found, line, _ = portions(bench, body.replaced(shape=ball(3 * thick)), tail)
        wide = 2 * min(15.0, thick / 4)
        assert found["seam"].grams == pytest.approx(
            bench_cover(bench, "over") * line / 10 * wide / 10
        )
        told = dict(found["seam"].why.slots)
        assert told["round"].value == pytest.approx(line)  # type: ignore[union-attr]
        assert told["wide"].value == pytest.approx(wide)  # type: ignore[union-attr]
    # The thinner of the two decides, whichever it is.
    body, tail = with_tail(shape=ball(60.0), join="patch")
    found, line, _ = portions(bench, body.replaced(shape=ball(30.0)), tail)
    assert found["seam"].grams == pytest.approx(
        bench_cover(bench, "over") * line / 10 * 2 * 7.5 / 10
    )
    for tall in (30.0, 200.0):
        body, tail = with_tail(shape=ball(20.0).replaced(height=tall), join="scarf")
        found, line, _ = portions(bench, body, tail)
        assert found["seam"].grams == pytest.approx(0.05 * line / 10 * min(25.0, tall / 3) / 10)
    for join in ("fringe", "peg", "wire"):
        body, tail = with_tail(join=join)
        assert "seam" not in portions(bench, body, tail)[0]
    # It is of the wool that is named, else of the coat's, else of the core's.
    for more, wool in (
        ({}, "core-batt"), ({"coat": Coat(wool="woad")}, "woad"),
        ({"coat": Coat(wool="woad"), "seam_wool": "cream"}, "cream"),
    ):  # fmt: skip
        body, tail = with_tail(join="patch", **more)
        assert portions(bench, body, tail)[0]["seam"].wool == wool
    body, tail = with_tail(join="fringe")
    assert portions(bench, body, tail, joins={"tail": "scarf"})[0]["seam"].detail == "scarf"


def bench_cover(bench: Bench, name: str) -> float:
    from bambola.core.bench.wools import COVER

    return COVER[name]


def test_fur_lies_on_visible_skin(bench: Bench) -> None:
    for kind, cover in (("locks", 0.15), ("fleece", 0.10), ("pile", 0.06)):
        fur = Fur(wool="badger-grey", kind=kind, hair=18.0, spacing=8.0)
        body, tail = with_tail(places=(fur_all_over(fur),))
        found, _, skin = portions(bench, body, tail)
        assert found["fur"].grams == pytest.approx(cover * skin) and found["fur"].role == "fur"
        longer, _, _ = portions(bench, body, tail, scale=2.0)
        assert longer["fur"].grams == pytest.approx(cover * skin)
        tail = tail.replaced(places=(fur_all_over(fur.replaced(lengthens=True)),))
        longer, _, _ = portions(bench, body, tail, scale=2.0)
        assert longer["fur"].grams == pytest.approx(2 * cover * skin)
    (place,) = tail.places
    # Over the skin of the last 8, 16 and 40 mm of a rod with round ends of 10: an arc, then straight on.
    rod = tail.replaced(shape=Sausage(length=60.0, diameter=20.0))
    skins = (10 * math.acos(0.2), 5 * math.pi + 6, 5 * math.pi + 30)
    rows = [fur_rows(rod, place, mm) for mm in (0.0, 8.0, 16.0, 40.0)]
    assert rows == [1, *(math.ceil(skin / 8) for skin in skins)]
    assert fur_rows(tail, place.replaced(fur=None), 40.0) == 0


def test_coat_and_patches_never_take_more_than_part_weighs(bench: Bench) -> None:
    for across in (4.0, 6.0, 12.0, 40.0):
        (part,) = one_ball(across).parts
        half = patch("a", "cream", view="front", outline=((-2, -2), (0, -2), (0, 2), (-2, 2)))
        part = part.replaced(coat=Coat(wool="woad", cover="over"), places=(half,))
        figure = figure_of(part)
        found = part_wool(figure, measure_solids(figure), bench)["body"]
        weighs = bench.packed_density(figure, part) * found.net_cm3
        by_role = {p.role: p.grams for p in found.portions}
        assert sum(by_role.values()) == pytest.approx(weighs, rel=1e-9)
        assert min(by_role.values()) >= 0
        # Where the coat leaves no room for a core, its wool does for both.
        assert found.of_one_wool == (across < 40.0)
        assert ("coat" in by_role) != found.of_one_wool and "core" in by_role
        thicker = part_wool(figure, measure_solids(figure), bench, cover_factor=2.0)["body"]
        if not (found.of_one_wool or thicker.of_one_wool):
            assert thicker.coat_mm == pytest.approx(2 * found.coat_mm)
        assert sum(p.grams for p in thicker.portions) == pytest.approx(weighs, rel=1e-9)
        assert found.core_mm == pytest.approx(max(0.0, across - 2 * found.coat_mm))
        # Wire that hides in it takes the room of wool.
        wired = part_wool(figure, measure_solids(figure), bench, {"body": 1000 * found.net_cm3 / 4})
        assert sum(p.grams for p in wired["body"].portions) == pytest.approx(
            0.75 * weighs, rel=1e-6
        )
        assert part_wool(figure, measure_solids(figure), bench, only=()) == {}


def test_soft_centre_is_core_less_shell_all_round() -> None:
    assert soft_share(ball(90.0), 90.0) == 0.0 and soft_share(ball(120.0), 89.0) == 0.0
    for thick in (91.0, 120.0, 300.0):
        assert soft_share(ball(thick), thick) == pytest.approx(((thick - 40) / thick) ** 3)
    assert soft_share(EGG, 120.0) == pytest.approx((80 / 120) ** 2 * 160 / 200)


def test_soft_centre_keeps_its_proportions(bench: Bench) -> None:
    """Of an egg 120 by 200 mm, 80 by 160 are left soft."""
    figure = one_ball(120.0).replaced(parts=(one_ball(120.0).parts[0].replaced(shape=EGG),))
    found = part_wool(figure, measure_solids(figure), bench, soft=("body",))["body"].portions
    (soft,) = (portion for portion in found if portion.detail == SOFT_DETAIL)
    wool, size = bench.wool_by_id[soft.wool], {"along": 160.0, "across": 80.0, "through": 80.0}
    tight = SOFT_FACTOR * wool.start_density
    by_hand = loose_size(size, EGG.start_form, wool, tight, soft.grams, SOFT_FACTOR)
    assert soft.loose_mm == pytest.approx(by_hand)
    assert dict(soft.why.slots)["density"].value == pytest.approx(1.6 * wool.start_density)  # type: ignore[union-attr]


def test_crumb_of_wool_is_as_large_as_its_mass_asks(bench: Bench) -> None:
    wool = bench.wool_by_id["core-batt"]
    size = loose_size({"along": 0.5, "across": 0.5, "through": 0.5}, "ball", wool, 0.1, 1e-5)
    assert math.pi / 6 * math.prod(size.values()) / 1000 == pytest.approx(1e-5 / wool.start_density)


@dataclass(frozen=True)
class Pile:
    """A part as the shelf sees it."""

    portions: tuple[Portion, ...]
    coat_mm: float


def laid(wool: str, role: str, grams: float, take: float, keep: float) -> Portion:
    from bambola.core.facts import NOTHING

    return Portion(wool, role, grams, take, keep, "veil", {}, {}, NOTHING)  # type: ignore[arg-type]


def test_shelf_scraps_and_packs_are_counted_as_shopkeeper_would(bench: Bench) -> None:
    grey = wool_of(
        bench, "badger-grey", grams=30.0, pack_g=25.0, price=4.0, scraps=False, recipe=()
    )
    core = wool_of(
        bench, "core-batt", grams=10.0, pack_g=100.0, price=None, scraps=False, recipe=()
    )
    heap = wool_of(bench, "cream", grams=6.0, scraps=True, recipe=())
    few = bench.replaced(wools=(grey, core, heap))
    parts = {
        "body": Pile(
            (laid("core-batt", "core", 20.0, 18.0, 8.0), laid("badger-grey", "coat", 8.0, 8.0, 2.0)), 2.0
        ),
        "knob": Pile((laid("badger-grey", "core", 3.0, 3.0, 1.0),), 0.0),
    }  # fmt: skip
    counts = {"body": 1, "knob": 2}
    rows, mixes = wool_totals(parts, counts, few, figures=3)
    by_id = {row.wool: row for row in rows}
    assert [row.wool for row in rows] == ["core-batt", "badger-grey"] and mixes == ()
    body = by_id["core-batt"]
    assert (body.grams, body.need_g) == (60.0, 78.0)
    assert body.taken_g == pytest.approx(60.0 / (1 - core.lost_share("core")))
    # All of its core lies under a coat: the heap's 6 g go in, the shelf's 10 g next, 62 g are bought.
    assert (body.scraps_g, body.shelf_g, body.buy_g) == (6.0, 10.0, pytest.approx(62.0))
    assert (body.packs, body.price) == (1, None)
    assert body.left_g == pytest.approx(10.0 + 100.0 - (body.taken_g - 6.0))
    coat = by_id["badger-grey"]
    assert coat.need_g == 3 * (10.0 + 2 * 4.0) and coat.scraps_g == 0.0  # nothing of it is hidden
    assert (coat.shelf_g, coat.buy_g, coat.packs, coat.price) == (30.0, pytest.approx(24.0), 1, 4.0)
    (enough,) = (r for r in wool_totals(parts, counts, few)[0] if r.wool == "badger-grey")
    assert (enough.need_g, enough.buy_g, enough.packs, enough.price) == (18.0, 0.0, 0, None)
    assert enough.left_g == pytest.approx(30.0 - enough.taken_g)


def test_ready_mixed_blend_is_used_first(bench: Bench) -> None:
    mixed = wool_of(
        bench, "badger-grey", grams=4.0, scraps=False,
        recipe=(Ingredient(wool="woad", share=1), Ingredient(wool="cream", share=3)),
    )  # fmt: skip
    few = bench.replaced(
        wools=(mixed, wool_of(bench, "woad", grams=None), wool_of(bench, "cream", grams=None))
    )
    parts = {"body": Pile((laid("badger-grey", "coat", 16.0, 16.0, 0.0),), 0.0)}
    rows, mixes = wool_totals(parts, {"body": 1}, few)
    need = {row.wool: row.need_g for row in rows}
    assert need == pytest.approx({"badger-grey": 4.0, "cream": 9.0, "woad": 3.0})
    (mix,) = mixes
    assert mix.wool == "badger-grey" and mix.grams == pytest.approx(12.0)
    # As much as lies there ready: nothing is mixed, nor for want of a hair.
    _, none = wool_totals(parts, {"body": 1}, few.with_wool(mixed.replaced(grams=16.3)))
    assert none == ()
    # Of what is not to be laid by, the blend itself is told.
    nothing = {"body": Pile((laid("badger-grey", "coat", 0.5, 0.0, 0.0),), 0.0)}
    (row,) = wool_totals(nothing, {"body": 1}, few)[0]
    assert (row.wool, row.grams) == ("badger-grey", 0.5)


def test_pinch_is_told_by_ball_that_fingers_roll_of_it() -> None:
    for across in (4.0, 10.0):
        grams = 0.07 * math.pi / 6 * (across / 10) ** 3
        assert pinch_mm(grams) == pytest.approx(across)
    portion = replace(laid("core-batt", "core", 0.5, 0.5, 0.1), loose_mm={"across": 9.0})
    for parts, kind in ((None, "weight"), (24, "share"), (27, "pinch")):
        tear = TornLump(6.0, parts) if parts else None
        assert amount(replace(portion, tear=tear)).kind == f"amount.{kind}"
        assert kept_by(replace(portion, tear=tear)).kind == ("nothing" if tear else "amount.keep")
    assert is_plain_core(portion) and not is_plain_core(replace(portion, detail="soft"))
    assert not is_plain_core(laid("woad", "seam", 0.5, 0.5, 0.1))


@pytest.mark.parametrize(
    ("take", "keep", "best"), [(12.7, 2.0, 13.0), (12.3, 2.0, 12.3), (12.7, 0.1, 12.8)]
)
def test_scale_is_aimed_at_next_mark_it_has_within_band(
    take: float, keep: float, best: float
) -> None:
    aim = aim_for(laid("core-batt", "core", take, take, keep), 1.0)
    assert aim.best == pytest.approx(best) and (aim.least, aim.most) == (take, take + keep)


def test_ring_is_told_unrolled(bench: Bench, badger: Document) -> None:
    """A collar 176 mm round was rolled to 50, of 1.3 g where so much of a roll would need 0.9."""
    plan = make_plan(badger.figure, badger.brief.at_height(220), bench)
    ring = plan.resized.figure.by_id["collar"]
    assert isinstance(ring.shape, Rope) and ring.shape.closed
    corners = np.array([*ring.shape.points, ring.shape.points[0]])
    core = plan.part("collar").portions[0]
    along, thick, through = core.finished_mm.values()
    assert thick == through
    assert along == pytest.approx(np.linalg.norm(np.diff(corners, axis=0), axis=1).sum(), rel=0.02)
    felt_cm3 = math.pi / 4 * thick**2 * along / 1000
    assert core.grams / felt_cm3 == pytest.approx(bench.packed_density(plan.resized.figure, ring))


def test_patch_is_tucked_in_by_third_at_most(
    bench: Bench,
) -> None:
    """Two brows tucked in by 3 mm ate all the wool of the head they lay on."""
    for across, high, tuck in ((60.0, 0.5, 3.0), (60.0, 0.1, 1.0), (7.0, 0.5, 0.0)):
        (part,) = one_ball(across).parts
        stripe = patch(
            "band",
            "cream",
            view="front",
            outline=((-0.4, -high / 2), (0.4, -high / 2), (0.4, high / 2), (-0.4, high / 2)),
        )
        part = part.replaced(coat=Coat(wool="woad"), places=(stripe,))
        solid = measure_solids(figure_of(part)).measured[0]
        assert tuck_mm(part, stripe, solid) == pytest.approx(tuck, rel=0.1)


def test_strip_length_is_its_girth(bench: Bench, badger: Document) -> None:
    """Where a coat leaves nothing of a cape, its core of no wool is told as thin as that."""
    plan = make_plan(badger.figure, badger.brief.at_height(220), bench)
    copy, solid = plan.solids.copies_of("cape")[0]
    size = ring_size(copy.part, solid, 0.0)
    assert size["through"] == 0 and size["along"] == pytest.approx(solid.seen.girth)
    for cm3 in (1.0, 20.0, 60.0):
        size = ring_size(copy.part, solid, cm3, 2.0)
        assert math.prod(size.values()) == pytest.approx(1000 * cm3)

"""The piece in the hand of small figures, step by step, against sums done by hand."""

from __future__ import annotations

import math

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Coat, Figure, Fitting, Fur, Part, Sausage, Seat
from bambola.core.figure import Piece as FittingPiece
from bambola.core.figure.additions import with_core
from bambola.core.figure.places import fur_all_over
from bambola.core.methods import card_for
from bambola.core.piece import PieceState, pieces_by_step
from bambola.core.plan import Plan, make_plan
from tests.figures import arm_on_post, ball, figure_of, patch

BALL = math.pi / 6 * 15**3
"""A ball of 150 mm, cm³: built in three rounds, for it is 75 mm thicker than is rolled at once."""


def in_hand(plan: Plan, bench: Bench) -> dict[str, PieceState]:
    """What each step leaves in the hand."""
    held = zip(plan.steps, pieces_by_step(plan, bench), strict=True)
    return {str(step.key): hand.after for step, hand in held if hand.after is not None}


def large(**more: object) -> Figure:
    return figure_of(Part(id="body", name="Body", shape=ball(150), core="core-batt", **more))  # type: ignore[arg-type]


def test_ball_grows_in_three_rounds_of_equal_wool(bench: Bench) -> None:
    plan = make_plan(large(), Brief(), bench)
    found = in_hand(plan, bench)
    for n in (1, 2, 3):
        piece = found[f"core:body:{n}"]
        across = 150 * (n / 3) ** (1 / 3)
        assert list(piece.size_mm.values()) == pytest.approx([across] * 3, rel=2e-3)
        assert piece.volume_cm3 == pytest.approx(BALL * n / 3, rel=2e-3)
        assert piece.wool_g == pytest.approx(0.11 * BALL * n / 3, rel=2e-3)
        # Of a ball a tenth from either end: 2 √(0.1 × 0.9) of its width; those of a smaller ball alike.
        assert piece.across_mm[1] == pytest.approx(across, rel=2e-3)
        assert (piece.firmness, piece.section, piece.count) == ("medium", "round", 1)
        assert (piece.layers, piece.loose_end_mm, piece.wires_out_mm) == (("core",), 0.0, ())
    assert found["core:body:3"].across_mm == pytest.approx((90, 150, 90), rel=0.01)
    assert found["core:body:3"] == found["finish"] == found["check:stand"]


def test_hard_core_takes_place_of_first_wool(bench: Bench) -> None:
    """Round a bauble of 60 mm; 90 mm are wound on, in two rounds."""
    plan = make_plan(with_core(large(), "body", 60.0, "Bauble"), Brief(), bench)
    found = in_hand(plan, bench)
    half = ((60**3 + 150**3) / 2) ** (1 / 3)
    assert found["core:body:1"].size_mm["width"] == pytest.approx(half, rel=2e-3)
    assert found["core:body:2"].size_mm["width"] == pytest.approx(150, rel=2e-3)
    wool = BALL - math.pi / 6 * 6**3
    assert found["core:body:2"].volume_cm3 == pytest.approx(wool, rel=2e-3)


def test_coat_and_patch_add_their_wool_and_name(bench: Bench) -> None:
    spot = patch("spot", "cream", ((-0.3, -0.3), (0.3, -0.3), (0, 0.3)))
    fur = fur_all_over(Fur(wool="reed", hair=30, spacing=60))
    coated = large(coat=Coat(wool="woad")).parts[0]
    plan = make_plan(figure_of(coated.replaced(places=(spot, fur))), Brief(), bench)
    grams = {(p.role, p.detail): p.grams for p in plan.part("body").portions}
    found = in_hand(plan, bench)
    core, inset, coat = found["core:body:3"], found["inset:body:spot"], found["coat:body"]
    assert core.wool_g == pytest.approx(grams["core", ""])
    assert core.volume_cm3 == pytest.approx(grams["core", ""] / 0.11, rel=0.01)
    first, second = (inset, coat) if inset.wool_g < coat.wool_g else (coat, inset)
    own = grams["inset", "spot"] if first is inset else grams["coat", ""]
    assert first.wool_g == pytest.approx(core.wool_g + own)
    assert first.volume_cm3 == pytest.approx(core.volume_cm3 + own / 0.11)
    assert second.wool_g == pytest.approx(sum(g for (role, _), g in grams.items() if role != "fur"))
    assert second.volume_cm3 == pytest.approx(BALL, rel=2e-3)
    assert set(second.layers) == {"core", "spot", "coat"}
    assert core.size_mm["width"] < 150 and coat.size_mm["width"] == pytest.approx(150, rel=2e-3)
    furred = [piece for key, piece in found.items() if key.startswith("fur:")]
    assert len(furred) > 1 and all(piece.layers == (*second.layers, "fur") for piece in furred)


def test_small_part_is_soft_until_it_sits(bench: Bench) -> None:
    knob = Part(
        id="knob", name="Knob", parent="body", core="core-batt", shape=Sausage(length=11.0, diameter=9.0),
        seat=Seat(along=1.0, sink=2.0),
    )  # fmt: skip
    plan = make_plan(figure_of(*large().parts, knob), Brief(), bench)
    found = in_hand(plan, bench)
    shaped = found["core:knob:1"]
    assert shaped.firmness is None and shaped.loose_end_mm == plan.part("knob").fringe_mm > 0
    assert found["join:knob"].part == "body" and "knob" in found["join:knob"].carries
    assert found["blend:knob"].firmness == "medium" and found["blend:knob"].loose_end_mm == 0.0
    assert shaped.size_mm["length"] == pytest.approx(9.0, abs=0.4)
    assert shaped.size_mm["width"] == pytest.approx(9.0, rel=0.02)


def test_bare_wires_stick_out_where_bones_go_on(bench: Bench) -> None:
    """The arm's root is 25 mm from the middle of the post."""
    plan = make_plan(arm_on_post(), Brief(), bench)
    found = in_hand(plan, bench)
    keys = [key for key in found if key.startswith("core:")]
    first, then = (found[key] for key in keys[:2])
    assert first.part == "arm" and first.wires_out_mm == pytest.approx((25.0,), rel=0.01)
    assert then.part == "body" and then.wires_out_mm == () and then.carries == ("arm",)


def test_sockets_are_open_until_their_eyes_are_in(bench: Bench) -> None:
    glass = FittingPiece(shape=ball(6.0))
    eye = Fitting(
        id="eye", name="Eye", kind="eye", part="body", seat=Seat(along=0.5), size=6.0,
        follows="ready-made", pieces=(glass,),
    )  # fmt: skip
    found = in_hand(make_plan(large().replaced(fittings=(eye,)), Brief(), bench), bench)
    assert found["socket:eye"].holes == ("eye",)
    assert found["fit:eye"].holes == () and found["fit:eye"].carries == ("eye",)


@pytest.mark.parametrize(
    ("across", "out", "is_shell"), [(66, 8, True), (90, 30, False), (66, 36, False)]
)
def test_thin_layer_over_most_of_head_is_sheet(
    bench: Bench, across: float, out: float, is_shell: bool
) -> None:
    """One ball over another, by their caps beyond the plane in which they meet: the sheet has the area
    between inside and outside. What is thicker, or covers less, is a piece of its own."""
    r, big = across / 2, 30.0
    hair = Part(id="hair", name="Hair", parent="head", shape=ball(across), core="walnut",
                seat=Seat(along=1.0, sink=big + r - out))  # fmt: skip
    head = Part(id="head", name="Head", shape=ball(60), core="core-batt")
    plan = make_plan(figure_of(head, hair), Brief(), bench)
    piece = in_hand(plan, bench)["core:hair:1"]
    assert (piece.section == "sheet", plan.part("hair").made == "in place") == (is_shell, is_shell)
    if is_shell:
        plane = (out**2 + big**2 - r**2) / (2 * out)
        high, inside = r + out - plane, big - plane
        area = math.pi * (r * high + big * inside)
        net = math.pi / 3 * (high**2 * (3 * r - high) - inside**2 * (3 * big - inside))
        wide = math.sqrt(4 * area / math.pi)
        assert list(piece.size_mm.values()) == pytest.approx([wide, wide, net / area], rel=0.02)
        step = next(s for s in plan.steps if s.key == "core:hair:1")
        assert {"shell.lay", "shell.rim"} <= {one.kind for one in card_for(plan, step, bench).how}

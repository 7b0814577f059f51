"""The piece in the hand against points thrown into the figure: how large it is, and what it weighs."""

from __future__ import annotations

import json
import math
from itertools import pairwise

import numpy as np
import pytest
from scipy.stats.qmc import Sobol

from bambola.core.bench import Bench
from bambola.core.export.json_plan import plan_data
from bambola.core.facts import Fact
from bambola.core.figure import Ball, Brief, Figure, Limb, Part, Sausage, Seat
from bambola.core.figure.shapes import Joint
from bambola.core.methods import sheet_for
from bambola.core.piece import PieceState, pieces_by_step
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.carry_on import real_measures, with_found
from bambola.core.quantities import show_hand
from bambola.core.rescue import wanted_of
from bambola.core.resize import height_at
from bambola.core.solids import shown_of
from bambola.core.solids.forms import support_distances
from bambola.core.solids.inside import buried_points, points_within
from bambola.core.solids.lengthwise import hidden_in
from bambola.core.solids.measure import measure_solids
from bambola.core.solids.roots import wound_limbs
from bambola.core.wool import as_read, is_ring
from bambola.demo import BADGER, HERON, TOAD, load_demo
from tests.figures import ball, figure_of

TIMES = (0.6, 2.2)


def _plans(bench: Bench) -> list[Plan]:
    found = []
    for demo in (BADGER, HERON, TOAD):
        document = load_demo(demo)
        made = make_plan(document.figure, document.brief.as_made(), bench)
        for times in TIMES:
            brief = document.brief.at_height(made.to_height_mm * times)
            found.append(make_plan(document.figure, brief, bench))
    return found


@pytest.fixture(scope="module")
def plans(bench: Bench) -> list[Plan]:
    """Every demo at two heights."""
    return _plans(bench)


def _is_capped(figure: Figure, child: str) -> bool:
    """Whether a part caps the end of a wound limb: it sits at the very end of a limb with a bone in it."""
    part = figure.by_id[child]
    nodes = {node.id: node.part for node in figure.nodes}
    wound = {bone.part or nodes[bone.b] for bone in figure.bones}
    return (
        part.parent in wound
        and part.seat.along > 0.89
        and figure.by_id[str(part.parent)].shape.kind in ("limb", "rope")
    )


def _left(plan: Plan, at: int) -> tuple[float, np.ndarray]:
    """Volume (mm³) of a copy less all that stands before it, and the points thrown into that, in its axes."""
    copies, figure = plan.solids.placement.copies, plan.resized.figure
    me = copies[at]
    cube = Sobol(3, rng=at).random_base2(16)
    low, high = -support_distances(me.shape, -np.eye(3)), support_distances(me.shape, np.eye(3))
    points = low + (high - low) * cube
    points = points[points_within(me.shape, points)]
    share = float(np.prod(high - low)) / len(cube)
    worn = [p.part.garment is not None for p in copies]
    placed = points @ me.matrix[:3, :3].T + me.matrix[:3, 3]
    gone = np.zeros(len(points), dtype=bool)
    for j, other in enumerate(copies):
        if me.part.parent == other.part.id and other.side in (None, me.side):
            stands_before = not _is_capped(figure, me.part.id)
        elif other.part.parent == me.part.id and me.side in (None, other.side):
            stands_before = _is_capped(figure, other.part.id)
        else:
            stands_before = (worn[j], j) < (worn[at], at)
        if j != at and stands_before:
            gone |= points_within(
                other.shape, (placed - other.matrix[:3, 3]) @ other.matrix[:3, :3]
            )
    left = points[~gone]
    return len(left) * share, left


def _finished(plan: Plan, bench: Bench) -> dict[str, PieceState]:
    """Every piece when all its wool is on."""
    found = {}
    for step, hand in zip(plan.steps, pieces_by_step(plan, bench), strict=True):
        if hand.after and step.key.sort in ("core", "coat", "inset", "detail"):
            found[hand.after.part] = hand.after
    return found


def test_piece_is_part_less_earlier_ones(plans: list[Plan], bench: Bench) -> None:
    seen = 0
    for plan in plans:
        copies = plan.solids.placement.copies
        wound = wound_limbs(plan.resized.figure)
        bearing = {part.parent for part in plan.resized.figure.parts if part.id in wound}
        for part, piece in _finished(plan, bench).items():
            if piece.wool_g < 0.1 or part in wound | bearing:
                continue
            thrown = [_left(plan, i) for i, copy in enumerate(copies) if copy.part.id == part]
            volume = float(np.mean([v for v, _ in thrown]))
            assert plan.part(part).net_cm3 * 1000 == pytest.approx(volume, rel=0.02), part
            shape = copies[next(i for i, c in enumerate(copies) if c.part.id == part)].shape
            seen += 1
            long, wide, thick = piece.size_mm.values()
            if part == "cape":
                # A strip: as much wool as was thrown, as long as it is round through the middle of its wall.
                assert long * wide * thick == pytest.approx(volume, rel=0.02)
                far = np.linalg.norm(thrown[0][1][:, :2], axis=1).mean()
                assert long == pytest.approx(2 * np.pi * far, rel=0.05) and wide > 2 * thick
            if shape.kind in ("limb", "rope", "leaf") or part == "cape":
                continue
            # By the widest of the thrown points, which miss the very ends by a little; a slanting rim is told
            # at its mean, and what lies on its side from there.
            reach = np.ptp(thrown[0][1], axis=0)[[2, 0, 1]]
            if piece.section == "round":
                drawn = shape.extents()[1]
                assert reach[1] * 0.97 - 1.0 < wide < drawn * 1.001, (part, piece, reach)
                assert long < reach[0] * 1.03 + 1.0, (part, piece, reach)
    assert seen > 25


def test_wound_limb_is_first_and_wool_counted_once(plans: list[Plan]) -> None:
    """A limb is as thick as drawn where it shows, its bearer has less wool by its root, and all together
    have as much as the figure has room for."""
    for plan in plans:
        copies, figure = plan.solids.placement.copies, plan.resized.figure
        wound = wound_limbs(figure)
        felted = [i for i, copy in enumerate(copies) if copy.part.garment is None]
        low = np.min([-copies[i].reaches(-np.eye(3)) for i in felted], axis=0)
        high = np.max([copies[i].reaches(np.eye(3)) for i in felted], axis=0)
        points = low + (high - low) * Sobol(3, rng=1).random_base2(17)
        taken = np.zeros(len(points), dtype=bool)
        for i in felted:
            at = copies[i]
            taken |= points_within(at.shape, (points - at.matrix[:3, 3]) @ at.matrix[:3, :3])
        union = taken.mean() * float(np.prod(high - low))
        together = sum(plan.solids.measured[i].net_mm3 for i in felted)
        assert together == pytest.approx(union, rel=0.015), figure.id
        for i in felted:
            copy, solid = copies[i], plan.solids.measured[i]
            if copy.part.id in wound and isinstance(copy.shape, Limb):
                thickest = max(joint.diameter for joint in copy.shape.joints)
                assert 0.9 * thickest < solid.seen.width < 1.001 * thickest, copy.part.id


def test_steps_contain_all_wool_of_piece(plans: list[Plan], bench: Bench) -> None:
    for plan in plans:
        figure = plan.resized.figure
        for piece in _finished(plan, bench).values():
            packed = bench.packed_density(figure, figure.by_id[piece.part])
            if piece.wool_g >= 0.1:
                assert piece.wool_g / piece.volume_cm3 == pytest.approx(packed, rel=0.08), piece
        laid = sum(
            portion.grams * share * (job.count if (job := plan.job_of(step)) else 1)
            for step in plan.steps
            for portion, share in plan.laid_by(step)
        )
        assert laid * plan.count == pytest.approx(plan.wool_g, rel=1e-6)


def test_loose_end_is_taken_with_last_round(bench: Bench) -> None:
    rod = Part(
        id="knob", name="Knob", shape=Sausage(length=60.0, diameter=20.0), core="core-batt",
        parent="body", seat=Seat(along=1.0, sink=12.0),
    )  # fmt: skip
    body = Part(id="body", name="Body", shape=ball(90), core="core-batt")
    figure, on_peg = figure_of(body, rod), figure_of(body, rod.replaced(join="peg"))
    plan = make_plan(figure, Brief(), bench)
    knob = plan.part("knob")
    core, end = knob.portions
    # The rim of a round rod is its girth; the ball that it stands on is large.
    assert (end.role, end.wool, knob.fringe_mm) == ("fringe", core.wool, 6.0)
    assert end.grams == pytest.approx(0.02 * math.pi * 2.0 * 0.6, rel=0.03)
    (heap,) = knob.heaps
    assert heap.take_g == pytest.approx(core.take_g + end.take_g)
    rounds = [step for step in plan.steps if step.key.sort == "core" and step.part == "knob"]
    shares = [s for step in rounds for _, s in plan.laid_by(step)]
    assert sum(shares) == pytest.approx(1.0) and shares[-1] * heap.take_g >= end.take_g
    made = pieces_by_step(plan, bench)[rounds[-1].n - 1].after
    assert (
        made is not None and made.wool_g == pytest.approx(core.grams) and made.loose_end_mm == 6.0
    )
    assert plan.wool_g == pytest.approx(sum(p.grams for part in plan.parts for p in part.portions))
    pegged = make_plan(on_peg, Brief(), bench).part("knob")
    assert pegged.heaps == pegged.portions and pegged.fringe_mm == 0.0


def test_limb_length_is_its_visible_part() -> None:
    # A straight limb from 20 mm down to 8, of which the thick 30 mm lie in a ball.
    limb = Limb(
        joints=(
            Joint(x=0, y=0, z=0, diameter=20),
            Joint(x=0, y=0, z=30, diameter=14),
            Joint(x=0, y=0, z=90, diameter=8),
        )
    )
    ball = Ball(width=200, depth=200, height=200)
    rows = np.hstack([np.eye(3), [[0.0], [0.0], [-170.0]]])  # its top is at 30
    seen = shown_of(limb, hidden_in(limb, lambda points: buried_points([(ball, rows)], points)))
    whole = 10 + 90 + 4
    assert seen.length == pytest.approx(64.25, abs=0.82)  # half a slice
    assert seen.width == pytest.approx(14, abs=0.2)
    # A tenth in from the rim and from the tip, along a cone that loses a tenth of its length.
    assert seen.widths == pytest.approx((14 - 0.64, 14 - 3.2, 14 - 5.76), abs=0.2)
    assert shown_of(limb).length == pytest.approx(whole)
    assert shown_of(limb).width == pytest.approx(20, rel=0.02)


def test_capped_limb_ends_at_skin_of_cap() -> None:
    figure = load_demo(HERON).figure
    solids = measure_solids(figure)
    for cap, limb in (("head", "neck"), ("foot", "leg")):
        (_, whole), (copy, cut) = solids.copies_of(cap)[0], solids.copies_of(limb)[0]
        assert whole.net_mm3 == pytest.approx(whole.whole_mm3)
        assert cut.net_mm3 < cut.whole_mm3
        assert cut.seen.along < copy.shape.extents()[0]
        assert whole.join_mm2 > 0 and whole.join_line_mm > 0
    # Without a bone in the neck it is no wound limb, and the head is set on its end.
    bare = figure.replaced(nodes=(), bones=(), wires=())
    head = measure_solids(bare).copies_of("head")[0][1]
    assert head.net_mm3 < head.whole_mm3


def test_pieces_as_told_add_up_to_wanted_height(
    bench: Bench,
) -> None:
    """Each is as long and as thick as its last card says, in the whole and half millimetres that are said."""
    for path, height in ((BADGER, 220.0), (HERON, 120.0), (TOAD, 140.0)):
        document = load_demo(path)
        plan = make_plan(document.figure, document.brief.at_height(height), bench)
        made = Brief(height=height)
        for part, piece in _finished(plan, bench).items():
            body, row = plan.resized.figure.by_id[part], plan.part(part)
            if row.made not in ("apart", "on wire") or is_ring(
                body, plan.solids.copies_of(part)[0][1]
            ):
                continue
            told = [float(show_hand(mm).partition(" ")[0]) for mm in piece.size_mm.values()]
            size = dict(zip(("along", "across", "through"), told, strict=True))
            wanted = wanted_of(plan, part, bench)
            came = as_read(size, body.shape.flat)
            made = with_found(
                made, part, real_measures(body, row.to_mm, (wanted.length, wanted.thick), *came)
            )
        high = height_at(document.figure, made, bench, plan.scale)
        assert high == pytest.approx(height, rel=0.005), path


def test_uneven_pair_tells_difference(bench: Bench) -> None:
    """The badger's right paw holds the lantern: a tenth less wool than the left one was told for both."""
    document = load_demo(BADGER)
    plan = make_plan(document.figure, document.brief.at_height(220.0), bench)
    for part in ("paw", "arm"):
        step = next(s for s in plan.steps if s.key == f"core:{part}:1")
        at = [i for i, copy in enumerate(plan.solids.placement.copies) if copy.part.id == part]
        left, right = (_left(plan, i)[0] for i in at)
        told = [f for f in sheet_for(plan, step, bench).card.how if f.kind == "pair.uneven"]
        if part == "arm":
            assert not told and left == pytest.approx(right, rel=0.06)
            continue
        share = dict(told[0].slots)["by"].value  # type: ignore[union-attr]
        assert dict(told[0].slots)["side"] == Fact("side.left")
        mean = (left + right) / 2
        assert mean * (1 + share) == pytest.approx(left, rel=0.01)
        assert mean * (1 - share) == pytest.approx(right, rel=0.01)


def test_of_pair_made_one_at_time_each_begins_with_nothing(bench: Bench) -> None:
    """The second leg began as what the first had come to."""
    document = load_demo(HERON)
    plan = make_plan(document.figure, document.brief.schooled("limbs", "one at a time"), bench)
    hands = dict(zip((str(s.key) for s in plan.steps), pieces_by_step(plan, bench), strict=True))
    first, second = hands["core:leg:1"], hands["core:leg.2:1"]
    assert first.before is None and second.before is None
    assert first.after is not None and first.after == second.after


def test_json_tells_piece_before_and_after_each_step(bench: Bench) -> None:
    document = load_demo(BADGER)
    plan = make_plan(document.figure, document.brief.at_height(400.0), bench)
    rows = json.loads(json.dumps(plan_data(plan, bench)))["steps"]
    by_key = {row["key"]: row for row in rows}
    assert by_key["cut:spine"]["piece_after"] is None
    first, last = by_key["core:head:1"]["piece_after"], by_key["core:head:2"]["piece_after"]
    assert (
        by_key["core:head:1"]["piece_before"] is None
        and by_key["core:head:2"]["piece_before"] == first
    )
    assert first["wool_g"] < last["wool_g"] and first["loose_end_mm"] == 0
    assert set(last["size_mm"]) == {"length", "width", "thickness"} and len(last["across_mm"]) == 3
    coat = by_key["coat:head"]["piece_after"]
    assert coat["layers"] == ["core", "coat"]
    assert (
        coat["volume_cm3"] > last["volume_cm3"]
        and coat["size_mm"]["width"] > last["size_mm"]["width"]
    )
    join = by_key["join:head"]
    assert join["piece_before"]["part"] == "head" and join["piece_after"]["part"] == "body"
    assert "head" in join["piece_after"]["carries"]
    assert by_key["socket:eye"]["piece_after"]["holes"] == ["eye"]
    assert (
        by_key["fit:eye"]["piece_after"]["holes"] == []
        and "eye" in by_key["fit:eye"]["piece_after"]["carries"]
    )
    assert by_key["core:leg:1"]["piece_after"]["wires_out_mm"]
    # Nothing appears between two steps: what a part is before one is what the last left of it.
    of_part = [r for r in rows if r["piece_after"] and r["piece_after"]["part"] == "tail"]
    for one, other in pairwise(r for r in of_part if r["key"].partition(":")[0] != "join"):
        now, then = one["piece_after"], other["piece_before"]
        assert (now["wool_g"], now["size_mm"]) == (then["wool_g"], then["size_mm"])

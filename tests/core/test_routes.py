"""Routes over random skeletons, against exhaustive search and closed counts."""

from __future__ import annotations

import itertools
import math
import random
from collections import Counter
from pathlib import Path

import pytest

from bambola.core.armature import routes_for
from bambola.core.armature.schools import COMPUTED
from bambola.core.armature.skeleton import Pair, Route, Skeleton, passes, skeleton_of
from bambola.core.armature.strength import take_up
from bambola.core.bench import Bench, WireStock
from bambola.core.figure import Document
from bambola.core.plan import make_plan
from bambola.core.plan.counter.differing import compare_school, schools_of
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from tests.effort import tries

SCHOOLS = tuple(COMPUTED)


def random_tree(rng: random.Random, bones: int, most: int = 3) -> Skeleton:
    drawn = tuple((f"n{rng.randrange(i)}", f"n{i}") for i in range(1, bones + 1))
    return Skeleton(
        drawn,
        {frozenset(bone): rng.choice([1, 1, 1, 2, most]) for bone in drawn},
        {frozenset(bone): rng.uniform(5, 60) for bone in drawn},
    )


def bones_at(tree: Skeleton) -> dict[str, list[int]]:
    found: dict[str, list[int]] = {}
    for a, b in tree.bones:
        for node in (a, b):
            found.setdefault(node, []).append(tree.strands[frozenset((a, b))])
    return found


def least_joints(tree: Skeleton, school: str) -> int:
    """One joint fewer than wires, counted without laying any."""
    meeting = bones_at(tree)
    if school == "continuous":
        return 0
    if school == "crosspiece":
        # A path of single strands is one straight wire; anything else needs a second.
        return int(any(len(s) > 2 for s in meeting.values()) or max(tree.strands.values()) > 1)
    if school == "stems":
        # Cut a tree at its branchings: each of b bones there begins a run of its own.
        branches = [len(s) for s in meeting.values() if len(s) > 2]
        return sum(branches) - len(branches)
    ends = sum(max(sum(s) % 2, 2 * max(s) - sum(s)) for s in meeting.values())
    return ends // 2 - 1


def check_cover(tree: Skeleton, routes: list[Route]) -> None:
    drawn = {frozenset(bone) for bone in tree.bones}
    assert all(frozenset(leg) in drawn for route in routes for leg in itertools.pairwise(route))
    count = passes(routes)
    assert all(count.get(bone, 0) >= n for bone, n in tree.strands.items())


def test_random_skeletons_are_covered_with_fewest_joints_of_each_school() -> None:
    rng = random.Random(20)
    for _ in range(tries(500)):
        tree = random_tree(rng, rng.randrange(1, 31))
        for school in SCHOOLS:
            routes = routes_for(tree, school)
            check_cover(tree, routes)
            assert len(routes) - 1 == least_joints(tree, school), (school, tree.bones)
            folds = [
                route
                for route in routes
                for a, _, c in zip(route, route[1:], route[2:], strict=False)
                if a == c
            ]
            if school == "hoops":
                assert not folds and passes(routes) == tree.strands
            if school == "crosspiece":
                assert routes[-1] not in folds
            if school == "stems":
                inner = {
                    n
                    for route in routes
                    for n in set(route)
                    if len(tree.neighbours[n]) > 2
                    and 0 < route.index(n) < len(route) - 1
                    and len(set(route)) > 2
                }
                assert not any(
                    len({frozenset(leg) for leg in itertools.pairwise(route) if node in leg}) > 1
                    for node in inner for route in routes
                )  # fmt: skip


def least_single_walk(tree: Skeleton) -> float:
    """The shortest covering walk by trying every number of passes: a walk exists if nodes of odd degree
    number none or two."""
    best = float("inf")
    bones = [frozenset(bone) for bone in tree.bones]
    for times in itertools.product(*[range(tree.strands[b], tree.strands[b] + 2) for b in bones]):
        degree = Counter(
            node for b, n in zip(bones, times, strict=True) for node in b for _ in range(n)
        )
        if sum(n % 2 for n in degree.values()) <= 2:
            length = sum(
                tree.lengths[b] * n * take_up(n) for b, n in zip(bones, times, strict=True)
            )
            best = min(best, length)
    return best


def least_crosspiece(tree: Skeleton) -> float:
    """The same for two walks, one of them straight between two ends."""
    ends = [n for n in tree.neighbours if tree.is_end(n)]
    best = float("inf")
    for a, b in itertools.combinations(ends, 2):
        across = passes([tuple(tree.path(a, b))])
        bones = [frozenset(bone) for bone in tree.bones]
        rest = [max(0, tree.strands[x] - across.get(x, 0)) for x in bones]
        for times in itertools.product(*[range(n, n + 3) for n in rest]):
            used = [x for x, n in zip(bones, times, strict=True) if n]
            degree = Counter(
                node for x, n in zip(bones, times, strict=True) for node in x for _ in range(n)
            )
            if sum(n % 2 for n in degree.values()) <= 2 and _connected(used):
                total = {x: n + across.get(x, 0) for x, n in zip(bones, times, strict=True)}
                best = min(best, sum(tree.lengths[x] * n * take_up(n) for x, n in total.items()))
    return best


def _connected(bones: list[Pair]) -> bool:
    if not bones:
        return True
    reached, grew = set(bones[0]), True
    while grew:
        more = {node for bone in bones if bone & reached for node in bone}
        grew = bool(more - reached)
        reached |= more
    return all(bone <= reached for bone in bones)


@pytest.mark.parametrize(("school", "least", "most"), [
    ("continuous", least_single_walk, 8), ("crosspiece", least_crosspiece, 5),
])  # fmt: skip
def test_no_shorter_routes_exist(school: str, least: object, most: int) -> None:
    rng = random.Random(4)
    for _ in range(60):
        tree = random_tree(rng, rng.randrange(2, most + 1), most=2)
        times = passes(routes_for(tree, school))
        found = sum(tree.lengths[bone] * n * take_up(n) for bone, n in times.items())
        assert found == pytest.approx(least(tree), rel=1e-9), tree.bones  # type: ignore[operator]


def test_routes_are_same_every_time_and_ring_is_covered_too() -> None:
    tree = random_tree(random.Random(8), 20)
    assert all(routes_for(tree, s) == routes_for(tree, s) for s in SCHOOLS)
    ring = Skeleton(
        (("a", "b"), ("b", "c"), ("c", "a")),
        {frozenset(x): 1 for x in ("ab", "bc", "ca")}, {frozenset(x): 10.0 for x in ("ab", "bc", "ca")},
    )  # fmt: skip
    for school in SCHOOLS:
        check_cover(ring, routes_for(ring, school))


def test_badgers_hoops_go_from_limb_to_twin_limb(badger: Document) -> None:
    placement = place(badger.figure)
    points = {n: p.tolist() for n, p in placement.nodes.items()}
    tree = skeleton_of(badger.figure, points, frozenset({"toe-l", "toe-r"}))
    routes = routes_for(tree, "hoops")
    assert {(r[0].split("-")[0], r[-1].split("-")[0]) for r in routes} == {
        ("pelvis", "chest"), ("toe", "toe"), ("palm", "palm"),
    }  # fmt: skip
    across = routes_for(tree, "crosspiece")[-1]
    assert {across[0], across[-1]} == {"palm-l", "palm-r"}


@pytest.mark.parametrize("demo", [BADGER, HERON], ids=lambda path: path.stem)
def test_what_school_takes_is_counted_off_wires_it_lays(demo: Path, bench: Bench) -> None:
    """Wire to spare is what runs over a stretch more often than strands are asked for there."""
    document = load_demo(demo)
    for school in schools_of(document.figure):
        found = compare_school(document.figure, document.brief, bench, school)
        plan = make_plan(document.figure, document.brief.schooled("wire", school), bench)
        figure, nodes = plan.resized.figure, plan.solids.placement.nodes
        passes = Counter(
            frozenset(leg) for w in figure.wires for leg in itertools.pairwise(w.route)
        )
        asked = {frozenset((bone.a, bone.b)): bone.strands for bone in figure.bones}
        spare = sum(
            max(0, n - asked[leg]) * math.dist(*(nodes[node] for node in leg))
            for leg, n in passes.items()
        )
        assert found.spare_mm == pytest.approx(spare, rel=1e-6, abs=1e-6), school
        laid = [wire for wire in plan.wires if wire.id in plan.gauges]
        assert found.wire_mm == pytest.approx(sum(wire.cut_mm for wire in laid))
        assert found.buys == any(cut.to_buy for cut in plan.cutting)
        assert found.chosen == (found.school == "drawn"), school
        splices = sum(len(wire.pieces) - 1 for wire in laid)
        assert found.joints == plan.wire_joints + splices, school


def test_where_wire_comes_in_short_stems_every_splice_is_joint(bench: Bench) -> None:
    document = load_demo(BADGER)
    kind = {"metal": document.figure.wires[0].metal, "form": "stem", "length": 150, "count": 99}
    stock = [
        {"id": f"s{10 * d:.0f}", "name": "Stem", "diameter": d, **kind} for d in bench.wire_sizes
    ]
    stems = bench.replaced(wire_stock=tuple(map(WireStock.model_validate, stock)))
    found = compare_school(document.figure, document.brief, stems, "hoops")
    plan = make_plan(document.figure, document.brief.schooled("wire", "hoops"), stems)
    assert sum(len(wire.pieces) - 1 for wire in plan.wires) > 1
    assert found.joints == plan.wire_joints + sum(len(wire.pieces) - 1 for wire in plan.wires)


def test_schools_need_bones_and_drawn_needs_routes(
    badger: Document,
) -> None:
    assert schools_of(badger.figure)[0] == "drawn"
    unwired = badger.figure.replaced(wires=())
    assert "drawn" not in schools_of(unwired) and len(schools_of(unwired)) == len(SCHOOLS)
    assert schools_of(load_demo(TOAD).figure) == ()


def test_bone_without_wire_has_no_strands_and_bears_nothing(badger: Document, bench: Bench) -> None:
    wires = tuple(wire for wire in badger.figure.wires if wire.id != "arms")
    plan = make_plan(badger.figure.replaced(wires=wires), badger.brief, bench)
    walked = {frozenset(leg) for w in wires for leg in itertools.pairwise(w.route)}
    for bone in plan.bones:
        laid = frozenset((bone.a, bone.b)) in walked
        assert bone.strands == laid and (bone.bears_nmm > 0) == laid
    assert sum(bone.strands for bone in plan.bones) == len(walked) < len(plan.bones)

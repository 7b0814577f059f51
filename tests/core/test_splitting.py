"""Measuring out by splitting: every portion within 8 %, and no shorter tree, by trying them all."""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Sequence
from fractions import Fraction
from typing import Any

import numpy as np
import pytest

from bambola.core.wool import splitting
from bambola.core.wool.splitting import (
    CLOSE,
    SplitError,
    SplitPlan,
    WantedPortion,
    size_words,
    split_plan,
)
from tests.effort import some, tries
from tests.said import refused


def random_sets(count: int, most: int) -> list[list[WantedPortion]]:
    rng = np.random.default_rng(8)
    return [
        [
            WantedPortion(f"p{i}", float(g))
            for i, g in enumerate(rng.uniform(0.2, 3.0, rng.integers(1, most + 1)))
        ]
        for _ in range(count)
    ]


def check(plan: SplitPlan, wanted: list[WantedPortion]) -> None:
    """The tree is a tree, its pieces add up, and everyone gets what was asked."""
    children: dict[int, list[int]] = {}
    for i, p in enumerate(plan.pieces):
        if p.parent is not None:
            children.setdefault(p.parent, []).append(i)
    for i, p in enumerate(plan.pieces):
        assert len(children.get(i, [])) == p.into
        assert p.into in (0, 2, 3) and (not p.into or p.to is None)
        for child in children.get(i, []):
            assert plan.pieces[child].share * p.into == pytest.approx(p.share)
    acts = [p.act for p in plan.pieces if p.into]
    assert sorted(acts) == list(range(1, plan.splits + 1))
    got: Counter[tuple[str, int]] = Counter()
    for p in plan.pieces:
        if p.to is not None:
            got[p.to, p.copy] += p.share * plan.hank_g  # type: ignore[assignment]
    for w in wanted:
        for copy in range(w.count):
            assert got[w.id, copy] == pytest.approx(plan.given_g[w.id])
            assert abs(got[w.id, copy] / w.grams - 1) <= CLOSE + 1e-6
    assert sum(got.values()) + plan.left_g == pytest.approx(plan.hank_g)


def reachable(splits: int) -> set[tuple[Fraction, ...]]:
    """All heaps of pieces that so many splits of one hank can lead to."""
    heaps = {(Fraction(1),)}
    for _ in range(splits):
        heaps = {
            tuple(sorted((*heap[:i], *heap[i + 1 :], *(heap[i] / n for _ in range(n)))))
            for heap in heaps for i in range(len(heap)) for n in (2, 3)
            if i == 0 or heap[i] != heap[i - 1]
        }  # fmt: skip
    return heaps


def can_meet(heap: tuple[Fraction, ...], targets: list[float]) -> bool:
    """Whether the heap's pieces can be dealt out so that everyone is within 8 %, by trying every way."""
    if not targets:
        return True
    first, rest = targets[0], targets[1:]
    for n in range(1, len(heap) - len(rest) + 1):
        for chosen in set(itertools.combinations(heap, n)):
            if abs(float(sum(chosen)) / first - 1) <= CLOSE + 1e-9:
                left = list(heap)
                for piece in chosen:
                    left.remove(piece)
                if can_meet(tuple(left), rest):
                    return True
    return False


def test_random_sets_are_met_within_eight_per_cent_with_proof() -> None:
    for wanted in random_sets(tries(300, 12), 5):
        plan = split_plan(wanted)
        check(plan, wanted)
        assert plan.proved


def test_no_shorter_tree_exists_for_small_sets() -> None:
    tried = 0
    for wanted in random_sets(tries(120), 4):
        plan = split_plan(wanted)
        if not 1 <= plan.splits <= 4:
            continue
        whole = sum(w.grams for w in wanted)
        targets = sorted((w.grams / whole for w in wanted), reverse=True)
        assert not any(can_meet(heap, targets) for heap in reachable(plan.splits - 1))
        tried += 1
    assert tried >= tries(120) / 2


@pytest.mark.parametrize("n", some([9, 12], 1))
def test_many_portions_of_one_colour_are_still_proved(n: int) -> None:
    rng = np.random.default_rng(n)
    wanted = [WantedPortion(f"p{i}", float(g)) for i, g in enumerate(rng.uniform(0.4, 3.0, n))]
    plan = split_plan(wanted)
    check(plan, wanted)
    assert plan.proved and plan.splits >= (n - 1) / 2


def test_twins_get_same_pieces_and_pack_leaves_something_over() -> None:
    wanted = [
        WantedPortion("arm", 2.0, 2),
        WantedPortion("body", 9.0),
        WantedPortion("ear", 0.55, 2),
    ]
    plan = split_plan(wanted, hank_g=25.0)
    check(plan, wanted)
    for name in ("arm", "ear"):
        both = [sorted(p.size for p in plan.pieces if p.to == name and p.copy == c) for c in (0, 1)]
        assert both[0] == both[1]
    assert plan.left_g > 25 - 14.1 * 1.08 - 1e-9
    assert size_words((0, 0)) == "all" and size_words((2, 1)) == "1/12"


def test_what_cannot_be_split_is_refused_in_words() -> None:
    with refused(SplitError, "too little"):
        split_plan([WantedPortion("a", 5.0), WantedPortion("b", 5.0)], hank_g=4.0)
    with refused(SplitError, "nothing"):
        split_plan([])


def test_huge_splits_are_not_proved(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    # 180 pieces take at least 90 splits into three: looking so deep for fewer would never end.
    wanted = [WantedPortion(f"p{i}", grams, 60) for i, grams in enumerate((5.0, 2.2, 0.6))]
    depths: list[int] = []
    solve = splitting._solve_depth

    def watched(targets: Sequence[float], counts: Sequence[int], depth: int, *rest: Any) -> Any:
        depths.append(depth)
        return solve(targets, counts, depth, *rest)

    monkeypatch.setattr(splitting, "_solve_depth", watched)
    plan = split_plan(wanted, patience_s=2.0)
    assert plan.splits >= 90 and not plan.proved and max(depths) <= 12
    for want in wanted:
        assert plan.given_g[want.id] == pytest.approx(want.grams, rel=0.081)

"""Moving runs of steps: what each move is said to save is what it saves, and nothing is ever broken."""

from __future__ import annotations

import itertools
import random
from collections.abc import Sequence

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.order.beam import beam_search
from bambola.core.order.improving import (
    Changeover,
    Problem,
    _changeover_row,
    _cost_change,
    _move_run,
    _reversed_pairs,
    improve_order,
    longest_run,
    settling_sweeps,
)
from tests.effort import examples


@st.composite
def problems(draw: st.DrawFn, most: int = 12) -> Problem:
    """Random steps with three kinds of change (one costs always the same), some order, now and then glue."""
    n = draw(st.integers(3, most))
    return random_problem(
        n, random.Random(draw(st.integers(0, 10**6))), draw(st.booleans()) and n > 5
    )


def random_problem(n: int, chance: random.Random, glue: bool) -> Problem:
    kinds = []
    for values, prices in ((3, (1, 2, 3)), (4, (1, 2, 3)), (3, (2,))):
        table = np.array([[0.0 if i == j else chance.choice(prices) for j in range(values + 1)]
                          for i in range(values + 1)])  # fmt: skip
        table[0] = table[:, 0] = 0.0
        kinds.append(Changeover(np.array([chance.randint(0, values) for _ in range(n)]), table))
    before = tuple((a, b) for a in range(n) for b in range(a + 1, n) if chance.random() < 0.15)
    shut = ()
    if glue:
        # In the first order nothing lies between, so it may be kept shut.
        before = tuple((a, b) for a, b in before if not (a == 2 and b == 3))
        shut = ((2, 3, frozenset({0, 5})),)
        before = (*before, (2, 3))
    return Problem(n, before, tuple(kinds), shut)


def brute_cost(problem: Problem, order: tuple[int, ...]) -> float:
    """Step by step, as a maker would count the changes."""
    total = 0.0
    for kind in problem.kinds:
        had = 0
        for step in order:
            own = int(kind.of[step])
            if own:
                if had and own != had:
                    total += float(kind.cost[had, own])
                had = own
    return total


def lawful(problem: Problem, order: tuple[int, ...]) -> bool:
    at = {step: i for i, step in enumerate(order)}
    return all(at[a] < at[b] for a, b in problem.before) and not any(
        at[start] < at[k] < at[end] for start, end, kept in problem.shut for k in kept
    )


@given(problems(), st.integers(0, 10**6))
def test_move_saves_just_what_it_is_said_to(problem: Problem, seed: int) -> None:
    chance = random.Random(seed)
    order = list(range(problem.n))
    chance.shuffle(order)
    cost = brute_cost(problem, tuple(order))
    assert problem.cost(order) == pytest.approx(cost)
    for _ in range(20):
        i = chance.randrange(problem.n)
        k = chance.randint(i + 1, problem.n)
        j = chance.choice([p for p in range(problem.n + 1) if p <= i or p >= k])
        told = sum(
            float(_cost_change(kind, _changeover_row(kind.of[np.array(order)], problem.n),
                          np.array([i]), np.array([k]), np.array([1]), np.array([j]))[0])
            for kind in problem.kinds
        )  # fmt: skip
        if j in (i, k):
            continue  # it stays where it is
        new = tuple(_move_run(order, i, k, j))
        assert sorted(new) == sorted(order)
        assert brute_cost(problem, new) - cost == pytest.approx(told)
        (turned,) = _reversed_pairs(np.array(order), np.array([i]), np.array([k]), np.array([j]))
        assert turned_round(new) - turned_round(order) == turned


@examples(60)
@given(problems())
def test_what_is_found_breaks_nothing_and_is_never_dearer(problem: Problem) -> None:
    first = tuple(range(problem.n))
    assert lawful(problem, first)
    found = improve_order(problem, [first])
    assert sorted(found) == list(first) and lawful(problem, found)
    assert problem.cost(found) <= problem.cost(first) + 1e-9
    assert found == improve_order(problem, [first])


@examples(25)
@given(problems(most=7))
def test_small_works_are_put_in_best_order_there_is(problem: Problem) -> None:
    best = min(
        brute_cost(problem, order)
        for order in itertools.permutations(range(problem.n))
        if lawful(problem, order)
    )
    found = problem.cost(improve_order(problem, [tuple(range(problem.n))]))
    assert found <= best * 1.05 + 1.0
    # Kept wide enough, a beam looks at everything, and then it finds the very best.
    assert brute_cost(problem, beam_search(problem, width=10**6)) == pytest.approx(best)


@given(problems(most=14), st.integers(1, 9))
def test_narrow_beam_breaks_nothing_and_loses_no_step(problem: Problem, width: int) -> None:
    order = beam_search(problem, width)
    assert not order or (sorted(order) == list(range(problem.n)) and lawful(problem, order))
    assert order or problem.shut  # only glue can lead into a dead end


def turned_round(order: Sequence[int]) -> int:
    return sum(a > b for a, b in itertools.combinations(order, 2))


def test_of_orders_that_cost_same_expected_one_is_kept() -> None:
    # Two needles, six pieces that cost nothing to leave: one needle and then the other, as it is written.
    needles = Changeover(
        np.array([1, 2, 1, 2, 1, 2]), np.array([[0.0, 0, 0], [0, 0, 2], [0, 2, 0]])
    )
    pieces = Changeover(np.arange(1, 7), np.zeros((7, 7)))
    problem = Problem(6, (), (needles, pieces), ())
    assert improve_order(problem, [(5, 3, 1, 4, 2, 0)]) == (0, 2, 4, 1, 3, 5)


def test_of_several_starts_best_end_counts() -> None:
    chance = random.Random(4)
    n = 24
    table = np.full((7, 7), 2.0)
    np.fill_diagonal(table, 0.0)
    table[0] = table[:, 0] = 0.0
    problem = Problem(
        n, (), (Changeover(np.array([chance.randint(1, 6) for _ in range(n)]), table),), ()
    )
    start = tuple(range(n))
    other = tuple(reversed(start))
    both = problem.cost(improve_order(problem, [start, other]))
    assert both <= min(problem.cost(improve_order(problem, [s])) for s in (start, other))
    assert both == 2.0 * 5  # without any rule every colour is taken up once


@pytest.mark.parametrize(
    ("n", "run", "sweeps"),
    [
        (0, 8, 12),
        (1, 8, 12),
        (50, 8, 12),
        (54, 8, 11),
        (100, 4, 6),
        (141, 3, 4),
        (300, 3, 2),
        (400, 3, 2),
    ],
)
def test_larger_works_get_shorter_runs_and_fewer_sweeps(n: int, run: int, sweeps: int) -> None:
    assert longest_run(n) == run and settling_sweeps(n) == sweeps


def test_single_step_is_left_alone() -> None:
    kind = Changeover(np.array([1]), np.zeros((2, 2)))
    assert improve_order(Problem(1, (), (kind,), ()), [(0,)]) == (0,)


LETTERS = "abcdefghijklmnopqrstuvwxyz"


@pytest.mark.parametrize(
    ("seed", "built", "found"),
    [
        (1, "aicdfgehbpkzovywjmnxlrsqtu", "acgehbpdfikzovwjmnxlrysqtu"),
        (2, "cdhamkqbyejiufnzlxgrswovtp", "cdhamkbyqejiufnzglxorswvtp"),
        (3, "afboreghicnlmdjkpqstvuzwyx", "afbegihkrocnmldjpqstvuzwyx"),
        (4, "abehoglycinrdqjpmvfuksxtwz", "abehogicnryldqjpmvfukstxwz"),
        (5, "aegsbfcdmijhkrzvplonqxutwy", "aegfcdmsbijhkrlopnqxutwzvy"),
        (6, "acdfgybkoiemhnlrjtxpswuzqv", "acdbfgyokiemhnrljtxpswzquv"),
        (7, "acghjmebfiltdnkuxwoqsprvyz", "bacgehjmfiltdnkuxwoqsprvyz"),
        (8, "ajikcebdfgqhsupmvltnyoxrwz", "acebdifgqhspuvmltnjkyoxrwz"),
    ],
)
def test_same_work_is_put_in_same_order_everywhere(seed: int, built: str, found: str) -> None:
    """A maker who opens a design elsewhere goes on where it was left: ties and chance fall as they fell."""
    problem = random_problem(26, random.Random(seed), glue=seed % 2 == 0)
    narrow = beam_search(problem, 6)
    assert "".join(LETTERS[step] for step in narrow) == built
    starts = [tuple(range(26)), narrow] if narrow else [tuple(range(26))]
    assert "".join(LETTERS[step] for step in improve_order(problem, starts, seed)) == found

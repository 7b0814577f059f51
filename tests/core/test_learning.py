"""The maker's own numbers: right, sure of themselves as far as they may be, and not thrown by a slip."""

from __future__ import annotations

import dataclasses
import math

import numpy as np
import pytest
from scipy.stats import norm

from bambola.core.bench import Bench, Making, Record
from bambola.core.bench.wools import LOSS, volume_of
from bambola.core.figure import Brief, Coat
from bambola.core.plan import make_plan
from bambola.core.wool.learning import (
    APART_SD,
    PACE_BELIEF,
    PRIOR_SD,
    Belief,
    Posterior,
    estimates_from_records,
    posterior_of,
    step_estimates,
    with_learned_numbers,
)
from bambola.demo import TOAD, load_demo
from bambola.shipped import default_bench
from tests.effort import THOROUGH, as_often_as, tries
from tests.figures import one_ball

REPEATS, PIECES = (1000 if THOROUGH else 100), 30


def simulated(wild: bool) -> list[tuple[float, Posterior]]:
    """Hidden log densities and what is learned of each from thirty pieces with 15 % scatter."""
    rng = np.random.default_rng(20)
    found = []
    for _ in range(REPEATS):
        truth = math.log(0.11) + rng.normal(0, PRIOR_SD)
        pieces = truth + rng.normal(0, 0.15, PIECES)
        if wild:
            pieces[rng.integers(PIECES)] += math.log(10) * rng.choice([-1, 1])
        found.append((truth, posterior_of(pieces.tolist(), Belief(math.log(0.11), PRIOR_SD, 0.12))))
    return found


CROWDS = [(True, 0.06), *([(False, 0.04)] if THOROUGH else [])]


@pytest.mark.parametrize(("wild", "within"), CROWDS)
def test_thirty_pieces_tell_density_and_how_sure_it_is(wild: bool, within: float) -> None:
    found = simulated(wild)
    near = sum(abs(math.exp(p.mean - truth) - 1) <= within for truth, p in found) / REPEATS
    covered = sum(p.low <= truth <= p.high for truth, p in found) / REPEATS
    assert near >= 0.8
    assert 0.85 <= covered <= 0.95
    if wild:
        assert sum(sum(w > 0.5 for w in p.wild) == 1 for _, p in found) > 0.9 * REPEATS


def piece(n: int, density: float, **more: object) -> Record:
    known: dict[str, object] = {
        "day": "2026-03-01", "figure": "Toad", "part": "Body", "wool": "core-batt", "form": "sausage",
        "grams_in": density * 20.0 / 0.95, "grams_trimmed": density * 20.0 / 0.95 * 0.05,
        "volume_cm3": 20.0,
    }  # fmt: skip
    return Record.model_validate({**known, **more, "n": n})


def test_records_narrow_band_and_move_weight(bench: Bench) -> None:
    figure = one_ball(60.0, coat=Coat(wool="woad"))
    before = make_plan(figure, Brief(), bench).part("body").portions[0]
    grams, width, pieces = [before.grams], [before.keep_by_g / before.take_g], [before.pieces]
    for n in (2, 6, 40):  # as many above as below: their mean is the same
        records = [piece(i, 0.14 * math.exp(0.1 * (-1) ** i)) for i in range(n)]
        own = with_learned_numbers(bench, estimates_from_records(bench, records))
        core = make_plan(figure, Brief(), own).part("body").portions[0]
        grams.append(core.grams)
        width.append(core.keep_by_g / core.take_g)
        pieces.append(core.pieces)
    assert (
        grams == sorted(grams) and width == sorted(width, reverse=True) and pieces == [0, 2, 6, 40]
    )
    ratio = own.wool_by_id["core-batt"].density("medium") / 0.11
    assert ratio == pytest.approx(0.14 / 0.11, rel=0.02)
    # However many, the next piece strays as the maker's pieces do: by 10 %.
    assert core.spread == pytest.approx(0.10, abs=0.01)


def test_record_set_aside_teaches_nothing(bench: Bench) -> None:
    size = (60.0, 30.0, 30.0)
    loose = tuple(mm / (0.3**w) for mm, w in zip(size, (0.30, 0.35, 0.35), strict=True))
    records = [
        piece(i, 0.11, volume_cm3=None, finished_mm=size, loose_mm=loose, minutes=40.0,
              grams_trimmed=0.3, grams_in=4.0)
        for i in range(12)
    ]  # fmt: skip
    records += [
        piece(20 + i, 0.1, role="coat", area_cm2=50.0, asked_cover=0.016, form=None, grams_in=1.4,
              grams_trimmed=0.2, volume_cm3=None)
        for i in range(8)
    ]  # fmt: skip
    found = {e.what: e for e in estimates_from_records(bench, records)}
    assert found["density:medium"].value == pytest.approx(
        3.7 / volume_of("sausage", size), rel=0.03
    )
    assert found["along:sausage"].value == pytest.approx(0.30, abs=0.01)
    assert found["cover"].value == pytest.approx(1.2 / 50 / 0.016, rel=0.05)
    assert found["loss:core"].value == pytest.approx(0.075, abs=0.01)
    assert found["start"].value == pytest.approx(4.0 / volume_of("sausage", loose), rel=0.1)  # type: ignore[arg-type]
    assert found["pace"].value == pytest.approx(
        40 / bench.pace.core_minutes(4.0, 1, "medium"), rel=0.1
    )
    own = with_learned_numbers(bench, found.values())
    assert own.wool_by_id["core-batt"].shrink_weights("sausage")[0] == found["along:sausage"].value
    assert own.pace.per_gram == pytest.approx(bench.pace.per_gram * found["pace"].value)
    aside = [r.replaced(aside=True) for r in records]
    assert estimates_from_records(bench, aside) == () and with_learned_numbers(bench, ()) == bench


def summed_up(values: list[float], mean: float, sd: float, scatter: float) -> tuple[float, ...]:
    """Mean, sd and middle nine tenths of the posterior, by sums over a fine grid with SciPy's curves:
    three makers in ten stray four times as far, one record in twenty is wild and strays ten times as far as
    scatter."""
    of_mean = np.linspace(mean - 3, mean + 3, 6001)[:, None]
    of_scatter = scatter * np.exp(0.7 * np.linspace(-3, 3, 121))[None, :]
    weight = 0.7 * norm.pdf(of_mean, mean, sd) + 0.3 * norm.pdf(of_mean, mean, 4 * sd)
    weight = weight * norm.pdf(np.log(of_scatter / scatter), 0, 0.7)
    for value in values:
        good, wild = norm.pdf(value, of_mean, of_scatter), norm.pdf(value, mean, 10 * scatter)
        weight = weight * (0.95 * good + 0.05 * wild)
    weight = weight.sum(axis=1)
    weight /= weight.sum()
    found = float(weight @ of_mean[:, 0])
    low, high = np.interp([0.05, 0.95], np.cumsum(weight), of_mean[:, 0])
    return found, math.sqrt(float(weight @ (of_mean[:, 0] - found) ** 2)), float(low), float(high)


@pytest.mark.parametrize(
    "values",
    [[], [0.1], [0.35, 0.3], [0.9, 1.0, 0.95], [0.05, -0.02, 0.04, 2.2], [-0.6, 0.5], [0.2] * 8],
)
def test_what_is_learned_is_bayes_theorem_and_no_more(values: list[float]) -> None:
    mean, sd, scatter = -2.2, 0.19, 0.12
    read = [mean + value for value in values]
    found = posterior_of(read, Belief(mean, sd, scatter))
    right, wide, low, high = summed_up(read, mean, sd, scatter)
    assert found.mean == pytest.approx(right, abs=0.003)
    assert found.sd == pytest.approx(wide, rel=0.03)
    assert (found.low, found.high) == pytest.approx((low, high), abs=0.006)


def test_every_number_begins_where_craft_says(bench: Bench) -> None:
    """One record tells of everything; what it is compared with are the starting values of craft.md, 1."""
    size, loose = (60.0, 30.0, 30.0), (90.0, 50.0, 50.0)
    more = {"finished_mm": size, "loose_mm": loose, "minutes": 40.0, "grams_in": 4.0}
    core = piece(1, 0.11, volume_cm3=None, grams_trimmed=0.3, firmness="soft", **more)
    coat = piece(2, 0.1, role="coat", area_cm2=50.0, asked_cover=0.016, form=None, grams_in=1.4,
                 grams_trimmed=0.2, volume_cm3=None)  # fmt: skip
    fur = coat.replaced(n=3, role="fur")
    begun = {e.what: e.start for e in estimates_from_records(bench, [core, coat, fur])}
    assert begun == pytest.approx(
        {"density:soft": 0.07, "start": 0.035, "cover": 1.0, "loss:core": 0.04, "loss:coat": 0.08,
         "loss:fur": 0.15, "along:sausage": 0.22, "pace": 1.0}
    )  # fmt: skip
    (only,) = (e for e in estimates_from_records(bench, [core]) if e.what == "pace")
    assert only.wool == "" and only.records == (1,)


def test_learned_hours_have_honest_intervals() -> None:
    """Makers drawn as the prior has them, each with a true pace for every sort and for each of its firmnesses
    and sizes: the interval told holds it nine times in ten. Now and then a clock was left running."""
    random, held, told = np.random.default_rng(31), 0, 0
    sorts = ("core", "coat", "join", "fur", "finish")
    narrow = ("core:soft:small", "core:firm:small", "core:firm:large", "core:medium:middling")
    for _ in range(tries(800, 30)):
        true = {sort: math.exp(random.normal(0.0, 0.4)) for sort in sorts}
        true |= {one: true["core"] * math.exp(random.normal(0.0, APART_SD)) for one in narrow}
        minutes, planned, named = {}, {}, {}
        for sort in (*sorts[1:], *narrow):
            for n in range(int(random.integers(3, 12))):
                key = f"{sort.partition(':')[0]}:{sort.replace(':', '-')}:{n}"
                planned[key], named[key] = 10.0, sort
                slip = 10.0 if random.random() < 0.03 else 1.0
                minutes[key] = 10.0 * true[sort] * math.exp(random.normal(0.0, 0.3)) * slip
        making = Making(
            minutes={**minutes, "wait:x": 0.0, "new:y": 4.0}, planned=planned, sorts=named,
            behind=tuple(planned),
        )  # fmt: skip
        found = step_estimates([making, making.replaced(aside=True)])
        # A sort of three steps, one of which slipped, is not told by itself.
        names = [e.what for e in found]
        assert names == sorted(names) and {*names} <= {f"pace:{sort}" for sort in (*sorts, *narrow)}
        assert len(names) >= len(sorts)
        for estimate in found:
            sort = estimate.what.partition(":")[2]
            if sort == "core":  # of many kinds, no one number is true
                continue
            held += estimate.low <= true[sort] <= estimate.high
            told += 1
    assert as_often_as(0.9, held, told)


def test_loss_is_learned_for_all_wools(
    bench: Bench,
) -> None:
    """Makers with a hidden loss for cores, coats and fur, weighed in and out on a scale in tenths of a gram,
    of two wools: the interval told of any wool holds it nine times in ten, and a wool never weighed takes
    it."""
    random, held, told = np.random.default_rng(40), 0, 0
    for _ in range(tries(1400, 50)):
        records = []
        true = {}
        for role in ("core", "coat", "fur"):
            odds = math.log(LOSS[role] / (1 - LOSS[role])) + random.normal(0, 0.5)
            true[role] = 1 / (1 + math.exp(-odds))
            for _ in range(int(random.integers(3, 12))):
                grams = float(random.uniform(4.0, 30.0))
                lost = grams / (1 + math.exp(-(odds + random.normal(0, 0.4))))
                wool = str(random.choice(["core-batt", "woad"]))
                records.append(
                    piece(len(records), 0.11, role=role, wool=wool, grams_in=round(grams, 1),
                          grams_trimmed=round(lost, 1), volume_cm3=None)
                )  # fmt: skip
        found = {e.what: e for e in estimates_from_records(bench, records) if not e.wool}
        held += sum(
            found[f"loss:{role}"].low <= true[role] <= found[f"loss:{role}"].high for role in true
        )
        told += len(true)
    assert as_often_as(0.9, held, told)
    own = with_learned_numbers(bench, estimates_from_records(bench, records))
    never = next(w for w in own.wools if w.id not in ("core-batt", "woad"))
    assert (
        never.lost_share("fur")
        == found["loss:fur"].value
        != own.wool_by_id["woad"].lost_share("fur")
    )


def test_what_is_learned_of_sort_counts_for_it_alone() -> None:
    bench = default_bench()
    figure, brief = load_demo(TOAD).figure, Brief(height=140.0)
    before = make_plan(figure, brief, bench)
    keys = [str(s.key) for s in before.steps if s.key.sort == "join"]
    twice = Making(
        minutes=dict.fromkeys(keys, 20.0), planned=dict.fromkeys(keys, 10.0), behind=tuple(keys)
    )
    found = step_estimates([twice] * 6)
    assert [e.what for e in found] == ["pace:join"] and found[0].value == pytest.approx(
        2.0, rel=0.05
    )
    after = make_plan(figure, brief, with_learned_numbers(bench, found))
    for was, now in zip(before.steps, after.steps, strict=True):
        if was.key.sort == "join":
            assert now.minutes == pytest.approx(was.minutes * found[0].value)
        elif was.key.sort != "finish":  # which is no more than a share of all the rest
            assert now.minutes == was.minutes
    slow = dataclasses.replace(found[0], what="pace", value=3.0)
    both = with_learned_numbers(bench, (slow, *found)).pace
    assert both.join == 3 * bench.pace.join
    assert both.join * both.of_sort("join") == pytest.approx(bench.pace.join * found[0].value)


def test_only_finished_steps_of_credible_length_teach() -> None:
    """Paged over, a step took half a minute; left open at night, nine hours. Neither was worked on."""
    spent = {"core:a:1": 12.0, "core:b:1": 0.6, "core:c:1": 540.0, "core:d:1": 30.0}
    making = Making(minutes=spent, planned=dict.fromkeys(spent, 10.0), behind=tuple(spent)[:3])
    assert [len(e.records) for e in step_estimates([making])] == [1]
    assert [len(e.records) for e in step_estimates([making.replaced(finished="2026-01-01")])] == [2]
    assert step_estimates([making.replaced(behind=())]) == ()


def test_firm_and_large_work_is_learned_separately() -> None:
    bench = default_bench()
    figure, brief = load_demo(TOAD).figure, Brief(height=140.0)
    before = make_plan(figure, brief, bench)
    sorts = {str(s.key): s.sort for s in before.steps if s.key.sort == "core"}
    one, _ = sorted(set(sorts.values()))[:2]  # of several
    spent = {key: 30.0 if sort == one else 10.0 for key, sort in sorts.items()}
    making = Making(
        minutes=spent, planned=dict.fromkeys(sorts, 10.0), sorts=sorts, behind=tuple(sorts)
    )
    found = {e.what: e for e in step_estimates([making] * 12)}
    assert found[f"pace:{one}"].value == pytest.approx(3.0, rel=0.05)
    after = make_plan(figure, brief, with_learned_numbers(bench, found.values()))
    for was, now in zip(before.steps, after.steps, strict=True):
        if was.sort == one:
            assert now.minutes == pytest.approx(was.minutes * found[f"pace:{one}"].value)
    # Of many makings the last ones count, whatever order they come in.
    slow = making.replaced(minutes=dict.fromkeys(sorts, 40.0), finished="2020-01-01")
    new = [making.replaced(finished="2026-01-01")] * 100
    told = {e.what: e.value for e in step_estimates([*new, *[slow] * 50])}
    assert told == {e.what: e.value for e in step_estimates(new)}
    few = step_estimates([making.replaced(minutes=dict([next(iter(spent.items()))]))] * 2)
    assert [e.what for e in few] == ["pace:core"]


def test_many_wild_records_leave_finite_posterior() -> None:
    """Eight absurd shrink weights: multiplied, their likelihoods are nought."""
    found = posterior_of([16.0] * 8, Belief(0.22, 0.05, 0.05))
    assert all(map(math.isfinite, (found.mean, found.sd, found.low, found.high, found.next_sd)))
    assert found.low <= found.mean <= found.high


def test_one_size_of_sort_is_believed_what_other_sizes_say() -> None:
    """Each strays by a fifth from the sort, of which the k - 1 others say what they can: their own straying
    is in their mean, so that the variance is a fifth squared times 1 + 1 / (k - 1)."""
    pace = {"core.soft": 1.0, "core.firm": 1.6, "core.hard": 2.2}
    keys = {f"core:{sort}:{n}": sort for sort in pace for n in range(1, 4)}
    making = Making(
        minutes={key: 10.0 * pace[sort] for key, sort in keys.items()},
        planned=dict.fromkeys(keys, 10.0),
        sorts=keys,
        behind=tuple(keys),
    )
    found = {e.what: e for e in step_estimates([making])}
    for one in pace:
        others = tuple(math.log(pace[sort]) for sort in keys.values() if sort != one)
        said = posterior_of(others, PACE_BELIEF)
        sd = math.hypot(said.sd, 0.2 * math.sqrt(1 + 1 / 2))
        own = posterior_of((math.log(pace[one]),) * 3, Belief(said.mean, sd, PACE_BELIEF.scatter))
        estimate = found[f"pace:{one}"]
        assert estimate.value == pytest.approx(math.exp(own.mean), rel=1e-6)
        assert estimate.high == pytest.approx(math.exp(own.high), rel=1e-6)

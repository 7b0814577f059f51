"""What a making teaches waits until it is taken, and what was told when it was begun stays."""

from __future__ import annotations

import pytest

from bambola.core.bench import Bench, Making, Record
from bambola.core.bench.making import KeptPlan
from bambola.core.book.costing import cost_of
from bambola.core.book.kept import as_it_was_told, kept_plan, uses_as_told, with_prices_then
from bambola.core.figure import Document
from bambola.core.plan import make_plan
from bambola.core.plan.counter.weighing import weighings
from bambola.core.wool.learning import with_learned_numbers
from bambola.core.wool.lessons import Experience, as_told_then, for_the_rest, odd_times
from bambola.core.words import ENGLISH

KEPT = KeptPlan(version="1", minutes=600.0)


def ball(n: int, making: str, density: float = 0.15) -> Record:
    return Record(
        n=n, day="2026-03-02", figure="Owl", part="Head", wool="core-batt", grams_in=density * 100.0,
        volume_cm3=100.0, firmness="medium", making=making,
    )  # fmt: skip


def test_piece_teaches_once_its_making_is_taken(bench: Bench) -> None:
    """A swatch at once, a piece of a figure when that is taken; the wild one is named."""
    records = [ball(1, ""), ball(2, "owl"), ball(3, "owl"), ball(4, "owl", density=1.2)]
    making = Making(kept=KEPT, behind=("core:head:1",))
    waits = Experience(records, {"owl": making})
    (known,) = waits.estimates(bench)
    assert known.records == (1,)
    found = waits.lessons(bench, "owl")
    (lesson,) = found.changed
    assert lesson.found.records == (1, 2, 3, 4) and found.doubtful == (4,)
    assert lesson.before == known.value and lesson.times > 1
    taken = Experience(records, {"owl": making.replaced(taught=True)})
    assert taken.estimates(bench) == (lesson.found,) and not taken.lessons(bench, "owl").changed
    # A making begun before plans were kept teaches as it goes, and so does one that is gone.
    for makings in ({"owl": making.replaced(kept=None)}, {}):
        assert Experience(records, makings).estimates(bench)[0].records == (1, 2, 3, 4)


def test_times_paged_over_teach_only_who_says_so(bench: Bench) -> None:
    keys = [f"core:p{n}:1" for n in range(6)]
    spent = dict(zip(keys, (12.0, 12.0, 12.0, 0.1, 0.6, 400.0), strict=True))
    making = Making(
        kept=KEPT, behind=tuple(keys), minutes=spent, planned=dict.fromkeys(keys, 10.0), taught=True
    )
    (pace,) = Experience((), {"owl": making}).estimates(bench)
    assert len(pace.records) == 3 and odd_times(making) == tuple(keys[3:])
    (all_of_it,) = Experience((), {"owl": making.replaced(odd_times=True)}).estimates(bench)
    assert len(all_of_it.records) == 5  # a tenth of a minute is no work, whoever says so
    assert Experience((), {"owl#2": making}, practice=("owl",)).estimates(bench) == ()


def test_figure_half_made_is_planned_by_what_was_known_then(badger: Document, bench: Bench) -> None:
    then = with_learned_numbers(bench, Experience([ball(1, "")], {}).estimates(bench))
    told = make_plan(badger.figure, badger.brief, then)
    firmer = with_learned_numbers(bench, Experience([ball(1, "", 0.2)] * 8, {}).estimates(bench))
    now = firmer.replaced(scale_g=1.0)
    assert make_plan(badger.figure, badger.brief, now).wool_g > 1.1 * told.wool_g
    again = as_told_then(now, then)
    assert again.scale_g == 1.0  # her tools are those of now
    grams = [w.portion.grams for w in weighings(told)]
    plan = make_plan(badger.figure, badger.brief, again)
    assert [w.portion.grams for w in weighings(plan)] == grams and plan.minutes == told.minutes
    # What is taken for the rest changes no part that is begun.
    rest = for_the_rest(firmer, then, badger.figure, ["head", "cape"])
    plan = make_plan(badger.figure, badger.brief, rest)
    more = {part.id: part.grams / told.part(part.id).grams for part in plan.parts if part.grams}
    assert (more["head"], more["cape"]) == pytest.approx((1.0, 1.0))
    assert min(more["snout"], more["body"]) > 1.1
    # Taken twice, a part keeps what it was first told.
    twice = for_the_rest(bench, rest, badger.figure, ["head", "snout"])
    assert (
        make_plan(badger.figure, badger.brief, twice).part("head").grams == told.part("head").grams
    )
    assert twice.for_part("snout").wool_by_id == rest.wool_by_id


def test_book_counts_what_was_told_whatever_plans_it_now(badger: Document, bench: Bench) -> None:
    """A program of another day tells other sizes, weights and hours: of those begun nothing changes."""
    priced = bench.with_wool(bench.wool_by_id["core-batt"].replaced(price=5.0, pack_g=100.0))
    told = make_plan(badger.figure, badger.brief, priced)
    kept = kept_plan(told, priced, "1", ENGLISH.say)
    other = make_plan(badger.figure, badger.brief.at_height(150.0), priced)
    shown = as_it_was_told(other, kept)
    assert [p.grams for p in shown.parts] == pytest.approx([p.grams for p in told.parts])
    assert [p.to_mm for p in shown.parts] == [p.to_mm for p in told.parts]
    assert (shown.minutes, shown.wool_g) == pytest.approx((told.minutes, told.wool_g), rel=1e-3)
    core = next(w.taken_g for w in told.wools if w.wool == "core-batt")
    dearer = priced.with_wool(priced.wool_by_id["core-batt"].replaced(price=9.0))
    bench_then = with_prices_then(dearer, priced)
    uses = uses_as_told(shown, bench_then, kept)
    cost = cost_of(shown, bench_then, used=uses)
    line = next(line for line in cost.lines if line.key == "wool:core-batt")
    assert line.amount == pytest.approx(core)
    assert float(line.price or 0) == pytest.approx(core / 100 * 5.0, abs=0.006)
    assert not any(line.amount for line in cost.lines if line.key not in kept.uses)

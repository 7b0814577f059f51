"""The fair: no choice that fits brings more, found again by trying all; nothing outside the free times."""

from __future__ import annotations

import itertools
import json
import math
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from pathlib import Path

import icalendar
import pytest

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.bench.money import Money
from bambola.core.bench.shelved import find_shelf_item, with_shelved
from bambola.core.book.costing import eyes_of
from bambola.core.book.fair import Fair, FairError, Ware, batch_steps, plan_fair
from bambola.core.export.ics import calendar_ics
from bambola.core.figure import Brief
from bambola.core.order.sittings import calendar
from bambola.core.plan import make_plan
from bambola.demo import HERON, TOAD, load_demo, sample_shelf
from bambola.shipped import body_plans, default_bench
from tests.effort import some
from tests.said import refused

FIRST, DUE = date(2026, 3, 2), date(2026, 3, 30)  # four weeks, three sittings in each
DOLL = next(plan.figure for plan in body_plans() if "doll" in plan.figure.id)


def priced() -> Bench:
    bench = with_shelved(sample_shelf(default_bench()), "eyes:4", price=0.3)
    money = Money.model_validate({"fees": "10", "packing": "1.5"})
    return bench.replaced(money=money)


def wares_on(bench: Bench) -> list[Ware]:
    asked = (
        (load_demo(HERON).figure, 120.0, "60", 4),
        (load_demo(TOAD).figure, 80.0, "280", 3),
        (DOLL, 70.0, "38", 9),
    )
    return [
        Ware(make_plan(figure, Brief(height=height), bench), Decimal(price), most)
        for figure, height, price, most in asked
    ]


def brought(counts: tuple[int, ...], wares: list[Ware], bench: Bench) -> float:
    """What a choice brings: after fees and packing, less whole packs and single eyes beyond the shelf."""
    sold = sum(n * (float(w.price) * 0.9 - 1.5) for w, n in zip(wares, counts, strict=True))
    for wool in bench.wools:
        used = sum(
            n * t.taken_g for w, n in zip(wares, counts, strict=True) for t in w.plan.wools
            if t.wool == wool.id
        )  # fmt: skip
        if wool.grams is not None and used > wool.grams + 1e-6:
            sold -= math.ceil((used - wool.grams) / wool.pack_g) * (wool.price or 0.0)
    sizes = {size for w in wares for size in eyes_of(w.plan)}
    for size in sizes:
        eyes = find_shelf_item(bench, f"eyes:{size:g}")
        price = eyes.price or 0.0 if eyes else 0.0
        used = sum(n * eyes_of(w.plan).get(size, 0) for w, n in zip(wares, counts, strict=True))
        sold -= max(0.0, used - bench.eyes_of(size)) * price
    return sold


def fits(counts: tuple[int, ...], bench: Bench) -> bool:
    """Whether it is done two days before, by the calendar of a maker who takes a fifth longer."""
    if not any(counts):
        return True
    slow = bench.replaced(pace=bench.pace.times(1.2))
    steps, figures = batch_steps(wares_on(slow), counts)
    found = calendar(steps, bench.free, FIRST, bench.cure_min, runs=(figures,))
    return found.finish.date() <= DUE - timedelta(days=2)


@pytest.fixture(scope="module")
def fair() -> Fair:
    bench = priced()
    return plan_fair(wares_on(bench), bench, FIRST, DUE)


def test_no_choice_that_fits_brings_more(fair: Fair) -> None:
    bench = priced()
    wares = wares_on(bench)
    assert fair.is_proved and fits(fair.counts, bench) and sum(fair.counts) >= 2
    assert float(fair.brings) == pytest.approx(brought(fair.counts, wares, bench), abs=1e-6)
    room = fair.free_min / 1.2

    def minutes(counts: tuple[int, ...]) -> float:
        pairs = zip(wares, counts, strict=True)
        return sum(step.minutes_of(n) for w, n in pairs if n for step in w.plan.steps)

    better = [
        counts for counts in itertools.product(range(5), range(4), range(10))
        if minutes(counts) <= room and brought(counts, wares, bench) > float(fair.brings) + 1e-6
    ]  # fmt: skip
    assert better
    for counts in some(better, 6):  # by time alone they would do, but not in the sittings there are
        assert not fits(counts, bench), counts


def test_fair_calendar_keeps_free_times_and_skips_lost_week(
    fair: Fair,
) -> None:
    bench = priced()
    assert fair.calendar is not None
    data = calendar_ics("Fair", fair.steps, fair.calendar, datetime(2026, 3, 1, tzinfo=UTC))
    events = list(icalendar.Calendar.from_ical(data).walk("VEVENT"))
    assert len(events) == len(fair.calendar.sittings) > 3
    for event in events:
        assert isinstance(event, icalendar.Event)
        start, end = event.start, event.end
        assert isinstance(start, datetime) and isinstance(end, datetime)
        assert start.date() >= FIRST and end.date() <= DUE - timedelta(days=2)
        assert any(
            f.weekday == start.weekday() and f"{start:%H:%M}" == f.start
            and end - start == timedelta(minutes=f.minutes) for f in bench.free
        )  # fmt: skip
    later = plan_fair(wares_on(bench), bench, FIRST + timedelta(days=7), DUE)
    assert later.calendar is not None and later.brings < fair.brings
    assert later.calendar.sittings[0].start.date() >= FIRST + timedelta(days=7)


def test_too_soon_is_told_and_nothing_that_fits_is_nothing() -> None:
    bench = priced()
    with refused(FairError, "no free time"):
        plan_fair(wares_on(bench), bench, FIRST, FIRST + timedelta(days=2))
    none = plan_fair(wares_on(bench), bench, FIRST, FIRST + timedelta(days=4))
    assert none.counts == (0, 0, 0) and none.calendar is None and none.hourly is None
    unsold = [Ware(ware.plan, Decimal(0)) for ware in wares_on(bench)]
    assert plan_fair(unsold, bench, FIRST, DUE).counts == (0, 0, 0)
    one = [Ware(ware.plan, ware.price, 1) for ware in wares_on(bench)]
    assert max(plan_fair(one, bench, FIRST, DUE).counts) == 1


def test_command_plans_fair(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    bench, feed = tmp_path / "bench.json", tmp_path / "fair.ics"
    bench.write_text(priced().model_dump_json(), encoding="utf-8")
    asked = [
        "fair", "--ware", str(HERON), "120", "60", "--ware", str(TOAD), "80 mm", "95",
        "--by", "2026-03-30", "--from", "2026-03-02", "--bench", str(bench),
    ]  # fmt: skip
    assert main([*asked, "--json", "--ics", str(feed)]) == 0
    data = json.loads(capsys.readouterr().out)
    assert data["proved"] and sum(ware["count"] for ware in data["wares"]) >= 1
    assert len(data["sittings"]) == feed.read_text().count("BEGIN:VEVENT")
    assert main(asked) == 0
    assert "No other choice brings more." in capsys.readouterr().out
    for at, wrong, says in (
        (8, "lots", "lots"),
        (10, "soon", "--by"),
        (12, "2027-01-01", "free time"),
    ):
        assert main([*asked[:at], wrong, *asked[at + 1 :]]) == 2
        assert says in capsys.readouterr().err

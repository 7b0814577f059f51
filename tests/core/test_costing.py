"""What a figure costs: against sums by hand, and the laws that every reckoning keeps."""

from __future__ import annotations

import io
import json
import math
from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from bambola.cli import main
from bambola.core.bench import Bench, Making
from bambola.core.bench.money import Money
from bambola.core.bench.shelved import with_shelved
from bambola.core.book.costing import cost_of, likely_cost, wool_used
from bambola.core.export.packet import Job, packet_pdf
from bambola.core.figure import Brief
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.weighing import weighings
from bambola.core.quantities import QuantityError, parse_money, show_money
from bambola.core.wool.learning import APART_SD, step_estimates, with_learned_numbers
from bambola.demo import BADGER, TOAD, load_demo, sample_shelf
from bambola.shipped import default_bench
from tests.effort import as_often_as, examples, tries


def priced(**money: str) -> Bench:
    """A bench on which everything that the badger takes has a price."""
    bench = with_shelved(sample_shelf(default_bench()), "eyes:8", price=0.35)
    coils = (s.replaced(price=4.2) if s.form == "coil" else s for s in bench.wire_stock)
    told = Money.model_validate(money)
    return bench.replaced(wire_stock=tuple(coils), money=told)


def badger(bench: Bench, count: int = 1) -> Plan:
    return make_plan(load_demo(BADGER).figure, Brief(height=220.0, count=count), bench)


def test_every_line_is_what_is_used_times_its_price() -> None:
    """Worked out again in fractions from the plan's own wool, eyes and cuts."""
    bench = priced(rate="18", overheads="10", fees="12.5", small="0.5", packing="2.4")
    plan = badger(bench, 3)
    cost = cost_of(plan, bench)
    asked: dict[str, Fraction] = {}
    for total in plan.wools:
        wool = bench.wool_by_id[total.wool]
        per_gram = Fraction(str(wool.price)) / Fraction(str(wool.pack_g))
        asked[f"wool:{total.wool}"] = per_gram * Fraction(str(total.taken_g))
    asked["eyes:8"] = Fraction("0.35") * 2 * 3
    lengths = {s.name: (s.id, s.length) for s in bench.wire_stock if s.form == "coil"}
    for cut in plan.cutting:
        name = dict(cut.stock.slots)["name"]
        # An end of a coil costs what its coil does.
        stock, length = lengths[str(name).replace(", end", ", coil")]
        used = Fraction("4.2") * Fraction(str(sum(cut.cuts))) / Fraction(str(length))
        asked[f"wire:{stock}"] = asked.get(f"wire:{stock}", Fraction(0)) + used
    told: dict[str, Decimal] = {}
    for line in cost.lines:
        assert line.price is not None
        key = line.key
        told[key] = told.get(key, Decimal(0)) + line.price
    assert told.keys() == asked.keys()
    for key, price in told.items():
        assert abs(Fraction(price) - asked[key]) <= Fraction(1, 100), key
    work = Fraction(18) * Fraction(str(plan.minutes)) / 60
    assert cost.work is not None and abs(Fraction(cost.work) - work) <= Fraction(1, 200)
    stuff = sum(told.values()) + Decimal("1.5")
    assert cost.stuff == stuff and cost.packing == Decimal("7.2")
    assert cost.overheads == ((stuff + cost.work) / 10).quantize(Decimal("0.01"))
    assert cost.total == stuff + cost.work + cost.overheads + cost.packing
    assert cost.covers * Decimal("0.875") >= cost.total


amounts = st.decimals(0, 5000, places=2)


@examples(60)
@given(
    rate=st.none() | amounts,
    small=amounts,
    packing=amounts,
    overheads=st.decimals(0, 300, places=1),
    fees=st.decimals(0, Decimal("99.5"), places=1),
    coin=st.sampled_from(["0.001", "0.01", "0.05", "0.25", "1", "100"]),
    minutes=st.floats(0, 20_000),
    price=amounts,
)
def test_price_that_covers_is_least_and_pays_hour(
    rate: Decimal | None,
    small: Decimal,
    packing: Decimal,
    overheads: Decimal,
    fees: Decimal,
    coin: str,
    minutes: float,
    price: Decimal,
) -> None:
    told = {"small": small, "packing": packing, "overheads": overheads, "fees": fees, "coin": coin}
    bench = priced().replaced(money=Money.model_validate({**told, "rate": rate}))
    cost = cost_of(badger(bench), bench, minutes)
    money, one = bench.money, Decimal(coin)
    for amount in (cost.small, cost.packing, cost.overheads, cost.total, cost.covers):
        assert amount >= 0 and amount % one == 0  # it can be paid in coins
    kept = 1 - money.fees / 100
    assert cost.covers * kept >= cost.total > (cost.covers - one) * kept
    sale = cost.sold_at(price)
    assert sale.fees + sale.margin + cost.total == price
    if minutes == 0:
        assert sale.hourly is None
        return
    covering = cost.sold_at(cost.covers).hourly
    assert covering is not None
    # At the price that covers, an hour earns its rate, but for what is rounded to coins.
    hours = Decimal(repr(minutes)) / 60
    assert abs(covering - (rate or 0)) * hours <= 3 * one + Decimal("1e-9")
    dearer = cost.sold_at(price + 10).hourly
    assert dearer is not None and sale.hourly is not None and dearer >= sale.hourly - one / hours


def test_real_expenses_count_and_missing_prices_are_told() -> None:
    bench = priced(rate="20")
    plan = badger(bench)
    spent = cost_of(plan, bench, 90.0, {"wool:woad": 50.0, "needle:38": 2.0})
    assert spent.work == Decimal("30.00")
    woad = next(line for line in spent.lines if line.key == "wool:woad")
    assert woad.price == Decimal("7.20")  # 50 g of packs of 25 g at 3.60
    needles = next(line for line in spent.lines if line.key == "needle:38")
    assert needles.price is None and needles.amount == 2.0
    # Of a wool of which one portion was weighed that one counts as it is, all others as planned.
    (first, *_) = (w for w in weighings(plan) if w.portion.wool == "woad")
    total = next(t.taken_g for t in plan.wools if t.wool == "woad")
    planned = first.portion.grams / (1 - bench.wool_by_id["woad"].lost_share(first.portion.role))
    used = wool_used(plan, bench, {first.key: planned + 5.0, "gone/core/1/0": 9.0})
    assert used == {"wool:woad": pytest.approx(total + 5.0)}
    every = {
        w.key: 1.0
        + w.portion.grams / (1 - bench.wool_by_id[w.portion.wool].lost_share(w.portion.role))
        for w in weighings(plan)
    }
    taken = sum(t.taken_g for t in plan.wools if f"wool:{t.wool}" in wool_used(plan, bench, every))
    assert sum(wool_used(plan, bench, every).values()) == pytest.approx(taken + len(every))
    bare = default_bench()
    cost = cost_of(badger(bare), bare)
    assert len(cost.unpriced) == len(cost.lines) and cost.work is None and cost.total == 0


def test_likely_cost_covers_nine_in_ten() -> None:
    """Makers with a hidden pace at every sort of work, and for each of its sizes, make three toads by the
    clock; the fourth then costs what it costs: hours that scatter step by step, wool as the hand lays it."""
    random, held, told = np.random.default_rng(7), 0, 0
    figure = load_demo(TOAD).figure
    bench = priced(rate="15", overheads="10", packing="2")
    start = make_plan(figure, Brief(height=90.0), bench)
    timed = [step for step in start.steps if step.minutes > 0]
    for n in range(tries(4000, 40)):
        pace = {s.key.sort: math.exp(random.normal(0, 0.4)) for s in timed}
        of = {s.sort: pace[s.key.sort] * math.exp(random.normal(0, APART_SD)) for s in timed}
        made = []
        for _ in range(n % 4):
            spent = {
                str(s.key): s.minutes * of[s.sort] * math.exp(random.normal(0, 0.3)) for s in timed
            }
            planned, sorts = (
                {str(s.key): getattr(s, name) for s in timed} for name in ("minutes", "sort")
            )
            made.append(Making(minutes=spent, planned=planned, sorts=sorts, behind=tuple(spent)))
        known = step_estimates(made)
        # What is planned with what is known, without planning anew: only the minutes are others.
        own = with_learned_numbers(bench, known).pace
        steps = tuple(
            replace(
                s, minutes=s.minutes * own.of_sort(s.sort), set_up=s.set_up * own.of_sort(s.sort)
            )
            for s in start.steps
        )
        plan = replace(start, steps=steps, minutes=sum(s.minutes for s in steps))
        cost = cost_of(plan, bench)
        low, high = likely_cost(plan, bench, cost, known)
        minutes = sum(s.minutes * of[s.sort] * math.exp(random.normal(0, 0.3)) for s in timed)
        used = {f"wool:{t.wool}": t.taken_g * math.exp(random.normal(0, 0.2)) for t in plan.wools}
        held += low <= cost_of(plan, bench, minutes, used).total <= high
        told += 1
        assert low < cost.total < high
    assert as_often_as(0.9, held, told)
    certain = bench.replaced(money=bench.money.replaced(rate=None))
    for line in (bare := cost_of(start, default_bench())).lines:
        assert line.price is None
    assert likely_cost(start, default_bench(), bare, ()) == (bare.total, bare.total)
    low, high = likely_cost(start, certain, cost_of(start, certain), ())
    assert high - low < Decimal(10)  # without hours only the wool is in doubt


@pytest.mark.parametrize(
    ("text", "currency", "amount"),
    [("4.50", "€", "4.50"), ("4,5 €", "€", "4.5"), ("kr 1200", "kr", "1200"), ("0", "", "0")],
)
def test_price_is_read_and_told_in_any_currency(text: str, currency: str, amount: str) -> None:
    assert parse_money(text, currency) == Decimal(amount)
    assert show_money(Decimal("1234.5"), "¥", Decimal(1)) == "1234 ¥"
    assert show_money(Decimal("1234.5"), "", Decimal("0.05")) == "1234.50"


@pytest.mark.parametrize("text", ["", "four", "-1", "nan", "inf", "1e9", "9" * 500, "4.5.6"])
def test_what_is_no_price_is_refused_in_sentence(text: str) -> None:
    with pytest.raises(QuantityError) as refused:
        parse_money(text, "€")
    assert str(refused.value).startswith("typed.price")


def test_command_tells_cost(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    bench = tmp_path / "bench.json"
    bench.write_text(priced(rate="18", fees="10").model_dump_json(), encoding="utf-8")
    asked = ["cost", str(BADGER), "--height", "220", "--bench", str(bench)]
    assert main([*asked, "--price", "400", "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    lines = sum(line["price"] for line in data["lines"])
    assert data["total"] == pytest.approx(lines + data["work"]) and data["unpriced"] == []
    assert data["sale"]["fees"] == 40 and data["sale"]["margin"] == pytest.approx(
        360 - data["total"]
    )
    assert main([*asked, "--count", "3"]) == 0
    assert "the price that covers it" in capsys.readouterr().out
    for wrong in (["--price", "-3"], ["--rate", "much"], ["--count", "0"]):
        assert main([*asked, *wrong]) == 2
        assert wrong[0] in capsys.readouterr().err


def test_stall_labels_and_commission_slip_tell_price_that_covers() -> None:
    """One label for each figure; where hours or stuff have no price, there is room to write it."""
    demo, day = load_demo(BADGER), date(2026, 11, 2)
    for bench, told in ((priced(rate="18", fees="10"), True), (default_bench(), False)):
        plan = badger(bench, 3)
        job = Job((plan,), demo.figure, bench, day, pages=("selling",), maker="Ada")
        reader = PdfReader(io.BytesIO(packet_pdf(job)))
        text = " ".join(page.extract_text() for page in reader.pages)
        assert text.count("An ornament and no toy") == text.count("Ada") == 3
        assert "3 × Lamplighter badger, 220 mm high" in text and "under your local law" in text
        cost = cost_of(plan, bench)
        each = bench.money_text(bench.money.no_less(cost.covers / 3))
        assert text.count(each) == (3 if told else 0)
        assert (f"Price: {bench.money_text(cost.covers)}" in text) == told

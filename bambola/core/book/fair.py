"""A fair: how many of which figures to make by a date so that they earn most, and the common calendar."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta
from decimal import Decimal

import numpy as np

from bambola.core.bench import Bench
from bambola.core.bench.money import exact_decimal
from bambola.core.bench.shelved import find_shelf_item
from bambola.core.book.costing import HUNDRED, eyes_of
from bambola.core.facts import RefusedError, fact
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.order.sittings import Calendar, calendar, finish_of, free_slots
from bambola.core.plan import Plan
from bambola.core.plan.counter.in_time import DRY_DAYS, MEND_DAYS, RESERVE

MOST_OF_ONE = 60
"""More of one design than this are not thought of. Judged. See craft.md, 5."""
MOST_TRIES = 200
"""So many choices that do not fit into the sittings are ruled out before it is given up. Judged. See
craft.md, 5."""


class FairError(RefusedError):
    """Raised if nothing can be planned; the message is one sentence."""


@frozen
class Ware:
    """A figure that could be sold: its ``plan`` for one, the price of each, and how many at ``most``."""

    plan: Plan
    price: Decimal
    most: int = MOST_OF_ONE


@frozen
class Fair:
    """What to make: ``counts`` of the wares in their order, what they bring after fees, packing and what must
    be bought (``buys``: packs by wool, ``eyes`` by size, mm). No other choice brings more: that is proved
    where ``is_proved``. ``steps`` are those of all wares, each for as many figures as ``figures`` says by its
    number; without any there is no ``calendar``."""

    counts: tuple[int, ...]
    brings: Decimal
    minutes: float
    free_min: float
    buys: dict[str, int]
    eyes: dict[float, int]
    is_proved: bool
    steps: tuple[Step, ...]
    figures: dict[int, int]
    calendar: Calendar | None

    @property
    def hourly(self) -> Decimal | None:
        """What an hour of it earns."""
        return self.brings / (exact_decimal(self.minutes) / 60) if self.minutes > 0 else None


def plan_fair(wares: Sequence[Ware], bench: Bench, first: date, due: date) -> Fair:
    """Return how many of each ware to make from ``first`` on to be ready on the day it is ``due`` (with a day
    to dry, a day to mend and a reserve), in the free times, from wool on the shelf or bought in packs.

    An integer programme, solved by HiGHS to its proved optimum. The j-th figure of a design is a binary
    variable of its own, since only the first sets up; they are chosen in order. A choice that does not fit
    into the sittings (joins are not interrupted, glue cures) is ruled out together with all larger ones.
    Raises :class:`FairError` and :class:`SittingError`.
    """
    last = due - timedelta(days=DRY_DAYS + MEND_DAYS)
    end = datetime(last.year, last.month, last.day) + timedelta(days=1)
    free_min = 0.0
    for start, stop in free_slots(bench.free, first):
        if stop > end:
            break
        free_min += (stop - start).total_seconds() / 60
    if free_min <= 0:
        raise FairError(fact("fair.no-time"))
    programme = _Programme(wares, bench, free_min / (1 + RESERVE))
    ruled_out: list[tuple[int, ...]] = []
    for _ in range(MOST_TRIES):
        counts, proved = programme.solve(ruled_out)
        steps, figures = batch_steps(wares, counts)
        if not steps:
            return _exact_choice(wares, bench, counts, proved, free_min, steps, figures, None)
        if finish_of(steps, bench, first, 1 + RESERVE, (figures,)) <= last:
            laid = calendar(steps, bench.free, first, bench.cure_min, runs=(figures,))
            return _exact_choice(wares, bench, counts, proved, free_min, steps, figures, laid)
        ruled_out.append(counts)
    raise FairError(fact("fair.no-end", n=MOST_TRIES))


def batch_steps(
    wares: Sequence[Ware], counts: Sequence[int]
) -> tuple[tuple[Step, ...], dict[int, int]]:
    """Return the steps of all wares, batch after batch with running numbers, and how many figures each is
    for."""
    steps: list[Step] = []
    figures: dict[int, int] = {}
    for ware, count in zip(wares, counts, strict=True):
        before = len(steps)
        for step in ware.plan.steps if count else ():
            told = fact("fair.step", figure=ware.plan.figure, step=step.text)
            after = tuple(n + before for n in step.after)
            steps.append(replace(step, n=step.n + before, after=after, text=told))
            figures[step.n + before] = count
    return tuple(steps), figures


def _minutes_for(plan: Plan, count: int) -> float:
    return sum(step.minutes_of(count) for step in plan.steps) if count else 0.0


def _net_income(ware: Ware, bench: Bench) -> Decimal:
    """Return the income from one of a ware, after fees and materials."""
    money = bench.money
    return ware.price * (1 - money.fees / HUNDRED) - money.packing - money.small


def _taken_g(plan: Plan, wool: str) -> float:
    return sum(t.taken_g for t in plan.wools if t.wool == wool)


class _Programme:
    """The integer programme: a binary variable for every figure of every ware, packs of wool, eyes to buy."""

    def __init__(self, wares: Sequence[Ware], bench: Bench, minutes: float) -> None:
        self.wares, self.bench = wares, bench
        self.most = [self._most_of(ware, minutes) for ware in wares]
        self.at = np.concatenate(([0], np.cumsum(self.most))).astype(int)
        self.wools = sorted({t.wool for ware in wares for t in ware.plan.wools})
        self.sizes = sorted({size for ware in wares for size in eyes_of(ware.plan)})
        self.n = int(self.at[-1]) + len(self.wools) + len(self.sizes)
        self.rows: list[np.ndarray] = []
        self.limits: list[float] = []
        self._limit_time(minutes)
        self._in_turn()
        self._limit_stock()

    def _most_of(self, ware: Ware, minutes: float) -> int:
        most = min(ware.most, MOST_OF_ONE)
        while most and _minutes_for(ware.plan, most) > minutes:
            most -= 1
        return most

    def _empty_row(self, limit: float) -> np.ndarray:
        row = np.zeros(self.n)
        self.rows.append(row)
        self.limits.append(limit)
        return row

    def _limit_time(self, minutes: float) -> None:
        row = self._empty_row(minutes)
        for ware, start, most in zip(self.wares, self.at[:-1], self.most, strict=True):
            for j in range(most):
                row[start + j] = _minutes_for(ware.plan, j + 1) - _minutes_for(ware.plan, j)

    def _in_turn(self) -> None:
        """Add constraints: no second figure without the first."""
        for start, most in zip(self.at[:-1], self.most, strict=True):
            for j in range(1, most):
                row = self._empty_row(0.0)
                row[start + j], row[start + j - 1] = 1.0, -1.0

    def _limit_stock(self) -> None:
        """Add constraints: what is used is on the shelf or bought; uncounted stock counts as enough."""
        packs = int(self.at[-1])
        eyes = packs + len(self.wools)
        for k, name in enumerate(self.wools):
            wool = self.bench.wool_by_id[name]
            if wool.grams is not None:
                row = self._empty_row(wool.grams)
                self._add_row_for_each(row, [_taken_g(ware.plan, name) for ware in self.wares])
                row[packs + k] = -wool.pack_g
        for k, size in enumerate(self.sizes):
            row = self._empty_row(float(self.bench.eyes_of(size)))
            self._add_row_for_each(
                row, [float(eyes_of(ware.plan).get(size, 0)) for ware in self.wares]
            )
            row[eyes + k] = -1.0

    def _add_row_for_each(self, row: np.ndarray, amounts: Sequence[float]) -> None:
        for amount, start, most in zip(amounts, self.at[:-1], self.most, strict=True):
            row[start : start + most] = amount

    def solve(self, ruled_out: Sequence[tuple[int, ...]]) -> tuple[tuple[int, ...], bool]:
        """Return the best counts except those ``ruled_out``, and whether the optimum is proved."""
        from scipy.optimize import Bounds, LinearConstraint, milp

        rows, limits = list(self.rows), list(self.limits)
        for counts in ruled_out:
            row = np.zeros(self.n)
            for start, count in zip(self.at[:-1], counts, strict=True):
                if count:
                    row[start + count - 1] = 1.0
            rows.append(row)
            limits.append(float(sum(c > 0 for c in counts) - 1))
        yes_no = int(self.at[-1])
        if not yes_no:  # not one of anything can be made
            return tuple(0 for _ in self.wares), True
        upper = np.concatenate((np.ones(yes_no), np.full(self.n - yes_no, np.inf)))
        found = milp(
            -self._worth_of_each(),
            constraints=LinearConstraint(np.array(rows), -np.inf, np.array(limits)),
            integrality=np.ones(self.n),
            bounds=Bounds(np.zeros(self.n), upper),
        )
        chosen = np.round(found.x[:yes_no]).astype(int)
        ends = zip(self.at[:-1], self.at[1:], strict=True)
        return tuple(int(chosen[a:b].sum()) for a, b in ends), bool(found.status == 0)

    def _worth_of_each(self) -> np.ndarray:
        """Return the income of each figure and the cost of each pack; free packs get a small cost so that
        none is bought needlessly."""
        worth = np.zeros(self.n)
        self._add_row_for_each(worth, [float(_net_income(ware, self.bench)) for ware in self.wares])
        prices = [self.bench.wool_by_id[name].price or 0.0 for name in self.wools]
        prices += [float(_eye_price(self.bench, size)) for size in self.sizes]
        worth[int(self.at[-1]) :] = -np.array(prices) - 1e-6
        return worth


def _exact_choice(
    wares: Sequence[Ware],
    bench: Bench,
    counts: tuple[int, ...],
    proved: bool,
    free_min: float,
    steps: tuple[Step, ...],
    figures: dict[int, int],
    laid: Calendar | None,
) -> Fair:
    """Return the choice in exact decimals, with what must be bought."""
    buys: dict[str, int] = {}
    eyes: dict[float, int] = {}
    pairs = [(ware, count) for ware, count in zip(wares, counts, strict=True) if count]
    brings = sum((_net_income(ware, bench) * count for ware, count in pairs), Decimal(0))
    for wool in bench.wools:
        short = sum(_taken_g(ware.plan, wool.id) * n for ware, n in pairs) - (wool.grams or 0.0)
        if wool.grams is not None and short > 1e-6:
            buys[wool.id] = int(np.ceil(short / wool.pack_g - 1e-9))
            brings -= exact_decimal(wool.price or 0.0) * buys[wool.id]
    for size in sorted({size for ware, _ in pairs for size in eyes_of(ware.plan)}):
        there = bench.eyes_of(size)
        missing = sum(eyes_of(ware.plan).get(size, 0) * n for ware, n in pairs) - there
        if missing > 0:
            eyes[size] = missing
            brings -= _eye_price(bench, size) * missing
    minutes = sum(_minutes_for(ware.plan, count) for ware, count in pairs)
    return Fair(counts, brings, minutes, free_min, buys, eyes, proved, steps, figures, laid)


def _eye_price(bench: Bench, size: float) -> Decimal:
    """Return the price of one eye of a size (mm); 0 if unknown."""
    known = find_shelf_item(bench, f"eyes:{size:g}")
    return known.unit_price or Decimal(0) if known else Decimal(0)

"""Weighing out on a simulated pan: what is taken down is what lay there, whatever the pan does."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.figure import Brief
from bambola.core.plan import make_plan
from bambola.core.wool.pan import PanState, WeighingTarget, after_reading, aim_for
from bambola.devices.simulated_scale import TICK_S, ScaleMechanics
from tests.figures import one_ball


class Table:
    """A maker, a scale and a pan, tick by tick."""

    def __init__(self, aim: WeighingTarget, step: float = 0.1, seed: int = 1) -> None:
        self.scale, self.aim, self.pan = ScaleMechanics(step, 500.0, seed), aim, PanState()
        self.at, self.taken = 0.0, list[float]()

    def wait(self, seconds: float) -> None:
        for _ in range(round(seconds / TICK_S)):
            shown, kind = self.scale.tick()
            self.at += TICK_S
            self.pan = after_reading(self.pan, shown, kind, self.at, self.aim, self.scale.step)
            if self.pan.taken is not None:
                self.taken.append(self.pan.taken)
                self.pan = self.pan.lifted()

    def lay(self, grams: float, seconds: float = 3.0) -> None:
        self.scale.load_g = grams
        self.wait(seconds)


@given(st.floats(1.0, 40.0), st.sampled_from([0.01, 0.1]), st.integers(0, 50))
def test_portion_is_taken_once_with_what_lay_there(best: float, step: float, seed: int) -> None:
    table = Table(WeighingTarget(best * 0.9, best * 1.2, best), step, seed)
    table.wait(1.0)
    table.lay(best * 0.5)
    assert not table.taken and table.pan.standing == "more"
    table.lay(best, 6.0)
    assert len(table.taken) == 1
    assert table.taken[0] == pytest.approx(best, abs=1.6 * step)
    # It stays on the pan: nothing more is taken, not even for the next portion.
    table.wait(5.0)
    assert len(table.taken) == 1 and table.pan.standing == "lift off"
    table.lay(0.0)
    table.lay(best, 4.0)
    assert len(table.taken) == 2


def test_drift_between_portions_and_bowl_count_for_nothing() -> None:
    table = Table(WeighingTarget(4.5, 6.0, 5.0))
    table.scale.drift_g_s = 0.004
    for n in range(1, 6):
        table.lay(0.0, 8.0)
        table.lay(5.0, 4.0)
        assert table.taken[-1] == pytest.approx(5.0, abs=0.2), n
    table.scale.drift_g_s = 0.0
    table.lay(0.0)
    table.lay(60.0)
    table.pan = table.pan.tared()
    table.lay(65.0, 4.0)
    assert len(table.taken) == 6 and table.taken[-1] == pytest.approx(5.0, abs=0.2)


def test_light_portion_left_lying_is_no_nought_for_heavy_one() -> None:
    table = Table(WeighingTarget(0.25, 0.4, 0.3))
    table.lay(0.3, 4.0)
    assert table.taken == [pytest.approx(0.3, abs=0.11)]
    table.aim = WeighingTarget(
        4.5, 6.0, 5.0
    )  # the next portion: beside it the first is next to nothing
    table.wait(3.0)
    assert table.pan.standing == "lift off"
    table.lay(0.0)
    table.lay(5.0, 4.0)
    assert table.taken[1:] == [pytest.approx(5.0, abs=0.16)]


@given(st.lists(st.floats(0.21, 1.2), min_size=3, max_size=8), st.integers(0, 50))
def test_wool_laid_on_tuft_by_tuft_is_weighed_whole(tufts: list[float], seed: int) -> None:
    whole = sum(tufts)
    table = Table(WeighingTarget(whole * 0.97, whole * 1.3, whole), seed=seed)
    for n in range(1, len(tufts) + 1):
        table.lay(sum(tufts[:n]), 2.0)
    table.wait(3.0)
    assert table.pan.grams == pytest.approx(whole, abs=0.16)


def test_too_much_and_too_heavy_are_told_and_never_taken() -> None:
    table = Table(WeighingTarget(4.5, 6.0, 5.0))
    for grams, told in ((8.0, "less"), (900.0, "over"), (0.0, "empty"), (2.0, "more")):
        table.lay(grams, 4.0)
        assert table.pan.standing == told and not table.taken


def test_what_is_aimed_at(bench: Bench) -> None:
    core = make_plan(one_ball(60.0), Brief(), bench).part("body").portions[0]
    band = aim_for(core, 0.1)
    assert (band.least, band.most) == (core.take_g, core.take_g + core.keep_by_g)
    assert band.least <= band.best + 0.05 and band.parts == 1
    twin = aim_for(core, 0.1, twin_g=11.0)
    assert (twin.least, twin.best, twin.most) == pytest.approx((10.12, 11.0, 11.88))
    coarse = bench.replaced(scale_g=10.0)
    small = make_plan(one_ball(20.0), Brief(), coarse).part("body").portions[0]
    lump = aim_for(small, 10.0)
    assert small.tear and lump.parts == small.tear.parts and lump.least == small.tear.weigh_g


def test_half_step_of_scale_is_scales_own() -> None:
    aim, step = WeighingTarget(4.5, 6.0, 5.0), 0.1
    told = {grams: aim.standing(grams, step) for grams in (4.4, 4.45, 5.0, 6.05, 6.1)}
    assert told == {4.4: "more", 4.45: "right", 5.0: "right", 6.05: "right", 6.1: "less"}

"""A hollow pressed into a part, against the lens of two balls; and a sheet that is thicker at its base."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Coat, Leaf, Part, Place, Seat
from bambola.core.figure.places import Band
from bambola.core.methods import sheet_for
from bambola.core.methods.kinds.hollow import hollow_mm
from bambola.core.plan import make_plan
from bambola.core.relief import Camera, portrait
from bambola.core.relief.camera import stage_of
from bambola.core.solids import mesh_of, place
from bambola.core.solids.forms import curl_sheet, flatten_sheet, support_distances
from tests.core.walker import Walker
from tests.figures import ball, figure_of
from tests.said import said

BIG, SMALL = 40.0, 25.0
BODY = Part(id="body", name="Body", shape=ball(2 * BIG), core="core-batt", coat=Coat(wool="cream"))
BOWL = Part(
    id="bowl", name="Bowl", shape=ball(2 * SMALL), parent="body", seat=Seat(along=1.0, sink=SMALL),
    core="core-batt", coat=Coat(wool="madder"), hollow=True,
)  # fmt: skip


@pytest.mark.parametrize("scale", [0.5, 1.0, 1.6])
def test_bowl_removes_lens_and_is_lined(bench: Bench, scale: float) -> None:
    plan = make_plan(figure_of(BODY, BOWL), Brief(height=2 * BIG * scale), bench)
    big, small, apart = BIG * scale, SMALL * scale, BIG * scale
    lens = (
        math.pi
        * (big + small - apart) ** 2
        * (apart**2 + 2 * apart * (small + big) - 3 * (small - big) ** 2)
        / (12 * apart)
    )
    whole = 4 / 3 * math.pi * big**3
    assert plan.part("body").net_cm3 == pytest.approx((whole - lens) / 1000, rel=0.005)
    wall = 2 * math.pi * small * (big**2 - (apart - small) ** 2) / (2 * apart)
    (lining,) = plan.part("bowl").portions
    assert lining.wool == "madder" and plan.part("bowl").net_cm3 == 0
    assert lining.grams == pytest.approx(0.016 * wall / 100, rel=0.01)
    step = next(s for s in plan.steps if s.part == "bowl")
    sheet = sheet_for(plan, step, bench)
    rim = (apart**2 + big**2 - small**2) / (2 * apart)
    wide = 2 * math.sqrt(big**2 - rim**2)
    assert hollow_mm(sheet.at) == pytest.approx((wide, small), rel=0.03)
    assert "pressed" not in said(step.text) and said(step.text) == "Press the bowl in"
    coated = next(s.n for s in plan.steps if s.key == "coat:body")
    assert step.n > coated and Walker(plan, bench).walk() == ""


def test_its_lining_is_seen_in_picture(bench: Bench) -> None:
    def red(*parts: Part) -> int:
        stage = stage_of(place(figure_of(*parts)))
        pixels = portrait(stage, Camera(tip=50), 0.8, bench.colours).pixels.astype(int)
        seen = (pixels[..., 0] > pixels[..., 2] + 60) & (pixels[..., 3] > 0)
        return int(seen.sum())

    assert red(BODY, BOWL) > 300 > red(BODY) == 0


def test_hollow_that_cannot_be_is_refused() -> None:
    leaf = Leaf(length=20, width=10, thickness=2)
    for changes in ({"parent": None}, {"shape": leaf}, {"places": (Place(id="a", where=Band()),)}):
        with pytest.raises(ValueError, match=r"hollow|root"):
            figure_of(BODY, BOWL.replaced(**changes))


@pytest.mark.parametrize(("foot", "cup"), [(1.0, 0.0), (2.0, 0.0), (2.0, 90.0), (3.0, 40.0)])
def test_sheet_is_so_many_times_as_thick_at_its_base(foot: float, cup: float) -> None:
    square = ((-0.5, 0.0), (0.0, 0.0), (0.5, 0.0), (0.5, 0.5), (0.5, 1.0), (0.0, 1.0), (-0.5, 1.0),
              (-0.5, 0.5))  # fmt: skip
    plain = Leaf(length=40, width=30, thickness=2, outline=square)
    ear = plain.replaced(foot=foot, cup=cup)
    # It thins evenly, so that its volume is that of the plain one times the mean.
    assert mesh_of(ear).volume == pytest.approx(mesh_of(plain).volume * (1 + foot) / 2, rel=0.025)
    flat = (np.random.default_rng(2).random((200, 3)) - [0.5, 0.5, 0.0]) * [30, 2, 40]
    assert flatten_sheet(ear, curl_sheet(ear, flat)) == pytest.approx(flat, abs=1e-6)
    if not cup:
        assert support_distances(ear, np.array([[0.0, 1.0, 0.0]]))[0] == pytest.approx(
            foot, rel=0.03
        )

"""Clothes asked from the part they go round: they lie there, close round it, and can be made."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Joint, Limb, Part, Rope, Seat, Turned
from bambola.core.plan import make_plan
from bambola.core.plan.making.ready_to_wear import READY, with_worn
from bambola.core.solids import own_copy, place
from bambola.demo import HERON, TOAD, load_demo
from tests.core.walker import Walker
from tests.figures import ball, figure_of

BENT = Limb(joints=(Joint(x=0, y=0, z=0, diameter=14), Joint(x=0, y=0, z=30, diameter=14),
                    Joint(x=40, y=0, z=50, diameter=10)))  # fmt: skip


def test_ring_lies_round_limb_square_to_it() -> None:
    arm = Part(
        id="arm",
        name="Arm",
        parent="body",
        shape=BENT,
        core="walnut",
        seat=Seat(along=0.5, around=90),
    )
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    figure, name = with_worn(figure_of(body, arm), "arm", "cuff", "madder", "Cuff")
    placement = place(figure)
    limb, cuff = own_copy(placement, "arm"), own_copy(placement, name)
    assert limb is not None and cuff is not None and isinstance(cuff.shape, Rope)
    middle = limb.point(READY["cuff"].along)
    ring = np.array(cuff.shape.points) @ cuff.matrix[:3, :3].T + cuff.matrix[:3, 3]
    way = limb.point(0.87) - limb.point(0.83)
    off = ring - middle
    assert np.abs(off @ way / np.linalg.norm(way)).max() < 0.2
    thick = cuff.shape.thickness
    far = np.linalg.norm(off, axis=1)
    assert far.max() - far.min() < 0.3
    # Its hole is as far round as the limb there, but for the corners of its line.
    garment = figure.by_id[name].garment
    assert garment is not None
    assert garment.opening == pytest.approx(math.tau * (far.mean() - thick / 2), rel=0.03)


def test_skirt_hangs_from_waist_and_hat_covers_crown() -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    figure, skirt = with_worn(figure_of(body), "body", "skirt", "madder", "Skirt")
    figure, hat = with_worn(figure, "body", "hat", "madder", "Hat")
    placement = place(figure)
    hung, worn = own_copy(placement, skirt), own_copy(placement, hat)
    assert hung is not None and worn is not None and isinstance(hung.shape, Turned)
    assert hung.point(0.0)[2] == pytest.approx(30.0) and hung.point(1.0)[2] == pytest.approx(0.0)
    assert hung.shape.stations[0].width == pytest.approx(60.0, rel=0.01)
    assert worn.point(0.0)[2] < 60.0 < worn.point(1.0)[2]


@pytest.mark.parametrize("what", READY)
@pytest.mark.parametrize(("demo", "part"), [(HERON, "body"), (TOAD, "body"), (TOAD, "head")])
def test_what_is_put_on_can_be_made(bench: Bench, demo: object, part: str, what: str) -> None:
    document = load_demo(demo)  # type: ignore[arg-type]
    figure, name = with_worn(document.figure, part, what, "madder", what.capitalize())  # type: ignore[arg-type]
    plan = make_plan(figure, Brief(), bench)
    bare = make_plan(document.figure, Brief(), bench)
    assert any(row.part == name for row in plan.dress) == (READY[what].kind is not None)  # type: ignore[index]
    if figure.by_id[name].hollow:
        assert plan.wool_g < bare.wool_g + plan.part(name).grams
    elif READY[what].stuff is None:  # type: ignore[index]
        assert plan.part(name).count == 1 and plan.wool_g > bare.wool_g
    else:
        assert plan.wool_g == pytest.approx(bare.wool_g) and plan.pattern_of(name) is not None
    assert Walker(plan, bench).walk() == ""

"""Small things added to a figure touch what they are about, and nothing else."""

from __future__ import annotations

import math

import pytest

from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, Figure
from bambola.core.figure.additions import (
    core_of,
    likely_eye,
    with_core,
    with_eyes,
    with_furrows,
    with_loop,
    with_node_at,
    with_row,
    with_strands,
)
from bambola.core.figure.shapes import as_kind
from bambola.demo import BADGER, load_demo
from tests.figures import one_ball
from tests.said import refused


@pytest.fixture
def badger() -> Figure:
    return load_demo(BADGER).figure


def test_loop_is_bent_at_one_node_and_taken_away_again(badger: Figure) -> None:
    for node in badger.nodes:
        new = with_loop(badger, node.id, 24.0)
        assert {n.id: n.loop for n in new.nodes} == {
            n.id: 24.0 if n.id == node.id else n.loop for n in badger.nodes
        }
        assert with_loop(new, node.id, None).nodes == with_loop(badger, node.id, None).nodes


def test_node_takes_its_twin_along_and_stays_on_its_part(badger: Figure) -> None:
    paired = next(n for n in badger.nodes if n.side == "left")
    twins = {
        n.id
        for n in badger.nodes
        if n.side and (n.part, n.along, n.out) == (paired.part, paired.along, paired.out)
    }
    assert len(twins) == 2
    for asked, there in ((0.35, 0.35), (-2.0, 0.0), (7.0, 1.0)):
        new = with_node_at(badger, paired.id, asked)
        assert {n.id: n.along for n in new.nodes} == {
            n.id: there if n.id in twins else n.along for n in badger.nodes
        }
    alone = next(n for n in badger.nodes if n.side is None)
    moved = with_node_at(badger, alone.id, 0.35)
    assert [n.id for n, m in zip(badger.nodes, moved.nodes, strict=True) if n != m] == [alone.id]


def test_strands_are_asked_of_one_bone_from_either_end(badger: Figure) -> None:
    bone = badger.bones[1]
    for ends in ((bone.a, bone.b), (bone.b, bone.a)):
        new = with_strands(badger, *ends, 3)
        changed = [b for b, was in zip(new.bones, badger.bones, strict=True) if b != was]
        assert [(b.a, b.b, b.strands) for b in changed] == [(bone.a, bone.b, 3)]
    for strands in (0, 1000):
        with refused(RefusedError, str(strands)):
            with_strands(badger, bone.a, bone.b, strands)


def test_furrows_are_pulled_into_one_part(badger: Figure) -> None:
    new = with_furrows(badger, "paw", 3)
    assert {p.id: p.furrows for p in new.parts} == {
        p.id: 3 if p.id == "paw" else p.furrows for p in badger.parts
    }


def test_core_weighs_like_cork_and_eye_like_glass() -> None:
    """Half a gram of cork to the cubic centimetre; half a ball of glass of 2.5 g, less the flat."""
    figure = with_core(one_ball(60.0), "body", 30.0, "Cork")
    core = core_of(figure, "body")
    assert core is not None and core.size == 30.0 and core.seat.sink == 15.0
    assert core.mass == pytest.approx(0.5 * 4 / 3 * math.pi * 1.5**3, rel=1e-3)
    again = with_core(figure, "body", 20.0, "Cork")
    assert [f.id for f in again.fittings] == [core.id]
    with pytest.raises(RefusedError):
        with_core(figure, "body", 60.0, "Cork")
    eye = with_eyes(one_ball(60.0), "body", 0.6, 30.0, 8.0, "Eyes").fittings[0]
    assert eye.mass == pytest.approx(0.0012 * 8**3) and eye.pair and eye.glued
    assert eye.seat.sink == pytest.approx(0.52 * 8)
    assert (eye.seat.along, eye.seat.out) == (0.6, 1)
    eyed = with_eyes(one_ball(60.0), "body", 0.6, 30.0, 8.0, "Eyes")
    moved = with_eyes(eyed, "body", 0.4, 20.0, 5.0, "Eyes").fittings
    assert [(f.size, f.seat.along) for f in moved] == [(8.0, 0.4)] and len(eyed.fittings) == 1
    assert likely_eye(Ball(width=50, depth=40, height=60)) == pytest.approx(4.0)


def test_what_is_called_turned_is_as_round_as_egg() -> None:
    """Its stations lie on an ellipse: at a tenth and three tenths of the way 0.6 and 0.917 of the width."""
    made = as_kind(Ball(width=40, depth=30, height=60), "turned")
    stations = {s.along: (s.width, s.depth) for s in made.stations}  # type: ignore[union-attr]
    for along, share in ((0.1, 0.6), (0.3, math.sqrt(0.84)), (0.5, 1.0), (0.9, 0.6), (1.0, 0.0)):
        assert stations[along] == pytest.approx((40 * share, 30 * share), abs=1e-6), along


def test_changed_kind_keeps_length_width_and_taper() -> None:
    """An egg 21 mm wide and 90 long: four fifths as thick at the tip of a limb, two fifths of a cone."""
    egg = Ball(width=21, depth=15, height=90)
    limb, rope, cone = (as_kind(egg, kind) for kind in ("limb", "rope", "cone"))
    run = 90 - 21 * 1.8 / 2  # less the half rounds at both ends
    assert [(j.z, j.diameter) for j in limb.joints] == [  # type: ignore[union-attr]
        pytest.approx(pair) for pair in ((0.0, 21.0), (run / 2, 21 * 0.9), (run, 21 * 0.8))
    ]
    assert limb.measures()["length"] == pytest.approx(90) == rope.measures()["length"]
    assert cone.measures() == pytest.approx({"length": 90, "base": 21, "tip": 8.4})
    assert as_kind(egg, "sausage").measures() == pytest.approx({"length": 90, "diameter": 21})
    assert as_kind(egg, "pad").measures() == pytest.approx({"width": 21, "depth": 15, "height": 90})
    leaf = as_kind(egg, "leaf").measures()
    assert leaf == pytest.approx({"length": 90, "width": 21, "thickness": 5.25})


def test_only_what_bears_nothing_stands_in_row(badger: Figure) -> None:
    for bearing in ("head", "arm"):
        with pytest.raises(RefusedError):
            with_row(badger, bearing, 2, 0.5, 0.0)
        assert with_row(badger, bearing, 1, 0.5, 0.0).by_id[bearing].row is None
    row = with_row(badger, "tail", 2, 0.4, 20.0).by_id["tail"].row
    assert row is not None and (row.count, row.along, row.around) == (2, 0.4, 20.0)

"""What is not wool: patterns against closed forms, what an opening passes, and that it is put on in order."""

from __future__ import annotations

import itertools
import math

import pytest
from shapely.geometry import Polygon

from bambola.core.bench import Bench
from bambola.core.figure import (
    Ball,
    Brief,
    Coat,
    Figure,
    Fur,
    Garment,
    Joint,
    Leaf,
    Limb,
    Part,
    Place,
    Rope,
    Seat,
    Station,
    Turned,
)
from bambola.core.figure.model import FIXINGS, Stuff
from bambola.core.figure.places import Band
from bambola.core.methods import sheet_for
from bambola.core.order.keys import key_of
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.dress import dress_of
from bambola.core.plan.making.patterns import HEM_MM, SEAM_MM, PatternPiece, PatternPlan
from bambola.core.plan.making.ready_to_wear import READY, with_worn
from tests.core.walker import Walker
from tests.figures import ball, figure_of
from tests.said import said

BODY = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
LINES = tuple(0.1 * k for k in range(11))


def cut_of(bench: Bench, *parts: Part, height: float | None = None) -> tuple[Plan, PatternPlan]:
    plan = make_plan(figure_of(BODY, *parts), Brief(height=height), bench)
    return plan, plan.patterns[0]


def worn(shape: Turned | Rope | Leaf | Ball, stuff: Stuff, of: str, **garment: object) -> Part:
    dress = Garment(opening=50, passes="body", kind="wrap", **garment) if garment else None  # type: ignore[arg-type]
    return Part(
        id="it", name="It", shape=shape, parent="body", seat=Seat(along=0.5), core=of, stuff=stuff,
        garment=dress,
    )  # fmt: skip


def area(line: tuple[tuple[float, float], ...]) -> float:
    polygon = Polygon(line)
    assert polygon.is_valid
    return float(polygon.area)


def arcs(piece: PatternPiece) -> tuple[float, float]:
    """The two long edges of a piece, low and high."""
    half = len(piece.sewn_mm) // 2
    return tuple(  # type: ignore[return-value]
        sum(math.dist(a, b) for a, b in itertools.pairwise(run))
        for run in (piece.sewn_mm[:half], piece.sewn_mm[half:])
    )


def cone(low: float, high: float, length: float) -> Turned:
    at = (low + (high - low) * t for t in LINES)
    return Turned(
        length=length,
        stations=tuple(Station(along=t, width=d, depth=d) for t, d in zip(LINES, at, strict=True)),
    )


@pytest.mark.parametrize(("low", "high"), [(40.0, 90.0), (90.0, 40.0), (60.0, 60.0), (30.0, 200.0)])
def test_cone_is_laid_flat_as_part_of_ring(bench: Bench, low: float, high: float) -> None:
    _, row = cut_of(bench, worn(cone(low, high, 50), Stuff(kind="cloth"), "cotton", tails=0))
    (piece,) = row.pieces
    slant = math.hypot(50, (high - low) / 2)
    skin = math.pi * (low + high) / 2 * slant
    assert piece.count * area(piece.sewn_mm) == pytest.approx(skin, rel=0.004)
    edges = sorted(piece.count * edge for edge in arcs(piece))
    assert edges == pytest.approx(sorted((math.pi * low, math.pi * high)), abs=0.5)
    # All round the line that is sewn lies what is sewn or turned in.
    cut, sewn = Polygon(piece.cut_mm), Polygon(piece.sewn_mm)
    assert cut.contains(sewn.buffer(-1e-6)) and row.hem_mm == HEM_MM and row.seam_mm == SEAM_MM
    around = sum(edges) / piece.count * HEM_MM + 2 * slant * SEAM_MM
    assert cut.area - sewn.area == pytest.approx(around, rel=0.12)


def test_dome_halves_are_half_its_girth_wide(bench: Bench) -> None:
    dome = Turned(
        length=30,
        stations=tuple(
            Station(along=t, width=60 * math.sqrt(1 - t * t), depth=60 * math.sqrt(1 - t * t))
            for t in (*LINES[:10], 0.95, 0.98, 1.0)
        ),
    )
    _, row = cut_of(bench, worn(dome, Stuff(kind="felt sheet", pieces=2), "felt-sheet", tails=0))
    (piece,) = row.pieces
    assert piece.count == 2 and piece.form == "gore"
    wide = max(x for x, _ in piece.sewn_mm) - min(x for x, _ in piece.sewn_mm)
    long = max(y for _, y in piece.sewn_mm) - min(y for _, y in piece.sewn_mm)
    assert wide == pytest.approx(math.pi * 60 / 2, abs=0.5)
    assert long == pytest.approx(math.pi * 30 / 2, abs=0.5)
    # Two halves of a sphere's upper half have its skin.
    assert 2 * area(piece.sewn_mm) == pytest.approx(2 * math.pi * 30**2, rel=0.01)


def test_gathered_skirt_and_one_of_strips_take_what_law_says(bench: Bench) -> None:
    bell = Turned(
        length=40,
        stations=(Station(along=0, width=50, depth=50), Station(along=1, width=100, depth=100)),
    )
    net = worn(bell, Stuff(kind="net", fixed="gathered"), "soft-net", fullness=2.5)
    _, row = cut_of(bench, net)
    (piece,) = row.pieces
    assert piece.wide_mm == pytest.approx(2.5 * math.pi * 50 + 2 * row.seam_mm, abs=0.5)
    assert row.hem_mm == 0 and row.fullness == 2.5
    over = net.replaced(garment=net.garment.replaced(layers=2))  # type: ignore[union-attr]
    eased = cut_of(bench, over)[1].pieces[0].wide_mm
    assert eased - piece.wide_mm == pytest.approx(2.5 * 2 * math.pi * 3 * 2, abs=1e-6)
    strips = net.replaced(
        stuff=Stuff(kind="cloth", fixed="knotted"), core="cotton",
        garment=Garment(opening=50, passes="body", kind="skirt", strip=10.0, fullness=2.0),
    )  # fmt: skip
    _, row = cut_of(bench, strips)
    assert row.pieces[0].count == math.ceil(math.pi * 50 * 2 / 10)
    assert row.pieces[0].long_mm == pytest.approx(2 * 40 + 60) and row.pieces[0].wide_mm == 10
    # Knots and strips are as wide at half the size, so that there are half as many.
    plan, small = cut_of(bench, strips, height=30.0)
    assert small.pieces[0].wide_mm == 10
    assert small.pieces[0].count == math.ceil(math.pi * 50 * plan.scale * 2 / 10)


def test_bands_lengths_and_lumps(bench: Bench) -> None:
    ring = Rope(points=tuple(
        (30 * math.sin(t), -30 * math.cos(t), 0.0) for t in [math.tau * k / 24 for k in range(24)]
    ), thickness=8, closed=True)  # fmt: skip
    _, row = cut_of(
        bench, worn(ring, Stuff(kind="felt sheet", fixed="glued"), "felt-sheet", tails=0)
    )
    hole = ring.measures()["length"] - math.pi * 8
    assert (row.pieces[0].long_mm, row.pieces[0].wide_mm) == pytest.approx((hole + 8, 8), abs=0.5)
    tied = worn(ring, Stuff(kind="ribbon", fixed="tied"), "satin-ribbon", tails=40.0)
    _, row = cut_of(bench, tied)
    assert row.pieces[0].long_mm == pytest.approx(hole + 60 + 80, abs=1.0)
    tube = worn(cone(60, 60, 30), Stuff(kind="ribbon", fixed="wrapped"), "satin-ribbon", tails=0)
    _, row = cut_of(bench, tube)
    assert row.uses == pytest.approx(math.pi * 60 * 30 / 3 + 8, abs=2)
    hoof = Part(
        id="hoof", name="Hoof", shape=ball(20), parent="body", seat=Seat(along=0, sink=-10), core="air-clay",
        stuff=Stuff(kind="clay", fixed="glued"),
    )  # fmt: skip
    plan, row = cut_of(bench, hoof)
    assert row.uses == pytest.approx(1.6 * plan.part("hoof").net_cm3)
    assert plan.wool_g == pytest.approx(make_plan(figure_of(BODY), Brief(), bench).wool_g)
    assert plan.balance.mass_g == pytest.approx(plan.wool_g + row.uses, rel=0.01)


def antlered(opening: float, pieces: int = 1) -> Figure:
    limb = Limb(joints=tuple(Joint(x=0, y=0, z=z, diameter=6) for z in (0.0, 40.0)))
    antler = Part(
        id="antler", name="Antler", plural="Antlers", shape=limb, parent="body", pair=True,
        core="chenille-stem", seat=Seat(along=0.9, around=90, out=0.6),
        stuff=Stuff(kind="chenille", fixed="glued"),
    )  # fmt: skip
    hat = Part(
        id="hat", name="Hat", shape=cone(50, 20, 20), parent="body", seat=Seat(along=0.8, out=0),
        core="felt-sheet",
        stuff=Stuff(kind="felt sheet", pieces=pieces),
        garment=Garment(opening=opening, stretch=0.0, passes="antler"),
    )  # fmt: skip
    return figure_of(BODY, antler, hat)


def test_two_antlers_pass_opening_together(bench: Bench) -> None:
    figure = antlered(200.0)
    apart = 2 * 0.6 * math.sqrt(30**2 - 24**2)  # where they stand on the ball, along 0.9 of it
    row = dress_of(figure.by_id["hat"], figure)
    assert row.passes_mm == pytest.approx(2 * apart + math.pi * 6, rel=0.002)
    for opening, pieces in ((200.0, 1), (30.0, 1), (30.0, 2)):
        plan = make_plan(antlered(opening, pieces), Brief(), bench)
        steps = {step.key: step.n for step in plan.steps}
        is_before = steps[key_of("join", "hat")] < steps[key_of("join", "antler")]
        # What does not pass goes on before; what is cut in pieces is closed where it is worn.
        assert is_before == (opening == 30.0 and pieces == 1)
        on = next(step for step in plan.steps if step.key == "join:hat")
        told = " ".join(said(how) for how in sheet_for(plan, on, bench).card.how)
        assert ("leave it open" in told) == (opening == 30.0 and pieces == 2)
        assert Walker(plan, bench).walk() == ""


def test_horns_pass_with_head_or_come_later(bench: Bench) -> None:
    figure = antlered(200.0)
    hat = figure.by_id["hat"]

    def passing(opening: float) -> tuple[float, tuple[str, ...]]:
        garment = Garment(opening=opening, stretch=0.0, passes="body")
        row = dress_of(hat.replaced(garment=garment), figure)
        return row.passes_mm, row.before

    assert passing(400.0) == (pytest.approx(math.pi * 60, rel=0.001), ())
    spread = figure.replaced(parts=tuple(
        p.replaced(seat=p.seat.replaced(out=2.5)) if p.id == "antler" else p for p in figure.parts
    ))  # fmt: skip
    garment = Garment(opening=195.0, stretch=0.0, passes="body")
    row = dress_of(hat.replaced(garment=garment), spread)
    assert row.before == ("antler",) and row.passes_mm == pytest.approx(math.pi * 60, rel=0.001)


def test_what_is_cut_is_neither_felted_coated_nor_needled(bench: Bench) -> None:
    fur = Fur(wool="walnut", kind="pile", hair=8, spacing=8)
    body = BODY.replaced(places=(Place(id="fur", where=Band(), fur=fur),))
    figure, name = with_worn(figure_of(body), "body", "net skirt", "madder", "Skirt")
    plan, bare = (make_plan(f, Brief(), bench) for f in (figure, figure_of(body)))
    mine = [step for step in plan.steps if step.part == name]
    assert [step.kind for step in mine] == ["cut out", "dress"]
    assert all(step.needle is None and step.wool is None for step in mine)
    assert not plan.part(name).portions and plan.part(name).made == "cut"
    grown = [
        next(p.grams for p in q.part("body").portions if p.role == "fur") for q in (plan, bare)
    ]
    assert grown[0] < 0.8 * grown[1]  # none grows under it
    assert Walker(plan, bench).walk() == ""
    dressed = max(step.n for step in mine)
    later = [s for s in plan.steps if s.n > dressed and s.part == "body" and s.key.sort == "coat"]
    assert not later


def test_what_cannot_be_is_refused(bench: Bench) -> None:
    for changes in ({"coat": Coat(wool="madder")}, {"eye": True}, {"parent": None}):
        part = worn(ball(20), Stuff(kind="cloth"), "cotton").replaced(**changes)
        with pytest.raises(ValueError, match="fault"):
            figure_of(BODY, part)
    for kind, ways in FIXINGS.items():
        for fixed in {"knotted", "threaded"} - set(ways):
            with pytest.raises(ValueError, match="fixing"):
                Stuff(kind=kind, fixed=fixed)  # type: ignore[arg-type]


@pytest.mark.parametrize("what", [w for w, r in READY.items() if r.stuff])
def test_every_card_of_it_can_be_read_at_three_heights(bench: Bench, what: str) -> None:
    figure, name = with_worn(figure_of(BODY), "body", what, "madder", "It")  # type: ignore[arg-type]
    for height in (25.0, 60.0, 150.0):
        plan = make_plan(figure, Brief(height=height), bench)
        (row,) = plan.patterns
        for piece in row.pieces:
            assert piece.long_mm > 0 and (not piece.cut_mm or Polygon(piece.cut_mm).is_valid)
        for step in plan.steps:
            if step.part == name:
                drawn = sheet_for(plan, step, bench)
                assert drawn.card.how and drawn.drawing.pieces
                assert "{" not in " ".join(said(how) for how in drawn.card.how)


def test_shopping_counts_what_there_is(bench: Bench) -> None:
    figure, _ = with_worn(figure_of(BODY), "body", "bodice", "madder", "Bodice")
    counted = tuple(
        m.replaced(left=100.0, price=2.0) if m.kind == "ribbon" else m for m in bench.materials
    )
    (row,) = make_plan(figure, Brief(count=3), bench.replaced(materials=counted)).materials
    one = make_plan(figure, Brief(), bench).patterns[0].uses
    assert row.uses == pytest.approx(3 * one) and row.buy == pytest.approx(3 * one - 100)
    assert row.cost == pytest.approx(3 * one / 1000 * 2)


def test_wool_on_cloth_is_sewn_there(bench: Bench) -> None:
    figure, skirt = with_worn(figure_of(BODY), "body", "cape", "madder", "Cape")
    button = Part(
        id="button", name="Button", shape=ball(4), parent=skirt, seat=Seat(along=0.5, sink=2),
        core="core-batt", join="peg",
    )  # fmt: skip
    plan = make_plan(figure_of(*figure.parts, button), Brief(), bench)
    mine = [step.key for step in plan.steps if step.part == "button"]
    assert mine == ["core:button:1", "join:button"] and plan.part("button").fringe_mm == 0
    on = next(step for step in plan.steps if step.key == "join:button")
    assert on.kind == "dress" and on.needle is None
    assert any("thread" in said(how) for how in sheet_for(plan, on, bench).card.how)
    assert not any(row.part == "button" for row in plan.joins)
    assert not any(wire.id.startswith("peg") for wire in plan.wires)
    assert Walker(plan, bench).walk() == ""

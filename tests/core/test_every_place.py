"""Every kind of place on every kind of part: what can be planned can be told in every export."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from datetime import UTC, date, datetime

import pytest

from bambola.core.export.formats import FORMATS, ExportRefusedError, ExportRequest
from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, Brief, Figure, Fur, Leaf, Part, Place, Seat
from bambola.core.figure.graft import with_part
from bambola.core.figure.places import Band, Line, Near, Outline, Where
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.resize import ResizeError
from bambola.core.solids import Detail, mesh_of
from bambola.core.solids.patches import place_area
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench
from tests.effort import THOROUGH, tries
from tests.figures import figure_of

BENCH = default_bench()
WOOL = BENCH.wools[3].id
FACE = ("mouth", "nose", "lid", "highlight")
CORNERS = ((-0.5, -0.5), (0.5, -0.5), (0.0, 0.5))
HEAVY = {"pdf", "short", "packet"}
"""Exports of many pages."""


def wheres(part: Part, figure: Figure) -> Iterator[Where]:
    """Every kind of place, in the middle, at both ends and near what the part touches."""
    yield Outline(view="front", outline=CORNERS)
    yield Outline(view="back", outline=CORNERS, mirrored=True)
    yield Outline(view="top", outline=CORNERS)
    yield Band(begin=0.2, end=0.6)
    yield Band(begin=0.2, end=0.6, around=90.0, wide=80.0, mirrored=True)
    yield Band(begin=0.95)
    yield Line(way=((0.3, 20.0), (0.6, 60.0)), wide=2.0)
    for along in (0.0, 0.5, 1.0):
        yield Line(way=((along, 30.0),), wide=4.0, mirrored=True)
    touching = [*[p.id for p in figure.parts if p.parent == part.id][:1], part.parent]
    for other in filter(None, touching):
        yield Near(part=other, within=5.0)


def laid(where: Where, rng: random.Random) -> Place:
    """A place that is of another wool, furred, bare of fur, or a piece of a face."""
    match rng.randrange(4):
        case 0:
            return Place(id="it", where=where, wool=WOOL)
        case 1:
            return Place(id="it", where=where, fur=Fur(wool=WOOL, hair=12.0, spacing=5.0))
        case 2:
            return Place(id="it", where=where, bare=True)
        case _:
            return Place(id="it", where=where, wool=WOOL, face=rng.choice(FACE))


def print_everywhere(plan: Plan, figure: Figure, with_heavy: bool) -> None:
    today, now = date(2026, 11, 30), datetime(2026, 11, 30, tzinfo=UTC)
    for form in FORMATS:
        if with_heavy or form.id not in HEAVY:
            try:
                assert form.make(ExportRequest(plan, figure, BENCH, today, now))
            except ExportRefusedError as error:
                assert "\n" not in str(error)


def test_what_is_planned_with_place_prints_in_every_export() -> None:
    rng = random.Random(11)
    figures = [load_demo(path).figure for path in (BADGER, HERON, TOAD)]
    figures += [plan.figure for plan in body_plans()]
    every = [(f, p, w) for f in figures for p in f.parts for w in wheres(p, f)]
    planned = 0
    for figure, part, where in rng.sample(every, tries(len(every), 6)):
        try:
            place = laid(where, rng)
            mine = with_part(figure, part.replaced(places=(*part.places, place)))
            plan = make_plan(mine, Brief(height=rng.choice([None, 60.0, 120.0, 300.0])), BENCH)
        except (RefusedError, ResizeError, OrderConflictError):  # such as wool on a net
            continue
        planned += 1
        print_everywhere(plan, mine, with_heavy=THOROUGH and rng.random() < 0.1)
        furred = {step.key.about for step in plan.steps if step.key.sort == "fur"}
        portions = [p for row in plan.parts for p in row.portions if p.role == "fur"]
        assert not furred or portions  # no row without its wool
    assert planned


@pytest.mark.parametrize("kind", ["outline", "band", "near"])
def test_face_piece_may_be_area_and_near_another_part(kind: str) -> None:
    body = Part(id="body", name="Body", core="core-batt", shape=Ball(width=60, depth=60, height=60))
    nose = Part(
        id="nose", name="Nose", core="core-batt", parent="body", seat=Seat(along=0.5, around=0.0),
        shape=Ball(width=12, depth=12, height=12),
    )  # fmt: skip
    where: Where = {
        "outline": Outline(
            view="front", outline=((-0.4, -0.2), (0.4, -0.2), (0.4, 0.2), (-0.4, 0.2))
        ),
        "band": Band(begin=0.4, end=0.6, around=0.0, wide=60.0),
        "near": Near(part="nose", within=6.0),
    }[kind]
    mouth = Place(id="mouth", where=where, wool=WOOL, face="mouth")
    figure = figure_of(body.replaced(places=(mouth,)), nose)
    plan = make_plan(figure, Brief(), BENCH)
    print_everywhere(plan, figure, with_heavy=True)
    (laid_,) = [p for p in plan.part("body").portions if p.role == "inset"]
    if (
        kind == "outline"
    ):  # threads side by side over an oval of 24 by 12 mm, 0.8 mm thick, felted firm
        cm3 = math.pi / 4 * 24 * 12 * 0.8 / 1000
        assert laid_.grams == pytest.approx(cm3 * BENCH.wool_by_id[WOOL].density("firm"), rel=0.01)


def test_spot_at_tip_is_as_large_as_elsewhere() -> None:
    for shape, share in (
        (Ball(width=40, depth=40, height=40), 1.0),
        (Leaf(length=60, width=30, thickness=4), 0.5),
    ):
        mesh = mesh_of(shape, Detail.DRAWN)
        for along in (0.0, 1.0):
            area = place_area(
                shape, mesh.vertices[mesh.faces], Line(way=((along, 0.0),), wide=10.0)
            )
            assert area > 0.85 * share * math.pi * 5**2, (shape.kind, along)

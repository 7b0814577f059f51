"""Places on a part: how much skin they are, what they cost in wool, and what is done there."""

from __future__ import annotations

import json
import math
from pathlib import Path

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.figure import (
    Ball,
    Brief,
    Coat,
    Cone,
    Figure,
    Fur,
    Joint,
    Leaf,
    Limb,
    Part,
    Place,
    Seat,
    Shape,
    Tilt,
    dump_document,
    load_document,
)
from bambola.core.figure.graft import graft_part, without_part
from bambola.core.figure.places import Band, Line, Near, Outline, Where, fur_all_over
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.plan import Plan, make_plan
from bambola.core.relief import Camera, portrait
from bambola.core.relief.camera import stage_of
from bambola.core.solids import Detail, measure_solids, mesh_of
from bambola.core.solids.forms import seat_point
from bambola.core.solids.patches import place_area, place_edge
from bambola.core.solids.regions import places_of, points_in_places
from tests.figures import ball, figure_of, one_ball, patch

LEG = Limb(joints=(Joint(x=0, y=0, z=0, diameter=16), Joint(x=0, y=0, z=80, diameter=16)))
LONG = Fur(wool="reed", hair=24.0, spacing=8.0, kind="fleece", lie="tip")
SHORT = Fur(wool="cream", hair=8.0, spacing=4.0, kind="pile", lie="tip")


def skin_of(shape: Shape) -> np.ndarray:
    mesh = mesh_of(shape, Detail.DRAWN)
    return mesh.vertices[mesh.faces]


SPHERE = 4 * math.pi * 20**2


@pytest.mark.parametrize(
    ("shape", "where", "area", "edge"),
    [
        # The zone of a ball is as large as the round of its equator times how high it is.
        (ball(40.0), Band(begin=0.25, end=0.75), math.tau * 20 * 20, 2 * math.tau * math.sqrt(300)),
        (ball(40.0), Band(begin=0.75), math.tau * 20 * 10, math.tau * math.sqrt(300)),
        (ball(40.0), Band(around=90, wide=90), SPHERE / 4, 2 * math.pi * 20),
        (ball(40.0), Band(around=90, wide=60, mirrored=True), SPHERE / 3, 4 * math.pi * 20),
        (ball(40.0), Band(begin=0.5, around=180, wide=120), SPHERE / 6, None),
        # A spot 10 mm from rim to rim over the ball: a cap whose chord from its middle is 5 mm.
        (ball(40.0), Line(way=((0.5, 0.0),), wide=10.0), math.pi * 5**2, math.tau * 5 * 0.992),
        (ball(40.0), Line(way=((0.5, 90.0),), wide=6.0, mirrored=True), 2 * math.pi * 9, None),
        # Half round the equator, with a half disc at either end.
        (ball(40.0), Line(way=((0.5, -90.0), (0.5, 90.0)), wide=2.0), math.pi * 20 * 2 + math.pi, None),
        (LEG, Band(begin=0.25, end=0.75), math.pi * 16 * 40, 2 * math.pi * 16),
        (LEG, Band(begin=0.25, end=0.75, around=0, wide=90), math.pi * 16 * 10, None),
        (Cone(length=60, base=30, tip=30), Band(end=0.5), math.pi * 30 * 30, None),
    ],
)  # fmt: skip
def test_place_is_as_large_as_geometry_has_it(
    shape: Shape, where: Where, area: float, edge: float | None
) -> None:
    assert place_area(shape, skin_of(shape), where) == pytest.approx(area, rel=0.01)
    if edge is not None:
        assert place_edge(shape, where) == pytest.approx(edge, rel=0.02)


@pytest.mark.parametrize(
    "shape",
    [
        ball(40.0),
        Ball(width=50, depth=30, height=70),
        Limb(joints=(Joint(x=0, y=0, z=0, diameter=16), Joint(x=30, y=-10, z=40, diameter=12),
                     Joint(x=30, y=10, z=80, diameter=8))),
        Leaf(outline=((0, 0), (0.5, 0.5), (0, 1), (-0.5, 0.5)), length=40, width=20, thickness=4, curl=60),
    ],
)  # fmt: skip
def test_seat_is_found_again_from_its_point(shape: Shape) -> None:
    seats = [(0.3, 20.0), (0.6, -70.0), (0.8, 150.0)]
    points = np.array([seat_point(shape, along, around, 1.0) for along, around in seats])
    along, around, _ = places_of(shape, points)
    assert along == pytest.approx([a for a, _ in seats], abs=0.02)
    assert around == pytest.approx([b for _, b in seats], abs=3.0)


def furred(*places: Place, **more: object) -> Figure:
    return one_ball(40.0, coat=Coat(wool="woad"), places=places, **more)


ALL, BELLY = fur_all_over(LONG), Place(id="belly", name="Belly", where=Band(end=0.4), fur=SHORT)
FACE = Place(id="face", where=Band(begin=0.8), bare=True)


def test_furs_share_skin_and_bare_place_has_none() -> None:
    whole = measure_solids(furred(ALL)).measured[0]
    assert whole.furs_mm2 == pytest.approx((whole.exposed_mm2,))
    all_, belly = measure_solids(furred(ALL, BELLY, FACE)).measured[0].furs_mm2
    assert belly == pytest.approx(0.4 * whole.exposed_mm2, rel=0.01)
    assert all_ == pytest.approx(0.4 * whole.exposed_mm2, rel=0.01)
    # What stands later lies over what stands earlier.
    belly, all_ = measure_solids(furred(BELLY, ALL)).measured[0].furs_mm2
    assert belly == pytest.approx(0.0, abs=0.01 * whole.exposed_mm2)
    assert all_ == pytest.approx(whole.exposed_mm2)


def test_patches_that_overlap_are_laid_once() -> None:
    band = Place(id="band", wool="cream", where=Band(begin=0.25, end=0.75))
    half = patch("half", "madder", ((-2, -2), (0, -2), (0, 2), (-2, 2)))
    solid = measure_solids(furred(band, half)).measured[0]
    zone = math.tau * 20 * 20
    assert solid.patches_mm2 == pytest.approx((zone * 3 / 4, SPHERE / 4), rel=0.01)


def steps_of(plan: Plan) -> list[str]:
    return [str(step.key) for step in plan.steps]


def test_every_place_has_its_wool_rows_and_steps(bench: Bench) -> None:
    plan = make_plan(furred(ALL, BELLY, FACE), Brief(), bench)
    fur = {p.detail: p for p in plan.parts[0].portions if p.role == "fur"}
    cm2 = SPHERE / 100
    assert fur[""].grams == pytest.approx(0.10 * 0.4 * cm2, rel=0.01)
    assert fur["belly"].grams == pytest.approx(0.06 * 0.4 * cm2, rel=0.01)
    # Over the ball's skin, from pole to pole 63 mm, in rows of 8 for the long hair; over 27.4 mm of it,
    # from a pole 16 mm high, in rows of 4 for the short.
    rows = [key for key in steps_of(plan) if key.startswith("fur:")]
    assert rows == [f"fur:body:{n}" for n in range(1, 9)] + [
        f"fur:body:belly#{n}" for n in range(1, 8)
    ]
    laid = {key: plan.laid_by(step) for step in plan.steps if (key := str(step.key)) in rows}
    assert [(p.detail, share) for p, share in laid["fur:body:belly#2"]] == [
        ("belly", pytest.approx(1 / 7))
    ]
    assert sum(s.minutes for s in plan.steps if s.key.place == "belly") > 0
    # It looks so as it grows: first the long hair, which does not hide that the belly is still bare.
    n = next(s.n for s in plan.steps if s.key == "fur:body:8")
    course = course_of(plan, bench)
    half, done = (standing_after(course, at).joined for at in (n, len(plan.steps)))
    assert half is not None and done is not None
    assert [p.id for p in half.copies[0].part.furs] == ["fur"]
    assert [p.id for p in done.copies[0].part.furs] == ["fur", "belly"]


def test_place_near_another_part_is_where_they_meet(bench: Bench) -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="woad"),
                places=(Place(id="ring", wool="cream", where=Near(part="leg", within=5.0)),))  # fmt: skip
    leg = Part(id="leg", name="Leg", parent="body", shape=LEG, core="core-batt", coat=Coat(wool="woad"),
               seat=Seat(along=0.5, around=90, sink=4.0, tilt=Tilt(lean=90)),
               places=(Place(id="cuff", wool="cream", where=Near(part="body", within=6.0)),))  # fmt: skip
    plan = make_plan(figure_of(body, leg), Brief(), bench)
    solids = {
        c.part.id: s
        for c, s in zip(plan.solids.placement.copies, plan.solids.measured, strict=True)
    }
    # A spot of 26 mm, of which the leg hides 16; and 10 mm of the leg, less what the ball hides of it.
    assert solids["body"].patches_mm2[0] == pytest.approx(math.pi * (13**2 - 8**2), rel=0.06)
    assert solids["leg"].patches_mm2[0] == pytest.approx(
        math.pi * 16 * (10 - (math.sqrt(30**2 - 8**2) - 26)), rel=0.02
    )
    with pytest.raises(ValueError, match="not-near"):
        figure_of(
            body,
            leg.replaced(places=(Place(id="x", wool="cream", where=Near(part="leg", within=1)),)),
        )


def test_what_is_measured_grows_with_figure(bench: Bench) -> None:
    line = Place(id="mouth", wool="madder", where=Line(way=((0.3, -30.0), (0.3, 30.0)), wide=2.0))
    figure = furred(BELLY, FACE, line, patch("spot", "cream", ((0, 0), (0.4, 0), (0.2, 0.4))))
    made = measure_solids(figure).measured[0]
    twice = make_plan(figure, Brief(height=80.0), bench)
    assert twice.solids.measured[0].patches_mm2 == pytest.approx([4 * a for a in made.patches_mm2])
    anew = measure_solids(twice.resized.figure).measured[0]
    assert anew.patches_mm2 == pytest.approx(twice.solids.measured[0].patches_mm2, rel=1e-3)
    assert anew.furs_mm2 == pytest.approx(twice.solids.measured[0].furs_mm2, rel=1e-3)


@pytest.mark.parametrize(
    ("where", "turn", "at", "other"),
    [
        (Band(begin=0.6), 0, (0.0, 36.0), (0.0, 6.0)),
        (Band(around=90, wide=120), 90, (0.0, 20.0), None),
        (Band(around=90, wide=120), 0, (17.0, 20.0), (-17.0, 20.0)),
        (Line(way=((0.5, 0.0),), wide=12.0), 0, (0.0, 20.0), (12.0, 20.0)),
        (Line(way=((0.5, -60.0), (0.5, 60.0)), wide=5.0), 0, (10.0, 20.0), (0.0, 28.0)),
    ],
)  # fmt: skip
def test_place_is_seen_where_it_is(
    bench: Bench,
    where: Where,
    turn: float,
    at: tuple[float, float],
    other: tuple[float, float] | None,
) -> None:
    figure = one_ball(
        40.0, coat=Coat(wool="woad"), places=(Place(id="p", wool="madder", where=where),)
    )
    solids = measure_solids(figure)
    picture = portrait(stage_of(solids.placement), Camera(turn=turn), 0.4, bench.colours)

    def is_red(x: float, y: float) -> bool:
        row, column = int((picture.top - y) / picture.step), int((x - picture.left) / picture.step)
        red, _, blue, _ = (int(v) for v in picture.pixels[row, column])
        return red > blue

    assert is_red(*at) and (other is None or not is_red(*other))


def test_places_are_kept_and_older_designs_open_as_they_were(bench: Bench) -> None:
    line = Place(id="mouth", wool="madder", where=Line(way=((0.3, -30.0), (0.3, 30.0)), wide=2.0))
    figure = furred(ALL, BELLY, FACE, line)
    text = dump_document(figure, Brief())
    assert load_document(text, "ball").figure == figure
    old = json.loads(dump_document(one_ball(40.0, coat=Coat(wool="woad")), Brief()))
    old["bambola"] = 2
    outline = [[-0.5, -0.5], [0.5, -0.5], [0, 0.5]]
    patches = [
        {"id": "spot", "wool": "cream", "view": "back", "outline": outline, "mirrored": True}
    ]
    old["figure"]["parts"][0] |= {
        "insets": [*patches, {"id": "spot", "wool": "madder", "outline": outline}],
        "fur": {"wool": "reed", "hair": 24.0, "spacing": 8.0, "kind": "fleece", "lie": "tip"},
    }
    spot, second, fur = load_document(json.dumps(old), "old").figure.parts[0].places
    assert spot.where == Outline(view="back", outline=tuple(map(tuple, outline)), mirrored=True)
    assert (spot.wool, second.id, second.wool) == ("cream", "spot-2", "madder")
    assert fur == ALL
    assert load_document(Path("tests/store/written/0.1.0/wren.bambola.json").read_bytes(), "wren")


def test_place_is_same_in_numbers_and_pictures() -> None:
    shape = Ball(width=50, depth=30, height=70)
    mesh = mesh_of(shape, Detail.DRAWN)
    corners = mesh.vertices[mesh.faces]
    middles, ways = (
        corners.mean(axis=1),
        np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]),
    )
    size = np.linalg.norm(ways, axis=1) / 2
    for where in (
        Band(begin=0.2, end=0.5, around=30, wide=100),
        Line(way=((0.4, 0.0), (0.7, 80.0)), wide=14),
    ):
        seen = float(size[points_in_places(shape, where, middles, ways)].sum())
        assert seen == pytest.approx(place_area(shape, corners, where), rel=0.03)


def test_places_follow_copies_and_removed_neighbours() -> None:
    cuff = Place(id="cuff", wool="cream", where=Near(part="body", within=6.0))
    spot = Place(id="spot", wool="cream", where=Line(way=((0.5, 0.0),), wide=4.0))
    ring = Place(id="ring", wool="madder", where=Near(part="leg", within=5.0))
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", places=(ring,))
    leg = Part(
        id="leg", name="Leg", parent="body", shape=LEG, core="core-batt", places=(cuff, spot)
    )
    figure = figure_of(body, leg)
    twice, name = graft_part(one_ball(80.0), figure, "leg", "body", 2.0)
    near, line = (place.where for place in twice.by_id[name].places)
    assert near == Near(part="body", within=12.0)
    assert isinstance(line, Line) and line.wide == 8.0
    assert without_part(figure, "leg").by_id["body"].places == ()

"""The face: distances over the surface against closed forms and another library, and as they are printed."""

from __future__ import annotations

import math
import xml.etree.ElementTree as ET
from datetime import date

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic
from hypothesis import example, given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.export.json_plan import plan_data
from bambola.core.export.packet import Job, packet_pdf
from bambola.core.export.strips import HIGH_MM
from bambola.core.export.svg import true_size_svgs
from bambola.core.face import faces_of, over_surface, seat_at, seat_by_caliper
from bambola.core.figure import (
    Ball,
    Brief,
    FaceMark,
    Figure,
    Leaf,
    Limb,
    Rope,
    Seat,
    Shape,
    SizeRule,
)
from bambola.core.figure.shapes import Joint
from bambola.core.methods import card_for
from bambola.core.plan import make_plan
from bambola.core.resize.laws import wanted_size
from bambola.core.solids import place
from bambola.core.solids.forms import seat_point
from bambola.core.solids.outlines import around_at, level_arc
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans
from tests.core.test_packet import drawn_mm
from tests.effort import THOROUGH
from tests.figures import ball, figure_of, one_ball
from tests.said import said

shares, degrees = st.floats(0.02, 0.98), st.floats(-120.0, 120.0)
CROWN = (1.0, 0.0)


def from_midline(shape: Shape, places: list[tuple[float, float]]) -> np.ndarray:
    """Half as far as from its mirror image."""
    return over_surface(shape, [(at, (at[0], -at[1])) for at in places]) / 2


def on_unit_ball(place_: tuple[float, float]) -> np.ndarray:
    z = 2 * place_[0] - 1
    a, s = math.radians(place_[1]), math.sqrt(max(0.0, 1 - z * z))
    return np.array([s * math.sin(a), -s * math.cos(a), z])


@given(st.tuples(shares, degrees), st.tuples(shares, degrees), st.floats(5, 150))
def test_on_ball_it_is_great_circle(
    a: tuple[float, float], b: tuple[float, float], radius: float
) -> None:
    turn = math.acos(max(-1.0, min(1.0, float(on_unit_ball(a) @ on_unit_ball(b)))))
    if turn > 3.0:
        return  # nearly opposite: many ways are as long
    assert over_surface(ball(2 * radius), [(a, b)])[0] == pytest.approx(
        radius * turn, abs=3e-4 * radius
    )


def geographers(across: float, high: float, *places: tuple[float, float]) -> float:
    """How far it is between two places over a spheroid, by a library for the earth."""
    a, c = across / 2, high / 2
    ends = []
    for along, around in places:
        z = c * (2 * along - 1)
        up = math.atan2(z * a * a / (c * c), a * math.sqrt(max(0.0, 1 - (z / c) ** 2)))
        ends += [math.degrees(up), around]
    return float(Geodesic(a, (a - c) / a).Inverse(*ends)["s12"])


@pytest.mark.parametrize(("across", "high"), [(60.0, 78.0), (60.0, 48.0), (34.0, 40.0)])
def test_on_spheroid_it_is_what_geographers_find(across: float, high: float) -> None:
    pairs = [
        (CROWN, (0.53, 26.0)),
        (CROWN, (0.2, 70.0)),
        ((0.4, -35.0), (0.4, 35.0)),
        ((0.3, 5.0), (0.8, 95.0)),
    ]
    found = over_surface(Ball(width=across, depth=across, height=high), pairs)
    for mm, (p, q) in zip(found, pairs, strict=True):
        assert mm == pytest.approx(geographers(across, high, p, q), abs=0.02)


OVER, ROUND = st.floats(-0.15, 0.15), st.floats(-30.0, 30.0)


@example(0.5, 0.0, 0.0, 1.0, 26.0)  # over an end, not round the middle
@given(
    st.floats(0.02, 0.98),
    st.floats(-179.0, 179.0),
    OVER,
    ROUND,
    st.sampled_from([26.0, 40.5, 60.0]),
)
def test_between_places_nearly_opposite_it_is_shortest_of_ways(
    along: float, around: float, over: float, round_: float, high: float
) -> None:
    there = min(0.98, max(0.02, 1 - along + over)), around + 180.0 + round_
    mm = over_surface(Ball(width=40.0, depth=40.0, height=high), [((along, around), there)])[0]
    assert mm == pytest.approx(geographers(40.0, high, (along, around), there), abs=0.05)


@pytest.mark.parametrize("depth", [30.0, 40.0, 60.0])
def test_from_crown_to_chin_it_is_down_front(depth: float) -> None:
    """A narrow head is no shorter to measure because a thread over its side would be."""
    shape = Ball(width=40.0, depth=depth, height=50.0)
    a, b = 25.0, depth / 2
    h = ((a - b) / (a + b)) ** 2
    half = math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h))) / 2  # Ramanujan
    assert over_surface(shape, [(CROWN, (0.0, 0.0))])[0] == pytest.approx(half, abs=0.1)


@given(shares, st.floats(1.0, 170.0), st.floats(0.6, 1.6), st.floats(0.6, 1.6))
def test_path_lies_between_straight_and_level_distance(
    along: float, around: float, wide: float, high: float
) -> None:
    shape = Ball(width=40 * wide, depth=40.0, height=40 * high, taper=0.2)
    ends = [(along, around), (along, -around)]
    mm = over_surface(shape, [(ends[0], ends[1])])[0]
    copy = place(
        figure_of(*one_ball().replaced(parts=(one_ball().parts[0].replaced(shape=shape),)).parts)
    ).copies[0]
    straight = float(np.linalg.norm(copy.point(*ends[0], 1.0) - copy.point(*ends[1], 1.0)))
    level = level_arc(shape, along, around)
    whole = level_arc(shape, along, 180.0)
    assert straight - 1e-6 <= mm <= 2 * min(level, whole - level) + 0.05


@given(shares, st.floats(1.0, 179.0))
def test_thread_is_measured_and_found_again(along: float, around: float) -> None:
    shape = Ball(width=50.0, depth=38.0, height=44.0)
    assert around_at(shape, along, level_arc(shape, along, around)) == pytest.approx(
        around, abs=0.3
    )
    # All round, against Ramanujan's second formula for an ellipse.
    form = math.sqrt(1 - (2 * along - 1) ** 2)
    a, b = 25 * form, 19 * form
    h = ((a - b) / (a + b)) ** 2
    round_ = math.pi * (a + b) * (1 + 3 * h / (10 + math.sqrt(4 - 3 * h)))
    assert 2 * level_arc(shape, along, 180.0) == pytest.approx(round_, rel=1e-3)


def test_tube_unrolls() -> None:
    tube = Limb(joints=(Joint(x=0, y=0, z=0, diameter=20), Joint(x=0, y=0, z=100, diameter=20)))
    assert over_surface(tube, [((0.2, 0.0), (0.5, 0.0))])[0] == pytest.approx(30.0)
    assert over_surface(tube, [((0.2, 0.0), (0.2, 90.0))])[0] == pytest.approx(10 * math.pi / 2)


def test_tapered_tube_unrolls_with_mean_width() -> None:
    """10 mm about from the base, 5 three quarters up and 2 at the tip; 24 mm along, a quarter round."""
    joints = ((0.0, 20.0), (30.0, 10.0), (40.0, 4.0))
    arm = Limb(joints=tuple(Joint(x=0, y=0, z=z, diameter=d) for z, d in joints))
    for low, high in ((0.1, 0.7), (0.55, 0.95)):
        radius = float(np.interp((low + high) * 20, [0, 30, 40], [10, 5, 2]))
        told = over_surface(arm, [((low, 10.0), (high, 100.0))])[0]
        assert told == pytest.approx(math.hypot((high - low) * 40, radius * math.pi / 2), rel=0.01)


def test_flat_part_is_as_flat_as_paper() -> None:
    """Its places lie along it, and aside by the sine of their angle: half a width at 90 degrees."""
    leaf = Leaf(length=40.0, width=30.0, thickness=3.0)
    found = over_surface(leaf, [((0.25, 90.0), (0.75, -90.0)), ((0.1, 0.0), (0.1, 30.0))])
    assert found == pytest.approx([math.hypot(20.0, 30.0), 7.5])


def head_typed_from_a_strip() -> Figure:
    """A head on which marks stand where a strip read them: eyes, nose and a brow."""
    shape = Ball(width=48.0, depth=42.0, height=45.0)
    read = {"Eye": (31.0, 11.0), "Brow": (24.0, 9.0), "Cheek": (43.0, 14.0)}
    marks = []
    for name, (down, aside) in read.items():
        place_ = seat_at(shape, CROWN, down, aside)
        assert place_ is not None
        marks.append(
            FaceMark(id=name.lower(), name=name, part="body", along=place_[0], around=place_[1])
        )
    head = one_ball(45.0).parts[0].replaced(shape=shape)
    return figure_of(head, marks=marks)


def test_marks_typed_from_strip_are_read_off_it_again() -> None:
    face = faces_of(place(head_typed_from_a_strip()))[0]
    read = {m.id: (m.from_crown_mm, m.from_midline_mm) for m in face.marks}
    for id, mm in {"eye": (31.0, 11.0), "brow": (24.0, 9.0), "cheek": (43.0, 14.0)}.items():
        assert read[id] == pytest.approx(mm, abs=0.06)
    assert seat_at(Ball(width=48.0, depth=42.0, height=45.0), CROWN, 300.0, 5.0) is None


@given(st.floats(0.25, 0.9), st.floats(12.0, 70.0), st.floats(0.8, 1.15))
def test_caliper_reads_chords_of_ball(along: float, around: float, times: float) -> None:
    radius, shape, now = 25.0, ball(50.0), (along, around)
    arc = float(over_surface(shape, [(CROWN, now)])[0])
    aside = float(from_midline(shape, [now])[0])
    # By its chord from the crown: 2 R sin(arc / 2 R). How far it is from the midline stays.
    wanted = min(arc * times, 2.6 * radius)
    seat = seat_by_caliper(shape, CROWN, now, down=2 * radius * math.sin(wanted / 2 / radius))
    if seat is not None:
        assert over_surface(shape, [(CROWN, seat)])[0] == pytest.approx(wanted, abs=0.12)
        assert from_midline(shape, [seat])[0] == pytest.approx(aside, abs=0.12)
    # Between the two: their chord is twice R sin(aside / R).
    nearer = aside * times
    seat = seat_by_caliper(shape, CROWN, now, apart=2 * radius * math.sin(nearer / radius))
    if seat is not None:
        assert from_midline(shape, [seat])[0] == pytest.approx(nearer, abs=0.12)
        assert over_surface(shape, [(CROWN, seat)])[0] == pytest.approx(arc, abs=0.12)
    else:
        assert times > 1 or wanted < nearer  # there is no such place


def test_what_caliper_does_not_measure_stays_as_far_over_surface() -> None:
    radius, shape, now = 30.0, ball(60.0), (0.6, 40.0)
    round_ = 2 * radius * math.sqrt(0.6 * 0.4)  # radius of the level there
    for apart in (20.0, 35.0):
        # As far from the pole is as high: along stays, and the chord is twice r sin(around).
        seat = seat_by_caliper(shape, CROWN, now, apart=apart)
        assert seat == pytest.approx((0.6, math.degrees(math.asin(apart / 2 / round_))), abs=0.2)
    for along in (0.5, 0.7):
        # As far from the midline is as far aside; a chord from the pole is 2 R sqrt(1 - along).
        seat = seat_by_caliper(shape, CROWN, now, down=2 * radius * math.sqrt(1 - along))
        level = 2 * radius * math.sqrt(along * (1 - along))
        around = math.degrees(math.asin(round_ * math.sin(math.radians(40.0)) / level))
        assert seat == pytest.approx((along, around), abs=0.2)
    both = seat_by_caliper(shape, CROWN, now, down=2 * radius * math.sqrt(0.5), apart=30.0)
    assert both == pytest.approx((0.5, 30.0), abs=0.2)


def test_caliper_measures_from_crown_where_that_is_not_pole() -> None:
    shape, crown, now = ball(60), (0.8, 0.0), (0.4, 25.0)
    aside = from_midline(shape, [now])[0]
    for down in (20.0, 35.0):
        seat = seat_by_caliper(shape, crown, now, down=down)
        assert seat is not None
        straight = seat_point(shape, *seat, 1.0) - seat_point(shape, *crown, 1.0)
        assert np.linalg.norm(straight) == pytest.approx(down, abs=0.1)
        assert from_midline(shape, [seat])[0] == pytest.approx(aside, abs=0.12)


def strokes(svg: str, what: str) -> list[tuple[float, float]]:
    """Start x and end x of every path of a class, in the order drawn."""
    found = []
    for path in ET.fromstring(svg).iter("{http://www.w3.org/2000/svg}path"):
        if path.get("class") == what:
            xs = [
                float(p.split(",")[0].lstrip("ML"))
                for p in path.get("d", "").replace(" Z", "").split(" ")
            ]
            found.append((min(xs), max(xs)))
    return found


@pytest.mark.parametrize("rules", [(), ("hold",), ("multiply",)])
def test_printed_strips_have_length_over_new_head(rules: tuple[str, ...], bench: Bench) -> None:
    figure = head_typed_from_a_strip()
    brief = Brief(height=45.0 * 1.6)
    if rules == ("hold",):
        brief = Brief(height=45.0, rules={"body": (SizeRule(rule="hold"),)})
    if rules == ("multiply",):
        wider = SizeRule(measure="width", rule="multiply", value=1.2)
        brief = brief.ruled("body", (wider,))
    plan = make_plan(figure, brief, bench)
    shape = plan.resized.figure.by_id["body"].shape
    svg = true_size_svgs(plan, bench)["face-body.svg"]
    strips, ticks = strokes(svg, "strip"), strokes(svg, "mark")
    face = plan.faces[0]
    zero, pos = strips[0][0], {m.id: (m.along, m.around) for m in face.marks}
    want = [over_surface(shape, [(CROWN, pos[m.id])])[0] for m in face.named_marks]
    assert sorted(x - zero for x, _ in ticks[:3]) == pytest.approx(sorted(want), abs=0.05)
    aside = sorted(from_midline(shape, [pos[m.id]])[0] for m in face.named_marks)
    assert sorted(x - strips[1][0] for x, _ in ticks[3:6]) == pytest.approx(aside, abs=0.05)
    rows = {row["id"]: row for row in plan_data(plan)["faces"][0]["marks"]}
    assert rows["eye"]["was_mm"]["from_crown_mm"] == pytest.approx(31.0, abs=0.06)
    if rules == ():
        assert rows["eye"]["from_crown_mm"] == pytest.approx(31.0 * 1.6, abs=0.1)


@pytest.mark.parametrize("way", ["grown", "held", "widened"])
def test_strips_in_print_are_as_long_as_geographers_find(way: str, bench: Bench) -> None:
    shape = Ball(width=44.0, depth=44.0, height=50.0)
    marks = []
    for name, read in {"Eye": (27.0, 10.0), "Cheek": (46.0, 13.0)}.items():
        seat = seat_at(shape, CROWN, *read)
        assert seat is not None
        mark = FaceMark(id=name.lower(), name=name, part="body", along=seat[0], around=seat[1])
        marks.append(mark)
    figure = figure_of(one_ball(50.0).parts[0].replaced(shape=shape), marks=marks)
    brief = Brief(height=80.0)
    if way == "held":
        brief = Brief(height=50.0, rules={"body": (SizeRule(rule="hold"),)})
    elif way == "widened":
        wider = (SizeRule(measure=m, rule="multiply", value=1.2) for m in ("width", "depth"))
        brief = brief.ruled("body", tuple(wider))
    plan = make_plan(figure, brief, bench)
    across, high = (plan.part("body").to_mm[name] for name in ("width", "height"))
    assert across / high == pytest.approx(44 / 50 * (1.2 if way == "widened" else 1.0))
    spots = [(m.along, m.around) for m in plan.faces[0].named_marks]
    down = [geographers(across, high, CROWN, spot) for spot in spots]
    aside = [geographers(across, high, spot, (spot[0], -spot[1])) / 2 for spot in spots]
    job = Job((plan,), figure, bench, date(2026, 11, 2), pages=("face",))
    paths = drawn_mm(packet_pdf(job), 0)
    svg = true_size_svgs(plan, bench)["face-body.svg"]
    # On paper a strip is a box as high as it is cut, its marks are upright lines in it.
    boxes = [p for p in paths if len(p) >= 4 and np.ptp(p[:, 1]) == pytest.approx(HIGH_MM, abs=0.1)]
    wanted = plan.faces[0].strip_mm, max(aside) + 5
    strips = [min(boxes, key=lambda p: abs(np.ptp(p[:, 0]) - wide)) for wide in wanted]
    printed = []
    for strip in strips:
        low, top = strip[:, 1].min() - 3, strip[:, 1].max() + 3
        printed.append([
            float(p[0, 0] - strip[:, 0].min()) for p in paths
            if len(p) == 2 and np.ptp(p[:, 0]) < 0.01 and low < p[:, 1].mean() < top
            and np.ptp(p[:, 1]) > HIGH_MM / 3
        ])  # fmt: skip
    drawn, ticks = strokes(svg, "strip"), strokes(svg, "mark")
    n = len(spots)
    on_screen = [[x - drawn[k][0] for x, _ in ticks[k * n : k * n + n]] for k in (0, 1)]
    for found in (printed, on_screen):
        for mm, true in zip(found, (down, aside), strict=True):
            for each in true:
                assert min(abs(each - x) for x in mm) < 0.3, (way, mm, true)


@pytest.mark.parametrize("times", [0.55, 0.8, 1.3, 1.57])
def test_bought_eyes_keep_gap_between_them(times: float, bench: Bench) -> None:
    demo = load_demo(BADGER)
    height = place(demo.figure).height * times
    plan = make_plan(demo.figure, Brief(height=height), bench)
    old = next(f for f in demo.figure.fittings if f.id == "eye")
    new = next(f for f in plan.resized.figure.fittings if f.id == "eye")
    shape = plan.resized.figure.by_id["head"].shape
    arcs = [level_arc(shape, seat.along, seat.around) for seat in (old.seat, new.seat)]  # type: ignore[arg-type]
    wanted = wanted_size(old, plan.resized.scale)
    assert arcs[1] - new.size / 2 == pytest.approx(arcs[0] - wanted / 2, abs=0.1)
    # They sit where the seat says, whether all just grew or not.
    placed = plan.solids.placement.fittings
    again = place(plan.resized.figure).fittings
    for a, b in zip(placed, again, strict=True):
        assert np.allclose(a.matrix[:3, 3], b.matrix[:3, 3], atol=1e-6)


def test_every_face_of_ours_is_told_at_its_step(bench: Bench) -> None:
    figures = [load_demo(path).figure for path in (BADGER, HERON, TOAD)]
    figures += [plan.figure for plan in body_plans()] if THOROUGH else []
    for figure in figures:
        plan = make_plan(figure, Brief(height=place(figure).height * 1.4), bench)
        faces = {face.part: face for face in plan.faces}
        for step in plan.steps:
            if not step.key.startswith("mark:") or step.part not in faces:
                continue
            told = [said(sentence) for sentence in card_for(plan, step, bench).how]
            for mark in faces[step.part].named_marks:
                assert any(t.startswith(said(mark.name)) and "mm" in t for t in told), figure.id


def test_figure_without_face_is_asked_nothing_of_one(bench: Bench) -> None:
    plan = make_plan(one_ball(), Brief(height=60.0), bench)
    assert plan.faces == () and plan_data(plan)["faces"] == []
    assert not any(step.key.startswith("mark:") for step in plan.steps)


def test_corrected_face_has_larger_eyes_with_same_gap(bench: Bench) -> None:
    figure, fine = (
        load_demo(BADGER).figure,
        bench.replaced(eye_sizes=tuple(i / 100 for i in range(50, 3000))),
    )

    def eye(s: float, corrected: bool) -> tuple[float, float]:
        plan = make_plan(figure, Brief(height=140.0 * s, corrected=corrected), fine)
        (used,) = (f for f in plan.fittings if f.id == "eye")
        mark = next(m for f in plan.faces for m in f.marks if m.about == "eye")
        return used.use_mm, 2 * mark.from_midline_mm

    # Half as large: a tenth larger; a quarter or less: a fifth, and no more.
    for s, times in ((0.5, 1.1), (0.25, 1.2), (0.2, 1.2), (1.0, 1.0), (1.6, 1.0)):
        (plain, apart), (larger, wider) = eye(s, False), eye(s, True)
        assert larger / plain == pytest.approx(times, abs=0.006)
        assert wider - larger == pytest.approx(apart - plain, abs=0.12)


def test_only_larger_faces_get_finer_lines(bench: Bench) -> None:
    head = one_ball().parts[0]
    mouth = head.replaced(
        id="mouth", name="Mouth", parent=head.id, face=True, seat=Seat(along=0.3, sink=0.5),
        shape=Rope(points=((0, 0, 0), (6, 0, 1), (12, 0, 0)), thickness=2.0), coat=None,
    )  # fmt: skip
    figure = figure_of(head, mouth)
    for s, thick in ((4.0, 4.0), (0.5, 1.0), (1.0, 2.0)):
        plan = make_plan(figure, Brief(height=place(figure).height * s, corrected=True), bench)
        assert plan.part("mouth").to_mm["thickness"] == pytest.approx(thick, rel=1e-6)
        why = " ".join(map(said, plan.part("mouth").sized_by))
        assert ("as a face of this size asks" in why) == (s > 1)


def test_toads_eyes_that_are_parts_are_corrected_too(bench: Bench) -> None:
    toad = load_demo(TOAD)
    plan = make_plan(toad.figure, toad.brief.at_height(22.5).replaced(corrected=True), bench)
    before, after = (getattr(plan.part("eye"), which)["width"] for which in ("from_mm", "to_mm"))
    assert after / before / plan.scale == pytest.approx(1 + 0.1 * -math.log2(plan.scale), rel=1e-6)

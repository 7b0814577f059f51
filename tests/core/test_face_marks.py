"""What is marked on a face, how it is told and moved, and what expressions move."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from scipy.spatial import KDTree
from scipy.spatial.distance import pdist

from bambola.core.bench import Bench
from bambola.core.face import faces_of, over_surface
from bambola.core.face.expressions import EXPRESSION_BY_ID, EXPRESSIONS, posed_as, with_expression
from bambola.core.face.moving import level_of_marks, with_mark_at
from bambola.core.facts import Exact
from bambola.core.figure import (
    Brief,
    Document,
    FaceMark,
    Figure,
    Leaf,
    Part,
    PoseBend,
    Seat,
    Tilt,
)
from bambola.core.figure.variants import Alteration, Shift
from bambola.core.methods import card_for
from bambola.core.plan import make_plan
from bambola.core.solids import own_copy, place
from bambola.core.solids.meshes import Detail, solid_of
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans
from tests.core.test_craft_doc import TOLD
from tests.figures import ball, figure_of, head_with_a_face, one_ball
from tests.said import said

SNOUT = Part(id="snout", name="Snout", parent="head", shape=ball(24.0), core="core-batt",
             seat=Seat(along=0.45, around=10.0, sink=4.0, tilt=Tilt(nod=90.0)))  # fmt: skip


@pytest.mark.parametrize(("along", "around"), [(0.45, 10.0), (0.5, 14.0), (0.41, 5.0)])
def test_mark_under_snout_moves_to_its_skin(along: float, around: float) -> None:
    nose = FaceMark(id="nose", name="Nose tip", part="head", along=along, around=around)
    cheek = FaceMark(id="cheek", name="Cheek", part="head", along=0.45, around=70.0)
    ear = Part(id="ear", name="Ear", parent="head", shape=Leaf(length=20.0, width=14.0, thickness=3.0),
               core="core-batt", seat=Seat(along=0.85, around=70.0), pair=True)  # fmt: skip
    placement = place(head_with_a_face(SNOUT, ear, marks=(nose, cheek)))
    faces = {face.part: face for face in faces_of(placement)}
    on_head = {mark.about for mark in faces["head"].marks}
    if (along, around) == (0.45, 10.0):  # it says where the snout sits
        assert "nose" in on_head and "snout" not in faces
        return
    assert {"mouth", "eye", "cheek"} <= on_head and "nose" not in on_head
    (told,) = faces["snout"].marks
    # The line from the middle of the head through the mark, as far as the ball of the snout reaches.
    head, snout = (placement.copies_of(part)[0] for part in ("head", "snout"))
    middle, other = (copy.point(0.5, 0.0, 0.0) for copy in (head, snout))
    way = head.point(along, around, 1.0) - middle
    way /= np.linalg.norm(way)
    past = float((other - middle) @ way)
    out = middle + way * (
        past + math.sqrt(12.0**2 - float((other - middle) @ (other - middle)) + past**2)
    )
    assert snout.point(told.along, told.around, 1.0) == pytest.approx(out, abs=0.35)


@pytest.mark.parametrize(
    ("nod", "along", "quarters"),
    [
        (0.0, 0.5, 1.0),
        (0.0, 1.0, 0.0),
        (90.0, 1.0, 1.0),
        (90.0, 0.0, 1.0),
        (180.0, 0.0, 0.0),
        (180.0, 0.5, 1.0),
    ],
)
def test_crown_is_on_top_however_head_is_turned(nod: float, along: float, quarters: float) -> None:
    """On a ball a mark is so many quarters of the way round from what is on top."""
    figure = head_with_a_face(marks=(FaceMark(id="spot", name="Spot", part="head", along=along),))
    parts = [
        p.replaced(seat=p.seat.replaced(tilt=Tilt(nod=nod))) if p.id == "head" else p
        for p in figure.parts
    ]
    (face,) = faces_of(place(figure.replaced(parts=tuple(parts))))
    spot = next(mark for mark in face.marks if mark.about == "spot")
    assert spot.from_crown_mm == pytest.approx(quarters * math.pi * 60 / 4, abs=0.6)


@pytest.mark.parametrize("nod", [90.0, -90.0])
def test_strip_of_lying_head_runs_over_front_to_chin(nod: float) -> None:
    """Half round a ball from its highest point to its lowest, whichever end is in front."""
    lying = Seat(tilt=Tilt(nod=nod))
    mark = FaceMark(id="nose", name="Nose", part="body", along=0.98, around=0.0)
    head = one_ball(50.0).parts[0].replaced(seat=lying)
    face = faces_of(place(figure_of(head, marks=(mark,))))[0]
    assert face.strip_mm == pytest.approx(25.0 * math.pi, rel=0.01)


def test_every_mark_lies_on_its_strip() -> None:
    """A place at the back or the side may be farther than the chin by as much as goes round it."""
    shipped = [plan.figure for plan in body_plans()]
    for figure in (*shipped, *(load_demo(path).figure for path in (BADGER, HERON, TOAD))):
        for face in faces_of(place(figure)):
            for mark in face.named_marks:
                assert mark.from_crown_mm <= face.strip_mm + mark.from_midline_mm, figure.id


@pytest.mark.parametrize(("along", "is_ear"), [(0.85, True), (0.3, False)])
def test_flat_pairs_above_eyes_are_ears(along: float, is_ear: bool) -> None:
    leaf = Part(id="flap", name="Flap", parent="head", shape=Leaf(length=20.0, width=14.0, thickness=3.0),
                core="core-batt", seat=Seat(along=along, around=60.0), pair=True)  # fmt: skip
    (face,) = faces_of(place(head_with_a_face(leaf)))
    ends = {m.id.partition(":")[0]: m for m in face.marks if m.about == "flap"}
    assert set(ends) == ({"inner", "outer"} if is_ear else set())
    if is_ear:
        assert ends["inner"].from_midline_mm < ends["outer"].from_midline_mm
        assert ends["inner"].both and ends["outer"].both


def test_mark_on_place_of_eye_is_told_once() -> None:
    marks = tuple(
        FaceMark(id=name.replace(" ", "-"), name=name, part="head", along=along, around=around)
        for name, along, around in (
            ("on it", 0.6, 45.0), ("below it", 0.57, 45.0), ("beside it", 0.6, 49.0), ("apart", 0.3, 60.0),
        )
    )  # fmt: skip
    (face,) = faces_of(place(head_with_a_face(marks=marks)))
    assert {m.about for m in face.marks} - {m.about for m in face.named_marks} == {"on-it"}


@pytest.mark.parametrize(
    ("about", "place_"), [("mouth", (0.35, 10.0)), ("eye", (0.55, 50.0)), ("ear", (0.8, 66.0))]
)
def test_mark_is_moved_alone_and_found_where_it_was_put(
    about: str, place_: tuple[float, float]
) -> None:
    ear = Part(id="ear", name="Ear", parent="head", shape=Leaf(length=20.0, width=14.0, thickness=3.0),
               core="core-batt", seat=Seat(along=0.85, around=60.0), pair=True)  # fmt: skip
    others = (FaceMark(id="chin", name="Chin", part="head", along=0.15),)
    figure = head_with_a_face(ear, marks=others)
    (face,) = faces_of(place(figure))
    mark = next(m for m in face.marks if m.about == about)
    wanted = (place_[0], place_[1])
    if about == "ear":  # an end of its base goes by as much as the ear
        wanted = (mark.along - 0.05, mark.around + 6.0)
    after = with_mark_at(figure, mark, wanted)
    (moved,) = faces_of(place(after))
    for was in face.marks:
        now = next(m for m in moved.marks if m.id == was.id)
        if was.id == mark.id and about != "ear":
            assert (now.along, now.around) == pytest.approx(wanted)
        elif was.about != about:
            assert (now.along, now.around) == pytest.approx((was.along, was.around))
    seats = {p.id: (p.seat.along, p.seat.around) for p in after.parts}
    assert seats["ear"] == pytest.approx((0.8, 66.0) if about == "ear" else (0.85, 60.0))
    # Beyond an end of the part there is nothing to mark.
    beyond = with_mark_at(figure, mark, (1.7, 0.0))
    seat = beyond.by_id["ear"].seat if about == "ear" else None
    at = next((f.seat for f in beyond.fittings if f.id == about), seat) or beyond.marks[0]
    least = (
        0.84 + 1.0 - mark.along if about == "ear" else 0.98
    )  # an ear goes as far as that end of it
    assert least < at.along <= 1.0


UP, DOWN, AS_IT_WAS = 1.0, -1.0, 0.0


@pytest.mark.parametrize(
    ("name", "eyes", "mouth", "ears", "ears_out", "nod", "lean"),
    [
        ("happy", UP, UP, UP, DOWN, DOWN, AS_IT_WAS),
        ("sad", DOWN, DOWN, DOWN, UP, UP, AS_IT_WAS),
        ("sleepy", DOWN, DOWN, DOWN, UP, UP, UP),
        ("alert", UP, AS_IT_WAS, UP, DOWN, DOWN, AS_IT_WAS),
        ("gentle", DOWN, UP, DOWN, UP, UP, UP),
    ],
)
def test_expression_moves_what_carries_it_and_nothing_else(
    name: str, eyes: float, mouth: float, ears: float, ears_out: float, nod: float, lean: float
) -> None:
    ear = Part(id="ear", name="Ear", parent="head", shape=Leaf(length=20.0, width=14.0, thickness=3.0),
               core="core-batt", seat=Seat(along=0.85, around=70.0), pair=True)  # fmt: skip
    others = (
        FaceMark(id="chin", name="Chin", part="head", along=0.15),
        FaceMark(id="eye-line", name="Eye line", part="head", along=0.66, around=20.0, eye=True),
    )
    figure = head_with_a_face(ear, marks=others)
    shifts = with_expression(figure, Alteration(), EXPRESSION_BY_ID[name]).shifts

    def signs(of: str) -> dict[str, float]:
        return {k: math.copysign(1.0, v) for k, v in dict(shifts.get(of, Shift())).items() if v}

    def only(**moved: float) -> dict[str, float]:
        return {k: v for k, v in moved.items() if v}

    assert set(shifts) <= {"eye", "eye-line", "mouth", "ear", "head"}
    assert signs("eye") == signs("eye-line") == only(along=eyes)
    assert signs("mouth") == only(along=mouth) and signs("head") == only(nod=nod, lean=lean)
    assert signs("ear") == only(along=ears, lean=ears_out)


@pytest.mark.parametrize(
    ("left", "right", "told"),
    [
        (20.0, 20.5, "level.yes"), (20.5, 20.0, "level.yes"), (10.0, 10.6, "level.right"),
        (100.0, 103.0, "level.yes"), (100.0, 103.2, "level.right"), (103.2, 100.0, "level.left"),  # 3 %
    ],
)  # fmt: skip
def test_uneven_sides_tell_which_is_lower(left: float, right: float, told: str) -> None:
    found = level_of_marks(left, right)
    assert found.kind == told
    if told != "level.yes":
        off = abs(left - right)
        assert dict(found.slots) == {"off": Exact(off), "half": Exact(off / 2)}


def test_expressions_move_as_much_as_is_told_to_strangers() -> None:
    rows = re.findall(r"^\| ((?:happy|sad|sleepy|alert|gentle)) \|(.+)\|$", TOLD, re.M)
    assert [name for name, _ in rows] == [e.id for e in EXPRESSIONS]
    for expression, (_, cells) in zip(EXPRESSIONS, rows, strict=True):
        told = [float(cell.strip(" %°")) for cell in cells.split("|")]
        e = expression
        up = [100 * share for share in (e.eyes, e.mouth, e.ears)]
        assert told == pytest.approx([*up, e.ear_lean, e.nod, e.lean])


def test_mark_off_midline_is_on_both_sides() -> None:
    arounds = (0.0, 1.9, 2.1, 90.0, -90.0, 177.9, -177.9, 178.1, -178.1, 180.0)
    marks = tuple(
        FaceMark(id=f"m{i}", name=f"M{i}", part="head", along=0.5, around=around)
        for i, around in enumerate(arounds)
    )
    (face,) = faces_of(place(head_with_a_face(marks=marks)))
    both = {m.around: m.both for m in face.marks if m.kind == "mark" and m.about != "mouth"}
    assert both == {around: 2.0 < abs(around) < 178.0 for around in arounds}


@pytest.mark.parametrize(("deeper", "curl"), [(0.0, 60.0), (2.0, 60.0), (0.0, 0.0), (1.0, -40.0)])
def test_ends_of_base_are_where_solids_meet(badger: Document, deeper: float, curl: float) -> None:
    """The ear's sheet, cut out as a mesh as thin as paper, meets the head's mesh from end to end."""
    ear = badger.figure.by_id["ear"]
    seat = ear.seat.replaced(sink=ear.seat.sink + deeper)
    sheet = ear.shape.replaced(curl=curl, thickness=0.05)
    thin = ear.replaced(seat=seat, shape=sheet, places=())
    parts = tuple(thin if part.id == "ear" else part for part in badger.figure.parts)
    placement = place(badger.figure.replaced(parts=parts))
    leaf, head = own_copy(placement, "ear"), own_copy(placement, "head")
    assert leaf is not None and head is not None
    of_leaf, of_head = (
        solid_of(copy.shape, Detail.DRAWN).transform(copy.matrix[:3]) for copy in (leaf, head)
    )
    meet = np.asarray((of_leaf ^ of_head).to_mesh().vert_properties)[:, :3]
    bare = np.asarray(of_leaf.to_mesh().vert_properties)[:, :3]
    skin = meet[KDTree(bare).query(meet)[0] > 1e-3]  # what the cut has made
    face = next(f for f in faces_of(placement) if f.part == "head")
    ends = [head.point(m.along, m.around, 1.0) for m in face.marks if m.about == "ear"]
    assert math.dist(*ends) == pytest.approx(max(pdist(skin)), abs=0.3)
    assert all(np.linalg.norm(skin - end, axis=1).min() < 0.3 for end in ends)


def test_comb_is_no_ear_and_ear_has_one_thread() -> None:
    flat = {
        "shape": Leaf(length=20.0, width=14.0, thickness=3.0),
        "core": "core-batt",
        "parent": "head",
    }
    comb = Part(id="comb", name="Comb", seat=Seat(along=0.95), **flat)
    horn = Part(id="horn", name="Horn", parent="head", shape=ball(9.0), core="core-batt", pair=True,
                seat=Seat(along=0.8, around=40.0))  # fmt: skip
    ear = Part(
        id="ear",
        name="Ear",
        pair=True,
        seat=Seat(along=0.85, around=84.0, sink=1.0, tilt=Tilt(lean=55.0)),
        **flat,
    )
    (face,) = faces_of(place(head_with_a_face(comb, horn, ear)))
    assert {m.about for m in face.marks} == {"eye", "mouth", "ear"}
    inner, outer = (
        next(m for m in face.marks if m.id == f"{end}:ear") for end in ("inner", "outer")
    )
    assert abs(inner.along - outer.along) > 0.04  # it stands on end
    assert [[about for about, _ in t.ticks] for t in face.threads] == [["outer:ear"], ["eye:eye"]]
    for around in (40.0, 60.0, 76.0):
        for lean in (0.0, 20.0, 40.0, 70.0):
            turned_ = ear.replaced(seat=Seat(along=0.85, around=around, tilt=Tilt(lean=lean)))
            (seen,) = faces_of(place(head_with_a_face(turned_)))
            ends = {
                m.id.partition(":")[0]: m.from_midline_mm for m in seen.marks if m.about == "ear"
            }
            assert ends["inner"] < ends["outer"], (around, lean)
    # Beside a mark it needs none.
    base = FaceMark(id="base", name="Base", part="head", along=outer.along + 0.1, around=60.0)
    (face,) = faces_of(place(head_with_a_face(ear, marks=(base,))))
    assert [[about for about, _ in t.ticks] for t in face.threads] == [["base"], ["eye:eye"]]


def test_part_of_face_is_moved_and_no_other() -> None:
    for demo in (BADGER, HERON, TOAD):
        figure = load_demo(demo).figure
        for mark in (m for face in faces_of(place(figure)) for m in face.marks if m.kind == "part"):
            after = with_mark_at(figure, mark, (mark.along - 0.02, mark.around + 3.0))
            changed = [p.id for p, q in zip(figure.parts, after.parts, strict=True) if p != q]
            assert changed == [mark.about]
            was, now = (f.by_id[mark.about].seat for f in (figure, after))
            assert now.along == pytest.approx(was.along - 0.02)
            assert now.around == pytest.approx(was.around + 3.0)


@pytest.mark.parametrize("pose", ["sitting", "waving", "holding"])
def test_pose_is_same_however_its_limbs_were_bent_before(pose: str) -> None:
    figure = load_demo(BADGER).figure.replaced(pose=())
    plain = posed_as(figure, Alteration(), pose).pose
    assert plain
    for limb in {bend.part for bend in plain}:
        for nod, lean in ((120.0, 0.0), (-120.0, 0.0), (0.0, 120.0), (0.0, -120.0)):
            bent = PoseBend(part=limb, joint=0, tilt=Tilt(nod=nod, lean=lean))
            found = posed_as(figure.replaced(pose=(bent,)), Alteration(), pose).pose
            assert found is not None and set(plain) <= set(found)


def test_thread_is_laid_at_eyes(bench: Bench) -> None:
    cheek = FaceMark(id="cheek", name="Cheek", part="head", along=0.35, around=60.0)

    def sheet(figure: Figure) -> tuple[str, ...]:
        plan = make_plan(figure, Brief(), bench)
        step = next(s for s in plan.steps if s.key == "mark:head")
        card = card_for(plan, step, bench)
        return (*map(said, card.how), *(said(c.text) for c in card.checks))

    eyed = head_with_a_face(marks=(cheek,))
    round_ = 2 * math.pi * 30 * math.sqrt(1 - 0.2**2)  # three fifths of the way up a ball
    told = sheet(eyed)
    assert f"Lay a thread round at the eyes, {round_:.0f} mm long: it runs level." in told
    assert "Lay a thread round the head at the eyes, then look upside down." in told
    # Without eyes at what there is, and by a mark in the middle none can be laid.
    blind = sheet(eyed.replaced(fittings=()))
    round_ = 2 * math.pi * 30 * math.sqrt(1 - 0.3**2)
    assert f"Cheek: lay a thread round there, {round_:.0f} mm long: it runs level." in blind
    mouth = sheet(head_with_a_face().replaced(fittings=()))
    assert not any("thread" in line for line in (*blind[-2:], *mouth))


def test_what_lies_at_one_height_lies_on_one_thread() -> None:
    head = next(face for face in faces_of(place(load_demo(BADGER).figure)) if face.part == "head")
    assert [[about for about, _ in thread.ticks] for thread in head.threads] == [
        ["ear-base"],  # both ends of the ear are near enough to it
        ["eye-line", "eye:eye"],
    ]
    near = FaceMark(id="near", name="Near", part="head", along=0.63, around=30.0)
    below = FaceMark(id="below", name="Below", part="head", along=0.55, around=30.0)
    (face,) = faces_of(place(head_with_a_face(marks=(near, below))))
    assert [[about for about, _ in thread.ticks] for thread in face.threads] == [
        ["near", "eye:eye"],
        ["below"],
    ]


def test_where_nothing_is_marked_nothing_is_measured() -> None:
    assert len(over_surface(ball(40.0), [])) == 0

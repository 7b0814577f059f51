"""Pieces of a face: how much wool they are, their order, how they move, and when they are left out."""

from __future__ import annotations

import math

import pytest

from bambola.core.bench import Bench
from bambola.core.bench.shelved import with_shelved
from bambola.core.face import faces_of
from bambola.core.face.expressions import EXPRESSION_BY_ID, with_expression
from bambola.core.face.moving import with_mark_at
from bambola.core.face.pieces import PRESET_BY_ID, PRESETS, with_piece
from bambola.core.figure import Brief, Coat, Figure, Fitting, Fur, Part, Piece, Place, Seat
from bambola.core.figure.places import Line, fur_all_over
from bambola.core.figure.questions import PiecesAnswer, SmallFace
from bambola.core.figure.variants import Alteration, altered
from bambola.core.methods import sheet_for
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.weighing import covered_skin, weighings
from bambola.core.resize.faces import pieces_gained, too_small
from bambola.core.solids import own_copy, place
from bambola.core.wool.layers import piece_cm3
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, load_demo
from tests.core.walker import Walker
from tests.figures import ball, figure_of


def head(*places: Place, eye: float = 5.0) -> Figure:
    """A ball of 50 mm with a pair of eyes; a mm of its skin at the middle is 360° / 50π."""
    part = Part(
        id="head",
        name="Head",
        shape=ball(50),
        core="core-batt",
        coat=Coat(wool="cream"),
        places=places,
    )
    eyes = Fitting(
        id="eye", name="Eye", kind="eye", part="head", seat=Seat(along=0.55, around=25.0), pair=True,
        size=eye, follows="ready-made", glued=True, pieces=(Piece(shape=ball(eye)),),
    )  # fmt: skip
    return figure_of(part, fittings=(eyes,))


def with_all(figure: Figure, *presets: str) -> Figure:
    for preset in presets:
        figure, _, _ = with_piece(figure, "head", preset, "charcoal", PRESET_BY_ID[preset].face)
    return figure


def by_id(figure: Figure, name: str) -> Place:
    return next(p for part in figure.parts for p in part.places if p.id == name)


SPOT = Line(way=((0.5, 0.0),), wide=6.0)
ARC = Line(way=((0.5, -30.0), (0.5, 30.0)), wide=2.0)
LONG = 50 * math.pi / 6


@pytest.mark.parametrize(
    ("face", "where", "cm3"),
    [
        # Half an egg 0.35 of its width high; a thread of 2 mm; hairs 0.5 mm thick; half a disc a mm thick.
        ("nose", SPOT, 2 / 3 * math.pi * 9 * 0.35 * 6 / 1000),
        ("mouth", ARC, math.pi * LONG / 1000),
        ("lash", ARC.replaced(wide=0.5), math.pi / 4 * 0.25 * LONG / 1000),
        ("lid", ARC, math.pi / 4 * LONG * 2 * 1.0 / 1000),
    ],
)  # fmt: skip
def test_wool_of_piece_is_its_volume_felted_firm(
    bench: Bench, face: str, where: Line, cm3: float
) -> None:
    for mirrored in (False, True):
        piece = Place(id="p", where=where.replaced(mirrored=mirrored), wool="charcoal", face=face)  # type: ignore[arg-type]
        figure = head(piece)
        assert piece_cm3(figure.parts[0].shape, piece) == pytest.approx(cm3, rel=0.01)
        plan = make_plan(figure, Brief(), bench)
        (portion,) = (p for p in plan.parts[0].portions if p.detail == "p")
        density = bench.wool_by_id["charcoal"].density("firm")
        assert portion.grams == pytest.approx((1 + mirrored) * cm3 * density, rel=0.01)
        bare = make_plan(head(), Brief(), bench)
        # It lies on the coat, which is as much as without it, and is of the head's own weight.
        coats = [
            next(p.grams for p in x.parts[0].portions if p.role == "coat") for x in (plan, bare)
        ]
        assert coats[0] == pytest.approx(coats[1])
        assert plan.wool_g == pytest.approx(bare.wool_g, rel=1e-6)


def keys(plan: Plan) -> list[str]:
    return [str(step.key) for step in plan.steps]


def test_face_is_laid_from_eyes_to_mouth_hair_last(bench: Bench) -> None:
    fur = fur_all_over(Fur(wool="reed", hair=20, spacing=12))
    figure = with_all(
        head(fur), *(p.id for p in PRESETS if p.id not in ("mouth-open", "mouth-straight"))
    )
    plan = make_plan(figure, Brief(), bench)
    at = {key.removeprefix("face:head:"): n for n, key in enumerate(keys(plan))}
    assert max(at["coat:head"], at["wait:eye"]) < min(
        at[k] for k in ("lid", "rim", "lash", "white", "pupil", "highlight")
    )
    assert at["white"] < at["pupil"] < at["highlight"]
    assert at["nose"] < at["nostril"] < at["nose-line"] < at["mouth"] < at["cheek"]
    pieces = [at[p.id] for p in figure.parts[0].places if p.face]
    assert at["brow"] == max(pieces) < at["fur:head:1"]
    assert Walker(plan, bench).walk() == ""
    for step in plan.steps:
        if step.key.sort == "face":
            sheet = sheet_for(plan, step, bench)
            assert len(sheet.card.how) >= 2 and sheet.drawing.pieces
            assert all("{" not in ENGLISH.say(line) for line in sheet.card.how)


def test_mouth_is_laid_on_snout_and_moves_by_its_ends(bench: Bench) -> None:
    figure, part, name = with_piece(
        load_demo(BADGER).figure, "head", "mouth-smile", "charcoal", "mouth"
    )
    assert part == "snout"
    again, part, _ = with_piece(figure, "snout", "cheeks", "madder", "cheeks")
    assert part == "head"  # the snout's face is the head's
    marks = {m.id: m for face in faces_of(place(again)) for m in face.marks if m.kind == "piece"}
    end = marks[f"piece:snout/{name}:2"]
    before = by_id(again, name).where
    moved = by_id(with_mark_at(again, end, (end.along - 0.05, end.around + 5)), name).where
    assert isinstance(before, Line) and isinstance(moved, Line)
    (a0, b0), middle, (a2, b2) = moved.way
    assert (a0, b0) == pytest.approx((a2, -b2)) and middle == before.way[1]
    assert b2 == pytest.approx(before.way[2][1] + 5)
    # A mouth of the same name on another part stays where it is.
    other = again.replaced(
        parts=tuple(
            p.replaced(places=(*p.places, by_id(again, name))) if p.id == "head" else p
            for p in again.parts
        )
    )
    both = with_mark_at(other, end, (0.5, 20.0))
    assert both.by_id["head"].places[-1].where == before != both.by_id["snout"].places[-1].where
    cheek = marks["piece:head/cheek:0"]
    spot = by_id(with_mark_at(again, cheek, (0.5, 40.0)), "cheek").where
    assert isinstance(spot, Line) and spot.way == ((0.5, 40.0),)


def test_expressions_lift_corners_of_mouth_and_lower_lids() -> None:
    figure = with_all(head(), "mouth-smile", "lid-calm")
    for name, up, lids in (("happy", 0.03, 0.025), ("sleepy", -0.01, -0.07)):
        change = with_expression(figure, Alteration(), EXPRESSION_BY_ID[name])
        new = altered(figure, change)
        was, now = by_id(figure, "mouth").where, by_id(new, "mouth").where
        assert isinstance(was, Line) and isinstance(now, Line)
        assert [b[0] - a[0] for a, b in zip(was.way, now.way, strict=True)] == pytest.approx(
            [up, 0, up]
        )
        was, now = by_id(figure, "lid").where, by_id(new, "lid").where
        assert isinstance(was, Line) and isinstance(now, Line)
        assert [b[0] - a[0] for a, b in zip(was.way, now.way, strict=True)] == pytest.approx(
            [lids] * 3
        )


def test_too_small_face_pieces_are_asked_about(bench: Bench) -> None:
    figure = with_all(head(), "mouth-smile", "lid-calm", "rims", "highlights", "brows")
    plan = make_plan(figure, Brief(), bench)
    assert not [n for n in plan.notices if n.code == "small-face:head"]
    small = Brief(height=30.0)  # eyes of 3 mm on a face of 30
    asked = next(n for n in make_plan(figure, small, bench).notices if n.code == "small-face:head")
    assert {o.id for o in asked.options} == set(PiecesAnswer)
    said = small.answered(SmallFace("head").code, PiecesAnswer.WITHOUT)
    left = make_plan(figure, said, bench)
    assert {p.id for p in left.resized.figure.parts[0].places} == {"mouth", "highlight", "brow"}
    assert not any(key in keys(left) for key in ("face:head:lid", "face:head:rim"))
    tiny = make_plan(figure, Brief(height=20.0).answered("small-face:head", "without"), bench)
    assert {p.id for p in tiny.resized.figure.parts[0].places} == {"mouth"}
    again = make_plan(figure, Brief(height=30.0).answered("small-face:head", "kept"), bench)
    assert "face:head:lid" in keys(again)


def test_larger_face_is_offered_what_it_wants(bench: Bench) -> None:
    figure = with_all(head(eye=10.0), "nose")
    for height, found in ((50.0, ()), (80.0, ("lid", "rim", "nostril", "brow"))):
        new = make_plan(figure, Brief(height=height), bench).resized.figure
        assert pieces_gained(new.parts[0], new.fittings, new.parts) == found
        assert too_small(new.parts[0], new.fittings, new.parts) == ()


@pytest.mark.parametrize("preset", PRESETS, ids=lambda p: p.id)
def test_every_piece_to_begin_with_lies_by_eyes_on_front(preset: object, bench: Bench) -> None:
    name = preset.id  # type: ignore[attr-defined]
    figure, part, id = with_piece(head(), "head", name, "charcoal", "piece")
    where = by_id(figure, id).where
    assert part == "head" and isinstance(where, Line)
    copy = own_copy(place(figure), "head")
    assert copy is not None
    for along, around in where.way:
        assert 0.05 < along < 0.95 and abs(around) < 75
        assert copy.point(along, around, 1.0)[1] < 0  # the face is at negative y
    plan = make_plan(figure, Brief(), bench)
    assert f"face:head:{id}" in keys(plan) and Walker(plan, bench).walk() == ""


def boxed(bench: Bench, eyes: dict[int, int]) -> Bench:
    """The bench with so many eyes of these sizes in the box."""
    for size, n in eyes.items():
        bench = with_shelved(bench, f"eyes:{size}", left=n)
    return bench


def test_eyes_in_box_are_counted_and_rest_is_to_buy(bench: Bench) -> None:
    figure = head(eye=5.0)
    for there, made, left in ((0, 1, 2), (1, 1, 1), (2, 1, 0), (2, 3, 4), (50, 3, 0)):
        plan = make_plan(figure, Brief(height=50.0, count=made), boxed(bench, {5: there}))
        assert (plan.fittings[0].have, plan.fittings[0].buy) == (there, left)
    other = make_plan(figure, Brief(height=100.0), boxed(bench, {5: 2, 12: 9}))
    assert other.fittings[0].use_mm == 10.0 and other.fittings[0].buy == 2
    assert boxed(boxed(bench, {5: 2}), {5: 0}).eyes_of(5.0) == 0


def test_face_pieces_teach_no_cover(bench: Bench) -> None:
    figure = with_all(head(), "mouth-smile", "cheeks")
    plan = make_plan(figure, Brief(), bench)
    assert "insets" not in plan.choices
    pieces = [w for w in weighings(plan) if w.portion.role == "inset"]
    assert len(pieces) == 2 and all(
        covered_skin(plan, bench, w.part, w.portion) is None for w in pieces
    )

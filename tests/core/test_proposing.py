"""The parts of a figure proposed from its pictures: drawn by formula, and of figures whose truth is known."""

from __future__ import annotations

import math
from functools import cache

import cv2
import numpy as np
import pytest

from bambola.core.facts import RefusedError
from bambola.core.figure import Ball, Brief, Joint, Limb, Part, Rope, Seat, Sight, Tilt
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.document import dump_document, load_document
from bambola.core.figure.graft import with_part
from bambola.core.figure.places import Outline
from bambola.core.plan import make_plan
from bambola.core.plan.reading.assembling import hull_mm3, with_skeleton
from bambola.core.plan.reading.candidates import found_in
from bambola.core.plan.reading.likeness import likest_plan
from bambola.core.plan.reading.proposing import Proposal, propose_figure
from bambola.core.plan.reading.starting import start_from_pictures
from bambola.core.plan.reading.tracing import as_agreed, not_a_part
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.build import origin_of
from bambola.core.sight.explaining import CopyOutline as Run
from bambola.core.sight.explaining import coarse_view, from_near, outlines_of
from bambola.core.sight.framing import symmetry
from bambola.core.sight.light import evenly_lit
from bambola.core.sight.regions import MOST_REGIONS, find_regions
from bambola.core.sight.silhouette import (
    CancelledError,
    Pixels,
    Silhouette,
    separate_silhouette,
    widen_mask,
)
from bambola.core.solids import measure_solids, place
from bambola.core.wool.colour import lab_of
from bambola.language import part_name
from bambola.shipped import body_plans, default_bench
from benchmarks.proposing import scored, seen_in
from benchmarks.sitters import SETTINGS, photographed, sitter, whole_height
from tests.effort import some, tries

PX = 4.0
"""Pixels a millimetre of the drawn pictures."""
HEIGHT = 120.0
RED, CREAM, DARK, BROWN = (150, 45, 38), (225, 215, 195), (45, 42, 48), (105, 66, 44)
Round = tuple[float, float, float, float, tuple[int, int, int]]
BODY: Round = (0, 50, 25, 30, RED)
FRONT: list[Round] = [
    (-12, 12, 6, 12, BROWN), (12, 12, 6, 12, BROWN),
    (-30, 52, 6, 20, CREAM), (30, 52, 6, 20, CREAM),
    BODY,
    (-16, 112, 7, 8, DARK), (16, 112, 7, 8, DARK),
    (0, 96, 20, 20, CREAM), (0, 92, 6, 5, DARK),
]  # fmt: skip
"""Rounds of a doll from the front, those behind first: middle (u, v), half sizes, colour; mm."""
SIDE: list[Round] = [
    (0, 12, 7, 12, BROWN), (0, 50, 20, 30, RED), (2, 112, 4, 8, DARK), (0, 96, 19, 20, CREAM),
    (-19, 92, 5, 5, DARK), (0, 52, 6, 20, CREAM),
]  # fmt: skip


def painted(rounds: list[Round], askew: float = 0.0) -> Pixels:
    """Rounds shaded as felt is, on a pale ground."""
    dice = np.random.default_rng(4)
    rows, columns = 620, 560
    picture = np.full((rows, columns, 3), 236.0)
    y, x = np.mgrid[0:rows, 0:columns]
    u, v = (x + 0.5 - columns / 2) / PX, (rows - 60 - y - 0.5) / PX
    for u0, v0, wide, tall, colour in rounds:
        far = ((u - u0) / wide) ** 2 + ((v - v0) / tall) ** 2
        inside = far <= 1
        light = 0.62 + 0.4 * np.sqrt(np.maximum(1 - far, 0)) - 0.1 * (u - u0) / wide
        picture[inside] = (np.array(colour) * light[..., None])[inside]
    picture += dice.normal(0, 5, picture.shape)
    if askew:
        turn = cv2.getRotationMatrix2D((columns / 2, rows / 2), askew, 1.0)
        picture = cv2.warpAffine(picture, turn, (columns, rows), borderValue=(236, 236, 236))
    return np.asarray(np.clip(picture, 0, 255), dtype=np.uint8)


def among(name: str) -> tuple[BodyPlan, ...]:
    """The body plan of a name with another that it is told from, or with all others."""
    plans = body_plans()
    own = [plan for plan in plans if plan.figure.name == name]
    return (*own, *some([plan for plan in plans if plan not in own], 1))


@cache
def doll(askew: float = 0.0) -> tuple[dict[Sight, DividedPicture], Proposal]:
    views: dict[Sight, DividedPicture] = {
        "front": seen_in("front", painted(FRONT, askew), HEIGHT),
        "side": seen_in("side", painted(SIDE), HEIGHT),
    }
    return views, propose_figure(views, HEIGHT, default_bench(), "Doll", part_name)


def at(found: Proposal, u: float, v: float) -> str:
    """The proposed part whose line from the front passes nearest to a place."""
    lines = [t for t in found.survey.traces if t.view == "front"]
    middles = {t.part: np.mean([t.points[0], t.points[-1]], axis=0) for t in lines}
    return min(
        middles, key=lambda part: math.dist((abs(middles[part][0]), middles[part][1]), (u, v))
    )


@pytest.mark.parametrize("askew", some([0.0, 5.0], 1))
def test_doll_is_found_with_pairs_and_bearers(askew: float) -> None:
    _, found = doll(askew)
    parts = found.figure.by_id
    body, head, arm, leg, ear, nose = (
        at(found, *place) for place in ((0, 50), (0, 96), (30, 52), (12, 12), (16, 114), (0, 92))
    )
    assert parts[body].parent is None
    assert {parts[p].parent for p in (head, arm, leg)} == {body}
    assert {parts[p].parent for p in (ear, nose)} == {head}
    assert [parts[p].pair for p in (arm, leg, ear)] == [True] * 3
    assert not parts[head].pair and not parts[nose].pair
    assert parts[head].name == "Head" and parts[leg].name == "Leg"
    assert len(parts) == 6 and set(found.sure) == set(parts)


def test_sizes_and_wools_are_those_of_picture() -> None:
    views, found = doll()
    head = found.figure.by_id[at(found, 0, 96)]
    measures = head.shape.measures()
    assert measures["width"] == pytest.approx(40, rel=0.08)
    assert measures["depth"] == pytest.approx(38, rel=0.08)
    wools = {w.id: w.name for w in default_bench().wools}
    coats = {p: wools[found.figure.by_id[p].coat.wool] for p in found.figure.by_id}  # type: ignore[union-attr]
    assert coats[at(found, 0, 50)].startswith("Madder") and coats[head.id].startswith("Cream")
    # Each level of the hull is an ellipse: those of two balls and a body, worked out apart.
    rows = np.arange(0.5, 120, 0.5)
    wide, deep = (np.array([_span(rounds, v) for v in rows]) for rounds in (FRONT, SIDE))
    assert hull_mm3(views) == pytest.approx(math.pi / 4 * (wide * deep).sum() * 0.5, rel=0.06)


def _span(rounds: list[Round], v: float) -> float:
    """How much of a level is felt, mm."""
    u = np.linspace(-60, 60, 4801)
    felt = np.zeros(len(u), dtype=bool)
    for u0, v0, wide, tall, _ in rounds:
        felt |= ((u - u0) / wide) ** 2 + ((v - v0) / tall) ** 2 <= 1
    return float(felt.sum() * (u[1] - u[0]))


def test_what_is_proposed_can_be_planned_and_agreed_with() -> None:
    _, found = doll()
    figure, survey = found.figure, found.survey
    head, ear, nose = (at(found, *place) for place in ((0, 96), (16, 114), (0, 92)))
    assert make_plan(figure, load_document(_as_text(found), "doll").brief, default_bench()).steps
    named, noted = as_agreed(figure, survey, nose, "Beak", "cone", head, False)
    assert named.by_id[nose].name == "Beak" and named.by_id[nose].shape.kind == "cone"
    assert noted.traces == survey.traces
    bare, left = not_a_part(figure, survey, head)
    assert head not in bare.by_id and not left.traces_of(head)
    assert bare.by_id[ear].parent == figure.parts[0].id
    assert as_agreed(figure, survey, ear, *_as_it_is(figure.by_id[ear])) == (figure, survey)
    with pytest.raises(RefusedError):
        not_a_part(figure, survey, figure.parts[0].id)


def _as_it_is(part: object) -> tuple[str, str, str | None, bool]:
    return part.name, part.shape.kind, part.parent, part.pair  # type: ignore[attr-defined]


def _as_text(found: Proposal) -> str:
    from bambola.core.figure import Brief
    from bambola.core.figure.document import dump_document

    return dump_document(found.figure, Brief(), found.survey)


def test_one_picture_is_enough_and_none_is_refused() -> None:
    views, _ = doll()
    front = propose_figure({"front": views["front"]}, HEIGHT, default_bench(), "Doll", part_name)
    assert sum(part.pair for part in front.figure.parts) == 3
    side = propose_figure({"side": views["side"]}, HEIGHT, default_bench(), "Doll", part_name)
    assert len(side.figure.parts) >= 3 and place(side.figure).height == pytest.approx(
        HEIGHT, rel=0.1
    )
    with pytest.raises(RefusedError):
        propose_figure({}, HEIGHT, default_bench(), "Doll", part_name)
    with pytest.raises(CancelledError):
        propose_figure(views, HEIGHT, default_bench(), "Doll", part_name, lambda share: share < 0.3)


@pytest.mark.parametrize("askew", [-6.0, 0.0, 3.0])
def test_midline_is_found_however_picture_is_askew(askew: float) -> None:
    lantern: Round = (40, 30, 8, 10, DARK)
    (x, y), turn = symmetry(separate_silhouette(painted([*FRONT, lantern], askew)))
    assert turn == pytest.approx(-askew, abs=1.01)
    angle = math.radians(askew)
    # The upright midline through the middle of the picture, turned as the picture was.
    along = np.array([math.sin(angle), math.cos(angle)])
    off = np.array([x - 280, y - 310])
    assert abs(off[0] * along[1] - off[1] * along[0]) < 6


def test_regions_divide_at_colours_necks_and_limbs() -> None:
    y, x = np.mgrid[0:400, 0:400]
    balls = [(200, 120, 60), (200, 260, 90)]
    mask = np.zeros((400, 400), dtype=bool)
    for u, v, r in balls:
        mask |= (x - u) ** 2 + (y - v) ** 2 < r**2
    mask |= (abs(y - 260) < 16) & (x > 200) & (x < 380)
    picture = np.full((400, 400, 3), 240, dtype=np.uint8)
    picture[mask] = (140, 60, 50)
    cover = mask.astype(np.float32)
    whole = Silhouette(cover, np.ones_like(cover), 1.0, 1.0)
    assert find_regions(picture, whole).count == 3
    picture[(x - 200) ** 2 + (y - 120) ** 2 < 15**2] = (30, 30, 40)
    assert find_regions(picture, whole).count == 4
    # Light that falls off over a round part does not part it.
    lit = np.clip(picture * (1.1 - 0.5 * x / 400)[..., None], 0, 255).astype(np.uint8)
    assert find_regions(lit, whole).count == 4


@pytest.mark.parametrize("name", some(["Fish or whale", "Crawler with a shell"], 1))
def test_figure_like_plan_gets_its_parts(
    name: str,
) -> None:
    bench = default_bench()
    figure, plans = sitter(name, bench), among(name)
    views: tuple[Sight, ...] = ("front", "side")
    taken = {view: photographed(figure, view, SETTINGS["plain"], bench) for view in views}
    height = whole_height(figure)
    seen_by = {view: seen_in(view, one.pixels, height) for view, one in taken.items()}
    found = propose_figure(seen_by, height, bench, "Mine", part_name, plans=plans)
    score = scored(figure, taken, found)
    assert found.like == name and set(found.figure.by_id) == set(figure.by_id)
    assert score.right == score.parts and score.as_pairs == score.pairs
    assert score.volume == pytest.approx(1.0, abs=0.15)
    assert whole_height(found.figure) == pytest.approx(whole_height(figure), rel=0.01)
    assert {found.survey.how_taken("body", name) for name in figure.parts[0].shape.measures()} == {
        "picture"
    }
    # A picture of its other side is turned, and tells the same.
    mirrored = {**seen_by, "side": seen_in("side", taken["side"].pixels[:, ::-1].copy(), height)}
    turned = propose_figure(mirrored, height, bench, "Mine", part_name, plans=plans)
    sides = [survey.framing("side") for survey in (found.survey, turned.survey)]
    assert [side and side.flipped for side in sides] == [False, True]
    assert turned.like == name and scored(figure, taken, turned).right == score.parts


def test_makers_word_is_taken_for_what_it_is_like() -> None:
    """However little it is like that."""
    bench, (seen, _) = default_bench(), doll()
    bird = next(plan for plan in body_plans() if plan.figure.id == "bird")
    told = propose_figure(seen, HEIGHT, bench, "Mine", part_name, plans=(bird,))
    assert told.like == bird.figure.name and told.figure.name == "Mine"
    assert {"body", "wing", "tail"} <= set(told.figure.by_id) == set(told.sure)
    assert load_document(dump_document(told.figure, Brief()), "mine").figure == told.figure
    assert make_plan(told.figure, Brief(), bench).wool_g


def test_proposal_adds_and_drops_parts_of_plan() -> None:
    """The plan of a doll has hair and a bun and no ears; this one has ears, of another colour, and no bun."""
    views, _ = doll()
    found = propose_figure(
        views, HEIGHT, default_bench(), "Doll", part_name, lambda s: True, among("Two-legged doll")
    )
    parts = found.figure.by_id
    assert found.like == "Two-legged doll" and "bun" not in parts
    plan = next(plan for plan in body_plans() if plan.figure.id == "two-legged-doll")
    assert {"body", "head", "arm", "leg"} <= set(parts) == set(found.sure)
    (ear,) = (part for part in found.figure.parts if part.id not in plan.figure.by_id)
    assert ear.pair and ear.parent == "head"
    wools = default_bench().wool_by_id
    for part, colour in ((ear, "#2d2a30"), (parts["body"], "#962d26")):
        coat = part.coat
        assert coat is not None
        assert math.dist(lab_of(wools[coat.wool].colour), lab_of(colour)) < 30
    assert make_plan(found.figure, Brief(), default_bench()).wool_g


def test_picture_from_above_says_how_deep_figure_is() -> None:
    """From however far it was taken: what the front and it show is as broad."""
    bench = default_bench()
    figure = sitter("Fish or whale", bench)
    height, plans = whole_height(figure), [p for p in body_plans() if p.figure.id == "whale"]
    views: tuple[Sight, ...] = ("front", "top")
    taken = {v: photographed(figure, v, SETTINGS["plain"], bench).pixels for v in views}
    taken["top"] = np.asarray(cv2.resize(taken["top"], None, fx=0.6, fy=0.6), dtype=np.uint8)
    seen = {view: seen_in(view, pixels, height) for view, pixels in taken.items()}
    true = figure.parts[0].shape.measures()["length"]
    lengths = []
    alone: dict[Sight, DividedPicture] = {"front": seen["front"]}
    for shown in (alone, seen):
        found = propose_figure(shown, height, bench, "Mine", part_name, plans=plans)
        lengths.append(found.figure.parts[0].shape.measures()["length"])
    assert lengths[1] == pytest.approx(true, rel=0.07)
    assert lengths[0] < 0.9 * true  # the front alone leaves it as the plan has it


def test_near_camera_is_noticed() -> None:
    bench = default_bench()
    figure = sitter("Crawler with a shell", bench)
    height, plans = whole_height(figure), [p for p in body_plans() if p.figure.id == "crawler"]
    views: tuple[Sight, ...] = ("front", "side")
    taken = {v: photographed(figure, v, SETTINGS["0.6 m away"], bench) for v in views}
    seen = {view: seen_in(view, one.pixels, height) for view, one in taken.items()}
    found = propose_figure(seen, height, bench, "Mine", part_name, plans=plans)
    assert scored(figure, taken, found).volume == pytest.approx(1.0, abs=0.1)  # 0.78 as from afar
    # Two boards of one size, one 100 mm behind the other, by similar triangles.
    board = np.array([[-10.0, 0.0], [10.0, 0.0], [10.0, 40.0], [-10.0, 40.0]])
    boards = [Run(0, 50.0, 50.0, board), Run(1, -50.0, -50.0, board)]
    near, far = (one.run for one in from_near(boards, 300.0, 40.0))
    assert np.ptp(near, axis=0) == pytest.approx((20.0, 40.0)) and near[:, 1].min() == 0
    assert np.ptp(far, axis=0) == pytest.approx((20.0 * 250 / 350, 40.0 * 250 / 350))


def test_figure_unlike_plans_is_built_from_regions() -> None:
    views, apart = doll()
    whale = tuple(plan for plan in body_plans() if plan.figure.id in ("whale", "bird"))
    found = propose_figure(views, HEIGHT, default_bench(), "Doll", part_name, plans=whale)
    assert not found.like and found.figure == apart.figure
    with pytest.raises(CancelledError):
        likest_plan(views, body_plans(), HEIGHT, lambda share: share < 0.2)


def test_adjacent_limbs_are_divided_on_both_sides() -> None:
    """A squat toad on a busy ground: arm and thigh, of one colour, lie before its body."""
    toad = sitter("Garden toad")
    views: dict[Sight, DividedPicture] = {
        view: seen_in(
            view, photographed(toad, view, SETTINGS["busy"], default_bench()).pixels, HEIGHT
        )
        for view in ("front", "side")
    }
    views, found = found_in(views)
    front, side = (views[view].blobs for view in ("front", "side"))
    whole = sum(blob.area for blob in front.values())
    aside = [
        n for n, b in front.items() if b.area > 0.04 * whole and abs(b.centre[0]) > b.across / 2
    ]
    in_pairs = [n for c in found if c.pair for n in c.seen.get("front", ())]
    assert len(aside) >= 4 and set(aside) <= set(in_pairs)
    bulk = max(side.values(), key=lambda blob: blob.area)
    (trunk,) = (c for c in found if bulk.number in c.seen.get("side", ()))
    assert not trunk.pair and abs(front[trunk.seen["front"][0]].centre[0]) < 10


@pytest.mark.parametrize("on_pair", [False, True])
def test_only_drooping_parts_are_wired(on_pair: bool) -> None:
    """Legs from toe to toe through the trunk; a twig on each, or a tail, by itself; stout arms not."""

    def limb(id: str, long: float, thick: float, parent: str, pair: bool, along: float) -> Part:
        ends = ((0.0, 0.0), (0.0, long))
        joints = tuple(Joint(x=x, y=0, z=z, diameter=thick) for x, z in ends)
        seat = Seat(along=along, around=90.0, tilt=Tilt(lean=30.0))
        return Part(
            id=id, name=id.capitalize(), parent=parent, pair=pair, core="cream", seat=seat,
            shape=Limb(joints=joints),
        )  # fmt: skip

    bench = default_bench()
    figure = start_from_pictures(100.0, bench, "Stalker", "Body")
    body = figure.parts[0].id
    thin = (
        limb("twig", 40, 5, "leg", False, 1.0) if on_pair else limb("tail", 60, 6, body, False, 0.5)
    )
    for part in (limb("leg", 80, 9, body, True, 0.2), limb("arm", 30, 9, body, True, 0.8), thin):
        figure = with_part(figure, part)
    wired = with_skeleton(figure)
    nodes = {node.id: (node.part, node.side, node.along) for node in wired.nodes}
    routes = [[nodes[name] for name in wire.route] for wire in wired.wires]
    (heart,) = (node for node in routes[0] if node[0] == body)
    leg = [
        ("leg", side, along)
        for side, along in (("left", 1), ("left", 0), ("right", 0), ("right", 1))
    ]
    assert routes[0] == [*leg[:2], heart, *leg[2:]]
    ends = [("twig", s) for s in ("left", "right")] if on_pair else [("tail", None)]
    assert [route[-1] for route in routes[1:]] == [(*end, 1) for end in ends]
    assert [route[0][:2] for route in routes[1:]] == (
        [("leg", "left"), ("leg", "right")] if on_pair else [(body, None)]
    )
    asked = {notice.code for notice in make_plan(wired, Brief(), bench).notices}
    drooped = {notice.code for notice in make_plan(figure, Brief(), bench).notices}
    assert {n for n in drooped if n.startswith("droop")} == {"droop:leg", f"droop:{thin.id}"}
    assert not any(n.startswith("droop") for n in asked)
    assert with_skeleton(wired) == wired


def test_other_figures_explain_less_of_picture() -> None:
    """One disc of one colour: what is unexplained is the area of one outline alone, worked out by hand."""
    flat = np.full((620, 560, 3), 236, dtype=np.uint8)
    cv2.ellipse(flat, (280, 310), (120, 200), 0.0, 0.0, 360.0, RED, -1)
    seen = seen_in("front", flat, 100.0)
    view = coarse_view(seen, 100.0)

    def left(wide: float, tall: float) -> float:
        ball = Ball(width=wide, depth=wide, height=tall)
        figure = start_from_pictures(100.0, default_bench(), "Egg", "Body")
        placed = place(with_part(figure, figure.parts[0].replaced(shape=ball)))
        return view.unexplained(view.owners(outlines_of(placed, "front", placed.ground, 1.0)))

    same = left(60.0, 100.0)
    assert same < 0.04
    for wide in (45.0, 75.0):
        assert left(wide, 100.0) - same == pytest.approx(abs(wide / 60 - 1), abs=0.03)


@pytest.mark.parametrize("across", [True, False])
def test_light_from_one_side_is_evened_out(across: bool) -> None:
    plain = painted(FRONT)
    true = separate_silhouette(plain).cover > 0.5
    share = np.linspace(0, 1, plain.shape[1 if across else 0])
    share = share[None, :, None] if across else share[:, None, None]
    lit = np.asarray(plain * (1.0 - 0.65 * share) * (1.0, 0.92, 0.75), dtype=np.uint8)
    found = separate_silhouette(lit).cover > 0.5
    assert (found & true).sum() > 0.97 * (found | true).sum()
    even, wall = evenly_lit(lit).astype(float), ~widen_mask(true, 12)
    strays = [np.abs(one[wall] - np.median(one[wall], axis=0)).mean() for one in (even, lit)]
    assert strays[0] < 0.25 * strays[1]
    # What a warm lamp shows is told in its own colours, and of a wall that is blue by itself as it is.
    felt = [
        one[true].astype(float).mean(axis=0) for one in (plain, evenly_lit(lit, white=True), lit)
    ]
    tints = [colour / felt[0] for colour in felt[1:]]
    assert tints[0].max() < 1.05 * tints[0].min() and tints[1].max() > 1.25 * tints[1].min()
    blue = np.asarray(lit * (0.4, 0.6, 1.0), dtype=np.uint8)
    red, _, deep = np.median(evenly_lit(blue, white=True)[wall], axis=0)
    assert deep > 1.6 * red
    assert evenly_lit(plain) is plain  # that much of the noise is no light
    tiles = np.random.default_rng(1).integers(20, 230, (12, 9, 3)).astype(np.uint8)
    room = cv2.resize(tiles, plain.shape[1::-1], interpolation=cv2.INTER_NEAREST)
    room = np.asarray(room * (1.0 - 0.65 * share), dtype=np.uint8)
    assert evenly_lit(room) is room


@pytest.mark.parametrize("colour", [(196, 194, 190), (150, 148, 146), (120, 40, 36)])
@pytest.mark.parametrize("lit", [0.0, 0.65])
def test_soft_shadow_is_told_from_felt(colour: tuple[int, int, int], lit: float) -> None:
    dice, (rows, columns) = np.random.default_rng(2), (600, 420)
    y, x = np.mgrid[0:rows, 0:columns].astype(np.float32)
    true = (((x - 170) / 60) ** 2 + ((y - 300) / 200) ** 2 < 1) | (np.hypot(x - 170, y - 130) < 75)
    moved = np.roll(true, (12, 40), axis=(0, 1)).astype(np.float32)
    shadow = 1 - 0.35 * cv2.GaussianBlur(moved, (0, 0), 12)
    wool = cv2.GaussianBlur(dice.normal(0, 60, true.shape), (0, 0), 1.5)
    wall = 215.0 * shadow[..., None] * (1.0, 0.99, 0.97)
    felt = np.array(colour, dtype=float) + wool[..., None]
    picture = np.where(true[..., None], felt, wall) * (1 - lit * x / columns)[..., None]
    picture += dice.normal(0, 2.5, picture.shape)
    found = separate_silhouette(np.asarray(np.clip(picture, 0, 255), dtype=np.uint8)).cover > 0.5
    assert (found & true).sum() > 0.96 * (found | true).sum()


def test_pattern_of_thousand_colours_is_no_thousand_parts() -> None:
    """A mosaic was taken apart for minutes, into hundreds of regions."""
    tiles = np.random.default_rng(1).integers(0, 255, (tries(160), tries(160), 3)).astype(np.uint8)
    picture = cv2.resize(tiles, (400, 400), interpolation=cv2.INTER_NEAREST)
    y, x = np.mgrid[0:400, 0:400]
    cover = ((x - 200) ** 2 + (y - 200) ** 2 < 180**2).astype(np.float32)
    whole = Silhouette(cover, np.ones_like(cover), 1.0, 1.0)
    found = find_regions(np.asarray(picture, dtype=np.uint8), whole)
    assert 1 <= found.count <= MOST_REGIONS


@pytest.mark.parametrize("half", some([19, 24], 1))
def test_scarf_is_ring_round_neck_and_nothing_sits_on_it(half: float) -> None:
    green = (40, 105, 70)
    views: dict[Sight, DividedPicture] = {
        "front": seen_in("front", painted([*FRONT, (0, 78, half, 4.5, green)]), HEIGHT),
        "side": seen_in("side", painted([*SIDE, (0, 78, half - 1, 4.5, green)]), HEIGHT),
    }
    found = propose_figure(views, HEIGHT, default_bench(), "Mine", part_name)
    (ring,) = (p for p in found.figure.parts if isinstance(p.shape, Rope) and p.shape.closed)
    assert ring.garment is not None and ring.parent == found.figure.parts[0].id
    assert all(part.parent != ring.id for part in found.figure.parts)
    copy = place(found.figure).copies_of(ring.id)[0]
    left, right = copy.reaches(np.array([[1.0, 0, 0], [-1.0, 0, 0]]))
    assert left + right == pytest.approx(2 * half, abs=2.5)
    middle = copy.matrix[2, 3] + origin_of(found.figure, found.survey)[2]
    assert middle == pytest.approx(78, abs=5)


@pytest.mark.parametrize("wool", some(["madder", "weld"], 1))
def test_patch_is_laid_where_and_as_pictures_show_it(wool: str) -> None:
    bench = default_bench()
    bird = sitter("Bird", bench)
    body = bird.by_id["body"]
    (breast,) = body.places
    dyed = bird.replaced(
        parts=(body.replaced(places=(breast.replaced(wool=wool),)), *bird.parts[1:])
    )
    views: dict[Sight, DividedPicture] = {
        view: seen_in(
            view, photographed(dyed, view, SETTINGS["plain"], bench).pixels, whole_height(bird)
        )
        for view in ("front", "side")
    }
    found = propose_figure(views, whole_height(bird), bench, "Mine", part_name, plans=among("Bird"))
    made = found.figure.by_id["body"]
    assert made.coat is not None and made.coat.wool == "reed"
    (patch,) = made.places
    assert patch.wool == wool and isinstance(patch.where, Outline)
    drawn, seen = (
        next(
            solid.patches_mm2[0]
            for copy, solid in zip(place(of).copies, measure_solids(of).measured, strict=True)
            if copy.part.id == "body"
        )
        for of in (dyed, found.figure)
    )
    assert seen == pytest.approx(drawn, rel=0.3)

"""The order and the cards as makers have them: figures that each have what goes wrong easily."""

from __future__ import annotations

import pytest

from bambola.core.bench import Bench, Wool
from bambola.core.facts import Grams, fact
from bambola.core.figure import (
    Bone,
    Brief,
    Coat,
    Figure,
    Fitting,
    Fur,
    Garment,
    Joint,
    Leaf,
    Limb,
    Part,
    Place,
    Seat,
    Tilt,
)
from bambola.core.figure import Piece as FittingPiece
from bambola.core.figure.document import dump_document, load_document
from bambola.core.figure.places import Band, Line, fur_all_over
from bambola.core.methods import card_for
from bambola.core.methods.alike import alike_amount, alike_rows, alike_steps, alike_title
from bambola.core.plan import Plan, make_plan
from bambola.demo import BADGER, load_demo
from bambola.shipped import default_bench
from tests.core.walker import Walker
from tests.figures import arm_on_post, ball, figure_of, patch
from tests.said import said

SHEET = Leaf(length=30.0, width=18.0, thickness=3.5)
LOCKS = Fur(wool="reed", spacing=8.0, hair=16.0)


def keys(plan: Plan) -> list[str]:
    return [str(step.key) for step in plan.steps]


def told(plan: Plan, key: str, bench: Bench) -> str:
    step = next(step for step in plan.steps if step.key == key)
    card = card_for(plan, step, bench)
    return " ".join(said(one) for one in (*card.how, card.start, card.until))


def headed(*more: Part, fittings: tuple[Fitting, ...] = (), **head: object) -> Figure:
    """A body with a head, and what sits on it."""
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
    skull = Part(id="head", name="Head", parent="body", shape=ball(45), core="core-batt",
                 coat=Coat(wool="cream"), seat=Seat(along=1.0, sink=8.0), **head)  # fmt: skip
    return figure_of(body, skull, *more, fittings=fittings)


def eye(**more: object) -> Fitting:
    return Fitting.model_validate({
        "id": "eye", "name": "Eyes", "kind": "eye", "part": "head", "pair": True, "glued": True,
        "seat": Seat(along=0.6, around=25), "size": 4.0, "follows": "ready-made",
        "pieces": (FittingPiece(shape=ball(4)),), **more,
    })  # fmt: skip


BELLY = patch("belly", "weld", ((-0.7, -0.7), (0.7, -0.7), (0.7, 0.7), (-0.7, 0.7)))
SWIRL = Place(
    id="swirl", wool="madder", where=Line(way=((0.4, -20), (0.5, 0), (0.6, 20)), wide=3.0)
)
SPOT = Place(id="spot", wool="woad", where=Line(way=((0.5, 180),), wide=10.0))


@pytest.mark.parametrize("school", ["on top", "first"])
def test_of_two_places_that_overlap_lower_is_laid_first(bench: Bench, school: str) -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"),
                places=(BELLY, SWIRL, SPOT))  # fmt: skip
    plan = make_plan(figure_of(body), Brief().schooled("insets", school), bench)
    at = keys(plan).index
    assert at("inset:body:belly") < at("inset:body:swirl")
    why = {w.rule for w in plan.steps[at("inset:body:swirl")].why}
    spot = {w.rule for w in plan.steps[at("inset:body:spot")].why}
    assert "lower-place-first" in why and "lower-place-first" not in spot
    assert Walker(plan, bench).walk() == ""


def test_face_is_finished_in_hand(bench: Bench) -> None:
    """Snout, nose, eyes, mouth and cheeks are on before the head is joined; or what is drawn waits."""
    snout = Part(id="snout", name="Snout", parent="head", shape=ball(16), core="core-batt", face=True,
                 coat=Coat(wool="cream"), seat=Seat(along=0.45, sink=5.0, tilt=Tilt(nod=90)))  # fmt: skip
    cheek = Place(
        id="cheek",
        wool="madder",
        face="cheek",
        where=Line(way=((0.4, 35),), wide=9.0, mirrored=True),
    )
    brow = Place(
        id="brow", wool="charcoal", face="brow", where=Line(way=((0.8, 10), (0.8, 40)), wide=1.5)
    )
    figure = headed(snout, places=(cheek, brow), fittings=(eye(),))
    solid = ["mark:head", "join:snout", "socket:eye", "fit:eye", "wait:eye"]
    drawn = ["face:head:cheek", "face:head:brow"]
    for school, before in (("before", [*solid, *drawn]), ("eyes first", solid), ("after", [])):
        plan = make_plan(figure, Brief().schooled("face", school), bench)
        order = keys(plan)
        joined = order.index("join:head")
        for key in (*solid, *drawn):
            assert (order.index(key) < joined) == (key in before), (school, key)
        assert Walker(plan, bench).walk() == ""
    usual = make_plan(figure, Brief(), bench)
    soft = told(usual, "face:head:cheek", bench)
    assert "fluff" in soft and "proud" not in soft and "firm" not in soft
    assert not [key for key in keys(usual) if key == "blend:snout"]


def test_clay_eyes_are_made_first_of_all(bench: Bench) -> None:
    plan = make_plan(headed(fittings=(eye(glued=False, fixed="clay"),)), Brief(), bench)
    order = keys(plan)
    assert order[0] == "pattern:eye" and order.index("socket:eye") < order.index("fit:eye")
    assert "days" in told(plan, "pattern:eye", bench) and "clay" not in told(plan, "fit:eye", bench)
    assert Walker(plan, bench).walk() == ""


def test_fleece_waits_for_what_skin_still_takes(bench: Bench) -> None:
    snout = Part(id="snout", name="Snout", parent="head", shape=ball(14), core="core-batt", face=True,
                 seat=Seat(along=0.45, sink=5.0, tilt=Tilt(nod=90)))  # fmt: skip
    ear = Part(id="ear", name="Ear", parent="head", shape=SHEET, core="cream", pair=True,
               seat=Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=60)))  # fmt: skip
    figure = headed(snout, ear, places=(fur_all_over(LOCKS),), fittings=(eye(),))
    plan = make_plan(figure, Brief(), bench)
    order = keys(plan)
    first = order.index("fur:head:1")
    for key in ("join:snout", "join:ear", "fit:eye", "wait:eye", "mark:head"):
        assert order.index(key) < first, key
    assert Walker(plan, bench).walk() == ""


@pytest.mark.parametrize(("school", "lie", "waiting"), [
    ("on the pad", "tip", 1), ("on the pad", "base", None), ("after joining", "tip", None),
])  # fmt: skip
def test_ear_has_its_fur_on_pad_but_for_last_row(
    bench: Bench, school: str, lie: str, waiting: int | None
) -> None:
    """Hair that hangs over the join is laid when that is made."""
    ear = Part(id="ear", name="Ear", parent="head", shape=SHEET, core="cream", pair=True,
               places=(fur_all_over(LOCKS.replaced(lie=lie)),),
               seat=Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=60)))  # fmt: skip
    plan = make_plan(headed(ear), Brief().schooled("fur on parts", school), bench)
    order = keys(plan)
    rows = [key for key in order if key.startswith("fur:ear")]
    early = [key for key in rows if order.index(key) < order.index("join:ear")]
    assert len(rows) > 2 and early == (rows[:-waiting] if waiting else [])
    assert Walker(plan, bench).walk() == ""


def test_join_card_says_slit_or_spokes_and_never_both(bench: Bench) -> None:
    thin = Part(id="ear", name="Ear", parent="head", shape=SHEET, core="cream", pair=True,
                seat=Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=60)))  # fmt: skip
    thick = thin.replaced(shape=SHEET.replaced(thickness=6.0))
    for ear, is_slit in ((thin, True), (thick, False)):
        card = told(make_plan(headed(ear), Brief(), bench), "join:ear", bench)
        assert ("slit" in card, "spokes" in card) == (is_slit, not is_slit)


@pytest.mark.parametrize(("wool", "is_blended"), [("cream", True), ("charcoal", False)])
def test_only_seam_within_one_colour_is_blended(bench: Bench, wool: str, is_blended: bool) -> None:
    behind = Seat(along=0.2, around=180, sink=6, tilt=Tilt(nod=-90))
    tail = Part(id="tail", name="Tail", parent="body", shape=ball(20), core="core-batt",
                coat=Coat(wool=wool), seat=behind)  # fmt: skip
    plan = make_plan(headed(tail), Brief(), bench)
    assert ("blend:tail" in keys(plan)) == is_blended
    assert ("line" in told(plan, "join:tail", bench)) == (not is_blended)
    assert Walker(plan, bench).walk() == ""


@pytest.mark.parametrize(("more", "word"), [
    ({"glued": True}, "dent"), ({"glued": False, "fixed": "sewn"}, "thread"),
    ({"glued": False, "fixed": "pinned"}, "hole"),
])  # fmt: skip
def test_what_is_no_eye_has_no_eye_words(bench: Bench, more: dict[str, object], word: str) -> None:
    flower = eye(id="flower", name="Flower", kind="prop", pair=False, **more)
    plan = make_plan(headed(fittings=(flower,)), Brief(), bench)
    card = told(plan, "fit:flower", bench)
    assert word in card and not any(one in card for one in ("shank", "band", "eye", "rim"))


def test_flat_feet_are_not_joined_to_each_other(bench: Bench) -> None:
    foot = Part(id="foot", name="Foot", parent="body", shape=Leaf(length=30, width=24, thickness=8),
                core="cream", pair=True, seat=Seat(along=0.02, around=40, tilt=Tilt(nod=95)))  # fmt: skip
    plan = make_plan(headed(foot), Brief().schooled("ears", "pair first"), bench)
    assert "pair:foot" not in keys(plan)


def test_fleece_on_small_sheep_takes_twenty_minutes(bench: Bench) -> None:
    """An animal of 80 mm wears 25 to 40 bundles, pressed on in half a minute to a minute each."""
    fleece = Place(id="fleece", fur=LOCKS, where=Band(begin=0.05, end=1.0))
    body = Part(id="body", name="Body", shape=ball(58), core="core-batt", places=(fleece,))
    plan = make_plan(figure_of(body), Brief(), bench)
    minutes = sum(step.minutes for step in plan.steps if step.kind == "fur row")
    assert minutes == pytest.approx(20, rel=0.4)


def test_ears_hide_stitches_of_sewn_eyes(bench: Bench) -> None:
    ear = Part(id="ear", name="Ear", parent="head", shape=SHEET, core="cream", pair=True,
               seat=Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=60)))  # fmt: skip
    plan = make_plan(headed(ear, fittings=(eye(glued=False, fixed="sewn"),)), Brief(), bench)
    assert keys(plan).index("fit:eye") < keys(plan).index("join:ear")


def test_one_coat_covers_joined_parts_of_one_colour(bench: Bench) -> None:
    behind = Seat(along=0.2, around=180, sink=6, tilt=Tilt(nod=-90))
    tail = Part(id="tail", name="Tail", parent="body", shape=ball(20), core="core-batt",
                coat=Coat(wool="cream"), seat=behind)  # fmt: skip
    plan = make_plan(headed(tail), Brief().schooled("colour", "after joining"), bench)
    order = keys(plan)
    assert max(order.index("join:tail"), order.index("join:head")) < order.index("coat:body")
    assert Walker(plan, bench).walk() == ""


def test_sheet_is_not_told_by_top_shorter_than_its_blank(bench: Bench) -> None:
    """0.3 g were 51 mm of a top, for a blank 99 mm long."""
    large = SHEET.replaced(length=60.0, width=26.0, thickness=2.4)
    ear = Part(id="ear", name="Ear", parent="head", shape=large, core="mist", pair=True,
               seat=Seat(along=0.85, around=70, sink=3, tilt=Tilt(lean=60)))  # fmt: skip
    assert bench.wool_by_id["mist"].form == "top"
    plan = make_plan(headed(ear), Brief(), bench)
    step = next(step for step in plan.steps if step.key == "core:ear:1")
    amount = said(card_for(plan, step, bench).amount)
    assert "ball" in amount and "of a top" not in amount


@pytest.mark.parametrize(("long", "thick", "tip", "kind"), [
    (30.0, 6.0, 6.0, "shape.on-needle"), (60.0, 12.0, 12.0, "shape.one-roll"),
    (60.0, 12.0, 7.0, "shape.roll-sausage"),
])  # fmt: skip
def test_two_limbs_are_one_roll_short_ones_wound_on_needle(
    bench: Bench, long: float, thick: float, tip: float, kind: str
) -> None:
    joints = (Joint(x=0, y=0, z=0, diameter=thick), Joint(x=0, y=0, z=long, diameter=tip))
    arm = Part(id="arm", name="Arm", parent="body", shape=Limb(joints=joints), core="cream", pair=True,
               made="apart", seat=Seat(along=0.6, around=90, sink=3, tilt=Tilt(lean=90)))  # fmt: skip
    plan = make_plan(headed(arm), Brief(), bench)
    step = next(step for step in plan.steps if step.key == "core:arm:1")
    told_ = {fact.kind for fact in card_for(plan, step, bench).how}
    assert kind in told_ and ("shape.cut-roll" in told_) == (kind == "shape.one-roll")


def test_each_point_of_mouth_has_name_of_its_own(bench: Bench) -> None:
    way = ((0.3, -30), (0.25, -10), (0.25, 10), (0.3, 30))
    mouth = Place(id="mouth", wool="charcoal", face="mouth", where=Line(way=way, wide=1.5))
    plan = make_plan(headed(places=(mouth,), fittings=(eye(),)), Brief(), bench)
    card = next(step for step in plan.steps if step.key == "mark:head")
    names = [said(one) for one in card_for(plan, card, bench).how if "Mouth" in said(one)]
    called = [name.partition(":")[0] for name in names]
    assert called and len(set(called)) == len(called), called


@pytest.mark.parametrize(
    ("furrows", "deep", "is_gourd"), [(6, 60, True), (3, 60, False), (6, 30, False)]
)
def test_gourd_has_its_threads_all_round(
    bench: Bench, furrows: int, deep: float, is_gourd: bool
) -> None:
    gourd = Part(id="body", name="Gourd", core="weld", furrows=furrows,
                 shape=ball(60).replaced(depth=deep))  # fmt: skip
    plan = make_plan(figure_of(gourd), Brief(), bench)
    assert ("all round" in told(plan, "furrow:body", bench)) == is_gourd


def test_last_look_names_only_what_there_is(bench: Bench) -> None:
    bare = make_plan(figure_of(*headed().parts), Brief(), bench)
    eyed = make_plan(headed(fittings=(eye(),)), Brief(), bench)
    assert "thread round" not in told(bare, "check:stand", bench)
    look = told(eyed, "check:stand", bench)
    assert "the eyes" in look and "shoulders" not in look and "limbs" not in look


def test_roll_over_nose_is_laid_flat_along_it(bench: Bench) -> None:
    joints = (Joint(x=0, y=0, z=-12, diameter=5), Joint(x=0, y=0, z=12, diameter=5))
    roll = Part(id="roll", name="Roll", parent="head", shape=Limb(joints=joints), core="cream",
                made="in place", seat=Seat(along=0.5, sink=0.0, tilt=Tilt(nod=0)))  # fmt: skip
    plan = make_plan(headed(roll), Brief(), bench)
    card = told(plan, "core:roll:1", bench)
    assert "along both its edges" in card and "Split the hairs" not in card


def test_shawl_that_passes_head_waits_for_blend_under_it(bench: Bench) -> None:
    joints = (Joint(x=0, y=0, z=0, diameter=16), Joint(x=0, y=0, z=24, diameter=14))
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
    neck = Part(id="neck", name="Neck", parent="body", shape=Limb(joints=joints), core="core-batt",
                coat=Coat(wool="cream"), seat=Seat(along=1.0, sink=8))  # fmt: skip
    head = Part(id="head", name="Head", parent="neck", shape=ball(45), core="core-batt",
                coat=Coat(wool="cream"), seat=Seat(along=1.0, sink=6))  # fmt: skip
    shawl = Part(id="shawl", name="Shawl", parent="neck", shape=ball(26), core="madder",
                 garment=Garment(opening=240.0, passes="head"), seat=Seat(along=0.3, sink=13))  # fmt: skip
    order = keys(make_plan(figure_of(body, neck, head, shawl), Brief(), bench))
    assert order.index("blend:neck") < order.index("join:shawl")


def test_steps_that_are_done_alike_share_card(bench: Bench) -> None:
    petal = Part(id="p1", name="Petal 1", parent="body", shape=SHEET, core="weld",
                 seat=Seat(along=0.9, around=0, sink=1))  # fmt: skip
    others = tuple(
        petal.replaced(id=f"p{n}", name=f"Petal {n}", seat=Seat(along=0.9, around=60 * n, sink=1))
        for n in range(2, 6)
    )
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"),
                places=(fur_all_over(LOCKS),))  # fmt: skip
    plan = make_plan(figure_of(body, petal, *others), Brief(), bench)
    shared = [steps for steps in alike_steps(plan, bench) if len(steps) > 1]
    assert [step for steps in alike_steps(plan, bench) for step in steps] == list(plan.steps)
    rows = next(steps for steps in shared if steps[0].key.sort == "fur")
    assert not alike_rows(plan, rows, bench)  # nothing but their number differs
    assert "for each row" in said(alike_amount(plan, rows, bench))
    assert "8 mm from the last" in told(plan, str(rows[0].key), bench)
    petals = next(steps for steps in shared if steps[0].key.sort == "core")
    assert {str(step.part) for step in petals} == {f"p{n}" for n in range(1, 6)}
    assert "4 more alike" in said(alike_title(petals))
    table = [[said(cell) for cell in row.cells] for row in alike_rows(plan, petals, bench)]
    assert {row[0] for row in table} == {f"Petal {n}" for n in range(1, 6)}
    assert all("weld" in row[1].lower() for row in table) and not said(
        alike_amount(plan, petals, bench)
    )


def topper(tail_wool: str = "core-batt") -> Figure:
    """A figure for a cake: of one ball, but for a tail that may be of another wool."""
    body = Part(id="body", name="Body", shape=ball(34), core="core-batt")
    head = Part(id="head", name="Head", parent="body", shape=ball(24), core="core-batt",
                seat=Seat(along=1.0, sink=6))  # fmt: skip
    tail = Part(id="tail", name="Tail", parent="body", shape=ball(14), core=tail_wool,
                seat=Seat(along=0.3, around=180, sink=4))  # fmt: skip
    return figure_of(body, head, tail)


def test_parts_of_one_mass_are_drawn_from_soft_ball(bench: Bench) -> None:
    one = make_plan(topper(), Brief().schooled("mass", "one mass"), bench)
    parts = make_plan(topper(), Brief(), bench)
    assert "one loose ball" in told(one, "core:body:1", bench)
    first, *others = [step for step in one.steps if step.key.sort == "core"]
    assert first.key == "core:body:1" and not any(one.laid_by(step) for step in others)
    ((portion, share),) = one.laid_by(first)
    assert portion.take_g * share == pytest.approx(
        sum(p.take_g for r in one.parts for p in r.heaps)
    )
    # A ball of all that wool, a fifth wider than it will be when firm.
    cm3 = sum(part.net_cm3 for part in one.parts)
    stop = card_for(one, first, bench).stop[0]
    assert (stop.low + stop.high) / 2 == pytest.approx(
        1.2 * (6000 * cm3 / 3.14159) ** (1 / 3), rel=0.01
    )
    last = told(one, str(others[-1].key), bench)
    assert "felt the body firm all over" in last
    assert not [step for step in one.steps if step.key.sort == "join"]
    assert len(one.steps) < len(parts.steps) and one.minutes < parts.minutes
    assert not Walker(one, bench).walk()


def test_part_of_another_wool_is_not_drawn_out(bench: Bench) -> None:
    plan = make_plan(topper("weld"), Brief().schooled("mass", "one mass"), bench)
    tail = next(step for step in plan.steps if step.key == "core:tail:1")
    assert "Pinch" not in told(plan, "core:tail:1", bench)
    assert {portion.wool for portion, _ in plan.laid_by(tail)} == {"weld"}


def test_bend_is_told_by_print_and_then_in_degrees(bench: Bench) -> None:
    figure = arm_on_post()
    plan = make_plan(figure, Brief(), bench)
    bent = [step for step in plan.steps if step.key.sort == "bend"]
    kinds = [[one.kind for one in card_for(plan, step, bench).how] for step in bent]
    assert kinds and all("bend-wire.one" not in kind[:1] for kind in kinds)


def test_wool_of_felted_eyes_is_on_wool_list(bench: Bench) -> None:
    figure = headed(fittings=(eye(glued=False, fixed="felted", size=9.0),))
    plan = make_plan(figure, Brief(), bench)
    bare = make_plan(headed(), Brief(), bench)
    (row,) = [total for total in plan.wools if total.wool == "charcoal"]
    assert not [total for total in bare.wools if total.wool == "charcoal"]
    # Two halves of an egg 9 mm wide and 0.35 of that high.
    firm = next(wool for wool in bench.wools if wool.id == "charcoal").density("firm")
    assert row.grams == pytest.approx(
        2 * firm * 2 / 3 * 3.14159 * 4.5**2 * 0.35 * 9 / 1000, rel=1e-3
    )
    assert "charcoal" in told(plan, "fit:eye", bench).lower()


def test_older_figure_is_told_what_is_usual_now() -> None:
    badger = load_demo(BADGER)
    text = dump_document(badger.figure, badger.brief.schooled("insets", "first"))
    before = load_document(text.replace('"bambola": 4', '"bambola": 3', 1), "old")
    plan = make_plan(before.figure, before.brief, default_bench())
    (note,) = [notice for notice in plan.notices if notice.code == "now-usual"]
    how = said(note.text)
    assert "the face: finished in the hand" in how and "on the pad" in how
    assert "atches" not in how  # that was chosen
    again = load_document(dump_document(before.figure, before.brief), "new")
    assert not again.brief.from_before
    plan = make_plan(again.figure, again.brief, default_bench())
    assert not [notice for notice in plan.notices if notice.code == "now-usual"]


def on_body(**part: object) -> Figure:
    """A body with one part on it."""
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
    given = {"id": "part", "name": "Part", "parent": "body", "core": "core-batt",
             "seat": Seat(along=0.7, sink=4), **part}  # fmt: skip
    return figure_of(body, Part.model_validate(given))


def limb(length: float, thick: float) -> Limb:
    ends = (Joint(x=0, y=0, z=0, diameter=thick), Joint(x=0, y=0, z=length, diameter=thick))
    return Limb(joints=ends)


WHISKER = Fitting.model_validate({
    "id": "whisker", "name": "Whiskers", "kind": "whisker", "part": "head", "pair": True,
    "seat": Seat(along=0.5, around=20), "size": 1.0, "pieces": (FittingPiece(shape=ball(1)),),
})  # fmt: skip
BEND = Line(way=((0.3, -30), (0.6, -30), (0.6, 30)), wide=1.0)
KINDS = {
    "a band is wound on a trunk": (
        on_body(shape=limb(60, 14), coat=Coat(wool="cream")), "coat:part", "Wind it on taut"),
    "a band ends a limb as a hoof": (
        on_body(shape=limb(50, 14), coat=Coat(wool="cream"), places=(
            Place(id="hoof", wool="charcoal", where=Band(begin=0.8)),)),
        "inset:part:hoof", "Fold the wisp over the end"),
    "a curve is laid along pins": (
        on_body(shape=ball(40), coat=Coat(wool="cream"), places=(
            Place(id="curl", wool="charcoal", where=BEND),)), "inset:part:curl", "Set pins along"),
    "whiskers are drawn through": (headed(fittings=(WHISKER,)), "fit:whisker", "darning needle"),
    "long hair is fixed at its base": (
        on_body(shape=ball(20), coat=Coat(wool="cream"), places=(
            fur_all_over(Fur(wool="reed", spacing=20.0, hair=40.0)),)),
        "fur:part:1", "one line of stabs"),
    "a head is tried on": (headed(fittings=(eye(),)), "join:head", "shoulders or chest"),
    "a muzzle has one veil with its head": (
        on_body(shape=ball(18), coat=Coat(wool="cream"), made="in place"), "coat:part",
        "in one: no seam"),
}  # fmt: skip


FINS = tuple(
    Part(id=f"fin{n}", name=f"Fin {n}", parent="body", core="madder",
         shape=Leaf(length=long, width=9.0, thickness=4.5),
         seat=Seat(along=0.4 + 0.12 * n, around=180, sink=1, tilt=Tilt(nod=-80)))
    for n, long in enumerate((8.0, 14.0, 18.0, 10.0))
)  # fmt: skip
LARGE = figure_of(
    *(p.replaced(shape=ball(90 if p.id == "body" else 60)) for p in headed().parts),
    fittings=(eye(),),
)
KINDS |= {
    "a crest grows from fin to fin": (
        figure_of(*headed().parts, *FINS), "core:fin2:1", "grow between"),
    "a fin is set against the one before": (
        figure_of(*headed().parts, *FINS), "join:fin2", "close against the fin"),
    "eyes are sewn through to the neck": (
        headed(fittings=(eye(glued=False, fixed="sewn"),)), "fit:eye", "under the neck"),
}  # fmt: skip


@pytest.mark.parametrize("name", KINDS)
def test_each_kind_of_making_has_its_own_words(name: str, bench: Bench) -> None:
    figure, key, words = KINDS[name]
    plan = make_plan(figure, Brief(), bench)
    assert words in told(plan, key, bench), told(plan, key, bench)


def test_one_mass_teases_tail_and_splits_feet(bench: Bench) -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    tail = Part(id="tail", name="Tail", parent="body", shape=limb(30, 10), core="core-batt",
                seat=Seat(along=0.3, around=180, sink=3))  # fmt: skip
    feet = Part(id="feet", name="Feet", parent="body", shape=ball(16), core="charcoal", pair=True,
                seat=Seat(along=0.05, around=25, sink=3))  # fmt: skip
    plan = make_plan(figure_of(body, tail, feet), Brief().schooled("mass", "one mass"), bench)
    assert "Tease out" in told(plan, "core:tail:1", bench)
    feet_made = [step for step in plan.steps if step.key.is_of("feet", "core")]
    assert plan.part("feet").made == "in place" or "halves part" in told(
        plan, feet_made[0].key, bench
    )


def test_blend_is_mixed_first_and_at_once(bench: Bench) -> None:
    mixed = {"id": "smoke", "name": "Smoke", "form": "batt", "colour": "#777777",
             "recipe": [{"wool": "cream", "share": 2}, {"wool": "charcoal", "share": 1}]}  # fmt: skip
    blended = bench.replaced(wools=(*bench.wools, Wool.model_validate(mixed)))
    figure = on_body(shape=ball(40), coat=Coat(wool="smoke"))
    plan = make_plan(figure, Brief(), blended)
    order = keys(plan)
    laid = [str(step.key) for step in plan.steps if step.wool == "smoke" and step.kind != "mix"]
    assert laid and order.index("mix:smoke") < min(map(order.index, laid))
    (mix,) = plan.mixes
    card = told(plan, "mix:smoke", blended)
    assert (
        said(fact("mix.part", weight=Grams(mix.parts[0][1]), wool="Cream")) in card
        and "30 for even" in card
    )
    # What lies ready on the shelf is not mixed anew.
    ready = bench.replaced(wools=(*bench.wools, Wool.model_validate({**mixed, "grams": 50})))
    assert "mix:smoke" not in keys(make_plan(figure, Brief(), ready))


def test_stem_under_band_needs_neither_hole_nor_glue(bench: Bench) -> None:
    bones = (Bone(a="heart", b="shoulder"), Bone(a="shoulder", b="hand"))
    figure = arm_on_post().replaced(bones=bones)
    pushed = make_plan(figure, Brief(), bench)
    assert "stems" in pushed.choices and "dry:arm" in keys(pushed)
    banded = make_plan(figure, Brief().schooled("stems", "under a band"), bench)
    assert not {"peg:arm", "dry:arm"} & set(keys(banded))
    assert "never on it" in told(banded, "join:arm", bench)
    assert not Walker(pushed, bench).walk() and not Walker(banded, bench).walk()


def test_finished_head_is_tried_before_last_round_of_body(bench: Bench) -> None:
    plan = make_plan(LARGE, Brief(), bench)
    order = keys(plan)
    rounds = [key for key in order if key.startswith("core:body")]
    assert len(rounds) > 1
    is_done = order.index("core:head:1") < order.index(rounds[-1])
    assert ("pin the head on" in told(plan, rounds[-1], bench)) == is_done
    assert "pin the head on" not in told(plan, rounds[0], bench)

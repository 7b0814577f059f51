"""What a new size changes in the making, with its causes; necks, fur and clothes at other sizes."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from bambola.core.balance import ALLOWED_KPA, JoinStress, join_for
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Coat, Document, Garment, Join, Part, Rope, Seat
from bambola.core.order.steps import differences_in_making
from bambola.core.order.tasks import tasks_for
from bambola.core.order.work import FittingJob, FurJob, PartJob, PatchJob, Work
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.making.dress import DressPlan, dress_fact
from bambola.demo import HERON, load_demo
from tests.figures import ball, figure_of, one_ball
from tests.said import said


def changed(plan: Plan) -> dict[tuple[str | None, str], tuple[str, str]]:
    assert all(said(change.text) and said(change.cause) for change in plan.changes)
    return {(c.part, c.what): (c.was, c.now) for c in plan.changes}


def test_what_smaller_heron_changes_and_why(bench: Bench) -> None:
    heron = load_demo(HERON)
    plan = make_plan(heron.figure, heron.brief.at_height(120), bench)
    small = changed(plan)
    assert small["foot", "made"] == ("apart", "in place") == small["bill", "made"]
    assert small["crest", "made"] == ("in place", "detail")
    # A bill built in place has nothing for a peg to hold, so none is cut and no hole is opened.
    assert small["bill", "join"] == ("peg", "fringe") and "loses its wire peg" in told(
        plan, "bill", "join"
    )
    old = make_plan(heron.figure, heron.brief.at_height(300), bench)
    assert any(w.id == "peg-bill" for w in old.wires) and "peg:bill" in {s.key for s in old.steps}
    assert not any(w.id == "peg-bill" for w in plan.wires)
    assert not {"peg:bill", "cut:peg-bill"} & {s.key for s in plan.steps}
    # The numbers told are those of the plan.
    crest, foot = plan.part("crest"), plan.part("foot")
    assert f"is {crest.to_mm['thickness']:.1f} mm" in told(plan, "crest", "made")
    assert f"{foot.from_mm['height']:.1f} mm" in told(plan, "foot", "made")


def test_core_that_vanishes_is_told_where_size_is_chosen(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(60), bench)
    gone = {part for (part, what), (_, now) in changed(plan).items() if what == "core"}
    assert "paw" in gone and "body" not in gone
    for part in plan.parts:
        felted = {p.role: p.wool for p in part.portions if p.role in ("core", "coat")}
        coat = badger.figure.by_id[part.id].coat
        if part.id in gone:
            assert coat is not None and felted == {"core": coat.wool}
        elif coat is not None and "coat" in felted:  # there is enough for both
            core = next(p for p in part.portions if p.role == "core")
            assert core.grams >= 0.1 and core.wool == badger.figure.by_id[part.id].core
    assert "its coat’s wool alone" in told(plan, "paw", "core")
    assert f"is {min(plan.part('paw').to_mm.values()):.1f} mm" in told(plan, "paw", "core")


def told(plan: Plan, part: str, what: str) -> str:
    change = next(c for c in plan.changes if (c.part, c.what) == (part, what))
    return f"{said(change.text)}. {said(change.cause)}"


def test_what_larger_badger_changes_and_why(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(320), bench)
    grown = changed(plan)
    assert grown["body", "rounds"] == ("1", "2") and ("leg", "rounds") not in grown
    assert "up to 75 mm it is rolled at once" in told(plan, "body", "rounds")
    assert grown["head", "join"] == ("fringe", "scarf")
    join = next(j for j in plan.joins if j.part == "head")
    words = told(plan, "head", "join")
    assert "a fringe join held 1.4 times over and would now hold 67 % of it" in words
    assert 4.0 / join.was_kpa == pytest.approx(1.4, abs=0.05)
    assert 4.0 / join.stress_kpa == pytest.approx(0.67, abs=0.005)
    # Rows by hand: covered length over 8 mm, which the hair sets and the size does not.
    shows = plan.solids.copies_of("tail")[0][1].seen.length
    rows = [math.ceil(shows * s / 8) for s in (1 / plan.scale, 1)]
    assert grown["tail", "fur rows"] == (str(rows[0]), str(rows[1])) and rows[1] > rows[0]
    assert sum(s.kind == "fur row" for s in plan.steps) == rows[1]
    # The muffler is bought: the head outgrows it, so it changes sides with the head.
    assert grown["muffler", "dress"] == ("after", "before")
    assert "158 mm round and is 361 mm; its opening stretches to 294 mm" in told(
        plan, "muffler", "dress"
    )
    for height, before in ((140, False), (220, False), (320, True)):
        order = [
            s.key for s in make_plan(badger.figure, badger.brief.at_height(height), bench).steps
        ]
        assert (order.index("join:muffler") < order.index("join:head")) is before
        assert not any(k.endswith(":muffler") and not k.startswith("join") for k in order)
    assert grown["cape", "needle"] == ("38", "36") and grown["nose", "firmed"] == (
        "on the body",
        "apart",
    )
    assert not make_plan(badger.figure, badger.brief.at_height(140), bench).changes


@pytest.mark.parametrize(
    ("drawn", "was", "now", "neck", "kept"),
    [
        ("fringe", 3.0, 3.9, True, "fringe"),
        ("fringe", 3.0, 9.9, True, "scarf"),
        ("fringe", 3.0, 9.9, False, "patch"),
        ("patch", 3.0, 10.1, False, "peg"),
        ("scarf", 3.0, 60.0, True, "peg"),
        ("peg", 12.0, 9.0, True, "scarf"),  # needed as made, and no longer
        ("peg", 9.0, 3.0, True, "peg"),  # never needed: the maker's own wish
        ("wire", 12.0, 3.0, True, "wire"),
    ],
)
def test_join_is_as_strong_as_its_load_asks(
    drawn: Join, was: float, now: float, neck: bool, kept: str
) -> None:
    assert join_for(JoinStress("head", drawn, now, ALLOWED_KPA[drawn], 100.0, neck, was)) == kept


def test_neck_gains_peg_where_wool_no_longer_holds(bench: Bench, badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief.at_height(800), bench)
    join = next(j for j in plan.joins if j.part == "head")
    assert changed(plan)["head", "join"] == ("fringe", "peg") and join.holds
    keys = [s.key for s in plan.steps]
    assert keys.index("cut:peg-head") < keys.index("join:head") > keys.index("peg:head")
    question = next(n for n in plan.open_questions if n.code == "join:head")
    assert "plans a wire peg" in said(question.text)
    # The maker's word and the maker's school come before the load; a word before a school.
    for brief, kind in (
        (badger.brief.at_height(800).answered("join:head", "leave"), "fringe"),
        (badger.brief.at_height(800).schooled("neck", "scarf"), "scarf"),
        (badger.brief.at_height(140).schooled("neck", "peg"), "peg"),
        (badger.brief.at_height(140).schooled("neck", "wire"), "wire"),
        (
            badger.brief.at_height(140).schooled("neck", "peg").answered("join:head", "scarf"),
            "scarf",
        ),
    ):
        own = make_plan(badger.figure, brief, bench)
        assert next(j for j in own.joins if j.part == "head").kind == kind


def test_bought_garment_keeps_its_size_until_another_is_taken(
    bench: Bench, badger: Document
) -> None:
    at_400 = badger.brief.at_height(400)
    plan = make_plan(badger.figure, at_400, bench)
    row = next(r for r in plan.dress if r.part == "muffler")
    assert row.opening_mm == 210.0 and not row.fits and row.cut_mm == 0
    assert plan.part("muffler").made == "bought" and not plan.part("muffler").portions
    listed = next(f for f in plan.fittings if f.id == "muffler")
    assert listed.use_mm == 210.0 and listed.wanted_mm == pytest.approx(210 * 400 / 140)
    question = next(n for n in plan.open_questions if n.code == "dress:muffler")
    assert f"at least {row.worn_mm / 1.4:.0f} mm" in said(question.options[0].effect)
    assert "too tight" in said(question.title)
    other = make_plan(badger.figure, at_400.answered("dress:muffler", "another"), bench)
    row = next(r for r in other.dress if r.part == "muffler")
    assert row.fits and row.passes_over and row.opening_mm == pytest.approx(600.0)
    settled = next(n for n in other.notices if n.code == "dress:muffler")
    assert said(settled.title) == "Muffler: sized anew" and settled.answer == "another"
    # Far too wide for a small one, just right between, and never asked of what is sewn to measure.
    for height, asked in ((60.0, True), (100.0, False), (140.0, False), (300.0, False)):
        found = make_plan(badger.figure, badger.brief.at_height(height), bench).notices
        assert [said(n.title) for n in found if n.code.startswith("dress:")] == (
            ["Muffler: too wide at this size"] if asked else []
        )
    # Its wool is weighed by nobody, but the figure bears it.
    bare = badger.figure.replaced(
        parts=tuple(
            p.replaced(garment=p.garment.replaced(mass=0.0))
            if p.id == "muffler" and p.garment
            else p
            for p in badger.figure.parts
        )
    )
    light = make_plan(bare, at_400, bench)
    assert plan.balance.mass_g == pytest.approx(light.balance.mass_g + 2.5)
    assert plan.wool_g == pytest.approx(light.wool_g)


def test_what_bought_ring_sits_on_can_be_built_round_it(bench: Bench) -> None:
    figure = one_ball(90.0, coat=Coat(wool="woad"))
    hoop = Rope(points=((45, 0, 0), (0, 45, 0), (-45, 0, 0), (0, -45, 0)), thickness=4, closed=True)
    ring = Part(id="ring", name="Ring", parent="body", shape=hoop, core="madder", seat=Seat(along=0.5),
                garment=Garment(opening=75, passes="body", kind="pulled over", bought=True))  # fmt: skip
    figure = figure.replaced(parts=(*figure.parts, ring))
    kinds = {
        answer: [step.kind for step in make_plan(figure, brief, bench).steps]
        for answer, brief in (("", Brief()), ("round", Brief().answered("dress:ring", "round")))
    }
    # Closed, it is on before the last round and under the coat; opened behind, it goes over both.
    assert kinds["round"][:4] == ["shape", "dress", "shape", "check"]
    assert kinds[""].index("dress") > kinds[""].index("coat")
    # A ball that takes one round of core leaves nothing to build.
    small = make_plan(figure, Brief(height=30), bench)
    (question,) = (
        n for n in small.notices if n.code == "dress:ring" and "any more" in said(n.title)
    )
    assert [o.id for o in question.options] == ["another", "leave"]


def test_garment_tells_what_to_cut_and_cover() -> None:
    names = {"head": "Head", "body": "Body", "arm": "Arm"}
    row = DressPlan("sash", "sash", 145.0, 150.0, "head", 190.0, 60.0, 63.0, True, True, 290.0, 1, False,
                    ("arm", "body"))  # fmt: skip
    words = said(dress_fact(row, names))
    assert words.startswith("Cut 290 mm, knot and tails included; tied, it goes on over anything.")
    assert words.endswith("It lies over the arm and body: no coat is needed there.")
    skirt = replace(row, kind="skirt", strips=25, over=())
    assert said(dress_fact(skirt, names)) == "Cut 25 strips of 290 mm and knot them on."
    tight = replace(row, kind="pulled over", passes_over=False)
    assert "stretched to 63 mm it does not pass over the head" in said(dress_fact(tight, names))
    assert "It is bought, 60 mm round" in said(dress_fact(replace(tight, bought=True), names))


@pytest.mark.parametrize("kind", ["sash", "wrap", "pulled over", "skirt"])
def test_clothes_grow_with_figure_but_not_their_knot_and_ease(bench: Bench, kind: str) -> None:
    worn = Garment(opening=300, passes="head", kind=kind, tails=40, layers=2)  # type: ignore[arg-type]
    sash = Part(id="sash", name="Sash", parent="body", shape=ball(14), core="madder", seat=Seat(around=180),
                garment=worn)  # fmt: skip
    head = Part(
        id="head", name="Head", parent="body", shape=ball(30), core="cream", seat=Seat(sink=4)
    )
    figure = figure_of(*one_ball(50).parts, head, sash)
    as_made = make_plan(figure, Brief(), bench)
    (small,) = as_made.dress
    (large,) = make_plan(figure, Brief(height=2 * as_made.to_height_mm), bench).dress
    ease = math.tau * 3 * 2
    fixed = {"sash": 60 + ease, "wrap": 60 + ease, "pulled over": ease, "skirt": 60}[kind]
    assert large.cut_mm - fixed == pytest.approx(2 * (small.cut_mm - fixed), rel=1e-6)
    assert large.stretched_mm == pytest.approx(2 * small.stretched_mm)
    if kind == "skirt":  # strips twice as wide go twice round; the ease grows with neither
        round_body = math.pi * 50
        wanted = [math.ceil((s * round_body + ease) * 2 / (s * 12)) for s in (1, 2)]
        assert [small.strips, large.strips] == wanted == [33, 30]


JOB = PartJob(
    "arm", "Arm", "Arms", "body", None, 2, "apart", 2, 38, False, "core-batt", "woad",
    (PatchJob("cuff", "cuff", "cream"),), (), "patch", False, (), (), False, "head", False,
)  # fmt: skip


def rows(n: int) -> tuple[FurJob, ...]:
    return (FurJob("", "", "cream", n, "tip"),)


NONE: frozenset[str] = frozenset()


@pytest.mark.parametrize(
    ("field", "was", "now", "what", "told_was", "told_now", "kind", "back"),
    [
        ("count", 4, 2, "row", "4", "2", "row", "row"),
        ("rounds", 3, 2, "rounds", "3", "2", "rounds", "rounds"),
        ("coreless", False, True, "core", "core", "coat", "loses-core", "gains-core"),
        ("lines", NONE, frozenset({"cuff"}), "patch", "patch", "lines", "becomes-lines", "becomes-patch"),
        ("join", "patch", "peg", "join", "patch", "peg", "gains-peg", "loses-peg"),
        ("join", "patch", "scarf", "join", "patch", "scarf", "join", "join"),
        ("furs", rows(9), rows(5), "fur rows", "9", "5", "fur-rows", "fur-rows"),
        ("must_precede", False, True, "dress", "after", "before", "goes-on-before", "goes-on-after"),
        ("needle", 36, 40, "needle", "36", "40", "needle", "needle"),
        ("small", False, True, "firmed", "apart", "on the body", "firmed-on-body", "firmed-apart"),
    ],
)  # fmt: skip
def test_each_change_is_told_once_with_old_and_new(
    field: str,
    was: object,
    now: object,
    what: str,
    told_was: str,
    told_now: str,
    kind: str,
    back: str,
) -> None:
    head = replace(JOB, id="head", name="Head", count=1, passes=None)

    def work(value: object) -> Work:
        arm = replace(JOB, **{field: value})  # type: ignore[arg-type]
        return Work((arm, head), schools=(("small", "soft"),))

    (change,) = differences_in_making(work(was), work(now))
    assert (change.part, change.what, change.was, change.now) == ("arm", what, told_was, told_now)
    assert change.text.kind == f"change.{kind}" and said(change.text)
    (undone,) = differences_in_making(work(now), work(was))
    assert (undone.was, undone.now, undone.text.kind) == (told_now, told_was, f"change.{back}")
    assert differences_in_making(work(now), work(now)) == ()
    # What is there at one size only has nothing to be compared with.
    assert differences_in_making(Work((head,)), work(now)) == ()


def test_needle_change_due_to_making_is_not_told() -> None:
    other = replace(JOB, made="on wire", needle=36)
    (change,) = differences_in_making(Work((JOB,)), Work((other,)))
    assert (change.what, change.was, change.now) == ("made", "apart", "on wire")
    bought = replace(JOB, made="bought")
    assert differences_in_making(Work((bought,)), Work((replace(bought, needle=36),))) == ()
    # A detail has no core of its own, so it gains and loses none.
    assert (
        differences_in_making(
            Work((replace(JOB, made="detail"),)),
            Work((replace(JOB, made="detail", coreless=True),)),
        )
        == ()
    )


def test_what_is_marked_on_head_is_what_sits_there() -> None:
    def sits(id: str, **more: object) -> PartJob:
        plural = f"{id.capitalize()}s"
        own = {"name": id.capitalize(), "plural": plural, "parent": "head", "passes": None, **more}
        return replace(JOB, id=id, **own)  # type: ignore[arg-type]

    head = replace(JOB, id="head", name="Head", count=1, passes=None)
    parts = (
        sits("nose", count=1, face=True), sits("lid", face=True), sits("ear", flat=True), sits("horn"),
        sits("comb", count=1, flat=True), sits("hat", count=1, face=True, garment=True),
    )  # fmt: skip
    fittings = (
        FittingJob("eye", "Eye", "eye", "head", 2, "glued"),
        FittingJob("tip", "Nose tip", "nose", "head", 1, "glued"),
        FittingJob("bell", "Bell", "bell", "head", 1, "sewn"),
        FittingJob("snout-tip", "Snout tip", "nose", "arm", 1, "glued"),
    )
    work = Work((head, replace(JOB, passes=None), *parts), fittings=fittings)
    (task,) = (t for t in tasks_for(work) if t.key.sort == "mark")
    told = said(task.text)
    for name in ("eye line", "nose", "lids", "ears", "nose tip"):
        assert name in told.lower(), (name, told)
    for name in ("comb", "horn", "hat", "bell", "snout"):
        assert name not in told.lower(), (name, told)

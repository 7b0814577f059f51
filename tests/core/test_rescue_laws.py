"""What is advised for a piece, against numbers worked out by hand: no wool is lost or made, and limits are
where they are said to be."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Leaf, Limb
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.carry_on import real_measures
from bambola.core.plan.making.loose_ends import end_of
from bambola.core.rescue import (
    SYMPTOM_BY_ID,
    MeasuredPiece,
    PieceReading,
    ReadingMissingError,
    advise,
    apply_action,
    possible_symptoms,
    remedies,
    wanted_of,
)
from bambola.core.rescue.advice import Advice
from bambola.core.rescue.piece import WantedPiece, piece_of, wanted_at
from bambola.demo import BADGER, HERON, load_demo
from bambola.shipped import default_bench
from tests.said import said

SOFT, MEDIUM, FIRM, HARDEST = 0.07, 0.11, 0.15, 0.20
"""g/cm³: how closely wool is packed that feels so; hard is as hard as hands felt. See craft.md, 1."""
ROD = math.pi / 4 / 1000
"""cm³ of a rod for each mm of length and mm² of thickness."""
PLAN: dict[str, Plan] = {}


def plan_of_badger() -> Plan:
    if "badger" not in PLAN:
        demo = load_demo(BADGER)
        PLAN["badger"] = make_plan(demo.figure, demo.brief.at_height(220.0), default_bench())
    return PLAN["badger"]


def rod(density: float = MEDIUM, joined: bool = True) -> WantedPiece:
    """A rod that should be 80 mm long and 20 mm thick."""
    return WantedPiece(80.0, 20.0, density, ROD, joined, flat=False)


def weight(length: float, thick: float, density: float) -> float:
    return density * math.pi / 4 * (thick / 10) ** 2 * length / 10


def advice_for(
    symptom: str, length: float, thick: float, density: float, wanted: WantedPiece | None = None
) -> Advice:
    read = PieceReading(length, thick, weight(length, thick, density))
    piece = wanted or rod()
    # Where a symptom is about how it feels, it is told besides.
    if SYMPTOM_BY_ID[symptom].firmness:
        read = PieceReading(length, thick, weight(length, thick, density), "soft")
    return advise(plan_of_badger(), "arm", SYMPTOM_BY_ID[symptom], read, default_bench(), piece)


def does(advice: Advice) -> list[str]:
    return [action.do for action in advice.actions]


def test_piece_has_weight_of_its_wool() -> None:
    assert rod().grams == pytest.approx(weight(80, 20, MEDIUM))
    piece = piece_of(rod(), PieceReading(90.0, 18.0, firmness="firm"), planned_g=1.0)
    assert piece.grams == pytest.approx(weight(90, 18, FIRM)) and piece.density == pytest.approx(
        FIRM
    )
    assert piece_of(rod(), PieceReading(90.0, 18.0), planned_g=1.0).grams == 1.0
    assert piece_of(rod(), PieceReading(90.0, 18.0, 2.5, "soft"), planned_g=1.0).grams == 2.5
    assert piece_of(rod(), PieceReading(), planned_g=1.0).length == 80.0


@pytest.mark.parametrize(
    ("symptom", "length", "thick", "density"),
    [
        ("too-long", 100.0, 20.0, MEDIUM),
        ("too-long", 100.0, 20.0, 0.19),
        ("too-thick", 80.0, 26.0, MEDIUM),
        ("too-thick", 80.0, 26.0, 0.195),
        ("too-big", 95.0, 24.0, 0.19),
        ("too-short", 60.0, 20.0, MEDIUM),
        ("too-thin", 80.0, 12.0, MEDIUM),
        ("too-small", 66.0, 16.0, FIRM),
        ("too-small", 66.0, 16.0, SOFT),
        ("too-soft", 84.0, 21.0, 0.06),
        ("long-and-thin", 96.0, 16.0, MEDIUM),
    ],
)
def test_no_wool_is_lost_or_made_on_way(
    symptom: str, length: float, thick: float, density: float
) -> None:
    advice = advice_for(symptom, length, thick, density)
    assert advice.actions and advice.wanted.has_size(advice.after)
    piece = advice.now
    for action in advice.actions:
        after = apply_action(piece, action)
        was = weight(piece.length, piece.thick, piece.density)
        assert was == pytest.approx(piece.grams)
        if action.do.startswith("needle"):  # it is all still there, only closer
            assert (
                action.grams == 0 and after.grams == piece.grams and after.density > piece.density
            )
            assert after.density <= HARDEST * 1.001
        elif action.do in ("cut-base", "peel"):  # what goes is felted as what stays
            assert piece.grams - after.grams == pytest.approx(action.grams, rel=1e-6)
            assert after.density == pytest.approx(piece.density)
        elif action.do.startswith("add"):
            assert after.grams - piece.grams == pytest.approx(action.grams, rel=1e-6)
            felted = action.grams / (after.volume - piece.volume)
            assert felted == pytest.approx(
                min(HARDEST, max(piece.density, 0.85 * MEDIUM)), rel=1e-6
            )
        piece = after


def test_needle_shortens_until_hard_then_cut() -> None:
    # 100 mm at 0.11: hard at 100 · 0.11 / 0.20 = 55 mm, so 80 is within reach of the needle alone.
    (only,) = advice_for("too-long", 100.0, 20.0, MEDIUM).actions
    assert (only.do, only.where) == ("needle-tip", "tip") and only.mm == pytest.approx(20.0)
    # At 0.18 it is hard at 90 mm; what is right ends below that, so it is made as wanted: 10 are cut.
    needled, cut = advice_for("too-long", 100.0, 20.0, 0.18).actions
    assert needled.mm == pytest.approx(10.0) and cut.do == "cut-base"
    assert cut.mm == pytest.approx(10.0) and cut.grams == pytest.approx(weight(10, 20, HARDEST))
    # Sideways it goes with the square: 26 mm at 0.19 is hard at 26 √(0.19 / 0.20).
    needled, peeled = advice_for("too-thick", 80.0, 26.0, 0.19).actions
    hard = 26 * math.sqrt(0.19 / 0.20)
    assert needled.mm == pytest.approx(26 - hard) and peeled.do == "peel"
    assert peeled.mm == pytest.approx(hard - 20)
    assert peeled.grams == pytest.approx(weight(80, hard, HARDEST) - weight(80, 20, HARDEST))


def test_what_stays_little_large_for_its_hardness_is_still_right() -> None:
    """85 mm at 0.19 is hard at 80.75: it cannot be felted to 80, but to what is close enough."""
    advice = advice_for("too-long", 85.0, 20.0, 0.19)
    assert does(advice) == ["needle-tip"] and advice.wanted.has_size(advice.after)
    assert advice.after.density == pytest.approx(HARDEST, rel=1e-3)
    assert advice.after.length == pytest.approx(80.75, rel=1e-3)


@pytest.mark.parametrize(
    ("joined", "length", "does_"),
    [(True, 84.9, "sink-base"), (True, 85.2, "cut-base"), (False, 84.0, "cut-base")],
)
def test_joined_base_hides_five_millimetres_and_no_more(
    joined: bool, length: float, does_: str
) -> None:
    advice = advice_for("too-long", length, 20.0, HARDEST, rod(joined=joined))
    assert does(advice) == [does_]
    assert advice.actions[0].mm == pytest.approx(length - 80) and advice.actions[0].where == "base"


@pytest.mark.parametrize(
    ("length", "thick", "again"),
    [
        (80 * 1.39, 20.0, False), (80 * 1.41, 20.0, True), (80 * 0.61, 20.0, False),
        (80 * 0.59, 20.0, True), (80.0, 20 * 1.59, False), (80.0, 20 * 1.61, True), (80.0, 20 * 0.41, False),
        (80.0, 20 * 0.39, True),
    ],
)  # fmt: skip
def test_piece_far_off_is_made_again(length: float, thick: float, again: bool) -> None:
    advice = advice_for("too-big", length, thick, SOFT)
    assert (does(advice) == ["remake"]) == again
    if again:
        assert advice.after == advice.now


def flat_sheet() -> WantedPiece:
    """A sheet 60 by 20 mm that should be 5 mm thick."""
    return WantedPiece(60.0, 5.0, MEDIUM, 20.0 / 1000, joined=True, flat=True)


@pytest.mark.parametrize(
    ("thick", "action"),
    [
        (4.0, ("add-sides", 1.0, MEDIUM * 6 * 2 * 0.1)),  # a millimetre more of 60 × 20
        (6.0, ("needle-sides", 1.0, 0.0)),
    ],
)
def test_flat_volume_is_linear_in_thickness(thick: float, action: tuple[str, float, float]) -> None:
    symptom = "too-thin" if thick < 5 else "too-thick"
    grams = MEDIUM * 6 * 2 * thick / 10
    advice = advise(plan_of_badger(), "ear", SYMPTOM_BY_ID[symptom], PieceReading(60.0, thick, grams),
                    default_bench(), flat_sheet())  # fmt: skip
    (only,) = advice.actions
    assert (only.do, only.mm, only.grams) == (action[0], *map(pytest.approx, action[1:]))
    assert "square to its face" in said(only.told)


def test_fin_that_is_far_too_long_is_not_made_again() -> None:
    """Its base is cut or sunk; one far too short is."""
    long, short = (
        advise(plan_of_badger(), "ear", SYMPTOM_BY_ID[symptom], PieceReading(length, 5.0), default_bench(),
               flat_sheet())
        for symptom, length in (("too-long", 96.0), ("too-small", 30.0))
    )  # fmt: skip
    assert does(long) and "remake" not in does(long)
    assert does(short) == ["remake"]


def test_light_piece_is_firmed_and_filled() -> None:
    advice = advice_for("too-long", 96.0, 20.0, 0.5 * MEDIUM * 80 / 96)
    assert does(advice)[0] == "needle-all"
    assert {"add-tip", "add-sides"} & set(does(advice))
    assert advice.after.density >= 0.85 * MEDIUM
    # Of the right size, it is not right either.
    assert not advice_for("too-long", 80.0, 20.0, 0.5 * MEDIUM).within


@pytest.mark.parametrize("length", [76.0, 80.0, 88.0, 96.0])
@pytest.mark.parametrize("thick", [16.0, 20.0, 24.0])
@pytest.mark.parametrize("share", [0.5, 0.8, 1.0])
def test_nothing_is_shortened_that_is_lengthened_afterwards(
    length: float, thick: float, share: float
) -> None:
    volume = length * thick**2 / (80.0 * 20.0**2)
    done = does(advice_for("long-and-thin", length, thick, share * MEDIUM / volume))
    assert not {"needle-tip", "cut-base"} & set(done) or "add-tip" not in done, done


def test_feel_is_optional_with_weight_and_size() -> None:
    symptom, bench = SYMPTOM_BY_ID["too-soft"], default_bench()
    read = PieceReading(80.0, 20.0, weight(80, 20, 0.07))
    assert does(advise(plan_of_badger(), "arm", symptom, read, bench, rod()))[0] == "needle-all"
    with pytest.raises(ReadingMissingError):
        advise(plan_of_badger(), "arm", symptom, PieceReading(80.0, 20.0), bench, rod())


def test_loose_end_counts_in_weighing(bench: Bench) -> None:
    plan = plan_of_badger()
    (step,) = (s for s in plan.steps if s.key == "core:nose:1")
    wanted, end = wanted_at(plan, step, bench), end_of(plan.part("nose").portions)
    assert wanted is not None and end is not None and end.grams > 0.2 * wanted.grams
    read = PieceReading(wanted.length, wanted.thick, wanted.grams + end.grams)
    assert piece_of(wanted, read, 0.0).density == pytest.approx(wanted.density)


def test_unmeasurable_excess_is_left() -> None:
    """At 0.1999 g/cm³ it is hard at 99.95 mm: that twentieth is not told by itself."""
    assert does(advice_for("too-long", 100.0, 20.0, 0.1999)) == ["cut-base"]
    (peeled,) = advice_for("too-thick", 80.0, 26.0, 0.1999).actions
    assert peeled.do == "peel" and peeled.mm == pytest.approx(6.0)


def test_more_wool_than_was_kept_back_is_told_as_short(bench: Bench) -> None:
    plan = plan_of_badger()
    wanted = wanted_of(plan, "nose", bench)
    kept = next(p for p in plan.part("nose").portions if p.role == "core").keep_by_g
    advice = advise(plan, "nose", SYMPTOM_BY_ID["too-small"],
                    PieceReading(0.62 * wanted.length, 0.62 * wanted.thick), bench)  # fmt: skip
    added = sum(a.grams for a in advice.actions)
    (short,) = [f for f in advice.follows if f.kind.startswith("follows.wool")]
    assert short.kind == "follows.wool-short"
    assert dict(short.slots)["short"].value == pytest.approx(added - kept)  # type: ignore[union-attr]


def test_wire_end_is_turned_back_before_shortening(bench: Bench) -> None:
    plan = plan_of_badger()
    assert wanted_of(plan, "arm", bench).wire == "ends"
    assert wanted_of(plan, "ear", bench).wire == "none"
    assert wanted_of(plan, "body", bench).wire == "through"
    wired = replace(rod(), wire="ends")
    assert does(advice_for("too-long", 100.0, 20.0, MEDIUM, wired)) == ["turn-wire", "needle-tip"]
    through = replace(rod(), wire="through")
    assert does(advice_for("too-long", 84.0, 20.0, HARDEST, through)) == ["cut-tip"]


def test_wrong_colour_is_something_that_can_be_wrong() -> None:
    told = [said(fact) for fact in remedies(SYMPTOM_BY_ID["wrong-colour"])]
    assert len(told) == 4 and "peel it off" in told[0] and "coat" in told[1]


@pytest.mark.parametrize(("density", "soft"), [(0.84 * MEDIUM, True), (0.86 * MEDIUM, False)])
def test_soft_piece_is_firmed_and_filled_up(density: float, soft: bool) -> None:
    advice = advice_for("too-soft", 80.0, 20.0, density)
    assert advice.within != soft
    if not soft:
        assert not advice.actions
        return
    needled = advice.actions[0]
    # As dense as wanted at the cube root of the share, in all directions.
    share = (density / MEDIUM) ** (1 / 3)
    assert needled.do == "needle-all" and needled.mm == pytest.approx(20 * (1 - share))
    firmed = apply_action(advice.now, needled)
    assert firmed.density == pytest.approx(MEDIUM) and firmed.length == pytest.approx(80 * share)


@pytest.mark.parametrize(("lacks", "layers"), [(5.9, 1), (6.1, 2), (11.9, 2), (12.1, 3)])
def test_wool_is_added_in_thin_layers(lacks: float, layers: int) -> None:
    wanted = WantedPiece(80.0, 40.0, MEDIUM, ROD, joined=True, flat=False)
    advice = advice_for("too-thin", 80.0, 40.0 - lacks, MEDIUM, wanted)
    assert does(advice) == ["add-sides"] * layers
    assert [a.mm for a in advice.actions] == pytest.approx([lacks / layers] * layers)
    whole = weight(80, 40, MEDIUM) - weight(80, 40 - lacks, MEDIUM)
    assert sum(a.grams for a in advice.actions) == pytest.approx(whole)


def test_how_part_should_be_is_what_plan_makes_of_it(bench: Bench) -> None:
    plan = plan_of_badger()
    figure = plan.resized.figure
    for row in plan.parts:
        if not row.count or row.made == "bought":
            continue
        wanted = wanted_of(plan, row.id, bench)
        packed = bench.packed_density(figure, figure.by_id[row.id])
        assert wanted.grams == pytest.approx(packed * row.net_cm3), row.id
        assert wanted.joined == (figure.by_id[row.id].parent is not None)
        assert wanted.flat == isinstance(figure.by_id[row.id].shape, Leaf)
    for step in plan.steps:
        wanted_now = wanted_at(plan, step, bench)
        if step.part is None:
            assert wanted_now is None
        elif step.key.sort != "core":
            assert wanted_now is not None
            assert replace(wanted_now, end_g=0.0) == wanted_of(plan, step.part, bench)
    # While the arm's core is on the pad it is the core: as heavy as its share of the wool, and thinner.
    step = next(s for s in plan.steps if str(s.key) == "core:arm:1")
    core, whole = wanted_at(plan, step, bench), wanted_of(plan, "arm", bench)
    portion = next(p for p in plan.part("arm").portions if p.role == "core")
    assert core is not None and portion.finished_mm is not None
    assert core.thick < whole.thick and core.length <= whole.length
    stout = max(portion.finished_mm["across"], portion.finished_mm["through"])
    for_all = core.grams * portion.finished_mm["along"] * stout**2 / (core.length * core.thick**2)
    assert for_all == pytest.approx(portion.grams, rel=0.02)


@pytest.mark.parametrize(
    ("part", "reading", "kinds"),
    [
        ("head", (1.0, 1.2), {"follows.stand", "follows.eyes", "follows.coat"}),
        ("head", (0.85, 1.0), {"follows.stand", "follows.eyes", "follows.wool"}),
        ("arm", (0.85, 1.0), {"follows.twin", "follows.wool"}),
        ("arm", (1.0, 1.2), {"follows.twin", "follows.coat"}),
        ("nose", (0.85, 1.0), {"follows.wool"}),
        ("head", (1.0, 1.0), set()),
    ],
)
def test_what_mending_one_part_means_for_rest(
    part: str, reading: tuple[float, float], kinds: set[str], bench: Bench
) -> None:
    plan = plan_of_badger()
    wanted = wanted_of(plan, part, bench)
    long, thick = wanted.length * reading[0], wanted.thick * reading[1]
    grams = HARDEST * wanted.fill * long * thick**2
    advice = advise(plan, part, SYMPTOM_BY_ID["too-big"], PieceReading(long, thick, grams), bench)
    assert {fact.kind for fact in advice.follows} == kinds, does(advice)
    for fact in advice.follows:
        if fact.kind == "follows.wool":
            told = dict(fact.slots)
            added = sum(a.grams for a in advice.actions if a.do.startswith("add"))
            kept = next(p for p in plan.part(part).portions if p.role == "core").keep_by_g
            assert told["grams"].value == pytest.approx(added)  # type: ignore[union-attr]
            assert told["left"].value == pytest.approx(max(0.0, kept - added))  # type: ignore[union-attr]
        if fact.kind == "follows.coat":
            coat = plan.resized.figure.by_id[part].coat
            assert coat and dict(fact.slots)["wool"] == bench.wool_by_id[coat.wool].name


def test_mending_thickness_depends_on_flatness(bench: Bench) -> None:
    plan = plan_of_badger()
    for part, wider in (("ear", 1.0), ("arm", 1.2)):
        body, row = plan.resized.figure.by_id[part], plan.part(part)
        wanted = wanted_of(plan, part, bench)
        found = real_measures(
            body, row.to_mm, (wanted.length, wanted.thick), wanted.length * 1.1, wanted.thick * 1.2
        )
        assert found.keys() == row.to_mm.keys()
        assert found.pop("length") == pytest.approx(
            row.to_mm["length"] + 0.1 * wanted.length, rel=0.01
        )
        for name, mm in found.items():
            by = {"width": wider}.get(name, 1.2)
            assert mm == pytest.approx(row.to_mm[name] * by), (part, name)
        assert "length" not in real_measures(
            body, row.to_mm, (wanted.length, wanted.thick), None, wanted.thick
        )


def shown_on(plan: Plan) -> dict[str, set[str]]:
    """The parts on which each symptom is offered."""
    found: dict[str, set[str]] = {}
    for step in plan.steps:
        job = plan.job_of(step)
        for symptom in possible_symptoms(plan, step) if job else ():
            found.setdefault(symptom.id, set()).add(str(step.part))
    return found


@pytest.mark.parametrize("path", [BADGER, HERON])
def test_symptom_is_offered_on_just_parts_that_can_have_it(path: str, bench: Bench) -> None:
    demo = load_demo(path)  # type: ignore[arg-type]
    plan = make_plan(demo.figure, Brief(height=220.0), bench)
    figure: Figure = plan.resized.figure
    shown = shown_on(plan)
    made = {str(step.part) for step in plan.steps if step.part}
    eyes = {f.part for f in figure.fittings if f.kind == "eye"}
    features = {str(p.parent) for p in figure.parts if p.face}
    truth = {
        "uneven": {p.id for p in figure.parts if len(plan.solids.placement.copies_of(p.id)) == 2},
        "floppy": {p.id for p in figure.parts if isinstance(p.shape, Leaf)},
        "long-and-thin": {p.id for p in figure.parts if isinstance(p.shape, Limb)},
        "core-shows": {p.id for p in figure.parts if p.coat},
        "too-firm": {p.id for p in figure.parts if p.parent},
        "hair-sheds": {p.id for p in figure.parts if p.furs},
        "eyes-differ": eyes | features,
        "head-wobbles": {"head"} if path == BADGER else set(),  # a wire runs through the heron's
    }
    for symptom, parts in truth.items():
        assert shown.get(symptom, set()) == parts & made, symptom
    assert {s for s in ("leans", "falls") if s in shown} == {"leans", "falls"}
    # Those of the work in hand come first.
    for step in plan.steps:
        at = [step.key.sort in symptom.sorts for symptom in possible_symptoms(plan, step)]
        assert plan.job_of(step) is None or at == sorted(at, reverse=True)


def test_sized_symptoms_are_computed_for_every_reading() -> None:
    sized = {s.id for s in SYMPTOM_BY_ID.values() if s.sized}
    assert sized == {
        "too-long", "too-short", "too-thick", "too-thin", "too-big", "too-small", "long-and-thin",
        "uneven", "too-soft",
    }  # fmt: skip
    flat = WantedPiece(40.0, 5.0, MEDIUM, ROD, joined=True, flat=True)
    assert flat.has_size(MeasuredPiece(40.0, 5.0, 1.0, ROD)) and not flat.has_size(
        MeasuredPiece(48.0, 5.0, 1.0, ROD)
    )

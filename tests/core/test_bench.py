"""The bench: how long a core takes, which needle and stem is meant, and what is no bench."""

from __future__ import annotations

import json
from typing import Any

import pytest
from pydantic import BaseModel, ValidationError

from bambola.core.bench import (
    Bench,
    Making,
    Pace,
    Record,
    WireStock,
    Wool,
    check_wools,
    load_bench,
    nearest_needle,
)
from bambola.core.bench.making import Sitting, merge_making
from bambola.core.figure import Brief, Coat, DocumentError, Figure, Fur
from bambola.core.figure.places import fur_all_over
from bambola.core.plan import make_plan
from tests.figures import figure_of, one_ball, patch
from tests.said import refused

WOOL = Wool(id="grey", name="Grey", colour="#888888")
WHITE = WOOL.replaced(id="white", name="White")


def bench_of(**more: object) -> Bench:
    return Bench.model_validate({"wools": (WOOL, WHITE), **more})


def in_grey(**more: object) -> Figure:
    (body,) = one_ball(**more).parts
    return figure_of(body.replaced(core="grey"))


def test_each_round_of_core_adds_set_up_time() -> None:
    pace = Pace(setup=4.0, per_gram=10.0)
    # Two rounds of 8 g each. 8^0.8 from a table of logarithms.
    told = 2 * 4.0 + 10.0 * 2.0 * 2 * 5.2780
    assert pace.core_minutes(16.0, 2, "hard") == pytest.approx(told, rel=1e-4)
    assert pace.core_minutes(1.0, 1, "soft") == pytest.approx(4.0 + 0.7 * 10.0)
    assert pace.core_minutes(0.0, 3, "medium") == pace.core_minutes(-2.0, 3, "medium") == 12.0
    twice = pace.times(2.0)
    assert twice.core_minutes(16.0, 2, "hard") == pytest.approx(2 * told, rel=1e-4)
    assert (twice.join, twice.wire, twice.smooth) == (10.0, 4.0, 0.3)


@pytest.mark.parametrize(("gauge", "owned", "taken"), [
    (38, (36, 38, 40), 38), (37, (36, 38), 38), (39, (36, 38, 40), 40), (42, (36, 38, 40), 40),
    (32, (36, 38), 36), (37, (40, 36), 36),
])  # fmt: skip
def test_nearest_needle_is_taken_and_of_two_finer(
    gauge: int, owned: tuple[int, ...], taken: int
) -> None:
    assert nearest_needle(gauge, owned) == bench_of(needles=owned).needle(gauge) == taken


def stock(id_: str, **more: object) -> WireStock:
    given: dict[str, object] = {"metal": "soft steel", "diameter": 1.0, "length": 300.0, **more}
    return WireStock(id=id_, name=id_, **given)  # type: ignore[arg-type]


def test_chenille_is_stem_of_several_cores() -> None:
    coil, plain = stock("coil", cores=2), stock("plain", form="stem")
    stem = stock("stem", form="stem", cores=2)
    assert bench_of(wire_stock=(coil, plain)).chenille is None
    assert bench_of(wire_stock=(coil, plain, stem)).chenille == stem


def test_wool_takes_place_of_its_namesake() -> None:
    bench = bench_of()
    darker = WOOL.replaced(colour="#111111")
    assert bench.with_wool(darker).wools == (darker, WHITE)
    assert bench.with_wool(WHITE.replaced(grams=3.0)).wools == (WOOL, WHITE.replaced(grams=3.0))
    other = WOOL.replaced(id="moss")
    assert bench.with_wool(other).wools == (WOOL, WHITE, other)


def test_beginner_needs_more_room_and_glue_its_time() -> None:
    assert (bench_of().apart_mm, bench_of(beginner=True).apart_mm) == (8.0, 10.0)
    times = {"instant": 2.0, "hot": 3.0, "clear": 30.0, "white": 8 * 60.0}
    assert {glue: bench_of(glue=glue).cure_min for glue in times} == times


def test_what_shrinks_shares_it_out_over_three_directions() -> None:
    third = pytest.approx((1 / 3, 1 / 3, 1 / 3))
    assert WOOL.shrink_weights("ball") == third
    assert WOOL.shrink_weights("sausage") == pytest.approx((0.22, 0.39, 0.39))
    assert WOOL.shrink_weights("cone") == pytest.approx((0.28, 0.36, 0.36))
    assert WOOL.shrink_weights("sheet") == pytest.approx((0.2, 0.2, 0.6))
    learned = WOOL.replaced(along={"sheet": 0.1, "sausage": 0.4})
    assert learned.shrink_weights("sheet") == pytest.approx((0.1, 0.1, 0.8))
    assert learned.shrink_weights("sausage") == pytest.approx((0.4, 0.3, 0.3))


def test_loss_and_records_go_by_role() -> None:
    lost = {"core": 0.04, "coat": 0.08, "inset": 0.08, "seam": 0.08, "fur": 0.15}
    assert {role: WOOL.lost_share(role) for role in lost} == lost  # type: ignore[arg-type]
    known = WOOL.replaced(loss={"coat": 0.2}, known_from={"density:firm": 3, "cover": 7})
    assert (known.lost_share("coat"), known.lost_share("core")) == (0.2, 0.04)
    counts = [known.pieces(role, "firm") for role in ("core", "coat", "inset", "seam", "fur")]  # type: ignore[arg-type]
    assert counts == [3, 7, 7, 7, 7] and known.pieces("core", "soft") == 0
    assert WOOL.pieces("coat", "firm") == 0


def blend(id_: str, *of: str) -> dict[str, Any]:
    recipe = [{"wool": wool, "share": 1} for wool in of]
    return {"id": id_, "name": id_, "colour": "#777777", "recipe": recipe}


@pytest.mark.parametrize(("wrong", "words"), [
    ({"eye_sizes": ()}, "eye_sizes: sizes must be above zero and rise"),
    ({"eye_sizes": (0, 3)}, "eye_sizes: sizes"), ({"wire_sizes": (-0.5, 1)}, "wire_sizes: sizes"),
    ({"wire_sizes": (2, 1)}, "wire_sizes: sizes"),
    ({"wire_stock": (stock("a"), stock("b"), stock("a"))}, "the id “a” is used twice"),
    ({"wools": (WOOL, blend("mix", "gone"))}, "“mix” names “gone”"),
    ({"wools": (WOOL, blend("mix", "grey"), blend("more", "mix"))}, "“more” is made of “mix”, itself"),
    ({"wools": (WOOL, blend("mix", "grey", "grey"))}, "a blend names every wool once"),
])  # fmt: skip
def test_what_is_no_bench_is_refused_in_words(wrong: dict[str, Any], words: str) -> None:
    with refused(DocumentError, words):
        load_bench(written(**wrong), "bench.json")


def test_bench_of_sizes_stock_and_blends_is_read() -> None:
    made = written(
        eye_sizes=(2, 5),
        wire_stock=(stock("a"), stock("b")),
        wools=(WOOL, WHITE, blend("mix", "grey", "white")),
    )
    bench = load_bench(made, "bench.json")
    assert [wool.id for wool in bench.wools] == ["grey", "white", "mix"]
    assert [row.id for row in bench.wire_stock] == ["a", "b"] and bench.eye_sizes == (2, 5)


def written(**more: object) -> str:
    """A bench's file with these fields."""
    plain = json.loads(bench_of().model_dump_json())
    return json.dumps({**plain, **more}, default=lambda value: value.model_dump(mode="json"))


@pytest.mark.parametrize(("field", "changed"), [
    ("core", {"core": "gone"}), ("coat", {"coat": Coat(wool="gone")}),
    ("places › spot", {"places": (patch("spot", "gone", ((-0.3, -0.3), (0.3, -0.3), (0.0, 0.4))),)}),
    ("places › fur › fur", {"places": (fur_all_over(Fur(wool="gone", hair=20.0, spacing=5.0)),)}),
    ("seam_wool", {"seam_wool": "gone"}),
])  # fmt: skip
def test_missing_wool_is_named_with_its_place(field: str, changed: dict[str, Any]) -> None:
    body = in_grey(coat=Coat(wool="white"), seam_wool="grey")
    check_wools(body, bench_of(), "owl.json")
    (part,) = body.parts
    with refused(
        DocumentError, f"body › {field}: the bench has no wool “gone”; it has grey, white"
    ):
        check_wools(body.replaced(parts=(part.replaced(**changed),)), bench_of(), "owl.json")


LIMITS: list[tuple[type[BaseModel], str, float | None, float, float]] = [
    (Record, "grams_in", None, 1e-6, 1e6), (Record, "grams_trimmed", 0.0, 0.0, 1e6),
    (Record, "volume_cm3", None, 1e-6, 1e9), (Record, "area_cm2", None, 1e-6, 1e9),
    (Record, "asked_cover", None, 1e-6, 1.0), (Record, "minutes", None, 1e-6, 1e5),
    (Record, "needle", 20, 20, 50), (Sitting, "minutes", 0.0, 0.0, 1e5),
    (Making, "minutes", 0.0, 0.0, 1e5),
]  # fmt: skip
"""The least that is allowed (None: anything above nought), what still is, and the most."""
GIVEN: dict[type[BaseModel], dict[str, Any]] = {
    Record: {"day": "2026-11-02", "figure": "F", "part": "P", "wool": "grey", "grams_in": 1.0},
    Sitting: {"day": "2026-11-02", "minutes": 1.0}, Making: {},
}  # fmt: skip


@pytest.mark.parametrize(("kind", "field", "least", "low", "most"), LIMITS)
def test_records_are_of_what_can_be(
    kind: type[BaseModel], field: str, least: float | None, low: float, most: float
) -> None:
    def made(value: float) -> BaseModel:
        kept = {"core:body:1": value} if kind is Making else value
        return kind.model_validate({**GIVEN[kind], field: kept})

    step = 1 if field == "needle" else 1e-9
    assert made(low) and made(most)
    for wrong in (
        (least or 0.0) - (step if least is not None else 0.0),
        most + max(1, most * 1e-9),
    ):
        with pytest.raises(ValidationError):
            made(wrong)


@pytest.mark.parametrize(("kind", "field", "most", "inside"), [
    (Record, "note", 2000, str), (Record, "picture", 1000, str), (Sitting, "first", 200, str),
    (Sitting, "last", 200, str), (Making, "at", 200, str),
    (Making, "notes", 2000, lambda text: {"a": text}),
    (Making, "mended", 2000, lambda text: {"a": (text,)}),
])  # fmt: skip
def test_notes_are_as_long_as_page(
    kind: type[BaseModel], field: str, most: int, inside: Any
) -> None:
    assert kind.model_validate({**GIVEN[kind], field: inside("x" * most)})
    with pytest.raises(ValidationError):
        kind.model_validate({**GIVEN[kind], field: inside("x" * (most + 1))})


def test_unsaved_record_has_no_number() -> None:
    record = Record.model_validate(GIVEN[Record])
    assert (record.n, record.grams) == (0, 1.0)
    assert record.model_copy(update={"grams_trimmed": 0.25}).grams == 0.75
    assert record.model_copy(update={"grams_trimmed": 3.0}).grams == 0.0


def test_bench_of_its_own_is_planned_on() -> None:
    plan = make_plan(in_grey(), Brief(), bench_of())
    assert [row.wool for row in plan.wools] == ["grey"]


def test_concurrent_entries_are_merged_and_minutes_added() -> None:
    one, two = (Sitting(day="2026-03-02", minutes=n) for n in (10.0, 20.0))
    before = Making(
        at="a",
        minutes={"a": 5.0},
        notes={"a": "old", "b": "gone"},
        recorded=("arm",),
        sittings=(one,),
    )
    mine = before.replaced(
        at="b", minutes={"a": 8.0, "b": 1.0}, notes={"a": "mine"}, recorded=("arm", "leg"),
        checks={"a": {"1": "passed"}},
    )  # fmt: skip
    theirs = before.replaced(
        at="c", minutes={"a": 6.0, "c": 2.0}, notes={"a": "old", "b": "gone", "c": "theirs"},
        recorded=("arm", "ear"), mended={"c": ("cut",)}, sittings=(one, two),
    )  # fmt: skip
    both = merge_making(theirs, before, mine)
    assert both.minutes == {"a": 9.0, "b": 1.0, "c": 2.0}  # 5 + 3 of mine + 1 of theirs
    assert both.notes == {"a": "mine", "c": "theirs"} and both.at == "b"
    assert both.checks == mine.checks and both.mended == theirs.mended
    assert both.recorded == ("arm", "ear", "leg") and both.sittings == (one, two)
    for making in (before, mine, theirs):  # nothing new is nothing changed
        assert merge_making(making, before, before) == making
    assert merge_making(before, before, mine) == mine

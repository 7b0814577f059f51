"""The sequencer against all orders there are, on works small enough to try every one."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Weights
from bambola.core.facts import Fact, fact
from bambola.core.order import FittingJob, PartJob, Task, WireJob, Work, sequence
from bambola.core.order.book import Book
from bambola.core.order.rules import RULE_BY_ID, RULES
from bambola.core.order.sequence import problem_of
from bambola.core.order.tasks import may_pair, needle_for, tasks_for
from bambola.core.order.work import FurJob
from tests.effort import examples
from tests.said import said

LIGHT = (("cream", 0.9), ("woad", 0.35), ("charcoal", 0.1))


def job(name: str, parent: str | None, **more: object) -> PartJob:
    plain: dict[str, object] = {
        "id": name, "name": name.title(), "plural": f"{name}s", "parent": parent, "grandparent": None,
        "count": 1, "made": "apart", "rounds": 1, "needle": 38, "flat": False, "core": "cream",
        "coat": None, "insets": (), "furs": (),
        "join": "fringe", "face": False,
        "over": (), "wires": (), "garment": False, "passes": None, "must_precede": False,
    }  # fmt: skip
    return PartJob(**(plain | more))  # type: ignore[arg-type]


def cost_of(work: Work, tasks: list[Task]) -> float:
    ordered = tuple(tasks)
    return problem_of(work, ordered, (), dict(LIGHT), Weights()).cost(range(len(ordered)))


def every_order(tasks: tuple[Task, ...], before: dict[str, set[str]]) -> Iterator[list[Task]]:
    """All orders of ``tasks`` in which each comes after those in ``before``."""

    def grow(done: list[Task], left: list[Task]) -> Iterator[list[Task]]:
        if not left:
            yield done
        keys = {task.key for task in done}
        for i, task in enumerate(left):
            if before[task.key] <= keys:
                yield from grow([*done, task], left[:i] + left[i + 1 :])

    yield from grow([], list(tasks))


@examples(25)
@given(
    st.lists(
        st.tuples(st.sampled_from([34.0, 20.0, 6.0]), st.sampled_from([None, "woad", "charcoal"])),
        min_size=1,
        max_size=2,
    )
)
def test_no_order_at_all_is_much_cheaper(children: list[tuple[float, str | None]]) -> None:
    parts = [job("body", None, needle=36)]
    for i, (size, coat) in enumerate(children):
        made = "apart" if size > 8 else "in place"
        parts.append(job(f"part{i}", "body", needle=needle_for(size), coat=coat, made=made))
    work = Work(tuple(parts))
    order = sequence(work, LIGHT)
    before: dict[str, set[str]] = {task.key: set() for task in order.tasks}
    for edge in order.edges:
        before[edge.after].add(edge.before)
    if len(order.tasks) > 10:
        return
    best = min(cost_of(work, found) for found in every_order(order.tasks, before))
    assert cost_of(work, list(order.tasks)) <= best * 1.05


def test_every_rule_has_words_and_name_of_its_own() -> None:
    assert len(RULE_BY_ID) == len(RULES)
    told = [said(Fact(f"rule.{rule.id}")) for rule in RULES]
    assert all(text.endswith(".") and len(text) > 30 for text in told)
    assert sum(rule.hard for rule in RULES) >= 10


def test_preference_gives_way_to_hard_rule() -> None:
    # The face is to wait for the head, but the head's collar holds the head back, and the marks of
    # a head that is over its own parent's coat come when they can: no circle may be left.
    head = job("head", "body", made="on wire", wires=("w",), coat="cream")
    collar = job("collar", "body", garment=True, passes="head", must_precede=True)
    eye = FittingJob("eye", "Eyes", "eye", "head", 2, "glued")
    work = Work(
        (job("body", None, made="on wire", wires=("w",)), head, collar),
        (WireJob("w", fact("named", name="Wire")),),
        (eye,),
    )
    at = {task.key: n for n, task in enumerate(sequence(work, LIGHT).tasks)}
    assert at["bend:w"] < at["core:body:1"] < at["join:collar"] < at["core:head:1"]
    assert at["coat:head"] < at["mark:head"] < at["socket:eye"] < at["fit:eye"] < at["wait:eye"]


def test_light_wool_goes_on_before_dark() -> None:
    parts = [job("body", None)]
    parts += [
        job(name, "body", core=core)
        for name, core in (("a", "charcoal"), ("b", "cream"), ("c", "charcoal"))
    ]
    order = [
        task.wool
        for task in sequence(Work(tuple(parts)), LIGHT).tasks
        if task.key.startswith("core")
    ]
    assert order == ["cream", "cream", "charcoal", "charcoal"]


@pytest.mark.parametrize(
    ("size", "gauge"), [(60.0, 36), (30.1, 36), (30.0, 38), (10.0, 38), (9.9, 40), (3.0, 40)]
)
def test_needles_by_smallest_dimension(size: float, gauge: int) -> None:
    assert needle_for(size) == gauge


def test_rows_of_fur_run_from_edge_and_close_over_joins() -> None:
    parts = (
        job("body", None, furs=(FurJob("", "", "cream", 3, "base"),)),
        job("horn", "body"),
        job("bow", "body", face=True),
    )
    at = {task.key: n for n, task in enumerate(sequence(Work(parts), LIGHT).tasks)}
    first = at["fur:body:1"]
    assert max(at["join:horn"], at["join:bow"]) < first < at["fur:body:2"] < at["fur:body:3"]


def test_same_work_is_put_in_order_once() -> None:
    work = Work((job("body", None), job("ear", "body")))
    assert sequence(work, LIGHT) is sequence(Work((job("body", None), job("ear", "body"))), LIGHT)


def test_only_flat_touching_pairs_may_be_paired() -> None:
    ear = {"flat": True, "count": 2, "meets": True}
    work = Work((), feet=("foot",))
    assert may_pair(work, job("ear", "head", **ear)) and not may_pair(
        work, job("foot", "leg", **ear)
    )
    others = (
        {"made": "on wire"}, {"made": "in place"}, {"made": "bought"}, {"made": "detail"},
        {"flat": False}, {"count": 1}, {"count": 3}, {"garment": True}, {"meets": False},
    )  # fmt: skip
    for other in others:
        assert not may_pair(work, job("ear", "head", **(ear | other))), other
    assert not may_pair(work, job("ear", None, **ear))


def test_inner_part_is_made_before_winding() -> None:
    """A hard core under a wound body, and one under a body that is shaped apart and joined."""
    for made, closes in (("on wire", "core:coat:1"), ("apart", "join:coat")):
        inner = job("heart", "base", made="on wire", wires=("spine",))
        outer = job("coat", "base", made=made, over=("heart",))
        base = job("base", None, made="on wire", wires=("spine",))
        work = Work((base, inner, outer), (WireJob("spine", fact("named", name="Spine")),), ())
        book = Book(work, tasks_for(work))
        pairs = {(str(a), str(b)) for a, b in RULE_BY_ID["enclosed-first"].pairs(book)}
        assert pairs and {last for _, last in pairs} == {closes}

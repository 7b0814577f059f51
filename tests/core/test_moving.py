"""The maker's own moves: taken or refused exactly as the rules say, each refusal with a true chain."""

from __future__ import annotations

import itertools
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.figure import Brief, Document, Figure, Move
from bambola.core.order import (
    CHOICES,
    RULE_BY_ID,
    RULES,
    OrderConflictError,
    broken_by,
    move_key,
    places_for,
    why_not_move,
)
from bambola.core.order.book import Book
from bambola.core.order.tasks import tasks_for
from bambola.core.order.work import Work
from bambola.core.plan import Plan, make_plan
from bambola.demo import HERON, load_demo
from bambola.shipped import default_bench
from tests.core.switches import SHEET, sheet
from tests.effort import THOROUGH, examples
from tests.figures import figures


def hard_pairs(
    work: Work,
) -> tuple[set[tuple[str, str, str]], list[tuple[str, str, set[str]]], set[str]]:
    """Straight from the rules: (before, after, rule), what must stay out while glue cures, and all keys."""
    tasks = tasks_for(work)
    book = Book(work, tasks)
    pairs = {
        (a, b, rule.id)
        for rule in RULES if rule.hard
        for a, b in rule.pairs(book) if a in book.tasks and b in book.tasks
    }  # fmt: skip
    parents = {p.id: p.parent for p in work.parts}
    made = {p.id: p.made for p in work.parts}
    glue = []
    eyes = [(f"fit:{f.id}", f"wait:{f.id}", f.part) for f in work.fittings if f.glued]
    wound = [(f"core:{p.id}:1", f"dry:{p.id}", p.id) for p in work.parts if p.wound]
    pegged = [
        (f"join:{p.id}", f"dry:{p.id}", p.id)
        for p in work.parts
        if p.is_pegged and f"dry:{p.id}" in book.tasks and not p.wound
    ]
    for first, dry, part in eyes + wound + pegged:
        handled = {
            t.key for t in tasks
            if t.key not in (first, dry) and (
                t.part == part
                or (t.part and parents[t.part] == part and (
                    t.kind in ("join", "pre-join", "blend", "dress", "detail")
                    or (t.kind == "shape" and made[t.part] == "in place")))
            )
        }  # fmt: skip
        glue.append((first, dry, handled))
    return pairs, glue, set(book.tasks)


def lawful(
    keys: list[str], pairs: set[tuple[str, str, str]], glue: list[tuple[str, str, set[str]]]
) -> bool:
    at = {k: i for i, k in enumerate(keys)}
    if any(at[a] >= at[b] for a, b, _ in pairs):
        return False
    return not any(at[fit] < at[k] < at[wait] for fit, wait, kept in glue for k in kept)


@examples(60, 3)
@given(figures(), st.integers(0, 10**6))
def test_moves_are_taken_or_refused_exactly_as_rules_say(figure: Figure, seed: int) -> None:
    try:
        plan = make_plan(figure, Brief(), default_bench())
    except OrderConflictError:
        return
    keys = [s.key for s in plan.steps]
    moves_are_as_the_rules_say(plan, random.Random(seed).sample(keys, min(6, len(keys))))


def test_moves_are_accepted_or_refused_by_rules(badger: Document) -> None:
    """Its eyes are glued, so that there are places between others that are shut: to its snout's seam, and to
    the end of the wait itself."""
    plan = make_plan(badger.figure, badger.brief, default_bench())
    keys = [s.key for s in plan.steps]
    some = [*keys[2::5], "join:ear", "blend:snout", "wait:eye"]
    moves_are_as_the_rules_say(plan, keys if THOROUGH else some)


def moves_are_as_the_rules_say(plan: Plan, of: list[str]) -> None:
    pairs, glue, known = hard_pairs(plan.work)
    keys = [s.key for s in plan.steps]
    assert known == set(keys)
    assert lawful(keys, pairs, glue)
    for key in of:
        may = places_for(plan.order, key)
        for to in range(len(keys)):
            allowed = lawful(move_key(keys, key, to), pairs, glue)
            no = why_not_move(plan.order, key, to)
            assert (to in may) == allowed == (no is None), (key, to)
            if no is not None:
                assert no.chain
                for edge in no.chain:
                    assert RULE_BY_ID[edge.rule].hard
                    assert (
                        edge.before,
                        edge.after,
                        edge.rule,
                    ) in pairs or edge.rule == "glue-cures"
                for one, then in itertools.pairwise(no.chain):
                    assert one.after == then.before
                # What would have to go along is what lies between, never the step itself.
                at = keys.index(key)
                passed = keys[to:at] if to < at else keys[at + 1 : to + 1]
                assert set(no.along) <= set(passed)
                bound = held(pairs, key, to < at)
                in_way = [k for k in passed if k in bound]
                if not in_way:
                    assert [edge.rule for edge in no.chain] == ["glue-cures"]
                    continue
                # The nearest of those in its way is told, and all of them would have to go along.
                nearest = in_way[-1] if to < at else in_way[0]
                first, last = (nearest, key) if to < at else (key, nearest)
                assert (no.chain[0].before, no.chain[-1].after) == (first, last)
                assert no.along in ((), tuple(in_way))
            else:
                new = move_key(keys, key, to)
                wishes = {e for e in plan.order.edges if not RULE_BY_ID[e.rule].hard}
                lost = {e for e in wishes if new.index(e.before) > new.index(e.after)}
                assert set(broken_by(plan.order, key, to)) == lost


def held(pairs: set[tuple[str, str, str]], key: str, before: bool) -> set[str]:
    """All that has to stand before ``key``, or after it, by the hard rules."""
    found, new = set[str](), {key}
    while new:
        new = {a if before else b for a, b, _ in pairs if (b if before else a) in new} - found
        found |= new
    return found


def test_move_yields_to_hard_rules_at_other_sizes(badger: Document) -> None:
    bench = default_bench()
    plan = make_plan(badger.figure, badger.brief, bench)
    keys = [s.key for s in plan.steps]
    at = keys.index("coat:cape")
    to = places_for(plan.order, "coat:cape")[0]
    assert to < at
    brief = badger.brief.replaced(moves=(Move(step="coat:cape", after=keys[to - 1]),))
    own = make_plan(badger.figure, brief, bench)
    assert [s.key for s in own.steps] == move_key(keys, "coat:cape", to)
    assert any(w.rule == "own-move" for w in own.steps[to].why)
    wished = [(e.before, e.after) for e in own.order.edges if e.rule == "own-move"]
    assert wished == [(keys[to - 1], "coat:cape")]
    assert all(n < s.n for s in own.steps for n in s.after)
    # A move that may not be made goes as near as it may; one whose step is gone is passed over.
    far = badger.brief.replaced(
        moves=(Move(step="coat:cape", after=None), Move(step="coat:horn", after=None))
    )
    first = [s.key for s in make_plan(badger.figure, far, bench).steps]
    assert first.index("coat:cape") == to
    # What is to be first comes after nothing.
    other = next(key for key in keys[1:] if places_for(plan.order, key)[0] == 0)
    foremost = make_plan(badger.figure, badger.brief.replaced(moves=(Move(step=other),)), bench)
    assert foremost.steps[0].key == other
    assert not [e for e in foremost.order.edges if e.rule == "own-move"]
    for height in (60.0, 140.0, 320.0):
        make_plan(badger.figure, brief.at_height(height), bench)


def test_what_must_go_along_is_enough(badger: Document) -> None:
    plan = make_plan(badger.figure, badger.brief, default_bench())
    keys = [s.key for s in plan.steps]
    pairs, glue, _ = hard_pairs(plan.work)
    tried = 0
    for key in keys:
        for to in range(len(keys)):
            no = why_not_move(plan.order, key, to)
            if no is None or not no.along:
                continue
            later = to > keys.index(key)
            group = [k for k in keys if k in (*no.along, key)]
            rest = [k for k in keys if k not in group]
            place = to - len(group) + 1 if later else to
            assert lawful([*rest[:place], *group, *rest[place:]], pairs, glue)
            tried += 1
    assert tried > 100
    assert broken_by(plan.order, "mark:head", keys.index("mark:head")) == ()


@pytest.mark.parametrize(
    ("choice", "school", "moves"),
    [
        (
            "face",
            "after",
            {"fit:eye", "join:ear", "join:nose", "mark:head", "socket:eye", "wait:eye"},
        ),
        ("insets", "first", {"coat:snout", "inset:head:face-stripes"}),
        ("clothes", "head last", {"join:head", "blend:head"}),
        ("small", "firm", set()),
        ("near wire", "fine", set()),
        ("legs", "body down", {"core:arm:1", "core:leg:1"}),
    ],
)
def test_switch_moves_what_it_is_about_and_nothing_else(
    badger: Document, choice: str, school: str, moves: set[str]
) -> None:
    bench = default_bench()
    # At 140 mm the nose is a small part; at 220 none is.
    brief = badger.brief.at_height(140.0) if choice == "small" else badger.brief
    usual = make_plan(badger.figure, brief, bench)
    other = make_plan(badger.figure, brief.schooled(choice, school), bench)
    keys, now = [s.key for s in usual.steps], [s.key for s in other.steps]
    assert [k for k in keys if k not in moves] == [k for k in now if k not in moves]
    assert choice in usual.choices
    texts = {s.key: (s.text, s.needle, s.checks) for s in usual.steps}
    told = {
        s.key
        for s in other.steps
        if s.key in texts and texts[s.key] != (s.text, s.needle, s.checks)
    }
    wired = {p.id for p in usual.parts if p.made == "on wire"}
    if choice == "near wire":
        assert told and all(k.split(":")[1] in wired for k in told)
    elif choice == "legs":
        assert told == {"core:leg:1", "core:arm:1"}
    elif choice == "small":
        assert told <= {k for k in keys if k.startswith("core:")}
    else:
        assert not told


def test_limbs_one_at_time_are_finished_one_after_other(badger: Document) -> None:
    bench = default_bench()
    usual = make_plan(badger.figure, badger.brief, bench)
    plan = make_plan(badger.figure, badger.brief.schooled("limbs", "one at a time"), bench)
    keys = [s.key for s in plan.steps]
    for limb in ("leg", "arm"):
        assert (
            keys.index(f"coat:{limb}")
            < keys.index(f"core:{limb}.2:1")
            < keys.index(f"coat:{limb}.2")
        )
        assert plan.steps[keys.index(f"core:{limb}.2:1")].part == limb
    assert plan.minutes == pytest.approx(usual.minutes, rel=0.02)


def test_every_choice_and_school_leads_to_order(badger: Document) -> None:
    for document in (badger, load_demo(HERON)) if THOROUGH else (badger,):
        for choice in CHOICES:
            assert choice.default in choice.schools
            for school in choice.schools if THOROUGH else choice.schools[-1:]:
                plan: Plan = make_plan(
                    document.figure, document.brief.schooled(choice.id, school), default_bench()
                )
                assert all(n < s.n for s in plan.steps for n in s.after)


def test_what_every_switch_does_to_badger_is_as_written_down() -> None:
    told = SHEET.read_text(encoding="utf-8")
    assert sheet() == told, "read what differs; if it is meant, `make snapshots`"
    # A choice that does nothing here says so; every other moves, adds or words something otherwise.
    silent = [
        block.splitlines()[0]
        for block in told.split("\n\n")
        if block.rstrip().endswith("  nothing")
    ]
    assert silent == [
        "The face: eyes and nose in the hand", "Ears and other pairs: pair first",
        "The neck: scarf of wool only", "Head and clothes: clothes last", "Small parts: firm first",
        "Head, body and lumps: of one mass", "Firmness: firm and hard-wearing",
        "White over white: the core itself", "Eyes: glued in", "Wire under little wool: bare",
        "Fixing fur: by its middle, then trimmed", "Fixing fur: in locks, by the root",
        "How the head is set: on a neck bump", "Limbs on a stem of their own: under a band of wool",
        "Folds of a sitting figure: only bent", "Two colours on a thin sheet: laid on later",
    ]  # fmt: skip

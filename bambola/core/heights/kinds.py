"""The kinds of turns: what may change with the height, one function each, and its text."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import TypeAlias

from bambola.core.armature.gauge import STOUTER, does_for
from bambola.core.armature.strength import PROPERTIES
from bambola.core.bench import Bench
from bambola.core.facts import Fact, Grams, SoldSize, Value, fact
from bambola.core.figure import Fitting
from bambola.core.figure.questions import EyeSize
from bambola.core.frozen import frozen
from bambola.core.heights.values import Rank, StateAtHeight, edges_passed, overall_size
from bambola.core.order.steps import made_fact
from bambola.core.plan import FittingPlan, Plan
from bambola.core.resize import EYE_TOLERANCE
from bambola.core.resize.laws import AT_ONCE_MM, HELD_MM, ROUND_MM, held_mm
from bambola.core.wool.portions import SOFT_FROM_MM

Tells: TypeAlias = Callable[[Plan, Bench], Iterable[tuple[str, StateAtHeight]]]


@frozen
class TurnKind:
    """A kind of turn: its subject, and the text of each at one height."""

    id: str
    rank: Rank
    tells: Tells


PACKS = (1, 2, 3, 4, 8, 16, 32, 64, 128)
"""After so many packs of a wool it is told that there are more: one by one at first, then where they double.
Judged: what matters is the first that must be bought, and later only how many about. See craft.md, 11."""
_ONE_BY_ONE = 4
DAY_MIN = 480.0
"""A day at the table, minutes. Judged. See craft.md, 11."""


def _question_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    answered = {notice.code for notice in plan.notices if notice.answer is not None}
    eyes = {}
    for fitting, row in _ready_made(plan):
        # A size may be wrong between two that are right for so short a while that it has to be looked for.
        code = EyeSize(row.id).code
        if code not in answered:
            edges = _right_sizes(bench.eye_sizes)
            state = edges_passed(row.wanted_mm, edges)
            text = fact("turn.eyes-right" if state % 2 else "eye-size", name=row.name)
            eyes[code] = StateAtHeight(state, text, fitting.part, row.wanted_mm, edges)
    yield from eyes.items()
    for notice in plan.notices:
        if notice.waits and notice.code not in eyes:
            yield notice.code, StateAtHeight(notice.level, notice.title, notice.part)


def _right_sizes(sizes: Iterable[float]) -> tuple[float, ...]:
    """Return the heights at which a wanted size begins or ceases to be near enough to one that is sold, in
    turn (mm)."""
    found: list[float] = []
    for size in sizes:
        low, high = size / (1 + EYE_TOLERANCE), size / (1 - EYE_TOLERANCE)
        if found and low <= found[-1]:
            found[-1] = high
        else:
            found += (low, high)
    return tuple(found)


def _ready_made(plan: Plan) -> Iterator[tuple[Fitting, FittingPlan]]:
    of = {fitting.id: fitting for fitting in plan.resized.was.fittings}
    for row in plan.fittings:
        if row.id in of and of[row.id].follows == "ready-made":
            yield of[row.id], row


def _note_signs(plan: Plan, _: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    for notice in plan.notices:
        if not notice.waits and not notice.code.startswith(_OF_EVERY_SIZE):
            yield notice.code, StateAtHeight(notice.level, notice.title, notice.part)


_OF_EVERY_SIZE = ("sized:", "buy-wire:")
"""What the notes are called that stand beside every size, or are numbered."""


def _standing_signs(plan: Plan, _: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    if plan.resized.figure.stance != "hanging":
        stands = plan.balance.stands
        yield "", StateAtHeight(stands, Fact("turn.stands" if stands else "turn.falls"))


def _pack_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    for total in plan.wools:
        wool = bench.wool_by_id[total.wool]
        have = wool.grams or 0.0
        need = total.own_g - 1e-9
        edges = (have, *(have + n * wool.pack_g for n in PACKS))
        state = edges_passed(need, edges)
        slots: dict[str, Value] = {"wool": wool.name, "pack": Grams(wool.pack_g)}
        if not state:
            text = fact("turn.enough", wool=wool.name)
        else:
            n = 1 if state == 1 else PACKS[state - 2]
            over = state > 1 and n >= _ONE_BY_ONE
            more = n if over or state == 1 else n + 1
            text = fact("turn.over-packs" if over else "turn.packs", n=more, **slots)
        passed = fact("turn.runs-out", **slots) if state == 1 and have > 0 else None
        yield total.wool, StateAtHeight(state, text, None, need, edges, passed)


def _eye_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    sizes = tuple(float(size) for size in bench.eye_sizes)
    for fitting, row in _ready_made(plan):
        state = edges_passed(row.wanted_mm, sizes)
        passed = None
        if not state:
            text = fact("turn.eyes-smaller", name=row.name, size=SoldSize(sizes[0]))
        elif state == len(sizes):
            text = fact("turn.eyes-larger", name=row.name, size=SoldSize(sizes[-1]))
        else:
            below, above = SoldSize(sizes[state - 1]), SoldSize(sizes[state])
            text = fact("turn.eyes-between", name=row.name, below=below, above=above)
        if state:
            passed = fact("turn.eyes-fit", name=row.name, size=SoldSize(sizes[state - 1]))
        yield row.id, StateAtHeight(state, text, fitting.part, row.wanted_mm, sizes, passed)


def _wire_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    shelf = {one.diameter / STOUTER for one in bench.wire_stock if one.cores == 1}
    edges = tuple(sorted({*map(does_for, bench.wire_sizes), *shelf}))
    for wire in plan.wires:
        gauge = plan.gauges.get(wire.id)
        size = SoldSize(wire.diameter_mm)
        slots: dict[str, Value] = {"wire": wire.name, "stock": wire.stock, "size": size}
        by_hand = gauge is None or wire.diameter_mm <= PROPERTIES[gauge.metal].by_hand_mm + 1e-9
        text = fact("turn.wire" if by_hand else "turn.wire.pliers", n=wire.strands, **slots)
        yield wire.id, StateAtHeight(text, text, None, wire.needed_mm, edges)


def _states_of_making(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    of, edges = plan.resized.figure.by_id, (HELD_MM, bench.apart_mm)
    for part in plan.parts:
        text = fact("turn.made", part=part.name, made=made_fact(part.made))
        held = held_mm(of[part.id], of[part.id].shape)
        yield part.id, StateAtHeight(part.made, text, part.id, held, edges)


_ROUNDS_MM = (0.0, *(AT_ONCE_MM + ROUND_MM * n for n in range(40)))
"""How thick cores of no, one and more rounds may be, mm."""


def _core_signs(plan: Plan, _: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    for job in plan.work.parts:
        if job.id not in plan.resized.figure.by_id or not job.is_felted:
            continue
        bare = job.coreless or job.left_out or job.made == "detail"
        rounds = 0 if bare else job.rounds
        text = (
            fact("turn.rounds", part=job.name, n=rounds)
            if rounds
            else fact("turn.no-core", part=job.name)
        )
        sized = plan.resized.figure.by_id[job.id].shape.smallest_mm
        thick = sized - 2 * plan.part(job.id).coat_mm
        smooth, near = plan.resized.even, (SOFT_FROM_MM,)
        yield (
            job.id,
            StateAtHeight(rounds, text, job.id, thick, _ROUNDS_MM, smooth=smooth, near=near),
        )


def _join_signs(plan: Plan, _: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    for row in plan.joins:
        part = plan.part(row.part)
        if part.made != "apart":
            continue
        kind = Fact(f"join.{row.kind}")
        yield (
            row.part,
            StateAtHeight(row.kind, fact("turn.join", part=part.name, kind=kind), row.part),
        )


def _time_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    evening = float(max((slot.minutes for slot in bench.free), default=0))
    week = float(sum(slot.minutes for slot in bench.free))
    limits = {DAY_MIN: Fact("turn.day")}
    if bench.free:
        limits |= {evening: Fact("turn.evening"), week: Fact("turn.week")}
    edges = tuple(sorted(limits))
    state = edges_passed(plan.minutes, edges)
    text = limits[edges[state - 1]] if state else Fact("turn.quick")
    yield "", StateAtHeight(state, text, None, plan.minutes, edges, smooth=False)


def _niche_signs(plan: Plan, bench: Bench) -> Iterator[tuple[str, StateAtHeight]]:
    reach = overall_size(plan) if bench.niches else {}
    for niche in bench.niches:
        # As much as it fills of where it is tightest.
        filled = max(reach[name] / room for name, room in niche.sides.items()) - 1e-9
        state = edges_passed(filled, (1.0,))
        kind = "turn.fits-not" if state else "turn.fits"
        text = fact(kind, where=niche.name)
        yield niche.name, StateAtHeight(state, text, None, filled, (1.0,), smooth=plan.resized.even)


KINDS: tuple[TurnKind, ...] = (
    TurnKind("refused", "decide", lambda *_: ()),  # told where there is no plan to be read
    TurnKind("question", "decide", _question_signs),
    TurnKind("standing", "decide", _standing_signs),
    TurnKind("packs", "buy", _pack_signs),
    TurnKind("eyes", "buy", _eye_signs),
    TurnKind("wire", "buy", _wire_signs),
    TurnKind("niche", "buy", _niche_signs),
    TurnKind("time", "buy", _time_signs),
    TurnKind("made", "make", _states_of_making),
    TurnKind("join", "make", _join_signs),
    TurnKind("core", "make", _core_signs),
    TurnKind("note", "note", _note_signs),
)
KIND_BY_ID = {kind.id: kind for kind in KINDS}

"""What a new size changes in the making, each difference with its cause."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.balance import ALLOWED_KPA
from bambola.core.bench import Bench
from bambola.core.facts import Exact, Fact, Holds, Mm, fact, together
from bambola.core.order import Change, differences_in_making
from bambola.core.order.tasks import MIDDLE_FROM_MM, STOUT_FROM_MM
from bambola.core.plan.making.at_size import FOLDED_MM, SizedAnalysis
from bambola.core.plan.making.dress import dress_of
from bambola.core.plan.making.jobs import LINES_MM, SMALL_MM
from bambola.core.resize import AT_ONCE_MM, HELD_MM, held_mm

FIRST = (
    "wire",
    "row",
    "made",
    "core",
    "patch",
    "join",
    "dress",
    "fur rows",
    "rounds",
    "firmed",
    "needle",
)
"""What matters more is told first."""


def changes_in_making(old: SizedAnalysis, new: SizedAnalysis, bench: Bench) -> tuple[Change, ...]:
    """Return what is made otherwise at the size ``new`` than at ``old``, and why."""
    every = (*_wire_count_change(old, new), *differences_in_making(old.work, new.work))
    found = sorted(every, key=lambda change: FIRST.index(change.what))
    return tuple(
        # By hand: this runs for every change of every frame of a pull.
        Change(c.part, c.what, c.was, c.now, c.text, together(*_causes_of(c, old, new, bench)))
        for c in found
    )


def _wire_count_change(old: SizedAnalysis, new: SizedAnalysis) -> Iterator[Change]:
    """Yield another number of wires to cut."""
    was, now = len(old.resized.figure.wires), len(new.resized.figure.wires)
    if was != now and now:
        text = fact("change.wires", n=now, was=was)
        yield Change(None, "wire", str(was), str(now), text)


def _causes_of(
    change: Change, old: SizedAnalysis, new: SizedAnalysis, bench: Bench
) -> Iterator[Fact]:
    part = change.part
    if part is None:
        small = new.resized.to_height < FOLDED_MM <= old.resized.to_height
        yield fact("cause.folded", under=Mm(FOLDED_MM)) if small else Fact("cause.chosen")
        return
    was, now = old.resized.figure.by_id[part], new.resized.figure.by_id[part]
    match change.what:
        case "made":
            yield from _causes_of_making(change, old, new, bench)
        case "core":
            a, b = (p.shape.smallest_mm for p in (was, now))
            yield fact("cause.smallest", was=Exact(a), now=Exact(b))
            yield Fact("cause.loses-core" if change.now == "coat" else "cause.gains-core")
        case "row":
            a, b = (max(p.shape.measures().values()) for p in (was, now))
            yield fact("cause.row", was=Exact(a), now=Exact(b))
        case "patch":
            yield fact("cause.lines", under=Mm(LINES_MM))
        case "rounds":
            a, b = (size.wired.wool[part].core_mm for size in (old, new))
            yield fact("cause.rounds", was=Exact(a), now=Exact(b), once=Mm(AT_ONCE_MM))
        case "join":
            yield from _join_causes(change, new)
        case "fur rows" if now.furs:
            a, b = (size.wired.wool[part].long_mm for size in (old, new))
            fur = now.furs[0].fur
            assert fur is not None
            yield fact(
                "cause.fur-rows", was=Mm(a), now=Mm(b), every=Mm(fur.spacing), hair=Mm(fur.hair)
            )
        case "dress":
            yield from _dress_changes(part, old, new)
        case "needle":
            a, b = (p.shape.smallest_mm for p in (was, now))
            yield fact("cause.smallest", was=Exact(a), now=Exact(b))
            if {36, 38, 40} <= set(bench.needles):
                yield fact("cause.needle", stout=Mm(STOUT_FROM_MM), middle=Mm(MIDDLE_FROM_MM))
        case "firmed":
            a, b = (p.shape.smallest_mm for p in (was, now))
            yield fact("cause.smallest", was=Exact(a), now=Exact(b))
            yield fact("cause.firmed", small=Mm(SMALL_MM))


def _causes_of_making(
    change: Change, old: SizedAnalysis, new: SizedAnalysis, bench: Bench
) -> Iterator[Fact]:
    part = change.part
    assert part is not None
    if "on wire" in (change.was, change.now):
        yield Fact("cause.wire" if change.now == "on wire" else "cause.no-wire")
        return
    was, now = old.resized.figure.by_id[part], new.resized.figure.by_id[part]
    a, b = held_mm(was, was.shape), held_mm(now, now.shape)
    yield fact("cause.smallest", was=Exact(a), now=Exact(b))
    if "detail" in (change.was, change.now):
        yield fact("cause.thread", under=Mm(HELD_MM))
    if "apart" in (change.was, change.now):
        yield fact("cause.apart", under=Mm(bench.apart_mm))


def _join_causes(change: Change, new: SizedAnalysis) -> Iterator[Fact]:
    job = next(job for job in new.work.parts if job.id == change.part)
    if job.made in ("in place", "detail"):
        yield Fact("cause.built-in-place")
        return
    row = next((row for row in new.stresses if row.part == change.part), None)
    if row is None:
        yield Fact("cause.chosen")
        return
    now, instead = (
        Holds(ALLOWED_KPA[kind] / max(row.stress_kpa, 1e-9)) for kind in (change.was, change.now)
    )
    yield fact(
        "cause.join-lifted" if row.carries_all else "cause.join-weight",
        kind=Fact(f"join.{change.was}"),
        was=Holds(ALLOWED_KPA[change.was] / max(row.was_kpa, 1e-9)),
        now=now,
        other=Fact(f"join.{change.now}"),
        instead=instead,
    )


def _dress_changes(part: str, old: SizedAnalysis, new: SizedAnalysis) -> Iterator[Fact]:
    a, b = (dress_of(f.by_id[part], f) for f in (old.resized.figure, new.resized.figure))
    same = abs(a.stretched_mm - b.stretched_mm) < 0.05
    yield fact(
        "cause.dress-same" if same else "cause.dress",
        over=new.resized.figure.by_id[b.passes].name,
        was=Exact(a.passes_mm),
        now=Exact(b.passes_mm),
        stretched=Exact(a.stretched_mm),
        stretches=Exact(b.stretched_mm),
    )

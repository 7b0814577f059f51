"""What a new size changes in the making, each difference with its cause in numbers."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from bambola.core.balance import ALLOWED_KPA
from bambola.core.bench import Bench
from bambola.core.order import Change, differences
from bambola.core.plan.making.at_size import AtSize
from bambola.core.plan.making.dress import dress_of
from bambola.core.plan.making.jobs import SMALL_MM
from bambola.core.resize import HELD_MM, NEEDLE_REACH_MM, held_mm
from bambola.core.words import held_words

FIRST = ("made", "join", "dress", "fur rows", "rounds", "firmed", "needle")
"""What matters more is told first."""


def changes(old: AtSize, new: AtSize, bench: Bench) -> tuple[Change, ...]:
    """What is made otherwise at the size ``new`` than at ``old``, and why."""
    found = sorted(differences(old.work, new.work), key=lambda change: FIRST.index(change.what))
    return tuple(
        replace(change, cause=" ".join(_causes(change, old, new, bench))) for change in found
    )


def _causes(change: Change, old: AtSize, new: AtSize, bench: Bench) -> Iterator[str]:
    part = change.part
    assert part is not None
    was, now = old.resized.figure.by_id[part], new.resized.figure.by_id[part]
    match change.what:
        case "made":
            yield from _made(change, old, new, bench)
        case "rounds":
            a, b = (size.wired.wool[part].core_mm for size in (old, new))
            yield f"The core was {_mm(a)} thick and is {_mm(b)}; a needle reaches {NEEDLE_REACH_MM:g} mm."
        case "join":
            yield from _joined(change, new)
        case "fur rows" if now.fur is not None:
            a, b = (size.wired.wool[part].long_mm for size in (old, new))
            yield (
                f"They cover {_mm(b)} where they covered {_mm(a)}, a row every {now.fur.spacing:g} mm: "
                f"hair of {now.fur.hair:g} mm does not grow with it."
            )
        case "dress":
            yield from _dressed(part, old, new)
        case "needle":
            a, b = (p.shape.smallest_mm for p in (was, now))
            yield f"It was {_mm(a)} at its smallest and is {_mm(b)}; over 30 mm takes 36, from 10 mm 38."
        case "firmed":
            a, b = (p.shape.smallest_mm for p in (was, now))
            yield (
                f"It was {_mm(a)} at its smallest and is {_mm(b)}; "
                f"soft wool grips better under {SMALL_MM:g} mm."
            )


def _made(change: Change, old: AtSize, new: AtSize, bench: Bench) -> Iterator[str]:
    part = change.part
    assert part is not None
    if "on wire" in (change.was, change.now):
        yield "A wire runs in it now." if change.now == "on wire" else "No wire runs in it now."
        return
    was, now = old.resized.figure.by_id[part], new.resized.figure.by_id[part]
    a, b = held_mm(was, was.shape), held_mm(now, now.shape)
    yield f"It was {_mm(a)} at its smallest and is {_mm(b)}."
    if "detail" in (change.was, change.now):
        yield f"Under {HELD_MM:g} mm it is a thread of wool."
    if "apart" in (change.was, change.now):
        yield f"Under {bench.apart_mm:g} mm it cannot be held while it is felted."


def _joined(change: Change, new: AtSize) -> Iterator[str]:
    job = next(job for job in new.work.parts if job.id == change.part)
    if job.made in ("in place", "detail"):
        yield "What is built in place grows on what bears it, and needs nothing to hold it."
        return
    row = next((row for row in new.stresses if row.part == change.part), None)
    if row is None:
        yield "You chose it."
        return
    lifted = "the figure lifted by it" if row.carries_all else "its own weight"
    was = held_words(ALLOWED_KPA[change.was] / max(row.was_kpa, 1e-9))
    now, instead = (
        held_words(ALLOWED_KPA[kind] / max(row.stress_kpa, 1e-9))
        for kind in (change.was, change.now)
    )
    yield (
        f"With {lifted} and jerked, a {change.was} held {was} and would now hold {now}; a {change.now} holds "
        f"{instead}."
    )


def _dressed(part: str, old: AtSize, new: AtSize) -> Iterator[str]:
    a, b = (dress_of(f.by_id[part], f) for f in (old.resized.figure, new.resized.figure))
    over = new.resized.figure.by_id[b.passes].name.lower()
    opening = (
        f"stretches to {_mm(b.stretched_mm)}"
        if abs(a.stretched_mm - b.stretched_mm) < 0.05
        else f"stretched to {_mm(a.stretched_mm)} and stretches to {_mm(b.stretched_mm)}"
    )
    yield f"The {over} was {_mm(a.passes_mm)} round and is {_mm(b.passes_mm)}; its opening {opening}."


def _mm(value: float) -> str:
    return f"{value:.0f} mm" if value >= 30 else f"{value:.1f} mm"

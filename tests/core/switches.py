"""What every switch does to the badger's order, as a sheet to read: ``make snapshots`` writes it anew."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from bambola.core.order import CHOICES, Step
from bambola.core.plan import make_plan
from bambola.core.plan.counter.differing import moved_steps
from bambola.demo import load_demo
from bambola.shipped import default_bench
from tests.said import said

SHEET = Path(__file__).with_name("switches.txt")


def sheet() -> str:
    """Every school of every choice with the steps it moves, adds, drops or words otherwise."""
    return "\n".join(_lines()) + "\n"


def _lines() -> Iterator[str]:
    badger, bench = load_demo(), default_bench()
    usual = make_plan(badger.figure, badger.brief, bench)
    yield f"The lamplighter badger at {badger.brief.height:g} mm, as usual:"
    yield from (f"  {step.n:2}  {_words(step)}" for step in usual.steps)
    for choice in CHOICES:
        for school in choice.schools:
            if school == choice.default:
                continue
            other = make_plan(badger.figure, badger.brief.schooled(choice.id, school), bench)
            yield ""
            yield f"{said(choice.name)}: {said(choice.school_name(school))}"
            yield from list(_differences(usual.steps, other.steps)) or ["  nothing"]


def _differences(usual: tuple[Step, ...], other: tuple[Step, ...]) -> Iterator[str]:
    old = {step.key: step for step in usual}
    now = {step.key for step in other}
    moved, _ = moved_steps(usual, other)
    yield from (f"  gone      {old[key].n:2}  {_words(old[key])}" for key in old if key not in now)
    for step in other:
        was = old.get(step.key)
        if was is None:
            yield f"  new       {step.n:2}  {_words(step)}"
        elif step.key in moved:
            yield f"  moved     {step.n:2}  {_words(step)}, was {was.n}"
        if was is not None and _words(was) != _words(step):
            yield f"  otherwise {step.n:2}  {_words(step)}, was: {_words(was)}"


def _words(step: Step) -> str:
    text = said(step.text)
    return f"{text} [{step.needle}]" if step.needle else text


if __name__ == "__main__":
    SHEET.write_text(sheet(), encoding="utf-8")

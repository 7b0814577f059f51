"""Programs killed at any moment: at most two seconds of work are lost, or ten on the clock at the pad, and no
file is ever half written."""

from __future__ import annotations

import json
import random
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from bambola.core.figure import DocumentError
from bambola.core.plan import make_plan
from bambola.demo import load_demo
from bambola.shipped import default_bench
from bambola.store import Journal, open_design
from bambola.store.salvage import open_book
from tests.torture.tally import Tally

MOST_LOST_S = 2.0
MOST_CLOCK_S = 10.0 + 1.5
"""The clock is kept every ten seconds; at twenty times its pace it runs on until the timer is heard."""


def while_editing(tally: Tally, count: int, seed: int) -> None:
    """Kill a desk that is being worked at; what the journal has is held against what was done when."""
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            killed = _run_and_kill("editor", folder, rng.uniform(0.5, 6.0))
            lines = (folder / "done").read_text().splitlines()
            done = [json.loads(line) for line in lines if line.endswith("}")]
            kept = Journal(folder / "journal").left_behind(default_bench())
            have = {entry.document.brief.height for entry in kept if entry.document}
            at = next((d["at"] for d in reversed(done) if d["height"] in have), 0.0)
            missing = [d for d in done if d["at"] > at]
            lost = killed - missing[0]["at"] if missing else 0.0
            tally.counts["killed"] += 1
            if any(entry.trouble for entry in kept):
                tally.fault(f"edit {seed}-{i}: {kept[0].trouble}")
            if lost > MOST_LOST_S:
                tally.fault(f"edit {seed}-{i}: {lost:.1f} s of work are lost")
            for entry in kept:
                entry.let_go()


def while_making(tally: Tally, count: int, seed: int) -> None:
    """Kill a program at which somebody sits at the pad: at most ten seconds of the clock are lost."""
    bench, demo = default_bench(), load_demo()
    steps = [step.key for step in make_plan(demo.figure, demo.brief, bench).steps]
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            _run_and_kill("maker", folder, rng.uniform(0.1, 4.0))
            lines = (folder / "done").read_text().splitlines()
            done = [json.loads(line) for line in lines if line.endswith("}")]
            # It may have been killed before it told anything.
            last = done[-1] if done else {"seconds": 0.0, "at": ""}
            book, told = open_book(folder / "bench.sqlite", bench)
            making = book.making(load_demo().figure.id)
            lost = last["seconds"] - 60 * sum(making.minutes.values())
            tally.counts["killed"] += 1
            # It may have been killed when a step was kept and not yet told of.
            near = max(0, steps.index(last["at"]) - 1) if last["at"] in steps else 0
            if (
                told
                or lost > MOST_CLOCK_S
                or (making.at and making.at not in steps[near : near + 3])
            ):
                tally.fault(
                    f"making {seed}-{i}: {told}; {lost:.1f} s of the clock are lost; at {making.at} and not "
                    f"{last['at']}"
                )
            book.close()


def while_saving(tally: Tally, count: int, seed: int) -> None:
    """Kill a program that saves a design and writes into the bench book without a pause."""
    bench = default_bench()
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            _run_and_kill("saver", folder, rng.uniform(0.05, 1.5))
            tally.counts["killed"] += 1
            try:
                height = open_design(folder / "design.json", bench).brief.height or 0
            except DocumentError as error:
                tally.fault(f"save {seed}-{i}: {error}")
                continue
            book, told = open_book(folder / "bench.sqlite", bench)
            grams = book.bench().wool_by_id["woad"].grams or 0.0
            last = int((folder / "last").read_text() or 0)
            if told or abs(height - 100 - last) > 1 or abs(grams - last) > 1:
                tally.fault(f"save {seed}-{i}: {told or (height, grams, last)}")
            book.close()


def _run_and_kill(what: str, folder: Path, after: float) -> float:
    """Start a program, let it work ``after`` seconds, and kill it; when (clock time)."""
    program = subprocess.Popen(
        [sys.executable, "-m", "tests.torture.victims", what, str(folder)],
        stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert program.stdout
    program.stdout.readline()  # it is at work
    time.sleep(after)
    program.kill()
    killed = time.time()
    program.wait()
    return killed

"""Designs spoilt in their bytes and in their values: refused in a sentence, or planned within ten seconds."""

from __future__ import annotations

import copy
import json
import multiprocessing
import random
import time
import traceback
import warnings
from typing import Any

from bambola.core.bench import check_wools
from bambola.core.export.json_plan import plan_json
from bambola.core.figure import Brief, DocumentError, dump_document, load_document
from bambola.core.order import OrderConflictError
from bambola.core.plan import make_plan
from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.resize import ResizeError
from bambola.demo import BADGER, HERON, TOAD
from bambola.shipped import body_plans, default_bench
from benchmarks.pace import slowness
from tests.torture.tally import Tally

SOURCES = [json.loads(path.read_text()) for path in (BADGER, HERON, TOAD)] + [
    json.loads(dump_document(plan.figure, Brief()))
    for plan in body_plans()
    if plan.figure.id in ("dressed-doll", "cub", "long-haired-animal")
]
WORDS = [
    "body", "head", "arm", "leg", "tail", "ear", "eye", "fringe", "patch", "scarf", "peg", "wire", "apart",
    "in place", "detail", "on wire", "ball", "soft", "hard", "both", "left", "right", "a\nb", "x" * 120,
    "core-batt", "cream", "front", "top", "standing", "hanging", "loop to foot", "crown", "hold", "floor",
    "ceiling", "multiply", "length", "thickness", "ready-made", "nose", "whisker", "shoe", "pulled over",
    "cloth", "ribbon", "clay", "chenille", "sewn", "tied", "threaded", "knotted", "wrapped", "gathered",
]  # fmt: skip
PLAN_S = 10.0
_HANGS_S = 300.0
"""A busy machine may let a program wait; one that has not answered after so long never will."""


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every path into a JSON value."""
    found = [path] if path else []
    items: Any = ()
    if isinstance(value, dict):
        items = value.items()
    elif isinstance(value, list):
        items = enumerate(value)
    for key, item in items:
        found += places(item, (*path, key))
    return found


PLACES = [places(source) for source in SOURCES]


def spoilt_value(rng: random.Random) -> Any:
    """A design with a few of its values made into others that might be meant."""
    which = rng.randrange(len(SOURCES))
    raw = copy.deepcopy(SOURCES[which])
    for _ in range(rng.choice([1, 1, 2, 3, 5])):
        path = rng.choice(PLACES[which])
        at = raw
        try:
            for step in path[:-1]:
                at = at[step]
            at[path[-1]] = _other(at[path[-1]], rng)
        except (KeyError, IndexError, TypeError):
            continue
    if rng.random() < 0.5 and isinstance(raw.get("brief", {}), dict):
        raw.setdefault("brief", {})["height"] = rng.choice([20, 30, 60, 100, 200, 400, 900, 3000])
    return raw


def _other(value: Any, rng: random.Random) -> Any:
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return rng.choice([0, 1, -1, *(value * f for f in (0.01, 0.1, 0.5, 2, 10, 100, 1e4, -1)),
                           1e-6, 1e6, 90, 180, 0.5, 360, 1e-12])  # fmt: skip
    if isinstance(value, str):
        return rng.choice(WORDS)
    if isinstance(value, list) and value:
        return rng.choice([[], value[:1], [*value, rng.choice(value)], value[1:]])
    return rng.choice([None, {}, [], 0])


def spoilt_bytes(rng: random.Random) -> bytes:
    """A design with bytes cut out, doubled, or replaced."""
    data = json.dumps(rng.choice(SOURCES)).encode()
    at, long = rng.randrange(len(data)), rng.randrange(1, 200)
    rubbish = rng.choice(
        [b"", rng.randbytes(long), data[at : at + long] * 2, b"{}," * 2000, b"9" * 5000]
    )
    return data[:at] + rubbish + data[at + rng.choice([0, long]) :]


def opened(tally: Tally, count: int, seed: int) -> None:
    """Open hostile designs."""
    bench = default_bench()
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        data = spoilt_bytes(rng) if i % 2 else json.dumps(spoilt_value(rng)).encode()
        start = time.monotonic()
        try:
            document = load_document(data, "design.json")
            check_wools(document.figure, bench, "design.json")
            tally.counts["opened"] += 1
        except DocumentError as error:
            tally.counts["refused"] += 1
            if "\n" in str(error) or len(str(error)) > 1000:
                tally.fault(f"design {seed}-{i} is refused in no sentence: {error!s:.200}")
        except Exception:
            tally.fault(f"design {seed}-{i}: {traceback.format_exc(limit=-2)}")
        if time.monotonic() - start > 5:
            tally.fault(f"design {seed}-{i} took {time.monotonic() - start:.0f} s")


def planned(tally: Tally, count: int, seed: int) -> None:
    """Plan designs that the document accepts, in programs of their own, so that a hang can be ended."""
    done = 0
    with multiprocessing.get_context("spawn").Pool(2) as pool:
        waiting: list[Any] = []
        i = 0
        while done < count:
            while len(waiting) < 4:
                waiting.append((i, pool.apply_async(plan_one, (seed, i))))
                i += 1
            number, answer = waiting.pop(0)
            try:
                what, fault = answer.get(_HANGS_S)
            except multiprocessing.TimeoutError:
                tally.fault(f"plan {seed}-{number} hangs")
                return
            tally.counts[what] += 1
            done += what in ("planned", "cannot be met")
            if fault:
                tally.fault(f"plan {seed}-{number}: {fault}")


def plan_one(seed: int, i: int) -> tuple[str, str]:
    """What came of one design, and its fault if any. Time is what this program had of the machine."""
    warnings.simplefilter("error")
    rng, bench = random.Random(f"{seed}-plan-{i}"), default_bench()
    try:
        document = load_document(json.dumps(spoilt_value(rng)), "design.json")
        check_wools(document.figure, bench, "design.json")
    except DocumentError:
        return "refused", ""
    start = time.process_time()
    try:
        plan = make_plan(document.figure, document.brief, bench)
        plan_json(plan)
        spent = time.process_time() - start
        stage = stage_of(plan.solids.placement)
        portrait(stage, Camera(), plan.to_height_mm / 60, {})
    except (ResizeError, OrderConflictError) as error:
        return "cannot be met", "" if "\n" not in str(error) else f"no sentence: {error!s:.200}"
    except Exception:
        return "failed", traceback.format_exc(limit=-2)
    # A machine that is slow just now is no fault of the plan.
    slow = spent > PLAN_S and spent / slowness() > PLAN_S
    return "planned", f"took {spent:.1f} s" if slow else ""

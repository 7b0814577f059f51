"""Rows that need no window."""

from __future__ import annotations

import math
import statistics
import time
from dataclasses import replace
from datetime import date
from types import ModuleType

from bambola.core.export.packet import Job, packet_pages, packet_pdf
from bambola.core.face import faces_of
from bambola.core.figure import Ball, Brief, Datum, Figure, Part
from bambola.core.figure.graft import MOST_PARTS
from bambola.core.memo import current_memory
from bambola.core.methods import sheet_for
from bambola.core.methods.layout import lay_out
from bambola.core.order import sequence
from bambola.core.order.sequence import cheapest_order, edges_of
from bambola.core.order.tasks import tasks_for
from bambola.core.plan import make_plan
from bambola.core.plan.making.jobs import lightness
from bambola.core.solids import measure_solids
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from benchmarks.children import bare_window, run_child, start
from benchmarks.display import display
from benchmarks.figures import HELD_COLLAR, forty_parts
from benchmarks.row import Row, runs


def start_up() -> list[Row]:
    """Start to the first picture that has reached the display, and to both figures, against a bare window; a
    design that was opened before, till the hand rested. Medians of five."""
    bare, first, live = [], [], []  # s, and times the bare window beside it
    with display() as environment:
        _moments(start, environment, start.STAY)
        for _ in range(runs(5)):
            (painted,) = _moments(bare_window, environment)
            bare.append(painted)
            painted, ready = _moments(start, environment)
            first.append(painted / bare[-1])
            live.append(ready / bare[-1])
    one = statistics.median(bare)
    told = f"times a bare window ({one:.2f} s)"
    return [
        Row(
            f"start to the first picture, {told}",
            statistics.median(first),
            "start: first picture",
            "×",
        ),
        Row(
            f"start to both figures live, {told}",
            statistics.median(live),
            "start: both figures",
            "×",
        ),
    ]


def _moments(module: ModuleType, environment: dict[str, str], *arguments: str) -> list[float]:
    """Return the seconds from the start of a program to each moment it prints."""
    began = time.time()
    return [at - began for at in run_child(module, *arguments, environment=environment)]


def figure_changed() -> list[Row]:
    """Exact plan of forty parts after one part of the figure changed."""
    bench, figure = default_bench(), forty_parts()
    height = make_plan(figure, Brief(), bench).from_height_mm
    found = []
    for i in range(runs(7)):
        parts = list(figure.parts)
        snout = next(p for p in parts if p.id == "snout")
        at = parts.index(snout)
        parts[at] = snout.replaced(shape=Ball(width=21 + i * 0.3, depth=18, height=22))
        edited = figure.replaced(parts=tuple(parts))
        began = time.perf_counter()
        make_plan(edited, Brief(height=height * 1.3), bench)
        found.append((time.perf_counter() - began) * 1000)
    return [
        Row(
            "exact plan, 40 parts, figure changed",
            statistics.median(found),
            "plan: figure changed",
            "ms",
        )
    ]


def brief_changed() -> list[Row]:
    """Exact plan of forty parts after the height changed, all scaling and with a part held."""
    bench, figure = default_bench(), forty_parts()
    height = make_plan(figure, Brief(), bench).from_height_mm
    rows = []
    for what, brief in (
        ("", Brief(height=height)),
        (", one part held", Brief(height=height).ruled("collar", HELD_COLLAR)),
    ):
        found = []
        for i in range(runs(21)):
            began = time.perf_counter()
            make_plan(figure, brief.at_height(height * (1.1 + 0.013 * i)), bench)
            found.append((time.perf_counter() - began) * 1000)
        budget = "plan: brief changed, part held" if what else "plan: brief changed"
        rows.append(
            Row(
                f"exact plan, 40 parts, only brief changed{what}",
                statistics.median(found),
                budget,
                "ms",
            )
        )
    return rows


def step_pictures() -> list[Row]:
    """Return a step's card and picture, laid out, on a plan just made: the slowest of all its steps."""
    bench, figure = default_bench(), forty_parts()
    slowest = []
    for height in (150.0, 210.0, 330.0)[: runs(3)]:
        plan = make_plan(figure, Brief(height=height), bench)
        found = []
        for step in plan.steps:
            began = time.perf_counter()
            lay_out(sheet_for(plan, step, bench).drawing, ENGLISH.say, 900.0, 640.0, 20.0)
            found.append((time.perf_counter() - began) * 1000)
        slowest.append(max(found))
    return [
        Row(
            "a step's picture, the slowest of 40 parts",
            statistics.median(slowest),
            "step picture",
            "ms",
        )
    ]


def order() -> list[Row]:
    """Return the sequencer itself, nothing remembered, on works of at least 120 and 300 steps."""
    bench = default_bench()
    light = dict(lightness(bench))
    rows = []
    for about, more in ((120, 0), (300, 60)):
        work = make_plan(forty_parts(more), Brief(), bench).work
        steps = len(sequence(work).tasks)
        medians = []
        for _ in range(runs(5)):
            found = []
            for _ in range(runs(5)):
                began = time.perf_counter()
                tasks = tasks_for(work)
                cheapest_order(work, tasks, edges_of(work, tasks), light, bench.weights)
                found.append((time.perf_counter() - began) * 1000 * about / steps)
            medians.append(statistics.median(found))
        # The machine is shared: of some runs the calmest says what the work itself takes.
        budget = f"order: {about} steps"
        rows.append(Row(f"order of {about} steps (from {steps})", min(medians), budget, "ms"))
    current_memory().forget()
    return rows


def large_figures() -> list[Row]:
    """Exact plans of many parts, nothing remembered: as many as people make, and as many as may be."""
    rows = []
    for parts, budget in (
        (120, "plan: 120 parts"),
        (MOST_PARTS, "plan: most parts"),
    )[: runs(2)]:
        current_memory().forget()
        figure = forty_parts(parts - len(forty_parts().parts))
        began = time.perf_counter()
        make_plan(figure, Brief(height=200), default_bench())
        took = time.perf_counter() - began
        rows.append(Row(f"exact plan, {len(figure.parts)} parts, anew", took, budget, "s"))
    current_memory().forget()
    return rows


def closed_forms() -> list[Row]:
    """Return a ball as it is measured, against its closed form."""
    part = Part(id="ball", name="Ball", shape=Ball(width=40, depth=40, height=40), core="cream")
    figure = Figure(id="ball", name="Ball", datum=Datum(), parts=(part,))
    (alone,) = measure_solids(figure).measured
    volume = abs(alone.net_mm3 / (4 / 3 * math.pi * 8000) - 1) * 100
    area = abs(alone.exposed_mm2 / (1600 * math.pi) - 1) * 100
    return [
        Row("solids against closed forms: volume", volume, "solids: volume", "%"),
        Row("solids against closed forms: area", area, "solids: area", "%"),
    ]


def faces() -> list[Row]:
    """Return every mark of a head over the surface: the most of the three demos, median of nine. Limit from
    DESIGN.md."""
    worst = 0.0
    for demo in (BADGER, HERON, TOAD):
        document = load_demo(demo)
        plan = make_plan(document.figure, document.brief, default_bench())
        took = []
        for _ in range(runs(9)):
            began = time.perf_counter()
            found = faces_of(plan.solids.placement)
            took.append((time.perf_counter() - began) * 1000 / max(1, len(found)))
        worst = max(worst, statistics.median(took))
    return [Row("marks of a head over its surface, the slowest demo", worst, "face marks", "ms")]


def packet() -> list[Row]:
    """Return the whole packet of the badger at 220 mm: how long, how large, and how many sheets."""
    document, bench = load_demo(BADGER), default_bench()
    plan = make_plan(document.figure, document.brief.at_height(220.0), bench)
    job = Job((plan,), document.figure, bench, date(2026, 1, 5))
    began = time.perf_counter()
    made = packet_pdf(job)
    took = time.perf_counter() - began
    sheets = packet_pages(job)
    bare = sum(page.kind != "steps" for page in sheets)
    began = time.perf_counter()
    packet_pdf(replace(job, pages=("steps",)))
    cards = time.perf_counter() - began
    return [
        Row("the badger's work cards", cards, "packet: cards", "s"),
        Row("the packet of the badger at 220 mm", took, "packet: whole", "s"),
        Row("  how large it is", len(made) / 1e6, "packet: size", "MB"),
        Row("  sheets without the steps", bare, "packet: sheets without steps", ""),
        Row("  sheets with them", len(sheets), "packet: sheets", ""),
    ]

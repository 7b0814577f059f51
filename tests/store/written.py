"""Files of a maker's as this version writes them, in ``written/`` under its name: every later one opens them.

``python -m tests.store.written`` writes those of now; what an earlier version wrote is never written again.
"""

from __future__ import annotations

from datetime import date
from pathlib import Path

from bambola import __version__
from bambola.core.bench import Making, Record
from bambola.core.bench.making import Sitting
from bambola.core.export.packet import Job, packet_pdf
from bambola.core.figure import Brief, SizeRule
from bambola.core.figure.document import dump_document
from bambola.core.figure.survey import Survey, Taken
from bambola.core.plan import make_plan
from bambola.shipped import body_plans, default_bench
from bambola.store.bench_book import BenchBook

WRITTEN = Path(__file__).parent / "written"
DESIGN = "wren-0a1b2c3d"
BRIEF = (
    Brief(height=90.0, schools={"limbs": "each-wired"})
    .ruled("head", (SizeRule(rule="hold"),))
    .kept_as("Larger")
)
SURVEY = Survey(taken=(Taken(part="body", measure="width", mm=31.5, how="girth"),), weight=6.5)
RECORD = Record(
    day="2026-11-02", figure="Wren", part="Body", wool="core-batt", grams_in=5.2, volume_cm3=38.0,
    minutes=40, note="firm near the neck",
)  # fmt: skip
MAKING = Making(
    at="body/core/1",
    minutes={"body/core/1": 12.5},
    notes={"body/core/1": "turned often"},
    checks={"body/core/1": {"size": "passed"}},
    sittings=(Sitting(day="2026-11-02", minutes=12.5, first="body/core/1", last="body/core/1"),),
)


def write(folder: Path) -> None:
    """A design, a bench, a book and a packet."""
    folder.mkdir(parents=True)
    (bird,) = (plan.figure for plan in body_plans() if plan.figure.id == "bird")
    figure, bench = bird.replaced(id="wren", name="Wren"), default_bench()
    design = dump_document(figure, BRIEF, SURVEY, DESIGN)
    (folder / "wren.bambola.json").write_text(design)
    (folder / "bench.json").write_text(bench.replaced(scale_g=0.01).model_dump_json())
    plan = make_plan(figure, BRIEF, bench)
    day, inside = date(2026, 11, 2), ("wren.bambola.json", design.encode())
    job = Job((plan,), figure, bench, day, pages=("cover",), design=inside)
    (folder / "wren.pdf").write_bytes(packet_pdf(job))
    book = BenchBook(folder / "bench.sqlite", bench)
    wool = bench.wool_by_id["woad"].replaced(grams=20.0)
    book.change_bench(bench, bench.with_wool(wool))
    book.add_record(RECORD)
    book.change_making(DESIGN, Making(), MAKING)
    book.book([book.weigh("2026-11-02", DESIGN, "body/coat/1/0", "woad", 1.25)])
    book.close()


if __name__ == "__main__":
    write(WRITTEN / __version__)

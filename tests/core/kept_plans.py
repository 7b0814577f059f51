"""Plans of our three figures as they were read through: every number, sentence and card of them.

``make snapshots`` writes them anew, after somebody has read what changed and meant it.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np

from bambola.core.export.json_plan import card_data, plan_data
from bambola.core.export.packet import packet_pdf
from bambola.core.methods import StepInPlan, method_for, sheet_for
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Measure, Needle, Number, Piece
from bambola.core.methods.layout import Disc, Mark, Stroked, Written, lay_out
from bambola.core.order.book import Book
from bambola.core.order.rules import RULES
from bambola.core.order.tasks import tasks_for
from bambola.core.plan import make_plan
from bambola.core.solids import place
from bambola.core.solids.forms import Array
from bambola.core.words import ENGLISH
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from benchmarks.row import SMALLEST

FOLDER = Path(__file__).with_name("plans")
KEPT = {
    f"{path.stem.partition('.')[0]}-{name}": (path, share)
    for path in (BADGER, HERON, TOAD)
    for name, share in (("small", 0.6), ("large", 1.7))
}
"""Each figure at two sizes, as shares of the one it was made at."""

_WITH_EVERY_WAY = (
    ("lamplighter-badger", 2.0), ("marsh-heron", 2.0), ("marsh-heron", 0.6), ("garden-toad", 0.6),
    ("whale", 2.0), ("badger, round a cork", 2.0), ("badger, eyes sewn", 2.0), ("badger, eyes felted", 2.0),
    ("one ball, mass one mass", 1.0), ("badger, skin glue-soap", 2.0), ("badger, seat bump", 2.0),
    ("badger with toes", 2.0), ("doll that sits", 2.0), ("heron, legs wound with glue", 0.4),
    ("whale that hangs", 2.0), ("long-haired-animal", 1.2), ("dressed-doll", 1.2), ("cub", 1.2),
    ("two-legged-doll", 1.2), ("badger, eyes clay", 2.0), ("whale, ears pair first", 2.0),
    ("badger, its lantern glued", 2.0), ("stems under a band", 1.0),
)  # fmt: skip

_WITH_EVERY_RULE = (
    ("lamplighter-badger", 2.0), ("heron, legs wound with glue", 0.4), ("garden-toad", 0.6), ("whale", 2.0),
    ("badger, eyes sewn", 2.0), ("badger, seat bump", 2.0), ("doll that sits", 2.0),
    ("whale that hangs", 2.0), ("long-haired-animal", 1.2), ("dressed-doll", 1.2), ("cub", 1.2),
    ("whale, ears pair first", 2.0), ("toad with a swirl", 1.0), ("badger, eyes clay", 2.0),
)  # fmt: skip


def now(name: str) -> dict[str, Any]:
    """A plan as it is made now."""
    path, share = KEPT[name]
    demo, bench = load_demo(path), default_bench()
    plan = make_plan(demo.figure, demo.brief.at_height(place(demo.figure).height * share), bench)
    found: dict[str, Any] = json.loads(json.dumps(plan_data(plan, bench)))
    for step in found["steps"]:  # these are held to points thrown into the figure
        del step["piece_before"], step["piece_after"]
    return found


def kept(name: str) -> dict[str, Any]:
    """The plan as it was read through."""
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.json").read_text(encoding="utf-8"))
    return found


def ways_now() -> dict[str, Any]:
    """A card and picture for each way of doing a step, of the first figure that has it; of a picture what
    it is made of, and from where to where each piece of it goes."""
    from tests.core.test_methods import plan_of

    found: dict[str, Any] = {}
    bench = default_bench()
    for name, share in _WITH_EVERY_WAY:
        plan = plan_of(name, share)
        for step in plan.steps:
            if method_for(StepInPlan(plan, step, bench)).id not in found:
                sheet = sheet_for(plan, step, bench)
                found[sheet.card.method] = {
                    "of": f"{name}, {step.key}",
                    "card": card_data(sheet.card),
                    "pieces": [_drawn(piece) for piece in sheet.drawing.pieces],
                    "laid": [
                        _laid(m) for m in lay_out(sheet.drawing, ENGLISH.say, 900.0, 640.0, 20.0)
                    ],
                }
    kept: dict[str, Any] = json.loads(json.dumps(found))
    return kept


def rules_now() -> dict[str, Any]:
    """What each rule has before what, in figures that together have all that rules are about."""
    from tests.core.test_methods import plan_of

    found: dict[str, Any] = {"hard": {"all": [rule.id for rule in RULES if rule.hard]}}
    for name, share in _WITH_EVERY_RULE:
        work = plan_of(name, share).work
        book = Book(work, tasks_for(work))
        edges = {rule.id: [f"{a} before {b}" for a, b in rule.pairs(book)] for rule in RULES}
        found[name] = {rule: kept for rule, kept in edges.items() if kept}
    return found


def _drawn(piece: Piece) -> list[object]:
    match piece:
        case DrawnArea(points=points, fill=fill):
            return ["area", fill, *_spread(points)]
        case DrawnLine(points=points, stroke=stroke):
            return ["line", stroke, *_spread(points)]
        case Measure(a=a, b=b, away=away):
            return ["measure", "", *_spread(np.array([a, b])), round(away, 2)]
        case Needle(tip=tip, angle=angle, depth=depth):
            return ["needle", "", *_spread(np.array([tip])), round(angle, 1), round(depth, 2)]
        case Number(at=at, n=n):
            return ["number", n, *_spread(np.array([at]))]


def _laid(mark: Mark) -> list[object]:
    match mark:
        case Stroked(points=points, stroke=stroke, width=width):
            return [stroke, round(width, 2), *_spread(points)]
        case Written(x=x, y=y, text=text):
            return [text, round(x, 2), round(y, 2)]
        case Disc(x=x, y=y, radius=radius, text=text):
            return [text, round(x, 2), round(y, 2), round(radius, 2)]


def _spread(points: Array) -> list[float]:
    """Middle of the points, and from where to where they go, mm."""
    box = [*points.mean(axis=0), *points.min(axis=0), *points.max(axis=0)]
    return [round(float(mm), 2) for mm in box]


def written() -> dict[str, dict[str, Any]]:
    """All that is kept, by its name, as it is now."""
    from tests.core.kept_paper import other_packets, paper_now, read, toads_cards, whole_packet
    from tests.core.kept_pictures import pictures_now
    from tests.core.kept_sight import sight_now

    cards = toads_cards()
    found = {"ways": ways_now(), "rules": rules_now(), "sight": sight_now()}
    found |= {"paper": paper_now(cards), "pictures": pictures_now(cards)}
    found["packet"] = read(packet_pdf(whole_packet()))
    found["packets"] = {name: read(packet_pdf(job)) for name, job in other_packets().items()}
    return {**{name: now(name) for name in KEPT}, **found}


if __name__ == "__main__":
    first = next(iter(KEPT))
    for each, made in ({first: now(first)} if SMALLEST else written()).items():
        text = json.dumps(made, indent=0, ensure_ascii=False)
        (FOLDER / f"{each}.json").write_text(text + "\n", encoding="utf-8")

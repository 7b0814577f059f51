"""Plans of our three figures as they were read through: every number, sentence and card of them.

``make snapshots`` writes them anew, after somebody has read what changed and meant it.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from bambola.core.export.json_plan import plan_data
from bambola.core.plan import make_plan
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench

FOLDER = Path(__file__).with_name("plans")
KEPT = {
    f"{path.stem.partition('.')[0]}-{name}": (path, share)
    for path in (BADGER, HERON, TOAD)
    for name, share in (("small", 0.6), ("large", 1.7))
}
"""Each figure at two sizes, as shares of the one it was made at."""


def now(name: str) -> dict[str, Any]:
    """A plan as it is made now."""
    path, share = KEPT[name]
    demo, bench = load_demo(path), default_bench()
    plan = make_plan(demo.figure, demo.brief.at(place(demo.figure).height * share), bench)
    found: dict[str, Any] = json.loads(json.dumps(plan_data(plan, bench)))
    return found


def kept(name: str) -> dict[str, Any]:
    """The plan as it was read through."""
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.json").read_text(encoding="utf-8"))
    return found


if __name__ == "__main__":
    for each in KEPT:
        text = json.dumps(now(each), indent=0, ensure_ascii=False)
        (FOLDER / f"{each}.json").write_text(text + "\n", encoding="utf-8")

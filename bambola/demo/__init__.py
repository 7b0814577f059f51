"""Figures, pictures and a sample shelf of our own, to try things with."""

from __future__ import annotations

import json
from pathlib import Path

from bambola.core.bench import Bench, Wool
from bambola.core.figure import Document
from bambola.shipped import shipped_design, with_spoken_names

HERE = Path(__file__).parent
BADGER = HERE / "lamplighter-badger.bambola.json"
HERON = HERE / "marsh-heron.bambola.json"
TOAD = HERE / "garden-toad.bambola.json"
PICTURES = HERE / "pictures"


def sample_shelf(bench: Bench) -> Bench:
    """Return ``bench`` with a made-up shelf, to try things with: what is left of each wool and what it
    costs."""
    told = with_spoken_names(json.loads((HERE / "sample-shelf.json").read_text(encoding="utf-8")))
    for wool_id, fields in told.items():
        known = bench.wool_by_id.get(wool_id)
        kept = known.model_dump() if known else {"id": wool_id}
        bench = bench.with_wool(Wool.model_validate({**kept, **fields}))
    return bench


def load_demo(path: Path = BADGER) -> Document:
    """Return a shipped figure: the same each time, so that it need not be measured again."""
    return shipped_design(path)

"""Figures, pictures and a bench of our own, shipped with the application."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path

from bambola.core.figure import Bench, Document, Wool, load_bench, load_document

HERE = Path(__file__).parent
BADGER = HERE / "lamplighter-badger.bambola.json"
HERON = HERE / "marsh-heron.bambola.json"
TOAD = HERE / "garden-toad.bambola.json"
PICTURES = HERE / "pictures"


@lru_cache(maxsize=1)
def default_bench() -> Bench:
    """The bench every command works with when the maker has none."""
    path = HERE / "default-bench.json"
    return load_bench(path.read_bytes(), path.name)


def sample_shelf(bench: Bench) -> Bench:
    """``bench`` with a made-up shelf, to try things with: what is left of each wool and what it costs."""
    told = json.loads((HERE / "sample-shelf.json").read_text(encoding="utf-8"))
    for wool_id, fields in told.items():
        known = bench.wool_by_id.get(wool_id)
        kept = known.model_dump() if known else {"id": wool_id}
        bench = bench.with_wool(Wool.model_validate({**kept, **fields}))
    return bench


def load_demo(path: Path = BADGER) -> Document:
    """A shipped figure."""
    return load_document(path.read_bytes(), path.name)

"""Figures, pictures and a bench of our own, shipped with the application."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from bambola.core.figure import Bench, Document, load_bench, load_document

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


def load_demo(path: Path = BADGER) -> Document:
    """A shipped figure."""
    return load_document(path.read_bytes(), path.name)

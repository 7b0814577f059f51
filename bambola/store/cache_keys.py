"""Names of cache files that change with everything their contents depend on."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from importlib.metadata import version
from pathlib import Path

import bambola.core


def cache_key(what: str, rooms: tuple[str, ...]) -> str:
    """Return a file name derived from ``what`` was computed and the code that computed it: ``rooms`` of the
    core, and the geometry library where they use it."""
    return hashlib.sha256(_code_of(rooms) + what.encode()).hexdigest()[:32]


@lru_cache(maxsize=8)
def _code_of(rooms: tuple[str, ...]) -> bytes:
    told = hashlib.sha256(version("manifold3d").encode())
    for module in modules_of(rooms):
        told.update(module.read_bytes())
    return told.digest()


def modules_of(rooms: tuple[str, ...]) -> list[Path]:
    """Return every module of these rooms of the core, including nested ones."""
    core = Path(bambola.core.__path__[0])
    return sorted(module for room in rooms for module in (core / room).rglob("*.py"))

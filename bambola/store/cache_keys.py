"""Names for what is kept from one start to the next, so that nothing old is ever taken for new."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from importlib.metadata import version
from pathlib import Path

import bambola.core


def cache_key(what: str, rooms: tuple[str, ...]) -> str:
    """Return a file's name made of ``what`` it was worked out from and of the code that did: ``rooms`` of the
    core, and the library that cuts for them."""
    return hashlib.sha256(_code_of(rooms) + what.encode()).hexdigest()[:32]


@lru_cache(maxsize=8)
def _code_of(rooms: tuple[str, ...]) -> bytes:
    told = hashlib.sha256(version("manifold3d").encode())
    for module in modules_of(rooms):
        told.update(module.read_bytes())
    return told.digest()


def modules_of(rooms: tuple[str, ...]) -> list[Path]:
    """Return every module of these rooms of the core, those in folders within them too."""
    core = Path(bambola.core.__path__[0])
    return sorted(module for room in rooms for module in (core / room).rglob("*.py"))

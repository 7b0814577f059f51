"""Names for what is kept from one start to the next, so that nothing old is ever taken for new."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from importlib.metadata import version
from importlib.resources import files


def name_for(what: str, rooms: tuple[str, ...]) -> str:
    """A file's name made of ``what`` it was worked out from and of the code that did: ``rooms`` of the core,
    and the library that cuts for them."""
    return hashlib.sha256(_way_of(rooms) + what.encode()).hexdigest()[:32]


@lru_cache(maxsize=8)
def _way_of(rooms: tuple[str, ...]) -> bytes:
    told = hashlib.sha256(version("manifold3d").encode())
    for room in rooms:
        folder = files("bambola.core") / room
        for module in sorted(folder.iterdir(), key=lambda file: file.name):
            if module.name.endswith(".py"):
                told.update(module.read_bytes())
    return told.digest()

"""A deed: one action of a menu, with everything there is to say of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class MenuAction:
    """What an action is called in the program, its words and keys, and what does it.

    Deeds of one ``switch`` exclude each other; "alone" toggles by itself. One that ``needs_figure`` can be
    chosen only while a figure is on the table.
    """

    name: str
    words: str
    do: Callable[[], object]
    keys: str = ""
    switch: str = ""
    needs_figure: bool = False


Menu = tuple[str, tuple[MenuAction | None, ...]]
"""A menu's title, and its deeds; None draws a line between them."""

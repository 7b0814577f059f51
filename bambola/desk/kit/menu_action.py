"""The declaration of one menu action."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class MenuAction:
    """A menu action: its name in the program, words, keys and function. Actions of one ``switch`` exclude
    each other; "alone" toggles by itself. An action that ``needs_figure`` is disabled without one."""

    name: str
    words: str
    do: Callable[[], object]
    keys: str = ""
    switch: str = ""
    needs_figure: bool = False


Menu = tuple[str, tuple[MenuAction | None, ...]]
"""A menu's title, and its actions; None draws a line between them."""

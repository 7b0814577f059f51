"""Glues, and how long the glued place is left alone."""

from __future__ import annotations

from typing import Literal, get_args

Glue = Literal["instant", "hot", "clear", "white"]
GLUES: tuple[Glue, ...] = get_args(Glue)
CURE_MIN: dict[Glue, float] = {"instant": 2.0, "hot": 3.0, "clear": 30.0, "white": 480.0}
"""Minutes until the place may be pressed again; white and tacky glue wants a night. See craft.md, 5."""

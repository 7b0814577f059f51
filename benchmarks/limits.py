"""The budgets that ``make bench`` holds each row against; they are the project's own, set for one machine."""

from __future__ import annotations

from typing import Final

LIMITS: Final[dict[str, float]] = {
    "start: first picture": 1.2,
    "start: both figures": 6.0,
    "plan: figure changed": 120.0,
    "plan: brief changed": 20.0,
    "plan: brief changed, part held": 70.0,
    "plan: 120 parts": 3.0,
    "plan: most parts": 10.0,
    "step picture": 60.0,
    "order: 120 steps": 60.0,
    "order: 300 steps": 120.0,
    "order: over the best known": 2.0,
    "solids: volume": 0.1,
    "solids: area": 0.3,
    "face marks": 20.0,
    "packet: cards": 1.0,
    "packet: whole": 10.0,
    "packet: size": 3.0,
    "packet: sheets without steps": 24.0,
    "packet: sheets": 40.0,
    "routes": 100.0,
    "cutting": 100.0,
    "turns: badger": 3.0,
    "turns: 40 parts": 10.0,
    "turns: disputed": 0.0,
    "silhouette": 2.0,
    "proposal: 12 megapixels": 10.0,
    "proposal: volume": 15.0,
    "proposal: volume, bad pictures": 25.0,
    "proposal: volume, agreed with": 8.0,
    "proposal: volume, agreed with, bad pictures": 12.0,
    "drag: median": 12.0,
    "drag: late": 20.0,
    "drag: median, held or many": 16.0,
    "drag: late, held or many": 33.0,
    "drag: at rest": 150.0,
    "memory: demo": 300.0,
    "memory: two pictures": 400.0,
}
"""Limits by what is measured, in the unit of the row: ms, s, MB, % or times a bare window."""

"""Sizes of paper, and how much of a sheet can be printed on."""

from __future__ import annotations

from dataclasses import dataclass

MARGIN_MM, FOOT_MM = 11.0, 15.0
"""Printers leave about a centimetre bare; the foot holds ruler, name and number."""


@dataclass(frozen=True, slots=True)
class Paper:
    """A size of paper, mm, upright."""

    id: str
    name: str
    wide: float
    high: float

    @property
    def room(self) -> tuple[float, float]:
        """What can be printed on, above the foot."""
        return self.wide - 2 * MARGIN_MM, self.high - MARGIN_MM - FOOT_MM


PAPERS = {
    paper.id: paper
    for paper in (
        Paper("a4", "A4", 210.0, 297.0),
        Paper("a5", "A5", 148.0, 210.0),
        Paper("letter", "Letter", 215.9, 279.4),
        Paper("legal", "Legal", 215.9, 355.6),
    )
}

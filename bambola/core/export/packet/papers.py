"""Sizes of paper and label sheets, and their printable areas."""

from __future__ import annotations

from bambola.core.frozen import frozen

MARGIN_MM, FOOT_MM = 11.0, 15.0
"""Printers leave about a centimetre bare; the foot holds ruler, name and number."""


@frozen
class Paper:
    """A size of paper, mm, upright."""

    id: str
    name: str
    wide: float
    high: float

    @property
    def room(self) -> tuple[float, float]:
        """The printable area above the foot."""
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


@frozen
class LabelSheet:
    """A sheet of labels on a paper, mm: ``columns`` by ``rows`` labels ``wide`` by ``high`` each, the first
    at ``left`` and ``top``, with a ``gap`` between columns and none between rows."""

    paper: str
    columns: int
    rows: int
    wide: float
    high: float
    left: float
    top: float
    gap: float

    @property
    def id(self) -> str:
        """The number of labels."""
        return str(self.columns * self.rows)

    def corner(self, n: int) -> tuple[float, float]:
        """Return the upper left corner of the n-th label, counted from 0 along the rows, mm."""
        row, column = divmod(n, self.columns)
        return self.left + column * (self.wide + self.gap), self.top + row * self.high


LABEL_SHEETS = (
    LabelSheet("a4", 2, 4, 99.1, 67.7, 4.65, 13.1, 2.5),
    LabelSheet("a4", 2, 7, 99.1, 38.1, 4.65, 15.15, 2.5),
    LabelSheet("a4", 3, 7, 63.5, 38.1, 7.25, 15.15, 2.5),
    LabelSheet("a4", 3, 8, 70.0, 37.0, 0.0, 0.5, 0.0),
    LabelSheet("letter", 2, 5, 101.6, 50.8, 4.0, 12.7, 4.7),
    LabelSheet("letter", 3, 10, 66.7, 25.4, 4.8, 12.7, 3.1),
)
"""Sheets as they are usually sold."""


def label_sheets(paper: Paper) -> dict[str, LabelSheet]:
    """Return the label sheets for a paper, by their number of labels."""
    return {sheet.id: sheet for sheet in LABEL_SHEETS if sheet.paper == paper.id}

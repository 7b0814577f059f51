"""All makings as a table for a spreadsheet."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.bench import Making
from bambola.core.export.tables import write_csv
from bambola.core.quantities import MM_PER
from bambola.core.words import Words


def makings_csv(makings: Mapping[str, Making], words: Words) -> str:
    """Return a row for each making: heights, days, hours, failures, what to do differently, price."""
    tr, unit = words.tr, words.units.length

    def long(mm: float | None) -> float | str:
        return "" if mm is None else mm / MM_PER[unit]

    head = (
        tr("id"),
        tr("figure"),
        tr("planned, {unit}", unit=unit),
        tr("reached, {unit}", unit=unit),
        tr("begun"),
        tr("finished"),
        tr("sold"),
        tr("hours"),
        tr("sittings"),
        tr("steps that failed"),
        tr("price"),
        tr("next time"),
    )
    rows = (
        (
            name,
            making.figure,
            long(making.height_mm),
            long(making.reached_mm),
            making.first_day,
            making.finished or "",
            making.sold or "",
            making.spent / 60,
            len(making.sittings),
            len(making.failed),
            "" if making.price is None else str(making.price),
            making.next_time,
        )
        for name, making in makings.items()
    )
    return write_csv(head, rows)

"""Sizes that were written into a spreadsheet: which column is what is told by its head."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Mapping, Sequence
from itertools import islice
from typing import get_args

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure import Figure, Survey, Taken
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.frozen import frozen
from bambola.core.quantities import LengthUnit, QuantityError, parse_length
from bambola.core.solids.edit import stretch_part

_NAMES = {"part", "name", "piece"}
_MEASURES: dict[str, tuple[str, ...]] = {
    "length": ("length", "height"),
    "long": ("length", "height"),
    "height": ("height", "length"),
    "high": ("height", "length"),
    "width": ("width", "diameter", "thickness"),
    "wide": ("width", "diameter", "thickness"),
    "depth": ("depth", "thickness", "diameter"),
    "deep": ("depth", "thickness", "diameter"),
    "thickness": ("thickness", "diameter", "depth"),
    "thick": ("thickness", "diameter", "depth"),
    "diameter": ("diameter", "thickness", "width"),
    "base": ("base",),
    "tip": ("tip",),
}
"""What a column is headed, and the measures of a shape it may stand for, the likeliest first."""
_MAX_ROWS, _MAX_TEXT = 2000, 1_000_000
"""A table of sizes has a row for each of at most 400 parts. Judged."""
_UNIT = re.compile(r"\b(mm|cm|in)\b")


@frozen
class SizesLine:
    """A part by its name in the table, and the sizes (mm) it has there, by the heads of their columns."""

    name: str
    sizes: dict[str, float]


def read_sizes(
    text: str, unit: LengthUnit, heads: Mapping[str, str] | None = None
) -> tuple[SizesLine, ...]:
    """Return the lines of a table with a head: columns are parted by tabs, semicolons or commas, numbers may
    have a decimal comma, and stand in ``unit`` where neither they nor the head say otherwise. ``heads`` are
    what the maker calls things, in English. Raises :class:`RefusedError` where no column can be told."""
    rows = rows_of(text)
    for at, row in enumerate(rows):
        names, measures = _find_columns(row, heads or {})
        if names is not None and measures:
            found = tuple(_read_lines(rows[at + 1 :], at + 2, names, measures, unit))
            if not found:
                raise RefusedError(Fact("table.empty"))
            return found
    raise RefusedError(Fact("table.no-columns"))


def read_columns(text: str, unit: LengthUnit, columns: Sequence[str]) -> tuple[SizesLine, ...]:
    """As :func:`read_sizes`, of a table whose ``columns`` its maker has told: each is ``part``, a size, or
    empty where it is not used. Lines are read from the first that has a size."""
    rows = rows_of(text)
    names = columns.index("part")
    measures = {i: (what, None) for i, what in enumerate(columns) if what in _MEASURES}
    for at, row in enumerate(rows):
        if any(size_mm(row[i], unit) for i in measures if i < len(row)):
            return tuple(_read_lines(rows[at:], at + 1, names, dict(measures), unit))
    raise RefusedError(Fact("table.empty"))


def rows_of(text: str) -> list[list[str]]:
    """Return the rows of a table that are not empty. Raises :class:`RefusedError`."""
    return [row for row in _read_rows(text) if any(cell.strip() for cell in row)]


def size_mm(cell: str, unit: LengthUnit) -> float:
    """Return a size as it is written, mm; nought where it is none."""
    try:
        return parse_length(cell.strip(), unit) if cell.strip() else 0.0
    except QuantityError:
        return 0.0


def _read_rows(text: str) -> list[list[str]]:
    """Return all rows. Raises :class:`RefusedError` for more than a table of sizes can have, and for a
    quote that is never closed: it would swallow every line after it."""
    if len(text) > _MAX_TEXT:
        raise RefusedError(fact("table.long", most=_MAX_ROWS))
    # Some spreadsheets end a line in a carriage return alone, which csv refuses.
    text = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    head = text[:4000]
    parted = max("\t;,", key=head.count)
    try:
        rows = _parse_rows(text, parted, strict=True)
    except csv.Error as error:
        if "end of data" in str(error):
            raise RefusedError(Fact("table.open-quote")) from None
        rows = _parse_rows(text, parted, strict=False)  # such as 2" in the midst of a cell
    if len(rows) > _MAX_ROWS:
        raise RefusedError(fact("table.long", most=_MAX_ROWS))
    return rows


def _parse_rows(text: str, parted: str, strict: bool) -> list[list[str]]:
    """Return up to one row more than is allowed. Raises ``csv.Error`` where ``strict``."""
    reader = csv.reader(io.StringIO(text), delimiter=parted, strict=strict)
    try:
        return list(islice(reader, _MAX_ROWS + 1))
    except csv.Error as error:
        if "field larger" in str(error):
            raise RefusedError(Fact("table.open-quote")) from None
        raise


def _find_columns(
    row: list[str], heads: Mapping[str, str]
) -> tuple[int | None, dict[int, tuple[str, LengthUnit | None]]]:
    """Return which column has the names, and which have sizes, of what and in which unit."""
    names: int | None = None
    measures: dict[int, tuple[str, LengthUnit | None]] = {}
    for i, cell in enumerate(row):
        for word in re.findall(r"[^\W\d_]+", cell.casefold()):
            known = heads.get(word, word)
            if known in _NAMES and names is None:
                names = i
            elif known in _MEASURES and i not in measures:
                told = _UNIT.search(cell.casefold())
                measures[i] = (
                    known,
                    next((u for u in get_args(LengthUnit) if told and u == told[1]), None),
                )
    return names, measures


def _read_lines(
    rows: list[list[str]],
    first: int,
    names: int,
    measures: dict[int, tuple[str, LengthUnit | None]],
    unit: LengthUnit,
) -> Iterator[SizesLine]:
    for n, row in enumerate(rows, first):
        name = row[names].strip() if names < len(row) else ""
        sizes = {}
        for i, (head, own) in measures.items():
            cell = row[i].strip() if i < len(row) else ""
            if not cell or not name:
                continue
            mm = size_mm(cell, own or unit)
            if not LEAST_MM <= mm <= 1_000_000:
                raise RefusedError(
                    fact("table.no-size", row=n, part=name, text=cell[:20], example="42")
                )
            sizes[head] = mm
        if sizes:
            yield SizesLine(name, sizes)


@frozen
class FromTable:
    """The figure with the sizes of a table, how many were ``taken``, the parts that it does not have, and the
    sizes that are none of a part's shape."""

    figure: Figure
    survey: Survey
    taken: int
    unknown: tuple[str, ...]
    unfit: tuple[str, ...]


def with_sizes(figure: Figure, survey: Survey, lines: tuple[SizesLine, ...]) -> FromTable:
    """Return ``figure`` with each part as large as its line says; the rest of it stays. Raises ``ValueError``
    in one sentence where no part can be so."""
    known = {part.name.casefold(): part.id for part in figure.parts}
    known |= {part.id: part.id for part in figure.parts}
    unknown, unfit, taken = [], [], 0
    for line in lines:
        part = known.get(line.name.casefold())
        if part is None:
            unknown.append(line.name)
            continue
        names, wanted = figure.by_id[part].shape.measure_names, {}
        for head, mm in line.sizes.items():
            fits = (name for name in _MEASURES[head] if name in names and name not in wanted)
            name = next(fits, None)
            if name is None:
                unfit.append(f"{line.name}, {head}")
            else:
                wanted[name] = mm
        if wanted:
            figure = stretch_part(figure, part, wanted)
            now = figure.by_id[part].shape.measures()
            survey = survey.with_readings(
                *(Taken(part=part, measure=n, mm=now[n], how="straight") for n in wanted)
            )
            taken += len(wanted)
    return FromTable(figure, survey, taken, tuple(unknown), tuple(unfit))

"""Strips of a face at true size: from the crown, from the midline, and the threads round the head."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from bambola.core.export.drawn import (
    INK,
    MADDER,
    QUIET,
    DrawnText,
    Item,
    box,
    line,
    text_wide,
)
from bambola.core.face import Face, Mark
from bambola.core.quantities import show_length
from bambola.core.words import Words as Maker

HIGH_MM = 12.0
"""How high a strip of paper is that is cut out and laid on."""
_ROW, _LETTERS = 4.2, 3.0


def strips_of(face: Face, words: Maker) -> list[tuple[float, list[Item]]]:
    """Return the strips of one face, each with its height on the page; lengths along x are true."""
    down = [(mark, mark.from_crown_mm) for mark in face.told]
    aside = [(mark, mark.from_midline_mm) for mark in face.told if mark.both]
    told = words.tr("{part}: from the crown over the surface to each mark", part=face.name)
    end = words.tr("chin") if face.is_head else words.tr("underside")
    found = [_strip(told, face.strip_mm, down, words, words.tr("crown"), end)]
    if aside:
        told = words.tr(
            "{part}: from the midline to each side; flip it for the other", part=face.name
        )
        reach = max(mm for _, mm in aside) + 5
        found.append(_strip(told, reach, aside, words, words.tr("midline"), ""))
    by_id = {mark.id: mark for mark in face.marks}
    for thread in face.threads:
        told_ids = {mark.id for mark in face.told}
        ticks = [(by_id[id], mm) for id, mm in thread.ticks if id in told_ids]
        names = [words.say(mark.name) for mark, _ in ticks]
        told = words.tr(
            "{part}: half a thread round at {marks}, {round} all round",
            part=face.name,
            marks=", ".join(names),
            round=show_length(thread.round_mm, words.units),
        )
        front, back = words.tr("front"), words.tr("back")
        found.append(_strip(told, thread.round_mm / 2, ticks, words, front, back))
    return found


def _strip(
    told: str,
    long: float,
    ticks: Sequence[tuple[Mark, float]],
    words: Maker,
    first: str,
    last: str,
) -> tuple[float, list[Item]]:
    """Return a strip from x = 0: title above, ticks on it, their names below in as many rows as needed."""
    items: list[Item] = [DrawnText(0, 4, told, 3.4, "bold")]
    top = 6.5
    items.append(box(0, top, long, HIGH_MM, colour=INK, width=0.3, what="strip"))
    items.append(DrawnText(0, top + HIGH_MM + 4, first, _LETTERS, colour=QUIET))
    if last:
        items.append(DrawnText(long, top + HIGH_MM + 4, last, _LETTERS, colour=QUIET, at="right"))
    rows = list(_rows([(words.say(mark.name), mm) for mark, mm in ticks], words))
    for text, mm, row in rows:
        y = top + HIGH_MM + 4 + _ROW * (row + 1)
        items.append(line(mm, top, mm, top + HIGH_MM, colour=MADDER, width=0.4, what="mark"))
        items.append(line(mm, top + HIGH_MM, mm, y - 3, colour=MADDER, width=0.15))
        items.append(DrawnText(mm + 0.6, y, text, _LETTERS))
    deepest = max((row for *_, row in rows), default=-1)
    return top + HIGH_MM + 8 + _ROW * (deepest + 1), items


def _rows(ticks: Sequence[tuple[str, float]], words: Maker) -> Iterator[tuple[str, float, int]]:
    """Yield every tick with its text and the row for it: below the rows of all ticks whose lines the text
    would cross."""
    placed: list[tuple[float, int]] = []
    for name, mm in sorted(ticks, key=lambda tick: tick[1], reverse=True):
        text = f"{name}  {show_length(mm, words.units)}"
        end = mm + text_wide(text, _LETTERS) + 2
        row = max((row + 1 for at, row in placed if at <= end), default=0)
        placed.append((mm, row))
        yield text, mm, row

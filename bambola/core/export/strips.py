"""Wires laid straight at true size, to be marked before they are bent: what lies where on each piece."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from bambola.core.armature import Bend, CutPiece, CutStretch, CutWire
from bambola.core.export.drawn import INK, MADDER, QUIET, DrawnText, Item, box, line, text_wide
from bambola.core.face import Face, Mark
from bambola.core.quantities import show_bought, show_length
from bambola.core.words import ENGLISH, Words
from bambola.core.words import Words as Maker


@dataclass(frozen=True)
class StripRow:
    """One row of paper for a piece, from ``start_mm`` to ``end_mm`` along it. ``before`` and ``after`` are
    the letters of match marks where the strip is cut, or empty."""

    start_mm: float
    end_mm: float
    before: str = ""
    after: str = ""


def rows_of(length: float, room: float) -> tuple[StripRow, ...]:
    """Return a piece ``length`` mm long cut into rows of at most ``room`` mm, with match marks between."""
    count = max(1, -int(-length // room))
    cuts = [min(i * room, length) for i in range(count + 1)]
    letters = ["", *(letter_of(i) for i in range(count - 1)), ""]
    return tuple(
        StripRow(a, b, letters[i], letters[i + 1])
        for i, (a, b) in enumerate(itertools.pairwise(cuts))
    )


def letter_of(i: int) -> str:
    """Return a, B, ... Z, AA, AB ..."""
    return (letter_of(i // 26 - 1) if i >= 26 else "") + chr(ord("A") + i % 26)


def stretches_of(wire: CutWire, piece: CutPiece) -> list[CutStretch]:
    """Return the stretches of a wire that lie on a piece, measured from the piece's own start."""
    found = []
    for s in wire.stretches:
        a, b = max(s.start_mm, piece.start_mm), min(s.end_mm, piece.end_mm)
        if b > a + 1e-9:
            found.append(
                CutStretch(
                    s.kind,
                    a - piece.start_mm,
                    b - piece.start_mm,
                    s.why,
                    s.a,
                    s.b,
                    s.bone_mm,
                    s.strands,
                )
            )
    return found


def bends_of(wire: CutWire, piece: CutPiece) -> list[Bend]:
    """Return the bends that lie on a piece, measured from the piece's own start."""
    return [
        Bend(b.at_mm - piece.start_mm, b.angle_deg, b.twist_deg, b.node)
        for b in wire.bends
        if piece.start_mm <= b.at_mm <= piece.end_mm
    ]


def bend_words(bend: Bend, words: Words = ENGLISH) -> str:
    """Return a bend as it is made: how far to turn the wire first, and the angle."""
    angle, turned = f"{bend.angle_deg:.0f}°", f"{abs(bend.twist_deg):.0f}°"
    if abs(bend.twist_deg) < 1:
        return angle
    if bend.twist_deg > 0:
        return words.tr("{turned} clockwise, {angle}", turned=turned, angle=angle)
    return words.tr("{turned} anticlockwise, {angle}", turned=turned, angle=angle)


def wire_title(wire: CutWire, words: Words) -> str:
    """Return the length of a wire and its stock, as text."""
    pieces = words.tr(", {n} pieces spliced", n=len(wire.pieces)) if len(wire.pieces) > 1 else ""
    return words.tr(
        "{name}: cut {cut} of {stock}, {diameter}{pieces}",
        name=words.say(wire.name),
        cut=show_length(wire.cut_mm, words.units),
        stock=words.say(wire.stock),
        diameter=show_bought(wire.diameter_mm, words.units),
        pieces=pieces,
    )


HIGH_MM = 12.0
"""How high a strip of paper is that is cut out and laid on."""
_ROW, _LETTERS = 4.2, 3.0


def strips_of(face: Face, words: Maker) -> list[tuple[float, list[Item]]]:
    """Return the strips of one face, each with its height on the page; lengths along x are true."""
    down = [(mark, mark.from_crown_mm) for mark in face.named_marks]
    aside = [(mark, mark.from_midline_mm) for mark in face.named_marks if mark.both]
    told = words.tr("{part}: from the crown over the surface to each mark", part=face.name)
    end = words.tr("chin") if face.is_head else words.tr("underside")
    found = [_strip_items(told, face.strip_mm, down, words, words.tr("crown"), end)]
    if aside:
        told = words.tr(
            "{part}: from the midline to each side; flip it for the other", part=face.name
        )
        reach = max(mm for _, mm in aside) + 5
        found.append(_strip_items(told, reach, aside, words, words.tr("midline"), ""))
    by_id = {mark.id: mark for mark in face.marks}
    for thread in face.threads:
        told_ids = {mark.id for mark in face.named_marks}
        ticks = [(by_id[id], mm) for id, mm in thread.ticks if id in told_ids]
        names = [words.say(mark.name) for mark, _ in ticks]
        told = words.tr(
            "{part}: half a thread round at {marks}, {round} all round",
            part=face.name,
            marks=", ".join(names),
            round=show_length(thread.round_mm, words.units),
        )
        front, back = words.tr("front"), words.tr("back")
        found.append(_strip_items(told, thread.round_mm / 2, ticks, words, front, back))
    return found


def _strip_items(
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
    rows = list(_place_ticks([(words.say(mark.name), mm) for mark, mm in ticks], words))
    for text, mm, row in rows:
        y = top + HIGH_MM + 4 + _ROW * (row + 1)
        items.append(line(mm, top, mm, top + HIGH_MM, colour=MADDER, width=0.4, what="mark"))
        items.append(line(mm, top + HIGH_MM, mm, y - 3, colour=MADDER, width=0.15))
        items.append(DrawnText(mm + 0.6, y, text, _LETTERS))
    deepest = max((row for *_, row in rows), default=-1)
    return top + HIGH_MM + 8 + _ROW * (deepest + 1), items


def _place_ticks(
    ticks: Sequence[tuple[str, float]], words: Maker
) -> Iterator[tuple[str, float, int]]:
    """Yield every tick with its text and the row for it: below the rows of all ticks whose lines the text
    would cross."""
    placed: list[tuple[float, int]] = []
    for name, mm in sorted(ticks, key=lambda tick: tick[1], reverse=True):
        text = f"{name}  {show_length(mm, words.units)}"
        end = mm + text_wide(text, _LETTERS) + 2
        row = max((row + 1 for at, row in placed if at <= end), default=0)
        placed.append((mm, row))
        yield text, mm, row

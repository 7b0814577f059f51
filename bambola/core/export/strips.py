"""Wires laid straight at true size, to be marked before they are bent: what lies where on each piece."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

from bambola.core.armature import Bend, CutPiece, CutStretch, CutWire
from bambola.core.quantities import show_bought, show_length
from bambola.core.words import ENGLISH, Words


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

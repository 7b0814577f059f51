"""What measuring devices say over a serial line, and how it is read. See ``docs/devices.md``.

A device sends lines of ASCII ending in a line feed, at most 80 bytes each:

    HELLO caliper 1          once it is on: what it is and the version it speaks
    READ 17 23.41 mm 1E      its button was pressed: running number, value, unit, checksum
    RANGE 0.1 500 g 02       a scale's step and its capacity
    WEIGHT 12.3 g steady 47  what lies on a scale now, several times a second: steady, moving or over
    ALIVE                    every second while it is on

The checksum is the XOR of the bytes before the last space, as two hexadecimal digits.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import reduce
from typing import Literal, cast

from bambola.core.quantities import G_PER, MM_PER
from bambola.language import tr

VERSION = 1
MOST_BYTES = 80
SILENT_S = 3.5
"""A device that has said nothing for this long has gone."""
MOST_MM = 2000.0
"""No caliper opens wider than this: anything above is a slip of the line."""
MOST_G = 100_000.0
"""Nor does a scale of this protocol carry more."""
_WEIGHT = re.compile(r"WEIGHT (-?\d{1,6}(?:\.\d{1,4})?) (g|oz) (steady|moving|over) ([0-9A-F]{2})")
_RANGE = re.compile(r"RANGE (\d{1,3}(?:\.\d{1,4})?) (\d{1,6}(?:\.\d{1,4})?) (g|oz) ([0-9A-F]{2})")
_READ = re.compile(r"READ (\d{1,9}) (-?\d{1,6}(?:\.\d{1,4})?) (mm|cm|in|g|oz) ([0-9A-F]{2})")


@dataclass(frozen=True, slots=True)
class Hello:
    """A device was switched on."""

    kind: str
    version: int


@dataclass(frozen=True, slots=True)
class Reading:
    """A reading: its running number, and its value in mm or g."""

    number: int
    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class Weight:
    """The weight on a scale, g; it may be negative after taring. ``over``: more than the capacity."""

    grams: float
    state: Literal["steady", "moving", "over"]


@dataclass(frozen=True, slots=True)
class Range:
    """What a scale can show: its step and its capacity, g."""

    step_g: float
    capacity_g: float


@dataclass(frozen=True, slots=True)
class Alive:
    """A device is still connected."""


@dataclass(frozen=True, slots=True)
class UnreadableLine:
    """An unreadable line; ``why`` is a short reason for the maker."""

    why: str


Message = Hello | Reading | Weight | Range | Alive | UnreadableLine


def checksum(text: str) -> str:
    """Return the XOR of the bytes of ``text`` as two hexadecimal digits."""
    return f"{reduce(lambda a, b: a ^ b, text.encode('ascii', 'replace'), 0):02X}"


def reading_line(number: int, value: float, unit: str = "mm") -> str:
    """Return the line a device sends for a reading, with its line feed."""
    text = f"READ {number} {value:.2f} {unit}"
    return f"{text} {checksum(text)}\n"


def weight_line(grams: float, state: str, places: int = 2) -> str:
    """Return the line a scale sends for a weight, with its line feed."""
    text = f"WEIGHT {grams:.{places}f} g {state}"
    return f"{text} {checksum(text)}\n"


def range_line(step: float, capacity: float) -> str:
    """Return the line a scale sends for its step and capacity, with its line feed."""
    text = f"RANGE {step:g} {capacity:g} g"
    return f"{text} {checksum(text)}\n"


def parse_message(line: bytes) -> Message:
    """Return the message in one line (without its line feed)."""
    if len(line) > MOST_BYTES:
        return UnreadableLine(tr("a line too long to be a reading"))
    try:
        text = line.decode("ascii").strip()
    except UnicodeDecodeError:
        return UnreadableLine(tr("bytes that are not text"))
    if text == "ALIVE":
        return Alive()
    hello = re.fullmatch(r"HELLO ([a-z]{1,20}) (\d{1,4})", text)
    if hello:
        return Hello(hello[1], int(hello[2]))
    if text.startswith(("WEIGHT ", "RANGE ")):
        return _scale_says(text)
    read = _READ.fullmatch(text)
    if read is None:
        return UnreadableLine(tr("a line that is not a reading"))
    if checksum(text.rpartition(" ")[0]) != read[4]:
        return UnreadableLine(tr("a reading whose checksum is wrong"))
    factor = MM_PER.get(read[3], G_PER.get(read[3], 1.0))
    value = float(read[2]) * factor
    if not math.isfinite(value) or value < 0 or (read[3] in MM_PER and value > MOST_MM):
        return UnreadableLine(tr("a reading out of range"))
    return Reading(int(read[1]), value, "mm" if read[3] in MM_PER else "g")


def _scale_says(text: str) -> Message:
    weight, span = _WEIGHT.fullmatch(text), _RANGE.fullmatch(text)
    found = weight or span
    if found is None:
        return UnreadableLine(tr("a line that is not a weight"))
    if checksum(text.rpartition(" ")[0]) != found[4]:
        return UnreadableLine(tr("a weight whose checksum is wrong"))
    if weight:
        grams = float(weight[1]) * G_PER[weight[2]]
        if abs(grams) > MOST_G:
            return UnreadableLine(tr("a weight out of range"))
        return Weight(grams, cast(Literal["steady", "moving", "over"], weight[3]))
    step, capacity = (float(found[i]) * G_PER[found[3]] for i in (1, 2))
    if not 0 < step < capacity <= MOST_G:
        return UnreadableLine(tr("a scale that shows nothing"))
    return Range(step, capacity)


class LineSplitter:
    """Splits incoming data into lines, in whatever pieces it arrives; buffers only a few."""

    def __init__(self) -> None:
        self._kept = b""

    def feed(self, data: bytes) -> list[Message]:
        """Return the messages completed by ``data``."""
        whole = (self._kept + data).replace(b"\r", b"\n").split(b"\n")
        self._kept = whole.pop()
        said = [parse_message(line) for line in whole if line.strip()]
        if len(self._kept) > MOST_BYTES:
            self._kept = b""
            said.append(UnreadableLine(tr("a line too long to be a reading")))
        return said


class Repeats:
    """Tells a reading sent twice (with the same number) from a new one."""

    def __init__(self) -> None:
        self._last: int | None = None

    def is_new(self, reading: Reading) -> bool:
        """Return whether this reading was not received before."""
        new = reading.number != self._last
        self._last = reading.number
        return new

    def forget(self) -> None:
        """Forget past numbers, since a device that says hello counts anew."""
        self._last = None

"""The maker's free times as stretches of a week that can be placed, moved and lengthened."""

from __future__ import annotations

from collections.abc import Iterable

from bambola.core.bench import FreeTime

DAY_MIN = 24 * 60
SNAP_MIN = 15
"""Free times begin and end on the quarter of an hour."""
LEAST_MIN, MOST_MIN = 15, 960
"""The shortest that can be pulled (one quarter), and the longest that a ``FreeTime`` may be."""


def begin_minute(slot: FreeTime) -> int:
    """Return its beginning in minutes after midnight."""
    hour, minute = slot.start.split(":")
    return int(hour) * 60 + int(minute)


def end_minute(slot: FreeTime) -> int:
    """Return its end in minutes after midnight."""
    return begin_minute(slot) + slot.minutes


def nearest_free_time(weekday: int, start: float, end: float) -> FreeTime:
    """Return the free time nearest to ``start`` and ``end`` (minutes after midnight): in whole quarters of an
    hour, within its day, neither too short nor too long."""
    a = _snapped(min(start, end))
    b = _snapped(max(start, end))
    a = min(a, DAY_MIN - LEAST_MIN)
    length = min(max(b - a, LEAST_MIN), MOST_MIN, DAY_MIN - a)
    return FreeTime(weekday=weekday, start=f"{a // 60:02d}:{a % 60:02d}", minutes=length)


def move_slot(slot: FreeTime, weekday: int, start: float) -> FreeTime:
    """Return ``slot`` on another day or at another time, of the same length and within the day."""
    at = max(0.0, min(start, DAY_MIN - slot.minutes))
    return nearest_free_time(weekday, at, at + slot.minutes)


def merge_slots(free: Iterable[FreeTime]) -> tuple[FreeTime, ...]:
    """Return the slots in order, with overlapping ones merged."""
    found: list[FreeTime] = []
    for slot in sorted(free, key=lambda s: (s.weekday, begin_minute(s))):
        last = found[-1] if found else None
        if last and last.weekday == slot.weekday and begin_minute(slot) < end_minute(last):
            longer = min(max(end_minute(last), end_minute(slot)) - begin_minute(last), MOST_MIN)
            found[-1] = last.replaced(minutes=longer)
        else:
            found.append(slot)
    return tuple(found)


def _snapped(minutes: float) -> int:
    return max(0, min(DAY_MIN, round(minutes / SNAP_MIN) * SNAP_MIN))

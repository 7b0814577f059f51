"""The sittings as an iCalendar file."""

from __future__ import annotations

from datetime import datetime
from uuid import NAMESPACE_OID, uuid5

from icalendar import Calendar as Feed
from icalendar import Event

from bambola.core.order import Step
from bambola.core.order.sittings import Calendar
from bambola.core.words import ENGLISH, Words


def calendar_ics(
    figure: str,
    steps: tuple[Step, ...],
    found: Calendar,
    stamp: datetime,
    words: Words = ENGLISH,
    making: str = "",
) -> bytes:
    """Return one event a sitting, in the maker's own (floating) time; ``stamp`` is the time of writing.
    Events carry the id of the ``making``, so that a later export replaces them and leaves those of other
    figures alone."""
    by_n = {step.n: step for step in steps}
    feed = Feed()
    feed.add("prodid", "-//Bambola//EN")
    feed.add("version", "2.0")
    feed.add("x-wr-calname", words.tr("{figure}: making", figure=figure))
    for i, sitting in enumerate(found.sittings, 1):
        event = Event()
        event.add("uid", f"{uuid5(NAMESPACE_OID, f'bambola:{making or figure}')}-{i}@bambola")
        event.add("dtstamp", stamp)
        event.add("dtstart", sitting.start)
        event.add("dtend", sitting.end)
        event.add(
            "summary",
            words.tr("{figure}: sitting {i} of {n}", figure=figure, i=i, n=len(found.sittings)),
        )
        lines = [
            _step_line(p.n, words.say(by_n[p.n].text), p.minutes, p.more, words)
            for p in sitting.pieces
        ]
        event.add("description", "\n".join(lines))
        feed.add_component(event)
    data: bytes = feed.to_ical()
    return data


def _step_line(n: int, text: str, minutes: float, more: bool, words: Words) -> str:
    slots = {"n": n, "text": text, "minutes": minutes}
    if more:
        return words.tr("{n}. {text} ({minutes:.0f} min, to be continued)", **slots)
    return words.tr("{n}. {text} ({minutes:.0f} min)", **slots)

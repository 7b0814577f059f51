"""What a plan says, in English and millimetres, for tests that read it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from bambola.core.facts import RefusedError
from bambola.core.quantities import Units
from bambola.core.words import ENGLISH

said = ENGLISH.say
METRIC = re.compile(r"\d\s?(mm|cm|m|g|g/cm.|cm²|cm³|kg|kPa|N·mm)\b")
IMPERIAL = re.compile(r"\d\s?(in(?! the )|oz|ft|sq in|cu in|lb)\b")
SOLD_OR_SMALL = re.compile(
    r"[\d.]+ mm \([^)]+( in\)|$)|\b[012]?(\.\d+)? g\b|(steel|copper|brass|aluminium) [\d.]+ mm"
)
"""Sizes and names as they are sold, whole or at the end of a line, and weights under a tenth of an ounce."""

BOTH_UNITS = {"in": (Units("in", "oz"), METRIC), "mm": (Units(), IMPERIAL)}
"""What makers think in, and what they do not want to read then."""


def strays(texts: set[str], unit: str) -> list[str]:
    """Those of ``texts`` that tell a quantity in the units that were not asked for."""
    other = BOTH_UNITS[unit][1]
    return sorted(text for text in texts if other.search(SOLD_OR_SMALL.sub("", text)))


@contextmanager
def refused(kind: type[RefusedError], words: str) -> Iterator[pytest.ExceptionInfo[RefusedError]]:
    """What is done within is refused, in ``words`` (a pattern)."""
    with pytest.raises(kind) as told:
        yield told
    assert re.search(words, said(told.value.told)), said(told.value.told)

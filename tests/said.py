"""What a plan says, in English and millimetres, for tests that read it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from bambola.core.facts import RefusedError
from bambola.core.words import ENGLISH

said = ENGLISH.say


@contextmanager
def refused(kind: type[RefusedError], words: str) -> Iterator[pytest.ExceptionInfo[RefusedError]]:
    """What is done within is refused, in ``words`` (a pattern)."""
    with pytest.raises(kind) as told:
        yield told
    assert re.search(words, said(told.value.told)), said(told.value.told)

"""A pytest plugin that notes which test runs which line: loaded by ``scripts/reach.py`` under coverage."""

from __future__ import annotations

from collections.abc import Generator
from typing import TypeVar

import pytest
from coverage import Coverage

from bambola.core.memo import current_memory

T = TypeVar("T")


@pytest.hookimpl(wrapper=True)
def pytest_runtest_call(item: pytest.Item) -> Generator[None, T, T]:
    """Run a test with nothing remembered, in a context of its own."""
    current_memory().forget()  # else a test would not be seen to run what an earlier one has found
    # By the names of functions: the examples that hypothesis tries would go by their own.
    watching = Coverage.current()
    assert watching is not None
    watching.switch_context(item.nodeid.partition("[")[0])
    try:
        return (yield)
    finally:
        watching.switch_context("")

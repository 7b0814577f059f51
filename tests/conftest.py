from __future__ import annotations

import os

import pytest
from hypothesis import HealthCheck, settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
settings.register_profile(
    "bambola",
    deadline=None,
    derandomize=True,
    max_examples=40,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)
settings.load_profile("bambola")

from bambola.core.figure import Bench, Document  # noqa: E402
from bambola.demo import default_bench, load_demo  # noqa: E402


@pytest.fixture(scope="session")
def bench() -> Bench:
    return default_bench()


@pytest.fixture(scope="session")
def badger() -> Document:
    return load_demo()

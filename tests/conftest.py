from __future__ import annotations

import atexit
import os
import shutil
import tempfile

import pytest
from hypothesis import HealthCheck, settings

from tests.effort import tries

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Nothing is written outside the tests' own folders, not even by the programs that they start.
_OWN = tempfile.mkdtemp(prefix="bambola-tests-")
atexit.register(shutil.rmtree, _OWN, ignore_errors=True)
for _name in ("XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_CACHE_HOME", "XDG_STATE_HOME"):
    os.environ[_name] = os.path.join(_OWN, _name.lower())
# New examples are tried in every run, and a failure prints how to repeat it. What must pass before a change
# lands does not hang on luck: there the examples are the same each time.
settings.register_profile(
    "bambola",
    deadline=None,
    derandomize=bool(os.environ.get("CI")),
    print_blob=True,
    database=None,
    max_examples=tries(40),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)
settings.load_profile("bambola")

from bambola.core import plan as planning  # noqa: E402
from bambola.core.bench import Bench  # noqa: E402
from bambola.core.figure import Document  # noqa: E402
from bambola.demo import load_demo  # noqa: E402
from bambola.shipped import default_bench  # noqa: E402
from tests.plans_once import made_once  # noqa: E402

# Before anything else takes it from there.
planning.make_plan = planning.make.make_plan = made_once(planning.make_plan)


@pytest.fixture(scope="session")
def bench() -> Bench:
    return default_bench()


@pytest.fixture(scope="session")
def badger() -> Document:
    return load_demo()

from __future__ import annotations

import atexit
import functools
import os
import shutil
import tempfile

import pytest
from hypothesis import HealthCheck, settings

from tests.effort import tries

pytest_plugins = ["tests.calm", "tests.durations"]
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
from bambola.core.export import felt  # noqa: E402
from bambola.core.figure import Document, Figure  # noqa: E402
from bambola.core.relief import Camera, Picture, portrait, stage_of  # noqa: E402
from bambola.core.solids import Detail, place  # noqa: E402
from bambola.demo import load_demo  # noqa: E402
from bambola.shipped import default_bench  # noqa: E402
from tests.plans_once import made_once  # noqa: E402

Colours = tuple[tuple[str, str], ...]

# Before anything else takes it from there.
planning.make_plan = planning.make.make_plan = made_once(planning.make_plan)


@pytest.fixture(autouse=True)
def no_waiting_for_the_disk(
    request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Files are written without waiting for the disk, except where that is the subject."""
    if "tests/store" not in request.node.nodeid and "tests/files" not in request.node.nodeid:
        monkeypatch.setattr(os, "fsync", lambda file: None)


@pytest.fixture(scope="session")
def bench() -> Bench:
    return default_bench()


@pytest.fixture(scope="session")
def badger() -> Document:
    return load_demo()


@pytest.fixture
def coarse_felt(monkeypatch: pytest.MonkeyPatch) -> None:
    """Felt pictures on paper of few and coarse dots: for who looks at what is beside them."""

    @functools.cache
    def coarse(figure: Figure, camera: Camera, step: float, colours: Colours, _: int) -> Picture:
        return portrait(stage_of(place(figure), Detail.UNION), camera, 4 * step, dict(colours))

    monkeypatch.setattr(felt, "_felt_picture", coarse)

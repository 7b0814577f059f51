"""A table of what every test costs, as if on calm cores: ``make durations``.

It sums pytest's own durations by file, by test and by fixture over all processes, and writes the table into
the folder given with ``--durations-table``. It is kept out of the repository.
"""

from __future__ import annotations

import time
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from tests.calm import Throttle

_FEW = 400
Rows = dict[str, float]


class Costs:
    """Seconds by test and by fixture, of this process and of those that it started."""

    def __init__(self) -> None:
        self.tests: Rows = defaultdict(float)
        self.fixtures: Rows = defaultdict(float)

    @pytest.hookimpl(wrapper=True)
    def pytest_fixture_setup(self, fixturedef: Any) -> Iterator[None]:
        began = time.monotonic()
        try:
            return (yield)
        finally:
            name = f"{fixturedef.baseid}::{fixturedef.argname}"
            self.fixtures[name] += time.monotonic() - began

    @pytest.hookimpl
    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        self.tests[report.nodeid] += report.duration

    @pytest.hookimpl
    def pytest_sessionfinish(self, session: pytest.Session) -> None:
        if hasattr(session.config, "workeroutput"):
            session.config.workeroutput["fixtures"] = dict(self.fixtures)

    @pytest.hookimpl(optionalhook=True)
    def pytest_testnodedown(self, node: Any) -> None:
        for name, took in getattr(node, "workeroutput", {}).get("fixtures", {}).items():
            self.fixtures[name] += took

    @pytest.hookimpl
    def pytest_terminal_summary(self, terminalreporter: Any, config: pytest.Config) -> None:
        folder = config.getoption("durations_table")
        if hasattr(config, "workerinput") or not folder:
            return
        throttle = config.pluginmanager.getplugin("calm")
        slow = throttle.slowness if isinstance(throttle, Throttle) else 1.0
        files: Rows = defaultdict(float)
        for test, took in self.tests.items():
            files[test.partition("::")[0]] += took
        path = Path(folder) / "durations.txt"
        lines = [f"core seconds on calm cores (these are {slow:.2f} times as slow)"]
        lines += [f"by folder: {throttle.by_folder()}"] if isinstance(throttle, Throttle) else []
        for title, rows in (
            ("files", files),
            ("fixtures, in the tests that set them up", self.fixtures),
            ("tests", self.tests),
        ):
            lines += ["", f"{title}: {sum(rows.values()) / slow:.0f}"]
            most = sorted(rows.items(), key=lambda row: -row[1])
            lines += [f"{took / slow:8.2f}  {name}" for name, took in most[:_FEW]]
        path.write_text("\n".join(lines) + "\n", encoding="utf-8")
        terminalreporter.write_line(f"What every test costs is in {path}.")


def pytest_addoption(parser: pytest.Parser) -> None:
    """Take the folder for the table."""
    parser.addoption(
        "--durations-table", metavar="FOLDER", help="write what every test costs there"
    )


def pytest_configure(config: pytest.Config) -> None:
    """Take part in a run that wants the table."""
    if config.getoption("durations_table"):
        config.pluginmanager.register(Costs(), "costs")

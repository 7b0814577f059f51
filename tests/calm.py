"""How long the tests would have taken on calm cores: other work on the machine is measured while they run.

Now and then each process times the fixed sum by which ``make bench`` is measured as well.
"""

from __future__ import annotations

import resource
import statistics
import time
from typing import Any

import pytest

from benchmarks.pace import REFERENCE_MS, fixed_sum_ms

EVERY_S = 5.0
"""So often is it timed: some three thousandths of the time. Judged."""
_AT_MOST_S = 180
"""What all of them may take on two calm cores; see CONTRIBUTING.md."""
ALLOWANCES = {"core": 150, "desk": 150, "rest": 60}
"""What the tests of a folder may take, in seconds of one calm core. Together they are what two cores do in
:data:`_AT_MOST_S`."""


def helpers_worked_s() -> float:
    """How long the helpers that have ended have worked, s: on a busy machine they take longer than that."""
    had = resource.getrusage(resource.RUSAGE_CHILDREN)
    return had.ru_utime + had.ru_stime


def folder_of(test: str) -> str:
    """Return the folder whose allowance a test falls under."""
    folder = test.removeprefix("tests/").partition("/")[0]
    return folder if folder in ALLOWANCES else "rest"


class Throttle:
    """What the fixed sum took in this process and in those that it has started."""

    def __init__(self, measures: bool) -> None:
        self.measures = measures
        self.began = self.last = time.monotonic()
        self.took: list[float] = []
        self.spent: dict[str, float] = dict.fromkeys(ALLOWANCES, 0.0)

    @pytest.hookimpl
    def pytest_runtest_logstart(self) -> None:
        if self.measures and time.monotonic() - self.last >= EVERY_S:
            self.took.append(fixed_sum_ms())
            self.last = time.monotonic()

    @pytest.hookimpl
    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        self.spent[folder_of(report.nodeid)] += report.duration

    @pytest.hookimpl
    def pytest_sessionfinish(self, session: pytest.Session) -> None:
        if hasattr(session.config, "workeroutput"):
            session.config.workeroutput["fixed_sums"] = self.took

    @pytest.hookimpl(optionalhook=True)
    def pytest_testnodedown(self, node: Any) -> None:
        self.took += getattr(node, "workeroutput", {}).get("fixed_sums", [])

    @property
    def slowness(self) -> float:
        """How many times as slow as calm cores these are; 1 where too little was timed."""
        if len(self.took) < 4:
            return 1.0
        # Seconds are added up, of which each is worth the less the slower it was.
        return max(1.0, statistics.harmonic_mean(self.took) / REFERENCE_MS)

    @pytest.hookimpl
    def pytest_terminal_summary(self, terminalreporter: Any) -> None:
        if len(self.took) < 4:
            return
        slow = self.slowness
        took = time.monotonic() - self.began
        terminalreporter.write_line(
            f"{took:.0f} s on cores {slow:.2f} times as slow as calm ones: {took / slow:.0f} s on these "
            f"(all of them are to take {_AT_MOST_S})"
        )
        terminalreporter.write_line(
            f"Seconds of one calm core, and those allowed: {self.by_folder()}"
        )

    def by_folder(self) -> str:
        """Return what the tests of each folder took beside its allowance, in seconds of one calm core."""
        return ", ".join(
            f"{folder} {self.spent[folder] / self.slowness:.0f} of {most}"
            for folder, most in ALLOWANCES.items()
        )


def pytest_configure(config: pytest.Config) -> None:
    """Take part in a run of tests."""
    is_started = hasattr(config, "workerinput")
    starts_others = not is_started and bool(config.getoption("numprocesses", None))
    config.pluginmanager.register(Throttle(measures=not starts_others), "calm")

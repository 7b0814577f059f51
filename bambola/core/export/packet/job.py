"""A request for paper."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date

from bambola.core.bench import Bench
from bambola.core.export.packet.papers import PAPERS, LabelSheet, Paper
from bambola.core.figure import Figure
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.wool.splitting import SplitPlan
from bambola.core.words import ENGLISH, Words


@dataclass(frozen=True)
class Job:
    """A request for paper: plans from the lowest to the highest, of one design on one bench. ``pages`` are
    ids of kinds; None means a whole packet. ``maker``, ``licence`` and ``note`` go on the cover, ``design``
    is the attached file, ``labels`` the sheet of bag labels (None: plain paper). Cards are short unless
    ``at_length``."""

    plans: tuple[Plan, ...]
    figure: Figure
    bench: Bench
    today: date
    paper: Paper = PAPERS["a4"]
    pages: tuple[str, ...] = ()
    words: Words = ENGLISH
    splits: Mapping[str, SplitPlan] | None = None
    maker: str = ""
    licence: str = ""
    note: str = ""
    labels: LabelSheet | None = None
    at_length: bool = False
    design: tuple[str, bytes] | None = None

    @property
    def plan(self) -> Plan:
        """The plan, or the highest of several."""
        return self.plans[-1]


def each_plan(job: Job) -> Iterator[tuple[Plan, str]]:
    """Yield the plans, each with its height as text if there are several."""
    for plan in job.plans:
        high = show_length(plan.to_height_mm, job.words.units)
        yield plan, f" · {high}" if len(job.plans) > 1 else ""

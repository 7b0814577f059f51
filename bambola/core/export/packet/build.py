"""From a plan, or the same figure at several heights, to the pages of a packet and to one PDF."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import TYPE_CHECKING

from bambola.core.bench import Bench
from bambola.core.export.packet.kinds import KIND_BY_ID, KINDS, WHOLE
from bambola.core.export.packet.papers import PAPERS, LabelSheet, Paper
from bambola.core.facts import RefusedError, fact
from bambola.core.figure import Figure
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.wool.splitting import SplitPlan
from bambola.core.words import ENGLISH, Words

if TYPE_CHECKING:
    from bambola.core.export.drawn import Page

# What lays out paper is loaded only where something is written: the window need not wait for it.

Progress = Callable[[int, int], None]
"""Told how many kinds of pages of how many are made; what it raises calls the packet off."""


class UnknownPageError(RefusedError):
    """A kind of page that there is not."""


@dataclass(frozen=True)
class Job:
    """What is put on paper: the plans from the lowest to the highest, of a design as made, on a bench.
    ``pages`` are kinds by their ids; none means a whole packet. ``maker``, ``licence`` and ``note`` go on the
    cover, and ``design`` is the file that travels within. ``labels`` is the sheet of labels for bags; none is
    plain paper."""

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
    design: tuple[str, bytes] | None = None

    @property
    def plan(self) -> Plan:
        """The plan, or the highest of several."""
        return self.plans[-1]


def packet_pages(job: Job, progress: Progress = lambda done, of: None) -> list[Page]:
    """All pages with name and number. Raises :class:`UnknownPageError`."""
    from bambola.core.export.packet.sheet import numbered

    unknown = [name for name in job.pages if name not in KIND_BY_ID]
    if unknown:
        told = fact("refused.page", name=unknown[0], known=tuple(KIND_BY_ID))
        raise UnknownPageError(told)
    wanted = [kind for kind in KINDS if kind.id in (job.pages or WHOLE)]
    found: list[Page] = []
    for done, kind in enumerate(wanted):
        progress(done, len(wanted))
        found += kind.pages(job)
    progress(len(wanted), len(wanted))
    return numbered(found, job.plan.figure, job.words)


def packet_pdf(job: Job, progress: Progress = lambda done, of: None) -> bytes:
    """The packet as PDF, with the design within if there is one."""
    from bambola.core.export.packet.attached import with_design

    pages = packet_pages(job, progress)
    made = pdf_of(pages, job.words.tr("{figure}: packet", figure=job.plan.figure), job.maker)
    return with_design(made, *job.design) if job.design else made


def pdf_of(pages: Sequence[Page], title: str, author: str = "") -> bytes:
    """Pages as one PDF."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    from bambola.core.export.drawn import put

    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(title)
    canvas.setAuthor(author or "Bambola")
    canvas.setCreator("Bambola")
    for page in pages:
        canvas.setPageSize((page.wide * mm, page.high * mm))
        put(canvas, page)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def each_plan(job: Job) -> Iterator[tuple[Plan, str]]:
    """The plans, each with its height in words where there are several."""
    for plan in job.plans:
        high = show_length(plan.to_height_mm, job.words.units)
        yield plan, f" · {high}" if len(job.plans) > 1 else ""

"""Builds the pages of a packet, and one PDF, from a plan or from plans of several heights."""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from bambola.core.export.packet.job import Job
from bambola.core.export.packet.kinds import KIND_BY_ID, KINDS, WHOLE
from bambola.core.facts import RefusedError, fact
from bambola.core.figure.fields import in_letters
from bambola.translated import language_of

if TYPE_CHECKING:
    from bambola.core.export.drawn import PaperPage


# What lays out paper is loaded only where something is written: the window need not wait for it.

Progress = Callable[[int, int], None]
"""Told how many kinds of pages of how many are made; what it raises calls the packet off."""


class UnknownPageError(RefusedError):
    """Raised for an unknown kind of page."""


def packet_pages(job: Job, progress: Progress = lambda done, of: None) -> list[PaperPage]:
    """Return all pages with name and number. Raises :class:`UnknownPageError`."""
    from bambola.core.export.packet.sheet import number_pages

    unknown = [name for name in job.pages if name not in KIND_BY_ID]
    if unknown:
        told = fact("refused.page", name=unknown[0], known=tuple(KIND_BY_ID))
        raise UnknownPageError(told)
    wanted = [kind for kind in KINDS if kind.id in (job.pages or WHOLE)]
    found: list[PaperPage] = []
    for done, kind in enumerate(wanted):
        progress(done, len(wanted))
        found += kind.pages(job)
    progress(len(wanted), len(wanted))
    return number_pages(found, job.plan.figure, job.words)


def packet_pdf(job: Job, progress: Progress = lambda done, of: None) -> bytes:
    """Return the packet as PDF, with the design attached if there is one."""

    pages = packet_pages(job, progress)
    title = job.words.tr("{figure}: packet", figure=job.plan.figure)
    made = pdf_of(pages, title, job.maker, language_of(job.words.catalogue))
    return with_design(made, *job.design) if job.design else made


def pdf_of(pages: Sequence[PaperPage], title: str, author: str = "", language: str = "en") -> bytes:
    """Return pages as one PDF with title, author and language, tagged for reading aloud."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    from bambola.core.export.drawn import draw_page
    from bambola.core.export.paper import BODY, register_fonts
    from bambola.core.export.tags import CanvasTags

    out = io.BytesIO()
    register_fonts()
    # Else a face of the printer's own is named in it.
    canvas = Canvas(out, pageCompression=1, invariant=1, initialFontName=BODY)  # type: ignore[arg-type]
    canvas.setTitle(title)
    canvas.setAuthor(author or "Bambola")
    canvas.setCreator("Bambola")
    canvas.setCatalogEntry("Lang", language)
    canvas.setViewerPreference("DisplayDocTitle", "true")
    tags = CanvasTags(canvas)
    for page in pages:
        canvas.setPageSize((page.wide * mm, page.high * mm))
        draw_page(canvas, page, tags)
        tags.turn(page.told)
    tags.write()
    canvas.save()
    return out.getvalue()


ENDING = ".bambola.json"


def attached_name(file: str) -> str:
    """Return the file name of the attached design, by which it is found again."""
    file = in_letters(file)
    return file if file.endswith(ENDING) else file.partition(".")[0] + ENDING


def with_design(pdf: bytes, name: str, design: bytes) -> bytes:
    """Return the PDF with ``design`` attached under a file name."""
    from pypdf import PdfWriter

    writer = PdfWriter(clone_from=io.BytesIO(pdf))
    writer.add_attachment(name, design)
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()

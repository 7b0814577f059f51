"""The kinds of pages, in the order of the packet. A new one is a file of its own and one entry here; a short
packet, a work sheet and others combine some of them (:mod:`.formats`)."""

from __future__ import annotations

from collections.abc import Iterable
from importlib import import_module
from typing import TYPE_CHECKING, cast

from bambola.core.frozen import frozen
from bambola.core.marked import N_

if TYPE_CHECKING:
    from bambola.core.export.drawn import PaperPage
    from bambola.core.export.packet.job import Job


@frozen
class Kind:
    """One kind of page: its id on the command line, its words, and its module, imported on use."""

    id: str
    words: str
    module: str

    def pages(self, job: Job) -> Iterable[PaperPage]:
        """Return its pages for a job."""
        made = import_module(f"bambola.core.export.packet.pages.{self.module}").pages(job)
        return cast("Iterable[PaperPage]", made)


KINDS = (
    Kind("cover", N_("Cover"), "cover"),
    Kind("figure", N_("The figure at actual size"), "figure"),
    Kind("behind", N_("The figure from behind"), "behind"),
    Kind("sizes", N_("Sizes, wool and wire"), "sizes"),
    Kind("templates", N_("Templates of the parts"), "templates"),
    Kind("patterns", N_("Patterns to cut"), "patterns"),
    Kind("face", N_("Strips of the face"), "face"),
    Kind("bundles", N_("Wool before felting at actual size"), "bundles"),
    Kind("wires", N_("Wires along the ruler and bent"), "wires"),
    Kind("wool", N_("Weigh out"), "weigh_out"),
    Kind("labels", N_("Labels for bags"), "labels"),
    Kind("order", N_("The order, to tick off"), "order"),
    Kind("steps", N_("The steps"), "steps"),
    Kind("happened", N_("What happened"), "happened"),
    Kind("selling", N_("Stall labels and commission slip"), "selling"),
    Kind("table", N_("A sheet to photograph pieces on"), "table"),
)
KIND_BY_ID = {kind.id: kind for kind in KINDS}

SHORT = ("figure", "sizes", "order")
"""A packet in short: on four sheets, where the figure is no larger than a sheet."""
WHOLE = tuple(kind.id for kind in KINDS if kind.id not in ("bundles", "order", "selling", "table"))
"""All at length: bundles are drawn round the templates, the order is that of the steps, and not everyone
sells."""
WORK_SHEET = ("cover", "sizes", "order")

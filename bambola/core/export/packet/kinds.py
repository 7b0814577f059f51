"""The kinds of pages, in the order of the table: a new one is a file of its own and one entry here."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING, cast

from bambola.core.words.marked import N_

if TYPE_CHECKING:
    from bambola.core.export.drawn import Page
    from bambola.core.export.packet.build import Job


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of page: its id on the command line, its words, and the module that makes its pages, loaded
    only where something is put on paper."""

    id: str
    words: str
    module: str

    def pages(self, job: Job) -> Iterable[Page]:
        """Its pages for a job."""
        made = import_module(f"bambola.core.export.packet.pages.{self.module}").pages(job)
        return cast("Iterable[Page]", made)


KINDS = (
    Kind("cover", N_("Cover"), "cover"),
    Kind("figure", N_("The figure at true size"), "figure"),
    Kind("templates", N_("Templates of the parts"), "templates"),
    Kind("face", N_("Strips of the face"), "face"),
    Kind("wires", N_("Wires along the ruler and bent"), "wires"),
    Kind("wool", N_("Weigh out"), "weigh_out"),
    Kind("labels", N_("Labels for bags"), "labels"),
    Kind("steps", N_("The steps"), "steps"),
    Kind("happened", N_("What happened"), "happened"),
)
KIND_BY_ID = {kind.id: kind for kind in KINDS}

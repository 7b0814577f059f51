"""The figure at true size from behind, if something there is not visible from the front."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import PaperPage
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.pages.figure import seen_block
from bambola.core.export.packet.sheet import tile_sheets
from bambola.core.figure import Place
from bambola.core.figure.places import Band, Line, Outline
from bambola.core.plan import Plan


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield one page, or none."""
    if _is_told(job.plan):
        told = job.words.tr("back, actual size")
        yield from tile_sheets(seen_block(job, "back"), job.paper, "behind", told, job.words)


def _is_behind(place: Place) -> bool:
    """Return whether a patch lies only on the back."""
    match place.where:
        case Outline(view=view):
            return view == "back"
        case Band(around=around, wide=wide):
            return wide < 360 and abs(around) > 90
        case Line(way=way):
            return all(abs(around) > 90 for _, around in way)
        case _:
            return False


def _is_told(plan: Plan) -> bool:
    figure, (root, *others) = plan.resized.figure, plan.solids.placement.copies
    deep = root.reach(np.array([0.0, 1.0, 0.0]))
    drawn = any(_is_behind(place) for part in figure.parts for place in part.patches)
    return drawn or any(float(copy.matrix[1, 3]) > 0.8 * deep for copy in others)

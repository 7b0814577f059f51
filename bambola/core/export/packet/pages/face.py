"""Strips of the faces at true size, to be cut out and laid on."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import Page, Stroke, Words, text_wide
from bambola.core.export.face_strips import strips_of
from bambola.core.export.packet.build import Job, each_plan
from bambola.core.export.packet.sheet import Block, packed


def pages(job: Job) -> Iterator[Page]:
    """The strips of every face, packed; none for a figure without marks."""
    for plan, height in each_plan(job):
        blocks = []
        for face in plan.faces:
            for high, items in strips_of(face, job.words):
                wide = 0.0
                for item in items:
                    if isinstance(item, Words):
                        long = text_wide(item.text, item.size, item.face)
                        wide = max(wide, item.x + (long if item.at == "left" else 0.0))
                    elif isinstance(item, Stroke):
                        wide = max(wide, float(item.points[:, 0].max()))
                blocks.append(Block(wide, high, tuple(items)))
        told = job.words.tr("strips of the face, true size") + height
        yield from packed(blocks, job.paper, "face", told, job.words)

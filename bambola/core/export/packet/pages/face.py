"""Strips of the faces at true size, to be cut out and laid on."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import PaperPage
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import Block, box_of, pack_blocks
from bambola.core.export.strips import strips_of
from bambola.core.face import Face
from bambola.core.words import Words


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield the strips of every face, packed; none without marks."""
    for plan, height in each_plan(job):
        blocks = [block for face in plan.faces for block in strip_blocks(face, job.words)]
        told = job.words.tr("strips of the face, actual size") + height
        yield from pack_blocks(blocks, job.paper, "face", told, job.words)


def strip_blocks(face: Face, words: Words) -> Iterator[Block]:
    """Yield the strips of one face."""
    for high, items in strips_of(face, words):
        yield Block(max(box_of(item)[2] for item in items), high, tuple(items))

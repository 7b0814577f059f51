"""Decides what to draw next, in which picture and how, by the name of the part."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from bambola.core.facts import Fact, fact
from bambola.core.figure.survey import Sight
from bambola.core.frozen import frozen
from bambola.core.notes.building import meant_kind
from bambola.core.notes.kinds import KINDS, bearers_of
from bambola.core.notes.reading import read_name
from bambola.core.solids import mesh_of, place
from bambola.core.strokes.building import DrawnFigure

FROM_SIDE = ("rump", "snout", "nose", "muzzle", "beard", "foot", "spine", "fin", "fluke", "back")
"""Where parts sit that the side picture shows along their length."""
WORTH_A_LOOK = 0.02
"""A part is drawn in a second picture if it has more than this share of the wool. See craft.md, 9."""


@frozen
class StrokeGuide:
    """The best picture for a part, how to draw it, and whether it is one of two."""

    view: Sight
    how: Fact
    is_pair: bool


def guide_for(name: str, others: Sequence[str], views: Collection[Sight]) -> StrokeGuide:
    """Return how to draw a part called ``name`` beside ``others``, in one of ``views``."""
    entries = [read_name(other, n) for n, other in enumerate(others)]
    listed = {entry.kind for entry in entries}
    kind = meant_kind(read_name(name, 0), listed) or KINDS["other-ball"]
    facing: Sight = next((view for view in ("front", "back") if view in views), "side")
    view: Sight = "side" if kind.site in FROM_SIDE and "side" in views else facing
    wanted = bearers_of(kind)
    borne = [(wanted.index(e.kind), e.name) for e in entries if e.kind in wanted]
    if kind.site == "root":
        how = fact("strokes.draw-root", name=name)
    elif kind.form == "ring":
        how = fact("strokes.draw-round", name=name)
    elif kind.form in ("ball", "pad", "eyes"):
        how = fact("strokes.draw-up", name=name)
    elif borne:
        how = fact("strokes.draw-along", name=name, on=min(borne)[1])
    else:
        how = fact("strokes.draw-out", name=name)
    return StrokeGuide(view, how, kind.is_pair)


def second_looks(found: DrawnFigure, views: Collection[Sight]) -> list[tuple[str, Sight]]:
    """Return the names of parts worth a stroke in another of ``views``, and which: large ones that one
    picture does not show fully."""
    volumes: dict[str, float] = {}
    for copy in place(found.figure).copies:
        volumes[copy.part.id] = volumes.get(copy.part.id, 0.0) + mesh_of(copy.shape).volume
    total = sum(volumes.values())
    wanted: dict[str, Sight] = {}
    for id, _ in found.unseen:
        drawn = {trace.view for trace in found.survey.traces_of(id)}
        other = next((view for view in views if view not in drawn), None)
        if volumes.get(id, 0.0) > WORTH_A_LOOK * total and other is not None and drawn:
            wanted.setdefault(found.figure.by_id[id].name, other)
    return list(wanted.items())

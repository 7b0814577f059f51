"""How good the parts are that pictures propose, of figures whose truth is known, and how long it takes."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import cv2
import manifold3d as m3
import numpy as np

from bambola.core.bench import Bench
from bambola.core.figure import Figure, Framing, Part, Sight, Survey
from bambola.core.plan.reading.proposing import Proposal, propose_figure
from bambola.core.plan.reading.regrouping import merge_parts
from bambola.core.plan.reading.tracing import as_agreed, not_a_part
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.build import origin_of
from bambola.core.sight.framing import find_framing, taken_apart
from bambola.core.sight.silhouette import Pixels, separate_silhouette
from bambola.core.solids import place
from bambola.core.solids.meshes import solid_of
from bambola.core.solids.outlines import outline_of_copy
from bambola.language import part_name
from bambola.shipped import body_plans, default_bench
from benchmarks.measuring import TWELVE
from benchmarks.row import SMALLEST, Row
from benchmarks.sitters import (
    BAD,
    SETTINGS,
    PartThings,
    Photograph,
    photographed,
    sitters,
    whole_height,
)

VIEWS: tuple[Sight, ...] = ("front", "side")
VISIBLE = 0.006
"""A part that covers less than this share of the figure in every view counts as hidden."""
SAME = 0.25
"""What is proposed is a part where the two overlap by this much of both together, in the mean of the
views."""
NEAREST = {
    "lamplighter-badger": ("upright-animal",),
    "garden-toad": ("frog",),
    "marsh-heron": ("wading-bird",),
}
"""What a maker would say that a demo is like."""
CLICKS = 30
"""A minute's clicks at 1.2 s, but for the first of them: *Like*, and what is put right of the rest."""
PIECE = 0.6
"""What lies so far within what another shows is a piece of that."""
_FIELD = 520
"""Pixels, one to a millimetre, on which outlines are compared."""


@dataclass(frozen=True)
class Score:
    """Of ``parts`` that show, how many were found on what really bears them (the nearest bearer that was
    found); of ``pairs``, how many as pairs; of those ``found`` at all, how many of their wool; how many were
    proposed ``besides``; the volume, as a share of the true."""

    parts: int
    right: int
    pairs: int
    as_pairs: int
    found: int
    of_its_wool: int
    besides: int
    volume: float


def proposal_of(photographs: Mapping[Sight, Photograph], height: float, bench: Bench) -> Proposal:
    """Return what is proposed of a sitter, untouched."""
    views = {view: seen_in(view, one.pixels, height) for view, one in photographs.items()}
    return propose_figure(views, height, bench, "sitter", part_name, plans=body_plans())


def seen_in(view: Sight, pixels: Pixels, height: float) -> DividedPicture:
    """Return a picture framed by the figure in it, and taken apart."""
    silhouette = separate_silhouette(pixels)
    rows, columns = pixels.shape[:2]
    laid = Framing(view=view, picture="x", width=columns, height=rows, ground=rows, midline=0)
    return taken_apart(find_framing(laid, silhouette, height), pixels, silhouette)


def scored(true: Figure, photographs: Mapping[Sight, Photograph], found: Proposal) -> Score:
    """Return how much of a sitter was found."""
    shown = _shares(photographs)
    wanted = [part for part in true.parts if shown.get(part.id, 0.0) > VISIBLE]
    match = _matched(true, found, [part.id for part in wanted], tuple(photographs))
    right = 0
    for part in wanted:
        bearer = part.parent
        while bearer is not None and bearer not in match:
            bearer = true.by_id[bearer].parent
        if part.id in match:
            on = found.figure.by_id[match[part.id]].parent
            root = found.figure.parts[0].id
            right += on == match[bearer] if bearer else on is None or on == root
    paired = [part.id for part in wanted if part.pair]
    as_pairs = sum(p in match and found.figure.by_id[match[p]].pair for p in paired)
    same = sum(_wool(true.by_id[p]) == _wool(found.figure.by_id[q]) for p, q in match.items())
    besides = len(found.figure.parts) - len(match)
    volume = _volume(found.figure) / _volume(true)
    return Score(len(wanted), right, len(paired), as_pairs, len(match), same, besides, volume)


def _wool(part: Part) -> str:
    return part.coat.wool if part.coat else part.core


def _shares(photographs: Mapping[Sight, Photograph]) -> dict[str, float]:
    """Return the share of the figure's pixels that each part shows, in the view that shows most of it."""
    shown: dict[str, float] = {}
    for one in photographs.values():
        owner = one.seen.owner
        for i, part in enumerate(one.seen.parts):
            share = float((owner == i).sum() / max((owner >= 0).sum(), 1))
            shown[part] = max(shown.get(part, 0.0), share)
    return shown


def _matched(
    true: Figure, found: Proposal, wanted: list[str], views: tuple[Sight, ...]
) -> dict[str, str]:
    """By true part, the proposed one that overlaps it best, each once."""
    real = {view: _fields(true, view, None) for view in views}
    made = {view: _fields(found.figure, view, found.survey) for view in views}
    scores = []
    for part in wanted:
        for other in found.figure.by_id:
            both = [(real[v].get(part), made[v].get(other)) for v in views]
            overlaps = [
                float((a & b).sum() / max((a | b).sum(), 1))
                for a, b in both
                if a is not None and b is not None
            ]
            scores.append((float(np.mean(overlaps)) if overlaps else 0.0, part, other))
    match: dict[str, str] = {}
    for score, part, other in sorted(scores, reverse=True):
        if score >= SAME and part not in match and other not in match.values():
            match[part] = other
    return match


def _pieces_of(
    true: Figure, found: Proposal, match: Mapping[str, str], views: tuple[Sight, ...]
) -> dict[str, str]:
    """By proposed part that is none, the one that it is a piece of: what it shows is mostly that one's."""
    real = {view: _fields(true, view, None) for view in views}
    made = {view: _fields(found.figure, view, found.survey) for view in views}
    whose: dict[str, str] = {}
    for other in set(found.figure.by_id) - set(match.values()):
        for part, own in match.items():
            within = [
                float((real[v][part] & made[v][other]).sum() / max(made[v][other].sum(), 1))
                for v in views
                if part in real[v] and other in made[v]
            ]
            if within and np.mean(within) > PIECE:
                whose.setdefault(other, own)
    return whose


def _fields(figure: Figure, view: Sight, survey: Survey | None) -> dict[str, np.ndarray]:
    """Return each part's shadow, a pixel to a millimetre, in the axes of a framed picture: a figure without a
    survey stands as it would be framed."""
    placement = place(figure)
    origin = np.array([0.0, 0.0, -placement.ground])
    if survey is not None:
        origin = origin_of(figure, survey)
    fields: dict[str, np.ndarray] = {}
    for copy in placement.copies:
        outline = outline_of_copy(copy, view, origin)
        if copy.part.hollow or not len(outline):
            continue
        field = fields.setdefault(copy.part.id, np.zeros((_FIELD, _FIELD), dtype=np.uint8))
        points = np.stack([outline[:, 0] + _FIELD / 2, _FIELD - 60 - outline[:, 1]], axis=1)
        cv2.fillPoly(field, [np.round(points).astype(np.int32)], 1)
    if survey is None and fields and view == "side":
        columns = np.flatnonzero(np.any(list(fields.values()), axis=0).any(axis=0))
        off = _FIELD // 2 - (int(columns[0]) + int(columns[-1])) // 2
        fields = {part: np.roll(field, off, axis=1) for part, field in fields.items()}
    return {part: field.astype(bool) for part, field in fields.items()}


def _volume(figure: Figure) -> float:
    solids = [
        solid_of(copy.shape).transform(copy.matrix[:3])
        for copy in place(figure).copies
        if not copy.part.hollow
    ]
    return float(m3.Manifold.batch_boolean(solids, m3.OpType.Add).volume())


def agreed(
    true: Figure, photographs: Mapping[Sight, Photograph], found: Proposal, bench: Bench
) -> Proposal:
    """Return what a maker who knows the figure makes of a proposal in a minute: another body plan where more
    comes out right with it, a piece of a part joined to it, what is no part taken away, bearers and pairs put
    right."""
    views = {v: seen_in(v, one.pixels, whole_height(true)) for v, one in photographs.items()}
    nearer = () if found.like else NEAREST.get(true.id, ())
    tried = [found] + [
        propose_figure(views, whole_height(true), bench, "sitter", part_name, plans=(plan,))
        for plan in body_plans()
        if plan.figure.id in nearer
    ]
    best = max(tried, key=lambda one: scored(true, photographs, one).right)
    match = _matched(true, best, list(true.by_id), tuple(photographs))
    figure, survey = best.figure, best.survey
    whose = _pieces_of(true, best, match, tuple(photographs))
    besides = [p.id for p in reversed(figure.parents_first) if p.id not in match.values()]
    for gone in besides[:CLICKS]:
        with contextlib.suppress(ValueError):
            if gone in whose:
                into = whose[gone]
                figure, survey = merge_parts(figure, survey, gone, into)
                if into not in figure.by_id:  # what bears the other stays
                    match = {part: gone if own == into else own for part, own in match.items()}
                    whose = {part: gone if own == into else own for part, own in whose.items()}
            else:
                figure, survey = not_a_part(figure, survey, gone)
    back = {found: part for part, found in match.items()}
    for part in list(figure.parts):
        of = true.by_id.get(back.get(part.id, ""))
        bearer = of.parent if of else None
        while bearer is not None and bearer not in match:
            bearer = true.by_id[bearer].parent
        if of is not None and part.parent is not None:
            with contextlib.suppress(ValueError):
                on = match[bearer] if bearer else figure.parts[0].id
                figure, survey = as_agreed(
                    figure, survey, part.id, part.name, part.shape.kind, on, of.pair
                )
    return Proposal(figure, survey, best.sure, best.like)


def scores(
    names: tuple[str, ...], setting: PartThings, seed: int = 0
) -> Iterator[tuple[Score, Score]]:
    """Yield the scores of sitters in one setting: untouched, and after a minute of agreeing."""
    bench = default_bench()
    every = sitters(bench)
    for name in names:
        figure = every[name]
        taken = {view: photographed(figure, view, setting, bench, seed) for view in VIEWS}
        found = proposal_of(taken, whole_height(figure), bench)
        by_maker = agreed(figure, taken, found, bench)
        yield scored(figure, taken, found), scored(figure, taken, by_maker)


def table(each: int | None = 1) -> list[Row]:
    """Return each setting with so many sitters, other ones in each; with all of them where ``each`` is
    None."""
    names = tuple(sitters())
    rows = []
    for n, (setting, how) in enumerate(list(SETTINGS.items())[: 1 if SMALLEST else None]):
        some = (
            names
            if each is None
            else tuple(names[(n * each + k) % len(names)] for k in range(each))
        )
        pairs = list(scores(some, how))
        bad = ", bad pictures" if setting in BAD else ""
        for told, found in zip(("proposed", "agreed with"), zip(*pairs, strict=True), strict=True):
            agreed_with = "" if told == "proposed" else ", agreed with"
            most = f"proposal: volume{agreed_with}{bad}"
            right = sum(s.right for s in found) / sum(s.parts for s in found)
            paired = sum(s.as_pairs for s in found) / max(1, sum(s.pairs for s in found))
            wools = sum(s.of_its_wool for s in found) / max(1, sum(s.found for s in found))
            off = float(np.mean([abs(s.volume - 1) for s in found]))
            rows += [
                Row(f"{told}, {setting}: parts on their bearer", 100 * right, None, "%"),
                Row(f"{told}, {setting}: pairs as pairs", 100 * paired, None, "%"),
                Row(f"{told}, {setting}: parts of their wool", 100 * wools, None, "%"),
                Row(f"{told}, {setting}: volume off by", 100 * off, most, "%"),
            ]
    return rows


def twelve_megapixels() -> list[Row]:
    """Return a proposal from two pictures of twelve megapixels, as they are read: no finer than felt has an
    edge."""
    bench, figure = default_bench(), sitters()["Lamplighter badger"]
    taken = {view: photographed(figure, view, SETTINGS["plain"], bench) for view in VIEWS}
    large = {
        view: Photograph(cv2.resize(one.pixels, TWELVE), one.seen)  # type: ignore[arg-type]
        for view, one in taken.items()
    }
    began = time.perf_counter()
    proposal_of(large, whole_height(figure), bench)
    return [
        Row(
            "proposal from two pictures of 12 megapixels",
            time.perf_counter() - began,
            "proposal: 12 megapixels",
            "s",
        )
    ]


def main() -> None:
    """Print the whole table, every sitter in every setting: some twenty minutes."""
    for row in table(None):
        print(f"{row.what:<62}{row.value:>9.1f} {row.unit}", flush=True)


if __name__ == "__main__":
    main()

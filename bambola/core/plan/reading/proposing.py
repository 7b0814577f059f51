"""Proposes a figure from its pictures: which part sits on which, and the shape, wool and name of each.

The front shows which parts there are, and by symmetry which are pairs; side regions are matched by height and
colour and show depth. Each part is borne by the one it shares most border with, the largest bearing all.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from bambola.core.bench import Bench
from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import Figure, Sight, Survey
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.survey import Taken
from bambola.core.frozen import frozen
from bambola.core.plan.reading.assembling import Assembler, nearest_wool
from bambola.core.plan.reading.candidates import Candidate, found_in
from bambola.core.plan.reading.likeness import (
    LIKE,
    Likeness,
    figure_like,
    likest_plan,
    looks_the_other_way,
    owners_of,
    shown_on,
)
from bambola.core.plan.reading.patching import with_patches
from bambola.core.plan.reading.tracing import not_a_part
from bambola.core.sight.blobs import DividedPicture
from bambola.core.solids.forms import Array

FRAGMENTS, RATHER = 18, 0.5
"""What falls into more parts than this is fragments: a body plan that leaves no more than this share
unexplained is nearer then. Judged. See craft.md, 9."""
TRUNK = 1.6
"""What touches the trunk sits rather there than on what lies beside it. Judged. See craft.md, 9."""


@frozen
class Proposal:
    """A proposed figure, its survey, how sure each part is (0..1), and the name of the body plan it is like,
    if any."""

    figure: Figure
    survey: Survey
    sure: dict[str, float]
    like: str = ""

    def with_names_only(self, nameless: str) -> tuple[Proposal, int]:
        """Return the proposal without the parts called ``nameless``, and how many those were."""
        figure, survey = self.figure, self.survey
        left_out = [part.id for part in figure.parts if part.name == nameless]
        for part in left_out:
            figure, survey = not_a_part(figure, survey, part)
        sure = {part: how for part, how in self.sure.items() if part in figure.by_id}
        return Proposal(figure, survey, sure, self.like), len(left_out)


def propose_figure(
    views: dict[Sight, DividedPicture],
    height: float,
    bench: Bench,
    name: str,
    called: Callable[[str], str],
    told: Callable[[float], bool] = lambda share: True,
    plans: Sequence[BodyPlan] = (),
    way_is_told: bool = False,
) -> Proposal:
    """Return the figure in ``views``, ``height`` mm tall, called ``name``.

    If it is like one of ``plans``, it is that plan fitted to the pictures (a single one is always taken);
    otherwise it is built from the regions. ``called`` translates a likely name such as ``head``, and gets an
    empty string for an unknown part. ``way_is_told``: the direction of the side picture is known. ``told``
    gets the share done and cancels by returning False (raises :class:`CancelledError`). Raises ``ValueError``
    if there is no front, back or side view.
    """
    views = dict(views)
    shown = {view: seen for view, seen in views.items() if seen.blobs}
    if "top" in shown and (facing := shown.get("front") or shown.get("back")):
        top, px = shown["top"], np.ptp(shown["top"].u[shown["top"].regions.whole])
        # A camera above is nearer or farther than that before it; what both see is as broad.
        share = float(np.ptp(facing.u[facing.regions.whole]) / px)
        mm_px = (top.framing.mm_px or 1.0) * share
        shown["top"] = views["top"] = top.reframed(mm_px=mm_px)
    if not way_is_told and looks_the_other_way(shown, plans, height):
        side = shown["side"]
        shown["side"] = views["side"] = side.reframed(flipped=not side.framing.flipped)
    framings = tuple(seen.framing for seen in views.values())
    apart: dict[Sight, DividedPicture] = {v: seen for v, seen in shown.items() if v != "top"}
    apart, found = found_in(apart) if apart else ({}, [])
    if not found:
        raise RefusedError(Fact("edit.nothing-seen"))
    enough = LIKE if len(found) <= FRAGMENTS else RATHER
    found_like = likest_plan(shown, plans, height, told, enough)
    survey = Survey(framings=framings, height=height)
    pictures = _Pictures({view: shown[view] for view in apart}, apart, found)
    alike = found_like and _propose_like_plan(found_like, pictures, survey, bench, name, called)
    if alike:
        return alike
    parents, order = _parent_tree(found, apart)
    assembler = Assembler(apart, found, parents, bench, called)
    return Proposal(*assembler.made(order, survey, name, told))


@frozen
class _Pictures:
    """The contents of pictures: every blob ``seen``, and the ``candidates`` made of them, by ``views``."""

    seen: dict[Sight, DividedPicture]
    views: dict[Sight, DividedPicture]
    candidates: list[Candidate]

    def reframed(self, midline: float) -> _Pictures:
        """Return a copy with the midline of the side picture moved."""
        seen, views = (
            {**of, "side": of["side"].reframed(midline=midline)} for of in (self.seen, self.views)
        )
        return _Pictures(seen, views, self.candidates)


def _propose_like_plan(
    found: Likeness,
    pictures: _Pictures,
    survey: Survey,
    bench: Bench,
    name: str,
    called: Callable[[str], str],
) -> Proposal | None:
    """Return the proposal for a figure like a body plan: the fitted plan, with further parts and patches of
    colour from the ``pictures``."""
    height = survey.height
    assert height is not None
    try:
        figure = figure_like(found, height, bench, name, lambda lab: nearest_wool(bench, lab))
    except ValueError:
        return None  # So fitted it cannot be made: what is seen is put together instead.
    if found.aside:  # the side picture's midline is to go through the figure's own middle
        f = pictures.views["side"].framing
        pictures = pictures.reframed(f.midline + found.aside * f.sense / (f.mm_px or 1.0))
        survey = survey.framed(pictures.views["side"].framing)
    views, candidates = pictures.views, pictures.candidates
    shown = owners_of(candidates, views, found, height)
    besides = [i for i, one in enumerate(shown) if one is None]
    sure = {part: share for part, share in found.sure.items() if part in figure.by_id}
    if len(views) > 1:
        survey = survey.with_readings(
            *_fitted_measures(figure, [part for part in sure if part in found.colours])
        )
    if besides and len(besides) < len(candidates):
        parents, order = _parent_tree(candidates, views)
        ids = {i: part for i, part in enumerate(shown) if part and part in figure.by_id}
        more = [i for i in order if i in besides and parents[i] is not None]
        assembler = Assembler(views, candidates, parents, bench, called)
        figure, survey, seen_besides = assembler.added(
            more, figure, survey, ids, lambda share: True
        )
        sure = {**sure, **seen_besides}
    more_seen = {(view, n) for i in besides for view, ns in candidates[i].seen.items() for n in ns}
    seen_on = [
        (view, blob, part)
        for view, blob, part in shown_on(pictures.seen, found, height)
        if (view, blob.number) not in more_seen and part in found.colours and part in figure.by_id
    ]
    figure = with_patches(figure, survey, pictures.seen, seen_on, found.colours, bench)
    return Proposal(figure, survey, sure, found.plan.figure.name)


def _fitted_measures(figure: Figure, shown: list[str]) -> list[Taken]:
    """Return every measure of the parts visible from two sides, which were fitted to the pictures."""
    return [
        Taken(part=part, measure=name, mm=mm, how="picture")
        for part in shown
        for name, mm in figure.by_id[part].shape.measures().items()
    ]


# What sits on what


def _parent_tree(
    found: list[Candidate], views: dict[Sight, DividedPicture]
) -> tuple[dict[int, int | None], list[int]]:
    """Return the parent of each candidate, as indices in ``found``, and an order with parents first."""
    touch = _touch_shares(found, views)
    sizes = [_candidate_size(c, views) for c in found]
    root = max(range(len(found)), key=lambda i: _bears_all(i, found, sizes, touch))
    parents: dict[int, int | None] = {root: None}
    order = [root]
    while len(order) < len(found):
        rest = [i for i in range(len(found)) if i not in parents]
        _, child, parent = max(
            (
                (_bond_likelihood(i, p, root, touch, sizes, found), i, p)
                for i in rest
                for p in order
            ),
            key=lambda row: row[0],
        )
        parents[child] = parent
        order.append(child)
    return parents, order


def _touch_shares(found: list[Candidate], views: dict[Sight, DividedPicture]) -> Array:
    """Return the share (n, n) of candidate i's border with felt that is with candidate j, in the view where
    that is largest."""
    count = len(found)
    share = np.zeros((count, count))
    for view, seen in views.items():
        owner: dict[int, int] = {}
        for i, c in enumerate(found):
            for n in c.seen.get(view, ()):
                owner.setdefault(n, i)
        for n, i in owner.items():
            blob = seen.blobs[n]
            around = max(sum(mm for k, mm in blob.borders.items() if k), 1e-9)
            for k, mm in blob.borders.items():
                j = owner.get(k)
                if k and j is not None and j != i:
                    share[i, j] = max(share[i, j], mm / around)
    return share


def _candidate_size(c: Candidate, views: dict[Sight, DividedPicture]) -> float:
    return max(
        float(views[view].blobs[n].area) for view, numbers in c.seen.items() for n in numbers
    )


def _bears_all(i: int, found: list[Candidate], sizes: list[float], touch: Array) -> float:
    """Return how likely a candidate is the trunk: large, alone, and touched by many."""
    touched = sum(
        1 + found[j].pair
        for j in range(len(found))
        if touch[j, i] > 0.15 and sizes[j] < 1.2 * sizes[i]
    )
    return sizes[i] * (1 + 0.3 * touched) * (0.3 if found[i].pair else 1.0)


def _bond_likelihood(
    child: int,
    parent: int,
    root: int,
    touch: Array,
    sizes: list[float],
    found: list[Candidate],
) -> float:
    """Return how likely one candidate sits on another."""
    larger = sizes[parent] / (sizes[parent] + sizes[child])
    both = 0.75 if found[parent].pair and not found[child].pair else 1.0
    trunk = TRUNK if parent == root else 1.0
    return float(touch[child, parent]) * both * trunk * (0.5 + larger) + 1e-6 * larger

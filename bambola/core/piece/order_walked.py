"""Walks once through the order with the piece in hand: what each step finds on the pad, and what it leaves
there."""

from __future__ import annotations

import math
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.figure import Firmness
from bambola.core.figure.additions import core_of
from bambola.core.frozen import frozen
from bambola.core.order import PartJob, Step
from bambola.core.order.keys import SECOND
from bambola.core.order.steps import base_part
from bambola.core.order.work import in_blank
from bambola.core.piece.state import (
    PieceState,
    core_sizes,
    round_sizes,
    section_of,
    taper_of,
)
from bambola.core.plan.making.masses import hidden_in_parts
from bambola.core.plan.making.values import Plan
from bambola.core.wool.portions import SOFT_DETAIL

_NO_PIECE = frozenset({"cut", "bend", "tape", "loop", "hard"})
"""Sorts of work at which nothing of wool is in hand."""
_WHOLE = frozenset({"check", "finish", "skin"})
"""Work on the figure as it stands, of which the part that all others sit on is told."""


@frozen
class InHand:
    """The piece in hand before and after a step; for a join, the joined part and then its bearer."""

    before: PieceState | None
    after: PieceState | None


def pieces_by_step(plan: Plan, bench: Bench) -> tuple[InHand, ...]:
    """Return the pieces on the pad at each step of ``plan``, made for ``bench``."""
    pad = _Pad(plan, bench)
    return tuple(pad.process(step) for step in plan.steps)


class _Pad:
    """The pieces made so far, by part."""

    def __init__(self, plan: Plan, bench: Bench) -> None:
        self.plan, self.bench = plan, bench
        self.figure = plan.resized.figure
        self.made: dict[str, PieceState] = {}
        self._hidden = hidden_in_parts(plan.solids.placement, plan.gauges)
        self._bearing = {f.id: f.part for f in self.figure.fittings}

    def process(self, step: Step) -> InHand:
        """Process one step."""
        sort, about = step.key.sort, step.key.about
        if sort in _NO_PIECE:
            return InHand(None, None)
        name = self._in_hand(step)
        # Of a pair that is made one at a time each is a piece of its own.
        second = SECOND if about.endswith(SECOND) else ""
        before = self.made.get(name + second)
        if sort in ("core", "detail"):
            after = self._after_core(step, name)
        elif before is None:
            return InHand(None, None)
        elif sort in ("coat", "inset"):
            after = self._after_cover(step, before)
        elif sort == "join":
            return self._after_join(name, second, before)
        else:
            after = _after_change(before, sort, about)
        self.made[name + second] = after
        return InHand(before, after)

    def _in_hand(self, step: Step) -> str:
        about = step.key.about.removesuffix(SECOND)
        if about in self._bearing:
            return self._bearing[about]
        if step.key.sort in _WHOLE or base_part(step.part) is None:
            return next(part.id for part in self.figure.parts if part.parent is None)
        return str(base_part(step.part))

    # What wool there is in it

    def _felted_volume(self, name: str) -> float:
        """Return the volume of the part's wool once all is on, cm³."""
        net = self.plan.part(name).net_cm3
        return max(0.0, net - self._hidden.get(name, 0.0) / 1000.0)

    def _after_core(self, step: Step, name: str) -> PieceState:
        """Return the piece after a round of its core; a part drawn in one go has all its layers at once."""
        job = self.plan.job_of(step)
        row, (copy, solid) = self.plan.part(name), self.plan.solids.copies_of(name)[0]
        if step.key.sort == "detail":
            at_once = [p for p in row.portions if p.role in ("core", "coat", "inset")]
            grams, sizes = sum(p.grams for p in at_once), row.piece
            volume, rounds, nth = self._felted_volume(name), 1, 1
        else:
            cores = [p for p in row.portions if p.role == "core"]
            within = in_blank(self.plan.work, job) if job else frozenset()
            blank = [p for p in row.portions if p.role == "inset" and p.detail in within]
            cores += blank
            over = sum(
                p.grams for p in row.portions if p.role in ("coat", "inset") and p not in blank
            )
            rounds, nth = (job.rounds, step.key.nth) if job else (1, 1)
            sizes = core_sizes(row)
            share = nth / rounds
            grams = share * sum(p.grams for p in cores)
            density = self.bench.packed_density(self.figure, self.figure.by_id[name])
            volume = share * max(0.0, self._felted_volume(name) - over / density)
            hard = core_of(self.figure, name)
            thick, grows = hard.size if hard else 0.0, job.grows if job else 3
            done = round_sizes(sizes, rounds, grows, thick)
            sizes = (done[nth - 1][0], done[nth - 1][1], done[nth - 1][2])
        is_last = nth == rounds
        soft = any(p.detail == SOFT_DETAIL for p in row.portions) and not is_last
        piece = PieceState(
            name,
            job.count if job else row.count,
            dict(zip(("length", "width", "thickness"), sizes, strict=True)),
            taper_of(copy, solid, sizes[1]),
            section_of(row, copy, solid),
            volume,
            grams,
            None
            if soft or (job and job.small and job.made == "apart")
            else self._firmness_of(name),
            row.fringe_mm if is_last else 0.0,
            self._wires_out(name) if row.made == "on wire" else (),
            ("core",),
        )
        return self._set_among(piece, job)

    def _firmness_of(self, name: str) -> Firmness:
        return self.figure.by_id[name].firmness

    def _set_among(self, piece: PieceState, job: PartJob | None) -> PieceState:
        """Return a piece together with what is on it already: wound on the same frame, or built in place."""
        row, parent = self.plan.part(piece.part), self.figure.by_id[piece.part].parent
        if parent in self.made and row.made in ("on wire", "in place", "detail"):
            self.made[parent] = _carrying(self.made[parent], piece.part)
        if row.made != "on wire":
            return piece
        for other in self.figure.parts:
            is_child = other.parent == piece.part and other.id in self.made
            if is_child and self.plan.part(other.id).made == "on wire":
                piece = _carrying(piece, other.id)
        return piece

    def _after_cover(self, step: Step, piece: PieceState) -> PieceState:
        """Return the piece after a coat or a patch."""
        laid = self.plan.portions_of(step)
        row, (copy, solid) = self.plan.part(piece.part), self.plan.solids.copies_of(piece.part)[0]
        density = self.bench.packed_density(self.figure, self.figure.by_id[piece.part])
        grams = piece.wool_g + sum(p.grams for p in laid)
        all_ = sum(p.grams for p in row.portions if p.role in ("core", "coat", "inset"))
        is_whole = math.isclose(grams, all_, rel_tol=1e-9)
        new = piece.volume_cm3 + sum(p.grams for p in laid) / density
        piece = replace(
            piece,
            wool_g=grams,
            volume_cm3=self._felted_volume(piece.part) if is_whole else new,
            layers=(*piece.layers, *(p.detail or p.role for p in laid)),
        )
        if not is_whole and step.key.sort == "inset":
            return piece
        sizes = row.piece
        return replace(
            piece,
            size_mm=dict(zip(("length", "width", "thickness"), sizes, strict=True)),
            across_mm=taper_of(copy, solid, sizes[1]),
        )

    def _after_join(self, name: str, second: str, before: PieceState) -> InHand:
        on = replace(before, loose_end_mm=0.0, firmness=self._firmness_of(name))
        self.made[name + second] = on
        parent = self.figure.by_id[name].parent
        if parent is not None and parent + second in self.made:
            parent += second
        if parent not in self.made:
            return InHand(before, on)
        self.made[parent] = _carrying(self.made[parent], name)
        return InHand(before, self.made[parent])

    def _wires_out(self, name: str) -> tuple[float, ...]:
        """Return the bare bones that continue from a wound part, for one of a pair."""
        nodes = {node.id: node for node in self.figure.nodes}
        side = self.plan.solids.copies_of(name)[0][0].side
        places = self.plan.solids.placement.nodes
        found = []
        of = {bone: bone.part or nodes[bone.b].part for bone in self.figure.bones}
        ends = {
            end
            for bone, part in of.items()
            for end in (bone.a, bone.b)
            if part == name and nodes[end].side in (None, side)
        }
        for bone, part in of.items():
            if part != name and part not in self.made and ends & {bone.a, bone.b}:
                found.append(math.dist(places[bone.a].tolist(), places[bone.b].tolist()))
        return tuple(found)


def _after_change(piece: PieceState, sort: str, about: str) -> PieceState:
    """Return the state after a step that changes neither size nor weight."""
    match sort:
        case "fur":
            return piece if "fur" in piece.layers else replace(piece, layers=(*piece.layers, "fur"))
        case "socket" | "peg":
            return replace(piece, holes=(*piece.holes, about))
        case "fit":
            left = tuple(hole for hole in piece.holes if hole != about)
            return replace(_carrying(piece, about), holes=left)
        case _:
            return piece


def _carrying(piece: PieceState, carried: str) -> PieceState:
    return piece if carried in piece.carries else replace(piece, carries=(*piece.carries, carried))

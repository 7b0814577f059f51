"""The figure at the height it was made: the baseline for every new size, computed once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from bambola.core.armature import (
    Gauge,
    Mass,
    Rigging,
    Support,
    Yardstick,
    bone_loads,
    felts_of,
    rig_figure,
    school_of,
    wired_by,
    wired_through,
    with_second_strands,
    yardstick_of,
)
from bambola.core.balance import JoinStress, contacts, footprints, join_stresses, loop_point
from bambola.core.bench import Bench, with_wools_of
from bambola.core.facts import NOTHING
from bambola.core.figure import Brief, Figure
from bambola.core.figure.schools import ChoiceId, SchoolId
from bambola.core.figure.variants import Alteration, altered
from bambola.core.memo import current_memory
from bambola.core.plan.making.masses import (
    centre_of,
    fitting_masses,
    gauged_masses,
    held_by,
    hidden_in_parts,
    wool_masses,
)
from bambola.core.plan.making.reaching import held_props
from bambola.core.plan.making.ways import as_worked, ways_to_choose
from bambola.core.solids import CopySolid, Solids, measure_solids, measured_before, place
from bambola.core.wool import part_wool

Prints = list[tuple[int, np.ndarray]]
"""What bears on the ground: number of the copy and its outline (n, 2) mm."""


@dataclass(frozen=True)
class BuildOptions:
    """How the maker wants the figure made: the school of wiring, parts left bare, joins wired through, parts
    with one strand less, wires with a second strand, other than usual ``ways``, and what of the figure is
    ``altered``, as JSON."""

    school: str
    bare: frozenset[str] = frozenset()
    through: frozenset[str] = frozenset()
    fewer: frozenset[str] = frozenset()
    doubled: frozenset[str] = frozenset()
    ways: tuple[tuple[ChoiceId, SchoolId], ...] = ()
    altered: str = ""


@dataclass(frozen=True)
class PreparedFigure:
    """The figure as made, with its wires as wished and the loads on them; ``stands_as_made`` says that every
    part lies where it was made."""

    figure: Figure
    solids: Solids
    rigging: Rigging | None
    yardstick: Yardstick
    stands_as_made: bool = True


@dataclass(frozen=True)
class OriginalAnalysis:
    """A figure as it was made, on a bench. ``lumps`` is the wool of its copies; ``sizes`` a cache of measured
    sizes."""

    figure: Figure
    bench: Bench
    solids: Solids
    prints: Prints
    feet: np.ndarray
    lumps: list[Mass]
    joins: dict[str, JoinStress]
    sizes: dict[str, object] = field(default_factory=dict)
    measured: list[Solids] = field(default_factory=list)
    wired: dict[BuildOptions, PreparedFigure] = field(default_factory=dict)

    @cached_property
    def choices(self) -> frozenset[ChoiceId]:
        """The choices of making that the figure has."""
        return ways_to_choose(self.figure, self.bench)

    @cached_property
    def neck(self) -> str | None:
        """The part whose join lifts the figure, unless wire runs through it as made."""
        return next(
            (row.part for row in self.joins.values() if row.carries_all and row.kind != "wire"),
            None,
        )

    @cached_property
    def held(self) -> dict[str, tuple[str, ...]]:
        """The parts that reach each prop as made, by the prop's id."""
        return held_props(self.solids.placement)

    def measured_at(self, resized: Figure) -> Solids | None:
        """Return the cached measurements at a size to which the figure did not scale evenly, if there are
        any."""
        at_hand = tuple(self.measured)  # plans are made on more than one thread
        return next((known for known in at_hand if known.placement.figure == resized), None)

    def add(self, solids: Solids) -> None:
        """Cache the measurements at a size."""
        self.measured.insert(0, solids)
        del self.measured[_REMEMBER_SIZES:]

    def prepared(self, wish: BuildOptions) -> PreparedFigure:
        """Return the figure wired as wished; cached by the wish."""
        if wish not in self.wired:
            self.wired[wish] = self._prepare_size(wish)
        return self.wired[wish]

    def _prepare_size(self, wish: BuildOptions) -> PreparedFigure:
        figure, placement = self.figure, self.solids.placement
        measured = self.solids
        if wish.altered:
            change = Alteration.model_validate_json(wish.altered)
            figure = with_wools_of(altered(figure, change), self.bench)
            placement = place(figure)
            if change.moves_solids:
                measured = measure_solids(figure)
        if wish.ways:
            figure = as_worked(figure, dict(wish.ways), self.bench)
            placement = place(figure)
        points = {name: at.tolist() for name, at in placement.nodes.items()}
        for part in sorted(wish.through & figure.by_id.keys()):
            if figure.by_id[part].parent is not None:
                figure = wired_through(figure, part, points)
        if wish.fewer:
            nodes = {node.id: node.part for node in figure.nodes}
            bones = tuple(
                bone.replaced(strands=max(1, bone.strands - 1))
                if (bone.part or nodes[bone.b]) in wish.fewer
                else bone
                for bone in figure.bones
            )
            figure = figure.replaced(bones=bones)
        solids = replace(measured, placement=placement)
        if figure.nodes != self.figure.nodes:
            places = dict(placement.nodes)
            for node in figure.nodes:
                if node.id not in places:
                    copies = placement.copies_of(node.part)
                    on = next((copy for copy in copies if copy.side == node.side), copies[0])
                    places[node.id] = on.point(node.along, node.around, node.out)
            placement = replace(placement, nodes=places)
            points = {name: at.tolist() for name, at in places.items()}
        skeleton_rig = rig_figure(figure, placement)
        resting = self._resting_nodes(figure)
        wired = wired_by(figure, school_of(figure, wish.school), points, resting, wish.bare)
        wired = with_second_strands(wired, wish.doubled)
        solids = replace(solids, placement=replace(placement, figure=wired))
        yardstick = (
            self.prepared(replace(wish, altered="")).yardstick  # what it bore as it was made
            if wish.altered
            else _drawn_loads(self, replace(solids, placement=placement), skeleton_rig)
        )
        return PreparedFigure(wired, solids, skeleton_rig, yardstick, measured is self.solids)

    def _resting_nodes(self, figure: Figure) -> frozenset[str]:
        """Return the nodes of limbs that bear on the ground."""
        found: set[str] = set()
        for i, _ in self.prints:
            copy = self.solids.placement.copies[i]
            part: str | None = copy.part.id
            while part is not None:
                there = {n.id for n in figure.nodes if n.part == part and n.side == copy.side}
                if there:
                    found |= there
                    break
                part = figure.by_id[part].parent
        return frozenset(found)

    def supports(
        self, solids: Solids, prints: Prints, centre: np.ndarray, tilt: float
    ) -> list[Support]:
        """Return what holds the figure up: its feet, or the loop it hangs from."""
        placement = solids.placement
        if placement.figure.stance == "hanging":
            loop = loop_point(placement, centre, tilt)
            if loop is None:
                return []
            copy = placement.copies[loop[1]]
            return [Support(loop[0], copy.part.id, copy.side)]
        found = []
        for i, outline in prints:
            copy = placement.copies[i]
            x, y = ((outline.min(axis=0) + outline.max(axis=0)) / 2).tolist()
            found.append(Support((x, y, placement.ground), copy.part.id, copy.side))
        return found


class Yardsticks(list["OriginalAnalysis"]):
    """A cache of the figures last analysed, the newest first."""


_REMEMBER = 4
_REMEMBER_SIZES = 4
"""So many figures, and so many uneven sizes of each, are remembered. Judged."""


def as_made(
    figure: Figure,
    bench: Bench,
    told: Callable[[float], bool] | None = None,
    before: tuple[CopySolid, ...] | None = None,
) -> OriginalAnalysis:
    """Return the analysis of ``figure`` as made, cached by identity since figures and benches never change.
    ``told`` is as in :func:`measure_solids`; ``before`` is the result of measuring it, if known."""
    known = known_as_made(figure, bench)
    if known is not None:
        return known
    solids = measured_before(figure, before) if before is not None else None
    solids = solids or measure_solids(figure, told=told)
    prints = footprints(solids.placement)
    hidden = hidden_in_parts(solids.placement, _drawn_gauges(figure))
    lumps = wool_masses(solids, part_wool(figure, solids, bench, hidden))
    joins = _old_joins(figure, solids, lumps)
    made = OriginalAnalysis(figure, bench, solids, prints, contacts(prints), lumps, joins)
    yardsticks = current_memory().find(Yardsticks)
    yardsticks.insert(0, made)
    del yardsticks[_REMEMBER:]
    return made


def known_as_made(figure: Figure, bench: Bench) -> OriginalAnalysis | None:
    """Return the cached analysis of ``figure``, if there is one."""
    at_hand = tuple(current_memory().find(Yardsticks))  # plans are made on more than one thread
    return next((one for one in at_hand if one.figure is figure and one.bench is bench), None)


def _drawn_gauges(figure: Figure) -> dict[str, Gauge]:
    return {w.id: Gauge(w.metal, w.diameter, w.diameter, NOTHING) for w in figure.wires}


def _old_joins(figure: Figure, solids: Solids, lumps: list[Mass]) -> dict[str, JoinStress]:
    """Return the load of every join at the size the figure was made."""
    joins = {part.id: part.join for part in figure.parts if part.parent is not None}
    gauges = _drawn_gauges(figure)
    masses = lumps + fitting_masses(solids)
    masses += gauged_masses(solids.placement, gauges)
    rows = join_stresses(
        solids, [(m.part, m.side, m.grams, m.centre) for m in masses], held_by(figure, joins), {}
    )
    return {row.part: row for row in rows}


def _drawn_loads(made: OriginalAnalysis, solids: Solids, rigging: Rigging | None) -> Yardstick:
    """Return the loads the drawn wires bore, including their own weight."""
    if rigging is None:
        return Yardstick({}, {}, {}, {})
    drawn = made.figure
    gauges = _drawn_gauges(drawn)
    lumps, fittings = made.lumps, fitting_masses(made.solids)
    supports = made.supports(solids, made.prints, centre_of(lumps + fittings), Brief().hang_tilt)
    loads = bone_loads(
        rigging,
        solids.placement,
        np.array([m.grams for m in lumps]),
        solids.centroids,
        fittings + gauged_masses(made.solids.placement, gauges),
        supports,
    )
    return yardstick_of(drawn, loads, felts_of(solids.placement.figure, solids.placement))

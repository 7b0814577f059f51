"""Turns the resized figure into the jobs that the order works with."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Literal

from bambola.core.armature import CutWire
from bambola.core.armature.strength import WOUND_MM
from bambola.core.bench import Bench
from bambola.core.facts import fact
from bambola.core.figure import Figure, Fitting, Limb, Part
from bambola.core.figure.additions import core_of
from bambola.core.figure.schools import ChoiceId, Followed, school_for
from bambola.core.frozen import frozen
from bambola.core.order import FittingJob, OrderConflictError, PartJob, WireJob, Work, needle_for
from bambola.core.order.tasks import STOUT_NEEDLE
from bambola.core.order.work import FurJob, PatchJob
from bambola.core.plan.making.dress import ancestors, dress_of, is_closed_on
from bambola.core.plan.making.loose_ends import is_on_cloth
from bambola.core.plan.making.ways import in_one_mass
from bambola.core.resize import Made, core_rounds
from bambola.core.solids import CopySolid, Solids
from bambola.core.solids.patches import places_under, stripe_mm
from bambola.core.solids.regions import settle_places
from bambola.core.wool import PartWool, finished_size, fur_rows

MOST_LAYERS = 200
"""No part is made in more rounds or rows than this: a core of ten metres is a slip of the pen. Judged.
See craft.md, 2."""
LINES_MM = 1.5
"""A patch narrower than this is drawn as lines. Judged. See craft.md, 2."""
SHEET_MM = 6.0
"""Flat parts thinner than this have their colours in one blank: laid on later, one would push through.
See craft.md, 2."""
SMALL_MM = 12.0
"""Compact parts smaller than this in every direction may be joined soft and firmed on the body, but not
flat ones, which keep their outline only if they are firm, nor those that bear others. See craft.md, 2."""


@frozen
class PartOverrides:
    """What the order must be told of single parts: bearers that the maker builds round bought garments, limbs
    wound with glue (thin all along or not), and limbs with so little wool on their wire that it would spin.
    ``choices`` are the choices of making that the figure has."""

    built_round: frozenset[str] = frozenset()
    wound: frozenset[str] = frozenset()
    choices: frozenset[ChoiceId] = frozenset()
    taped: frozenset[str] = frozenset()


def work_of(
    figure: Figure,
    solids: Solids,
    wool: Mapping[str, PartWool],
    joins: Mapping[str, str],
    ways: Mapping[str, Made],
    feet: frozenset[str],
    schools: Followed,
    bench: Bench,
    pegs: Sequence[CutWire],
    neck: str | None,
    marked: PartOverrides,
) -> Work:
    """Return the order's view of a figure at one size. ``ways`` says how each part is made, ``feet`` which
    parts bear on the ground; ``pegs`` are the wires that join parts, ``neck`` the part the figure is lifted
    by."""
    nodes = {node.id: node.part for node in figure.nodes}
    wires_in: dict[str, list[str]] = {}
    for wire in figure.wires:
        for part in dict.fromkeys(nodes[name] for name in wire.route):
            wires_in.setdefault(part, []).append(wire.id)
    copies: dict[str, int] = {}
    for copy in solids.placement.copies:
        copies[copy.part.id] = copies.get(copy.part.id, 0) + 1
    fitted: dict[str, int] = {}
    for placed in solids.placement.fittings:
        fitted[placed.fitting.id] = fitted.get(placed.fitting.id, 0) + 1
    pairs = zip(solids.placement.copies, solids.measured, strict=True)
    measured = {copy.part.id: solid for copy, solid in reversed(list(pairs))}
    meeting, onto = _parts_meeting(solids), _wires_bound_to(figure)
    bearing = frozenset(part.parent for part in figure.parts)
    jobs = tuple(
        _part_job(
            part,
            figure,
            copies.get(part.id, 0),
            wool[part.id],
            joins,
            wires_in,
            bench,
            schools,
            meeting,
            bearing,
            ways[part.id],
            part.id in marked.built_round and may_build_round(part, figure, wool),
            part.id in marked.wound,
            part.id in marked.taped,
            measured[part.id],
        )
        for part in figure.parents_first
    )
    jobs = tuple(_of_one_mass(jobs))
    if school_for("limbs", schools) == "one at a time":
        jobs = tuple(_one_at_a_time(jobs))
    return Work(
        jobs,
        (
            *(WireJob(wire.id, wire.display_name, onto=onto[wire.id]) for wire in figure.wires),
            *(WireJob(peg.id, peg.name, peg_of(peg.id, figure)) for peg in pegs),
        ),
        tuple(
            FittingJob(f.id, f.name, f.kind, f.part, fitted.get(f.id, 0), _fixing_of(f))
            for f in figure.fittings
            if f.kind != "core"
        ),
        tuple(sorted(schools.items())),
        neck,
        tuple(part.id for part in figure.parts if part.id in feet),
        tuple(dict.fromkeys(mark.part for mark in figure.marks)),
        figure.stance == "hanging",
        bench.needles,
        marked.choices,
        tuple(_blends_needed(wool, copies, bench)),
    )


def _blends_needed(
    wool: Mapping[str, PartWool], copies: Mapping[str, int], bench: Bench
) -> Iterator[tuple[str, str]]:
    """Yield the blends (id and name) of which one figure takes more than lies ready-mixed on the shelf."""
    for blend in bench.wools:
        most = sum(
            copies.get(id, 0) * (p.take_g + p.keep_by_g)
            for id, part in wool.items()
            for p in part.portions
            if p.wool == blend.id
        )
        if blend.recipe and most > (blend.grams or 0.0):
            yield blend.id, blend.name


def _fixing_of(fitting: Fitting) -> Literal["glued", "clay", "pinned", "sewn", "felted", "held"]:
    if fitting.glued and fitting.fixed not in ("clay", "pinned"):
        return "glued"
    return fitting.fixed or "held"


def _of_one_mass(jobs: tuple[PartJob, ...]) -> Iterator[PartJob]:
    """Return the jobs with only parts of their bearer's wool drawn out of it. Such a bearer starts as one
    soft ball and is not built in rounds."""
    found = {job.id: job for job in jobs}
    for job in jobs:
        if job.drawn and job.core != found[str(job.parent)].core:
            found[job.id] = replace(job, drawn=False)
    soft = {job.parent for job in found.values() if job.drawn}
    return (replace(job, rounds=1) if job.id in soft else job for job in found.values())


def layers_of(part: Part, figure: Figure, wool: PartWool, made: Made) -> int:
    """Return in how many rounds the core of a part is built; a hard core needs none."""
    hard = core_of(figure, part.id)
    return core_rounds(max(0.0, wool.core_mm - (hard.size if hard else 0.0)), made)


def _patch_jobs(part: Part, figure: Figure, laid: Mapping[str, str]) -> Iterator[PatchJob]:
    """Yield the patches of a part that are ``laid``, each with its wool."""
    placed = tuple(place for place in settle_places(part, figure) if place.id in laid)
    under = places_under(part.shape, placed) if len(placed) > 1 else ((),) * len(placed)
    for place, below in zip(placed, under, strict=True):
        yield PatchJob(place.id, place.display_name, laid[place.id], place.face or "", below)


def _part_job(
    part: Part,
    figure: Figure,
    count: int,
    wool: PartWool,
    joins: Mapping[str, str],
    wires_in: Mapping[str, list[str]],
    bench: Bench,
    schools: Followed,
    meeting: frozenset[str],
    bearing: frozenset[str | None],
    made: Made,
    built_round: bool,
    wound: bool,
    taped: bool,
    solid: CopySolid,
) -> PartJob:
    """Return the job of a part; ``meeting`` are parts whose two copies touch, ``bearing`` those that others
    sit on."""
    parent = figure.by_id[part.parent] if part.parent else None
    dress, worn = part.garment, dress_of(part, figure) if part.garment else None
    furs = () if made == "detail" else tuple(_fur_jobs(part, wool))
    rows = max((fur.rows for fur in furs), default=0)
    layers = layers_of(part, figure, wool, made)
    for n, kind in ((rows, "refused.rows"), (layers, "refused.rounds")):
        if n > MOST_LAYERS:
            raise OrderConflictError(fact(kind, part=part.name, layers=n, most=MOST_LAYERS))
    needle = needle_for(part.shape.smallest_mm)
    if made == "on wire" and school_for("near wire", schools) == "stout":
        needle = STOUT_NEEDLE
    thin = wound or min(finished_size(part.shape).values()) <= WOUND_MM
    is_wound = thin and made == "on wire" and part.id in wires_in and not wool.left_out
    is_stem = part.id in figure.stems and made == "on wire"
    hard = core_of(figure, part.id)
    edges = zip(part.patches, solid.patches_mm2, solid.edges_mm, strict=True)
    laid = {p.role: p.wool for p in wool.portions}
    patches = {p.detail: p.wool for p in wool.portions if p.role == "inset"}
    return PartJob(
        id=part.id,
        name=part.name,
        plural=part.plural,
        parent=part.parent,
        grandparent=parent.parent if parent else None,
        count=count,
        made=made,
        rounds=layers,
        needle=bench.needle(needle),
        flat=part.shape.flat,
        core=laid.get("core", part.core),
        coat=laid.get("coat"),
        insets=tuple(_patch_jobs(part, figure, patches)),
        furs=furs,
        join=joins.get(part.id, part.join),
        face=part.face,
        over=part.over,
        wires=tuple(wires_in.get(part.id, ())),
        garment=dress is not None or part.stuff is not None,
        passes=dress.passes if dress else None,
        small=not part.shape.flat
        and max(finished_size(part.shape).values()) < SMALL_MM
        and part.id not in bearing,
        meets=part.id in meeting,
        limb=isinstance(part.shape, Limb),
        grows=growing_directions(part),
        left_out=wool.left_out,
        coreless=wool.of_one_wool,
        wound=is_wound,
        taped=taped and made == "on wire" and not is_wound,
        drawn=made == "in place"
        and schools.get("mass") == "one mass"
        and part.id in in_one_mass(figure, bench),
        shell=made == "in place" and solid.is_shell,
        hard=hard.name if hard else "",
        creased=is_creased(part, figure),
        furrows=part.furrows,
        sheet=part.shape.flat
        and made == "apart"
        and part.shape.smallest_mm < SHEET_MM
        and any(not patch.face for patch in part.patches)
        and part.garment is None,
        lines=frozenset(
            inset.id
            for inset, area, edge in edges
            if inset.face is None
            and 0 < stripe_mm(area / inset.copies, edge / inset.copies) < LINES_MM
        ),
        must_precede=worn is not None
        and not worn.passes_over
        and not is_closed_on(part)
        and not is_opened_to_go_on(part, figure),
        before=worn.before if worn else (),
        built_round=built_round,
        hollow=part.hollow,
        stuff=part.stuff.kind if part.stuff else "",
        fixed=part.stuff.fixed if part.stuff else "sewn" if is_on_cloth(part, figure) else "",
        stem=is_stem,
        banded=is_stem and school_for("stems", schools) == "under a band",
    )


def _fur_jobs(part: Part, wool: PartWool) -> Iterator[FurJob]:
    """Yield the fur of each place; none if all of the part's skin is covered and it has no wool."""
    laid = {portion.detail for portion in wool.portions if portion.role == "fur"}
    for place in part.furs:
        name, called = ("", "") if place.is_whole else (place.id, place.display_name)
        if place.fur and name in laid:
            rows = fur_rows(part, place, wool.long_mm)
            yield FurJob(name, called, place.fur.wool, rows, place.fur.lie)


CREASE_DEG = 30.0
"""A limb bent further than this in one joint springs back unless the fold is felted. Judged.
See craft.md, 10."""


def is_creased(part: Part, figure: Figure) -> bool:
    """Return whether a limb of a sitting figure is folded at a joint."""
    return figure.stance == "sitting" and any(
        bend.part == part.id and bend.tilt.slant_deg >= CREASE_DEG for bend in figure.pose
    )


def is_opened_to_go_on(part: Part, figure: Figure) -> bool:
    """Return whether a bought garment must be opened to go on: its bearer is itself what it would have to
    pass over."""
    dress = part.garment
    return dress is not None and dress.bought and dress.passes in ancestors(part, figure)


def may_build_round(part: Part, figure: Figure, wool: Mapping[str, PartWool]) -> bool:
    """Return whether a bought garment that is too narrow can be put on before its bearer is finished: the
    bearer must be what it would have to pass over, and grow in two rounds of core or more."""
    dress = part.garment
    if dress is None or not is_opened_to_go_on(part, figure) or dress.passes != part.parent:
        return False
    return core_rounds(wool[dress.passes].core_mm) > 1


def _wires_bound_to(figure: Figure) -> dict[str, tuple[str, ...]]:
    """Return for each wire the wires it is bound on to, which are bent before it. Where wires bind each other
    in a ring, one of them begins."""
    asked = {
        wire.id: {o.id for o in figure.wires if o is not wire and set(wire.binds) & set(o.route)}
        for wire in figure.wires
    }
    found: dict[str, tuple[str, ...]] = {}
    while len(found) < len(asked):
        rest = [name for name in asked if name not in found]
        ready = min(rest, key=lambda name: len(asked[name] - found.keys()))
        found[ready] = tuple(name for name in found if name in asked[ready])
    return found


def growing_directions(part: Part) -> int:
    """Return in how many directions a core grows from round to round: two if it is wrapped along its length,
    else three."""
    return 2 if part.shape.start_form == "sausage" else 3


def _parts_meeting(solids: Solids) -> frozenset[str]:
    """Return the parts whose two copies may touch."""
    of: dict[str, list[int]] = {}
    for i, copy in enumerate(solids.placement.copies):
        of.setdefault(copy.part.id, []).append(i)
    return frozenset(
        part for part, (a, *others) in of.items() if any(bool(solids.near[a, b]) for b in others)
    )


def _one_at_a_time(jobs: Iterable[PartJob]) -> Iterator[PartJob]:
    """Return the jobs with wired pairs, and what sits on both of a pair, as two jobs each."""
    jobs = tuple(jobs)
    split: set[str] = set()
    for job in jobs:
        if job.count == 2 and (job.made == "on wire" or job.parent in split):
            split.add(job.id)
            yield replace(job, count=1, name=fact("nth.first", part=job.name))
            yield replace(
                job,
                id=f"{job.id}.2",
                count=1,
                name=fact("nth.second", part=job.name),
                parent=f"{job.parent}.2" if job.parent in split else job.parent,
                grandparent=f"{job.grandparent}.2" if job.grandparent in split else job.grandparent,
            )
        else:
            yield job


def peg_of(peg: str, figure: Figure) -> str:
    """Return the part a peg joins."""
    joined = peg.removeprefix("peg-")
    return next(name for name in (joined, joined.rpartition("-")[0]) if name in figure.by_id)


def lightness(bench: Bench) -> tuple[tuple[str, float], ...]:
    """Return the relative luminance (0 black, 1 white) of each wool, to lay light colours before dark."""
    weights = (0.2126, 0.7152, 0.0722)
    return tuple(
        (
            wool.id,
            sum(
                w * int(wool.colour[i : i + 2], 16) / 255
                for w, i in zip(weights, (1, 3, 5), strict=True)
            ),
        )
        for wool in bench.wools
    )

"""The loose end of a piece: how much of it stays unfelted until a fringe joins it, and the wool for that."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from bambola.core.bench import Bench
from bambola.core.facts import NOTHING, Area, Cover, fact
from bambola.core.figure import Figure, Join, Part
from bambola.core.frozen import frozen
from bambola.core.order import FittingJob
from bambola.core.resize import Made
from bambola.core.resize.laws import FRINGE_MM
from bambola.core.solids import Solids
from bambola.core.wool import PartWool, Portion
from bambola.core.wool.bundles import heap_across
from bambola.core.wool.layers import felted_eye_cm3
from bambola.core.wool.portion import portion_of, tear_of, wool_band
from bambola.core.wool.portions import SOFT_DETAIL
from bambola.core.wool.shelf import like_colour

END_COVER = 0.02
"""g/cm² of wool in a loose end, over the length of the join and the fringe. Judged. See craft.md, 1."""


def loose_ends(
    figure: Figure, ways: Mapping[str, Made], joins: Mapping[str, Join]
) -> dict[str, float]:
    """Return the length of each part's loose end, mm. Parts that are pegged, wired through, built in place,
    worn or sewn on cloth have none; a part without a drawn fringe has the least that holds."""
    return {
        part: figure.by_id[part].fringe or FRINGE_MM[0]
        for part, join in joins.items()
        if ways[part] == "apart"
        and figure.by_id[part].garment is None
        and not is_on_cloth(figure.by_id[part], figure)
        and join not in ("peg", "wire")
    }


def is_on_cloth(part: Part, figure: Figure) -> bool:
    """Return whether a part of wool sits on cloth: it is sewn there, since nothing holds a fringe."""
    bearer = figure.by_id[part.parent] if part.parent else None
    return part.stuff is None and bearer is not None and bearer.stuff is not None


def with_loose_ends(
    wool: Mapping[str, PartWool],
    ends: Mapping[str, float],
    figure: Figure,
    solids: Solids,
    bench: Bench,
) -> dict[str, PartWool]:
    """Return ``wool`` with the wool of the loose ends, each in its core's wool. It does not belong to the
    piece itself but is taken together with its core (:func:`heaps_of`)."""
    found = dict(wool)
    rims: dict[str, list[float]] = {}
    for copy, solid in zip(solids.placement.copies, solids.measured, strict=True):
        rims.setdefault(copy.part.id, []).append(solid.join_line_mm)
    for part, mm in ends.items():
        portions = wool[part].portions
        at = _core_at(portions)
        if at is None:
            continue
        core = portions[at]
        area = sum(rims[part]) / len(rims[part]) * mm / 100.0
        grams = END_COVER * area
        whose = bench.for_part(part).wool_by_id[core.wool]
        firmness = figure.by_id[part].firmness
        take, most = wool_band(grams, whose.lost_share("fringe"), whose.spread("core", firmness))
        end = Portion(
            core.wool,
            "fringe",
            grams,
            take,
            most - take,
            "veil",
            {"across": heap_across(grams, whose)},
            {},
            fact("wool.loose-end", cover=Cover(END_COVER), area=Area(area)),
            spread=core.spread,
            pieces=core.pieces,
            tear=tear_of(core.take_g + take, bench.scale_g),
        )
        found[part] = replace(wool[part], portions=(*portions, end))
    return found


def heaps_of(portions: tuple[Portion, ...]) -> tuple[Portion, ...]:
    """Return the portions as heaps to lay ready: the heap of a core includes its loose end. The heaps keep
    the order of the portions."""
    end, at = end_of(portions), _core_at(portions)
    if end is None or at is None:
        return portions
    core = portions[at]
    both = replace(
        core,
        grams=core.grams + end.grams,
        take_g=core.take_g + end.take_g,
        keep_by_g=core.keep_by_g + end.keep_by_g,
        why=fact("wool.with-end", core=core.why, end=end.why),
        tear=end.tear,
    )
    return tuple(both if i == at else p for i, p in enumerate(portions) if p is not end)


def end_of(portions: tuple[Portion, ...]) -> Portion | None:
    """Return the portion of the loose end; None if there is none."""
    return next((p for p in portions if p.role == "fringe"), None)


def end_share(portions: tuple[Portion, ...]) -> float:
    """Return the loose end's share of the heap of its core."""
    end, at = end_of(portions), _core_at(portions)
    return 0.0 if end is None or at is None else end.take_g / (portions[at].take_g + end.take_g)


def _core_at(portions: tuple[Portion, ...]) -> int | None:
    """Return the index of the core that the loose end belongs to: the shell if it has a soft centre."""
    cores = (i for i, p in enumerate(portions) if p.role == "core" and p.detail != SOFT_DETAIL)
    return next((i for i in cores if portions[i].take_g > 0), None)


@frozen
class EyesOfWool:
    """``count`` eyes of one fitting, with the wool of each."""

    count: int
    portions: tuple[Portion, ...]
    coat_mm: float = 0.0


def eye_portion(figure: Figure, fitting: str, bench: Bench) -> Portion:
    """Return the wool of one eye: the wool nearest to the eye's colour, felted firm to half an egg."""
    eye = next(f for f in figure.fittings if f.id == fitting)
    wool = like_colour(eye.pieces[0].colour, bench)
    grams = felted_eye_cm3(eye.size) * wool.density("firm")
    return portion_of(wool, "inset", grams, "ball", {}, {}, NOTHING, firmness="firm")


def eyes_of_wool(
    figure: Figure, fittings: Iterable[FittingJob], bench: Bench
) -> dict[str, EyesOfWool]:
    """Return the eyes of ``figure`` that are felted, by the id of their fitting."""
    return {
        job.id: EyesOfWool(job.count, (eye_portion(figure, job.id, bench),))
        for job in fittings
        if job.how == "felted"
    }

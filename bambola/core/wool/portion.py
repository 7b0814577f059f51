"""One portion of wool: what stays, what to take, what to keep at hand, and whether it can be weighed."""

from __future__ import annotations

import math
from dataclasses import replace
from statistics import NormalDist
from typing import Literal

from bambola.core.bench import Role, Wool
from bambola.core.facts import Fact
from bambola.core.figure import Firmness, StartForm
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.wool.bundles import Size, heap_across

BLUR = 0.20
"""A portion is too small for a scale when half of its step is more than this share of it: then the
reading adds as much doubt as an uncalibrated weight already has. See craft.md, 7."""
STEPS = 10
"""The lump to weigh shows at least so many steps, so that half a step is no more than 5 % of it.
See craft.md, 7."""
MOST_PARTS = 1024
"""Nobody halves a lump more than ten times. Judged. See craft.md, 7."""


@frozen
class TornLump:
    """A lump of ``weigh_g`` to tear into ``parts`` equal parts, by halves and thirds."""

    weigh_g: float
    parts: int


def tear_of(grams: float, step: float) -> TornLump | None:
    """Return how to make ``grams`` on a scale with steps of ``step`` g; None if it can be weighed, or if even
    1,024 of it would not move the scale."""
    if grams <= 0 or grams >= step / 2 / BLUR:
        return None
    for parts in _halves_and_thirds():
        steps = round(grams * parts / step)
        if steps >= STEPS:
            return TornLump(steps * step, parts)
    return None


@remembered(1)
def _halves_and_thirds() -> tuple[int, ...]:
    """Return the numbers of equal parts that halving and dividing in three lead to, rising from two."""
    return tuple(
        sorted(2**a * 3**b for a in range(11) for b in range(7) if 2 <= 2**a * 3**b <= MOST_PARTS)
    )


TAKE_Z = NormalDist().inv_cdf(0.20)
KEEP_Z = NormalDist().inv_cdf(0.90)

LEAST_G = 0.001
"""Less wool than this is no pinch any more: about twenty hairs. See craft.md, 1."""


@frozen
class Portion:
    """Wool for one copy of a part. ``grams`` is what stays in the figure; ``take_g`` and ``keep_by_g`` are
    what to lay ready, including loss: the 20th percentile, and the rest up to the 90th. ``loose_mm`` is the
    size of the hand-rolled bundle before felting, ``finished_mm`` after. ``spread`` is the uncertainty of the
    weight (one sd in log), from so many of the maker's ``pieces`` (0: starting values). ``tear`` says how to
    tear a portion too small for the scale, ``laid`` how fur is laid. A patch has the id of its place as
    ``detail``, and its ``name`` is what cards call it."""

    wool: str
    role: Role
    grams: float
    take_g: float
    keep_by_g: float
    form: StartForm | Literal["veil"]
    loose_mm: dict[str, float]
    finished_mm: dict[str, float]
    why: Fact
    detail: str = ""
    spread: float = 0.0
    pieces: int = 0
    tear: TornLump | None = None
    laid: Fact | None = None
    name: str = ""

    @property
    def stays_g(self) -> tuple[float, float]:
        """What stays (g) of what is laid ready alone, and of that with all that is kept by."""
        return self.grams * math.exp(TAKE_Z * self.spread), self.grams * math.exp(
            KEEP_Z * self.spread
        )


def portion_of(
    wool: Wool,
    role: Role,
    grams: float,
    form: StartForm | Literal["veil"],
    loose: Size,
    finished: Size,
    why: Fact,
    detail: str = "",
    firmness: Firmness = "medium",
    name: str = "",
) -> Portion:
    """Return the portion of a wool of which ``grams`` stay in the figure."""
    spread = wool.spread(role, firmness)
    take, high = wool_band(grams, wool.lost_share(role), spread)
    return Portion(
        wool.id,
        role,
        grams,
        take,
        high - take,
        form,
        loose,
        finished,
        why,
        detail,
        spread,
        wool.pieces(role, firmness),
        name=name,
    )


def wool_band(grams: float, lost: float, spread: float) -> tuple[float, float]:
    """Return the 20th and 90th percentile (g) of wool to take so that ``grams`` stay in the figure.

    ``lost`` is the share of what is taken that does not stay, ``spread`` one sd in log.
    """
    taken = grams / (1 - lost)
    return taken * math.exp(TAKE_Z * spread), taken * math.exp(KEEP_Z * spread)


def layer_portion(
    wool: Wool, role: Role, grams: float, detail: str, why: Fact, name: str = ""
) -> Portion:
    """Return the portion of a coat or patch; its loose size is that of a ball, to judge it by eye."""
    heap = {"across": heap_across(grams, wool)}
    return portion_of(wool, role, grams, "veil", heap, {}, why, detail, name=name)


def at_least(portion: Portion) -> Portion:
    """Return the portion with at least a pinch to take; the surplus is drawn out longer and trimmed."""
    return portion if portion.take_g >= LEAST_G else replace(portion, take_g=LEAST_G)


def with_tearing(portion: Portion, step: float) -> Portion:
    """Return the portion with instructions to tear it off, if a scale in steps of ``step`` g does not show
    it."""
    tear = tear_of(portion.take_g, step)
    if tear is None:
        return portion
    p = portion  # by hand: this runs for every portion of every frame of a pull
    return Portion(
        p.wool,
        p.role,
        p.grams,
        p.take_g,
        p.keep_by_g,
        p.form,
        p.loose_mm,
        p.finished_mm,
        p.why,
        p.detail,
        p.spread,
        p.pieces,
        tear,
        p.laid,
        p.name,
    )

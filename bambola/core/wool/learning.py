"""Learns the maker's own numbers from records.

Each number is a mean in log (or as it is) with a prior: the craft's starting value, and how much makers
differ. A record is either good, scattered round the mean by an unknown scatter, or, one time in twenty, wild:
a slip of the pen or the scale. The posterior over mean and scatter is summed on a grid, so the stated
interval is exact and wild records do not pull it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench, Making, Record, Wool
from bambola.core.bench.wools import (
    LOSS,
    PACKED_DENSITY,
    SHRINK_ALONG,
    SPREAD,
    SPREAD_CALIBRATED,
    START_DENSITY,
    volume_of,
)
from bambola.core.frozen import frozen
from bambola.core.memo import remembered

Array = NDArray[np.float64]

PRIOR_SD = math.sqrt(SPREAD**2 - SPREAD_CALIBRATED**2)
"""How far (in log) makers' densities and covers stray from the starting values: what is left of an
uncalibrated weight's spread once the spread that calibration cannot take away is off. See craft.md, 8."""
WILD_SHARE = 0.05
WILD_FACTOR = 10.0
"""One record in twenty is taken for wild, and strays ten times as far as scatter. Judged.
See craft.md, 8."""


@frozen
class Belief:
    """A prior: ``mean`` and its ``sd``; ``scatter`` of single records (the sd of its own log is
    ``SCATTER_SD``)."""

    mean: float
    sd: float
    scatter: float


SCATTER_SD = 0.7
"""How little is known of a maker's scatter beforehand: between a third and three times the usual. Judged, so
that makers who scatter by 5 to 15 % are told their own band from five to ten pieces on. See craft.md, 8."""
STRANGE_SHARE = 0.30
STRANGE_FACTOR = 4.0
"""Three makers in ten work so otherwise that the starting values say little: their means stray four times as
far. Judged; with fewer, makers 60 % off who scatter by 15 % and slip now and then would have too little wool
in one piece of six after five pieces. See craft.md, 8."""
_MEANS, _SCATTERS = 201, 41
_MAX_STEPS, _CLOSE = 60, 1e-9
_LEAST_LIKELY = 1e-250
"""Likelihoods are multiplied before a logarithm is taken as long as their product cannot fall below this: the
least number that is told in full is some 1e-308 (IEEE 754)."""
_Z90 = NormalDist().inv_cdf(0.9)


@frozen
class Posterior:
    """A learned mean with its sd, its central 90 % interval, and for each record the probability that it is
    wild. ``next_sd`` is the spread of the next piece, from doubt about the mean and the maker's own scatter
    together: the sd of the normal curve with the same 90th percentile."""

    mean: float
    sd: float
    low: float
    high: float
    next_sd: float
    wild: tuple[float, ...]


def posterior_of(values: Sequence[float], belief: Belief) -> Posterior:
    """Return the posterior of the mean of ``values``."""
    x = np.asarray(values, dtype=np.float64)
    log_scatter = np.log(belief.scatter) + np.linspace(-3, 3, _SCATTERS) * SCATTER_SD
    near = float(np.median(x)) if len(x) else belief.mean
    low, high = sorted((near, belief.mean))
    reach = 4 * STRANGE_FACTOR * belief.sd
    means = np.linspace(low - reach, high + reach, _MEANS)
    mean, sd, _ = _posterior_moments(x, means, log_scatter, belief)
    # Then finely where it lies, which a hundred records make narrow, and ever coarser to both sides: that a
    # record may be wild leaves it long tails.
    fine = max(sd, float(means[1] - means[0]) / 2)
    far = math.asinh((means[-1] - means[0]) / fine)
    means = mean + fine * np.sinh(np.linspace(-far, far, _MEANS))
    mean, sd, weight = _posterior_moments(x, means, log_scatter, belief)
    cumulative = np.cumsum(weight.sum(axis=1))
    edges = np.append((means[1:] + means[:-1]) / 2, means[-1])
    interval = np.interp([0.05, 0.95], cumulative, edges)
    scatter = float(np.exp(weight.sum(axis=0) @ log_scatter))
    return Posterior(
        mean,
        sd,
        float(interval[0]),
        float(interval[1]),
        _next_sd(means - mean, np.exp(log_scatter), weight),
        _wild_shares(x, mean, scatter, belief),
    )


def _next_sd(off: Array, scatter: Array, weight: Array) -> float:
    """Return the spread of the next piece: the 90th percentile of a mixture of normal curves (``off``
    (means,) from the mean, ``scatter`` (scatters,) wide, mixed by ``weight`` (means, scatters)) over that of
    a standard normal. Newton's method from the normal curve of equal variance; a step that would leave the
    bracket halves it instead."""
    from scipy.special import ndtr

    counts = weight.sum(axis=1) > 1e-9
    off, weight = off[counts, None], weight[counts]
    high = float(np.abs(off).max() + 10 * scatter.max())
    low, at = -high, _Z90 * math.sqrt(float((weight * (off**2 + scatter**2)).sum()))
    for _ in range(_MAX_STEPS):
        z = (at - off) / scatter
        lacks = 0.9 - float((weight * ndtr(z)).sum())
        low, high = (at, high) if lacks > 0 else (low, at)
        rise = float((weight * np.exp(-0.5 * z * z) / scatter).sum()) / math.sqrt(2 * math.pi)
        further = at + lacks / rise if rise > 0 else high
        if abs(further - at) < _CLOSE:
            return further / _Z90
        at = further if low < further < high else (low + high) / 2
    return at / _Z90


def _posterior_moments(
    x: Array, means: Array, log_scatter: Array, belief: Belief
) -> tuple[float, float, Array]:
    """Return the mean and sd of the mean, and the weights (means, scatters) they are of."""
    weight = _posterior_weights(x, means, log_scatter, belief)
    of_mean = weight.sum(axis=1)
    mean = float(of_mean @ means)
    sd = math.sqrt(max(float(of_mean @ (means - mean) ** 2), 1e-18))
    return mean, sd, weight


def _posterior_weights(x: Array, means: Array, log_scatter: Array, belief: Belief) -> Array:
    """Return the posterior weights (means, scatters), summing to 1, each for its cell of the grid."""
    off = means - belief.mean
    prior = (1 - STRANGE_SHARE) * _normal_density(off, belief.sd)
    prior = prior + STRANGE_SHARE * _normal_density(off, STRANGE_FACTOR * belief.sd)
    log_p = (
        np.log(prior)[:, None] - 0.5 * ((log_scatter - math.log(belief.scatter)) / SCATTER_SD) ** 2
    )
    # A normal curve, with what is the same for all records worked out once.
    steep = np.exp(-log_scatter)
    high = (1 - WILD_SHARE) * steep / math.sqrt(2 * math.pi)
    likely: Array = np.ones_like(log_p)
    least = 1.0
    for value in x:
        z = (value - means)[:, None] * steep
        wild = WILD_SHARE * _normal_density(value - belief.mean, WILD_FACTOR * belief.scatter)
        if least * float(wild) < _LEAST_LIKELY:
            log_p += np.log(likely)
            likely, least = np.ones_like(log_p), 1.0
        likely *= np.exp(-0.5 * z * z) * high + wild
        least *= float(wild)
    log_p += np.log(likely)
    weight: Array = np.exp(log_p - log_p.max()) * np.gradient(means)[:, None]
    weight /= weight.sum()
    return weight


def _normal_density(off: Array | float, sd: Array | float) -> Array:
    found: Array = np.exp(-0.5 * np.square(off / np.asarray(sd))) / (sd * math.sqrt(2 * math.pi))
    return found


def _wild_shares(x: Array, mean: float, scatter: float, belief: Belief) -> tuple[float, ...]:
    good = (1 - WILD_SHARE) * _normal_density(x - mean, scatter)
    wild = WILD_SHARE * _normal_density(x - belief.mean, WILD_FACTOR * belief.scatter)
    return tuple((wild / (good + wild)).tolist())


@frozen
class Estimate:
    """One learned number of one wool. ``what`` is as in ``Wool.known_from``; ``wool`` is empty for pace, and
    for what is lost of whatever wool by a way of working.

    ``low`` and ``high`` hold it with 90 %; ``start`` is what was believed before: the craft's starting value
    or, of a firmness and size, what is known of its sort; ``spread`` how far
    the next piece may stray from it (sd in log). ``records`` are those it rests on, ``doubtful`` those that
    look wild.
    """

    wool: str
    what: str
    value: float
    low: float
    high: float
    start: float
    spread: float
    records: tuple[int, ...]
    doubtful: tuple[int, ...]


@dataclass(frozen=True)
class _Kind:
    """One kind of number: how it is read from a record, its prior, and how it is shown."""

    tells: Callable[[Record], float | None]
    belief: Belief
    stated: Callable[[float], float]


def _log_kind(
    tells: Callable[[Record], float | None], start: float, sd: float, scatter: float
) -> _Kind:
    def logged(record: Record) -> float | None:
        value = tells(record)
        return math.log(value) if value is not None and value > 0 else None

    return _Kind(logged, Belief(math.log(start), sd, scatter), math.exp)


def _felted_density(record: Record) -> float | None:
    volume = record.volume_cm3
    if volume is None and record.finished_mm and record.form:
        volume = volume_of(record.form, record.finished_mm)
    return record.grams / volume if volume and record.role == "core" else None


def _start_density(record: Record) -> float | None:
    if record.loose_mm is None or record.form is None or record.role != "core":
        return None
    return record.grams_in / volume_of(record.form, record.loose_mm)


def _shrinkage_along(record: Record) -> float | None:
    """Return the share of the shrinkage along the start form; None if it hardly shrank."""
    if record.loose_mm is None or record.finished_mm is None:
        return None
    logs = [math.log(f / w) for f, w in zip(record.finished_mm, record.loose_mm, strict=True)]
    total = sum(logs)
    if total > -0.3:
        return None
    share = (logs[0] + logs[1]) / 2 if record.form == "sheet" else logs[0]
    return share / total


def _covered_area(record: Record) -> float | None:
    if not (record.area_cm2 and record.asked_cover) or record.role not in ("coat", "inset"):
        return None
    return record.grams / record.area_cm2 / record.asked_cover


def _log_odds_of_loss(record: Record) -> float | None:
    """Return the log odds of the share lost, which is at least a fifth of a per cent."""
    if record.grams_trimmed is None:
        return None
    share = min(max(record.grams_trimmed / record.grams_in, 0.002), 0.85)
    return math.log(share / (1 - share))


def _sigmoid_of(x: float) -> float:
    return 1 / (1 + math.exp(-x))


def _numbers_from(bench: Bench, record: Record) -> Iterable[tuple[str, str, _Kind]]:
    """Yield the numbers a record may contribute to: wool, what, and kind. Scatters are judged."""
    wool, role = record.wool, record.role
    density = PACKED_DENSITY[record.firmness]
    yield wool, f"density:{record.firmness}", _log_kind(_felted_density, density, PRIOR_SD, 0.12)
    yield wool, "start", _log_kind(_start_density, START_DENSITY, 0.15, 0.15)
    yield wool, "cover", _log_kind(_covered_area, 1.0, PRIOR_SD, 0.15)
    lost = LOSS[role]
    loses = _Kind(_log_odds_of_loss, Belief(math.log(lost / (1 - lost)), 0.5, 0.5), _sigmoid_of)
    for of in (
        wool,
        "",
    ):  # what is lost is the hand's as much as the wool's: the way of working by itself
        yield of, f"loss:{role}", loses
    if record.form in ("sausage", "cone", "sheet"):
        yield (
            wool,
            f"along:{record.form}",
            _Kind(
                _shrinkage_along,
                Belief(SHRINK_ALONG[record.form], 0.05, 0.05),
                lambda w: min(max(w, 0.02), 0.48),
            ),
        )

    def pace(record: Record) -> float | None:
        if record.minutes is None or record.role != "core":
            return None
        return record.minutes / bench.pace.core_minutes(record.grams_in, 1, record.firmness)

    yield "", "pace", _log_kind(pace, 1.0, 0.4, 0.3)


def estimates_from_records(bench: Bench, records: Iterable[Record]) -> tuple[Estimate, ...]:
    """Return everything that ``records`` tell about the wools of ``bench``, which holds starting values."""
    told: dict[tuple[str, str], tuple[_Kind, list[tuple[int, float]]]] = {}
    for record in records:
        if record.aside or record.wool not in bench.wool_by_id:
            continue
        for wool, what, kind in _numbers_from(bench, record):
            value = kind.tells(record)
            if value is not None and math.isfinite(value):
                told.setdefault((wool, what), (kind, []))[1].append((record.n, value))
    return tuple(
        _estimate_number(wool, what, kind, rows)
        for (wool, what), (kind, rows) in sorted(told.items(), key=lambda item: item[0])
    )


NEWEST_STEPS = 30
"""So many steps of a sort of work, the last at the pad, tell how fast it goes: hands change. Judged. See
craft.md, 8."""
NEWEST_MAKINGS = 100
"""They are looked for in so many makings, the last ones. Judged. See craft.md, 8."""
LEAST_STEPS = 3
"""So many steps of a sort at a firmness and size, before they are told by themselves. Judged. See craft.md,
8."""
APART_SD = 0.2
"""How far (in log) work of another firmness or size strays from its sort. Judged. See craft.md, 8."""
PACE_BELIEF = Belief(0.0, 0.4, 0.3)
"""How far (in log) makers' paces at a sort of work stray from the starting value, and single steps from
that. Judged. See craft.md, 8."""
LEAST_MIN = 0.5
"""Less than this on the clock is no work, but a step that was passed over. Judged. See craft.md, 8."""
CREDIBLE_TIMES = 5.0
"""A step that took so many times longer or shorter than planned was left on the clock or paged over: three
standard deviations of :data:`PACE_BELIEF` and of a single step together, exp(3 √(0.4² + 0.3²)) = 4.5. See
craft.md, 8."""


def step_estimates(makings: Iterable[Making]) -> tuple[Estimate, ...]:
    """Return the factor on the starting minutes for each sort of work, from the clock at the pad: for the
    whole sort, and by firmness and size where enough was made. It rests on single steps that are finished and
    took a credible time; ``records`` counts them."""
    told: dict[str, list[tuple[str, float]]] = {}
    for making in sorted(makings, key=lambda one: one.first_day)[-NEWEST_MAKINGS:]:
        for key, minutes in making.minutes.items() if not making.aside else ():
            planned = making.planned.get(key, 0.0)
            if is_step_done(making, key) and (
                is_credible(planned, minutes)
                or (making.odd_times and min(planned, minutes) >= LEAST_MIN)
            ):
                sort = key.partition(":")[0]
                row = making.sorts.get(key, sort), math.log(minutes / planned)
                told.setdefault(sort, []).append(row)
    kind = _Kind(lambda _: None, PACE_BELIEF, math.exp)
    return tuple(
        _estimate_number("", f"pace:{sort}", of_kind, list(enumerate(values[-NEWEST_STEPS:], 1)))
        for whole, rows in sorted(told.items())
        for sort, of_kind, values in _work_paces(whole, rows, kind)
    )


def is_step_done(making: Making, key: str) -> bool:
    """Return whether a step is finished."""
    return bool(making.finished) or key in making.behind


def is_credible(planned: float, minutes: float) -> bool:
    """Return whether the clock tells how long a step was really worked on."""
    if min(planned, minutes) < LEAST_MIN:
        return False
    return 1 / CREDIBLE_TIMES <= minutes / planned <= CREDIBLE_TIMES


def _work_paces(
    whole: str, rows: Sequence[tuple[str, float]], kind: _Kind
) -> Iterator[tuple[str, _Kind, list[float]]]:
    """Yield a sort of work, and those of its firmnesses and sizes with enough records. The prior of one is
    what the others of its sort say, each of which differs from the sort as this one does."""
    yield whole, kind, [value for _, value in rows]
    narrow: dict[str, list[float]] = {}
    for sort, value in rows:
        narrow.setdefault(sort, []).append(value)
    for sort, values in sorted(narrow.items()):
        others = [value for other, value in rows if other != sort]
        if sort == whole or not others or len(values) < LEAST_STEPS:
            continue
        said = _known_posterior(tuple(others[-NEWEST_STEPS:]), kind.belief)
        apart = APART_SD**2 * (1 + 1 / (len(narrow) - 1))
        belief = Belief(said.mean, math.sqrt(said.sd**2 + apart), kind.belief.scatter)
        yield sort, replace(kind, belief=belief), values


@remembered(512)
def _known_posterior(values: tuple[float, ...], belief: Belief) -> Posterior:
    """Return the posterior, remembered: the bench is learned anew at every entry, mostly from the same
    records."""
    return posterior_of(values, belief)


def _estimate_number(wool: str, what: str, kind: _Kind, rows: list[tuple[int, float]]) -> Estimate:
    found = _known_posterior(tuple(value for _, value in rows), kind.belief)
    doubtful = tuple(n for (n, _), wild in zip(rows, found.wild, strict=True) if wild > 0.5)
    return Estimate(
        wool,
        what,
        kind.stated(found.mean),
        kind.stated(found.low),
        kind.stated(found.high),
        kind.stated(kind.belief.mean),
        found.next_sd,
        tuple(n for n, _ in rows),
        doubtful,
    )


def with_learned_numbers(bench: Bench, found: Sequence[Estimate]) -> Bench:
    """Return ``bench`` with learned numbers replacing its starting values. What is known of a sort of work
    replaces the general pace, and the loss over all wools is used for those with none of their own."""
    wools = dict(bench.wool_by_id)
    pace = bench.pace
    sorts = {e.what.partition(":")[2]: e.value for e in found if e.what.startswith("pace:")}
    for estimate in found:
        if estimate.what == "pace":
            pace = pace.times(estimate.value)
            sorts = {sort: slower / estimate.value for sort, slower in sorts.items()}
        elif estimate.wool in wools:
            wools[estimate.wool] = _wool_with_estimate(wools[estimate.wool], estimate)
        elif estimate.what.startswith("loss:"):
            own = {e.wool for e in found if e.what == estimate.what}
            others = (wool for id, wool in wools.items() if id not in own)
            wools |= {wool.id: _wool_with_estimate(wool, estimate) for wool in others}
    return bench.replaced(wools=tuple(wools.values()), pace=pace.replaced(sorts=sorts))


def _wool_with_estimate(wool: Wool, found: Estimate) -> Wool:
    name, _, of = found.what.partition(":")
    known = {**wool.known_from, found.what: len(found.records)}
    match name:
        case "density":
            return wool.replaced(
                densities={**wool.densities, of: found.value},
                spreads={**wool.spreads, of: found.spread},
                known_from=known,
            )
        case "start":
            return wool.replaced(start_density=found.value, known_from=known)
        case "cover":
            return wool.replaced(cover=found.value, cover_spread=found.spread, known_from=known)
        case "loss":
            return wool.replaced(loss={**wool.loss, of: found.value}, known_from=known)
        case _:
            return wool.replaced(along={**wool.along, of: found.value}, known_from=known)

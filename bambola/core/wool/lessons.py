"""What a making teaches: laid before its maker at the end, and learned once she takes it.

Until then no plan knows of it. A figure half made is planned by what was known when it was begun.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence

from bambola.core.bench import Bench, Making, Record, Wool
from bambola.core.bench.making import nth_of
from bambola.core.bench.model import AsBegun, wools_of
from bambola.core.figure import Figure
from bambola.core.frozen import frozen
from bambola.core.wool.learning import (
    LEAST_MIN,
    Estimate,
    estimates_from_records,
    is_credible,
    is_step_done,
    step_estimates,
)

_LEARNED = (
    "densities", "spreads", "start_density", "along", "cover", "cover_spread", "loss", "known_from",
)  # fmt: skip
"""What of a wool is learned from records."""


@frozen
class Experience:
    """All that a maker has recorded: her ``records`` and ``makings`` by their ids. Those of ``practice``
    designs teach no pace."""

    records: Sequence[Record]
    makings: Mapping[str, Making]
    practice: Collection[str] = ()

    def estimates(self, base: Bench, also: str = "") -> tuple[Estimate, ...]:
        """Return what is learned over the starting values of ``base``: from all that teaches, and as if the
        making ``also`` did."""

        def teaches(name: str) -> bool:
            making = self.makings.get(name)
            return name == also or making is None or making.teaches

        records = (r for r in self.records if not r.making or teaches(r.making))
        real = (
            m for name, m in self.makings.items() if teaches(name) and not self._is_practice(name)
        )
        return (*estimates_from_records(base, records), *step_estimates(real))

    def _is_practice(self, making: str) -> bool:
        return nth_of(making)[0] in self.practice

    def lessons(self, base: Bench, name: str) -> Teaching:
        """Return what the making ``name`` would teach beyond what is known."""
        making = self.makings.get(name, Making())
        before = {(e.wool, e.what): e for e in self.estimates(base)}
        after = self.estimates(base, also=name)
        changed = tuple(
            ChangedNumber(
                e, before[e.wool, e.what].value if (e.wool, e.what) in before else e.start
            )
            for e in after
            if before.get((e.wool, e.what)) != e
        )
        own = tuple(r for r in self.records if r.making == name and not r.aside)
        wild = {n for e in after if not e.what.startswith("pace:") for n in e.doubtful}
        odd = () if self._is_practice(name) else odd_times(making)
        return Teaching(changed, own, tuple(r.n for r in own if r.n in wild), odd)


@frozen
class ChangedNumber:
    """One number as it would be learned, and what it is ``before``."""

    found: Estimate
    before: float

    @property
    def times(self) -> float:
        """How many times as large as before."""
        return self.found.value / self.before


@frozen
class Teaching:
    """What a making teaches: numbers that change, the ``records`` it has, the numbers of those that are
    ``doubtful``, and the keys of the steps whose times are hard to believe."""

    changed: tuple[ChangedNumber, ...]
    records: tuple[Record, ...]
    doubtful: tuple[int, ...]
    odd: tuple[str, ...]

    def __bool__(self) -> bool:
        return bool(self.changed or self.records or self.odd)


def odd_times(making: Making) -> tuple[str, ...]:
    """Return the finished steps that were paged over, or left on the clock."""
    return tuple(
        key
        for key, minutes in making.minutes.items()
        if is_step_done(making, key)
        and making.planned.get(key, 0.0) >= LEAST_MIN
        and not is_credible(making.planned[key], minutes)
    )


def as_told_then(bench: Bench, then: Bench) -> Bench:
    """Return ``bench`` with what was known when a figure was begun, by the bench of ``then``; stock, tools
    and prices are those of now."""

    def known(wool: Wool) -> Wool:
        was = then.wool_by_id.get(wool.id)
        return wool.replaced(**{name: getattr(was, name) for name in _LEARNED}) if was else wool

    wools = tuple(known(wool) for wool in bench.wools)
    return bench.replaced(wools=wools, pace=then.pace, as_begun=then.as_begun)


def for_the_rest(now: Bench, then: Bench, figure: Figure, begun: Iterable[str]) -> Bench:
    """Return the bench ``now`` for what of a figure is not begun; its ``begun`` parts keep the wools that
    they were told with by the bench of ``then``."""
    kept = {one.part: one for one in then.as_begun}
    for part_id in begun:
        named = {wool for _, wool in wools_of(figure.by_id[part_id])}
        wools = tuple(wool for wool in then.wools if wool.id in named)
        kept.setdefault(part_id, AsBegun(part=part_id, wools=wools))
    return now.replaced(as_begun=tuple(kept.values()))

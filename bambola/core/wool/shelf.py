"""The shelf: what a plan takes from it, what is short, and what could replace it.

Scraps go first into cores hidden by a coat, as far as they felt; then each wool is taken from its own heap;
what is short is bought in whole packs.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Protocol, TypeVar

from bambola.core.bench import Bench, Wool
from bambola.core.frozen import frozen
from bambola.core.wool.colour import LIKE_COLOUR, Mix, difference, lab_of, mix_of, shares_of
from bambola.core.wool.portion import Portion


@dataclass(slots=True)
class _Need:
    """What is needed of one wool: in the figure, to take, at most (90th percentile), and the hidden share of
    that."""

    grams: float = 0.0
    taken: float = 0.0
    most: float = 0.0
    hidden: float = 0.0

    def add(self, other: _Need, share: float = 1.0) -> None:
        self.grams += other.grams * share
        self.taken += other.taken * share
        self.most += other.most * share
        self.hidden += other.hidden * share


K = TypeVar("K")


class PartPortions(Protocol):
    """The wool of one part: its portions, and how thick its coat is (mm)."""

    @property
    def portions(self) -> tuple[Portion, ...]: ...

    @property
    def coat_mm(self) -> float: ...


@frozen
class WoolTotal:
    """One wool over the whole order, g.

    ``grams`` stay in the figures; ``taken_g`` with handling loss; ``need_g`` at the 90th percentile.
    ``scraps_g`` of that come from scraps, ``shelf_g`` from its own heap, and ``buy_g`` is short: so many
    ``packs`` for so much. ``left_g`` will lie there afterwards if all goes as expected. ``instead``
    names wools that would do for what is short, the nearest first.
    """

    wool: str
    name: str
    colour: str
    grams: float
    taken_g: float
    need_g: float
    scraps_g: float
    shelf_g: float
    buy_g: float
    packs: int
    price: float | None
    left_g: float
    instead: tuple[str, ...] = field(default=())

    @property
    def own_g(self) -> float:
        """What is needed of its own heap, g, beyond what scraps provide."""
        return self.need_g - self.scraps_g


def wool_totals(
    parts: Mapping[K, PartPortions], counts: Mapping[K, int], bench: Bench, figures: int = 1
) -> tuple[tuple[WoolTotal, ...], tuple[Mix, ...]]:
    """Return totals over ``figures`` figures, the heaviest first, and the blends to be mixed for them.

    What is needed of a blend beyond the ready-mixed wool is needed of its ingredients. Uncertainties
    (density, the maker's hand) are shared by all portions of a wool, so their 90th percentiles are added.
    """
    asked = _wool_needs(parts, counts, bench, figures)
    needs = _unmix_needs(asked, bench)
    from_scraps = _scraps_for(needs, bench)
    spare = {
        wool.id: max(0.0, wool.grams - (needs[wool.id].most if wool.id in needs else 0.0))
        for wool in bench.wools
        if wool.grams
    }
    rows = [
        _wool_total(bench.wool_by_id[wool], need, from_scraps.get(wool, 0.0), bench, spare)
        for wool, need in needs.items()
    ]
    totals = tuple(sorted(rows, key=lambda total: (-total.grams, total.wool)))
    return totals, tuple(_mixes_needed(asked, bench))


def _mixes_needed(asked: Mapping[str, _Need], bench: Bench) -> Iterable[Mix]:
    for wool, need in asked.items():
        blend = bench.wool_by_id[wool]
        rest = need.most - (blend.grams or 0.0)
        if blend.recipe and rest > 1e-9:
            yield mix_of(blend, rest)


def _wool_needs(
    parts: Mapping[K, PartPortions], counts: Mapping[K, int], bench: Bench, figures: int
) -> dict[str, _Need]:
    needs: dict[str, _Need] = {}
    for part_id, part in parts.items():
        for p in part.portions:
            n, most = counts[part_id] * figures, p.take_g + p.keep_by_g
            hidden = most if p.role == "core" and part.coat_mm > 0 else 0.0
            taken = p.grams / (1 - bench.wool_by_id[p.wool].lost_share(p.role))
            needs.setdefault(p.wool, _Need()).add(_Need(p.grams, taken, most, hidden), n)
    return needs


def _unmix_needs(needs: Mapping[str, _Need], bench: Bench) -> dict[str, _Need]:
    """Return what is taken from the shelf: ready-mixed wool as it is, the rest of a blend as its
    ingredients."""
    found: dict[str, _Need] = {}
    for wool, need in needs.items():
        blend = bench.wool_by_id[wool]
        if not blend.recipe:
            found.setdefault(wool, _Need()).add(need)
            continue
        ready = min(1.0, (blend.grams or 0.0) / need.most) if need.most > 0 else 1.0
        if ready > 0:
            found.setdefault(wool, _Need()).add(need, ready)
        if ready < 1:
            for ingredient, share in shares_of(blend).items():
                found.setdefault(ingredient, _Need()).add(need, share * (1 - ready))
    return found


def _scraps_for(needs: Mapping[str, _Need], bench: Bench) -> dict[str, float]:
    """Return grams of scraps that go into the hidden cores of each wool, the heaviest first."""
    heap = sum(wool.grams or 0.0 for wool in bench.wools if wool.scraps and wool.felts)
    found = {}
    for wool, need in sorted(needs.items(), key=lambda item: -item[1].hidden):
        if bench.wool_by_id[wool].scraps:
            continue
        found[wool] = min(heap, need.hidden)
        heap -= found[wool]
    return found


def _wool_total(
    wool: Wool, need: _Need, scraps: float, bench: Bench, spare: Mapping[str, float]
) -> WoolTotal:
    have = wool.grams or 0.0
    rest = need.most - scraps
    shelf = min(have, rest)
    short = rest - shelf if rest - shelf > 1e-9 else 0.0
    # However little it is, it comes in a pack.
    packs = math.ceil(short / wool.pack_g - 1e-9) if short else 0
    expected = max(0.0, need.taken - scraps)
    return WoolTotal(
        wool.id,
        wool.name,
        wool.colour,
        need.grams,
        need.taken,
        need.most,
        scraps,
        shelf,
        short,
        max(packs, int(short > 0)),
        packs * wool.price if packs and wool.price is not None else None,
        max(0.0, have + packs * wool.pack_g - expected),
        tuple(w.id for w in substitutes(wool, short, bench, spare)) if short else (),
    )


def like_colour(colour: str, bench: Bench) -> Wool:
    """Return the wool on the shelf with the nearest colour; a core wool only if there is nothing else."""
    want = lab_of(colour)

    def far(wool: Wool) -> tuple[bool, float]:
        return wool.form == "core" or not wool.felts, difference(want, lab_of(wool.colour))

    return min(bench.wools, key=far)


def substitutes(
    wool: Wool, short: float, bench: Bench, spare: Mapping[str, float]
) -> Iterable[Wool]:
    """Return wools of like form and colour with ``short`` grams to spare, the nearest first."""
    if not spare:
        return []
    want = lab_of(wool.colour)
    near = [
        (difference(want, lab_of(other.colour)), other)
        for other in bench.wools
        if other.id != wool.id
        and other.felts
        and not other.scraps
        and other.form == wool.form
        and spare.get(other.id, 0.0) >= short
    ]
    return [other for off, other in sorted(near, key=lambda row: row[0]) if off <= LIKE_COLOUR]

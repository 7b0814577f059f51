"""The cutting plan: which piece comes out of which coil, stem or offcut, and what must be bought.

Wire by the metre is simply cut off. Stems and offcuts have one length each, so what is cut from each
is a *pattern*; how many of every pattern are cut is an integer programme that HiGHS solves to its
proved optimum: first the least to buy, then the least stock opened, offcuts counting half. A few
pieces are tried every way instead.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from typing import Literal

from bambola.core.armature.strength import metal_name
from bambola.core.bench import WireStock
from bambola.core.facts import Fact, SoldSize, fact
from bambola.core.figure import Metal
from bambola.core.frozen import frozen
from bambola.core.memo import remembered

BUY_WEIGHT = 1000.0
OFFCUT_WEIGHT = 0.5
"""A millimetre to buy weighs more than any on the shelf, one of an offcut half of one of fresh stock.
See craft.md, 3."""
MOST_PATTERNS = 5_000
"""More ways of cutting one stem than this are not all tried; the plan is then the best of those tried."""
FEW_PIECES = 7
"""So many pieces are laid out by trying every way, which takes less time than starting the solver."""
GRAIN_MM = 0.5
"""Pieces are cut no finer than this: their lengths are rounded up to it. See craft.md, 3."""


@frozen
class StockPiece:
    """A piece to cut: what of, how long (mm), and for which wire."""

    metal: Metal
    diameter: float
    cores: int
    mm: float
    wire: str


@frozen
class StockCut:
    """What is cut from one length of stock. ``wires`` names the wire of each of the ``cuts`` (mm).

    For a coil ``length_mm`` is what is cut off it. ``to_buy`` says that it is not on the shelf.
    """

    stock: Fact
    form: Literal["coil", "stem", "offcut"]
    length_mm: float
    cuts: tuple[float, ...]
    waste_mm: float
    wires: tuple[str, ...] = ()
    to_buy: bool = False


def longest_piece(stock: Sequence[WireStock], metal: Metal, diameter: float, cores: int) -> float:
    """Return the longest piece (mm) that can be cut of a kind of wire: endless if it comes by the metre.

    What is not on the shelf is bought by the metre, unless it is a stem of several cores.
    """
    have = [s for s in stock if (s.metal, s.diameter, s.cores) == (metal, diameter, cores)]
    if any(s.form == "coil" for s in have) or not have:
        return math.inf
    return max((s.length for s in have if s.form == "stem"), default=math.inf)


def cutting_plan(pieces: Sequence[StockPiece], stock: Sequence[WireStock]) -> tuple[StockCut, ...]:
    """Return what to cut from what. Deterministic; every piece is cut exactly once."""
    kinds: dict[tuple[Metal, float, int], list[StockPiece]] = {}
    for piece in pieces:
        kinds.setdefault((piece.metal, piece.diameter, piece.cores), []).append(piece)
    found: list[StockCut] = []
    for kind in sorted(kinds):
        have = [s for s in stock if (s.metal, s.diameter, s.cores) == kind]
        found += _cut_kind(kinds[kind], have, _stock_label(kind))
    return tuple(found)


def _stock_label(kind: tuple[Metal, float, int]) -> Fact:
    """Return what is asked for in a shop."""
    metal, diameter, cores = kind
    sold = fact("stock.sold", metal=metal_name(metal), size=SoldSize(diameter))
    return fact("stock.cores", cores=str(cores), metal=sold) if cores > 1 else sold


def _stock_name(stock: WireStock) -> Fact:
    return fact("named", name=stock.name)


def stock_called(called: Fact, stock: Sequence[WireStock]) -> WireStock | None:
    """Return the stock that a cutting plan calls so, by which it is paid for: one of its kind with a price,
    else one that can be bought again, before an offcut."""
    kinds = {one.id: (one.metal, one.diameter, one.cores) for one in stock}
    meant = next((s for s in stock if called in (_stock_name(s), _stock_label(kinds[s.id]))), None)
    if meant is None:
        return None
    alike = [s for s in stock if kinds[s.id] == kinds[meant.id]]
    return min(alike, key=lambda s: (s.price is None, s.form == "offcut"))


def _cut_kind(
    pieces: Sequence[StockPiece], have: Sequence[WireStock], label: Fact
) -> list[StockCut]:
    pieces = sorted(pieces, key=lambda piece: (-piece.mm, piece.wire))
    coils, fixed = [s for s in have if s.form == "coil"], [s for s in have if s.form != "coil"]
    if not have:
        return [_cut_from(pieces, label, "coil", to_buy=True)]
    metres = sum(s.metres_mm for s in coils)
    if not fixed and sum(p.mm for p in pieces) <= metres:
        return [_cut_from(pieces, _stock_name(coils[0]), "coil")]
    stems = [s.length for s in fixed if s.form == "stem"]
    by_metre = bool(coils) or not stems
    grains = Counter(_round_up_to_grain(p.mm) for p in pieces)
    lengths = tuple(sorted(grains, reverse=True))
    demand = tuple(grains[mm] for mm in lengths)
    bins = tuple((s.length, s.count, _worth_keeping(s)) for s in fixed)
    bought = 0.0 if by_metre else max(*stems, lengths[0])
    best = search_all_cuts if len(pieces) <= FEW_PIECES else solve_cutting
    patterns, off_coil, off_new = best(lengths, demand, bins, metres, bought)
    return _handed_out(pieces, have, fixed, patterns, off_coil, off_new, lengths, label, bought)


def _worth_keeping(stock: WireStock) -> float:
    """Return what a length is worth keeping whole: an offcut is used before a fresh stem."""
    return stock.length * (OFFCUT_WEIGHT if stock.form == "offcut" else 1.0)


def _round_up_to_grain(mm: float) -> float:
    return math.ceil(mm / GRAIN_MM - 1e-9) * GRAIN_MM


def _cut_from(
    pieces: Sequence[StockPiece],
    name: Fact,
    form: Literal["coil", "stem", "offcut"],
    length: float = 0.0,
    to_buy: bool = False,
) -> StockCut:
    total = sum(p.mm for p in pieces)
    whole = length or total
    return StockCut(
        name,
        form,
        whole,
        tuple(p.mm for p in pieces),
        whole - total,
        tuple(p.wire for p in pieces),
        to_buy,
    )


def _handed_out(
    pieces: Sequence[StockPiece],
    have: Sequence[WireStock],
    fixed: Sequence[WireStock],
    patterns: Sequence[tuple[int, tuple[int, ...]]],
    off_coil: Sequence[int],
    off_new: Sequence[int],
    lengths: Sequence[float],
    label: Fact,
    bought: float,
) -> list[StockCut]:
    """Return the pieces themselves, dealt to the patterns that were found."""
    waiting: dict[float, list[StockPiece]] = {mm: [] for mm in lengths}
    for piece in pieces:
        waiting[_round_up_to_grain(piece.mm)].append(piece)

    def deal(counts: Sequence[int]) -> list[StockPiece]:
        # Patterns may hold more than is wanted: what is left over is not cut.
        dealt = []
        for mm, n in zip(lengths, counts, strict=True):
            dealt += [waiting[mm].pop(0) for _ in range(min(n, len(waiting[mm])))]
        return dealt

    found = []
    for i, counts in patterns:
        dealt = deal(counts)
        if dealt:
            new = i >= len(fixed)
            name = label if new else _stock_name(fixed[i])
            form = "stem" if new else fixed[i].form
            found.append(_cut_from(dealt, name, form, bought if new else fixed[i].length, new))
    coil = next((s for s in have if s.form == "coil"), None)
    if cut_off := deal(off_coil):
        found.append(_cut_from(cut_off, _stock_name(coil) if coil else label, "coil"))
    if bought_new := deal(off_new):
        found.append(_cut_from(bought_new, label, "coil", to_buy=True))
    return found


Plan = tuple[list[tuple[int, tuple[int, ...]]], tuple[int, ...], tuple[int, ...]]
"""Patterns used as (bin, pieces of each length); pieces off the coil; pieces bought by the metre."""
Patterns = list[tuple[int, tuple[int, ...]]]


def search_all_cuts(
    lengths: tuple[float, ...],
    demand: tuple[int, ...],
    bins: tuple[tuple[float, int, float], ...],
    metres: float,
    bought: float,
) -> Plan:
    """Return what :func:`solve_cutting` finds, by trying every way; for few pieces."""
    places = [*bins] + ([(bought, sum(demand), bought * BUY_WEIGHT)] if bought else [])
    each = [i for i, d in enumerate(demand) for _ in range(d)]
    best: list[tuple[float, list[tuple[int, list[int]]], list[int], list[int]]] = []

    def lay(
        k: int, cost: float, opened: list[tuple[int, list[int]]], coil: list[int], new: list[int]
    ) -> None:
        if best and cost >= best[0][0] - 1e-9:
            return
        if k == len(each):
            best[:] = [(cost, [(i, list(held)) for i, held in opened], list(coil), list(new))]
            return
        i, mm = each[k], lengths[each[k]]
        for place, held in opened:
            if sum(lengths[j] for j in held) + mm <= places[place][0] + 1e-9:
                held.append(i)
                lay(k + 1, cost, opened, coil, new)
                held.pop()
        for place, (room, most, price) in enumerate(places):
            if mm <= room + 1e-9 and sum(p == place for p, _ in opened) < most:
                opened.append((place, [i]))
                lay(k + 1, cost + price, opened, coil, new)
                opened.pop()
        if sum(lengths[j] for j in coil) + mm <= metres + 1e-9:
            lay(k + 1, cost + mm, opened, [*coil, i], new)
        if not bought:
            lay(k + 1, cost + mm * BUY_WEIGHT, opened, coil, [*new, i])

    lay(0, 0.0, [], [], [])
    _, opened, coil, new = best[0]

    def counted(held: Sequence[int]) -> tuple[int, ...]:
        return tuple(sum(j == i for j in held) for i in range(len(lengths)))

    return [(place, counted(held)) for place, held in opened], counted(coil), counted(new)


@remembered(256)
def solve_cutting(
    lengths: tuple[float, ...],
    demand: tuple[int, ...],
    bins: tuple[tuple[float, int, float], ...],
    metres: float,
    bought: float,
) -> Plan:
    """Return the cheapest way to cut ``demand`` pieces of ``lengths`` (mm, falling).

    ``bins`` are (length, how many there are, cost of opening one); ``metres`` is what a coil holds
    (mm), each mm of which costs one. What does not fit is bought: in stems of ``bought`` mm, or by
    the metre if that is nought. The bin after the last is a stem to buy.
    """
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp

    n, count = len(lengths), sum(demand)
    places = [*bins] + ([(bought, count, bought * BUY_WEIGHT)] if bought else [])
    columns: Patterns = [
        (i, pattern)
        for i, (length, most, _) in enumerate(places)
        if most
        for pattern in _cutting_patterns(lengths, demand, length)
    ]
    # Two more columns for every length: off the coil, and bought by the metre.
    k = len(columns)
    cost = np.array(
        [places[i][2] for i, _ in columns]
        + [mm if metres else math.inf for mm in lengths]
        + [mm * BUY_WEIGHT for mm in lengths]
    )
    upper = np.array(
        [min(places[i][1], count) for i, _ in columns]
        + [d if metres else 0 for d in demand]
        + [0 if bought else d for d in demand],
        dtype=float,
    )
    cost[~np.isfinite(cost)] = 0.0
    cover = np.zeros((n, k + 2 * n))
    for j, (_, pattern) in enumerate(columns):
        cover[:, j] = pattern
    cover[:, k : k + n] = cover[:, k + n :] = np.eye(n)
    limits = [LinearConstraint(cover, np.array(demand, dtype=float), np.inf)]
    opened = np.zeros((len(places) + 1, k + 2 * n))
    for j, (i, _) in enumerate(columns):
        opened[i, j] = 1
    opened[-1, k : k + n] = lengths
    room = [float(most) for _, most, _ in places] + [metres]
    limits.append(LinearConstraint(opened, -np.inf, np.array(room)))
    found = milp(cost, constraints=limits, bounds=Bounds(0, upper), integrality=np.ones(len(cost)))
    if found.x is None:
        raise ArithmeticError(f"no cutting plan: {found.message}")
    times = np.rint(found.x).astype(int)
    used = [columns[j] for j in range(k) for _ in range(times[j])]
    return used, tuple(times[k : k + n].tolist()), tuple(times[k + n :].tolist())


def _cutting_patterns(
    lengths: Sequence[float], demand: Sequence[int], room: float
) -> list[tuple[int, ...]]:
    """Return all fullest ways of cutting ``room`` mm: none could take one more piece."""
    found: list[tuple[int, ...]] = []
    least = min(lengths)

    def fill(i: int, left: float, taken: tuple[int, ...]) -> None:
        if len(found) >= MOST_PATTERNS:
            return
        if i == len(lengths):
            spare = [mm for mm, n, d in zip(lengths, taken, demand, strict=True) if n < d]
            if any(taken) and (not spare or left < min(spare) - 1e-9):
                found.append(taken)
            return
        if left < least - 1e-9:
            fill(len(lengths), left, taken + (0,) * (len(lengths) - i))
            return
        for n in range(min(demand[i], int((left + 1e-9) // lengths[i])), -1, -1):
            fill(i + 1, left - n * lengths[i], (*taken, n))

    fill(0, room, ())
    if len(found) == MOST_PATTERNS:
        # Whatever was tried, every length must be there to be had.
        for i, mm in enumerate(lengths):
            n = min(demand[i], int((room + 1e-9) // mm))
            found.append(tuple(n * (j == i) for j in range(len(lengths))))
    return found

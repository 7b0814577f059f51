"""Measuring by splitting: the shortest tree of halvings and thirds that provides every portion.

Pieces differ by size alone, 2^-a 3^-b of the hank, so a tree is a flow: every piece comes from halving one
twice as large or dividing one three times as large, and is split again, given to a portion, or left over. The
fewest splits are an integer programme, solved and proved by HiGHS. A tree of k splits is at most k deep, so
if no tree with fewer splits exists among all sizes of that depth, none exists at all.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from bambola.core.facts import Fact, Grams, RefusedError, fact
from bambola.core.frozen import frozen

CLOSE = 0.08
"""Each portion is met within 8 %. See craft.md, 7."""
MOST_PORTIONS = 12
"""Up to so many portions the shortest tree is proved. See craft.md, 7."""
CRUMB = 0.02
"""A piece smaller than this share of its portion is not worth giving. Judged. See craft.md, 7."""
_FIRST_DEPTH, _LAST_DEPTH = 4, 12
_PROVED_DEPTH = 60
"""A tree of more splits than this is not proved: the sizes of piece that could take part grow with their
square, and nobody tears so often."""

Size = tuple[int, int]
"""How often a piece was halved and how often it was cut in three: it is 2^-a 3^-b of the hank."""


class SplitError(RefusedError):
    """Raised for portions that no hank can be split into."""


@frozen
class WantedPortion:
    """A portion to split off: ``grams`` for each of ``count`` copies, which get equal pieces."""

    id: str
    grams: float
    count: int = 1


@frozen
class SplitPiece:
    """A piece of the tree, the hank first. ``parent`` is its index; ``into`` what it is split into (0:
    not), by act ``act``; otherwise it goes to copy ``copy`` of portion ``to``, or is left over (None)."""

    size: Size
    parent: int | None
    into: int = 0
    act: int = 0
    to: str | None = None
    copy: int = 0

    @property
    def share(self) -> float:
        """Its share of the hank."""
        return share_of(self.size)


@frozen
class SplitPlan:
    """A tree over a hank of ``hank_g``. ``proved`` says that no tree with fewer splits exists.

    ``given_g`` is what each copy of a portion gets, by portion.
    """

    hank_g: float
    pieces: tuple[SplitPiece, ...]
    splits: int
    proved: bool
    given_g: dict[str, float]

    @property
    def left_g(self) -> float:
        """The rest of the hank, g."""
        return self.hank_g * sum(p.share for p in self.pieces if not p.into and p.to is None)


def share_of(size: Size) -> float:
    """Return what share of the hank a piece of this size is."""
    return float(2.0 ** -size[0] * 3.0 ** -size[1])


def split_plan(
    wanted: Sequence[WantedPortion],
    hank_g: float | None = None,
    patience_s: float = 30.0,
    found: Callable[[SplitPlan], None] = lambda plan: None,
) -> SplitPlan:
    """Return the shortest tree over a hank of ``hank_g`` (default: all portions together).

    ``patience_s`` limits each run of the solver; a tree not proved in that time is marked so. ``found`` is
    called with a tree while its proof is still to come. Raises :class:`SplitError`.
    """
    asked = [w for w in wanted if w.grams > 0]
    whole = sum(w.grams * w.count for w in asked)
    hank = whole if hank_g is None else hank_g
    if not asked:
        raise SplitError(Fact("split.nothing"))
    if hank < whole * (1 - CLOSE):
        raise SplitError(fact("split.little", hank=Grams(hank), whole=Grams(whole)))
    targets, counts = [w.grams / hank for w in asked], [w.count for w in asked]
    best, depth = _shallowest_tree(targets, counts, patience_s)
    proved = False
    while not proved:
        proved = depth >= best.splits - 1
        if proved or len(asked) > MOST_PORTIONS or best.splits > _PROVED_DEPTH:
            break
        found(_plan_from_flow(best, asked, targets, hank, False))
        depth = best.splits - 1
        better, whole_search = _solve_depth(targets, counts, depth, best.splits, patience_s)
        if better is None:
            proved = whole_search
            break
        best = better
        if not whole_search:
            break
    return _plan_from_flow(best, asked, targets, hank, proved)


def _shallowest_tree(
    targets: Sequence[float], counts: Sequence[int], patience_s: float
) -> tuple[_Flow, int]:
    """Return the best tree of the least depth that has one, and that depth; 0 if the search was cut short."""
    for depth in range(_FIRST_DEPTH, _LAST_DEPTH + 1, 2):
        best, done = _solve_depth(targets, counts, depth, None, patience_s)
        if best is not None:
            return best, depth if done else 0
    raise SplitError(Fact("split.unlike"))


def _plan_from_flow(
    flow: _Flow, asked: Sequence[WantedPortion], targets: Sequence[float], hank: float, proved: bool
) -> SplitPlan:
    flow = _trim_crumbs(flow, targets)
    given = {
        w.id: hank * sum(n * share_of(size) for size, n in gets.items())
        for w, gets in zip(asked, flow.gets, strict=True)
    }
    return SplitPlan(hank, _flow_as_tree(flow, asked), flow.splits, proved, given)


@dataclass(frozen=True)
class _Flow:
    """A solution: halvings and thirds by size, and what each portion's copies get."""

    halves: dict[Size, int]
    thirds: dict[Size, int]
    gets: list[dict[Size, int]]

    @property
    def splits(self) -> int:
        return sum(self.halves.values()) + sum(self.thirds.values())


@dataclass(frozen=True)
class _Program:
    """The choice of a tree as an integer programme. The unknowns are, for each of ``m`` sizes up to a depth,
    how many pieces are halved, how many are divided in three, and how many go to each of ``n`` portions:
    columns i, m + i and 2 m + i n + p."""

    targets: Sequence[float]
    counts: Sequence[int]
    depth: int

    @cached_property
    def sizes(self) -> list[Size]:
        """Every size of piece, as (halvings, splits in three)."""
        return [(a, b) for a in range(self.depth + 1) for b in range(self.depth + 1 - a)]

    @cached_property
    def shares(self) -> NDArray[np.float64]:
        """The share of the hank that a piece of each size is, (m,)."""
        return np.array([share_of(size) for size in self.sizes])

    def given_column(self, i: int, p: int) -> int:
        """Return the column that counts the pieces of size ``i`` given to a copy of portion ``p``."""
        return 2 * len(self.sizes) + i * len(self.targets) + p

    def rows(self) -> list[tuple[int, int, float]]:
        """Return the constraints as row, column and value: no size is overused, every portion is met, and the
        total of splits."""
        m, n = len(self.sizes), len(self.targets)
        at = {size: i for i, size in enumerate(self.sizes)}
        rows: list[tuple[int, int, float]] = []
        for (a, b), i in at.items():
            rows += [(i, i, -1.0), (i, m + i, -1.0)]
            rows += [(i, self.given_column(i, p), -float(self.counts[p])) for p in range(n)]
            if (a - 1, b) in at:
                rows.append((i, at[a - 1, b], 2.0))
            if (a, b - 1) in at:
                rows.append((i, m + at[a, b - 1], 3.0))
        for p in range(n):
            rows += [
                (m + p, self.given_column(i, p), self.shares[i] / self.targets[p]) for i in range(m)
            ]
        return rows + [(m + n, i, 1.0) for i in range(2 * m)]

    def limits(
        self, below: int | None
    ) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """Return the bounds of each row, and the upper bound of each column."""
        m, n = len(self.sizes), len(self.targets)
        low = np.concatenate([np.zeros(m), np.full(n, 1 - CLOSE), [0.0]])
        low[0] = -1.0
        splits = np.inf if below is None else below - 1
        high = np.concatenate([np.full(m, np.inf), np.full(n, 1 + CLOSE), [splits]])
        most = np.full(2 * m + m * n, np.inf)
        most[2 * m :] = np.floor(
            (1 + CLOSE) * np.asarray(self.targets)[None, :] / self.shares[:, None] + 1e-9
        ).ravel()
        deep = [i for i, (a, b) in enumerate(self.sizes) if a + b == self.depth]
        most[deep] = most[[m + i for i in deep]] = 0.0
        return low, high, most

    def flow(self, found: NDArray[np.float64]) -> _Flow:
        """Return the pieces of a solution."""
        x, m = np.rint(found).astype(int), len(self.sizes)

        def some(column: Callable[[int], int]) -> dict[Size, int]:
            return {s: int(x[column(i)]) for i, s in enumerate(self.sizes) if x[column(i)]}

        gets = [some(lambda i, p=p: self.given_column(i, p)) for p in range(len(self.targets))]  # type: ignore[misc]
        return _Flow(some(lambda i: i), some(lambda i: m + i), gets)


def _solve_depth(
    targets: Sequence[float],
    counts: Sequence[int],
    depth: int,
    below: int | None,
    patience_s: float,
) -> tuple[_Flow | None, bool]:
    """Return the best tree up to ``depth`` with fewer than ``below`` splits, and whether the search was
    complete."""
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import coo_array

    program = _Program(targets, counts, depth)
    low, high, most = program.limits(below)
    rows, columns, values = zip(*program.rows(), strict=True)
    whole = (len(low), len(most))
    cost = np.zeros(len(most))
    cost[: 2 * len(program.sizes)] = 1.0
    found = milp(
        cost,
        constraints=LinearConstraint(
            coo_array((values, (rows, columns)), whole).tocsr(), low, high
        ),
        integrality=np.ones(len(cost)),
        bounds=Bounds(0, most),
        options={"time_limit": patience_s, "mip_rel_gap": 0.0},
    )
    flow = None if found.x is None else program.flow(found.x)
    return flow, found.status in (0, 2)


def _trim_crumbs(flow: _Flow, targets: Sequence[float]) -> _Flow:
    """Return a copy without crumbs that a portion would not miss; they are left over."""
    gets = []
    for got, target in zip(flow.gets, targets, strict=True):
        kept, whole = dict(got), sum(n * share_of(size) for size, n in got.items())
        for size in sorted(got, key=share_of):
            while kept.get(size) and share_of(size) < CRUMB * target:
                if whole - share_of(size) < (1 - CLOSE) * target:
                    break
                whole -= share_of(size)
                kept[size] -= 1
        gets.append({size: n for size, n in kept.items() if n})
    return _Flow(flow.halves, flow.thirds, gets)


def _flow_as_tree(flow: _Flow, wanted: Sequence[WantedPortion]) -> tuple[SplitPiece, ...]:
    """Return the flow as a tree: which piece is split when, and where each piece goes."""
    halves, thirds = dict(flow.halves), dict(flow.thirds)
    to: dict[Size, list[tuple[str, int]]] = {}
    for w, gets in zip(wanted, flow.gets, strict=True):
        for copy in range(w.count):
            for size, n in gets.items():
                to.setdefault(size, []).extend([(w.id, copy)] * n)
    pieces: list[SplitPiece] = [SplitPiece((0, 0), None)]
    act, i = 0, 0
    while i < len(pieces):
        size, parent = pieces[i].size, pieces[i].parent
        into = 2 if halves.get(size) else 3 if thirds.get(size) else 0
        if into:
            (halves if into == 2 else thirds)[size] -= 1
            act += 1
            pieces[i] = SplitPiece(size, parent, into, act)
            child = (size[0] + 1, size[1]) if into == 2 else (size[0], size[1] + 1)
            pieces += [SplitPiece(child, i) for _ in range(into)]
        elif to.get(size):
            name, copy = to[size].pop(0)
            pieces[i] = SplitPiece(size, parent, to=name, copy=copy)
        i += 1
    return tuple(pieces)


def size_words(size: Size) -> str:
    """Return a piece's share as a fraction: “1/12”."""
    below = 2 ** size[0] * 3 ** size[1]
    return "all" if below == 1 else f"1/{below}"

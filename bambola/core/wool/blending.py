"""Blends: what goes into one, by weight and in handfuls."""

from __future__ import annotations

from bambola.core.bench import Wool
from bambola.core.frozen import frozen

MOST_HANDFULS = 12
CLOSE = 0.10
"""Handfuls are good enough when every share is met to a tenth: closer than a hand can tell. Judged.
See craft.md, 7."""


@frozen
class Mix:
    """One blend to be mixed: grams of it, and of each ingredient (wool, grams, handfuls)."""

    wool: str
    grams: float
    parts: tuple[tuple[str, float, int], ...]


def shares_of(blend: Wool) -> dict[str, float]:
    """Return the shares of a blend's ingredients; they sum to 1."""
    whole = sum(part.share for part in blend.recipe)
    return {part.wool: part.share / whole for part in blend.recipe}


def mix_of(blend: Wool, grams: float) -> Mix:
    """Return how to mix ``grams`` of ``blend``."""
    shares = shares_of(blend)
    counts = handfuls(tuple(shares.values()))
    return Mix(
        blend.id,
        grams,
        tuple((w, grams * share, n) for (w, share), n in zip(shares.items(), counts, strict=True)),
    )


def handfuls(shares: tuple[float, ...]) -> tuple[int, ...]:
    """Return the fewest equal handfuls, up to twelve in all, that meet every share to a tenth; or the
    closest."""
    best, found = float("inf"), tuple(1 for _ in shares)
    for whole in range(len(shares), max(MOST_HANDFULS, len(shares)) + 1):
        counts = tuple(max(1, round(share * whole)) for share in shares)
        off = max(abs(n / sum(counts) / share - 1) for n, share in zip(counts, shares, strict=True))
        if off < best - 1e-12:
            best, found = off, counts
        if best <= CLOSE:
            break
    return found

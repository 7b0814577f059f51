"""How unlike two wools look: colours in CIE Lab, and their difference by CIEDE2000.

G. Sharma, W. Wu, E. Dalal, "The CIEDE2000 color-difference formula: implementation notes, supplementary test
data, and mathematical observations", Color Research and Application 30 (2005).
"""

from __future__ import annotations

import math

from bambola.core.bench import Wool
from bambola.core.frozen import frozen
from bambola.core.memo import remembered

Lab = tuple[float, float, float]

LIKE_COLOUR = 12.0
"""Colours no farther apart than this (CIEDE2000) pass for like on a table. Judged. See craft.md, 7."""


@remembered(512)
def lab_of(colour: str) -> Lab:
    """Return CIE L*, a*, b* (D65) of an sRGB colour written ``#RRGGBB``."""
    red, green, blue = (_linear_light(int(colour[i : i + 2], 16) / 255) for i in (1, 3, 5))
    x = (0.4124564 * red + 0.3575761 * green + 0.1804375 * blue) / 0.95047
    y = 0.2126729 * red + 0.7151522 * green + 0.0721750 * blue
    z = (0.0193339 * red + 0.1191920 * green + 0.9503041 * blue) / 1.08883
    fx, fy, fz = (_cube_root(v) for v in (x, y, z))
    return 116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)


def _linear_light(v: float) -> float:
    return v / 12.92 if v <= 0.04045 else float(((v + 0.055) / 1.055) ** 2.4)


def _cube_root(v: float) -> float:
    return float(v ** (1 / 3)) if v > (6 / 29) ** 3 else v / (3 * (6 / 29) ** 2) + 4 / 29


def difference(one: Lab, other: Lab) -> float:
    """Return the difference of two colours by CIEDE2000; about 1 is just visible side by side."""
    l1, a1, b1 = one
    l2, a2, b2 = other
    far = ((math.hypot(a1, b1) + math.hypot(a2, b2)) / 2) ** 7
    more = 1 + 0.5 * (1 - math.sqrt(far / (far + 25.0**7)))
    c1, c2 = math.hypot(a1 * more, b1), math.hypot(a2 * more, b2)
    h1, h2 = _hue_angle(a1 * more, b1), _hue_angle(a2 * more, b2)
    grey = c1 * c2 == 0
    turn = 0.0 if grey else (h2 - h1 + 180) % 360 - 180
    if turn == -180:
        turn = 180.0
    light, chroma = (l1 + l2) / 2, (c1 + c2) / 2
    hue = h1 + h2 if grey else (h1 + turn / 2) % 360
    d_hue = 2 * math.sqrt(c1 * c2) * math.sin(math.radians(turn / 2))
    t = (
        1
        - 0.17 * math.cos(math.radians(hue - 30))
        + 0.24 * math.cos(math.radians(2 * hue))
        + 0.32 * math.cos(math.radians(3 * hue + 6))
        - 0.20 * math.cos(math.radians(4 * hue - 63))
    )
    off = (light - 50) ** 2
    s_light = 1 + 0.015 * off / math.sqrt(20 + off)
    s_chroma, s_hue = 1 + 0.045 * chroma, 1 + 0.015 * chroma * t
    far = chroma**7
    bent = 2 * math.sqrt(far / (far + 25.0**7))
    bent *= math.sin(math.radians(60 * math.exp(-(((hue - 275) / 25) ** 2))))
    by_light, by_chroma, by_hue = (l2 - l1) / s_light, (c2 - c1) / s_chroma, d_hue / s_hue
    return math.sqrt(by_light**2 + by_chroma**2 + by_hue**2 - bent * by_chroma * by_hue)


def _hue_angle(a: float, b: float) -> float:
    return math.degrees(math.atan2(b, a)) % 360 if a or b else 0.0


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

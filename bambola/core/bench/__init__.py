"""The maker's bench: wools, wire stock, pace, weights and records."""

from bambola.core.bench.making import Making
from bambola.core.bench.model import (
    Bench,
    FreeTime,
    Niche,
    Pace,
    Weights,
    WireStock,
    check_wools,
    load_bench,
    nearest_needle,
    with_wools_of,
)
from bambola.core.bench.wools import Ingredient, Record, Role, Wool

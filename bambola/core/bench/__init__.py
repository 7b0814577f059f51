"""The maker's bench: wools, wire stock, pace, weights and records."""

from bambola.core.bench.document import check_wools, load_bench, with_wools_of
from bambola.core.bench.making import Making
from bambola.core.bench.model import (
    Bench,
    FreeTime,
    Niche,
    Pace,
    Weights,
    WireStock,
    nearest_needle,
)
from bambola.core.bench.records import Record
from bambola.core.bench.wools import Ingredient, Role, Wool

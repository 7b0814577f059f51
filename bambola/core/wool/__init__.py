"""From resized parts to wool on the table."""

from bambola.core.wool.amounts import amount, called, is_plain_core, kept_by, made_ready
from bambola.core.wool.blanks import Blank, blank_of
from bambola.core.wool.blending import Mix
from bambola.core.wool.bundles import as_read, as_wound, extents, is_ring, ring_size, shown
from bambola.core.wool.portions import PartWool, Portion, fur_rows, part_wool, soft_share
from bambola.core.wool.shelf import WoolTotal, wool_totals
from bambola.core.wool.tearing import Tear, tear_of

__all__ = [
    "Blank",
    "Mix",
    "PartWool",
    "Portion",
    "Tear",
    "WoolTotal",
    "amount",
    "as_read",
    "as_wound",
    "blank_of",
    "called",
    "extents",
    "fur_rows",
    "is_plain_core",
    "is_ring",
    "kept_by",
    "made_ready",
    "part_wool",
    "ring_size",
    "shown",
    "soft_share",
    "tear_of",
    "wool_totals",
]

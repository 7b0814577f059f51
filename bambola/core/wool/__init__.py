"""From resized parts to the wool to lay on the table."""

from bambola.core.wool.amounts import amount, is_plain_core, kept_by, made_ready, portion_name
from bambola.core.wool.blanks import Blank, blank_of
from bambola.core.wool.bundles import (
    as_read,
    finished_size,
    is_ring,
    piece_size,
    ring_size,
    visible_size,
)
from bambola.core.wool.colour import Mix
from bambola.core.wool.portion import Portion, TornLump, tear_of
from bambola.core.wool.portions import PartWool, fur_rows, part_wool, soft_share
from bambola.core.wool.shelf import WoolTotal, wool_totals

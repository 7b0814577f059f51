"""From resized parts to wool on the table."""

from bambola.core.wool.blanks import Blank, blank_of
from bambola.core.wool.portions import PartWool, Portion, extents, part_wool, soft_share, start_form
from bambola.core.wool.tearing import Tear, tear_of
from bambola.core.wool.totals import WoolTotal, wool_totals

__all__ = [
    "Blank", "PartWool", "Portion", "Tear", "WoolTotal", "blank_of", "extents", "part_wool", "soft_share",
    "start_form", "tear_of", "wool_totals",
]  # fmt: skip

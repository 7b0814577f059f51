"""From resized parts to wool on the table."""

from bambola.core.wool.blanks import Blank, blank_of
from bambola.core.wool.portions import PartWool, Portion, extents, part_wool, start_form
from bambola.core.wool.totals import WoolTotal, wool_totals

__all__ = [
    "Blank", "PartWool", "Portion", "WoolTotal", "blank_of", "extents", "part_wool", "start_form",
    "wool_totals",
]  # fmt: skip

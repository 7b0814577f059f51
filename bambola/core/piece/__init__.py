"""The piece in the hand: what lies on the pad before and after each step."""

from bambola.core.piece.order_walked import InHand, pieces_by_step
from bambola.core.piece.state import (
    PieceState,
    core_sizes,
    round_sizes,
    section_of,
    taper_of,
)

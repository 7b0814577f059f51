"""The piece in the hand: what lies on the pad before and after each step."""

from bambola.core.piece.order_walked import InHand, pieces
from bambola.core.piece.sizes import (
    core_sizes,
    fills,
    is_hollow,
    is_pad,
    round_sizes,
    taper_of,
    whole_sizes,
)
from bambola.core.piece.state import Piece

"""The face: where its marks lie over the surface of a part, and how a new size changes them."""

from bambola.core.face.marks import Face, Mark, Thread, faces_of
from bambola.core.face.over_surface import over_surface, seat_at, seat_by_caliper

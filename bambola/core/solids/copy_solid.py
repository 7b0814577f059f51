"""What one copy of a part is worth, in numbers."""

from __future__ import annotations

from bambola.core.frozen import frozen
from bambola.core.solids.lengthwise import Shown

CAP_SHARE = 0.25
"""A part of which less than a quarter shows is a cap. Judged. See craft.md, 2."""
SHELL_COVERS = 0.4
"""A part that lies on so much of the skin of what bears it covers most of it: a half, less its rim. Judged.
See craft.md, 10."""
SHELL_THIN = 0.35
"""A shell is thinner than this share of its inner radius. Judged. See craft.md, 10."""
SHELL_SHOWS = 1 - (1 + SHELL_THIN) ** -3
"""As much then shows of its shape: of two balls about one centre what lies between them. Derived."""


@frozen
class CopySolid:
    """One copy in numbers. ``centre`` is the centroid of the net volume in the copy's own axes.

    ``furs_mm2`` is how much of its exposed skin each of its furs grows on,
    ``whole_mm3`` the volume of its shape alone; ``left`` how much of its width, depth and length earlier
    parts leave of it, as shares, and ``seen`` is what shows along its line. ``patches_mm2`` is
    the exposed area of each of its patches, ``edges_mm`` the length of their edges, of which as much is taken
    to be buried as of the patch. ``covers`` is the share that it lies on of the skin of what bears it.
    """

    net_mm3: float
    exposed_mm2: float
    centre: tuple[float, float, float]
    join_mm2: float
    join_line_mm: float
    patches_mm2: tuple[float, ...]
    edges_mm: tuple[float, ...]
    furs_mm2: tuple[float, ...]
    whole_mm3: float
    left: tuple[float, float, float]
    seen: Shown
    covers: float = 0.0

    @property
    def shows(self) -> float:
        """The share of its shape that no other part takes up."""
        return self.net_mm3 / self.whole_mm3 if self.whole_mm3 > 0 else 0.0

    @property
    def is_cap(self) -> bool:
        """Whether it is no body set on another, but a cap laid on it: so little of it shows, or it is a
        shell."""
        return self.is_shell or self.shows < CAP_SHARE

    @property
    def is_shell(self) -> bool:
        """Whether it is a thin layer over most of what bears it, such as hair."""
        return self.covers >= SHELL_COVERS and self.shows < SHELL_SHOWS

    def scaled(self, s: float) -> CopySolid:
        """Return the same copy ``s`` times as large."""
        return CopySolid(
            self.net_mm3 * s**3,
            self.exposed_mm2 * s**2,
            (self.centre[0] * s, self.centre[1] * s, self.centre[2] * s),
            self.join_mm2 * s**2,
            self.join_line_mm * s,
            tuple(area * s**2 for area in self.patches_mm2),
            tuple(mm * s for mm in self.edges_mm),
            tuple(area * s**2 for area in self.furs_mm2),
            self.whole_mm3 * s**3,
            self.left,
            self.seen.scaled(s),
            self.covers,
        )

"""The measurements of one copy of a part."""

from __future__ import annotations

from bambola.core.frozen import frozen
from bambola.core.solids.lengthwise import VisibleShape

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
    """The measurements of one copy. ``centre`` is the centroid of the net volume in the copy's own axes.
    ``furs_mm2`` is the exposed skin under each of its furs, ``whole_mm3`` the volume of its shape alone;
    ``left`` the shares of its width, depth and length that earlier parts leave, and ``seen`` what is visible
    along its line. ``patches_mm2`` is the exposed area of each patch and ``edges_mm`` the length of its edge,
    buried in the same proportion. ``covers`` is the share of its bearer's skin that it lies on."""

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
    seen: VisibleShape
    covers: float = 0.0

    @property
    def visible_share(self) -> float:
        """The share of its shape that is in no other part."""
        return self.net_mm3 / self.whole_mm3 if self.whole_mm3 > 0 else 0.0

    @property
    def is_cap(self) -> bool:
        """Whether it is a cap laid on its bearer rather than a body set on it: a shell, or hardly visible."""
        return self.is_shell or self.visible_share < CAP_SHARE

    @property
    def is_shell(self) -> bool:
        """Whether it is a thin layer over most of its bearer, such as hair."""
        return self.covers >= SHELL_COVERS and self.visible_share < SHELL_SHOWS

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

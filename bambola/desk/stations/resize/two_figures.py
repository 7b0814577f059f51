"""The two figures on the table, as made and as wanted: pictures, extents and dimension lines."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPixmap

from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.desk.kit.painters.marks import outline_parts
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.views import extent_in_view
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.resize.layout import (
    NEW,
    OLD,
    DimensionLine,
    TableLayout,
    part_dimensions,
)

Extent = tuple[float, float, float]


class TwoFigures:
    """The two figures in the view. During a drag the new one is shown at the requested height, and the plan
    follows."""

    def __init__(self, studio: EditorSession, darkroom: RenderQueue) -> None:
        self.studio, self.darkroom = studio, darkroom
        self.prints: dict[str, RenderResult] = {}
        self._marked: dict[str, tuple[RenderResult, object, QPixmap]] = {}
        self._made_extent: tuple[Placement, Camera, Extent] | None = None
        self._lines: tuple[Placement, str, Camera, tuple[DimensionLine, ...]] | None = None

    def placements(self) -> dict[str, Placement]:
        """Return both figures as planned; empty before there is a plan."""
        plan = self.studio.plan
        if plan is None or self.studio.figure is None:
            return {}
        return {OLD: self.studio.placement_as_made(), NEW: plan.solids.placement}

    def heights(self) -> dict[str, float]:
        """Return the height (mm) at which each figure is shown."""
        return {OLD: self.studio.placement_as_made().height, NEW: self.studio.height_mm}

    @property
    def _share_ahead(self) -> float:
        plan = self.studio.plan
        return self.studio.height_mm / plan.to_height_mm if plan else 1.0

    def extents(self, camera: Camera) -> dict[str, Extent]:
        """Return left, right and top of both in the view, mm."""
        placements, plan = self.placements(), self.studio.plan
        assert plan is not None
        known = self._made_extent
        if known is None or known[0] is not placements[OLD] or known[1] != camera:
            known = (placements[OLD], camera, extent_in_view(placements[OLD], camera))
            self._made_extent = known
        old = known[2]
        even = plan.resized.even
        new = old if even else extent_in_view(placements[NEW], camera)
        s = self._share_ahead * plan.scale if even else self._share_ahead
        return {OLD: old, NEW: (new[0] * s, new[1] * s, new[2] * s)}

    def lines(self, camera: Camera, rightmost: float) -> tuple[DimensionLine, ...]:
        """Return the dimension lines of the selected part, cached for a plan; the new figure reaches
        ``rightmost`` mm."""
        part, placement = self.studio.selection.part, self.placements()[NEW]
        if part is None:
            return ()
        known = self._lines
        if known is None or known[0] is not placement or known[1:3] != (part, camera):
            found = part_dimensions(placement, part, camera, rightmost / self._share_ahead)
            self._lines = known = (placement, part, camera, tuple(found))
        return known[3]

    # Pictures

    @property
    def are_pictured(self) -> bool:
        """Whether both are rendered."""
        return len(self.prints) == len((OLD, NEW))

    def forget(self) -> None:
        """Drop everything cached of the former figure."""
        self.prints.clear()
        self._marked.clear()

    def forget_marks(self) -> None:
        """Drop the cached outlines."""
        self._marked.clear()

    def request_pictures(self, camera: Camera, pixel: float, fine: bool, only: str | None) -> None:
        """Request pictures for a ``pixel`` of this many mm; coarse ones during movement."""
        for name, placement in self.placements().items():
            if only not in (None, name):
                continue
            had = self.prints.get(name)
            shot = (
                RenderRequest(placement, camera, pixel, 2)
                if fine
                else RenderRequest(placement, camera, pixel * 2.2, 1, kept=had is None)
            )
            if had is None or not _as_good(had.shot, shot):
                self.darkroom.request(name, shot)

    def keep_picture(self, name: str, made: RenderResult) -> bool:
        """Keep a finished picture if it is of one of the two."""
        figure = self.studio.figure
        if name not in (OLD, NEW) or not figure or made.shot.placement.figure.id != figure.id:
            return False
        self.prints[name] = made
        self._marked.clear()
        self.keep_for_next_time(name)
        return True

    def keep_for_next_time(self, *names: str) -> None:
        """Cache the fine pictures of ``names`` for the next start with the design as its file has it now."""
        for made in (self.prints[name] for name in names if name in self.prints):
            if self.studio.is_saved and made.shot.smooth > 1 and made.shot.camera == Camera():
                self.darkroom.cache_picture(made)

    def marked(
        self, parts: Sequence[tuple[str | None, QColor]], thickness: float
    ) -> dict[str, QPixmap]:
        """Return the pictures with the outlines of ``parts`` in their colours."""
        found = {}
        for name, made in self.prints.items():
            shown = tuple((part, colour.name()) for part, colour in parts)
            known = self._marked.get(name)
            if known is None or known[0] is not made or known[1] != shown:
                self._marked[name] = known = (made, shown, outline_parts(made, parts, thickness))
            found[name] = known[2]
        return found

    def part_at(self, at: QPointF, layout: TableLayout) -> str | None:
        """Return the part that is seen at a pixel."""
        heights = self.heights()
        for name in (NEW, OLD):
            made = self.prints.get(name)
            if made is None or name not in layout.spots:
                continue
            box = layout.picture_box(name, made, heights[name])
            if box.contains(at):
                picture = made.picture
                rows, columns = picture.owner.shape
                x = picture.left + (at.x() - box.left()) / box.width() * columns * picture.step
                y = picture.top - (at.y() - box.top()) / box.height() * rows * picture.step
                if part := picture.part_at(x, y):
                    return part
        return None


def _as_good(had: RenderRequest, wished: RenderRequest) -> bool:
    """Return whether an existing picture already satisfies a request."""
    same_step = abs(math.log(had.step / wished.step)) < 0.005
    return (
        had.placement is wished.placement
        and had.camera == wished.camera
        and had.smooth == wished.smooth
        and same_step
    )

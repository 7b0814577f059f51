"""All parts as a tree of pictures, each under its bearer; any can be selected here even if hidden on the
board."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap, QShowEvent
from PyQt6.QtWidgets import QTreeWidget, QTreeWidgetItem

from bambola.core.figure import Figure, Part
from bambola.core.relief import Camera, Picture
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult, to_image
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_PICTURE = "part-tree"
_ASLANT = Camera(35.0)
"""From here most parts are seen: ears, a side, and what stands before."""
_ACROSS_PX = 420
_PART = Qt.ItemDataRole.UserRole


class PartTree(QTreeWidget):
    """A row for each part; the selected part is the current row."""

    def __init__(self, studio: EditorSession, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom = studio, theme, darkroom
        self.items: dict[str, QTreeWidgetItem] = {}
        self._figure: Figure | None = None
        self._picture: Picture | None = None
        self.setHeaderHidden(True)
        self.setAccessibleName(tr("All parts, each under what it sits on"))
        self.currentItemChanged.connect(self._on_item_chosen)
        self._soon = at_most_every(self, 0, self.refresh)
        for signal in (studio.figure_changed, studio.survey_changed, studio.plan_changed):
            signal.connect(self._refresh_soon)
        studio.selection.part_changed.connect(self._select_current_row)
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        px = self.theme.px
        self.setIconSize(QSize(px(38), px(38)))
        self.setIndentation(px(16))
        self._draw_icons()

    def _refresh_soon(self) -> None:
        if self.isVisible():
            start_unless_running(self._soon)

    def showEvent(self, event: QShowEvent | None) -> None:
        self.refresh()
        super().showEvent(event)

    def refresh(self) -> None:
        """Rebuild the rows from the present figure, and request its picture."""
        figure = self.studio.figure
        if figure is None or figure is self._figure:
            self._select_current_row()
            return
        self._figure = figure
        self.blockSignals(True)
        self.clear()
        self.items = {}
        for part in figure.parents_first:
            item = QTreeWidgetItem([part.name])
            item.setData(0, _PART, part.id)
            item.setIcon(0, self._part_icon(part))
            self.items[part.id] = item
            if part.parent is None:
                self.addTopLevelItem(item)
            else:
                self.items[part.parent].addChild(item)
        self.expandAll()
        self.blockSignals(False)
        self._select_current_row()
        whole = self.studio.placement_as_made()
        self.darkroom.request(
            _PICTURE, RenderRequest(whole, _ASLANT, max(whole.height, 1.0) / _ACROSS_PX, 1)
        )

    def _select_current_row(self) -> None:
        """Make the selected part the current row."""
        item = self.items.get(self.studio.selection.part or "")
        if item is not None and item is not self.currentItem():
            self.blockSignals(True)
            self.setCurrentItem(item)
            self.blockSignals(False)

    def _on_item_chosen(self, item: QTreeWidgetItem | None, _: QTreeWidgetItem | None) -> None:
        if item is not None:
            self.studio.selection.select_part(item.data(0, _PART))

    def _developed(self, name: str, made: RenderResult) -> None:
        if name != _PICTURE or self._figure is None:
            return
        self._picture = made.picture
        self._draw_icons()

    def _draw_icons(self) -> None:
        """Draw the picture of every row at the size of the text."""
        for part, item in self.items.items():
            if self._figure is not None:
                item.setIcon(0, self._part_icon(self._figure.by_id[part]))

    def _part_icon(self, part: Part) -> QIcon:
        """Return the part cut out of the picture; a spot of its wool if it is hidden."""
        picture, seen = self._picture, None
        if picture is not None and part.id in picture.parts:
            owns = picture.owner == picture.parts.index(part.id)
            if owns.any():
                rows, columns = (np.flatnonzero(owns.any(axis=axis)) for axis in (1, 0))
                cut = slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1)
                pixels = picture.pixels[cut].copy()
                pixels[..., 3] = np.where(owns[cut], pixels[..., 3], 0)
                seen = QPixmap.fromImage(to_image(pixels))
        side = self.iconSize().width()
        spot = QPixmap(side, side)
        spot.fill(Qt.GlobalColor.transparent)
        painter = QPainter(spot)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if seen is not None:
            smooth = Qt.TransformationMode.SmoothTransformation
            fits = seen.scaled(side, side, Qt.AspectRatioMode.KeepAspectRatio, smooth)
            painter.drawPixmap((side - fits.width()) // 2, (side - fits.height()) // 2, fits)
        else:
            self._paint_spot(painter, part, side)
        painter.end()
        icon = QIcon(spot)
        icon.addPixmap(spot, QIcon.Mode.Selected)
        return icon

    def _paint_spot(self, painter: QPainter, part: Part, side: int) -> None:
        wool = part.coat.wool if part.coat else part.core
        painter.setBrush(QColor(self.studio.bench.colours.get(wool, "#888888")))
        painter.setPen(self.theme.dyes.edge)
        painter.drawEllipse(side // 4, side // 4, side // 2, side // 2)

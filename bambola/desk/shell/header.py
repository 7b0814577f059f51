"""The head of the window: title, heights, the path of stations, open questions."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from bambola.core.quantities import show_length
from bambola.desk.kit.paper import ElidedLabel
from bambola.desk.kit.slips import QuestionBadge
from bambola.desk.kit.stitched_path import StitchedPath
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_ROOMY = 900
"""Narrower than this (before scaling) the words of the head are smaller."""
_BARE = 620
"""Narrower than this only the name of what is on the table is said."""


class Header(QWidget):
    """Title, heights, stations, questions: visible at every station."""

    def __init__(self, stations: tuple[str, ...], studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.path = StitchedPath(stations, theme, tr("Stations"))
        self.badge = QuestionBadge(studio, theme)
        self._title, self._told = ElidedLabel(), ElidedLabel()
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self._title)
        words.addWidget(self._told)
        self._row = QHBoxLayout(self)
        self._row.addLayout(words)
        self._row.addStretch(1)
        self._row.addWidget(self.path)
        self._row.addStretch(1)
        self._row.addWidget(self.badge)
        for signal in (studio.plan_changed, studio.units_changed, studio.file_changed):
            signal.connect(self.refresh)
        set_spacing(self.theme, self._row, (26, 2, 24, 4))
        theme.changed.connect(self._restyle)
        self._restyle()
        self.refresh()

    @property
    def _is_narrow(self) -> bool:
        return self.width() < self.theme.px(_ROOMY)

    def _restyle(self) -> None:
        set_role(self._title, "title" if self._is_narrow else "headline")
        set_role(self._told, "small" if self._is_narrow else "note", "quiet")

    def resizeEvent(self, event: object) -> None:
        self.path.updateGeometry()
        self._restyle()
        self.refresh()

    def refresh(self) -> None:
        """Show the present state."""
        plan, units = self.studio.plan, self.studio.units
        self._title.setText(plan.figure if plan else "Bambola")
        told = tr("Needle felting, at another size")
        if plan:
            told = show_length(plan.to_height_mm, units)
            if not self._is_narrow:  # there the path of stations needs the room
                told = tr("{height}, {datum}", height=told, datum=self.studio.say(plan.datum))
            if abs(plan.scale - 1) > 1e-3:
                before = show_length(plan.from_height_mm, units)
                told = tr("{from_height} to {told}", from_height=before, told=told)
        self._told.setText(told)
        self._told.setVisible(self.width() >= self.theme.px(_BARE))

"""The base of the program's dialogs: as large as their text needs, and never out of reach."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QSize
from PyQt6.QtWidgets import QDialog, QVBoxLayout, QWidget

from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.theme import Theme


class FittedDialog(QDialog):
    """A dialog whose contents scroll where the screen is too small for them, as with very large text. It is
    run once."""

    def exec(self) -> int:
        """Run it until it is closed. What it has to tell is to be read at once: it goes when the hand acts
        next, and with it the memory of what it showed."""
        self.finished.connect(self.deleteLater)
        return super().exec()

    def set_size(self, theme: Theme, wide: float, tall: float) -> None:
        """Resize to this size (px at the usual size of text), but not beyond the window it belongs to."""
        self.resize(QSize(theme.px(wide), theme.px(tall)).boundedTo(self._window_size()))

    def event(self, event: QEvent | None) -> bool:
        done = super().event(event)
        if event is not None and event.type() in (QEvent.Type.Show, QEvent.Type.LayoutRequest):
            self._fit_screen()
        return done

    def _fit_screen(self) -> None:
        """Let the contents scroll if they need more room than there is."""
        contents, screen = self.layout(), self.screen()
        if contents is None or screen is None or not self.isVisible():
            return
        room = self._window_size().expandedTo(screen.availableSize())
        needs = contents.totalMinimumSize()
        if needs.boundedTo(room) == needs:
            return
        inside = QWidget()
        inside.setLayout(contents)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(scroll_area(inside))
        self.setMinimumSize(0, 0)
        self.resize(self.size().boundedTo(room))

    def _window_size(self) -> QSize:
        above = self.parentWidget()
        return (above.window() or above).size() if above is not None else QSize()

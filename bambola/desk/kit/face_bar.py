"""The bar over a station: its views at the left, and actions of the current view at the right."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QPushButton, QSizePolicy, QWidget

from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.switch import make_switch, show_switch
from bambola.desk.kit.theme import Theme
from bambola.language import tr


class FaceBar(QWidget):
    """A bar in one line if there is room, and in several if the text is large."""

    def __init__(
        self, theme: Theme, faces: Sequence[tuple[str, str]], chosen: Callable[[int], None]
    ) -> None:
        super().__init__()
        self.theme = theme
        self._flow = FlowLayout(self)
        self.faces: list[QPushButton] = []
        for i, (name, told) in enumerate(faces):
            button = QPushButton(tr(name))
            button.setToolTip(tr(told))
            button.setAccessibleName(tr(told))
            make_switch(button, lambda _, i=i: chosen(i))
            self._flow.addWidget(button)
            self.faces.append(button)
        self._flow.set_end(len(self.faces))
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        theme.changed.connect(self._restyle)
        self._restyle()

    def offer(self, tool: QWidget) -> None:
        """Add the actions of a view."""
        self._flow.addWidget(tool)

    def check(self, face: int) -> None:
        """Mark the current view."""
        for i, button in enumerate(self.faces):
            show_switch(button, i == face)

    def _restyle(self) -> None:
        self._flow.set_gap(self.theme.px(6))

"""The text at the head of a dialog, and the two buttons at its foot."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtWidgets import (
    QAbstractButton,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QPushButton,
    QSizePolicy,
    QWidget,
)

from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme
from bambola.language import tr


def make_switch(button: QAbstractButton, do: Callable[..., object]) -> None:
    """Make a button stay down and call its action. A screen reader toggles instead of clicking, so the action
    follows the toggled signal."""
    button.setCheckable(True)
    button.toggled.connect(do)


def show_switch(button: QAbstractButton, down: bool) -> None:
    """Set the state of a switch without triggering its action."""
    blocked = QSignalBlocker(button)
    button.setChecked(down)
    blocked.unblock()


def show_as_next(button: QAbstractButton, is_next: bool = True) -> None:
    """Highlight a button as the next thing to do while it is enabled, or remove the highlight."""
    if button.property("next") == is_next:
        return
    button.setProperty("next", is_next)
    style = button.style()
    if style is not None:  # a property that changes is looked up anew
        style.unpolish(button)
        style.polish(button)


def lead_label(text: str) -> QLabel:
    """Return a label of about two lines for the head of a dialog."""
    label = QLabel(text)
    label.setWordWrap(True)
    label.setMinimumHeight(2 * label.fontMetrics().lineSpacing() + 4)
    return label


def ok_cancel(dialog: QDialog) -> QDialogButtonBox:
    """Return the buttons that accept or reject ``dialog``; it is deleted after that."""
    buttons = QDialogButtonBox(
        QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
    )
    return _connect_buttons(buttons, dialog)


def take_or_leave(dialog: QDialog, take: str | None, leave: str) -> QDialogButtonBox:
    """Return such buttons with their own words; only one if there is nothing to ``take``."""
    buttons = QDialogButtonBox()
    if take:
        button = buttons.addButton(take, QDialogButtonBox.ButtonRole.AcceptRole)
        assert button is not None
        button.setDefault(True)
        show_as_next(button)
    buttons.addButton(leave, QDialogButtonBox.ButtonRole.RejectRole)
    return _connect_buttons(buttons, dialog)


def _connect_buttons(buttons: QDialogButtonBox, dialog: QDialog) -> QDialogButtonBox:
    buttons.accepted.connect(dialog.accept)
    buttons.rejected.connect(dialog.reject)
    dialog.finished.connect(dialog.deleteLater)
    return buttons


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

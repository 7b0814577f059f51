"""The text at the head of a dialog, and the two buttons at its foot."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QLabel

from bambola.desk.kit.switch import show_as_next


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
    return _joined(buttons, dialog)


def take_or_leave(dialog: QDialog, take: str | None, leave: str) -> QDialogButtonBox:
    """Return such buttons with their own words; only one if there is nothing to ``take``."""
    buttons = QDialogButtonBox()
    if take:
        button = buttons.addButton(take, QDialogButtonBox.ButtonRole.AcceptRole)
        assert button is not None
        button.setDefault(True)
        show_as_next(button)
    buttons.addButton(leave, QDialogButtonBox.ButtonRole.RejectRole)
    return _joined(buttons, dialog)


def _joined(buttons: QDialogButtonBox, dialog: QDialog) -> QDialogButtonBox:
    buttons.accepted.connect(dialog.accept)
    buttons.rejected.connect(dialog.reject)
    dialog.finished.connect(dialog.deleteLater)
    return buttons

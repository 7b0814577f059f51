"""What stands at the head of a dialog, and the two buttons at its foot."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QLabel

from bambola.desk.kit.switch import show_as_next


def lead(text: str) -> QLabel:
    """Return what a dialog is about: a text of two lines or so at its head."""
    label = QLabel(text)
    label.setWordWrap(True)
    label.setMinimumHeight(2 * label.fontMetrics().lineSpacing() + 4)
    return label


def ok_cancel(dialog: QDialog) -> QDialogButtonBox:
    """Return buttons that take or give up what ``dialog`` asks; after that it is let go, with what hangs on
    it."""
    buttons = QDialogButtonBox(
        QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
    )
    return _joined(buttons, dialog)


def take_or_leave(dialog: QDialog, take: str | None, leave: str) -> QDialogButtonBox:
    """Return the same with words of their own; where there is nothing to ``take``, one button."""
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

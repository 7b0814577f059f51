"""The two buttons at the foot of a dialog."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QDialogButtonBox


def ok_cancel(dialog: QDialog) -> QDialogButtonBox:
    """Buttons that take or give up what ``dialog`` asks; after that it is let go, with what hangs on it."""
    buttons = QDialogButtonBox(
        QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
    )
    buttons.accepted.connect(dialog.accept)
    buttons.rejected.connect(dialog.reject)
    dialog.finished.connect(dialog.deleteLater)
    return buttons

"""Removing widgets from a page for good."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget


def discard(widget: QWidget) -> None:
    """Remove ``widget`` from its page at once and delete it later. It is hidden first: a widget whose page
    was never shown would come up as a window of its own."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()

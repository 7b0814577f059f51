"""Widgets taken out of a page for good."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget


def discard(widget: QWidget) -> None:
    """Take ``widget`` out of its page at once and delete it when Qt has time.

    It is hidden first: a widget whose page has yet to show it would come up as a window of its own.
    """
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()

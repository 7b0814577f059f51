"""Hands at a keyboard that the type checker understands."""

from __future__ import annotations

from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget


def type_text(widget: QWidget | None, text: str) -> None:
    """Press the keys of ``text`` on a widget. The stubs of Qt take the static function for a method."""
    QTest.keyClicks(widget, text)  # type: ignore[call-arg,arg-type]

"""Every text that a window shows, tells on hovering, or tells a screen reader."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from PyQt6.QtCore import QAbstractItemModel, Qt
from PyQt6.QtGui import QAction, QPainter, QTextDocument
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QComboBox,
    QLabel,
    QLineEdit,
    QWidget,
)

ROLES = (
    Qt.ItemDataRole.DisplayRole,
    Qt.ItemDataRole.ToolTipRole,
    Qt.ItemDataRole.AccessibleTextRole,
)


def plain(text: str) -> str:
    """``text`` without its markup."""
    if not text.lstrip().startswith("<") and "</" not in text:
        return text
    document = QTextDocument()
    document.setHtml(text)
    return document.toPlainText()


def texts_of(root: QWidget) -> Iterator[str]:
    """Every text of ``root`` and what lies in it, with the class of the widget that has it before."""
    for widget in (root, *root.findChildren(QWidget)):
        for text in _of(widget):
            if text:
                yield f"{type(widget).__name__}: {plain(text)}"
    for action in root.findChildren(QAction):
        yield f"action: {action.text()}"


def _of(widget: QWidget) -> Iterator[str]:
    yield from (widget.toolTip(), widget.accessibleName(), widget.accessibleDescription())
    if isinstance(widget, QLabel | QAbstractButton):
        yield widget.text()
    if isinstance(widget, QLineEdit):
        yield from (widget.text(), widget.placeholderText())
    if isinstance(widget, QComboBox):
        yield from (widget.itemText(i) for i in range(widget.count()))
    if isinstance(widget, QAbstractItemView) and (model := widget.model()) is not None:
        yield from _rows(model)


def _rows(model: QAbstractItemModel) -> Iterator[str]:
    for row in range(model.rowCount()):
        index = model.index(row, 0)
        for role in ROLES:
            if told := model.data(index, role):
                yield str(told)


@contextmanager
def painted() -> Iterator[set[str]]:
    """Every text that is painted meanwhile."""
    seen: set[str] = set()
    draw = QPainter.drawText

    def noted(painter: QPainter, *given: object) -> object:
        seen.update(text for text in given if isinstance(text, str) and text)
        return draw(painter, *given)  # type: ignore[call-overload]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(QPainter, "drawText", noted)
        yield seen

"""Asks before looking for parts which way the side picture looks, and which body plan the figure is like,
both with pictures."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QIcon, QPixmap
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QListView,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure.bodyplans import BodyPlan
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.stations.measure.start import picture_of
from bambola.language import tr

_PLAN, _SIDE = 118, 290
"""Pixels, before scaling, of a plan's picture and of the side picture."""


class LikenessDialog(FittedDialog):
    """Two questions with pictures. ``likes`` are the chosen body plans: one; empty for none of them; ``None``
    if the maker is not sure. ``looks_left`` is None if there is no side picture."""

    def __init__(
        self, parent: QWidget, theme: Theme, plans: Sequence[BodyPlan], side: QPixmap | None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Before looking for its parts"))
        self.theme, self._plans = theme, plans
        self.likes: Sequence[BodyPlan] | None = None
        self.left, self.right = QPushButton(tr("◂ To the left")), QPushButton(tr("To the right ▸"))
        self._ways = QButtonGroup(self)
        for button in (self.left, self.right):
            button.setCheckable(True)
            button.setAutoDefault(False)
            self._ways.addButton(button)
        self.shelf = self._make_shelf()
        self.take, self.none, self.unsure = (
            QPushButton(),
            QPushButton(tr("None of these: draw it…")),
            QPushButton(tr("I am not sure")),
        )
        self.take.setDefault(True)
        show_as_next(self.take)
        self.take.clicked.connect(lambda: self._set_answer([plans[self.shelf.currentRow()]]))
        self.none.clicked.connect(lambda: self._set_answer(()))
        self.unsure.clicked.connect(lambda: self._set_answer(None))
        self._compose(side)
        self._ways.buttonToggled.connect(self._enable_buttons)
        self.shelf.currentRowChanged.connect(self._enable_buttons)
        self.shelf.itemActivated.connect(lambda _: self.take.click())
        self._asks_way = side is not None
        self._enable_buttons()

    @property
    def looks_left(self) -> bool | None:
        """Whether the side picture looks to the left."""
        return self.left.isChecked() if self._asks_way else None

    def _make_shelf(self) -> QListWidget:
        px = self.theme.px
        shelf = QListWidget()
        shelf.setAccessibleName(tr("Body plans"))
        shelf.setViewMode(QListView.ViewMode.IconMode)
        shelf.setResizeMode(QListView.ResizeMode.Adjust)
        shelf.setMovement(QListView.Movement.Static)
        shelf.setIconSize(QSize(px(_PLAN), px(_PLAN)))
        shelf.setGridSize(QSize(px(_PLAN + 20), px(_PLAN + 54)))
        set_role(shelf, "note")
        shelf.setWordWrap(True)
        for plan in self._plans:
            shelf.addItem(QListWidgetItem(QIcon(str(picture_of(plan))), plan.figure.name))
        return shelf

    def _compose(self, side: QPixmap | None) -> None:
        px, room = self.theme.px, self.parentWidget().window().size()  # type: ignore[union-attr]
        row = QHBoxLayout()
        row.setSpacing(px(20))
        if side is not None:
            large = min(px(_SIDE), round(0.4 * min(room.width(), room.height())))
            shown = QLabel()
            shown.setAccessibleName(tr("The side picture"))
            shown.setPixmap(
                side.scaled(
                    large, large, Qt.AspectRatioMode.KeepAspectRatio,
                    Qt.TransformationMode.SmoothTransformation,
                )
            )  # fmt: skip
            ways = QHBoxLayout()
            ways.addWidget(self.left)
            ways.addWidget(self.right)
            column = QVBoxLayout()
            column.addWidget(self._question_label(tr("Which way is it facing?")))
            column.addWidget(shown, 0, Qt.AlignmentFlag.AlignCenter)
            column.addLayout(ways)
            column.addStretch(1)
            row.addLayout(column)
        column = QVBoxLayout()
        column.addWidget(self._question_label(tr("Which of these does it look like?")))
        column.addWidget(self.shelf, 1)
        row.addLayout(column, 1)
        below = QHBoxLayout()
        for button in (self.none, self.unsure):
            button.setAutoDefault(False)
            below.addWidget(button)
        below.addStretch(1)
        below.addWidget(self.take)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(px(20), px(16), px(20), px(16))
        whole.setSpacing(px(12))
        whole.addLayout(row, 1)
        whole.addLayout(below)
        self.set_size(self.theme, 940, 600)

    def _question_label(self, words: str) -> QLabel:
        label = QLabel(words)
        set_role(label, "title")
        label.setWordWrap(True)
        return label

    def _enable_buttons(self, *_: object) -> None:
        """Enable what can be answered so far."""
        at = self.shelf.currentRow()
        way = not self._asks_way or self._ways.checkedButton() is not None
        self.take.setText(
            tr("Like the {plan:lower}", plan=self._plans[at].figure.name)
            if at >= 0
            else tr("Choose what it looks like")
        )
        self.take.setEnabled(way and at >= 0)
        for button in (self.none, self.unsure):
            button.setEnabled(way)
            button.setToolTip("" if way else tr("First say which way it looks."))

    def _set_answer(self, likes: Sequence[BodyPlan] | None) -> None:
        self.likes = likes
        self.accept()

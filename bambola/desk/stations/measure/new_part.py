"""The slip that asks what a newly drawn line is."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure, Trace
from bambola.core.figure.shapes import KINDS
from bambola.desk.kit.keys import presses_button
from bambola.desk.kit.theme import Theme

NAMES = (
    "Body",
    "Head",
    "Neck",
    "Arm",
    "Hand",
    "Leg",
    "Foot",
    "Tail",
    "Ear",
    "Snout",
    "Nose",
    "Beak",
    "Wing",
    "Crest",
    "Fin",
    "Shell",
    "Hat",
    "Hair",
)
PAIRED = ("Arm", "Hand", "Leg", "Foot", "Ear", "Wing", "Fin", "Eye")


@dataclass(frozen=True)
class Proposal:
    """A new part as it is proposed: its trace, kind, parent and whether it is one of a pair."""

    trace: Trace
    kind: str
    parent: str | None
    pair: bool


class NewPartSlip(QFrame):
    """Name, shape, parent and pair of what was drawn; Enter takes it."""

    taken = pyqtSignal(object, str, str, str, bool)
    left = pyqtSignal()

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.proposal: Proposal | None = None
        self.setObjectName("slip")
        self.name, self.kind, self.parent_ = QComboBox(), QComboBox(), QComboBox()
        self.name.setEditable(True)
        self.name.addItems(NAMES)
        for box, told in (
            (self.name, "Name of the new part"),
            (self.kind, "Shape of the new part"),
            (self.parent_, "What the new part sits on"),
        ):
            box.setAccessibleName(told)
        for name, kind in KINDS.items():
            self.kind.addItem(kind.words, name)
        self.pair = QCheckBox("one of a pair")
        self.take, self.leave = QPushButton("Take it"), QPushButton("Leave it")
        self.take.setDefault(True)
        self.take.clicked.connect(self.accept)
        self.leave.clicked.connect(self.give_up)
        self.name.currentTextChanged.connect(self._named)
        self._what, self._on = QLabel("This is a"), QLabel("on")
        top, low = QHBoxLayout(), QHBoxLayout()
        for above in (self._what, self.name, self._on, self.parent_):
            top.addWidget(above)
        for beneath in (self.kind, self.pair):
            low.addWidget(beneath)
        low.addStretch(1)
        low.addWidget(self.leave)
        low.addWidget(self.take)
        column = QVBoxLayout(self)
        column.addLayout(top)
        column.addLayout(low)
        line = self.name.lineEdit()
        assert line is not None
        line.returnPressed.connect(self.accept)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.hide()

    def _restyle(self) -> None:
        d, px = self.theme.dyes, self.theme.px
        self.setStyleSheet(
            f"QFrame#slip {{ background: {d.slip.name()}; border: {px(1.6)}px solid {d.weld.name()};"
            f" border-radius: {px(10)}px; }}"
        )
        self.name.setMinimumWidth(px(130))
        self.parent_.setMinimumWidth(px(110))

    def ask(self, proposal: Proposal, figure: Figure) -> None:
        """Ask about what was drawn."""
        self.proposal = proposal
        self.parent_.clear()
        for part in figure.parts:
            self.parent_.addItem(part.name, part.id)
        self.parent_.setCurrentIndex(max(0, self.parent_.findData(proposal.parent)))
        self.kind.setCurrentIndex(self.kind.findData(proposal.kind))
        used = {part.name for part in figure.parts}
        self.name.setCurrentText(next((n for n in NAMES if n not in used), "Part"))
        self.pair.setChecked(proposal.pair)
        self.show()
        self.settle()
        self.raise_()
        self.name.setFocus()
        line = self.name.lineEdit()
        assert line is not None
        line.selectAll()

    def settle(self) -> None:
        """Lie at the bottom of the board."""
        board = self.parentWidget()
        assert board is not None
        self.adjustSize()
        wide = min(self.sizeHint().width(), board.width() - 20)
        self.setGeometry(
            (board.width() - wide) // 2,
            board.height() - self.sizeHint().height() - 10,
            wide,
            self.sizeHint().height(),
        )

    def _named(self, name: str) -> None:
        if self.proposal is not None and name in PAIRED:
            self.pair.setChecked(True)

    def accept(self) -> None:
        """Take the part as it is described."""
        name = self.name.currentText().strip()
        if self.proposal is None or not name:
            return
        proposal, self.proposal = self.proposal, None
        self.hide()
        self.taken.emit(
            proposal.trace,
            name,
            self.kind.currentData(),
            self.parent_.currentData() or "",
            self.pair.isChecked(),
        )

    def give_up(self) -> None:
        """Leave what was drawn."""
        self.proposal = None
        self.hide()
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if presses_button(event):
            return
        if event.key() == Qt.Key.Key_Escape:
            self.give_up()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.accept()
        else:
            super().keyPressEvent(event)

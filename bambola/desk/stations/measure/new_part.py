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
from bambola.core.words import Words, kind
from bambola.desk.kit.keys import presses_button
from bambola.desk.kit.theme import Theme
from bambola.language import N_, spoken, tr

NAMES = (
    N_("Body"),
    N_("Head"),
    N_("Neck"),
    N_("Arm"),
    N_("Hand"),
    N_("Leg"),
    N_("Foot"),
    N_("Tail"),
    N_("Ear"),
    N_("Snout"),
    N_("Nose"),
    N_("Beak"),
    N_("Wing"),
    N_("Crest"),
    N_("Fin"),
    N_("Shell"),
    N_("Hat"),
    N_("Hair"),
)
PAIRED = (N_("Arm"), N_("Hand"), N_("Leg"), N_("Foot"), N_("Ear"), N_("Wing"), N_("Fin"), N_("Eye"))


@dataclass(frozen=True)
class Proposal:
    """A new part as it is proposed: its trace, kind, parent, whether it is one of a pair, and its name; empty
    where neither place nor shape tell it."""

    trace: Trace
    kind: str
    parent: str | None
    pair: bool
    name: str


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
        self.name.addItems(map(tr, NAMES))
        for box, told in (
            (self.name, tr("Name of the new part")),
            (self.kind, tr("Shape of the new part")),
            (self.parent_, tr("What the new part sits on")),
        ):
            box.setAccessibleName(told)
        for name in KINDS:
            self.kind.addItem(Words(catalogue=spoken()).say(kind("shape", name)), name)
        self.pair = QCheckBox(tr("one of a pair"))
        self.take, self.leave = QPushButton(tr("Take it")), QPushButton(tr("Leave it"))
        self.take.setDefault(True)
        self.take.clicked.connect(self.accept)
        self.leave.clicked.connect(self.give_up)
        self.name.currentTextChanged.connect(self._named)
        self._what, self._on = QLabel(tr("This is a")), QLabel(tr("on"))
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
        line.setPlaceholderText(tr("what is it?"))
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
        name = tr(proposal.name.capitalize()) if proposal.name else ""
        self.name.setCurrentText(name if name not in used else "")
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
        if self.proposal is not None and name in map(tr, PAIRED):
            self.pair.setChecked(True)

    def accept(self) -> None:
        """Take the part as it is described."""
        name = self.name.currentText().strip()
        if self.proposal is None or not name:
            self.name.setFocus()
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

"""The slip that asks what a newly drawn line is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QCheckBox,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Part
from bambola.core.figure.shapes import KINDS
from bambola.core.figure.survey import Spot
from bambola.core.words import Words, kind
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.menu_action import presses_button
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.stations.measure.board_view import BoardView
from bambola.language import N_, current_catalogue, tr

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
    N_("Scarf"),
    N_("Collar"),
    N_("Belt"),
)
RING = "ring"
"""The shape of what lies round a part; offered where a line goes across one."""
PAIRED = (N_("Arm"), N_("Hand"), N_("Leg"), N_("Foot"), N_("Ear"), N_("Wing"), N_("Fin"), N_("Eye"))


@dataclass(frozen=True)
class PartProposal:
    """A proposed part: its visible points (mm of the view), kind, parent, whether it is one of a pair, and
    its name; empty if neither place nor shape suggests one."""

    seen: Sequence[Spot]
    kind: str
    parent: str | None
    pair: bool
    name: str


@dataclass(frozen=True)
class Answers:
    """The callbacks of the slip: ``take`` gets name, shape, bearer ("" for none) and whether it is one of a
    pair; ``leave`` has the text ``no`` on its button; ``rest`` accepts this part and all that follow.
    ``told`` is shown beside the question."""

    take: Callable[[str, str, str, bool], None]
    leave: Callable[[], None]
    told: str = ""
    no: str = ""
    rest: Callable[[], None] | None = None


class NewPartSlip(QFrame):
    """Asks for name, shape, parent and pair of a drawn or proposed part; Enter accepts."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.proposal: PartProposal | None = None
        self._answers: Answers | None = None
        self._pair_said = False
        self.setObjectName("slip")
        self.name, self.kind, self.parent_ = QComboBox(), QComboBox(), QComboBox()
        self.name.setEditable(True)
        self.name.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self.name.addItems(map(tr, NAMES))
        for box, told in (
            (self.name, tr("Name of the new part")),
            (self.kind, tr("Shape of the new part")),
            (self.parent_, tr("What the new part sits on")),
        ):
            box.setAccessibleName(told)
        for name in KINDS:
            self.kind.addItem(Words(catalogue=current_catalogue()).say(kind("shape", name)), name)
        self.pair = QCheckBox(tr("one of a pair"))
        self.take, self.leave = QPushButton(tr("Take it")), QPushButton(tr("Leave it"))
        self.rest = QPushButton(tr("All are right"))
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.take.setDefault(True)
        show_as_next(self.take)
        self.take.clicked.connect(self.accept)
        self.leave.clicked.connect(self.give_up)
        self.rest.clicked.connect(self.take_rest)
        self.name.currentTextChanged.connect(self._suggest_pair)
        self.pair.clicked.connect(self._say_pair)
        self._what, self._on = QLabel(tr("This is a")), QLabel(tr("on"))
        top, what, answers = QHBoxLayout(), QHBoxLayout(), QHBoxLayout()
        for above in (self._what, self.name, self._on, self.parent_):
            top.addWidget(above)
        for beneath in (self.kind, self.pair):
            what.addWidget(beneath)
        what.addStretch(1)
        answers.addStretch(1)
        for button in (self.rest, self.leave, self.take):
            answers.addWidget(button)
        self._low = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        self._low.addLayout(what)
        self._low.addLayout(answers)
        column = QVBoxLayout(self)
        column.addWidget(self.told)
        column.addLayout(top)
        column.addLayout(self._low)
        line = self.name.lineEdit()
        assert line is not None
        line.setPlaceholderText(tr("what is it?"))
        line.returnPressed.connect(self._accept_soon)
        set_role(self, "slip")
        set_role(self.told, "note")
        theme.changed.connect(self._restyle)
        self._resettle = one_shot_timer(self, 0)  # when the board has laid itself out anew
        self._resettle.timeout.connect(self.settle)
        parent.installEventFilter(self)
        self._restyle()
        self.hide()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Place the slip anew when the board changes size."""
        if event is not None and event.type() == QEvent.Type.Resize and self.isVisible():
            self._resettle.start()
        return False

    def _restyle(self) -> None:
        px = self.theme.px
        self.name.setMinimumWidth(px(130))
        self.parent_.setMinimumWidth(px(110))

    def ask(self, proposal: PartProposal, among: Sequence[Part], answers: Answers) -> None:
        """Ask about a drawn or proposed part, which may sit on one ``among`` these parts."""
        self.proposal, self._answers, self._pair_said = proposal, answers, False
        self.told.setText(answers.told)
        self.told.setVisible(bool(answers.told))
        self.leave.setText(answers.no or tr("Leave it"))
        self.rest.setVisible(answers.rest is not None)
        for widget in (self._on, self.parent_, self.pair):
            widget.setVisible(bool(among))
        self.parent_.clear()
        for part in among:
            self.parent_.addItem(part.name, part.id)
        self.parent_.setCurrentIndex(max(0, self.parent_.findData(proposal.parent)))
        at = self.kind.findData(RING)
        if (proposal.kind == RING) != (at >= 0):
            self.kind.removeItem(at) if at >= 0 else self.kind.addItem(tr("a ring round it"), RING)
        self.kind.setCurrentIndex(self.kind.findData(proposal.kind))
        used = {part.name for part in among}
        name = tr(proposal.name.capitalize()) if proposal.name else ""
        name = name if name not in used else ""
        # Enter on a line that is all selected goes back to the current row of the box: it is to be this.
        self.name.setCurrentIndex(self.name.findText(name))
        self.name.setEditText(name)
        self.pair.setChecked(proposal.pair)
        self.show()
        self.settle()
        self.raise_()
        self.name.setFocus()
        line = self.name.lineEdit()
        assert line is not None
        line.selectAll()

    def settle(self) -> None:
        """Move to the bottom of the board, or to its top if the part lies low; the buttons go below if there
        is no room beside."""
        board = self.parentWidget()
        assert isinstance(board, BoardView)
        room, ways = board.width() - 20, QBoxLayout.Direction
        self._low.setDirection(ways.LeftToRight)
        self.ensurePolished()
        if self._low.sizeHint().width() + 2 * self.theme.px(12) > room:
            self._low.setDirection(ways.TopToBottom)
        self.adjustSize()
        wide, tall = min(self.sizeHint().width(), room), self.sizeHint().height()
        low = board.height() - tall - 10
        if self.proposal is not None and board.lay is not None:
            seen = [board.lay.to_screen(*at).y() for at in self.proposal.seen]
            hidden = [sum(top <= y <= top + tall for y in seen) for top in (low, 10)]
            low = 10 if hidden[1] < hidden[0] else low
        self.setGeometry((board.width() - wide) // 2, low, wide, tall)

    def _suggest_pair(self, name: str) -> None:
        """Suggest from the name whether a part is one of a pair, until the maker decides; while the combo box
        completes the text, only for that moment."""
        if self.proposal is not None and not self._pair_said:
            self.pair.setChecked(self.proposal.pair or name in map(tr, PAIRED))

    def _say_pair(self) -> None:
        self._pair_said = True

    def _accept_soon(self) -> None:
        """Accept once on Enter, however many signals it causes: the combo box still writes into its field
        after it, and the next question waits for that."""
        asked = self.proposal

        def take() -> None:
            if self.proposal is asked:
                self.accept()

        QTimer.singleShot(0, take)

    def accept(self) -> None:
        """Accept the part as described."""
        name = self.name.currentText().strip()
        if self.proposal is None or not name:
            self.name.setFocus()
            return
        answers = self._close_answers()
        parent = self.parent_.currentData() or ""
        answers.take(name, self.kind.currentData(), parent, self.pair.isChecked())

    def give_up(self) -> None:
        """Discard what was drawn."""
        if self.proposal is not None:
            self._close_answers().leave()

    def take_rest(self) -> None:
        """Accept this part and all that follow."""
        rest = self._close_answers().rest if self.proposal is not None else None
        if rest is not None:
            rest()

    def _close_answers(self) -> Answers:
        answers, self.proposal = self._answers, None
        assert answers is not None
        self.hide()
        return answers

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if presses_button(event):
            return
        if event.key() == Qt.Key.Key_Escape:
            # Of what is proposed, Escape takes nothing away.
            self.take_rest() if self.rest.isVisible() else self.give_up()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._accept_soon()
        else:
            super().keyPressEvent(event)

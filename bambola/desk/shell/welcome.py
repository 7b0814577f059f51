"""Home: figures half made first, then the designs opened last; on an empty table what to do first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QMouseEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Making
from bambola.core.bench.making import nth_of
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.flow import discard, scroll_area
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.shell.splash import SHIPPED, design_name, picture_path
from bambola.language import tr, trn

MOST_HALF_MADE, MOST_RECENT = 3, 4
"""So many stand beside each other in the narrowest window. Judged."""
_GAP_PX = 16
_LARGE_PX, _SMALL_PX, _CARD_PX = 150, 84, 400
"""How large pictures of figures half made and of others are, and how wide a card is. Judged."""


class HalfMade(QFrame):
    """A figure half made: its picture, at which step it is, and what is done there."""

    asked = pyqtSignal()

    def __init__(self, theme: Theme, name: str, making: Making) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(*(theme.px(14),) * 4)
        row.setSpacing(theme.px(16))
        picture, side = QLabel(), theme.px(_LARGE_PX)
        picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        shown = _picture_of(making, name, side, self.devicePixelRatioF())
        picture.setPixmap(shown)
        picture.setFixedSize(side, side)
        picture.setVisible(not shown.isNull())
        row.addWidget(picture)
        words = QVBoxLayout()
        row.addLayout(words, 1)
        words.addStretch(1)
        title, place, step = (QLabel() for _ in range(3))
        title.setText(making.figure or tr("unnamed"))
        place.setText(_progress_words(making))
        step.setText(next((c.text for c in making.cards if c.step == making.at), ""))
        step.setVisible(bool(step.text()))
        for label, role in ((title, "title"), (place, "amount"), (step, "large")):
            label.setWordWrap(True)
            set_role(label, role)
            words.addWidget(label)
        self.go_on = QPushButton(tr("Go on"))
        said = (title.text(), place.text(), step.text(), self.go_on.text())
        self.go_on.setAccessibleName(": ".join(part for part in said if part))
        self.go_on.clicked.connect(lambda _=False: self.asked.emit())
        words.addSpacing(theme.px(6))
        words.addWidget(self.go_on, 0, Qt.AlignmentFlag.AlignLeft)
        words.addStretch(1)
        self.setToolTip(making.where)
        self.setFixedWidth(theme.px(_CARD_PX))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        set_role(self, "card")

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Go on with it wherever it is clicked."""
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self.rect().contains(event.position().toPoint()):
            self.asked.emit()


class Welcome(QWidget):
    """Shown while no figure is open."""

    open_asked = pyqtSignal()
    demo_asked = pyqtSignal()
    new_asked = pyqtSignal()
    recent_asked = pyqtSignal(str)
    going_on_asked = pyqtSignal(str)
    """A figure half made is to be gone on with: the id of its making."""
    learn_asked = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._shown: tuple[Sequence[str], Mapping[str, Making]] = (), {}
        self._title, self._told, self._before = QLabel(), QLabel(), QLabel(tr("Opened before"))
        self._told.setText(
            tr(
                "Open a design, begin one from a body plan or your own pictures, or look at the lamplighter "
                "badger first. Then pull the flag on the tape to the height you need."
            )
        )
        self._told.setWordWrap(True)
        for label in (self._title, self._told):
            label.setAlignment(Qt.AlignmentFlag.AlignCenter)
        demo, opened = QPushButton(tr("Look at the badger")), QPushButton(tr("Open a design…"))
        self.new = QPushButton(tr("Begin a new figure…"))
        learn = QPushButton(tr("Learn to felt: a practice piece, then a first figure"))
        learn.clicked.connect(self.learn_asked)
        self.new.clicked.connect(self.new_asked)
        demo.clicked.connect(self.demo_asked)
        opened.clicked.connect(self.open_asked)
        self._picture = QLabel()
        inside = QWidget()
        outside = QVBoxLayout(self)
        outside.setContentsMargins(0, 0, 0, 0)
        area = scroll_area(inside)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # the buttons scroll into view by themselves
        outside.addWidget(area)
        box = self._box = QVBoxLayout(inside)
        middle = Qt.AlignmentFlag.AlignHCenter
        box.addStretch(1)
        for widget in (self._picture, self._title, self._told):
            box.addWidget(widget, 0, middle)
        self._begun, self._recent = QWidget(), QWidget()
        for row in (self._begun, self._recent):
            lay = QHBoxLayout(row)
            lay.setContentsMargins(0, 0, 0, 0)
            lay.setSpacing(self.theme.px(_GAP_PX))
        box.addWidget(self._begun, 0, middle)
        box.addWidget(self._before, 0, middle)
        box.addWidget(self._recent, 0, middle)
        self._ways = QBoxLayout(QBoxLayout.Direction.TopToBottom)
        for button in (self.new, opened, learn, demo):
            self._ways.addWidget(button, 0, middle)
        ways = QHBoxLayout()
        ways.addStretch(1)
        ways.addLayout(self._ways)
        ways.addStretch(1)
        box.addLayout(ways)
        box.addStretch(2)
        set_role(self._title, "display")
        set_role(self._told, "large")
        set_role(self._before, "subtitle")
        set_spacing(self.theme, self._box, gap=14)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        smooth = Qt.TransformationMode.SmoothTransformation
        ratio = self.devicePixelRatioF()
        badger = QPixmap(str(SHIPPED / "lamplighter-badger.png"))
        badger = badger.scaledToHeight(round(self.theme.px(230) * ratio), smooth)
        badger.setDevicePixelRatio(ratio)
        self._picture.setPixmap(badger)
        self.show_designs(*self._shown)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Wrap the words to the room there is, and leave out what there is no room for."""
        px, (recent, half_made) = self.theme.px, self._shown
        is_empty = not recent and not half_made
        wide = min(px(520), self.width() - px(60))
        self._told.ensurePolished()  # its font comes from the style sheet
        self._told.setFixedSize(wide, self._told.heightForWidth(wide))
        self._told.setVisible(is_empty)
        self._picture.setVisible(is_empty and self.height() >= px(640))
        beside = not is_empty and self.width() >= px(1000)
        self._ways.setDirection(
            QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom
        )
        room = max(1, (self.width() - px(40)) // px(_CARD_PX + _GAP_PX))
        for n, card in enumerate(self._begun.findChildren(HalfMade)):
            card.setVisible(n < room)

    def show_designs(self, recent: Sequence[str], half_made: Mapping[str, Making]) -> None:
        """Offer the figures that are half made, then the designs opened last, each with its last picture if
        there is one; on an empty table the badger."""
        self._shown = recent, half_made
        for row in (self._begun, self._recent):
            for shown in row.findChildren(
                QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly
            ):
                discard(shown)
        begun = list(half_made.items())[:MOST_HALF_MADE]
        for n, (name, making) in enumerate(begun):
            card = HalfMade(self.theme, name, making)
            show_as_next(card.go_on, not n)
            card.asked.connect(lambda name=name: self.going_on_asked.emit(name))
            self._add(self._begun, card)
        paths = [path for path in recent if path not in {m.where for _, m in begun}]
        for path in paths[:MOST_RECENT]:
            self._add(self._recent, self._design_button(path))
        self._begun.setVisible(bool(begun))
        self._recent.setVisible(bool(paths))
        self._before.setVisible(bool(paths))
        self._title.setText(tr("On your bench") if begun else tr("Put a figure on the table"))
        show_as_next(self.new, not begun)
        self._fit()

    @staticmethod
    def _add(row: QWidget, widget: QWidget) -> None:
        lay = row.layout()
        assert lay is not None
        lay.addWidget(widget)

    def _design_button(self, path: str) -> QToolButton:
        button, side = QToolButton(), self.theme.px(_SMALL_PX)
        button.setText(design_name(Path(path)))
        button.setToolTip(path)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        button.setIconSize(QSize(side, side))
        picture = QPixmap(str(picture_path(Path(path))))
        if picture.isNull():  # the names stand on one line all the same
            picture = QPixmap(side, side)
            picture.fill(Qt.GlobalColor.transparent)
        button.setIcon(QIcon(picture))
        button.clicked.connect(lambda: self.recent_asked.emit(path))
        return button


def _picture_of(making: Making, name: str, side: int, ratio: float) -> QPixmap:
    """Return the last picture of a making's design, fitted into a square; empty if there is none."""
    kept = [picture_path(Path(making.where))] if making.where else []
    shipped = SHIPPED / f"{nth_of(name)[0]}.png"
    found = next((path for path in (*kept, shipped) if path.is_file()), None)
    picture = QPixmap(str(found)) if found else QPixmap()
    if picture.isNull():
        return picture
    px = round(side * ratio)
    keep, smooth = (
        Qt.AspectRatioMode.KeepAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    )
    picture = picture.scaled(px, px, keep, smooth)
    picture.setDevicePixelRatio(ratio)
    return picture


def _progress_words(making: Making) -> str:
    """Return at which step of how many a making is."""
    keys = [card.step for card in making.cards]
    if making.at in keys:
        return tr("step {n} of {of}", n=keys.index(making.at) + 1, of=len(keys))
    done = len(making.behind)  # it was begun before cards were kept
    return trn("{n} step done", "{n} steps done", done)

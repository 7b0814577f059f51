"""The empty table: what to do first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QToolButton, QVBoxLayout, QWidget

from bambola.core.bench import Making
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.shell.splash import SHIPPED, design_name, picture_path
from bambola.language import tr, trn

MOST_SHOWN = 4
"""So many designs stand beside each other in the narrowest window. Judged."""


class Welcome(QWidget):
    """Shown while no figure is open."""

    open_asked = pyqtSignal()
    demo_asked = pyqtSignal()
    new_asked = pyqtSignal()
    recent_asked = pyqtSignal(str)
    learn_asked = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._shown: tuple[Sequence[str], Mapping[str, Making]] = (), {}
        self._title = QLabel(tr("Put a figure on the table"))
        self._told = QLabel(
            tr(
                "Open a design, begin one from a body plan or your own pictures, or look at the lamplighter "
                "badger first. Then pull the flag on the tape to the height you need."
            )
        )
        self._told.setWordWrap(True)
        self._told.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._title.setAlignment(Qt.AlignmentFlag.AlignCenter)
        demo, opened = QPushButton(tr("Look at the badger")), QPushButton(tr("Open a design…"))
        new = QPushButton(tr("Begin a new figure…"))
        learn = QPushButton(tr("Learn to felt: a practice piece, then a first figure"))
        learn.clicked.connect(self.learn_asked)
        new.clicked.connect(self.new_asked)
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
        box.addStretch(1)
        for widget in (self._picture, self._title, self._told):
            box.addWidget(widget, 0, Qt.AlignmentFlag.AlignHCenter)
        for button in (new, opened, demo, learn):
            box.addWidget(button, 0, Qt.AlignmentFlag.AlignHCenter)
        self._designs = QHBoxLayout()
        centred = QHBoxLayout()
        centred.addStretch(1)
        centred.addLayout(self._designs)
        centred.addStretch(1)
        box.addLayout(centred)
        box.addStretch(2)
        set_role(self._title, "display")
        set_role(self._told, "large")
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
        self._fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Wrap the words to the room there is, and leave the badger out where there is none."""
        wide = min(self.theme.px(520), self.width() - self.theme.px(60))
        self._told.ensurePolished()  # its font comes from the style sheet
        self._told.setFixedSize(wide, self._told.heightForWidth(wide))
        self._picture.setVisible(self.height() >= self.theme.px(640))

    def show_designs(self, recent: Sequence[str], half_made: Mapping[str, Making]) -> None:
        """Offer the figures that are half made, then the designs opened last, each with its last picture if
        there is one."""
        self._shown = recent, half_made
        while (item := self._designs.takeAt(0)) is not None:
            if widget := item.widget():
                widget.deleteLater()
        begun = [path for path in half_made if Path(path).is_file()]
        for path in list(dict.fromkeys((*begun, *recent)))[:MOST_SHOWN]:
            button = self._design_button(path, half_made.get(path))
            self._designs.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)

    def _design_button(self, path: str, making: Making | None) -> QToolButton:
        button, side = QToolButton(), self.theme.px(84)
        name = design_name(Path(path))
        button.setText(f"{name}\n{_progress_words(making)}" if making else name)
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


def _progress_words(making: Making) -> str:
    done, of = len(making.behind), len(making.cards)
    if of < done:  # it was begun before cards were kept
        return trn("{n} step done", "{n} steps done", done)
    return tr("{n} of {of} steps done", n=done, of=of)

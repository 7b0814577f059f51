"""The empty table: what to do first."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.shell.splash import SHIPPED
from bambola.language import tr


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
        box = self._box = QVBoxLayout(self)
        box.addStretch(1)
        for widget in (self._picture, self._title, self._told):
            box.addWidget(widget, 0, Qt.AlignmentFlag.AlignHCenter)
        for button in (new, opened, demo, learn):
            box.addWidget(button, 0, Qt.AlignmentFlag.AlignHCenter)
        self._recent = QVBoxLayout()
        box.addLayout(self._recent)
        box.addStretch(2)
        set_role(self._title, "display")
        set_role(self._told, "large")
        set_spacing(self.theme, self._box, gap=14)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        wide = self.theme.px(520)
        self._told.setFixedSize(wide, self._told.heightForWidth(wide))
        smooth = Qt.TransformationMode.SmoothTransformation
        ratio = self.devicePixelRatioF()
        badger = QPixmap(str(SHIPPED / "lamplighter-badger.png"))
        badger = badger.scaledToHeight(round(self.theme.px(230) * ratio), smooth)
        badger.setDevicePixelRatio(ratio)
        self._picture.setPixmap(badger)

    def show_recent(self, paths: list[str]) -> None:
        """Offer the designs opened last."""
        while (item := self._recent.takeAt(0)) is not None:
            if widget := item.widget():
                widget.deleteLater()
        for path in paths[:4]:
            button = QPushButton(Path(path).name)
            button.setToolTip(path)
            button.clicked.connect(lambda _=False, path=path: self.recent_asked.emit(path))
            self._recent.addWidget(button, 0, Qt.AlignmentFlag.AlignHCenter)

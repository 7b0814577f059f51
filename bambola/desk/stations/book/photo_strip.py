"""The photographs of a making: add from files, view large, remove."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.desk.kit.ok_cancel import take_or_leave
from bambola.desk.kit.picture_dialog import PictureDialog
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.files import ExportError
from bambola.files.picture_job import PictureError
from bambola.files.pictures import read_picture
from bambola.language import tr
from bambola.store.photographs import Photographs

_SMALL_PX = 84


class PhotoStrip(QWidget):
    """Thumbnails in a row; Enter or a double click shows one large, Delete removes it."""

    changed = pyqtSignal(tuple)
    refused = pyqtSignal(str)

    def __init__(self, theme: Theme, photographs: Photographs) -> None:
        super().__init__()
        self.theme, self.photographs = theme, photographs
        self.names: tuple[str, ...] = ()
        self._background = Background("photographs")
        self.list = QListWidget()
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setFlow(QListWidget.Flow.LeftToRight)
        self.list.setWrapping(False)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setAccessibleName(tr("Photographs"))
        self.list.hide()
        self.list.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemActivated.connect(lambda item: self.look(self.list.row(item)))
        self.add = QPushButton(tr("Photograph…"))
        self.add.setToolTip(tr("A picture of the figure: a smaller copy is kept beside the book"))
        self.add.clicked.connect(lambda _=False: self.ask())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.list)
        column.addWidget(self.add, 0, Qt.AlignmentFlag.AlignLeft)
        self.restyle()

    def restyle(self) -> None:
        """Apply the present look."""
        side = self.theme.px(_SMALL_PX)
        self.list.setIconSize(QSize(side, side))
        self.list.setFixedHeight(side + self.theme.px(26))

    def show_names(self, names: tuple[str, ...]) -> None:
        """Show these photographs; a missing file is reported."""
        if names == self.names and self.list.count() == len(names):
            return
        self.names = names
        self.list.clear()
        for n, name in enumerate(names, 1):
            path = self.photographs.path(name)
            told = tr("photograph {n}", n=n) if path else tr("photograph {n}: gone", n=n)
            item = QListWidgetItem(QIcon(str(path)) if path else QIcon(), "" if path else told)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, told)
            self.list.addItem(item)
        self.list.setVisible(bool(names))

    def keyPressEvent(self, event: object) -> None:
        key = getattr(event, "key", lambda: None)()
        row = self.list.currentRow()
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and row >= 0:
            self.changed.emit(self.names[:row] + self.names[row + 1 :])

    def ask(self) -> None:
        """Choose photographs."""
        for path in PictureDialog.ask_many(self, tr("Photographs"), ""):
            self.take(Path(path))

    def take(self, path: Path) -> None:
        """Read a picture off the interface thread, and save a copy."""

        def read() -> str:
            return self.photographs.keep(read_picture(path).pixels)

        def kept(name: str) -> None:
            if name not in self.names:
                self.names = (*self.names, name)  # the next may come before the page is shown anew
                self.changed.emit(self.names)

        def failed(error: Exception) -> None:
            known = isinstance(error, (PictureError, ExportError))
            if not isinstance(error, CalledOffError):
                self.refused.emit(str(error) if known else log_error(error))

        self._background.do(read, kept, failed)

    def look(self, row: int) -> None:
        """Look at a photograph large."""
        path = self.photographs.path(self.names[row]) if 0 <= row < len(self.names) else None
        if path is None:
            return
        dialog = QDialog(self)
        dialog.setWindowTitle(tr("Photograph"))
        picture = QLabel()
        screen = self.screen()
        room = screen.availableSize() * 0.8 if screen else QSize(900, 700)
        keep, smooth = (
            Qt.AspectRatioMode.KeepAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
        picture.setPixmap(QPixmap(str(path)).scaled(room, keep, smooth))
        column = QVBoxLayout(dialog)
        column.addWidget(picture)
        column.addWidget(take_or_leave(dialog, None, tr("Close")))
        dialog.exec()

    def close_down(self) -> None:
        """Stop reading."""
        self._background.close()

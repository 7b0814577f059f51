"""A file dialog for pictures, with a preview."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QImageReader, QPixmap
from PyQt6.QtWidgets import QFileDialog, QGridLayout, QLabel, QWidget

from bambola.files.pictures import FILTER
from bambola.language import tr

_SIDE = 260
"""Pixels of the picture that is shown."""


class PictureDialog(QFileDialog):
    """A file dialog that shows the current picture."""

    def __init__(self, parent: QWidget, words: str, folder: str) -> None:
        super().__init__(parent, words, folder, tr(FILTER))
        self.setOption(QFileDialog.Option.DontUseNativeDialog)
        self.setFileMode(QFileDialog.FileMode.ExistingFile)
        self.shown = QLabel()
        self.shown.setAccessibleName(tr("The selected picture"))
        self.shown.setFixedSize(_SIDE, _SIDE)
        self.shown.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout = self.layout()
        if isinstance(layout, QGridLayout):
            layout.addWidget(self.shown, 0, layout.columnCount(), layout.rowCount(), 1)
        self.currentChanged.connect(self.show_picture)
        self.resize(900, 560)

    def show_picture(self, path: str) -> None:
        """Show the picture at ``path``, decoded no finer than shown; nothing if it is no picture."""
        reader = QImageReader(path)
        reader.setAutoTransform(True)
        size = reader.size()
        if size.isValid():
            reader.setScaledSize(
                size.scaled(QSize(_SIDE, _SIDE), Qt.AspectRatioMode.KeepAspectRatio)
            )
        self.shown.setPixmap(QPixmap.fromImage(reader.read()))

    @staticmethod
    def ask(parent: QWidget, words: str, folder: str) -> str:
        """Return the chosen file; an empty text for none."""
        return next(iter(PictureDialog.ask_many(parent, words, folder, False)), "")

    @staticmethod
    def ask_many(parent: QWidget, words: str, folder: str, many: bool = True) -> list[str]:
        """Return the chosen files."""
        dialog = PictureDialog(parent, words, folder)
        if many:
            dialog.setFileMode(QFileDialog.FileMode.ExistingFiles)
        chosen = dialog.selectedFiles() if dialog.exec() else []
        dialog.deleteLater()
        return chosen

"""Asks for files and folders; every dialog opens in the folder last chosen in any of them."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QImageReader, QPixmap
from PyQt6.QtWidgets import QFileDialog, QGridLayout, QLabel, QWidget

from bambola.files.pictures import FILTER
from bambola.language import tr

_last_folder = ""


def ask_open(parent: QWidget, words: str, kinds: str, folder: str = "") -> str:
    """Ask for a file to open and return its path; an empty text for none. It opens in ``folder`` if one is
    given."""
    path, _ = QFileDialog.getOpenFileName(parent, words, folder or last_folder(), kinds)
    remember_folder(path)
    return path


def ask_save(parent: QWidget, words: str, name: str, kinds: str) -> str:
    """Ask where to save a file and return the path; an empty text for none. ``name`` is offered, in the last
    folder unless it names its own."""
    offered = name if Path(name).is_absolute() else str(Path(last_folder()) / name)
    path, _ = QFileDialog.getSaveFileName(parent, words, offered, kinds)
    remember_folder(path)
    return path


def ask_folder(parent: QWidget, words: str, folder: str = "") -> str:
    """Ask for a folder and return its path; an empty text for none."""
    path = QFileDialog.getExistingDirectory(parent, words, folder or last_folder())
    remember_folder(str(Path(path) / "x") if path else "")
    return path


def last_folder() -> str:
    """Return the folder last chosen; an empty text for none, or if it is gone."""
    return _last_folder if Path(_last_folder or "/nowhere").is_dir() else ""


def remember_folder(path: str) -> None:
    """Remember the folder of a chosen file."""
    global _last_folder
    if path:
        _last_folder = str(Path(path).parent)


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

"""Actions on pictures of the board: choose, paste, remove."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from PyQt6.QtCore import QStandardPaths
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QWidget

from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.kit.views import VIEW_WORDS
from bambola.desk.running.aside import do_aside
from bambola.desk.running.timers import busy_cursor
from bambola.desk.session.settings import Settings
from bambola.desk.stations.measure.board import Board
from bambola.desk.stations.measure.chips import Chip
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import N_, tr


class PictureActions:
    """Actions on the picture of the board's view."""

    def __init__(self, board: Board, sighting: Sighting, settings: Settings) -> None:
        self.board, self.sighting, self.settings = board, sighting, settings

    def chips(self) -> list[Chip]:
        """Return the buttons for the picture."""
        return [
            Chip(N_("Lay a picture…"), self.ask, is_next=lambda: not self._has_picture),
            Chip(N_("Paste it"), self.paste),
            Chip(N_("Remove it"), self.take_away, needs_picture=True),
        ]

    @property
    def _has_picture(self) -> bool:
        return self.board.studio.survey.framing(self.board.view) is not None

    def ask(self) -> None:
        """Ask for a picture, starting in the last folder."""
        words = tr(VIEW_WORDS[self.board.view])
        folder = self.settings.picture_folder
        path = PictureDialog.ask(self.board, words, folder)
        if path:
            self.load_picture(Path(path))

    def load_picture(self, path: Path) -> None:
        """Load a picture, and remember its folder and view."""
        self.settings.picture_folder = str(path.parent)
        self.settings.picture_view = self.board.view
        self.sighting.read_picture(self.board.view, path)

    def paste(self) -> None:
        """Load the copied picture."""
        try:
            self.load_picture(copied_picture(self.board))
        except ValueError as error:
            self.board.studio.refused.emit(str(error))

    def take_away(self) -> None:
        """Remove the picture."""
        studio = self.board.studio
        studio.edit(tr("Remove a picture"), survey=studio.survey.unframed(self.board.view))


def copied_picture(owner: QWidget) -> Path:
    """Return the copied file, or a new file of the copied picture in the maker's pictures folder, since
    designs refer to pictures by file; ``owner`` is painted while a large one is written. Raises
    ``ValueError`` if nothing was copied or nothing can be saved."""
    clipboard = QApplication.clipboard()
    mime = clipboard.mimeData() if clipboard is not None else None
    if mime is None:
        raise ValueError(tr("Nothing was copied."))
    files = [url.toLocalFile() for url in mime.urls() if url.isLocalFile()]
    if files:
        return Path(files[0])
    picture = QImage(mime.imageData()) if mime.hasImage() else QImage()
    if picture.isNull():
        raise ValueError(tr("The clipboard holds no picture."))
    pictures = QStandardPaths.StandardLocation.PicturesLocation
    folder = Path(QStandardPaths.writableLocation(pictures)) / "Bambola"
    path = folder / f"{datetime.now():%Y-%m-%d %H.%M.%S}.png"
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise ValueError(f"{folder}: {error.strerror}.") from error

    def write() -> None:
        if not picture.save(str(path)):
            raise ValueError(tr("{path}: it cannot be written.", path=path))

    with busy_cursor():
        do_aside(write, owner)
    return path

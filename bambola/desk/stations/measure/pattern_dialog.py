"""Imports flat parts from a paper pattern: which pieces, their names and bearers."""

from __future__ import annotations

from pathlib import Path
from threading import Event

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFormLayout,
    QGridLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure
from bambola.core.plan.reading.pattern_pieces import PatternOutline, with_piece
from bambola.core.quantities import parse_length, show_length
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_open
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.files import FileRefusedError
from bambola.files.limited import StoppedError
from bambola.files.pattern import read_pattern
from bambola.language import part_name, tr

_THICK_MM = 4.0
"""What is offered first: a sheet that stands by itself and can be folded."""


class PatternDialog(FittedDialog):
    """A row for each piece: outline, size, whether to import it, name, bearer and pair."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        pieces: tuple[PatternOutline, ...],
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme, self.pieces = studio, theme, pieces
        figure = studio.figure
        assert figure is not None
        self.setWindowTitle(tr("Flat parts from a pattern"))
        self.rows: list[tuple[QCheckBox, QLineEdit, QComboBox, QCheckBox]] = []
        grid, within = QGridLayout(), QWidget()
        within.setLayout(grid)
        grid.setColumnStretch(2, 1)
        largest = max(max(piece.size) for piece in pieces)
        for n, piece in enumerate(pieces):
            self._add_row(grid, n, piece, figure, largest)
        self.thick = QLineEdit(show_length(_THICK_MM, studio.units))
        self.thick.setMaximumWidth(theme.px(120))
        form = QFormLayout()
        form.addRow(tr("&Thickness of each"), self.thick)
        whole = QVBoxLayout(self)
        whole.addWidget(
            lead_label(
                tr("Each piece is felted as a blank of its outline; its lower end is joined.")
            )
        )
        whole.addWidget(scroll_area(within), 1)
        whole.addLayout(form)
        whole.addWidget(ok_cancel(self))
        self.set_size(theme, 640, min(430, 190 + 96 * len(pieces)))

    def _add_row(
        self, grid: QGridLayout, n: int, piece: PatternOutline, figure: Figure, largest: float
    ) -> None:
        taken, pair = QCheckBox(), QCheckBox(tr("one of a pair"))
        taken.setChecked(True)
        picture = QLabel()
        picture.setPixmap(self._piece_picture(piece, largest))
        wide, long = (show_length(mm, self.studio.units) for mm in piece.size)
        size = QLabel(tr("{width} wide, {length} long", width=wide, length=long))
        name = QLineEdit(piece.name or part_name(""))
        name.setMaxLength(120)
        on = QComboBox()
        for part in figure.parts:
            on.addItem(part.name, part.id)
        on.setCurrentIndex(max(0, on.findData(self.studio.selection.part)))
        taken.setAccessibleName(tr("Take {name}", name=name.text()))
        name.setAccessibleName(tr("Name of the new part"))
        on.setAccessibleName(tr("What the new part sits on"))
        told = QVBoxLayout()
        told.addWidget(name)
        told.addWidget(size)
        grid.addWidget(taken, n, 0)
        grid.addWidget(picture, n, 1)
        grid.addLayout(told, n, 2)
        grid.addWidget(QLabel(tr("on")), n, 3)
        grid.addWidget(on, n, 4)
        grid.addWidget(pair, n, 5)
        self.rows.append((taken, name, on, pair))

    def _piece_picture(self, piece: PatternOutline, largest: float) -> QPixmap:
        px, d = self.theme.px(84), self.theme.dyes
        pixmap = QPixmap(px, px)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        places = (piece.places - piece.places.min(axis=0)) * (0.9 * px / largest)
        run = QPolygonF([QPointF(float(x), float(y)) for x, y in places])
        run.translate(QRectF(0, 0, px, px).center() - run.boundingRect().center())
        painter.setPen(QPen(d.ink, self.theme.px(1.4)))
        painter.setBrush(d.edge)
        painter.drawPolygon(run)
        painter.end()
        return pixmap

    def taken(self, figure: Figure) -> tuple[Figure, str | None]:
        """Return ``figure`` with the ticked pieces, and the last new part. Raises ``ValueError``."""
        last: str | None = None
        thick = parse_length(self.thick.text(), self.studio.units.length)
        for piece, (taken, name, on, pair) in zip(self.pieces, self.rows, strict=True):
            if taken.isChecked():
                called = name.text().strip() or part_name("")
                figure, last = with_piece(
                    figure,
                    piece,
                    called,
                    on.currentData(),
                    pair.isChecked(),
                    thick,
                    self.studio.bench,
                )
        return figure, last


class PatternImport:
    """Asks for a pattern file, reads it off the interface thread, and asks which pieces become parts."""

    def __init__(self, page: QWidget, studio: EditorSession, theme: Theme, kept: Settings) -> None:
        self.page, self.studio, self.theme, self.kept = page, studio, theme, kept
        self._background = Background("pattern")
        self._job: BackgroundJob | None = None

    def ask(self) -> None:
        """Ask for a file; only the last request counts."""
        if self.studio.figure is None:
            return
        words, kinds = tr("Flat parts from a pattern"), tr("Drawings (*.svg)")
        path = ask_open(self.page, words, kinds, self.kept.picture_folder)
        if not path:
            return
        self.kept.picture_folder = str(Path(path).parent)
        if self._job is not None:
            self._job.stop.set()
        stop = Event()
        self._job = self._background.do(
            lambda: read_pattern(Path(path), stop), self._show_pieces, self._show_failure, stop
        )

    def _show_pieces(self, found: tuple[tuple[str, np.ndarray], ...]) -> None:
        figure = self.studio.figure
        if figure is None or self._job is None or self._job.stop.is_set():
            return
        pieces = tuple(PatternOutline(*piece) for piece in found)
        dialog = PatternDialog(self.page, self.studio, self.theme, pieces)
        if not dialog.exec():
            return
        try:
            new, last = dialog.taken(figure)
        except ValueError as error:
            self.studio.refuse(error)
            return

        def then(well: bool) -> None:
            if well:
                self.studio.selection.select_part(last)

        if last is not None:
            self.studio.edit(tr("Flat parts from a pattern"), new, waits=False, then=then)

    def _show_failure(self, error: Exception) -> None:
        if isinstance(error, FileRefusedError):
            self.studio.refused.emit(str(error))
        elif not isinstance(error, CalledOffError | StoppedError):
            self.studio.refused.emit(log_error(error))

    def close_down(self) -> None:
        """Cancel reading."""
        if self._job is not None:
            self._job.stop.set()
        self._background.close()

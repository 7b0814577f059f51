"""Flat parts from a paper pattern: which of its pieces, what they are called, and what they sit on."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDoubleSpinBox,
    QFileDialog,
    QFormLayout,
    QGridLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure
from bambola.core.plan.reading.pattern_pieces import Outline, with_piece
from bambola.core.quantities import show_length
from bambola.desk.kit.ok_cancel import lead, ok_cancel
from bambola.desk.kit.scrolled import scrolled
from bambola.desk.kit.theme import Theme
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.files import FileRefusedError
from bambola.files.pattern import read_pattern
from bambola.language import part_name, tr

_THICK_MM = 4.0
"""What is offered first: a sheet that stands by itself and can be folded."""


class PatternDialog(QDialog):
    """A row for each piece: its outline and size, whether it is taken, its name, bearer and pair."""

    def __init__(
        self, parent: QWidget, studio: EditorSession, theme: Theme, pieces: tuple[Outline, ...]
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
        self.thick = QDoubleSpinBox()
        self.thick.setRange(1.0, 60.0)
        self.thick.setDecimals(1)
        self.thick.setSuffix(" mm")
        self.thick.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.thick.setValue(_THICK_MM)
        self.thick.setMaximumWidth(theme.px(120))
        form = QFormLayout()
        form.addRow(tr("&Thickness of each"), self.thick)
        whole = QVBoxLayout(self)
        whole.addWidget(
            lead(tr("Each piece is felted as a blank of its outline; its lower end is joined."))
        )
        whole.addWidget(scrolled(within), 1)
        whole.addLayout(form)
        whole.addWidget(ok_cancel(self))
        self.resize(theme.px(640), theme.px(min(620, 190 + 96 * len(pieces))))

    def _add_row(
        self, grid: QGridLayout, n: int, piece: Outline, figure: Figure, largest: float
    ) -> None:
        taken, pair = QCheckBox(), QCheckBox(tr("one of a pair"))
        taken.setChecked(True)
        picture = QLabel()
        picture.setPixmap(self._pictured(piece, largest))
        wide, long = (show_length(mm, self.studio.units) for mm in piece.size)
        size = QLabel(tr("{width} wide, {length} long", width=wide, length=long))
        name = QLineEdit(piece.name or part_name("", len(figure.parts) + n + 1))
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

    def _pictured(self, piece: Outline, largest: float) -> QPixmap:
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
        """``figure`` with the pieces that are taken, and the last of them. Raises ``ValueError``."""
        last: str | None = None
        for piece, (taken, name, on, pair) in zip(self.pieces, self.rows, strict=True):
            if taken.isChecked():
                called = name.text().strip() or part_name("", len(figure.parts) + 1)
                figure, last = with_piece(
                    figure,
                    piece,
                    called,
                    on.currentData(),
                    pair.isChecked(),
                    self.thick.value(),
                    self.studio.bench,
                )
        return figure, last


def ask_pattern(parent: QWidget, studio: EditorSession, theme: Theme, settings: Settings) -> None:
    """Ask for a pattern and which of its pieces become parts."""
    figure = studio.figure
    if figure is None:
        return
    path, _ = QFileDialog.getOpenFileName(
        parent, tr("Flat parts from a pattern"), settings.picture_folder, tr("Drawings (*.svg)")
    )
    if not path:
        return
    settings.picture_folder = str(Path(path).parent)
    try:
        pieces = tuple(Outline(*piece) for piece in read_pattern(Path(path)))
    except FileRefusedError as error:
        studio.refused.emit(str(error))
        return
    dialog = PatternDialog(parent, studio, theme, pieces)
    if dialog.exec():
        try:
            new, last = dialog.taken(figure)
        except ValueError as error:
            studio.refuse(error)
            return
        if last is not None and studio.edit(tr("Flat parts from a pattern"), new):
            studio.selection.take_part(last)

"""The current piece of the face: its width, its wool and how it is laid; and new pieces to add."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFormLayout, QLineEdit, QMenu, QPushButton, QWidget

from bambola.core.face import Mark
from bambola.core.face.marks import BY_ENDS, piece_of
from bambola.core.face.pieces import PRESETS, with_piece
from bambola.core.figure import Figure, Part, Place
from bambola.core.figure.graft import place_changed, with_part, without_place
from bambola.core.figure.places import Line
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.resize.faces import pieces_gained
from bambola.core.wool.colour import lab_of
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

PIECES = {
    "mouth-smile": N_("A smiling mouth"),
    "mouth-straight": N_("A straight mouth"),
    "mouth-open": N_("An open mouth"),
    "nose": N_("A nose"),
    "nose-line": N_("A line below the nose"),
    "nostrils": N_("Nostrils"),
    "lid-calm": N_("Calm lids"),
    "lid-sleepy": N_("Sleepy lids"),
    "lid-stern": N_("Stern lids"),
    "lid-lower": N_("Lower lids"),
    "rims": N_("Rims round the eyes"),
    "lashes": N_("Lashes"),
    "cheeks": N_("Cheeks"),
    "brows": N_("Brows"),
    "whites": N_("Whites of the eyes"),
    "pupils": N_("Pupils"),
    "highlights": N_("Highlights"),
}
NAMES = {
    "mouth": N_("mouth"), "nose": N_("nose"), "nose-line": N_("line below the nose"),
    "nostril": N_("nostrils"), "lid": N_("lids"), "rim": N_("rims of the eyes"), "lash": N_("lashes"),
    "cheek": N_("cheeks"), "brow": N_("brows"),
    "white": N_("whites of the eyes"), "pupil": N_("pupils"), "highlight": N_("highlights"),
}  # fmt: skip
"""What pieces are called on cards."""
LAID = {
    "": N_("as such a piece usually is"),
    "hairs": N_("single hairs"),
    "twist": N_("a twisted wisp"),
    "pinch": N_("a pinch"),
    "half-disc": N_("half a disc"),
}
_PALE = ("highlight", "white")


class PieceRow(QWidget):
    """Fields of the current piece, and a button whose menu adds another."""

    laid_on = pyqtSignal(str, str)
    """On which part a new piece is, and the mark by which it is pulled."""

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self.studio = studio
        self.part, self.mark = "", ""
        self._filling = False
        self.add = QPushButton(tr("&Lay a piece of the face"))
        self.add.setToolTip(tr("Mouth, nose, lids and what else a face is made of (A)"))
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self._fill_menu(menu))
        self.add.setMenu(menu)
        self.wide, self.wool, self.laid = QLineEdit(), QComboBox(), QComboBox()
        for laid, words in LAID.items():
            self.laid.addItem(tr(words), laid)
        self.away = QPushButton(tr("Remove the piece"))
        form = self._form = QFormLayout(self)
        form.setContentsMargins(0, 0, 0, 0)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        for box in (self.wool, self.laid):
            box.setSizeAdjustPolicy(
                QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
            )
            box.setMinimumContentsLength(6)
        form.addRow(self.add)
        form.addRow(tr("&wide"), self.wide)
        form.addRow(tr("of w&ool"), self.wool)
        form.addRow(tr("laid a&s"), self.laid)
        form.addRow(self.away)
        self.wide.editingFinished.connect(self._save_width)
        self.wool.activated.connect(lambda _: self._change_piece(wool=self.wool.currentData()))
        self.laid.activated.connect(
            lambda _: self._change_piece(laid=self.laid.currentData() or None)
        )
        self.away.clicked.connect(lambda _=False: self.take_away())

    def show_piece(self, part: str, mark: Mark | None) -> None:
        """Show the piece of a mark; hide the fields if it has none."""
        self.part = part
        self.mark = mark.about if mark is not None and mark.kind == "piece" else ""
        place = self.place
        for row in range(1, self._form.rowCount()):
            self._form.setRowVisible(row, place is not None)
        self.add.setVisible(bool(part))
        if place is None or not isinstance(place.where, Line):
            return
        self._filling = True
        if not self.wide.hasFocus():
            self.wide.setText(show_length(place.where.wide, self.studio.units))
        wools = [(w.name, w.id) for w in self.studio.bench.wools]
        if self.wool.count() != len(wools):
            self.wool.clear()
            for name, wool in wools:
                self.wool.addItem(name, wool)
        self.wool.setCurrentIndex(self.wool.findData(place.wool))
        self.laid.setCurrentIndex(self.laid.findData(place.laid or ""))
        self._filling = False

    @property
    def _body_part(self) -> Part | None:
        figure = self.studio.figure
        return figure.by_id.get(self.part) if figure else None

    @property
    def place(self) -> Place | None:
        """The current piece, on the figure as made."""
        body = self._body_part
        if body is None or not self.mark:
            return None
        _, name, _ = piece_of(self.mark)
        return next((p for p in body.patches if p.id == name), None)

    def _fill_menu(self, menu: QMenu) -> None:
        menu.clear()
        for preset in self.proposed():
            menu.addAction(
                tr("For a face this large: {piece}", piece=tr(PIECES[preset])),
                partial(self.add_piece, preset),
            )
        if not menu.isEmpty():
            menu.addSeparator()
        for preset, words in PIECES.items():
            menu.addAction(tr(words), partial(self.add_piece, preset))

    def proposed(self) -> tuple[str, ...]:
        """Return what a face of the planned size has besides, the first of each kind."""
        plan = self.studio.plan
        if plan is None or self.part not in plan.resized.figure.by_id:
            return ()
        figure = plan.resized.figure
        kinds = pieces_gained(figure.by_id[self.part], figure.fittings, figure.parts)
        return tuple(next(p.id for p in PRESETS if p.face == kind) for kind in kinds)

    def add_piece(self, preset: str) -> None:
        """Add a piece to the current face."""
        part = self.part
        face = next(p.face for p in PRESETS if p.id == preset)
        wool = self._wool_for(face)

        def lay(figure: Figure) -> Figure:
            new, on, name = with_piece(figure, part, preset, wool, tr(NAMES[face]))
            where = next(p.where for p in new.by_id[on].patches if p.id == name)
            assert isinstance(where, Line)
            n = len(where.way) - 1 if face in BY_ENDS else len(where.way) // 2
            self.laid_on.emit(on, f"piece:{on}/{name}:{n}")
            return new

        self.studio.edit_by(tr("Lay a piece of the face"), lay)

    def lay_proposed(self) -> None:
        """Add everything a larger face has besides."""
        for preset in self.proposed():
            self.add_piece(preset)
            self.studio.settle()

    def _wool_for(self, face: str) -> str:
        """Return the darkest wool of the bench, or for highlights the palest."""
        found = (w for w in self.studio.bench.wools if w.form != "core")
        wools = sorted(found, key=lambda w: lab_of(w.colour)[0])
        return wools[-1 if face in _PALE else 0].id

    def take_away(self) -> None:
        """Remove the current piece."""
        place, body = self.place, self._body_part
        if place is not None and body is not None:
            new = without_place(body, place.id)
            self.studio.edit_by(tr("Remove a piece of the face"), lambda f: with_part(f, new))

    def _save_width(self) -> None:
        place = self.place
        if self._filling or place is None or not isinstance(place.where, Line):
            return
        try:
            wide = parse_length(self.wide.text(), self.studio.units.length)
        except QuantityError as error:
            self.studio.refuse(error)
            return
        if self.wide.text() != show_length(place.where.wide, self.studio.units):
            self._change_piece(where=place.where.replaced(wide=wide))

    def _change_piece(self, **changes: object) -> None:
        place, body = self.place, self._body_part
        if self._filling or place is None or body is None:
            return
        new = place_changed(body, place.id, **changes)
        self.studio.edit_by(tr("Change a piece of the face"), lambda f: with_part(f, new))

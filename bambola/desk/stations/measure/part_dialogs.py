"""The dialog for a row of the selected part: the count, and where the last one sits."""

from __future__ import annotations

from pathlib import Path
from textwrap import fill

from PyQt6.QtWidgets import (
    QDialog,
    QDoubleSpinBox,
    QFormLayout,
    QInputDialog,
    QLineEdit,
    QSpinBox,
    QWidget,
)

from bambola.core.bench import with_wools_of
from bambola.core.facts import Fact, RefusedError
from bambola.core.figure import DocumentError, Figure, Leaf, Row
from bambola.core.figure.additions import core_of, only_one, with_core, with_furrows, with_row
from bambola.core.figure.document import SUFFIX
from bambola.core.figure.graft import graft_part, with_part
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.resize.laws import MOST_IN_ROW
from bambola.desk.kit.buttons import lead_label, ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_open
from bambola.desk.session.studio import EditorSession
from bambola.language import tr
from bambola.store import open_design

_FIRST = 5
"""So many are offered first."""


class RowDialog(FittedDialog):
    """Asks for the count and end of a row along the part's bearer."""

    def __init__(self, parent: QWidget, studio: EditorSession, part: str) -> None:
        super().__init__(parent)
        figure = studio.figure
        assert figure is not None
        body = figure.by_id[part]
        bearer = figure.by_id[str(body.parent)].name
        self.setWindowTitle(tr("A row of them"))
        had = body.row or Row(count=_FIRST, along=1.0 - body.seat.along, around=body.seat.around)
        form = QFormLayout(self)
        told = tr("The {part:lower} sits on the {bearer:lower}. More of it follow it in a row, evenly.",
                  part=body.name, bearer=bearer)  # fmt: skip
        form.addRow(lead_label(told))
        self.count = self._make_spin(1, MOST_IN_ROW, had.count, "")
        self.along = self._make_spin(0, 100, round(100 * had.along), " %")
        self.around = self._make_spin(-180, 180, round(had.around), "°")
        self.plural = QLineEdit(body.plural or "")
        self.plural.setMaxLength(120)
        form.addRow(tr("How &many; 1 for no row"), self.count)
        form.addRow(tr("Name for &several of them"), self.plural)
        form.addRow(tr("The last, &along the {bearer:lower}", bearer=bearer), self.along)
        form.addRow(tr("The last, turned &round it"), self.around)
        form.addRow(ok_cancel(self))

    def _make_spin(self, low: int, high: int, value: int, unit: str) -> QSpinBox:
        spin = QSpinBox()
        spin.setRange(low, high)
        spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        spin.setSuffix(unit)
        spin.setValue(value)
        return spin


def ask_row(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the row of the selected part; a part with others on it, or the one all sit on, cannot have
    one."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    if figure.by_id[part].parent is None:
        studio.refuse(only_one(figure.by_id[part]))
        return
    dialog = RowDialog(parent, studio, part)
    if dialog.exec() == QDialog.DialogCode.Accepted:
        count, along, around = (s.value() for s in (dialog.count, dialog.along, dialog.around))
        plural = dialog.plural.text().strip() or None

        def rowed(figure: Figure) -> Figure:
            named = with_part(figure, figure.by_id[part].replaced(plural=plural))
            return with_row(named, part, count, along / 100, around)

        studio.edit_by(tr("A row of them"), rowed)


_LINE = 48
"""So many characters of a question stand on a line: Qt does not wrap it. Judged."""
_MOST = 8


def ask_furrows(parent: QWidget, studio: EditorSession) -> None:
    """Ask how many furrows are pulled into the part; 0 removes them."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    body = figure.by_id[part]
    ask = tr("How many grooves to pull into the {part:lower} with thread, as between toes? 0"
             " for none.",
             part=body.name)  # fmt: skip
    count, given = QInputDialog.getInt(
        parent, tr("Toes and furrows"), fill(ask, _LINE), body.furrows, 0, _MOST
    )
    if given:
        studio.edit_by(tr("Toes and furrows"), lambda f: with_furrows(f, part, count))


def ask_core(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the diameter of a ball of cork, wood or foam in the middle of the part; 0 removes it."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    had = core_of(figure, part)
    shown = show_length(had.size if had else figure.by_id[part].shape.smallest_mm / 2, studio.units)
    ask = tr(
        "A ball of cork, wood or foam in the middle of the {part:lower}: how thick is "
        "it? 0 removes it.",
        part=figure.by_id[part].name,
    )
    text, given = QInputDialog.getText(parent, tr("A hard core"), fill(ask, _LINE), text=shown)
    if not given:
        return
    try:
        size = parse_length(text, studio.units.length) if text.strip() else 0.0
    except QuantityError as error:
        studio.refuse(error)
        return
    studio.edit_by(tr("A hard core"), lambda f: with_core(f, part, size, tr("Hard core")))


MOST_DEG = 300


class BentDialog(FittedDialog):
    """Asks for the two angles of a sheet, and the thickness of its base."""

    def __init__(self, parent: QWidget, leaf: Leaf, name: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("How it is bent: {name:lower}", name=name))
        form = QFormLayout(self)
        form.addRow(
            lead_label(
                tr(
                    "A cup is pinched at the base and fades to the tip; over 150° the base lies folded."
                )
            )
        )
        self.curl, self.cup = self._make_spin(leaf.curl), self._make_spin(leaf.cup)
        form.addRow(tr("Bent &all along"), self.curl)
        form.addRow(tr("&Cupped at its base"), self.cup)
        self.foot = QDoubleSpinBox()
        self.foot.setRange(1.0, 3.0)
        self.foot.setSingleStep(0.1)
        self.foot.setDecimals(1)
        self.foot.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.foot.setSuffix(" ×")
        self.foot.setValue(leaf.foot)
        form.addRow(tr("As &thick at its base as its tip"), self.foot)
        form.addRow(ok_cancel(self))

    def field_values(self) -> dict[str, float]:
        """Return the values of the fields, by the names of the shape's own."""
        return {"curl": self.curl.value(), "cup": self.cup.value(), "foot": self.foot.value()}

    def _make_spin(self, value: float) -> QSpinBox:
        spin = QSpinBox()
        spin.setRange(-MOST_DEG, MOST_DEG)
        spin.setSingleStep(5)
        spin.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        spin.setSuffix("°")
        spin.setValue(round(value))
        return spin


def ask_bent(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the bend of the selected part, which must be flat."""
    figure, id = studio.figure, studio.selection.part
    if figure is None or id is None or id not in figure.by_id:
        return
    part = figure.by_id[id]
    leaf = part.shape
    if not isinstance(leaf, Leaf):
        studio.refused.emit(
            tr("Only a flat part is bent; the {name:lower} is none.", name=part.name)
        )
        return
    dialog = BentDialog(parent, leaf, part.name)
    if not dialog.exec():
        return
    if abs(dialog.curl.value() + dialog.cup.value()) > MOST_DEG:
        studio.refuse(RefusedError(Fact("fault.leaf-cup")))
    else:
        new = {**leaf.model_dump(), **dialog.field_values()}
        studio.edit_by(
            tr("Bend a flat part"),
            lambda f: with_part(f, part.replaced(shape=Leaf.model_validate(new))),
        )


def ask_graft(parent: QWidget, studio: EditorSession) -> None:
    """Ask for a design and one of its parts, and copy that onto the selected part."""
    if studio.figure is None or studio.selection.part is None:
        return
    folder = studio.path.parent if studio.path else Path.home()
    path = ask_open(
        parent,
        tr("Copy a part from"),
        tr("Bambola designs (*{suffix});;All files (*)", suffix=SUFFIX),
        str(folder),
    )
    if not path:
        return
    try:
        source = open_design(Path(path), studio.bench).figure
    except DocumentError as error:
        studio.refuse(error)
        return
    names = [part.name for part in source.parts]
    name, taken = QInputDialog.getItem(
        parent,
        tr("Copy a part"),
        tr("Which part of {name}?", name=source.name),
        names,
        0,
        editable=False,
    )
    if taken and name in names:
        copy_part(studio, source, source.parts[names.index(name)].id)


def copy_part(studio: EditorSession, source: Figure, part: str) -> None:
    """Copy ``part`` of ``source`` onto the selected part, at its size there."""
    figure, onto = studio.figure, studio.selection.part
    if figure is None or onto is None:
        return
    try:
        new, copy = graft_part(figure, with_wools_of(source, studio.bench), part, onto)
    except ValueError as error:
        studio.refuse(error)
        return

    def then(well: bool) -> None:
        if well:
            studio.selection.select_part(copy)

    studio.edit(tr("Copy a part"), new, waits=False, then=then)

"""The dialog for materials other than wool: an editable table, and what the plan uses."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import (
    QColorDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench.materials import COMMON, Material
from bambola.core.figure.graft import free_id
from bambola.core.plan.making.patterns import MaterialTotal
from bambola.core.quantities import (
    QuantityError,
    Units,
    parse_length,
    parse_mass,
    show_length,
    show_mass,
)
from bambola.core.words import kind
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.lists import lay_as_shelf
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr


@dataclass(frozen=True, slots=True)
class Column:
    """One column: its title, its field, and the parser of typed text."""

    title: str
    field: str
    shown: Callable[[Material, Units], str]
    read: Callable[[str, Material, Units], Any] | None = None


def _stock_text(material: Material, units: Units) -> str:
    if material.left is None:
        return tr("not counted")
    return (show_mass if material.kind == "clay" else show_length)(material.left, units)


def _read_left(text: str, material: Material, units: Units) -> float | None:
    if not text.strip() or text == tr("not counted"):
        return None
    if material.kind == "clay":
        return parse_mass(text, units.mass)
    return parse_length(text, units.length)


def _read_share(text: str, material: Material, units: Units) -> float:
    return float(text.replace(",", ".").rstrip(" %")) / 100


def _read_price(text: str, material: Material, units: Units) -> float | None:
    return float(text.replace(",", ".")) if text.strip() else None


def _length_text(field: str) -> Callable[[Material, Units], str]:
    """Return a length as text; clay has none."""
    return lambda material, units: (
        "–" if material.kind == "clay" else show_length(getattr(material, field), units)
    )


def _read_length(text: str, material: Material, units: Units) -> float:
    return parse_length(text, units.length)


COLUMNS = (
    Column(N_("Name"), "name", lambda m, _: m.name or "", lambda text, m, _: text.strip() or None),
    Column(N_("Thick"), "thickness", _length_text("thickness"), _read_length),
    Column(N_("Wide"), "wide", _length_text("wide"), _read_length),
    Column(N_("Stretches"), "stretches", lambda m, _: f"{m.stretches * 100:.0f} %", _read_share),
    Column(N_("Frays"), "frays", lambda m, _: ""),
    Column(
        N_("Price of a metre, or 100 g"),
        "price",
        lambda m, _: "" if m.price is None else f"{m.price:.2f}",
        _read_price,
    ),
    Column(N_("There is"), "left", _stock_text, _read_left),
    Column(N_("The plan takes"), "", lambda m, _: ""),
)

_TOP = QModelIndex()


class MaterialsModel(QAbstractTableModel):
    """The materials of the bench as rows; an edit is saved at once, or refused in a sentence."""

    def __init__(self, studio: EditorSession, desk: BenchDesk) -> None:
        super().__init__()
        self.studio, self.desk = studio, desk
        for signal in (studio.bench_changed, studio.plan_changed, studio.units_changed):
            signal.connect(self._reset_rows)

    def _reset_rows(self) -> None:
        self.beginResetModel()
        self.endResetModel()

    @property
    def rows(self) -> tuple[Material, ...]:
        """The materials on the bench."""
        return self.desk.base.materials

    def rowCount(self, parent: QModelIndex = _TOP) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex = _TOP) -> int:
        return 0 if parent.isValid() else len(COLUMNS)

    def headerData(self, section: int, way: Qt.Orientation, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and way == Qt.Orientation.Horizontal:
            return tr(COLUMNS[section].title)
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        found = super().flags(index)
        column = COLUMNS[index.column()]
        if column.field == "frays":
            return found | Qt.ItemFlag.ItemIsUserCheckable
        return found | Qt.ItemFlag.ItemIsEditable if column.read else found

    def data(self, index: QModelIndex, role: int = 0) -> Any:
        material, column = self.rows[index.row()], COLUMNS[index.column()]
        if role == Qt.ItemDataRole.CheckStateRole and column.field == "frays":
            return Qt.CheckState.Checked if material.frays else Qt.CheckState.Unchecked
        if role == Qt.ItemDataRole.DecorationRole and column.field == "name":
            return QColor(material.colour)
        if role == Qt.ItemDataRole.ToolTipRole:
            return self.studio.say(kind("stuff", material.kind))
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            if not column.field:
                return self._taken_text(material)
            if column.field == "name" and role == Qt.ItemDataRole.DisplayRole:
                told = self.studio.say(material.display_name)
                return told[:1].upper() + told[1:]
            return column.shown(material, self.studio.units)
        return None

    def total(self, material: Material) -> MaterialTotal | None:
        """Return what the plan uses of a material."""
        plan = self.studio.plan
        rows = plan.materials if plan else ()
        return next((row for row in rows if row.material == material.id), None)

    def _taken_text(self, material: Material) -> str:
        row = self.total(material)
        if row is None:
            return "–"
        show = show_mass if row.kind == "clay" else show_length
        uses, buy = show(row.uses, self.studio.units), show(row.buy, self.studio.units)
        return tr("{uses}, {buy} to buy", uses=uses, buy=buy) if row.buy > 0 else uses

    def setData(self, index: QModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        material, column = self.rows[index.row()], COLUMNS[index.column()]
        try:
            if role == Qt.ItemDataRole.CheckStateRole:
                new: Any = Qt.CheckState(value) == Qt.CheckState.Checked
            elif column.read is not None:
                new = column.read(str(value), material, self.studio.units)
            else:
                return False
            made = Material.model_validate({**material.model_dump(), column.field: new})
        except ValidationError:
            self._show_refusal(tr("Lengths must be above 0 and up to 1000 m, prices 0 or more."))
            return False
        except (QuantityError, ValueError) as error:
            self._show_refusal(error if isinstance(error, QuantityError) else tr("Type a number."))
            return False
        return self.put(index.row(), made)

    def _show_refusal(self, error: Exception | str) -> None:
        self.studio.refuse(error if isinstance(error, Exception) else ValueError(error))

    def put(self, row: int, material: Material | None) -> bool:
        """Save ``material`` in this row, or append it; None deletes the row."""
        rows = list(self.rows)
        if material is None:
            del rows[row]
        else:
            rows[row : row + 1] = [material]
        return self.desk.put_bench(self.desk.base.replaced(materials=tuple(rows)))


class MaterialsDialog(FittedDialog):
    """The table, with buttons to add and delete."""

    def __init__(self, parent: QWidget, studio: EditorSession, desk: BenchDesk) -> None:
        super().__init__(parent)
        self.studio = studio
        self.setWindowTitle(tr("Cloth, ribbon, yarn and the like"))
        self.model = MaterialsModel(studio, desk)
        self.table = QTableView()
        self.table.setModel(self.model)
        self.table.setAccessibleName(tr("What is not wool"))
        self.table.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        lay_as_shelf(self.table)
        told = QLabel(
            tr(
                "Its thickness, weave and knots stay as they are at any height. A double click changes "
                "a number."
            )
        )
        told.setWordWrap(True)
        self.more, self.colour, self.strike = (
            QPushButton(words) for words in (tr("&Another"), tr("Its &colour…"), tr("&Delete it"))
        )
        self.more.setMenu(self._make_kind_menu())
        self.colour.clicked.connect(self._ask_colour)
        self.strike.clicked.connect(self._delete_row)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        row = QHBoxLayout()
        for button in (self.more, self.colour, self.strike):
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(buttons)
        column = QVBoxLayout(self)
        column.addWidget(told)
        column.addWidget(self.table, 1)
        column.addLayout(row)
        wide = self.fontMetrics().averageCharWidth() * 170
        self.resize(min(wide, parent.width()), self.fontMetrics().height() * 28)

    def _make_kind_menu(self) -> QMenu:
        menu = QMenu(self)
        for common in COMMON:
            words = self.studio.say(kind("stuff", common.kind))
            menu.addAction(words, lambda m=common: self.add(m))
        return menu

    def add(self, like: Material) -> None:
        """Append a material of this kind, to be edited."""
        ids = frozenset(m.id for m in self.model.rows)
        new = like.replaced(id=free_id(like.id, ids))
        if self.model.put(len(ids), new):
            self.table.setCurrentIndex(self.model.index(len(self.model.rows) - 1, 0))

    def _current_row(self) -> int:
        return self.table.currentIndex().row()

    def _ask_colour(self) -> None:
        row = self._current_row()
        if row < 0:
            return
        found = QColorDialog.getColor(QColor(self.model.rows[row].colour), self)
        if found.isValid():
            self.model.put(row, self.model.rows[row].replaced(colour=found.name().upper()))

    def _delete_row(self) -> None:
        row, figure = self._current_row(), self.studio.figure
        if row < 0:
            return
        name = self.model.rows[row].id
        used = [p.name for p in figure.parts if p.stuff and p.core == name] if figure else []
        if used:
            told = tr("{parts} is of it: choose another for that first.", parts=", ".join(used))
            self.studio.refuse(ValueError(told))
            return
        self.model.put(row, None)

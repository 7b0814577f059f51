"""The whole shelf as a table: wool, eyes, wire, cloth, needles and glue; amount, price, shop and lot."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError
from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import (
    QDialogButtonBox,
    QLabel,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench.shelved import SORTS, Shelved, find_shelf_item, iterate_shelf, with_shelved
from bambola.core.book.costing import planned_use
from bambola.core.quantities import QuantityError, parse_amount, parse_money, show_amount
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.lists import lay_as_shelf
from bambola.desk.kit.painters.wool import bundle
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

COLUMNS = (N_("What"), N_("There is"), N_("Price"), N_("Shop"), N_("Lot"), N_("The plan takes"))
WHAT, LEFT, PRICE, SHOP, LOT, TAKES = range(6)
_FIELDS = {LEFT: "left", PRICE: "price", SHOP: "shop", LOT: "lot"}
_PER = {
    "wool": N_("a pack of {much}"),
    "eyes": N_("one"),
    "wire": N_("a piece"),
    "stuff": N_("{much}"),
    "needle": N_("one"),
    "glue": N_("a bottle of {much}"),
}
"""What the price of a sort is for."""
_TOP = QModelIndex()


def _sort_key(key: str) -> tuple[int, float]:
    """Return the sort key of a thing: by sort; eyes and needles by size."""
    sort, _, name = key.partition(":")
    return SORTS.index(sort), float(name) if sort in ("eyes", "needle") else 0.0


class ShelfModel(QAbstractTableModel):
    """Everything on the shelf, and what the plan needs besides; an edit is saved at once."""

    def __init__(self, studio: EditorSession, desk: BenchDesk) -> None:
        super().__init__()
        self.studio, self.desk = studio, desk
        self._reload_rows()
        for signal in (studio.bench_changed, studio.plan_changed, studio.units_changed):
            signal.connect(self._rebuild_rows)

    def _rebuild_rows(self) -> None:
        """Rebuild the rows and keep the current cell if the same things are there."""
        keys = [one.key for one in self.rows]
        self._reload_rows()
        if keys == [one.key for one in self.rows]:
            self.dataChanged.emit(self.index(0, 0), self.index(len(keys) - 1, len(COLUMNS) - 1))
        else:
            self.beginResetModel()
            self.endResetModel()

    def _reload_rows(self) -> None:
        bench, plan = self.desk.base, self.studio.plan
        self.takes = {k: much for k, _, much in planned_use(plan, bench)} if plan else {}
        keys = dict.fromkeys(one.key for one in iterate_shelf(bench))
        keys |= dict.fromkeys(self.takes)
        keys |= dict.fromkeys(f"needle:{gauge}" for gauge in bench.needles)
        keys |= {f"glue:{bench.glue}": None}
        # What is typed of a thing does not move it.
        found = (find_shelf_item(bench, key) for key in sorted(keys, key=_sort_key))
        self.rows: tuple[Shelved, ...] = tuple(one for one in found if one is not None)

    def rowCount(self, parent: QModelIndex = _TOP) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex = _TOP) -> int:
        return 0 if parent.isValid() else len(COLUMNS)

    def headerData(self, section: int, way: Qt.Orientation, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and way == Qt.Orientation.Horizontal:
            return tr(COLUMNS[section])
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        found = super().flags(index)
        return found | Qt.ItemFlag.ItemIsEditable if index.column() in _FIELDS else found

    def data(self, index: QModelIndex, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.ToolTipRole and index.column() == PRICE:
            return self._price_unit(self.rows[index.row()])
        if role == Qt.ItemDataRole.DecorationRole and index.column() == WHAT:
            return self._bundle(self.rows[index.row()].key)
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            return self._cell_text(self.rows[index.row()], index.column(), role)
        return None

    def _bundle(self, key: str) -> QIcon | None:
        sort, _, name = key.partition(":")
        colour = self.desk.base.colours.get(name) if sort == "wool" else None
        return QIcon(bundle(colour, loose=True)) if colour else None

    def _cell_text(self, one: Shelved, column: int, role: int) -> str:
        units = self.studio.units
        if column == WHAT:
            return self.studio.say(one.what)
        if column == LEFT:
            if one.left is None:
                return tr("not counted") if role == Qt.ItemDataRole.DisplayRole else ""
            return show_amount(one.left, one.unit, units)
        if column == PRICE:
            if one.price is None:
                return ""
            told = self.desk.base.money_text(one.price, units)
            if role == Qt.ItemDataRole.EditRole:
                return told
            return tr("{price}, {per}", price=told, per=self._price_unit(one))
        if column == TAKES:
            takes = self.takes.get(one.key)
            unit = "mm" if one.key.startswith("wire:") else one.unit
            return "" if takes is None else show_amount(takes, unit, units)
        return one.shop if column == SHOP else one.lot

    def _price_unit(self, one: Shelved) -> str:
        """Return the unit a price is for."""
        much = show_amount(one.per, one.unit, self.studio.units)
        return tr(_PER[one.key.partition(":")[0]], much=much)

    def setData(self, index: QModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        one, text = self.rows[index.row()], str(value).strip()
        try:
            new: Any = text
            if index.column() == LEFT:
                new = parse_amount(text, one.unit, self.studio.units) if text else None
            elif index.column() == PRICE:
                new = float(parse_money(text, self.desk.base.currency)) if text else None
            changed = with_shelved(self.desk.base, one.key, **{_FIELDS[index.column()]: new})
        except QuantityError as error:
            self.studio.refuse(error)
            return False
        except ValidationError:
            told = tr("Stock must be 0 to 1000 kg or 1000 m, and a shop’s name at most 80 letters.")
            self.studio.refuse(ValueError(told))
            return False
        return self.desk.put_bench(changed)


class WholeShelf(FittedDialog):
    """The table as a dialog."""

    def __init__(self, parent: QWidget, studio: EditorSession, desk: BenchDesk) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("The whole shelf"))
        self.model = ShelfModel(studio, desk)
        self.table = QTableView()
        self.table.setModel(self.model)
        self.table.setAccessibleName(tr("The whole shelf"))
        self.table.setTabKeyNavigation(False)
        lay_as_shelf(self.table)
        told = QLabel(
            tr(
                "Type what you have, what it costs and where it came from: the shopping list "
                "follows, shop by shop. What a figure used is booked off on its page in the "
                "book."
            )
        )
        told.setWordWrap(True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (told, self.table, buttons):
            column.addWidget(widget)
        column.setStretch(1, 1)
        wide = self.fontMetrics().averageCharWidth() * 135
        self.resize(min(wide, parent.width()), self.fontMetrics().height() * 32)

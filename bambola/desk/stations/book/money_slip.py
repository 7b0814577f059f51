"""What a figure costs, line by line with prices; the price that covers it, and the hourly wage."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from datetime import date
from decimal import Decimal

from pydantic import ValidationError
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QGridLayout, QLabel, QLineEdit, QToolButton, QWidget

from bambola.core.bench import Bench
from bambola.core.bench.money import Money
from bambola.core.bench.shelved import find_shelf_item, left_of, with_shelved
from bambola.core.book.booking import to_book
from bambola.core.book.came_out import joins_held
from bambola.core.book.costing import Cost, CostLine, cost_of, likely_cost, wool_used
from bambola.core.book.kept import uses_as_told, with_prices_then
from bambola.core.plan import Plan
from bambola.core.quantities import (
    QuantityError,
    parse_amount,
    parse_money,
    show_length,
    show_mass,
)
from bambola.core.words import error_words
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.learned import held_words, hours_words
from bambola.desk.kit.paper import SheetWidgets
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.book.reading import OpenPage
from bambola.language import N_, tr

_SHORT = {
    "wool": N_("a pack"),
    "eyes": N_("one"),
    "wire": N_("a piece"),
    "stuff": N_("a metre"),
    "needle": N_("one"),
    "glue": N_("a bottle"),
    "rate": N_("an hour"),
}
"""What an empty field waits for the price of."""
MOST_USED = 1_000_000


class MoneySlip(SheetWidgets):
    """The costs of a making, or of the open figure. Prices are stored on the bench, for all figures."""

    def __init__(self, studio: EditorSession, theme: Theme, desk: BenchDesk) -> None:
        super().__init__(theme, tr("What it costs"))
        self.studio, self.desk = studio, desk
        self.page: OpenPage | None = None
        self._plan: Plan | None = None
        self.asked: Decimal | None = None
        """The price that is tried for the figure on the table."""
        self._title = self.label(tr("What it costs"))
        self._table = QWidget()
        self._grid = QGridLayout(self._table)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setColumnStretch(0, 1)
        self.box.addWidget(self._table)
        self.fields: dict[str, QLineEdit] = {}
        """The prices that can be typed, by ``wool:woad``, ``rate``, ``price`` and the like."""
        self.amounts: dict[str, QLineEdit] = {}
        """What was really used of a thing, by the same names; only of what was made."""
        self.told: dict[str, QLabel] = {}
        """The amounts, by the same names, and by ``total``, ``covers``, ``margin``, ``hourly``."""
        self.sold = QCheckBox(tr("sold"))
        make_switch(self.sold, self._save_sale)
        self.box.addWidget(self.sold)
        self.booked = QCheckBox(tr("what it took besides wool is off the shelf"))
        make_switch(self.booked, self._save_booking)
        self.box.addWidget(self.booked)
        self.range, self.unpriced = self.label(), self.label()
        self.taught = QToolButton()
        self.taught.setText(tr("What your makings have taught Bambola"))
        self.taught.setCheckable(True)
        self.taught.toggled.connect(lambda on: self.hours.setVisible(on))
        self.box.addWidget(self.taught)
        self.hours = self.label()
        self.hours.hide()
        self.fault = self.label()
        self.fault.hide()
        self.box.addStretch(1)
        self._shape: tuple[str, ...] = ()
        set_role(self._title, "title")
        set_role(self.fault, tone="warning")
        set_role(self.hours, "note", "quiet")
        set_role(self.unpriced, tone="quiet")
        self._apply_theme()

    def restyle(self) -> None:
        self._grid.setHorizontalSpacing(self.theme.px(8))
        self._grid.setVerticalSpacing(self.theme.px(3))
        room = self.fontMetrics().horizontalAdvance(
            self.desk.base.money_text(9999.0)
        ) + self.theme.px(22)
        for field in self.fields.values():
            field.setFixedWidth(room)
        for field in self.amounts.values():
            field.setFixedWidth(
                self.fontMetrics().horizontalAdvance("99999 mm") + self.theme.px(14)
            )
        for name in ("total", "covers", "hourly"):
            if name in self.told:
                set_role(self.told[name], "amount")

    # What is shown

    def show_plan(self, plan: Plan | None, page: OpenPage | None) -> None:
        """Show the cost of a plan; of a making, what was really spent."""
        if (page and page.name) != (self.page and self.page.name):
            self.asked = None
        self._plan, self.page = plan, page
        self.setVisible(plan is not None)
        self.refresh()

    def cost(self) -> Cost | None:
        """Return the cost shown."""
        plan, page = self._plan, self.page
        if plan is None:
            return None
        if page is None:
            return cost_of(plan, self.desk.base)
        then, making, bench = page.then, page.making, self._priced
        told = uses_as_told(plan, bench, making.kept)
        if not making.finished or not making.spent:
            return cost_of(plan, bench, used=told)
        weighed = self.desk.weighed_for(page.name)
        used = told | wool_used(plan, then or self.studio.bench, weighed) | making.used
        return cost_of(plan, bench, making.spent, used)

    @property
    def _priced(self) -> Bench:
        """The bench with the prices that count for what is shown."""
        then = self.page.then if self.page else None
        return with_prices_then(self.desk.base, then) if then else self.desk.base

    def refresh(self) -> None:
        """Update the slip."""
        cost, bench = self.cost(), self.desk.base
        if cost is None:
            return
        self._create_rows(cost)
        units, money = self.studio.units, cost.money

        def tell(name: str, amount: Decimal | None) -> None:
            self.told[name].setText("–" if amount is None else bench.money_text(amount, units))

        priced = self._priced
        for line in cost.lines:
            known = find_shelf_item(priced, line.key)
            self._fill_field(line.key, known.price if known else None)
            tell(line.key, line.price)
            used = self.amounts.get(line.key)
            if used is not None and not (used.hasFocus() and used.isModified()):
                used.setText(self.studio.say(line.amount_text))
        self._fill_field("rate", money.rate)
        tell("rate", cost.work)
        for name, amount in (("small", cost.small), ("packing", cost.packing)):
            self._fill_field(name, getattr(money, name))
            tell(name, amount)
        self._fill_field("overheads", money.overheads, tr("%"))
        tell("overheads", cost.overheads)
        tell("total", cost.total)
        likely = self._likely_range(cost)
        self.range.setText(likely)
        self.range.setVisible(bool(likely))
        self._fill_field("fees", money.fees, tr("%"))
        tell("fees", cost.sold_at(cost.covers).fees)
        tell("covers", cost.covers)
        price = self.page.making.price if self.page else self.asked
        self._fill_field("price", price)
        sale = cost.sold_at(price) if price is not None else None
        fees = bench.money_text(sale.fees, units) if sale else ""
        self.told["price"].setText(tr("fees {amount}", amount=fees) if sale else "")
        tell("margin", sale.margin if sale else None)
        tell("hourly", sale.hourly if sale else None)
        for name in ("margin", "hourly"):
            self.told[name].setVisible(sale is not None)
            self._names[name].setVisible(sale is not None)
        self.sold.setVisible(self.page is not None and bool(self.page.making.finished))
        show_switch(self.sold, self.page is not None and self.page.making.sold is not None)
        page, plan = self.page, self._plan
        wanted = self._to_book() if plan is not None and page is not None else {}
        counted = any(left_of(bench, key) > 0 for key in wanted if key.count(":") == 1)
        counted = counted or bool(page and page.making.booked)
        self.booked.setVisible(bool(page and page.making.finished) and counted)
        show_switch(self.booked, bool(page and page.making.booked))
        learned = [e for e in self.desk.estimates if e.what.partition(":")[0] == "pace"]
        told = [
            *map(hours_words, learned),
            *map(held_words, joins_held(self.desk.makings.values())),
        ]
        self.hours.setText("\n".join(told))
        self.taught.setVisible(bool(told))
        self.hours.setVisible(bool(told) and self.taught.isChecked())
        missing = bool(cost.unpriced) or cost.work is None
        self.unpriced.setVisible(missing)
        self.unpriced.setText(
            tr("Things without a price are not counted yet: type it beside the line.")
        )

    def _likely_range(self, cost: Cost) -> str:
        """Return the likely range of the sum; empty if it was really spent or nothing is uncertain."""
        if self._plan is None or (self.page is not None and self.page.making.finished):
            return ""
        bench, units = self.desk.base, self.studio.units
        low, high = likely_cost(self._plan, self.studio.bench, cost, self.desk.estimates)
        if low == high:
            return ""
        told = {"low": bench.money_text(low, units), "high": bench.money_text(high, units)}
        return tr("Nine times in ten it costs from {low} to {high}.", **told)

    def _create_rows(self, cost: Cost) -> None:
        """Create the rows, if they differ from before."""
        say = self.studio.say
        rows: list[tuple[str, str, str]] = []
        was_made = self.page is not None and bool(self.page.making.finished)
        for line in cost.lines:
            words = tr("{what}, {used}", what=say(line.what), used=say(line.amount_text))
            rows.append((line.key, say(line.what) if was_made else words, self._price_unit(line)))
        hours = tr("{hours:.1f} h of work", hours=cost.minutes / 60)
        rows += [
            ("rate", hours, tr("an hour")),
            ("small", tr("glue and small things"), tr("a figure")),
            ("packing", tr("packing"), tr("a figure")),
            ("overheads", tr("overheads"), tr("all stuff and work, per cent")),
            ("total", tr("together"), ""),
            ("fees", tr("fees on the price"), tr("selling, per cent of it")),
            ("covers", tr("the price that covers it"), ""),
            ("price", tr("sold at"), tr("all of them")),
            ("margin", tr("beyond the cost"), ""),
            ("hourly", tr("an hour earns"), ""),
        ]
        shape = (str(was_made), *(name for name, *_ in rows))
        if shape != self._shape:
            self._shape = shape
            self._clear_rows()
            lines = {line.key: line for line in cost.lines if was_made}
            for n, (name, _, per) in enumerate(rows):
                self._add_row(n, name, per, lines.get(name))
            row_by_row = (
                field
                for name in self.fields
                for field in (self.amounts.get(name), self.fields[name])
                if field is not None
            )
            for one, following in itertools.pairwise([*row_by_row, self.sold, self.booked]):
                QWidget.setTabOrder(one, following)
            self.restyle()
        for name, words, per in rows:
            self._names[name].setText(words)
            if name in self.amounts:
                self.amounts[name].setAccessibleName(tr("used: {what}", what=words))
            if name in self.fields:
                self.fields[name].setAccessibleName(f"{words}: {per}")
                self.fields[name].setToolTip(tr("the price of {what}", what=per))
                self.fields[name].setPlaceholderText(tr(_SHORT.get(name.partition(":")[0], "")))

    def _clear_rows(self) -> None:
        while self._grid.count():
            item = self._grid.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None:
                widget.deleteLater()
        self.fields, self.amounts, self.told = {}, {}, {}
        self._names: dict[str, QLabel] = {}

    def _add_row(self, n: int, name: str, per: str, line: CostLine | None) -> None:
        words, amount = QLabel(), QLabel()
        words.setWordWrap(True)
        amount.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._grid.addWidget(words, n, 0)
        if line is not None:
            used = QLineEdit()
            used.setAlignment(Qt.AlignmentFlag.AlignRight)
            used.setToolTip(tr("how much was really used; empty, as planned or weighed"))
            used.editingFinished.connect(lambda: self._save_used(line, used))
            self._grid.addWidget(used, n, 1)
            self.amounts[name] = used
        if per:
            field = QLineEdit()
            field.setAlignment(Qt.AlignmentFlag.AlignRight)
            field.editingFinished.connect(lambda: self._save_price(name, field))
            self._grid.addWidget(field, n, 2)
            self.fields[name] = field
        self._grid.addWidget(amount, n, 3)
        self._names[name] = words
        self.told[name] = amount

    def _price_unit(self, line: CostLine) -> str:
        """Return the unit of a price."""
        bench, units = self.desk.base, self.studio.units
        known, sort = find_shelf_item(bench, line.key), line.key.partition(":")[0]
        if known is None:
            return ""
        match sort:
            case "wool":
                return tr("a pack of {grams}", grams=show_mass(known.per, units))
            case "wire":
                long = next(s.length for s in bench.wire_stock if f"wire:{s.id}" == line.key)
                return tr("a piece of {long}", long=show_length(long, units))
            case "stuff":
                return tr("a metre, or 100 g")
            case "glue":
                return tr("a bottle of {grams}", grams=show_mass(known.per, units))
            case _:
                return tr("one of them")

    def _fill_field(self, name: str, amount: Decimal | float | None, unit: str = "") -> None:
        field = self.fields.get(name)
        if field is None or field.hasFocus():
            return
        if amount is None:
            field.setText("")
        elif unit:
            field.setText(f"{amount.normalize():f} {unit}" if isinstance(amount, Decimal) else "")
        else:
            field.setText(self.desk.base.money_text(amount, self.studio.units))

    # What is typed

    def _save_price(self, name: str, field: QLineEdit) -> None:
        if not field.isModified():
            return
        field.setModified(False)
        try:
            text = field.text().replace("%", "").strip()
            amount = parse_money(text, self.desk.base.currency) if text else None
            self._keep_amount(name, amount)
        except QuantityError as error:
            self._show_refusal(error_words(error, self.studio.words))
            return
        except ValidationError:
            self._show_refusal(tr("Fees lie from 0 to below 100 per cent, overheads up to 1000."))
            return
        self.fault.hide()
        self.refresh()

    def _show_refusal(self, words: str) -> None:
        self.fault.setText(words)
        self.fault.show()

    def _keep_amount(self, name: str, amount: Decimal | None) -> None:
        if name == "price":
            self.asked = amount
            if self.page is not None:
                self.desk.change_making(self.page.name, price=amount)
            return
        if name in Money.model_fields:
            told = amount if amount is not None or name == "rate" else Decimal(0)
            self._keep_prices(lambda one: _with_money(one, name, told))
            return
        price = None if amount is None else float(amount)
        self._keep_prices(lambda one: with_shelved(one, name, price=price))

    def _keep_prices(self, change: Callable[[Bench], Bench]) -> None:
        """Save a price on the bench, and on that which the making shown was told by."""
        self.desk.put_bench(change(self.desk.base))
        then = self.page.then if self.page else None
        if self.page is not None and then is not None:
            told = change(then).model_dump_json(exclude_defaults=True)
            self.desk.change_making(self.page.name, bench=told)

    def _save_used(self, line: CostLine, field: QLineEdit) -> None:
        """Save what was really used of a thing."""
        if not field.isModified() or self.page is None:
            return
        field.setModified(False)
        text = field.text().strip()
        kept = self.desk.book.making(self.page.name).used
        used = {key: much for key, much in kept.items() if key != line.key}
        try:
            if text:
                used[line.key] = parse_amount(text, line.unit, self.studio.units)
            if not 0 <= used.get(line.key, 0.0) <= MOST_USED:
                raise QuantityError(tr("The amount used must be 0 to 1000 kg or 1000 m."))
        except QuantityError as error:
            self._show_refusal(error_words(error, self.studio.words))
            return
        self.fault.hide()
        self.desk.change_making(self.page.name, used=used)

    def _to_book(self) -> dict[str, float]:
        """Return what the selected making took off the shelf besides wool."""
        assert self._plan is not None and self.page is not None
        return to_book(self._plan, self.desk.base, self.page.making.used)

    def _save_booking(self, on: bool) -> None:
        if self.page is not None and self._plan is not None:
            self.desk.book_stuff(self.page.name, self._to_book() if on else {})

    def _save_sale(self, on: bool) -> None:
        if self.page is not None:
            day = date.today().isoformat() if on else None
            self.desk.change_making(self.page.name, sold=day)


def _with_money(bench: Bench, name: str, amount: Decimal | None) -> Bench:
    """Return the bench with one part of how a price is reckoned. Raises ``ValidationError``."""
    money = Money.model_validate({**bench.money.model_dump(), name: amount})
    return bench.replaced(money=money)

"""The card of the selected wool: its stock, its learned numbers and their records, and what to buy."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Wool
from bambola.core.export.wool_text import shopping_lines
from bambola.core.facts import Fact
from bambola.core.plan import Plan
from bambola.core.quantities import (
    QuantityError,
    parse_mass,
    parse_money,
    show_density,
    show_mass,
    show_number,
)
from bambola.core.wool.learning import Estimate
from bambola.core.words import error_words
from bambola.core.words.saying import SENTENCES
from bambola.demo import sample_shelf
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.flow import discard
from bambola.desk.kit.paper import SheetWidgets
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.shelf import Boards
from bambola.language import N_, tr, trn

FORMS = ("batt", "top", "core", "locks", "blend")
_WORDS = {
    "density": N_("packed"),
    "start": N_("rolled"),
    "cover": N_("cover × asked"),
    "loss": N_("lost"),
    "along": N_("shrinks along"),
    "pace": N_("time × planned"),
}


class WoolCard(SheetWidgets):
    """The card: heap, numbers, and the records behind them."""

    def __init__(
        self, studio: EditorSession, theme: Theme, desk: BenchDesk, boards: Boards
    ) -> None:
        super().__init__(theme, tr("Selected wool"))
        self.studio, self.desk, self.boards = studio, desk, boards
        self._title = self.label()
        grid = QGridLayout()
        self.grams, self.pack, self.price = (
            self._make_field(n)
            for n in (tr("Grams left"), tr("Grams in a pack"), tr("Price of a pack"))
        )
        self.metre = self._make_field(tr("What a metre of it weighs"))
        self.metre.setToolTip(
            tr("Weigh one metre once: short pieces can then be given as a length")
        )
        self.form = QComboBox()
        self.form.setAccessibleName(tr("Form"))
        for form in FORMS:
            self.form.addItem(studio.say(Fact(f"wool-form.{form}")), form)
        self.form.activated.connect(self._save_fields)
        self._names = [
            QLabel(n)
            for n in (
                tr("there"), tr("in a pack"), tr("a pack costs"), tr("form"), tr("a metre weighs"),
            )
        ]  # fmt: skip
        for row, (name, field) in enumerate(
            zip(
                self._names,
                (self.grams, self.pack, self.price, self.form, self.metre),
                strict=True,
            )
        ):
            grid.addWidget(name, row, 0)
            grid.addWidget(field, row, 1)
        self.box.addLayout(grid)
        self.scraps, self.felts = (
            QCheckBox(tr("scraps of mixed colours")),
            QCheckBox(tr("it felts")),
        )
        for check in (self.scraps, self.felts):
            make_switch(check, lambda _: self._save_fields())
            self.box.addWidget(check)
        self._known_head, self._known = self.label(tr("What is known about it")), self.label()
        self._records = QVBoxLayout()
        self.box.addLayout(self._records)
        self.swatch = QPushButton(tr("Felt a swatch…"))
        self.swatch.setToolTip(
            tr("Roll 2 g, measure, felt it, measure: your own numbers in ten minutes")
        )
        self.box.addWidget(self.swatch, 0, Qt.AlignmentFlag.AlignLeft)
        self.heap = QPushButton(tr("Weigh the heap…"))
        self.heap.setToolTip(tr("Wool that has gone since it was counted was used for this figure"))
        self.box.addWidget(self.heap, 0, Qt.AlignmentFlag.AlignLeft)
        self.box.addStretch(1)
        self.rows: list[QCheckBox] = []
        studio.selection.wool_changed.connect(self.refresh)
        desk.changed.connect(self.refresh)
        for signal in (studio.plan_changed, studio.units_changed):
            signal.connect(self.refresh)
        set_role(self._title, "title")
        set_role(self._known_head, "subtitle")
        for label in (self._known, *self._names):
            set_role(label, "small")
        set_role(self._known, tone="quiet")
        self._apply_theme()

    def _make_field(self, name: str) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(name)
        field.editingFinished.connect(self._save_fields)
        return field

    def restyle(self) -> None:
        for field in (self.grams, self.pack, self.price, self.metre):
            set_role(field, "strong")
            field.setMinimumWidth(self.theme.px(56))
        self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def _starting_wool(self) -> Wool | None:
        """Return the selected wool with its starting values, from the database."""
        wool = self.boards.wool
        return self.desk.base.wool_by_id.get(wool.id) if wool else None

    def refresh(self) -> None:
        """Show the selected wool."""
        wool, units = self._starting_wool(), self.studio.units
        if wool is None or not self.isVisible():
            return
        self._title.setText(wool.name)
        self.grams.setText("" if wool.grams is None else show_mass(wool.grams, units))
        self.grams.setPlaceholderText(tr("count it"))
        self.pack.setText(show_mass(wool.pack_g, units))
        self.metre.setText("" if wool.metre_g is None else show_mass(wool.metre_g, units))
        self.metre.setPlaceholderText(tr("weigh one"))
        for widget in (self._names[-1], self.metre):
            widget.setVisible(wool.form == "top")
        self.price.setText(
            "" if wool.price is None else self.desk.base.money_text(wool.price, units)
        )
        self.form.setCurrentIndex(FORMS.index(wool.form))
        show_switch(self.scraps, wool.scraps)
        show_switch(self.felts, wool.felts)
        mine = [e for e in self.desk.estimates if e.wool == wool.id]
        named = {e.what for e in mine}
        of_any = [
            e
            for e in self.desk.estimates
            if not e.wool and e.what.startswith("loss") and e.what not in named
        ]
        self._known.setText(
            "\n".join(_known_words(e, self.studio) for e in (*mine, *of_any))
            or (
                tr(
                    "These are starting values and may be off by a fifth. Felt a swatch or log a "
                    "piece, and your own numbers take over."
                )
            )
        )
        self._show_records(wool, {n for e in mine for n in e.doubtful})

    def _show_records(self, wool: Wool, doubtful: set[int]) -> None:
        for row in self.rows:
            discard(row)
        self.rows = []
        mine = [r for r in self.desk.records if r.wool == wool.id][-6:]
        for record in reversed(mine):
            told = f"{record.day}  {record.part}: {show_mass(record.grams_in, self.studio.units)}"
            if record.n in doubtful:
                told += tr("  looks like a slip")
            row = QCheckBox(told)
            row.setToolTip(tr("Learn from it; unticked, it is kept but not used"))
            set_role(row, "small")
            make_switch(row, lambda on, r=record: self.desk.set_aside(r, not on))
            show_switch(row, not record.aside)
            self._records.addWidget(row)
            self.rows.append(row)

    def _save_fields(self) -> None:
        """Save the edited fields, if possible."""
        wool = self._starting_wool()
        if wool is None or not self.isVisible():
            return
        try:
            changed = Wool.model_validate(
                {
                    **wool.model_dump(),
                    "grams": self._parse_mass_or(self.grams, None),
                    "pack_g": self._parse_mass_or(self.pack, wool.pack_g),
                    "metre_g": self._parse_mass_or(self.metre, None),
                    "price": self._parse_price(),
                    "form": self.form.currentData(),
                    "scraps": self.scraps.isChecked(),
                    "felts": self.felts.isChecked(),
                }
            )
        except ValueError as error:
            text = (
                error_words(error, self.studio.words)
                if isinstance(error, QuantityError)
                else (
                    tr(
                        "{name}: grams and price must be 0 or more, and a pack above 0.",
                        name=wool.name,
                    )
                )
            )
            self.studio.refused.emit(text)
            self.refresh()
            return
        if changed != wool and not self._only_rounded(wool, changed):
            self.desk.put_wool(changed)

    def _only_rounded(self, wool: Wool, changed: Wool) -> bool:
        """Return whether the fields merely show the saved values rounded."""
        units = self.studio.units

        def shown(of: Wool) -> tuple[object, ...]:
            grams = None if of.grams is None else show_mass(of.grams, units)
            price = None if of.price is None else round(of.price, 2)
            metre = None if of.metre_g is None else show_mass(of.metre_g, units)
            return grams, show_mass(of.pack_g, units), price, metre, of.form, of.scraps, of.felts

        return shown(wool) == shown(changed)

    def _parse_mass_or(self, field: QLineEdit, empty: float | None) -> float | None:
        text = field.text().strip()
        return parse_mass(text, self.studio.units.mass) if text else empty

    def _parse_price(self) -> float | None:
        text = self.price.text().strip()
        return float(parse_money(text, self.desk.base.currency)) if text else None


def _known_words(found: Estimate, studio: EditorSession) -> str:
    name, _, of = found.what.partition(":")

    def shown(x: float) -> str:
        if name in ("density", "start"):
            return show_density(x, studio.units)
        return f"{x * 100:.0f} %" if name == "loss" else show_number(x, studio.units)

    kind = f"{'portion' if name == 'loss' else 'firmness'}.{of.replace(' ', '-')}"
    what = tr(_WORDS[name]) if found.wool else tr("lost of any wool")
    if of and Fact(kind).kind in SENTENCES:
        what = tr("{what} ({of})", what=what, of=studio.say(Fact(kind)))
    return trn(
        "{what}: {value} ({low} to {high}), from {n} piece; starting value {start}",
        "{what}: {value} ({low} to {high}), from {n} pieces; starting value {start}",
        len(found.records),
        what=what,
        value=shown(found.value),
        low=shown(found.low),
        high=shown(found.high),
        start=shown(found.start),
    )


class ShoppingSlip(SheetWidgets):
    """What to buy, in packs with prices; and what was weighed, to be deducted."""

    def __init__(
        self, studio: EditorSession, theme: Theme, desk: BenchDesk, boards: Boards
    ) -> None:
        super().__init__(theme, tr("Shopping"))
        self.studio, self.desk, self.boards = studio, desk, boards
        self._head, self._list = self.label(tr("To buy")), self.label()
        self._instead, self._weighed = self.label(), self.label()
        buttons = QWidget()
        row = QVBoxLayout(buttons)
        row.setContentsMargins(0, 0, 0, 0)
        self.sample = QPushButton(tr("Fill it with a sample shelf"))
        self.sample.setToolTip(
            tr("Invented stock and prices, to see how it works; replace them with your own")
        )
        self.sample.clicked.connect(lambda _=False: desk.put_bench(sample_shelf(desk.base)))
        self.book, self.back = (
            QPushButton(tr("Book it off the shelf")),
            QPushButton(tr("Put it back")),
        )
        self.book.clicked.connect(lambda _=False: desk.book_off())
        self.back.clicked.connect(lambda _=False: desk.put_back())
        row.addWidget(self.sample, 0, Qt.AlignmentFlag.AlignLeft)
        row.addWidget(self.book, 0, Qt.AlignmentFlag.AlignLeft)
        row.addWidget(self.back, 0, Qt.AlignmentFlag.AlignLeft)
        self.box.addWidget(buttons)
        desk.changed.connect(self.refresh)
        for signal in (studio.plan_changed, studio.units_changed):
            signal.connect(self.refresh)
        set_role(self._head, "title")
        set_role(self._list, "body")
        for label in (self._instead, self._weighed):
            set_role(label, "small")
        set_role(self._instead, tone="quiet")
        self._apply_theme()

    def restyle(self) -> None:
        self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show what to buy."""
        plan, units = self.studio.plan, self.studio.units
        if plan is None or not self.isVisible():
            return
        self._list.setText(self._to_buy(plan))
        names = self.studio.bench.wool_by_id
        instead = [
            tr(
                "{name:lower} on the shelf would do for {other:lower}.",
                name=tr(" or ").join(names[w].name for w in total.instead[:2]),
                other=total.name,
            )
            for total in plan.wools
            if total.buy_g > 0 and total.instead
        ]
        self._instead.setText(" ".join(s[:1].upper() + s[1:] for s in instead))
        self._instead.setVisible(bool(instead))
        rows = self.desk.weighed.values()
        waiting = sum(r.grams for r in rows if r.state == "weighed")
        booked = sum(r.grams for r in rows if r.state == "booked")
        counted = any(wool.grams is not None for wool in self.desk.base.wools)
        told = {
            tr(
                "Nothing on the shelf is counted yet: double-click a heap and type what is there."
            ): not counted,
            tr(
                "{grams} weighed out, not yet off the shelf.", grams=show_mass(waiting, units)
            ): waiting > 0,
            tr("{grams} booked off.", grams=show_mass(booked, units)): booked > 0,
        }
        self._weighed.setText(" ".join(words for words, holds in told.items() if holds))
        self._weighed.setVisible(any(told.values()))
        self.sample.setVisible(not counted)
        self.book.setVisible(waiting > 0)
        self.back.setVisible(booked > 0)

    def _to_buy(self, plan: Plan) -> str:
        """Return what to buy, a line each, and the total price."""
        lines = shopping_lines(plan, self.studio.bench, self.studio.words)
        return "\n".join(lines) or tr("Nothing: you have everything on the shelf.")

"""The card of the current portion: where its number comes from, how to make it, and mending while making."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QToolButton, QWidget

from bambola.core.bench import Record
from bambola.core.bench.wools import Size3
from bambola.core.facts import Fact
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.plan.counter.carry_on import FeltedWool, record_of
from bambola.core.plan.counter.weighing import Weighing, pair_advice
from bambola.core.quantities import (
    QuantityError,
    parse_length,
    parse_mass,
    show_length,
    show_mass,
)
from bambola.core.wool import portion_name
from bambola.core.wool.amounts import is_pinch
from bambola.core.wool.pan import Mending, mend
from bambola.desk.kit.card_rows import how_sure
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.paper import SheetWidgets, labelled
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.hand import WoolHand, pinch_across
from bambola.language import N_, tr

CARE = N_(
    "Barbed needles pierce deep: eyes on the point, free hand behind or guarded. A dusty wool wants a mask; "
    "raw fleece is washed first."
)


class PortionCard(SheetWidgets):
    """The card: the portion above, the piece as it is now below."""

    def __init__(self, studio: EditorSession, theme: Theme, hand: WoolHand) -> None:
        super().__init__(theme, tr("Selected portion"))
        self.studio, self.hand = studio, hand
        self._title, self._take, self._roll = self.label(), self.label(), self.label()
        self.ask_why = QToolButton()
        self.ask_why.setText(tr("Why so much?"))
        self.ask_why.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.ask_why.setCheckable(True)
        self.ask_why.toggled.connect(self._fold_details)
        self.box.addWidget(self.ask_why)
        self._why, self._twin, self._mix = self.label(), self.label(), self.label()
        self._fold_details(False)
        self._mend_head = self.label(tr("The piece as it is now"))
        self._ask = self.label()
        self._short_names: dict[QLineEdit, str] = {}
        self.along, self.across, self.through, self.grams, self.trimmed, self.minutes = (
            self._make_field(name, short)
            for name, short in (
                (tr("Along"), tr("along")),
                (tr("Across"), tr("across")),
                (tr("Through"), tr("through")),
                (tr("Wool in it"), tr("wool")),
                (tr("Trimmed off"), tr("trimmed")),
                (tr("Minutes"), tr("minutes")),
            )
        )
        for fields in (
            (self.along, self.across, self.through),
            (self.grams, self.trimmed, self.minutes),
        ):
            row = QHBoxLayout()
            for field in fields:
                row.addLayout(labelled(self._short_names[field], field))
            self.box.addLayout(row)
        self.advice = self.label()
        under = QWidget()
        buttons = FlowLayout(under)  # one below the other where large text leaves no room
        self.ask_mend, self.log = QPushButton(tr("What to do?")), QPushButton(tr("Log this piece"))
        self.ask_mend.clicked.connect(self.mend)
        self.log.clicked.connect(self.log_piece)
        self.log.setToolTip(
            tr("Save size and weight as a record: your own numbers are learned from it")
        )
        buttons.addWidget(self.ask_mend)
        buttons.addWidget(self.log)
        self.box.addWidget(under)
        self.box.addStretch(1)
        self._care = self.label(tr(CARE))
        self._shown = ""
        hand.changed.connect(self.refresh)
        studio.units_changed.connect(self.refresh)
        set_role(self._title, "title")
        set_role(self._take, "figure", "warning")
        for label in (self._roll, self._twin, self._mix, self.advice):
            set_role(label, "body")
        set_role(self._mend_head, "subtitle")
        set_role(self.ask_why, "note")
        for label in (self._why, self._ask, self._care):
            set_role(label, "small")
        set_role(self._why, tone="quiet")
        set_role(self._ask, tone="quiet")
        set_role(self._care, tone="warning")
        self._apply_theme()

    def _fold_details(self, shown: bool) -> None:
        """Fold density, volume and losses, which only some makers read."""
        self.ask_why.setArrowType(Qt.ArrowType.DownArrow if shown else Qt.ArrowType.RightArrow)
        self._why.setVisible(shown)

    def _make_field(self, name: str, short: str) -> QLineEdit:
        field = QLineEdit()
        self._short_names[field] = short
        field.setAccessibleName(name)
        field.setToolTip(name)
        field.returnPressed.connect(self.mend)
        return field

    def restyle(self) -> None:
        self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show the current portion."""
        if not self.isVisible():
            return
        now, plan, units = self.hand.current, self.studio.plan, self.studio.units
        if now is None or plan is None:
            self._title.setText(tr("There is no wool to weigh out."))
            return
        say = self.studio.say
        p, wool = now.portion, self.studio.bench.wool_by_id[now.portion.wool]
        self._title.setText(f"{say(now.title)}: {say(portion_name(p))}")
        self._take.setText(
            tr(
                "Use {take} of {name:lower}; keep another {keep_by} beside you for topping up",
                take=show_mass(p.take_g, units),
                name=wool.name,
                keep_by=show_mass(p.keep_by_g, units),
            )
        )
        if is_pinch(p):
            told = tr(
                "Take a pinch of {name:lower} that rolls to a ball of {across}",
                name=wool.name,
                across=pinch_across(p, units),
            )
            self._take.setText(told)
        elif p.tear is not None:
            self._take.setText(
                tr(
                    "Weigh {weigh} of {name:lower} and tear it into {parts}: one is {take}",
                    weigh=show_mass(p.tear.weigh_g, units),
                    name=wool.name,
                    parts=p.tear.parts,
                    take=show_mass(p.take_g, units),
                )
            )
        self._roll.setText(self._rolled_text(now))
        self._why.setText(
            tr(
                "{grams} stays in the figure: {why}. Handling loss {lost:.0f} %. From {how_sure}.",
                grams=show_mass(p.grams, units),
                why=say(p.why),
                lost=wool.lost_share(p.role) * 100,
                how_sure=how_sure(p),
            )
        )
        advice = say(pair_advice(plan.part(now.part), p))
        self._twin.setText(advice)
        self._twin.setVisible(bool(advice))
        mix = next((m for m in plan.mixes if m.wool == p.wool), None)
        if mix is not None:
            names = self.studio.bench.wool_by_id
            parts = ", ".join(
                tr(
                    "{n} of {name:lower} ({weight})",
                    n=n,
                    name=names[w].name,
                    weight=show_mass(g, units),
                )
                for w, g, n in mix.parts
            )
            self._mix.setText(
                tr(
                    "Mix {grams}, by handfuls: {parts}. {how_to_mix}",
                    grams=show_mass(mix.grams, units),
                    parts=parts,
                    how_to_mix=say(Fact("how-to-mix")),
                )
            )
        self._mix.setVisible(mix is not None)
        self._refresh_mending(now)

    def _rolled_text(self, now: Weighing) -> str:
        p, units = now.portion, self.studio.units
        if p.form == "veil":
            across = show_length(p.loose_mm["across"], units)
            return tr(
                "Rolled loosely into a ball it is {across} across; pull it into thin veils.",
                across=across,
            )
        loose = " × ".join(show_length(mm, units, with_unit=False) for mm in p.loose_mm.values())
        done = " × ".join(show_length(mm, units, with_unit=False) for mm in p.finished_mm.values())
        rolled = (
            tr("Lay a sheet of {loose} {length}; it felts to {done}.")
            if p.form == "sheet"
            else tr("Roll it to {loose} {length}; it felts to {done}.")
        )
        return rolled.format(
            loose=loose,
            length=units.length,
            done=done,
        )

    def _refresh_mending(self, now: Weighing) -> None:
        core = now.portion.role == "core" and bool(now.portion.finished_mm)
        logged = core or now.portion.role in ("coat", "inset")
        for widget in (self._ask, self.along, self.across, self.through, self.ask_mend):
            widget.setVisible(core)
        for widget in (
            self._mend_head,
            self.grams,
            self.trimmed,
            self.minutes,
            self.advice,
            self.log,
        ):
            widget.setVisible(logged)
        if now.key == self._shown or not logged:
            return
        self._shown = now.key
        units = self.studio.units
        done = self.hand.done.get(now.key)
        self.grams.setText(show_mass(done.grams, units) if done else "")
        for field in (self.along, self.across, self.through, self.trimmed, self.minutes):
            field.clear()
        self.advice.setText("")
        wanted = " × ".join(
            show_length(mm, units, with_unit=False) for mm in now.portion.finished_mm.values()
        )
        self._ask.setText(
            tr(
                "Its core is to be {wanted} {length}, along, across and through. Measure it, and ask.",
                wanted=wanted,
                length=units.length,
            )
        )

    # Mending

    def _typed_grams(self, field: QLineEdit) -> float:
        grams = parse_mass(field.text(), self.studio.units.mass)
        if not 0 <= grams <= 1_000_000:
            raise QuantityError(tr("A weight must lie between 0 and 1000 kg."))
        return grams

    def _typed_sizes(self) -> Size3:
        units = self.studio.units
        along, across, through = (
            parse_length(field.text(), units.length)
            for field in (self.along, self.across, self.through)
        )
        if not all(LEAST_MM <= mm <= 1_000_000 for mm in (along, across, through)):
            raise QuantityError(tr("Every size must lie above 0 and up to 1000 m."))
        return along, across, through

    def _wanted_core(self, now: Weighing) -> tuple[Size3, float]:
        """Return the size (mm) and volume (cm³) of the core in hand, as the plan has it."""
        along, across, through = now.portion.finished_mm.values()
        plan, bench = self.studio.plan, self.studio.bench
        assert plan is not None
        figure = plan.resized.figure
        density = bench.packed_density(figure, figure.by_id[now.part])
        return (along, across, through), now.portion.grams / density

    def mend(self) -> Mending | None:
        """Show what to do with the piece as it is."""
        now = self.hand.current
        if now is None or not now.portion.finished_mm or now.portion.grams <= 0:
            return None
        try:
            grams = self._typed_grams(self.grams)
            if grams <= 0:
                raise QuantityError(
                    tr("Enter what the piece weighs: without that nothing can be worked out.")
                )
            found = mend(grams, self._typed_sizes(), *self._wanted_core(now))
        except QuantityError as error:
            self.studio.refuse(error)
            return None
        self.advice.setText(mending_words(found, self.studio))
        return found

    def log_piece(self) -> bool:
        """Save the piece as a record: a core by its size, a coat or patch by the skin it covers."""
        now = self.hand.current
        if now is None:
            return False
        try:
            record = self._make_record(now)
        except QuantityError as error:
            self.studio.refuse(error)
            return False
        kept = self.hand.desk.add_record(record)
        if kept:
            over = (
                tr("{volume_cm3:.1f} cm³", volume_cm3=record.volume_cm3)
                if record.volume_cm3
                else tr("{area_cm2:.1f} cm² of skin", area_cm2=record.area_cm2)
            )
            self.advice.setText(
                tr(
                    "Kept: {grams} in {over}.",
                    grams=show_mass(record.grams, self.studio.units),
                    over=over,
                )
            )
        return kept

    def _make_record(self, now: Weighing) -> Record:
        plan = self.studio.plan
        assert plan is not None
        laid = self._typed_grams(self.grams)
        trimmed = self._typed_grams(self.trimmed) if self.trimmed.text().strip() else None
        if laid <= (trimmed or 0.0):
            raise QuantityError(tr("Type the grams you laid; less is trimmed off than was laid."))
        felted = FeltedWool(now.part, now.portion, can_be_weighed=True)
        size = self._typed_sizes() if felted.has_size else None
        try:
            return record_of(
                plan,
                self.studio.bench,
                felted,
                laid,
                date.today().isoformat(),
                trimmed,
                size,
                self._typed_minutes(),
            )
        except QuantityError:
            raise
        except ValueError:
            raise QuantityError(
                tr("No piece can have this size and weight: check the numbers.")
            ) from None

    def _typed_minutes(self) -> float | None:
        text = self.minutes.text().replace("min", "").replace(",", ".").strip()
        try:
            minutes = float(text) if text else None
        except ValueError:
            raise QuantityError(
                tr("“{text}” is not a number of minutes: write one such as 25.", text=text)
            ) from None
        if minutes is not None and not 0 < minutes <= 100_000:
            raise QuantityError(tr("Minutes must be above 0 and up to 100,000."))
        return minutes


def mending_words(found: Mending, studio: EditorSession) -> str:
    """Return what to do as text."""
    off = abs(found.too_big) * 100
    now = (
        tr("It is {off:.0f} % too large", off=off)
        if found.too_big > 0
        else tr("It is {off:.0f} % too small", off=off)
    )
    grams = show_mass(found.grams, studio.units)
    match found.action:
        case "right":
            return tr("It is right.")
        case "add":
            return tr("{now}: add {grams} in thin layers.", now=now, grams=grams)
        case "felt on":
            return tr("{now}: felt on, there is wool enough in it.", now=now)
        case _ if found.density_then <= found.density_now:
            return tr("{now}: cut or peel off {grams}.", now=now, grams=grams)
        case _:
            return tr(
                "{now}: cut or peel off {grams} and felt on until it is hard.", now=now, grams=grams
            )

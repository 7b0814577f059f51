"""The portion in hand: where its number comes from, how to come by it, and mending while making."""

from __future__ import annotations

from datetime import date

from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton

from bambola.core.figure import Record
from bambola.core.figure.records import Size3
from bambola.core.plan.weighing import Weighing, pair_advice
from bambola.core.quantities import QuantityError, parse_length, parse_mass, show_length, show_mass
from bambola.core.wool import HOW_TO_MIX
from bambola.core.wool.mending import Mending, mend
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme
from bambola.desk.widgets.card_rows import how_sure
from bambola.desk.widgets.paper import Paper
from bambola.desk.wool.hand import WoolHand

CARE = (
    "Barbed needles pierce deep: eyes on the point, free hand behind or guarded. A dusty wool wants a mask; "
    "raw fleece is washed first."
)


class PortionCard(Paper):
    """One sheet: the portion above, the piece as it is now below."""

    def __init__(self, studio: Studio, theme: Theme, hand: WoolHand) -> None:
        super().__init__(theme, "Portion in hand")
        self.studio, self.hand = studio, hand
        self._title, self._take, self._roll = self.label(), self.label(), self.label()
        self._why, self._twin, self._mix = self.label(), self.label(), self.label()
        self._mend_head = self.label("The piece as it is now")
        self._ask = self.label()
        row = QHBoxLayout()
        self.grams, self.along, self.across, self.through = (
            self._field(name) for name in ("Grams in it", "Along", "Across", "Through")
        )
        for field in (self.grams, self.along, self.across, self.through):
            row.addWidget(field)
        self.box.addLayout(row)
        self.advice = self.label()
        buttons = QHBoxLayout()
        self.ask_mend, self.log = QPushButton("What to do?"), QPushButton("Log this piece")
        self.ask_mend.clicked.connect(self.mend)
        self.log.clicked.connect(self.log_piece)
        self.log.setToolTip(
            "Keep grams and sizes as a record: your own numbers are learned from it"
        )
        buttons.addWidget(self.ask_mend)
        buttons.addWidget(self.log)
        buttons.addStretch(1)
        self.box.addLayout(buttons)
        self.box.addStretch(1)
        self._care = self.label(CARE)
        self._shown = ""
        hand.changed.connect(self.refresh)
        studio.units_changed.connect(self.refresh)
        self._dress()

    def _field(self, name: str) -> QLineEdit:
        field = QLineEdit()
        field.setPlaceholderText(name.split()[0].lower())
        field.setAccessibleName(name)
        field.setToolTip(name)
        field.returnPressed.connect(self.mend)
        return field

    def restyle(self) -> None:
        d = self.theme.dyes
        self._title.setFont(self.theme.title(20))
        self._take.setFont(self.theme.text(19, bold=True))
        self._take.setStyleSheet(f"color: {d.madder.name()};")
        for label in (self._roll, self._twin, self._mix, self.advice):
            label.setFont(self.theme.text(15))
        self._mend_head.setFont(self.theme.title(17))
        for label in (self._why, self._ask, self._care):
            label.setFont(self.theme.text(13))
        self._why.setStyleSheet(f"color: {d.quiet.name()};")
        self._ask.setStyleSheet(f"color: {d.quiet.name()};")
        self._care.setStyleSheet(f"color: {d.madder.name()};")
        self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Say what is in hand."""
        if not self.isVisible():
            return
        now, plan, units = self.hand.now, self.studio.plan, self.studio.units
        if now is None or plan is None:
            self._title.setText("There is no wool to weigh out.")
            return
        p, wool = now.portion, self.studio.bench.wool_by_id[now.portion.wool]
        self._title.setText(f"{now.title}: {_role(now)}")
        self._take.setText(
            f"Take {show_mass(p.take_g, units)} of {wool.name.lower()}, keep "
            f"{show_mass(p.keep_by_g, units)} by"
        )
        if p.tear is not None:
            self._take.setText(
                f"Weigh {show_mass(p.tear.weigh_g, units)} of {wool.name.lower()} and tear it into "
                f"{p.tear.parts}: one is {show_mass(p.take_g, units)}"
            )
        self._roll.setText(self._rolled(now))
        self._why.setText(
            f"{show_mass(p.grams, units)} stays in the figure: {p.why}. Handling loss "
            f"{wool.lost(p.role) * 100:.0f} %. From {how_sure(p)}."
        )
        advice = pair_advice(plan.part(now.part), p)
        self._twin.setText(advice)
        self._twin.setVisible(bool(advice))
        mix = next((m for m in plan.mixes if m.wool == p.wool), None)
        if mix is not None:
            names = self.studio.bench.wool_by_id
            parts = ", ".join(
                f"{n} of {names[w].name.lower()} ({show_mass(g, units)})" for w, g, n in mix.parts
            )
            self._mix.setText(
                f"Mix {show_mass(mix.grams, units)}, by handfuls: {parts}. {HOW_TO_MIX}"
            )
        self._mix.setVisible(mix is not None)
        self._refresh_mending(now)

    def _rolled(self, now: Weighing) -> str:
        p, units = now.portion, self.studio.units
        if p.form == "veil":
            across = show_length(p.loose_mm["across"], units)
            return f"Rolled loosely into a ball it is {across} across; pull it into thin veils."
        loose = " × ".join(show_length(mm, units, with_unit=False) for mm in p.loose_mm.values())
        done = " × ".join(show_length(mm, units, with_unit=False) for mm in p.finished_mm.values())
        verb = "Lay a sheet" if p.form == "sheet" else f"Roll a {p.form}"
        return f"{verb} of {loose} {units.length}; it felts to {done}."

    def _refresh_mending(self, now: Weighing) -> None:
        core = now.portion.role == "core" and bool(now.portion.finished_mm)
        for widget in (self._mend_head, self._ask, self.grams, self.along, self.across, self.through,
                       self.advice, self.ask_mend, self.log):  # fmt: skip
            widget.setVisible(core)
        if now.key == self._shown or not core:
            return
        self._shown = now.key
        units = self.studio.units
        done = self.hand.done.get(now.key)
        self.grams.setText(show_mass(done.grams, units) if done else "")
        for field in (self.along, self.across, self.through):
            field.clear()
        self.advice.setText("")
        wanted = " × ".join(
            show_length(mm, units, with_unit=False) for mm in now.portion.finished_mm.values()
        )
        self._ask.setText(
            f"Its core is to be {wanted} {units.length}, along, across and through. Measure it, and ask."
        )

    # Mending

    def _read(self) -> tuple[float, Size3] | None:
        units = self.studio.units
        try:
            grams = parse_mass(self.grams.text(), units.mass)
            sizes = [
                parse_length(field.text(), units.length)
                for field in (self.along, self.across, self.through)
            ]
            if not 0 < grams <= 1_000_000:
                raise QuantityError("A weight must lie above 0 and up to 1000 kg.")
            if not all(0 < mm <= 1_000_000 for mm in sizes):
                raise QuantityError("Every size must lie above 0 and up to 1000 m.")
        except QuantityError as error:
            self.studio.refused.emit(str(error))
            return None
        return grams, (sizes[0], sizes[1], sizes[2])

    def _wanted(self, now: Weighing) -> tuple[Size3, float]:
        """Size (mm) and volume (cm³) of the core in hand, as the plan has it."""
        finished = tuple(now.portion.finished_mm.values())
        plan, bench = self.studio.plan, self.studio.bench
        assert plan is not None
        figure = plan.resized.figure
        density = bench.packed_density(figure, figure.by_id[now.part])
        return (finished[0], finished[1], finished[2]), now.portion.grams / density

    def mend(self) -> Mending | None:
        """Say what is to be done with the piece as it is."""
        now, read = self.hand.now, self._read()
        if now is None or read is None:
            return None
        found = mend(read[0], read[1], *self._wanted(now))
        self.advice.setText(mending_words(found, self.studio))
        return found

    def log_piece(self) -> bool:
        """Keep the piece as a record."""
        now, read, plan = self.hand.now, self._read(), self.studio.plan
        if now is None or read is None or plan is None:
            return False
        grams, size = read
        wanted, volume = self._wanted(now)
        grown = size[0] * size[1] * size[2] / (wanted[0] * wanted[1] * wanted[2])
        done = self.hand.done.get(now.key)
        laid = done.grams if done and done.grams >= grams else grams
        kept = self.hand.desk.add_record(
            Record(
                day=date.today().isoformat(), figure=plan.figure, part=now.part_name,
                wool=now.portion.wool, role="core", firmness=plan.resized.figure.by_id[now.part].firmness,
                form=now.portion.form if now.portion.form != "veil" else None, grams_in=laid,
                grams_trimmed=laid - grams if done else None, finished_mm=size,
                volume_cm3=volume * grown,
            )
        )  # fmt: skip
        if kept:
            self.advice.setText(
                f"Kept: {show_mass(grams, self.studio.units)} in {volume * grown:.1f} cm³."
            )
        return kept


def _role(now: Weighing) -> str:
    words = {
        "inset": now.portion.detail.replace("-", " "),
        "seam": f"{now.portion.detail} over the join",
    }
    return words.get(now.portion.role, now.portion.detail or now.portion.role)


def mending_words(found: Mending, studio: Studio) -> str:
    """What to do, in words and numbers."""
    units = studio.units
    off = f"{abs(found.too_big) * 100:.0f} % too {'large' if found.too_big > 0 else 'small'}"
    now = f"packed at {found.density_now:.2f} g/cm³"
    match found.deed:
        case "right":
            return f"It is right, {now}."
        case "add":
            return f"It is {off}, {now}: add {show_mass(found.grams, units)} in thin layers."
        case "felt on":
            return f"It is {off}, {now}: felt on, to {found.density_then:.2f} g/cm³."
        case _:
            rest = (
                "" if found.density_then <= found.density_now else " and felt on until it is hard"
            )
            return f"It is {off}, {now}: cut or peel off {show_mass(found.grams, units)}{rest}."

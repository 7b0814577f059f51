"""The dialog for fur and clothes of a part."""

from __future__ import annotations

from dataclasses import replace

from pydantic import ValidationError
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure, Fur, Garment, Part
from bambola.core.plan.making.dress import (
    STRETCH,
    WAYS_WORN,
    dress_fact,
    dress_of,
    worn_mm,
)
from bambola.core.quantities import QuantityError, parse_mass, show_length, show_mass
from bambola.core.wool import fur_rows, visible_size
from bambola.core.words import error_words, kind
from bambola.desk.kit.buttons import ok_cancel
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.stuff_fields import Fields, StuffFields
from bambola.desk.stations.measure.wearing import (
    FURS,
    NEW_HAIR_MM,
    NEW_ROWS_MM,
    dress_part,
    fur_on,
    of_stuff,
    of_wool,
    way_worn,
    with_fur,
)
from bambola.language import tr
from bambola.translated import C_


def worn_words(part: Part, studio: EditorSession) -> str:
    """Return in a few words what a part wears and is made of."""
    told = [tr(FURS[p.fur.kind]) for p in part.furs if p.fur]
    if part.garment:
        told.append(tr("bought clothing") if part.garment.bought else tr("clothing"))
    if (material := studio.bench.material_of(part)) is not None:
        told.append(studio.say(material.display_name))
    return ", ".join(told) or tr("bare skin")


class FurFields(Fields):
    """Fields for the fur of a part."""

    def __init__(self, studio: EditorSession, part: Part) -> None:
        super().__init__(tr("Its fur"), studio)
        fur = fur_on(part)
        self.kind, self.wool, self.lie = QComboBox(), QComboBox(), QComboBox()
        for key, words in FURS.items():
            self.kind.addItem(tr(words), key)
        for wool in studio.bench.wools:
            self.wool.addItem(wool.name, wool.id)
        self.lie.addItem(tr("to its far end"), "tip")
        self.lie.addItem(tr("to where it sits"), "base")
        units = studio.units
        self.hair = QLineEdit(show_length(fur.hair if fur else NEW_HAIR_MM, units))
        self.spacing = QLineEdit(show_length(fur.spacing if fur else NEW_ROWS_MM, units))
        self.lengthens = QCheckBox(tr("lengthened with the figure"))
        self.kind.setCurrentIndex(self.kind.findData(fur.kind if fur else ""))
        outer = fur.wool if fur else part.coat.wool if part.coat else part.core
        self.wool.setCurrentIndex(max(0, self.wool.findData(outer)))
        self.lie.setCurrentIndex(self.lie.findData(fur.lie if fur else "tip"))
        self.lengthens.setChecked(bool(fur and fur.lengthens))
        for words, field in (
            (tr("Fur"), self.kind),
            (tr("Its wool"), self.wool),
            (tr("Hair as long as"), self.hair),
            (tr("A row every"), self.spacing),
            (tr("It points"), self.lie),
            (tr("Hair"), self.lengthens),
        ):
            self.row(words, field)

    def value(self) -> Fur | None:
        """Return the entered fur. Raises ``QuantityError`` or ``ValidationError``."""
        on = bool(self.kind.currentData())
        rows = (self.wool, self.hair, self.spacing, self.lie, self.lengthens)
        self.show_rows(dict.fromkeys(rows, on))
        if not on:
            return None
        return Fur(
            wool=self.wool.currentData(),
            kind=self.kind.currentData(),
            hair=self.mm(self.hair),
            spacing=self.mm(self.spacing),
            lie=self.lie.currentData(),
            lengthens=self.lengthens.isChecked(),
        )


class ClothingFields(Fields):
    """Fields for a part as a garment: how it goes on, over what, and its material."""

    def __init__(self, studio: EditorSession, figure: Figure, part: Part) -> None:
        super().__init__(tr("As clothing"), studio)
        dress = part.garment
        self._old = dress
        self.kind, self.passes, self.cloth = QComboBox(), QComboBox(), QComboBox()
        self._offer_kinds(dress)
        self._offer_parts(figure, part, dress)
        self._offer_cloths(dress)
        units = studio.units
        hole = dress.opening if dress else worn_mm(part, figure)
        self.opening = QLineEdit(show_length(hole, units))
        self.tails = QLineEdit(show_length(dress.tails, units) if dress and dress.tails else "")
        self.tails.setPlaceholderText(tr(C_("tails of a bow", "none")))
        self.strip = QLineEdit(show_length(dress.strip if dress else 12.0, units))
        self.layers = QComboBox()
        for n in range(11):
            self.layers.addItem(str(n) if n else tr(C_("layers", "none")), n)
        self.layers.setCurrentIndex(dress.layers if dress else 0)
        self.bought = QCheckBox(tr("it keeps its size"))
        self.bought.setChecked(bool(dress and dress.bought))
        self.mass = QLineEdit(show_mass(dress.mass if dress else 0.0, units))
        self.over = QPushButton()
        self._menu = QMenu(self.over)
        self.over.setMenu(self._menu)
        self._offer_to_lie_over(figure, part)
        for words, field in (
            (tr("It is"), self.kind),
            (tr("It must pass over"), self.passes),
            (tr("Opening, round"), self.opening),
            (tr("Of"), self.cloth),
            (tr("Tails"), self.tails),
            (tr("Strips as wide as"), self.strip),
            (tr("Layers under it"), self.layers),
            (tr("Lies over"), self.over),
            (tr("Bought"), self.bought),
            (tr("It weighs"), self.mass),
        ):
            self.row(words, field)

    def _offer_kinds(self, dress: Garment | None) -> None:
        for key in WAYS_WORN:
            self.kind.addItem(self.studio.say(way_worn(key)), key)
        self.kind.setCurrentIndex(self.kind.findData(dress.kind if dress else ""))

    def _offer_parts(self, figure: Figure, part: Part, dress: Garment | None) -> None:
        for other in figure.parts:
            if other.id != part.id:
                self.passes.addItem(other.name, other.id)
        head = dress.passes if dress else (figure.datum.part or part.parent)
        self.passes.setCurrentIndex(max(0, self.passes.findData(head)))

    def _offer_cloths(self, dress: Garment | None) -> None:
        for cloth, stretch in STRETCH.items():
            self.cloth.addItem(
                tr(
                    "{cloth}, stretches {stretch:.0f} %",
                    cloth=self.studio.say(kind("cloth", cloth)),
                    stretch=stretch * 100,
                ),
                stretch,
            )
        if dress and self.cloth.findData(dress.stretch) < 0:
            self.cloth.addItem(
                tr("stretches {stretch:.0f} %", stretch=dress.stretch * 100), dress.stretch
            )
        self.cloth.setCurrentIndex(self.cloth.findData(dress.stretch if dress else STRETCH["felt"]))

    def _offer_to_lie_over(self, figure: Figure, part: Part) -> None:
        for other in figure.parts:
            if other.id in (part.id, part.parent):
                continue
            action = QAction(other.name, self._menu)
            action.setData(other.id)
            action.setCheckable(True)
            action.setChecked(other.id in part.over)
            action.toggled.connect(lambda _: self.changed.emit())
            self._menu.addAction(action)

    def leave_cloth(self, left: bool) -> None:
        """Hide the question of stretch if the material decides it."""
        is_pulled = self.kind.currentData() == "pulled over"
        self.show_rows({self.cloth: is_pulled and not left})

    def lies_over(self) -> tuple[str, ...]:
        """Return the ticked parts that it lies over."""
        return tuple(a.data() for a in self._menu.actions() if a.isChecked())

    def value(self) -> Garment | None:
        """Return the entered garment. Raises ``QuantityError`` or ``ValidationError``."""
        kind = self.kind.currentData()
        bought = self.bought.isChecked()
        ticked = [a.text() for a in self._menu.actions() if a.isChecked()]
        self.over.setText(", ".join(ticked) or tr("only what it sits on"))
        self.show_rows(
            {
                self.passes: bool(kind),
                self.cloth: kind == "pulled over",
                self.opening: kind == "pulled over",
                self.tails: kind in ("wrap", "sash"),
                self.strip: kind == "skirt",
                self.layers: bool(kind),
                self.over: bool(kind),
                self.bought: bool(kind),
                self.mass: bool(kind) and bought,
            }
        )
        if not kind:
            return None
        units = self.studio.units
        fullness = self._old.fullness if self._old else 2.0
        return Garment(
            opening=self.mm(self.opening),
            stretch=self.cloth.currentData(),
            kind=kind,
            passes=self.passes.currentData(),
            layers=self.layers.currentData(),
            strip=self.mm(self.strip),
            tails=self.mm(self.tails) if self.tails.text().strip() else 0.0,
            fullness=fullness,
            bought=bought,
            mass=parse_mass(self.mass.text(), units.mass) if bought else 0.0,
        )


class OutfitDialog(FittedDialog):
    """Asks what a part wears; shows the effect at once, and accepts only what is possible."""

    def __init__(self, parent: QWidget, studio: EditorSession, part: str) -> None:
        super().__init__(parent)
        assert studio.figure is not None
        self.studio, self.figure = studio, studio.figure
        self.part = self.figure.by_id[part]
        self.setWindowTitle(tr("Fur and clothes: {name:lower}", name=self.part.name))
        self.fur = FurFields(studio, self.part)
        self.clothing = ClothingFields(studio, self.figure, self.part)
        self.stuff = StuffFields(studio, self.part)
        for worn in (self.clothing, self.stuff):
            worn.setVisible(self.part.parent is not None)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setMinimumHeight(self.told.fontMetrics().height() * 3)
        self.told.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.buttons = ok_cancel(self)
        row = QHBoxLayout()
        columns: tuple[tuple[Fields, ...], ...] = ((self.stuff, self.fur), (self.clothing,))
        for column_of in columns:
            side = QVBoxLayout()
            for group in column_of:
                side.addWidget(group)
            side.addStretch(1)
            row.addLayout(side, 1)
        column = QVBoxLayout(self)
        column.addLayout(row)
        column.addWidget(self.told)
        column.addWidget(self.buttons)
        # The core wears nothing, and asks one thing.
        wide = self.fontMetrics().averageCharWidth() * (100 if self.part.parent is not None else 50)
        self.setMinimumWidth(min(wide, max(480, parent.width())))
        every: tuple[Fields, ...] = (self.fur, self.clothing, self.stuff)
        for fields in every:
            fields.changed.connect(self.show_effect)
        self.show_effect()

    def dressed(self) -> Figure:
        """Return the figure with the part so dressed. Raises ``ValueError`` in one sentence."""
        try:
            garment = self.clothing.value() if self.part.parent is not None else None
            over = self.clothing.lies_over() if garment else self.part.over
            stuff = self.stuff.value() if self.part.parent is not None else None
            self.fur.setVisible(stuff is None and not self.stuff.is_hollow)
            material = self.stuff.material if stuff is not None else None
            if garment is not None and material is not None:
                garment = garment.replaced(stretch=material.stretches)
            self.clothing.leave_cloth(material is not None)
            if self.stuff.is_hollow and garment is None and self.part.parent is not None:
                bare = of_wool(self.part, self.studio.bench)
                new = bare.replaced(hollow=True, places=())
            elif stuff is None:
                new = with_fur(of_wool(self.part, self.studio.bench), self.fur.value())
            else:
                new = of_stuff(self.part, stuff, self.stuff.of.currentData())
            new = new.replaced(garment=garment, over=over)
        except (QuantityError, ValidationError) as error:
            if isinstance(error, ValidationError):
                raise ValueError(
                    tr("Lengths must be above 0 and up to 1000 m, weights 0 or more.")
                ) from None
            raise
        return dress_part(self.figure, new)

    def show_effect(self) -> None:
        """Show the effect."""
        ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        assert ok is not None
        try:
            figure = self.dressed()
        except ValueError as error:
            self.told.setText(error_words(error, self.studio.words))
            ok.setEnabled(False)
            return
        ok.setEnabled(True)
        part = figure.by_id[self.part.id]
        said = []
        if part.stuff and (self.part.coat or self.part.places):
            said.append(tr("Its coat and its places go: what is not wool has none."))
        if part.furs:
            solid = self.studio.plan_as_made().solids.copies_of(part.id)[0][1]
            long = visible_size(part.shape, solid)["along"]
            rows = sum(fur_rows(part, place, long) for place in part.furs)
            said.append(tr("As made, {rows} rows of hair.", rows=rows))
        if part.garment:
            row = replace(dress_of(part, figure), over=())
            names = {p.id: p.name for p in figure.parts}
            said.append(self.studio.say(dress_fact(row, names)))
        bare = tr("Bare skin: its coat is what is seen.")
        if part.stuff or part.hollow:
            bare = (
                tr("It takes no wool.")
                if part.stuff
                else tr("It is pressed in; its coat lines it.")
            )
        self.told.setText(" ".join(said) or bare)


def ask_outfit(parent: QWidget, studio: EditorSession) -> None:
    """Ask what the selected part wears."""
    part = studio.selection.part
    if studio.figure is None or part is None or part not in studio.figure.by_id:
        return
    dialog = OutfitDialog(parent, studio, part)
    if dialog.exec():
        studio.edit(tr("Fur and clothes"), dialog.dressed(), waits=False)

"""The head of a part's card: name, shape, parent, pair and firmness."""

from __future__ import annotations

from collections.abc import Callable
from typing import get_args

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QWidget,
)

from bambola.core.figure import Figure, Firmness, Part
from bambola.core.figure.graft import descendants, with_part, without_part
from bambola.core.figure.shapes import KINDS, as_kind
from bambola.core.solids.edit import put_on
from bambola.core.words import kind
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.outfit import worn_words
from bambola.desk.stations.measure.rows import edit_rebuilt
from bambola.language import tr


class PartHead(QWidget):
    """The properties of the selected part in words, all editable."""

    graft_asked = pyqtSignal()
    outfit_asked = pyqtSignal()

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._filling = False
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Name of the part"))
        self.name.setMaxLength(120)
        self.kind, self.parent_, self.firm = QComboBox(), QComboBox(), QComboBox()
        for box, name in (
            (self.kind, tr("Shape of the part")),
            (self.parent_, tr("What the part sits on")),
            (self.firm, tr("Firmness of the part")),
        ):
            box.setAccessibleName(name)
            box.setSizeAdjustPolicy(
                QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
            )
            box.setMinimumContentsLength(5)
        for name in KINDS:
            self.kind.addItem(studio.say(kind("shape", name)), name)
        for firmness in get_args(Firmness):
            self.firm.addItem(studio.say(kind("firmness", firmness)), firmness)
        self.pair = QCheckBox(tr("one of a pair"))
        self.outfit = QPushButton()
        self.outfit.setAccessibleName(tr("What the part wears: fur, clothes"))
        self.outfit.setToolTip(tr("Give it fur, or make it clothing"))
        self.remove, self.graft = QPushButton(tr("Remove")), QPushButton(tr("Copy a part…"))
        self.graft.setToolTip(tr("Copy a part from another design onto this one"))
        self._labels = [
            QLabel(text) for text in (tr("shape"), tr("sits on"), tr("felted"), tr("wears"))
        ]
        grid = self._grid = QGridLayout(self)
        grid.addWidget(self.name, 0, 0, 1, 2)
        fields: tuple[QWidget, ...] = (self.kind, self.parent_, self.firm, self.outfit)
        for i, (label, field) in enumerate(zip(self._labels, fields, strict=True), 1):
            grid.addWidget(label, i, 0)
            grid.addWidget(field, i, 1)
        beneath = QWidget()
        flow = FlowLayout(beneath)
        for widget in (self.pair, self.remove, self.graft):
            flow.addWidget(widget)
        grid.addWidget(beneath, len(fields) + 1, 0, 1, 2)
        grid.setColumnStretch(1, 1)
        for box in (self.kind, self.parent_, self.firm):
            # At large text a choice may be narrower than its longest words.
            box.setMinimumContentsLength(5)
            box.setSizeAdjustPolicy(
                QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
            )
        self.name.editingFinished.connect(self._rename_part)
        self.kind.activated.connect(lambda _: self._change_shape())
        self.parent_.activated.connect(lambda _: self._change_bearer())
        self.firm.activated.connect(lambda _: self._change_firmness())
        make_switch(self.pair, self._set_pair)
        self.remove.clicked.connect(self.take_away)
        self.graft.clicked.connect(self.graft_asked)
        self.outfit.clicked.connect(self.outfit_asked)
        self._soon = at_most_every(self, 0, self.refresh)
        for signal in (studio.selection.part_changed, studio.survey_changed, studio.figure_changed):
            signal.connect(lambda: start_unless_running(self._soon))
        set_role(self.name, "title", "bare")
        for label in self._labels:
            set_role(label, tone="quiet")
        set_spacing(self.theme, self._grid, (0, 0, 0, 4), gap=5)

    def part(self) -> Part | None:
        """Return the selected part."""
        figure = self.studio.figure
        return figure.by_id.get(self.studio.selection.part or "") if figure else None

    def refresh(self) -> None:
        """Show the part's present state."""
        part, figure = self.part(), self.studio.figure
        self.setEnabled(part is not None)
        if part is None or figure is None:
            return
        self.name.setText(part.name)
        self.name.setModified(False)
        self.kind.setCurrentIndex(self.kind.findData(part.shape.kind))
        self.firm.setCurrentIndex(self.firm.findData(part.firmness))
        self.firm.setEnabled(part.stuff is None)
        self.parent_.clear()
        with_it = descendants(figure, part.id)
        if part.parent is None:
            self.parent_.addItem(tr("the table"), None)
        for other in figure.parts:
            if other.id not in with_it and part.parent is not None:
                self.parent_.addItem(other.name, other.id)
        self.parent_.setCurrentIndex(max(0, self.parent_.findData(part.parent)))
        self.parent_.setEnabled(part.parent is not None)
        self.outfit.setText(worn_words(part, self.studio))
        show_switch(self.pair, part.pair)
        self.pair.setEnabled(part.parent is not None)
        self.remove.setEnabled(part.parent is not None)

    def _change_part(self, words: str, do: Callable[[Figure], Figure]) -> None:
        if not self.studio.edit_by(words, do):
            self.refresh()

    def _rename_part(self) -> None:
        part, name = self.part(), self.name.text().strip()
        if part is None or not self.name.isModified() or name == part.name:
            return
        if not name:
            self.name.setText(part.name)
            return
        self._change_part(
            tr("Name a part"), lambda f: with_part(f, part.replaced(name=name, plural=None))
        )

    def _change_shape(self) -> None:
        part, figure = self.part(), self.studio.figure
        kind = self.kind.currentData()
        if part is None or figure is None or kind == part.shape.kind:
            return
        try:
            new = with_part(figure, part.replaced(shape=as_kind(part.shape, kind), rules=()))
        except ValueError as error:
            self.studio.refuse(error)
            self.refresh()
            return
        names = set(new.by_id[part.id].shape.measure_names)
        survey = self.studio.survey
        kept = tuple(t for t in survey.taken if t.part != part.id or t.measure in names)
        if not edit_rebuilt(self.studio, tr("Change a shape"), new, survey.replaced(taken=kept)):
            self.refresh()

    def _change_bearer(self) -> None:
        part, parent = self.part(), self.parent_.currentData()
        if part is not None and parent and parent != part.parent:
            self._change_part(tr("Put a part on another"), lambda f: put_on(f, part.id, parent))

    def _change_firmness(self) -> None:
        part, firmness = self.part(), self.firm.currentData()
        if part is not None and firmness != part.firmness:
            self._change_part(
                tr("Change the firmness"), lambda f: with_part(f, part.replaced(firmness=firmness))
            )

    def _set_pair(self, paired: bool) -> None:
        part = self.part()
        if part is not None and paired != part.pair:
            self._change_part(tr("Make a pair"), lambda f: with_part(f, part.replaced(pair=paired)))

    def take_away(self) -> None:
        """Remove the selected part and everything on it."""
        part, figure = self.part(), self.studio.figure
        if part is None or figure is None:
            return
        try:
            new = without_part(figure, part.id)
        except ValueError as error:
            self.studio.refuse(error)
            return
        gone = descendants(figure, part.id)
        self.studio.edit(
            tr("Remove a part"), new, self.studio.survey.without_parts(gone), waits=False
        )

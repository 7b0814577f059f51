"""The card of the selected wire and bone: their loads and stock, and buttons to change them."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QPushButton,
    QToolButton,
    QWidget,
)

from bambola.core.armature import CHENILLE, PROPERTIES, CutWire
from bambola.core.figure.additions import with_loop
from bambola.core.plan import BonePlan
from bambola.core.quantities import (
    QuantityError,
    parse_length,
    show_bought,
    show_length,
    show_moment,
)
from bambola.core.words import kind, stiffness_phrase, times_held
from bambola.desk.kit.paper import SheetWidgets
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wire.join_card import LoadBar
from bambola.desk.stations.wire.walk import Walk, node_words
from bambola.language import N_, tr, trn

CARE = N_(
    "Glasses on: cut ends fly. Hold both sides of the cut, wind away from your face, and turn every end "
    "over before it can scratch."
)


_BESIDE = 280
"""Width (px before scaling) from which there is room for two things beside each other."""


class WireCard(SheetWidgets):
    """The card: the wire above, the bone below."""

    def __init__(self, studio: EditorSession, theme: Theme, walk: Walk) -> None:
        super().__init__(theme, tr("Selected wire"))
        self.studio, self.walk = studio, walk
        self._title, self._told, self._allowed = QLabel(), QLabel(), QLabel()
        self._bone, self._bears, self._care = QLabel(), QLabel(), QLabel(tr(CARE))
        self._gauge, self._strands = QLabel(), QLabel()
        for label in (
            self._title,
            self._told,
            self._allowed,
            self._bone,
            self._bears,
            self._care,
            self._gauge,
            self._strands,
        ):
            label.setWordWrap(True)
        self.load = LoadBar(theme, tr("What its wire bears and needs"))
        self.thinner = self._add_button("−", tr("Thinner wire (<)"), lambda: walk.ask_gauge(-1))
        self.stouter = self._add_button("+", tr("Stouter wire (>)"), lambda: walk.ask_gauge(1))
        self.as_planned = QPushButton(tr("As planned"))
        self.as_planned.setToolTip(tr("Let the plan choose the gauge again (.)"))
        self.as_planned.clicked.connect(lambda: walk.ask_gauge(0))
        self.as_steady = QPushButton(tr("As steady"))
        self.as_steady.clicked.connect(lambda _=False: walk.ask_steady())
        self.fewer = self._add_button("−", tr("One strand less (−)"), lambda: walk.ask_strands(-1))
        self.more = self._add_button("+", tr("One strand more (+)"), lambda: walk.ask_strands(1))
        self.ring = QPushButton(tr("Loop…"))
        self.ring.setToolTip(tr("A ring bent at the outer end of this bone, for a foot or hand"))
        self.ring.clicked.connect(self.ask_loop)
        self.stock = QComboBox()
        self.stock.setAccessibleName(tr("What the wire is made of"))
        self.stock.setSizeAdjustPolicy(
            QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
        )
        self.stock.setMinimumContentsLength(6)
        self.stock.activated.connect(self._stock_chosen)
        self.box.addWidget(self._title)
        self.box.addWidget(self._told)
        self.box.addLayout(self._row_with(self._gauge, self.thinner, self.stouter, self.as_planned))
        self._made_of = QHBoxLayout()
        self._made_of.addWidget(self.stock, 1)
        self._made_of.addWidget(self.as_steady)
        self.box.addLayout(self._made_of)
        self.box.addWidget(self._allowed)
        self.box.addWidget(self._bone)
        self.box.addLayout(self._row_with(self._strands, self.fewer, self.more, self.ring))
        self.box.addWidget(self.load)
        self.box.addWidget(self._bears)
        self.box.addStretch(1)
        self.box.addWidget(self._care)
        self._allowed.setToolTip(
            tr("What does not grow with the figure: ends, loops, bindings, pegs, splices.")
        )
        walk.changed.connect(self.refresh)
        studio.units_changed.connect(self.refresh)
        set_role(self._title, "title")
        set_role(self._bone, "subtitle")
        for label in (self._told, self._gauge, self._strands, self._bears):
            set_role(label, "body")
        for label in (self._allowed, self._care):
            set_role(label, "small")
        set_role(self._allowed, tone="quiet")
        set_role(self._care, tone="warning")
        self._apply_theme()

    def _add_button(self, glyph: str, told: str, do: object) -> QToolButton:
        button = QToolButton()
        button.setText(glyph)
        button.setToolTip(told)
        button.setAccessibleName(told)
        assert callable(do)
        button.clicked.connect(lambda _=False: do())
        return button

    def _row_with(self, label: QLabel, *widgets: QWidget) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(label, 1)
        for widget in widgets:
            row.addWidget(widget)
        return row

    def restyle(self) -> None:
        px = self.theme.px
        for knob in (self.thinner, self.stouter, self.fewer, self.more):
            set_role(knob, "figure")
            knob.setFixedSize(px(32), px(30))
        self.refresh()

    def resizeEvent(self, event: object) -> None:
        across = self.width() >= self.theme.px(_BESIDE)
        way = QBoxLayout.Direction.LeftToRight if across else QBoxLayout.Direction.TopToBottom
        self._made_of.setDirection(way)

    def showEvent(self, event: object) -> None:
        self.refresh()

    def refresh(self) -> None:
        """Show the selection."""
        if not self.isVisible():
            return
        wire, bone, units = self.walk.wire, self.walk.bone, self.studio.units
        there = wire is not None and bone is not None
        for widget in (
            self.stock, self.thinner, self.stouter, self.fewer, self.more, self.ring,
            self._gauge, self._allowed, self._bone, self._strands, self._bears,
        ):  # fmt: skip
            widget.setVisible(there)
        self.as_planned.setVisible(self.walk.gauge_is_chosen)
        steady = self.walk.steady_mm
        self.as_steady.setVisible(steady is not None and not self.walk.gauge_is_chosen)
        if steady is not None:
            self.as_steady.setToolTip(
                tr(
                    "As steady as before: {steady}, harder to bend and to hide",
                    steady=show_bought(steady, units),
                )
            )
        self._care.setVisible(wire is not None)
        self.load.setVisible(bone is not None)
        if wire is None or bone is None:
            self._title.setText(tr("No wire"))
            self._told.setText(tr("Nothing to cut or bend.") if self.studio.plan else "")
            return
        self._title.setText(self.studio.say(wire.name))
        self._told.setText(
            tr(
                "Cut {cut} of {stock}",
                cut=show_length(wire.cut_mm, units),
                stock=self.studio.say(wire.stock),
            )
        )
        yours = tr(", your choice") if self.walk.gauge_is_chosen else ""
        needed = show_bought(wire.needed_mm, units)
        self._gauge.setText(f"{show_bought(wire.diameter_mm, units)}{yours}: {self._told_of(wire)}")
        self._gauge.setToolTip(
            tr(
                "{needed} for {governed_by}; then the smallest stock that bears nine tenths of that, "
                "what is on the shelf first.",
                needed=needed,
                governed_by=self.studio.say(wire.governed_by),
            )
        )
        sums: dict[str, float] = {}
        for allowance in wire.allowances:
            why = self.studio.say(allowance.why)
            sums[why] = sums.get(why, 0.0) + allowance.mm
        parts = [tr("path {path}", path=show_length(wire.path_mm, units))]
        if wire.takeup_mm > 0.05:
            parts.append(tr("twist {takeup}", takeup=show_length(wire.takeup_mm, units)))
        parts += [f"{why} {show_length(mm, units)}" for why, mm in sums.items()]
        self._allowed.setText(" + ".join(parts))
        self._tell_bone(bone)
        self._fill_stock()

    def _told_of(self, wire: CutWire) -> str:
        """Return what the wire's gauge does, as text."""
        gauge = self.studio.plan.gauges.get(wire.id) if self.studio.plan else None
        if gauge is None:
            return tr("for {governed_by}", governed_by=self.studio.say(wire.governed_by))
        told = (
            self.studio.say(stiffness_phrase(gauge.stiffness))
            if gauge.stiffness is not None
            else tr("stout enough")
        )
        return told if gauge.by_hand else tr("{told}; bend it with pliers", told=told)

    def _tell_bone(self, bone: BonePlan) -> None:
        units = self.studio.units
        told = tr("{start} to {end}", start=node_words(bone.a), end=node_words(bone.b))
        self._bone.setText(told[:1].upper() + told[1:])
        there = trn("{n} strand", "{n} strands", bone.strands)
        self._strands.setText(
            tr("{strands}, {asked} asked", strands=there, asked=bone.strands_asked)
        )
        grown = bone.design_nmm / bone.was_nmm if bone.was_nmm > 1e-9 else 0.0
        told = tr(
            "Here it bears its load {held}",
            held=self.studio.say(times_held(bone.bears_nmm / max(bone.design_nmm, 1e-09))),
        )
        if grown:
            told += tr("; the load is {grown:.1f} times what it was as made", grown=grown)
        self._bears.setText(f"{told}.")
        self._bears.setToolTip(
            tr(
                "The load is what lies beyond the inner end of this stretch, on its lever in the pose, "
                "and never less than when all leans by 8°: {design_nmm}. The wire bears yield × d³ / "
                "6: {bears_nmm}.",
                design_nmm=show_moment(bone.design_nmm, units),
                bears_nmm=show_moment(bone.bears_nmm, units),
            )
        )
        self.load.show_load(bone.bears_nmm, bone.needs_nmm)

    def _fill_stock(self) -> None:
        chosen = self.studio.brief.schools.get("wire-stock")
        entries: list[tuple[str, str | None]] = [(tr("the metal it was drawn in"), None)]
        entries += [(self.studio.say(kind("metal", metal)), metal) for metal in PROPERTIES]
        if self.studio.bench.chenille is not None:
            entries.append((tr("chenille stems"), CHENILLE))
        self.stock.blockSignals(True)
        if self.stock.count() != len(entries):
            self.stock.clear()
            for words, value in entries:
                self.stock.addItem(words, value)
        self.stock.setCurrentIndex(next((i for i, e in enumerate(entries) if e[1] == chosen), 0))
        self.stock.blockSignals(False)

    def _stock_chosen(self, index: int) -> None:
        self.walk.choose_stock(self.stock.itemData(index))

    def ask_loop(self) -> None:
        """Ask for the perimeter of a ring at the outer end of the selected bone."""
        bone, figure, units = self.walk.bone, self.studio.figure, self.studio.units
        if bone is None or figure is None or not self.walk.is_drawn():
            return
        node = next(n for n in figure.nodes if n.id == bone.b)
        had = show_length(node.loop, units) if node.loop else ""
        text, ok = QInputDialog.getText(
            self,
            tr("Loop"),
            tr("How big a loop? (its inner circumference; leave empty for none)"),
            text=had,
        )
        if not ok:
            return
        try:
            mm = parse_length(text, units.length) if text.strip() else None
        except QuantityError as error:
            self.studio.refuse(error)
            return
        self.studio.edit_by(tr("Bend a loop"), lambda figure: with_loop(figure, bone.b, mm))

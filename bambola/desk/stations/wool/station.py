"""The station *Wool*: the table, the pan, the splitting tree and the shelf."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bambola.core.quantities import QuantityError, parse_mass, show_mass
from bambola.desk.kit.buttons import FaceBar
from bambola.desk.kit.device_row import DeviceRow
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.swatch import SwatchDialog
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.kit.true_size import ScreenDialog, TrueSize
from bambola.desk.session.asking import MOST_FIGURES
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.menus import PAN, SHELF, SPLITTING, TABLE, WOOL_FACES
from bambola.desk.stations.page import Page
from bambola.desk.stations.wool.hand import WoolHand
from bambola.desk.stations.wool.materials import MaterialsDialog
from bambola.desk.stations.wool.pan import PanView
from bambola.desk.stations.wool.portion_card import PortionCard
from bambola.desk.stations.wool.shelf import ShelfView
from bambola.desk.stations.wool.splitter import Splitter
from bambola.desk.stations.wool.splitting import SplitView
from bambola.desk.stations.wool.table import TableView
from bambola.desk.stations.wool.weigher import Weigher
from bambola.desk.stations.wool.whole_shelf import WholeShelf
from bambola.desk.stations.wool.wool_card import ShoppingSlip, WoolCard
from bambola.language import tr


class WoolStation(Page):
    """Four views of the wool on the left, the card of the selection on the right."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        desk: BenchDesk,
        true_size: TrueSize,
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.desk, self.true_size = studio, theme, desk, true_size
        self.hand = WoolHand(studio, desk)
        self.scale = DeviceRow(studio, theme, "scale", tr("what lies on it is shown here"))
        self.weigher = Weigher(studio, self.hand, self.scale.link)
        self.splitter = Splitter(studio)
        self.table = TableView(studio, theme, darkroom, self.hand, true_size)
        self.pan = PanView(studio, theme, self.hand, self.weigher)
        self.tree = SplitView(studio, theme, self.splitter)
        self.shelf = ShelfView(studio, theme)
        self.card = PortionCard(studio, theme, self.hand)
        self.wool_card = WoolCard(studio, theme, desk, self.shelf.boards)
        self.slip = ShoppingSlip(studio, theme, desk, self.shelf.boards)
        self.wool_card.swatch.clicked.connect(lambda _=False: self.ask_swatch())
        self.wool_card.heap.clicked.connect(lambda _=False: self.ask_heap())
        self._compose()
        set_role(self.at_scale, "note", "quiet")
        set_spacing(self.theme, self._row, (20, 2, 24, 4), gap=14)
        set_spacing(self.theme, self._shelf_column, gap=10)
        theme.changed.connect(self._restyle)
        self._restyle()
        self.wheel_over(self.table.cloth)
        studio.plan_changed.connect(self._show_count)
        self.table.cloth.relaid.connect(self._tell_scale)
        self.show_face(TABLE)

    def _count_changed(self, count: int) -> None:
        self.studio.set_count(count)

    def _show_count(self) -> None:
        self.count.blockSignals(True)
        self.count.setValue(self.studio.brief.count)
        self.count.blockSignals(False)
        self.trial.setEnabled(self.studio.brief.count > 1)
        self.trial.setChecked(self.studio.brief.trial)

    def _tell_scale(self) -> None:
        share = self.table.cloth.scale / self.true_size.px_per_mm(self)
        self.at_scale.setText(f"{share * 100:.0f} %" if share < 0.995 else tr("actual size"))

    def _compose(self) -> None:
        self._bar = FaceBar(self.theme, WOOL_FACES, self.show_face)
        self.faces = self._bar.faces
        self.count = QSpinBox()
        self.count.setRange(1, MOST_FIGURES)
        self.count.setPrefix(tr("make "))
        self.count.setAccessibleName(tr("How many figures"))
        self.count.setToolTip(
            tr("How many figures: the parts of all are weighed together, and packs are rounded up")
        )
        self.count.valueChanged.connect(self._count_changed)
        self.count.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.fewer = self._make_button("−", tr("One figure less"), self.count.stepDown)
        self._bar.offer(self.count)
        self.more = self._make_button("+", tr("One figure more"), self.count.stepUp)
        self.trial = self._make_button(
            tr("make one as a trial first"),
            tr("One is made first; the others follow all at once, with what you learned from it"),
            lambda: None,
        )
        self.trial.setCheckable(True)
        self.trial.clicked.connect(lambda on: self.studio.set_trial(on))
        self.others = self._make_button(
            tr("Not wool…"),
            tr("Cloth, ribbon, yarn and the like: what there is and what the plan takes"),
            self.ask_materials,
        )
        self.whole = self._make_button(
            tr("Whole shelf…"),
            tr(
                "Everything you have, with price, shop and lot: wool, eyes, wire, cloth, "
                "needles, glue"
            ),
            self.ask_shelf,
        )
        self.at_scale = QLabel()
        self._bar.offer(self.at_scale)
        self.one_to_one = self._make_button("1:1", tr("At actual size"), lambda: None)
        self.one_to_one.setCheckable(True)
        self.one_to_one.toggled.connect(self.table.set_true_size)
        self.screen_size = self._make_button(
            tr("Screen…"),
            tr("Hold a bank card or a ruler against it: 1:1 is true then"),
            self.ask_screen,
        )
        self.from_pack = self._make_button(
            tr("From packs"), tr("Split whole packs, and leave the rest"), lambda: None
        )
        self.from_pack.setCheckable(True)
        self.from_pack.toggled.connect(lambda on: self.splitter.choose(self.splitter.wool, on))
        self.stop = self._make_button(
            tr("Stop looking"), tr("Stop here and keep the best split so far"), self.splitter.cancel
        )
        self.splitter.changed.connect(lambda: self.stop.setEnabled(not self.splitter.is_idle))
        self.typed = self._make_button(
            tr("It weighs…"), tr("Type what another scale shows"), self.ask_weight
        )
        self.nought = self._make_button(
            tr("Zero (tare)"), tr("Set what lies on the pan to zero (N)"), self.weigher.tare
        )
        self.strike = self._make_button(
            tr("Undo last weighing"),
            tr("Undo the last weighing (Backspace)"),
            self.weigher.strike_last,
        )
        tree = QScrollArea()
        tree.setAccessibleName(tr("Splitting plan"))
        tree.setWidgetResizable(True)
        tree.setWidget(self.tree)
        tree.setFocusProxy(self.tree)
        self.pages = QStackedWidget()
        pan_page = QWidget()
        column = QVBoxLayout(pan_page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.pan, 1)
        column.addWidget(self.scale)
        for page in (self.table, pan_page, tree, self.shelf):
            self.pages.addWidget(page)
        left = QVBoxLayout()
        left.addWidget(self._bar)
        left.addWidget(self.pages, 1)
        self.cards = QStackedWidget()
        shelf_side = QWidget()
        self._shelf_column = QVBoxLayout(shelf_side)
        self._shelf_column.setContentsMargins(0, 0, 0, 0)
        self._shelf_column.addWidget(self.slip)
        self._shelf_column.addWidget(self.wool_card, 1)
        for card in (self.card, shelf_side):
            self.cards.addWidget(scroll_area(card))
        self._row = QHBoxLayout(self)
        self._row.addLayout(left, 1)
        self._row.addWidget(self.cards)

    def _make_button(self, name: str, told: str, do: object) -> QPushButton:
        button = QPushButton(name)
        button.setToolTip(told)
        button.setAccessibleName(told)
        assert callable(do)
        button.clicked.connect(lambda _=False: do())
        self._bar.offer(button)
        return button

    def _restyle(self) -> None:
        self._fit_width()

    def _fit_width(self) -> None:
        self.cards.setFixedWidth(
            min(self.theme.px(340), max(self.theme.px(220), round(self.width() * 0.34)))
        )

    def resizeEvent(self, event: object) -> None:
        self._fit_width()

    def show_face(self, face: int) -> None:
        """Show one of the four views."""
        self.pages.setCurrentIndex(face)
        self._bar.check(face)
        shown: tuple[tuple[tuple[QWidget, ...], int], ...] = (
            ((self.at_scale, self.one_to_one, self.screen_size), TABLE),
            ((self.stop, self.from_pack), SPLITTING),
            ((self.typed, self.nought, self.strike), PAN),
            ((self.fewer, self.count, self.more, self.trial, self.others, self.whole), SHELF),
        )
        for widgets, on in shown:
            for widget in widgets:
                widget.setVisible(face == on)
        self.cards.setCurrentIndex(int(face == SHELF))
        if self.isVisible():
            self.take_keys()

    def at_true_size(self, on: bool | None) -> bool:
        if self.face == TABLE:
            self.one_to_one.setChecked(not self.one_to_one.isChecked() if on is None else on)
        return self.face == TABLE

    def take_keys(self) -> None:
        (self.table, self.pan, self.tree, self.shelf)[self.face].setFocus()

    @property
    def face(self) -> int:
        """The view shown."""
        return self.pages.currentIndex()

    @property
    def is_idle(self) -> bool:
        """Whether no search is running."""
        return self.splitter.is_idle

    # Asking

    def ask_screen(self) -> None:
        """Measure the screen's pixels per millimetre."""
        dialog = ScreenDialog(self, self.theme, self.true_size)
        if dialog.exec():
            self.one_to_one.setChecked(True)

    def ask_materials(self) -> None:
        """Open the materials other than wool, to count and change."""
        MaterialsDialog(self, self.studio, self.desk).exec()

    def ask_shelf(self) -> None:
        """Open the whole shelf as a table."""
        WholeShelf(self, self.studio, self.desk).exec()

    def ask_weight(self) -> None:
        """Ask for the weight of the current portion."""
        now = self.hand.current
        if now is None:
            return
        grams = self._asked_grams(self.studio.say(now.title), least=1e-6)
        if grams is not None:
            self.weigher.enter(grams)

    def ask_heap(self) -> None:
        """Ask for the weight of the selected wool's heap; what is missing went into the figure."""
        wool = self.shelf.boards.wool
        grams = self._asked_grams(wool.name, least=0.0) if wool is not None else None
        if wool is not None and grams is not None:
            gone, units = self.desk.weigh_heap(wool.id, grams), self.studio.units
            used = {"wool": wool.name, "grams": show_mass(gone, units)}
            self.studio.refused.emit(tr("{wool}: {grams} used for this figure.", **used))

    def _asked_grams(self, title: str, least: float) -> float | None:
        """Return a typed weight; None if the dialog was cancelled."""
        text, taken = QInputDialog.getText(self, title, tr("It weighs"))
        if not taken:
            return None
        try:
            grams = parse_mass(text, self.studio.units.mass)
            if not least <= grams <= 1_000_000:
                raise QuantityError(tr("A weight must lie above 0 and up to 1000 kg."))
        except QuantityError as error:
            self.studio.refuse(error)
            return None
        return grams

    def ask_swatch(self) -> None:
        """Record a swatch of the selected wool."""
        wool = self.shelf.boards.wool
        if wool is None:
            return
        dialog = SwatchDialog(self, self.studio, wool.id)
        if dialog.exec() and dialog.record is not None:
            self.desk.add_record(dialog.record)

    def close_down(self) -> None:
        """Disconnect the scale, and end the search."""
        self.scale.close_link()
        self.splitter.close()

"""The card of the selected part: its sizes, its wool as bundles, what to weigh out, and its wire."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.order import made_fact
from bambola.core.order.steps import base_part
from bambola.core.plan import PartPlan
from bambola.core.quantities import Units, show_length
from bambola.core.wool import Portion
from bambola.core.words import kind
from bambola.desk.kit.buttons import make_switch, show_switch
from bambola.desk.kit.card_rows import FittingRow, PortionRow, WireRow
from bambola.desk.kit.flow import discard
from bambola.desk.kit.icons import icon
from bambola.desk.kit.painters.wool import paint_arrow, paint_bundle
from bambola.desk.kit.paper import ElidedLabel
from bambola.desk.kit.sizes_row import SizesRow
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.running.timers import CALM_MS, Throttle
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


class PartCard(QWidget):
    """A sheet of paper with everything about the selected part."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.setAccessibleName(tr("Selected part"))
        self._layout = QVBoxLayout(self)
        self._title = QLabel()
        self._made = ElidedLabel()
        self._sizes = SizesRow(studio, theme)
        self._hold = QToolButton()
        self._hold.setAccessibleName(tr("Hold as made"))
        self._hold.setToolTip(tr("Hold this part at the size it was made, whatever the height"))
        make_switch(self._hold, self._hold_toggled)
        head = QHBoxLayout()
        head.addWidget(self._title, 1)
        head.addWidget(self._hold)
        self._layout.addLayout(head)
        self._layout.addWidget(self._made)
        self._layout.addWidget(self._sizes)
        self._bundles = BundleView(studio, theme)
        self._layout.addWidget(self._bundles)
        self._rows = QVBoxLayout()
        self._layout.addLayout(self._rows)
        self._layout.addStretch(1)
        self._built_for: object = None
        self._portions: list[PortionRow] = []
        self._wires: list[WireRow] = []
        self._fittings: list[FittingRow] = []
        # It stands beside what is pulled: it need not follow the hand as closely.
        self._calm = Throttle(self, CALM_MS, self.refresh)
        studio.plan_changed.connect(self._calm.ask)
        studio.selection.part_changed.connect(self.refresh)
        studio.units_changed.connect(self.refresh)
        set_role(self._title, "headline")
        set_role(self._made, "note", "quiet")
        set_spacing(self.theme, self._layout, (20, 12, 18, 12), gap=6)
        set_spacing(self.theme, self._rows, gap=4)
        theme.changed.connect(self._restyle)
        self._restyle()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d = self.theme.dyes
        painter.setPen(QPen(d.edge, 1))
        painter.setBrush(d.paper)
        corner = self.theme.px(14)
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), corner, corner)

    def _restyle(self) -> None:
        px = self.theme.px
        self._hold.setIcon(icon("hold", self.theme.dyes.ink))
        self._hold.setIconSize(QSize(px(22), px(22)))
        self._built_for = None
        self.refresh()

    def _hold_toggled(self, held: bool) -> None:
        if self.studio.selection.part:
            self.studio.hold(self.studio.selection.part, held)
            show_switch(self._hold, self.studio.is_held(self.studio.selection.part))

    def refresh(self) -> None:
        """Show the selected part of the present plan."""
        plan, selected = self.studio.plan, self.studio.selection.part
        if plan is None or selected is None or not any(p.id == selected for p in plan.parts):
            return
        part, wires = plan.part(selected), plan.wires_in(selected)
        fittings = plan.fittings_on(selected)
        portions = [portion for portion in part.heaps if portion.take_g > 0]
        shape = (selected, len(portions), len(wires), len(fittings))
        if shape != self._built_for:
            self._built_for = shape
            self._rebuild_rows(shape)
        self._title.setText(self._part_title(part))
        made = [self.studio.say(made_fact(part.made))]
        if any(job.coreless for job in plan.work.parts if base_part(job.id) == selected):
            made.append(tr("of its coat’s wool alone"))
        if part.portions:
            made.append(self.studio.say(kind("firmness", part.firmness)))
            if part.rounds > 1:
                made.append(tr("{rounds} rounds", rounds=part.rounds))
        self._made.setText(", ".join(made))
        self._sizes.show_part(part)
        show_switch(self._hold, self.studio.is_held(selected))
        self._bundles.show_part(part)
        self._bundles.setVisible(self._bundles.has_bundle)
        for row, portion in zip(self._portions, portions, strict=True):
            row.show_portion(portion)
        for wire_row, wire in zip(self._wires, wires, strict=True):
            wire_row.show_wire(wire)
        for fitting_row, fitting in zip(self._fittings, fittings, strict=True):
            fitting_row.show_fitting(fitting)

    def _part_title(self, part: PartPlan) -> str:
        """Return a part's name with the number of copies."""
        if part.count == 1 or self.studio.figure is None:
            return part.name
        many = self.studio.figure.by_id[part.id].plural
        if many is None:  # how several are called is the maker's to say
            return tr("{part} × {n}", part=part.name, n=part.count)
        if part.count == 2:
            return tr("Both {parts:lower}", parts=many)
        return tr("{n} {parts:lower}", n=part.count, parts=many)

    def _rebuild_rows(self, shape: tuple[str, int, int, int]) -> None:
        while (item := self._rows.takeAt(0)) is not None:
            if widget := item.widget():
                discard(widget)
        _, portions, wires, fittings = shape
        self._portions = [PortionRow(self.studio, self.theme) for _ in range(portions)]
        self._wires = [WireRow(self.studio, self.theme) for _ in range(wires)]
        self._fittings = [FittingRow(self.studio, self.theme) for _ in range(fittings)]
        for widget in (*self._portions, *self._wires, *self._fittings):
            self._rows.addWidget(widget)


class BundleView(QWidget):
    """The core's loose bundle beside the finished part, at one scale."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._portion: Portion | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), self.theme.px(150))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(180), self.theme.px(92))

    def show_part(self, part: PartPlan) -> None:
        """Show the core of ``part``."""
        # What is laid on or wound on is no bundle to roll.
        cores = (p for p in part.portions if p.role == "core" and p.form != "veil" and p.take_g > 0)
        self._portion = next(cores, None)
        if self._portion:
            sizes = self._bundle_words(self._portion)
            self.setAccessibleName(f"{sizes[0]}, {sizes[1]}")
        self.update()

    @property
    def has_bundle(self) -> bool:
        """Whether there is a core to roll."""
        return self._portion is not None

    def _bundle_words(self, portion: Portion) -> tuple[str, str]:
        units = self.studio.units
        loose, finished = portion.loose_mm, portion.finished_mm
        if portion.form == "sheet":
            return (
                tr("lay it {size}", size=_size_text(loose, units)),
                tr("felt it to {size}", size=_size_text(finished, units)),
            )
        if portion.form == "ball":
            return (
                tr("roll it to {size}", size=_size_text(loose, units)),
                tr("felt it to {size}", size=_size_text(finished, units)),
            )
        return (
            tr("roll it {size}", size=_size_text(loose, units)),
            tr("felt it to {size}", size=_size_text(finished, units)),
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        portion = self._portion
        if portion is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px = self.theme.px
        text_high, gap = px(20) * self._text_lines(), px(46)
        loose, finished = _drawn_size(portion.loose_mm), _drawn_size(portion.finished_mm)
        tall, wide = self.height() - text_high - px(6), self.width() - gap - px(8)
        share = min(tall / max(loose[1], finished[1]), wide / (loose[0] + finished[0]))
        widths = loose[0] * share, finished[0] * share
        middle = tall / 2 + px(2)
        spare = max(0.0, self.width() - sum(widths) - gap)
        left = spare * 0.4
        right = left + widths[0] + gap + spare * 0.2
        colour = self.studio.bench.wool_by_id[portion.wool].colour
        for x, size, is_loose in ((left, loose, True), (right, finished, False)):
            box = QRectF(x, middle - size[1] * share / 2, size[0] * share, size[1] * share)
            paint_bundle(painter, box, colour, is_loose, self.theme)
        arrow = left + widths[0] + px(8), right - px(8)
        paint_arrow(painter, QPointF(arrow[0], middle), QPointF(arrow[1], middle), self.theme)
        self._paint_words(painter, self._bundle_words(portion))

    def _text_lines(self) -> int:
        """Return both sizes in one line if they fit, otherwise in two."""
        if self._portion is None:
            return 1
        font = QFontMetricsF(self.theme.text(14, bold=True))
        wide = sum(font.horizontalAdvance(text) for text in self._bundle_words(self._portion))
        return 1 if wide + self.theme.px(16) <= self.width() else 2

    def _paint_words(self, painter: QPainter, words: tuple[str, str]) -> None:
        line, lines = self.theme.px(20), self._text_lines()
        low = QRectF(0, self.height() - line, self.width(), line)
        mid = Qt.AlignmentFlag.AlignVCenter
        painter.setFont(self.theme.text(14, bold=True))
        painter.setPen(self.theme.dyes.ink)
        painter.drawText(
            low.translated(0, -line * (lines - 1)), mid | Qt.AlignmentFlag.AlignLeft, words[0]
        )
        painter.drawText(low, mid | Qt.AlignmentFlag.AlignRight, words[1])


def _drawn_size(size: dict[str, float]) -> tuple[float, float]:
    """Return width and height (mm) of a drawn bundle, its longest side across."""
    sides = sorted((size["along"], size["across"]), reverse=True)
    return sides[0], sides[1]


def _size_text(size: dict[str, float], units: Units) -> str:
    along, across = size["along"], size["across"]
    long, short = max(along, across), min(along, across)
    return f"{show_length(long, units, with_unit=False)} × {show_length(short, units)}"

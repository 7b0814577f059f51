"""Pixels per millimetre of this screen: as it reports, or as the maker measured it."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.quantities import MM_PER, Units, show_length
from bambola.desk.kit.buttons import make_switch, ok_cancel, show_switch
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import Theme
from bambola.desk.session.settings import Settings
from bambola.language import tr

CARD_MM = (85.60, 53.98)
"""A bank card (ISO/IEC 7810, ID-1)."""
RULE_MM, RULE_IN = 100.0, 4.0
"""How long a ruler is held against the screen, by the maker's units."""
_KNOB_PX = 9


class TrueSize(QObject):
    """The screen's scale, stored by the screen's name."""

    changed = pyqtSignal()

    def __init__(self, settings: Settings) -> None:
        super().__init__()
        self.settings = settings

    def px_per_mm(self, widget: QWidget) -> float:
        """Return pixels per millimetre where ``widget`` is shown."""
        screen = widget.screen()
        if screen is None:
            return 96.0 / MM_PER["in"]
        measured = self.settings.screen_px_per_mm(screen.name())
        return measured or screen.physicalDotsPerInch() / MM_PER["in"]

    def is_measured(self, widget: QWidget) -> bool:
        """Return whether the maker has measured this screen."""
        screen = widget.screen()
        return screen is not None and self.settings.screen_px_per_mm(screen.name()) is not None

    def measured(self, widget: QWidget, px_per_mm: float) -> None:
        """Save the measured scale of the screen that shows ``widget``."""
        screen = widget.screen()
        if screen is not None:
            self.settings.set_screen_px_per_mm(screen.name(), px_per_mm)
            self.changed.emit()


class _HeldOutline(QWidget):
    """The outline of the thing held against the screen; its right edge is dragged to fit."""

    fitted = pyqtSignal()

    def __init__(self, theme: Theme, px_per_mm: float, units: Units) -> None:
        super().__init__()
        self.theme, self.scale, self.card = theme, px_per_mm, True
        self.rule_mm = RULE_IN * MM_PER["in"] if units.length == "in" else RULE_MM
        self.rule = show_length(self.rule_mm, units)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Outline to fit to the card or ruler"))
        # What is longest has to lie on it whole, with room to pull.
        self.setMinimumSize(max(620, round(40 + 1.15 * self.rule_mm * px_per_mm)), 330)

    def _outline_box(self) -> QRectF:
        wide, tall = CARD_MM if self.card else (self.rule_mm, 14.0)
        return QRectF(20, 20, wide * self.scale, tall * self.scale)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, box = self.theme.dyes, self._outline_box()
        painter.setPen(QPen(d.madder, 2))
        painter.setBrush(d.slip if self.card else d.tape)
        corner = 3.18 * self.scale if self.card else 0
        painter.drawRoundedRect(box, corner, corner)
        painter.setFont(self.theme.text(16, bold=True))
        painter.setPen(d.ink if self.card else d.tape_ink)
        painter.drawText(
            box, Qt.AlignmentFlag.AlignCenter, tr("your card") if self.card else self.rule
        )
        # The edge that is pulled, with something to take it by.
        painter.setPen(QPen(d.madder, 4))
        painter.drawLine(box.topRight(), box.bottomRight())
        painter.setBrush(d.madder)
        painter.drawEllipse(QPointF(box.right(), box.center().y()), _KNOB_PX, _KNOB_PX)

    def pull_to(self, x: float) -> None:
        """Move the right edge to ``x``."""
        wide = CARD_MM[0] if self.card else self.rule_mm
        self.scale = max(1.0, min(40.0, (x - 20) / wide))
        self.fitted.emit()
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.pull_to(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self.mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        fine = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        self.pull_to(self._outline_box().right() + step * (0.5 if fine else 2.0))


class ScreenDialog(FittedDialog):
    """Measures the screen: hold a bank card or a ruler against it and drag the outline until it fits."""

    def __init__(self, parent: QWidget, theme: Theme, true_size: TrueSize) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Actual size on this screen"))
        self._size, self._for = true_size, parent
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.held = _HeldOutline(theme, true_size.px_per_mm(parent), true_size.settings.units)
        self.with_card, self.with_ruler = (
            QPushButton(tr("A bank card")),
            QPushButton(tr("A ruler, {length}", length=self.held.rule)),
        )
        row = QHBoxLayout()
        for button, card in ((self.with_card, True), (self.with_ruler, False)):
            make_switch(button, lambda _, card=card: self._choose_outline(card))
            row.addWidget(button)
        row.addStretch(1)
        buttons = ok_cancel(self)
        column = QVBoxLayout(self)
        column.addWidget(self.told)
        column.addLayout(row)
        column.addWidget(self.held, 1)
        column.addWidget(buttons)
        self._choose_outline(True)

    def _choose_outline(self, card: bool) -> None:
        self.held.card = card
        card_told = tr(
            "Hold a bank card against the screen with its left edge on the left line, and "
            "drag the right line until it fits (or use Left and Right, with Shift for finer"
            " steps)."
        )
        ruler_told = tr(
            "Hold a ruler against the screen with its zero on the left line, and drag the "
            "right line to its {length} (or use Left and Right, with Shift for finer "
            "steps).",
            length=self.held.rule,
        )
        self.told.setText(card_told if card else ruler_told)
        show_switch(self.with_card, card)
        show_switch(self.with_ruler, not card)
        self.held.update()
        self.held.setFocus()

    def accept(self) -> None:
        self._size.measured(self._for, self.held.scale)
        super().accept()

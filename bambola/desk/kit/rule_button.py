"""The rule a size follows when the height changes, set right where the size is shown."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QInputDialog, QMenu, QToolButton, QWidget

from bambola.core.figure import SizeRule
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.desk.kit.icons import icon
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import Studio

KINDS = (
    ("", "Follows the &height"),
    ("hold", "&Held as made"),
    ("floor", "Not &under…"),
    ("ceiling", "Not &over…"),
    ("multiply", "&Times…"),
)


def rule_words(studio: Studio, rule: SizeRule | None) -> str:
    """A size rule in the maker's words."""
    if rule is None or rule.rule == "scale":
        return "follows the height"
    if rule.rule == "hold":
        return (
            "held as made"
            if rule.value is None
            else f"held at {show_length(rule.value, studio.units)}"
        )
    if rule.rule == "multiply":
        return f"times {rule.value:g}"
    assert rule.value is not None
    word = "under" if rule.rule == "floor" else "over"
    return f"not {word} {show_length(rule.value, studio.units)}"


class RuleButton(QToolButton):
    """Shows whether a size has a rule of its own; pressing it offers the rules."""

    def __init__(
        self, studio: Studio, theme: Theme, part: str, measure: str, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme, self.part, self.measure = studio, theme, part, measure
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.setCheckable(True)
        menu = QMenu(self)
        menu.aboutToShow.connect(self._fill)
        self.setMenu(menu)
        self._menu = menu
        self.setIcon(icon("hold", theme.dyes.ink))
        self.setIconSize(QSize(theme.px(18), theme.px(18)))
        self.setStyleSheet("QToolButton::menu-indicator { image: none; }")
        self.refresh()

    def refresh(self) -> None:
        """Show the rule that lies on the measure now."""
        rule = self.studio.rule_of(self.part, self.measure)
        self.setChecked(rule is not None)
        words = rule_words(self.studio, rule)
        self.setToolTip(f"{self.measure}: {words}")
        self.setAccessibleName(f"{self.measure} {words}")

    def _fill(self) -> None:
        fill_rule_menu(self._menu, self.studio, self.part, self.measure, self)


def fill_rule_menu(menu: QMenu, studio: Studio, part: str, measure: str, parent: QWidget) -> None:
    """The rules on offer for one measure, the one in force ticked."""
    menu.clear()
    now = studio.rule_of(part, measure)
    for kind, words in KINDS:
        action = QAction(words, menu)
        action.setCheckable(True)
        action.setChecked((now.rule if now else "") == kind)
        action.triggered.connect(
            lambda _=False, kind=kind: set_rule(studio, part, measure, kind, parent)
        )
        menu.addAction(action)


def set_rule(studio: Studio, part: str, measure: str, kind: str, parent: QWidget) -> None:
    """Lay the rule of ``kind`` on a measure, asking for its number where it needs one."""
    if kind in ("", "hold"):
        rule = SizeRule(measure=measure, rule="hold") if kind else None
        studio.rule(part, measure, rule)
        return
    assert studio.plan is not None
    now = studio.plan.part(part).to_mm.get(measure, 0.0)
    offered = "1.2" if kind == "multiply" else show_length(now, studio.units)
    word = {"floor": "not under", "ceiling": "not over", "multiply": "times"}[kind]
    text, taken = QInputDialog.getText(
        parent, "Size rule", f"{measure.capitalize()}: {word}", text=offered
    )
    if not taken:
        return
    try:
        value = _factor(text) if kind == "multiply" else parse_length(text, studio.units.length)
        if value <= 0:
            raise QuantityError(f"“{text}” must lie above 0.")
    except QuantityError as error:
        studio.refuse(error)
        return
    studio.rule(part, measure, SizeRule(measure=measure, rule=kind, value=value))


def _factor(text: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise QuantityError(f"“{text}” is no factor; write one such as 1.2.") from None
    if not 0 < value <= 20:
        raise QuantityError(f"“{text}” is no factor a measure can have; write one from 0 to 20.")
    return value

"""A button for the rule a size follows when the height changes, beside the size itself."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QInputDialog, QMenu, QToolButton, QWidget

from bambola.core.figure import SizeRule
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.words import kind
from bambola.desk.kit.icons import icon
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

KINDS = (
    ("", N_("Follows the &height")),
    ("hold", N_("&Held as made")),
    ("floor", N_("Not &under…")),
    ("ceiling", N_("Not &over…")),
    ("multiply", N_("&Times…")),
)


def rule_words(studio: EditorSession, rule: SizeRule | None) -> str:
    """Return a size rule in the maker's words."""
    if rule is None or rule.rule == "scale":
        return tr("follows the height")
    if rule.rule == "hold":
        return (
            tr("held as made")
            if rule.value is None
            else tr("held at {value}", value=show_length(rule.value, studio.units))
        )
    if rule.rule == "multiply":
        return tr("times {value:g}", value=rule.value)
    assert rule.value is not None
    value = show_length(rule.value, studio.units)
    if rule.rule == "floor":
        return tr("not under {value}", value=value)
    return tr("not over {value}", value=value)


class RuleButton(QToolButton):
    """Shows whether a size has a rule of its own; pressing it offers the rules."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        part: str,
        measure: str,
        parent: QWidget | None = None,
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
        """Show the measure's present rule."""
        rule = self.studio.rule_of(self.part, self.measure)
        self.setChecked(rule is not None)
        words = rule_words(self.studio, rule)
        measure = self.studio.say(kind("measure", self.measure))
        self.setToolTip(f"{measure}: {words}")
        self.setAccessibleName(f"{measure} {words}")

    def _fill(self) -> None:
        fill_rule_menu(self._menu, self.studio, self.part, self.measure, self)


def fill_rule_menu(
    menu: QMenu, studio: EditorSession, part: str, measure: str, parent: QWidget
) -> None:
    """Fill a menu with the rules for one measure, the present one ticked."""
    menu.clear()
    now = studio.rule_of(part, measure)
    for rule, words in KINDS:
        action = QAction(tr(words), menu)
        action.setCheckable(True)
        action.setChecked((now.rule if now else "") == rule)
        action.triggered.connect(
            lambda _=False, rule=rule: set_rule(studio, part, measure, rule, parent)
        )
        menu.addAction(action)


def set_rule(studio: EditorSession, part: str, measure: str, rule: str, parent: QWidget) -> None:
    """Set a rule for a measure, asking for its number if it needs one."""
    if rule in ("", "hold"):
        held = SizeRule(measure=measure, rule="hold") if rule else None
        studio.rule(part, measure, held)
        return
    assert studio.plan is not None
    now = studio.plan.part(part).to_mm.get(measure, 0.0)
    offered = "1.2" if rule == "multiply" else show_length(now, studio.units)
    word = {"floor": tr("not under"), "ceiling": tr("not over"), "multiply": tr("times")}[rule]
    text, taken = QInputDialog.getText(
        parent,
        tr("Size rule"),
        f"{studio.say(kind('measure', measure)).capitalize()}: {word}",
        text=offered,
    )
    if not taken:
        return
    try:
        value = _factor(text) if rule == "multiply" else parse_length(text, studio.units.length)
        if value <= 0:
            raise QuantityError(tr("“{text}” must lie above 0.", text=text))
    except QuantityError as error:
        studio.refuse(error)
        return
    studio.rule(part, measure, SizeRule(measure=measure, rule=rule, value=value))


def _factor(text: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise QuantityError(
            tr("“{text}” is no factor; write one such as 1.2.", text=text)
        ) from None
    if not 0 < value <= 20:
        raise QuantityError(
            tr("“{text}” is no factor a measure can have; write one from 0 to 20.", text=text)
        )
    return value

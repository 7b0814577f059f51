"""The sizes of the selected part and the rules they follow, which can be changed here."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRectF, QSize, Qt
from PyQt6.QtGui import QAction, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QInputDialog, QMenu, QToolButton, QWidget

from bambola.core.figure import SizeRule
from bambola.core.plan import PartPlan
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.words import kind
from bambola.desk.kit.icons import icon
from bambola.desk.kit.painted import Painted
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
        menu.aboutToShow.connect(self._fill_menu)
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

    def _fill_menu(self) -> None:
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
        value = (
            _parse_factor(text) if rule == "multiply" else parse_length(text, studio.units.length)
        )
        if value <= 0:
            raise QuantityError(tr("“{text}” must lie above 0.", text=text))
    except QuantityError as error:
        studio.refuse(error)
        return
    studio.rule(part, measure, SizeRule(measure=measure, rule=rule, value=value))


def _parse_factor(text: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise QuantityError(
            tr("“{text}” is not a factor; write one such as 1.2.", text=text)
        ) from None
    if not 0 < value <= 20:
        raise QuantityError(
            tr("“{text}” is not a factor a measure can have; write one from 0 to 20.", text=text)
        )
    return value


class SizesRow(Painted):
    """The part's measures, new in large type with the old ones below; painted, since they change during a
    drag. Clicking one, or Enter on it, offers its rules."""

    def __init__(self, studio: EditorSession, theme: Theme) -> None:
        super().__init__(theme, "")
        self.studio = studio
        self.words: list[tuple[str, str, str]] = []
        """Of each measure its size, its name, and what it was or the rule it follows."""
        self.measures: list[str] = []
        self.at = 0
        self._part = ""
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(280), self.theme.px(62))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(180), self.theme.px(62))

    def show_part(self, part: PartPlan) -> None:
        """Show the measures of ``part``; the tool tip says which rules changed them."""
        units = self.studio.units
        self._part = part.id
        self.words = [
            (
                show_length(mm, units),
                self.studio.say(kind("measure", name)),
                self._rule_text(part, name),
            )
            for name, mm in part.to_mm.items()
        ]
        self.measures = list(part.to_mm)
        self.at = min(self.at, len(self.words) - 1)
        told = "\n".join(map(self.studio.say, part.sized_by)) or tr(
            "every measure × the figure’s scale"
        )
        self.setToolTip(tr("{told}\nPress a size to hold or bound it.", told=told))
        self.setAccessibleName(", ".join(" ".join(word) for word in self.words))
        self.update()

    def _rule_text(self, part: PartPlan, name: str) -> str:
        rule = self.studio.rule_of(part.id, name)
        if rule is not None:
            return rule_words(self.studio, rule)
        return tr(
            "was {was}", was=show_length(part.from_mm[name], self.studio.units, with_unit=False)
        )

    def menu(self) -> QMenu:
        """Return the menu of rules for the current measure."""
        menu = QMenu(self)
        fill_rule_menu(menu, self.studio, self._part, self.measures[self.at], self)
        return menu

    def _open_list(self) -> None:
        if self.words:
            each = self.width() // len(self.words)
            self.menu().exec(self.mapToGlobal(QPoint(self.at * each, self.height())))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self.words:
            self.at = min(
                len(self.words) - 1, int(event.position().x() * len(self.words) / self.width())
            )
            self.update()
            self._open_list()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.words:
            self.at = (self.at + (1 if key == Qt.Key.Key_Right else -1)) % len(self.words)
            self.update()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._open_list()
        else:
            super().keyPressEvent(event)

    def _largest_font(self, room: float) -> int:
        """Return the largest font size at which every number fits."""
        for size in range(19, 13, -1):
            fine = QFontMetricsF(self.theme.text(size, bold=True))
            if all(fine.horizontalAdvance(number) <= room for number, _, _ in self.words):
                break
        return size

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        each = self.width() / max(1, len(self.words))
        large = self._largest_font(each - px(8))
        for i, texts in enumerate(self.words):
            if i == self.at and self.hasFocus():
                painter.setPen(QPen(d.woad, px(1.6)))
                painter.drawRoundedRect(
                    QRectF(i * each + 1, 1, each - 4, self.height() - 2), px(6), px(6)
                )
            ruled = self.studio.rule_of(self._part, self.measures[i]) is not None
            colours = (d.ink, d.quiet, d.madder if ruled else d.quiet)
            y = 0.0
            for text, size, high, colour in zip(
                texts, (large, 13, 13), (24, 18, 18), colours, strict=True
            ):
                painter.setFont(self.theme.text(size, bold=size == large))
                painter.setPen(colour)
                line = QRectF(i * each + px(4), y, each - px(4), px(high))
                painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, text)
                y += px(high)

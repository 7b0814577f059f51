"""The sizes of the selected part and the rules they follow, which can be changed here."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QMenu

from bambola.core.plan import PartPlan
from bambola.core.quantities import show_length
from bambola.core.words import kind
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.rule_button import fill_rule_menu, rule_words
from bambola.desk.kit.theme import Theme
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


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
            (show_length(mm, units), self.studio.say(kind("measure", name)), self._told(part, name))
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

    def _told(self, part: PartPlan, name: str) -> str:
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

    def _open(self) -> None:
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
            self._open()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.words:
            self.at = (self.at + (1 if key == Qt.Key.Key_Right else -1)) % len(self.words)
            self.update()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._open()
        else:
            super().keyPressEvent(event)

    def _large(self, room: float) -> int:
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
        large = self._large(each - px(8))
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

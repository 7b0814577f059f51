"""The guide: pages of Markdown in the maker's language, and the explanation of things in the window."""

from __future__ import annotations

import re
from html import escape
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QEvent, QObject, Qt, QUrl, pyqtSignal
from PyQt6.QtGui import QHelpEvent, QImage, QKeySequence, QShortcut, QTextBlockFormat, QTextCursor
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWhatsThis,
    QWidget,
)

from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.theme import Theme
from bambola.language import current_catalogue, tr
from bambola.translated import language_of

PAGES = Path(__file__).parents[2] / "shipped" / "guide"
START = "index"
_PICTURE = "\ufffc"
"""What stands for a picture in the text."""
_OF_LETTERS = QTextBlockFormat.LineHeightTypes.ProportionalHeight
_LINK = re.compile(r"\]\(([a-z-]+)\.md\)")


def pages_of(folder: Path) -> list[str]:
    """Return the pages in the order in which the first page links them."""
    first = (folder / f"{START}.md").read_text(encoding="utf-8")
    return [START, *dict.fromkeys(_LINK.findall(first))]


def title_of(text: str) -> str:
    """Return the title of a page."""
    return text.partition("\n")[0].lstrip("# ")


class Guide(FittedDialog):
    """The guide's window: its pages on the left, a search field above them."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        super().__init__(window)
        self.theme = theme
        self.setWindowTitle(tr("Guide"))
        spoken_here = PAGES / language_of(current_catalogue())
        self.folder = spoken_here if spoken_here.is_dir() else PAGES / "en"
        self._texts = {
            page: (self.folder / f"{page}.md").read_text(encoding="utf-8")
            for page in pages_of(self.folder)
        }
        self.sought = QLineEdit()
        self.sought.setPlaceholderText(tr("look for a word"))
        self.sought.setAccessibleName(tr("Look for a word in the guide"))
        self.sought.setClearButtonEnabled(True)
        self.sought.textChanged.connect(self._search_pages)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Pages of the guide"))
        self.list.currentItemChanged.connect(self._open_chosen)
        self.page = _GuidePage(theme)
        self.page.setAccessibleName(tr("Page of the guide"))
        self.page.came.connect(self._mark_open_page)
        left = QVBoxLayout()
        left.addWidget(self.sought)
        left.addWidget(self.list, 1)
        row = QHBoxLayout(self)
        row.addLayout(left, 1)
        row.addWidget(self.page, 3)
        QShortcut(QKeySequence.StandardKey.Find, self, self.sought.setFocus)
        self.set_size(theme, 980, 680)
        self._search_pages("")

    def open(self, page: str = START) -> None:
        """Show a page, and come to the front."""
        self.sought.clear()
        self._turn_to(page)
        self.show()
        self.raise_()
        self.activateWindow()
        self.page.setFocus()

    def _turn_to(self, page: str) -> None:
        self.page.setSource(QUrl.fromLocalFile(str(self.folder / f"{page}.md")))

    def _search_pages(self, words: str) -> None:
        """List the pages that contain all words of the search; all pages without one."""
        self.list.blockSignals(True)
        self.list.clear()
        for page, text in self._texts.items():
            if all(word in text.casefold() for word in words.casefold().split()):
                item = QListWidgetItem(title_of(text))
                item.setData(Qt.ItemDataRole.UserRole, page)
                self.list.addItem(item)
        self.list.blockSignals(False)
        if words and self.list.count():
            self._turn_to(self.list.item(0).data(Qt.ItemDataRole.UserRole))  # type: ignore[union-attr]
            self.page.find(words)
        self._mark_open_page()

    def _open_chosen(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            self._turn_to(item.data(Qt.ItemDataRole.UserRole))
            if words := self.sought.text():
                self.page.find(words)

    def _mark_open_page(self) -> None:
        """Mark the open page in the list."""
        here = Path(self.page.source().fileName()).stem
        self.list.blockSignals(True)
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item is not None and item.data(Qt.ItemDataRole.UserRole) == here:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)


class _GuidePage(QTextBrowser):
    """A page of the guide, with its pictures fitted to the width."""

    came = pyqtSignal()
    """Another page is open."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.theme = theme
        self.setFont(theme.text())
        self.setViewportMargins(theme.px(18), theme.px(12), theme.px(12), 0)
        self.setTabChangesFocus(False)  # Tab goes from link to link

    def doSetSource(self, name: QUrl, kind: Any = None) -> None:
        """Open the target of a link."""
        super().doSetSource(name, kind)
        self._space_paragraphs()
        self.came.emit()

    def _space_paragraphs(self) -> None:
        document = self.document()
        assert document is not None
        block, gap = document.begin(), self.theme.px(9)
        while block.isValid():
            form, cursor = block.blockFormat(), QTextCursor(block)
            in_list = block.textList() is not None
            form.setTopMargin(gap * 1.6 if form.headingLevel() > 1 else 0)
            form.setBottomMargin(gap / 3 if in_list or form.headingLevel() else gap)
            if block.text() != _PICTURE:
                form.setLineHeight(118, _OF_LETTERS.value)  # type: ignore[arg-type]
            cursor.setBlockFormat(form)
            block = block.next()

    def loadResource(self, kind: int, name: QUrl) -> Any:
        """Return a resource, with pictures fitted to the width."""
        found = super().loadResource(kind, name)
        if name.fileName().endswith(".jpg"):
            viewport = self.viewport()
            image = QImage(self.source().resolved(name).toLocalFile())
            room = (viewport.width() if viewport else self.width()) - 40
            if not image.isNull() and image.width() > room > 0:
                image = image.scaledToWidth(room, Qt.TransformationMode.SmoothTransformation)
            return image
        return found


class _HelpPointer(QObject):
    """Explains the thing under the pointer while that mode is on."""

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is None or not isinstance(watched, QWidget):
            return False
        if event.type() == QEvent.Type.QueryWhatsThis:
            event.setAccepted(bool(what_is(watched)))
            return True
        if event.type() == QEvent.Type.WhatsThis and isinstance(event, QHelpEvent):
            if text := what_is(watched):
                QWhatsThis.showText(event.globalPos(), escape(text), watched)
            return True
        if event.type() == QEvent.Type.LeaveWhatsThisMode:
            app = QApplication.instance()
            assert app is not None
            app.removeEventFilter(self)
            self.deleteLater()
        return False


def what_is(widget: QWidget) -> str:
    """Return the explanation of a widget, or of the nearest one around it."""
    at: QWidget | None = widget
    while at is not None and not at.isWindow():
        words = at.text().replace("&", "") if isinstance(at, QAbstractButton) else ""
        name, told = at.accessibleName() or words, at.toolTip() or at.accessibleDescription()
        found = [text for text in dict.fromkeys((at.whatsThis(), name, told)) if text]
        if found:
            return "\n".join(found)
        at = at.parentWidget()
    return ""


def ask_what_is(window: QWidget) -> None:
    """Explain the next thing that is clicked."""
    app = QApplication.instance()
    assert app is not None
    app.installEventFilter(_HelpPointer(window))
    QWhatsThis.enterWhatsThisMode()

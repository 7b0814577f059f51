"""The strip of paper at the foot of the window that shows messages."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QToolButton, QWidget

from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import one_shot_timer
from bambola.language import tr

QUIET_MS = 6000


class MessageStrip(QFrame):
    """Shows one sentence: a refusal stays until it is dismissed, good news disappears by itself. It floats
    over the foot of the window and moves nothing."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._serious = False
        self._words = QLabel()
        self._words.setWordWrap(True)
        self._words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        away = QToolButton()
        away.setText("×")
        away.setAccessibleName(tr("Close this message"))
        away.clicked.connect(self.hide)
        row = QHBoxLayout(self)
        row.addWidget(self._words, 1)
        row.addWidget(away)
        self._timer = one_shot_timer(self, QUIET_MS)
        self._timer.timeout.connect(self.hide)
        set_role(self._words, "body")
        theme.changed.connect(self._restyle)
        self.hide()

    def float_over(self, page: QWidget) -> None:
        """Float over the foot of ``page``, whatever its size."""
        self.setParent(page)
        page.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.Resize:
            self._place_at_foot()
        return False

    def _place_at_foot(self) -> None:
        page, px = self.parentWidget(), self.theme.px
        if page is None or not self.isVisibleTo(page):
            return
        wide = page.width() - 2 * px(24)
        high = self.heightForWidth(wide)
        self.setGeometry(px(24), page.height() - high - px(8), wide, high)
        self.raise_()

    @property
    def text(self) -> str:
        """What is being said, or nothing."""
        return self._words.text() if self.isVisible() else ""

    def say(self, text: str, serious: bool) -> None:
        """Say ``text``."""
        self._serious = serious
        self._words.setText(text)
        self.setAccessibleName(text)
        self._restyle()
        self.show()
        self._place_at_foot()
        self._timer.stop()
        if not serious:
            self._timer.start()

    def _restyle(self) -> None:
        set_role(self, "message", "serious" if self._serious else "calm")

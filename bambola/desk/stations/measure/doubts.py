"""The contradictions between measurements, each with a link to its place."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from bambola.core.plan.reading.checks import Doubt, find_doubts
from bambola.desk.kit.discard import discard
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import one_shot_timer
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.sighting import Sighting
from bambola.language import tr

_SETTLE_MS = 250


class DoubtList(QWidget):
    """One slip of paper for each contradiction, removed once it no longer holds."""

    asked = pyqtSignal(object)
    counted = pyqtSignal(int)

    def __init__(self, studio: EditorSession, theme: Theme, sighting: Sighting) -> None:
        super().__init__()
        self.studio, self.theme, self.sighting = studio, theme, sighting
        self.doubts: tuple[Doubt, ...] = ()
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._none = QLabel(tr("Everything that was measured goes together."))
        self._none.setWordWrap(True)
        self._box.addWidget(self._none)
        self._slips = QVBoxLayout()
        self._box.addLayout(self._slips)
        self._box.addStretch(1)
        self._timer = one_shot_timer(self, _SETTLE_MS)
        self._timer.timeout.connect(self.refresh)
        for signal in (
            studio.survey_changed,
            studio.figure_changed,
            studio.plan_changed,
            sighting.changed,
            studio.units_changed,
        ):
            signal.connect(lambda *_: self._timer.start())
        theme.changed.connect(lambda: self._timer.start())

    def refresh(self) -> None:
        """Check everything again."""
        figure = self.studio.figure
        if figure is None or not self.studio_is_here():
            return
        self.doubts = find_doubts(
            figure,
            self.studio.plan_as_made(),
            self.studio.survey,
            self.studio.bench,
            self.sighting.seen(),
        )
        while (item := self._slips.takeAt(0)) is not None:
            if widget := item.widget():
                discard(widget)
        for doubt in self.doubts:
            self._slips.addWidget(self._slip(doubt))
        self._none.setVisible(not self.doubts)
        self.counted.emit(len(self.doubts))

    def studio_is_here(self) -> bool:
        """Return whether the station *Measure* is shown."""
        parent = self.parentWidget()
        return parent is not None and parent.isVisible()

    def _slip(self, doubt: Doubt) -> QFrame:
        d, px = self.theme.dyes, self.theme.px
        slip = QFrame()
        slip.setObjectName("doubt")
        slip.setStyleSheet(
            f"QFrame#doubt {{ background: {d.slip.name()}; border-left: {px(4)}px solid {d.weld.name()};"
            f" border-radius: {px(6)}px; }}"
        )
        told = self.studio.say(doubt.text)
        words = QLabel(told)
        words.setTextFormat(Qt.TextFormat.PlainText)
        words.setWordWrap(True)
        words.setFont(self.theme.text(15))
        row = QHBoxLayout(slip)
        row.addWidget(words, 1)
        if doubt.part or doubt.view:
            go = QPushButton(tr("Go there"))
            go.setAccessibleName(tr("Go to {told}", told=told))
            go.clicked.connect(lambda _=False: self.asked.emit(doubt))
            row.addWidget(go)
        return slip

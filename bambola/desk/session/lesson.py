"""Which ways of doing a step the maker has done before, so that what is known can be folded."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.desk.session.settings import Settings


class Lesson(QObject):
    """Whether the maker is learning, and what is known by now; kept between sessions."""

    changed = pyqtSignal()

    def __init__(self, settings: Settings) -> None:
        super().__init__()
        self._settings = settings
        self.known = frozenset(settings.learned)

    @property
    def is_on(self) -> bool:
        """Whether steps say why, and fold what is known."""
        return self._settings.learning

    def begin(self, afresh: bool) -> None:
        """Learn from now on; ``afresh`` as if nothing was known."""
        self._settings.learning = True
        if afresh:
            self._know(frozenset())
        self.changed.emit()

    def stop(self) -> None:
        """Tell every step in full from now on."""
        self._settings.learning = False
        self.changed.emit()

    def did(self, method: str) -> None:
        """Take it that a way of doing a step is known: a step was done this way."""
        if method not in self.known:
            self._know(self.known | {method})

    def _know(self, known: frozenset[str]) -> None:
        self.known = known
        self._settings.learned = sorted(known)

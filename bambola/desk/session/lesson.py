"""Tracks which methods the maker has done before, so that known ones can be shortened."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.desk.session.settings import Settings


class Lesson(QObject):
    """Whether the maker is learning, and which methods are known; stored in the settings."""

    changed = pyqtSignal()

    def __init__(self, settings: Settings) -> None:
        super().__init__()
        self._settings = settings
        self.known = frozenset(settings.learned)

    @property
    def is_on(self) -> bool:
        """Whether steps give reasons and shorten known methods."""
        return self._settings.learning

    def begin(self, afresh: bool) -> None:
        """Start learning; ``afresh`` forgets what is known."""
        self._settings.learning = True
        if afresh:
            self._set_known(frozenset())
        self.changed.emit()

    def stop(self) -> None:
        """Show every step in full."""
        self._settings.learning = False
        self.changed.emit()

    def mark_done(self, method: str) -> None:
        """Mark a finished step's method as learned."""
        if method not in self.known:
            self._set_known(self.known | {method})

    def _set_known(self, known: frozenset[str]) -> None:
        self.known = known
        self._settings.learned = sorted(known)

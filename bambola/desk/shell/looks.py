"""Display options kept between sessions: units, text size, dark or light."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QGuiApplication

from bambola.core.quantities import LengthUnit, MassUnit
from bambola.desk.kit.theme import Theme
from bambola.desk.running.timers import busy_cursor, one_shot_timer
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession

TEXT_SCALES = (1.0, 1.15, 1.3, 1.5, 1.75, 2.0)


class Looks(QObject):
    """The display options; ``changed`` is emitted when dark or light is switched."""

    changed = pyqtSignal()
    later = pyqtSignal()
    """That something is chosen which is seen at the next start."""

    def __init__(self, studio: EditorSession, theme: Theme, settings: Settings) -> None:
        super().__init__()
        self.studio, self.theme, self.settings = studio, theme, settings
        self._turns: list[Callable[[], None]] = []
        self._next = one_shot_timer(self, 0)
        self._next.timeout.connect(self._take_turn)
        hints = QGuiApplication.styleHints()
        if hints is not None:
            hints.colorSchemeChanged.connect(self._follow_system)

    def set_units(
        self,
        length: LengthUnit | None = None,
        mass: MassUnit | None = None,
        fraction: int | None = None,
    ) -> None:
        """Show lengths or weights in other units, or inches in other fractions."""
        had = self.studio.units
        units = replace(
            had,
            length=length or had.length,
            mass=mass or had.mass,
            inch_fraction=had.inch_fraction if fraction is None else fraction,
        )
        self.settings.units = units
        self.studio.set_units(units)

    def set_language(self, language: str | None) -> None:
        """Use another language from the next start on."""
        if language != self.settings.language:
            self.settings.language = language
            self.later.emit()

    def text_step(self, by: int) -> None:
        """Make the text larger or smaller."""
        nearest = min(range(len(TEXT_SCALES)), key=lambda i: abs(TEXT_SCALES[i] - self.theme.scale))
        self.text_to(TEXT_SCALES[max(0, min(nearest + by, len(TEXT_SCALES) - 1))])

    def text_to(self, scale: float) -> None:
        """Set the size of the text."""
        self.settings.text_scale = scale
        self._apply_look(scale=scale)

    def toggle_dark(self) -> None:
        """Switch between dark and light."""
        dark = not self.theme.dark
        self.settings.dark = dark
        self._apply_look(dark=dark)
        self.changed.emit()

    def _follow_system(self, scheme: Qt.ColorScheme) -> None:
        """Become dark or light with the system, unless the maker has chosen."""
        if self.settings.dark is None and scheme != Qt.ColorScheme.Unknown:
            self._apply_look(dark=scheme == Qt.ColorScheme.Dark)
            self.changed.emit()

    def _apply_look(self, dark: bool | None = None, scale: float | None = None) -> None:
        # Every widget there is takes on the new look, which can be felt: the window takes events between
        # font, palette and sheet, and the cursor says so.
        while self._turns:
            self._take_turn()
        self._turns = list(self.theme.in_turns(dark, scale))
        self._take_turn()

    def _take_turn(self) -> None:
        if self._turns:
            with busy_cursor():
                self._turns.pop(0)()
        if self._turns:
            self._next.start()

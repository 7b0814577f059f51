"""The settings that the window remembers between sessions."""

from __future__ import annotations

import threading
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QByteArray, QLocale, QSettings

from bambola.language import languages

if TYPE_CHECKING:
    from bambola.core.quantities import Units


RECENT_MOST = 8
_LETTER = {"BZ", "CA", "CL", "CO", "CR", "GT", "MX", "NI", "PA", "PH", "PR", "SV", "US", "VE"}
"""Countries that print on letter paper (Unicode, CLDR)."""


class Settings:
    """Recent files, units, look and geometry, in the user's settings.

    They are read once, and written on a thread of their own: a slow disk holds no window.
    """

    def __init__(self, store: QSettings | None = None) -> None:
        store = store or QSettings("bambola", "bambola")
        self._where = store.fileName(), store.format()
        self._values = _values_of(store)
        self._changed: dict[str, object] = {}
        self._lock = threading.Lock()
        self._writer = ThreadPoolExecutor(1, "settings")
        self._written: Future[None] | None = None

    def sync(self) -> None:
        """Wait until everything is on the disk."""
        if self._written is not None:
            self._written.result()

    def _value(self, key: str, usual: object = None) -> Any:
        return self._values.get(key, usual)

    def _put(self, key: str, value: object) -> None:
        """Change a setting; None removes it."""
        with self._lock:
            self._changed[key] = value
            self._values = {**self._values, key: value}
        self._written = self._writer.submit(self._write)

    def _write(self) -> None:
        """Write what was changed since the last writing, and take in what other windows have written."""
        with self._lock:
            changed, self._changed = self._changed, {}
        store = QSettings(*self._where)
        for key, value in changed.items():
            if value is None:
                store.remove(key)
            else:
                store.setValue(key, value)
        store.sync()
        with self._lock:
            if store.status() != QSettings.Status.NoError:  # written with the next change
                self._changed = {**changed, **self._changed}
            self._values = {**_values_of(store), **self._changed}

    @property
    def recent(self) -> list[str]:
        """The recently opened designs, newest first."""
        found = self._value("recent", [])
        return [found] if isinstance(found, str) else list(found or [])

    def add_recent(self, path: str) -> None:
        """Put a design at the head of the recent ones."""
        rest = [known for known in self.recent if known != path]
        self._put("recent", [path, *rest][:RECENT_MOST])

    def drop_recent(self, path: str) -> None:
        """Remove a missing design from the recent ones."""
        self._put("recent", [known for known in self.recent if known != path])

    @property
    def language(self) -> str | None:
        """The language from the next start on; None is the system's."""
        found = self._value("language")
        return found if found in languages() else None

    @language.setter
    def language(self, language: str | None) -> None:
        self._put("language", language or "")

    @property
    def units(self) -> Units:
        """The maker's units; the country's until they are chosen."""
        inches = QLocale().measurementSystem() == QLocale.MeasurementSystem.ImperialUSSystem
        length = self._value("length", "in" if inches else "mm")
        mass = self._value("mass", "oz" if inches else "g")
        fraction = str(self._value("inch_fraction", 16))
        from bambola.core.quantities import Units  # not needed for the first picture

        return Units(
            length if length in ("mm", "cm", "in") else "mm",
            mass if mass in ("g", "oz") else "g",
            int(fraction) if fraction in ("8", "16", "32") else 16,
        )

    @units.setter
    def units(self, units: Units) -> None:
        self._put("length", units.length)
        self._put("mass", units.mass)
        self._put("inch_fraction", units.inch_fraction)

    @property
    def dark(self) -> bool | None:
        """Dark, light, or None to follow the desktop."""
        value = self._value("dark")
        return None if value is None else value in (True, "true")

    @dark.setter
    def dark(self, dark: bool | None) -> None:
        self._put("dark", dark)

    @property
    def text_scale(self) -> float:
        """Text size, 1 to 2."""
        try:
            return min(2.0, max(1.0, float(self._value("text_scale", 1.0))))
        except (TypeError, ValueError):
            return 1.0

    @text_scale.setter
    def text_scale(self, scale: float) -> None:
        self._put("text_scale", scale)

    @property
    def picture_folder(self) -> str:
        """The folder of the last opened picture, if it still exists."""
        found = str(self._value("picture_folder", ""))
        return found if Path(found).is_dir() and found else str(Path.home())

    @picture_folder.setter
    def picture_folder(self, folder: str) -> None:
        self._put("picture_folder", folder)

    @property
    def picture_view(self) -> str:
        """The view of the last opened picture."""
        return str(self._value("picture_view", ""))

    @picture_view.setter
    def picture_view(self, view: str) -> None:
        self._put("picture_view", view)

    @property
    def maker(self) -> str:
        """The author named on pattern covers."""
        return str(self._value("maker", ""))

    @maker.setter
    def maker(self, maker: str) -> None:
        self._put("maker", maker)

    @property
    def licence(self) -> str:
        """The licence named on pattern covers."""
        return str(self._value("licence", ""))

    @licence.setter
    def licence(self, licence: str) -> None:
        self._put("licence", licence)

    @property
    def paper(self) -> str:
        """The size of the paper to print on; the country's until one is chosen."""
        usual = "letter" if QLocale.territoryToCode(QLocale().territory()) in _LETTER else "a4"
        return str(self._value("paper", usual))

    @paper.setter
    def paper(self, paper: str) -> None:
        self._put("paper", paper)

    @property
    def labels(self) -> str:
        """The number of labels on a label sheet; none is plain paper."""
        return str(self._value("labels", ""))

    @labels.setter
    def labels(self, count: str) -> None:
        self._put("labels", count)

    @property
    def left_out(self) -> list[str] | None:
        """The kinds of pages that are not printed; None if never chosen."""
        found = self._value("left_out", None)
        return [found] if isinstance(found, str) else found and list(found)

    @left_out.setter
    def left_out(self, kinds: list[str]) -> None:
        self._put("left_out", kinds)

    @property
    def learning(self) -> bool:
        """Whether the maker is learning to felt."""
        return self._value("learning", False) in (True, "true")

    @learning.setter
    def learning(self, on: bool) -> None:
        self._put("learning", on)

    @property
    def learned(self) -> list[str]:
        """The methods done while learning."""
        found = self._value("learned", [])
        return [found] if isinstance(found, str) else list(found or [])

    @learned.setter
    def learned(self, methods: list[str]) -> None:
        self._put("learned", methods)

    @property
    def geometry(self) -> QByteArray | None:
        """The window's size and position."""
        value = self._value("geometry")
        return value if isinstance(value, QByteArray) else None

    @geometry.setter
    def geometry(self, geometry: QByteArray) -> None:
        self._put("geometry", geometry)

    def screen_px_per_mm(self, screen: str) -> float | None:
        """Return pixels per millimetre of a screen, if the maker has measured it."""
        try:
            value = float(self._value(_screen_key(screen), 0.0))
        except (TypeError, ValueError):
            return None
        return value if 1.0 <= value <= 40.0 else None

    def set_screen_px_per_mm(self, screen: str, value: float) -> None:
        """Save the measured pixels per millimetre of a screen."""
        self._put(_screen_key(screen), value)


def _screen_key(screen: str) -> str:
    """Return the key of a screen, as it is once written: a name may be empty, or have slashes."""
    return "/".join(filter(None, f"screens/{screen}".split("/")))


def _values_of(store: QSettings) -> dict[str, object]:
    return {key: store.value(key) for key in store.allKeys()}

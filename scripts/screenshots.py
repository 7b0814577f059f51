"""Regenerate the screenshots of the main views from the demo data."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from PyQt6.QtCore import QSettings
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from bambola.desk.settings import Settings
from bambola.desk.stations.resize import VIEWS
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme, load_faces
from bambola.desk.window import Window
from bambola.store import Journal

SHOTS: tuple[tuple[str, dict[str, object]], ...] = (
    ("resize-front", {}),
    ("resize-side", {"view": "side", "part": "snout"}),
    ("resize-dark-large", {"dark": True, "scale": 1.5}),
    ("order", {"station": 2, "step": 29}),
)


def main(folder: Path) -> None:
    """Write every screenshot into ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    app = QApplication(["bambola"])
    app.setStyle("Fusion")
    load_faces()
    with tempfile.TemporaryDirectory() as scratch:
        for name, look in SHOTS:
            _shoot(folder / f"{name}.png", Path(scratch), look)


def _shoot(path: Path, scratch: Path, look: dict[str, object]) -> None:
    theme = Theme()
    theme.set(dark=bool(look.get("dark")), scale=float(str(look.get("scale", 1.0))))
    kept = QSettings(str(scratch / f"{path.stem}.ini"), QSettings.Format.IniFormat)
    settings = Settings(kept)
    window = Window(Studio(), theme, settings, Journal(scratch / "journal"))
    window.open_demo()
    window.show()
    window.resize_station.table.look(
        {name: c for name, _, c in VIEWS}[str(look.get("view", "front"))]
    )
    window.go_to(int(str(look.get("station", 1))))
    if "step" in look:
        window.thread_strip.walk_to(int(str(look["step"])))
    if "part" in look:
        window.studio.select(str(look["part"]))
    for _ in range(100):
        QTest.qWait(100)
        if window.darkroom.is_idle and _ > 8:
            break
    window.grab().save(str(path))
    window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))

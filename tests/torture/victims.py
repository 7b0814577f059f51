"""Programs made to be killed: ``python -m tests.torture.victims editor|saver FOLDER``."""

from __future__ import annotations

import json
import os
import random
import sys
import time
from pathlib import Path

from bambola.core.figure import Brief
from bambola.demo import load_demo
from bambola.shipped import default_bench


def editor(folder: Path) -> None:
    """A desk at which somebody works without a rest, writing down what was done when."""
    from PyQt6.QtCore import QSettings, QTimer
    from PyQt6.QtWidgets import QApplication, QWidget

    from bambola.desk.session.settings import Settings
    from bambola.desk.session.studio import Studio
    from bambola.desk.shell.files import FileDesk
    from bambola.store import Journal

    app = QApplication([])
    studio, window = Studio(), QWidget()
    store = QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)
    files = FileDesk(window, studio, Settings(store), Journal(folder / "journal"))
    studio.take(load_demo(), None)
    done = (folder / "done").open("w", buffering=1)
    heights = iter(range(1000, 100_000))

    def edit() -> None:
        height = next(heights) / 10
        if studio.set_height(height):
            done.write(json.dumps({"height": height, "at": time.time()}) + "\n")
        timer.start(random.choice([20, 100, 400, 900]))

    timer = QTimer()
    timer.setSingleShot(True)
    timer.timeout.connect(edit)
    timer.start(0)
    print("ready", flush=True)
    app.exec()
    del files


def saver(folder: Path) -> None:
    """Saves and writes into the book, over and over; ``last`` says how often."""
    from bambola.store import save_design
    from bambola.store.bench_book import BenchBook

    figure, book = load_demo().figure, BenchBook(folder / "bench.sqlite", default_bench())
    save_design(folder / "design.json", figure, Brief(height=100))
    (folder / "last").write_text("0")
    for n in range(1, 100_000):
        save_design(folder / "design.json", figure, Brief(height=100 + n))
        old = book.bench()
        book.change_bench(old, old.with_wool(old.wool_by_id["woad"].replaced(grams=float(n))))
        (folder / "last.new").write_text(str(n))
        os.replace(folder / "last.new", folder / "last")
        if n == 1:
            print("ready", flush=True)


if __name__ == "__main__":
    {"editor": editor, "saver": saver}[sys.argv[1]](Path(sys.argv[2]))

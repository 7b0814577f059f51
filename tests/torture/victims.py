"""Programs made to be killed: ``python -m tests.torture.victims editor|maker|saver FOLDER``."""

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

    from bambola.desk.session.bench_desk import BenchDesk
    from bambola.desk.session.settings import Settings
    from bambola.desk.session.sitting_desk import Sittings
    from bambola.desk.session.studio import EditorSession
    from bambola.desk.shell.files import FileDesk
    from bambola.store import Journal

    app = QApplication([])
    studio, window = EditorSession(), QWidget()
    store = QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)
    settings, journal = Settings(store), Journal(folder / "journal")
    files = FileDesk(window, studio, settings, journal, Sittings(BenchDesk(studio)))
    studio.open_document(load_demo(), None)
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


TIMES = 20.0
"""The clock of the maker that is to be killed runs so many times as fast, and is kept as much more often."""


def maker(folder: Path) -> None:
    """Somebody at the pad, with the clock running; what was on it is written down all the time."""
    from PyQt6.QtCore import QSettings, QTimer
    from PyQt6.QtWidgets import QApplication

    from bambola.desk.kit.theme import Theme
    from bambola.desk.session.settings import Settings
    from bambola.desk.session.studio import EditorSession
    from bambola.desk.shell.window import Window
    from bambola.desk.stations.order import make_page
    from bambola.store import Journal
    from bambola.store.bench_book import BenchBook

    make_page.KEEP_MS = round(make_page.KEEP_MS / TIMES)
    app = QApplication([])
    store = QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)
    book = BenchBook(folder / "bench.sqlite", default_bench())
    window = Window(EditorSession(), Theme(), Settings(store), Journal(folder / "journal"), book)
    window.show()
    window.open_demo()
    pad = window.order_station.make
    pad.clock = lambda: time.monotonic() * TIMES
    window.make_it()
    done = (folder / "done").open("w", buffering=1)

    def told() -> None:
        spent = sum(pad.making.minutes.values())
        now = pad.current_step
        if now is not None:
            spent += pad.minutes - pad.making.minutes.get(now.key, 0.0)
        done.write(json.dumps({"seconds": spent * 60, "at": now.key if now else ""}) + "\n")

    def work() -> None:
        match random.randrange(8):
            case 0 | 1 | 2:
                pad.step(1)
            case 3:
                pad.step(-1)
            case 4:
                pad.pause.toggle()
            case 5:
                pad.answer(1)
            case _:
                pad.note.setText(f"note {time.time()}")
        told()
        hands.start(random.choice([50, 300, 1200]))

    hands = QTimer()
    hands.setSingleShot(True)
    hands.timeout.connect(work)
    hands.start(400)
    watch = QTimer()
    watch.timeout.connect(told)
    watch.start(20)
    print("ready", flush=True)
    app.exec()


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
    {"editor": editor, "maker": maker, "saver": saver}[sys.argv[1]](Path(sys.argv[2]))

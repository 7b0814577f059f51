"""Books with one field spoilt: refused in a sentence, or imported and shown without an error."""

from __future__ import annotations

import copy
import json
import random
import sys
import tempfile
import traceback
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QEventLoop
from PyQt6.QtWidgets import QApplication

from bambola.core.book.document import load_book
from bambola.core.figure import DocumentError
from bambola.desk.shell.stations import BOOK, ORDER
from bambola.desk.shell.window import Window
from bambola.store.bench_book import BenchBook
from tests.torture.designs import places
from tests.torture.hands import application, open_window
from tests.torture.tally import Tally

PATIENCE_S = 5.0
STEP = "core:body:1"
SOUND: dict[str, Any] = {
    "figure": "Lamplighter badger", "height_mm": 220.0, "where": "/tmp/badger.bambola.json", "at": STEP,
    "behind": [STEP], "minutes": {STEP: 12.0}, "planned": {STEP: 10.0}, "sorts": {STEP: "core:firm:large"},
    "notes": {STEP: "soft"}, "recorded": ["body"], "checks": {STEP: {"1": "failed"}}, "mended": {STEP: ["x"]},
    "sittings": [{"day": "2026-03-01", "minutes": 50.0, "first": STEP, "last": STEP}],
    "begun": "{}", "due": "2026-12-01", "finished": "2026-03-02", "reached_mm": 218.0,
    "weights": {"body": 20.0},
    "sizes": {"body": {"length": 90.0}}, "photographs": ["a.jpg"], "next_time": "larger eyes",
    "price": "12.50",
    "sold": "2026-04-01", "used": {"eyes:8": 2.0}, "booked": {"eyes:8": 2.0}, "held": {"head:peg": True},
    "aside": False,
}  # fmt: skip
BAD: list[Any] = [
    "2026-13-45", "0000-00-00", "0001-01-01", "9999-12-31", "", "x" * 300, "a\x00b", "../../etc/passwd",
    "\ud800", "{", "[]", '{"figure": 1}', "new:x", "🧶", -1, 0, 1e308, -1e308, 1e-300, 10**30, None, True, [],
    {}, [[]], {"": ""}, {"x": "2026-13-45"}, ["x"], "NaN", "1e9", "12,5",
]  # fmt: skip
PLACES = places(SOUND)


def imported(tally: Tally, count: int, seed: int) -> None:
    """Import ``count`` spoilt books, and look at each making in Make and in Book."""
    rng = random.Random(seed)
    app = application()
    caught: list[str] = []
    sys.excepthook = lambda kind, error, trace: caught.append(  # type: ignore[assignment]
        "".join(traceback.format_exception(kind, error, trace, limit=-3))
    )
    with tempfile.TemporaryDirectory() as name:
        window = open_window(Path(name))
        window.studio.refused.connect(
            lambda text: caught.append(text) if "mishaps.log" in text else None
        )
        window.open_demo()
        while window.files.opening.is_under_way:
            app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
        for n in range(count):
            text = _spoilt(rng)
            tally.read(
                f"book {seed}/{n}", lambda text=text: _take(window, text), DocumentError, 5.0
            )
            while caught:
                tally.fault(f"book {seed}/{n}: {text[:400]}: {caught.pop(0)}")
        window.studio.undo_stack.setClean()
        window.close()


def _spoilt(rng: random.Random) -> str:
    """Return a book of one making with one of its values made into another."""
    making = copy.deepcopy(SOUND)
    at: Any = making
    *way, last = rng.choice(PLACES)
    for step in way:
        at = at[step]
    if isinstance(at, dict) and rng.random() < 0.2:
        at[str(rng.choice(BAD))] = at.pop(last)
    else:
        at[last] = rng.choice(BAD)
    return json.dumps({"book": 1, "makings": {"x": making}})


def _take(window: Window, text: str) -> None:
    """Import the book, or keep it as a damaged one was kept before, and go to where it is shown."""
    desk, design = window.bench_desk, window.studio.design
    try:
        found = load_book(text, "book.json")
    except DocumentError:
        _keep_raw(desk.book, design, text)
        _look(window)
        raise
    desk.put_makings({design: found["x"]})
    _look(window)


def _keep_raw(book: BenchBook, design: str, text: str) -> None:
    making = json.dumps(json.loads(text)["makings"]["x"])
    book._db.execute(
        "INSERT OR REPLACE INTO making VALUES (?, ?)",
        (design, making.encode("utf-8", "replace").decode()),
    )


def _look(window: Window) -> None:
    window.bench_desk.changed.emit()
    for station in (ORDER, BOOK):
        window.go_to(station)
        if station == ORDER:
            window.make_it()
        for _ in range(3):
            QApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)

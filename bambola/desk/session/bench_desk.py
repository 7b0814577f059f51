"""The maker's bench at work: counted, weighed from, booked off, and learned from."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bambola.core.bench import Bench, FreeTime, Making, Record, Weights, Wool
from bambola.core.bench.glues import Glue
from bambola.core.bench.records import merged
from bambola.core.figure.fields import in_letters
from bambola.core.wool.learning import Estimate, estimates, learned
from bambola.desk.session.studio import EditorSession
from bambola.store.bench_book import BenchBook, BenchBookError, Weighed

_WATCH_MS = 1000
"""How often the book is asked whether another window has written into it."""


class BenchDesk(QObject):
    """Keeps the studio's bench as the book has it, with what the records teach. What cannot be written
    is refused in one sentence, and nothing is changed."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession, book: BenchBook | None = None) -> None:
        super().__init__()
        self.studio = studio
        self.book = book or BenchBook(None, studio.bench)
        self.base: Bench = self.book.bench()
        self.records: tuple[Record, ...] = ()
        self.estimates: tuple[Estimate, ...] = ()
        self._making, self._making_of = Making(), ""
        self._rows: tuple[Weighed, ...] = ()
        self._edition = self.book.edition()
        self._learn()
        studio.figure_changed.connect(self._find_design)
        studio.design_copied.connect(self._copied)
        self._watch = QTimer(self)
        self._watch.setInterval(_WATCH_MS)
        self._watch.timeout.connect(self.look)
        if self.book.path is not None:
            self._watch.start()

    def _learn(self) -> None:
        self.base, self.records = self.book.bench(), self.book.records()
        self._rows = self.book.weighed()
        self.estimates = estimates(self.base, self.records)
        self.studio.use_bench(learned(self.base, self.estimates))

    def look(self) -> None:
        """Take over what another window has written into the book since."""
        try:
            edition = self.book.edition()
            if edition == self._edition:
                return
            self._learn()
        except BenchBookError:
            return  # held by another just now: the next look will see
        self._edition = edition
        self.changed.emit()

    def _do(self, deed: Callable[[], object]) -> bool:
        try:
            deed()
            self._learn()
        except BenchBookError as error:
            self.studio.refuse(error)
            return False
        self.changed.emit()
        return True

    # The shelf

    def put_wool(self, wool: Wool) -> bool:
        """Keep a wool, new or changed."""
        return self.put_bench(self.base.with_wool(wool))

    def put_bench(self, bench: Bench) -> bool:
        """Keep what ``bench`` has otherwise than the bench as it is shown."""
        old = self.base
        return self._do(lambda: self.book.change_bench(old, bench))

    # What is weighed out

    @property
    def weighed(self) -> dict[str, Weighed]:
        """What was weighed out for the figure on the table, by portion."""
        return {row.portion: row for row in self._rows if row.figure == self.studio.design}

    def weigh(self, portion: str, wool: str, grams: float) -> bool:
        """Take down that a portion was weighed."""
        design = self.studio.design
        if not design:
            return False
        day = date.today().isoformat()
        return self._do(lambda: self.book.weigh(day, design, portion, wool, grams))

    def unweigh(self, rows: Iterable[Weighed]) -> bool:
        """Strike out what was weighed."""
        return self._do(lambda: self.book.unweigh(rows))

    def book_off(self) -> bool:
        """Book everything weighed for this figure off the shelf."""
        return self._do(lambda: self.book.book(self.weighed.values()))

    def put_back(self) -> bool:
        """Put what was booked off for this figure back on the shelf."""
        return self._do(lambda: self.book.put_back(self.weighed.values()))

    # Records

    def add_record(self, record: Record) -> bool:
        """Keep a record, and learn from it."""
        return self._do(lambda: self.book.add_record(record))

    def set_aside(self, record: Record, aside: bool) -> bool:
        """Learn from a record no more, or again."""
        return self._do(lambda: self.book.put_record(record.replaced(aside=aside)))

    def drop_record(self, record: Record) -> bool:
        """Strike a record out."""
        return self._do(lambda: self.book.drop_record(record.n))

    # Making

    @property
    def making(self) -> Making:
        """How far the figure on the table is made, as the book has it."""
        design = self.studio.design
        try:
            return self.book.making(design) if design else Making()
        except BenchBookError as error:
            self.studio.refuse(error)
            return Making()

    @property
    def last_making(self) -> Making:
        """How far it is made, as it was taken up or kept last."""
        if self.studio.design != self._making_of:
            self.take_making()
        return self._making

    def take_making(self) -> Making:
        """Take up how far it is made: what is kept next is told against this."""
        self._making, self._making_of = self.making, self.studio.design
        return self._making

    def keep_making(self, making: Making) -> Making | None:
        """Keep how far it is made, with what another window has written since it was taken up. How far it is
        made then, or nothing where it could not be kept."""
        studio = self.studio
        if not studio.design:
            return None
        where = self._home() or making.where
        after = making.replaced(where=where)
        try:
            kept = self.book.change_making(studio.design, self.last_making, after)
        except BenchBookError as error:
            studio.refuse(error)
            return None
        self._making, self._making_of = kept, studio.design
        return kept

    def follow_making(self, mine: Making) -> Making:
        """How far it is made as ``mine`` has it, with what another window has written since."""
        before, self._making = self.last_making, self.making
        return merged(self._making, before, mine)

    def _find_design(self) -> None:
        """A copy of a design's file is another design, though it is called the same: the file that was made
        from first has a claim to what was made."""
        studio, home = self.studio, self.making.where
        if studio.path is not None and home and home != self._home() and Path(home).exists():
            told = hashlib.sha256(bytes(studio.path.resolve())).hexdigest()
            studio.design = f"{studio.design[:70]}-{told[:8]}"
        self.changed.emit()

    def _home(self) -> str:
        """The file of the design, as it is kept beside what is made of it."""
        return str(in_letters(str(self.studio.path or "")))

    def _copied(self, before: str) -> None:
        """What was made of a design is made of its copy, too, until the two part ways."""
        try:
            made = self.book.making(before)
        except BenchBookError as error:
            self.studio.refuse(error)
        else:
            self._making, self._making_of = Making(), self.studio.design
            self.keep_making(made)

    def set_free(self, free: tuple[FreeTime, ...]) -> bool:
        """Keep the maker's free times."""
        return self.put_bench(self.base.replaced(free=free))

    def set_weights(self, weights: Weights) -> bool:
        """Keep what the maker minds in an order."""
        return self.put_bench(self.base.replaced(weights=weights))

    def set_tools(self, needles: tuple[int, ...], holder: int, glue: Glue, beginner: bool) -> bool:
        """Keep which needles, holder and glue there are, and whether the maker is new to it."""
        found = self.base.replaced(needles=needles, holder=holder, glue=glue, beginner=beginner)
        return self.put_bench(found)

    def set_eyes(self, size: float, count: int) -> bool:
        """Keep how many eyes of a size there are."""
        return self.put_bench(self.base.with_eyes(size, count))

    def close(self) -> None:
        """Let go of the book."""
        self._watch.stop()
        self.book.close()

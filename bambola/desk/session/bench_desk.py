"""The maker's bench: stock, weighings, makings, and what is learned from records."""

from __future__ import annotations

import contextlib
import hashlib
import os
import time
from collections.abc import Callable, Collection, Iterable, Mapping
from datetime import date
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bambola.core.bench import Bench, FreeTime, Making, Niche, Record, Weights, Wool
from bambola.core.bench.making import making_id, merge_making, nth_of
from bambola.core.bench.materials import Glue
from bambola.core.bench.shelved import with_shelved
from bambola.core.book.booking import booked_off, put_back
from bambola.core.book.kept import bench_then
from bambola.core.figure import Document
from bambola.core.figure.fields import in_letters
from bambola.core.order import Step
from bambola.core.plan.counter.carry_on import place_in
from bambola.core.wool.learning import Estimate, with_learned_numbers
from bambola.core.wool.lessons import Experience, Teaching, as_told_then, for_the_rest
from bambola.desk.session.studio import EditorSession
from bambola.language import tr
from bambola.shipped import LESSONS
from bambola.store.bench_book import BenchBook, Weighed
from bambola.store.database import BenchBookError

_LESSON_IDS = frozenset(path.name.partition(".")[0] for path in LESSONS)
"""Designs made to learn the hands teach no pace."""
_WATCH_MS = 1000
"""How often the book is asked whether another window has written into it."""
_TELL_AGAIN_S = 10.0
"""That another program holds the book is told no more often. Judged."""


class BenchDesk(QObject):
    """Keeps the studio's bench in step with the database, including what records teach. A write that fails is
    refused in one sentence and changes nothing."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession, book: BenchBook | None = None) -> None:
        super().__init__()
        self.studio = studio
        self.book = book or BenchBook(None, studio.bench)
        self.base: Bench = self.book.bench()
        self.records: tuple[Record, ...] = ()
        self.estimates: tuple[Estimate, ...] = ()
        self._told_by: tuple[str, Bench | None] = "", None
        self._making, self._making_of, self._chosen = Making(), "", ""
        self._refused: dict[str, tuple[Making, Making]] = {}
        """What the book would not take, by making: the progress as last kept, and as it is now."""
        self._rows: tuple[Weighed, ...] = ()
        self._reminded = studio.design
        self._told_busy_at = -_TELL_AGAIN_S
        self._edition = self.book.edition()
        self._reload_bench()
        studio.figure_changed.connect(self._find_design)
        studio.design_copied.connect(self._copy_makings)
        self._watch = QTimer(self)
        self._watch.setInterval(_WATCH_MS)
        self._watch.timeout.connect(self.reload)
        if self.book.path is not None:
            self._watch.start()

    def _reload_bench(self) -> None:
        self.base, self.records = self.book.bench(), self.book.records()
        self._rows = self.book.weighed()
        known = Experience(self.records, self.book.makings(), _LESSON_IDS)
        self.estimates = known.estimates(self.base)
        self._use_bench()

    def _use_bench(self) -> None:
        self.studio.use_bench(self._bench_of(self.making))

    def bench_for(self, design: str) -> Bench:
        """Return the bench by which a design is planned once it is opened."""
        own = sorted(
            (nth_of(name)[1], name)
            for name, making in self.makings.items()
            if nth_of(name)[0] == design and not making.finished
        )
        return self._bench_of(self._kept_in_book(own[0][1]) if own else Making())

    def with_id(self, document: Document, path: Path) -> Document:
        """Return a document that was read from ``path`` with an id. One without any gets the same in every
        window; makings that were begun of it go on under the figure's."""
        if document.design:
            return document
        figure, where = document.figure.id, str(in_letters(str(path)))
        makings = self.makings.items()
        if any(nth_of(name)[0] == figure and made.where == where for name, made in makings):
            return document
        return document.replaced(design=_local_id(figure, path))

    def _bench_of(self, making: Making) -> Bench:
        """Return the bench with what is learned; for a figure half made what was known when it was begun."""
        now = with_learned_numbers(self.base, self.estimates)
        if making.kept is None or making.finished:
            return now
        if making.bench != self._told_by[0]:
            self._told_by = making.bench, bench_then(making)
        then = self._told_by[1]
        return as_told_then(now, then) if then is not None else now

    def reload(self) -> None:
        """Reload what another window has written to the database, and write what could not be written."""
        try:
            self._write_refused()
            edition = self.book.edition()
            if edition == self._edition:
                return
            self._reload_bench()
        except BenchBookError:
            return  # held by another just now: the next look will see
        self._edition = edition
        self.changed.emit()

    def _write_refused(self) -> None:
        for name, (before, making) in tuple(self._refused.items()):
            kept = self.book.change_making(name, before, making)
            del self._refused[name]
            if name == self._making_of:
                self._making = kept
                self._use_bench()
            self.changed.emit()

    def _try_action(self, action: Callable[[], object]) -> bool:
        try:
            action()
            self._reload_bench()
        except BenchBookError as error:
            self._report_refusal(error)
            return False
        self.changed.emit()
        return True

    def _report_refusal(self, error: BenchBookError) -> None:
        """Tell the maker what went wrong with the database; that another program locks it is only told now
        and then."""
        now = time.monotonic()
        if error.busy and now < self._told_busy_at + _TELL_AGAIN_S:
            return
        if error.busy:
            self._told_busy_at = now
        self.studio.refuse(error)

    # The shelf

    def put_wool(self, wool: Wool) -> bool:
        """Save a new or changed wool."""
        return self.put_bench(self.base.with_wool(wool))

    def put_bench(self, bench: Bench) -> bool:
        """Save the differences of ``bench`` from the bench shown."""
        old = self.base
        return self._try_action(lambda: self.book.change_bench(old, bench))

    def weigh_heap(self, wool: str, grams: float) -> float:
        """Record the weight of a heap. Returns how much of it was used for the current making, g."""
        before = self.base.wool_by_id[wool].grams
        gone = max(0.0, (before or 0.0) - grams)
        if (
            self.put_wool(self.base.wool_by_id[wool].replaced(grams=grams))
            and self.in_hand
            and gone
        ):
            key, making = f"wool:{wool}", self.making
            booked = sum(row.taken or 0.0 for row in self.weighed.values() if row.wool == wool)
            used = {**making.used, key: making.used.get(key, booked) + gone}
            self.change_making(self.in_hand, used=used)
        return gone

    # What is weighed out

    @property
    def weighed(self) -> dict[str, Weighed]:
        """The weighings for the open design, by portion."""
        return {row.portion: row for row in self._rows if row.figure == self.in_hand}

    def weighed_for(self, making: str) -> dict[str, float]:
        """Return the weighings of a making, g by portion."""
        return {row.portion: row.grams for row in self._rows if row.figure == making}

    def weigh(self, portion: str, wool: str, grams: float) -> bool:
        """Record the weight of a portion."""
        making = self.in_hand
        if not making:
            return False
        day = date.today().isoformat()
        return self._try_action(lambda: self.book.weigh(day, making, portion, wool, grams))

    def unweigh(self, rows: Iterable[Weighed]) -> bool:
        """Delete a weighing."""
        return self._try_action(lambda: self.book.unweigh(rows))

    def book_off(self) -> bool:
        """Deduct everything weighed for this figure from the shelf."""
        return self._try_action(lambda: self.book.book(self.weighed.values()))

    def put_back(self) -> bool:
        """Return what was deducted for this figure to the shelf."""
        return self._try_action(lambda: self.book.put_back(self.weighed.values()))

    # Records

    def add_record(self, record: Record) -> bool:
        """Save a record, and learn from it."""
        return self._try_action(lambda: self.book.add_record(record))

    def set_aside(self, record: Record, aside: bool) -> bool:
        """Exclude a record from learning, or include it again."""
        return self._try_action(lambda: self.book.put_record(record.replaced(aside=aside)))

    def drop_record(self, record: Record) -> bool:
        """Delete a record."""
        return self._try_action(lambda: self.book.drop_record(record.n))

    # What a making teaches

    def lessons(
        self, name: str, left_out: Collection[int] = (), odd_times: bool = False
    ) -> Teaching:
        """Return what a making would teach without the records ``left_out``, and with the times that are hard
        to believe if ``odd_times`` count."""
        records = [r.replaced(aside=r.aside or r.n in left_out) for r in self.records]
        makings = self.makings
        if name in makings:
            makings = {**makings, name: makings[name].replaced(odd_times=odd_times)}
        return Experience(records, makings, _LESSON_IDS).lessons(self.base, name)

    @property
    def teaches_so_far(self) -> bool:
        """Whether the figure in hand is half made and may have taught something."""
        making = self.last_making
        return making.kept is not None and not making.finished and bool(making.behind)

    def take_lessons(self, name: str, left_out: Collection[int], odd_times: bool) -> bool:
        """Learn what a making teaches, without the records ``left_out``."""

        def take() -> None:
            for record in self.records:
                if record.making == name and record.n in left_out:
                    self.book.put_record(record.replaced(aside=True))
            self._change_in_book(name, taught=True, odd_times=odd_times)

        return self._try_action(take)

    def take_for_the_rest(self, begun: Iterable[str]) -> bool:
        """Plan what of the figure in hand is not ``begun`` by what it has taught so far."""
        making, figure = self.making, self.studio.figure
        then = bench_then(making)
        if figure is None or then is None:
            return False
        known = Experience(self.records, self.makings, _LESSON_IDS)
        found = known.estimates(self.base, also=self.in_hand)
        parts = [part.id for part in figure.parts if part.id in set(begun)]
        now = for_the_rest(with_learned_numbers(self.base, found), then, figure, parts)
        return self.change_making(self.in_hand, bench=now.model_dump_json(exclude_defaults=True))

    # Makings

    @property
    def in_hand(self) -> str:
        """The id of the current making of the open design: the chosen one, else the first unfinished one,
        else the last. Empty without a design."""
        design = self.studio.design
        if design and nth_of(self._chosen)[0] != design:
            known = self.of_design
            open_ones = (name for name, making in known.items() if not making.finished)
            self._chosen = next(open_ones, [design, *known][-1])
        return self._chosen if design else ""

    @property
    def of_design(self) -> dict[str, Making]:
        """The makings of the open design by their ids, oldest first."""
        own = {n: m for n, m in self.makings.items() if nth_of(n)[0] == self.studio.design}
        return dict(sorted(own.items(), key=lambda one: nth_of(one[0])[1]))

    @property
    def makings(self) -> dict[str, Making]:
        """All makings by their ids, without the designs they began with."""
        try:
            return self.book.makings()
        except BenchBookError as error:
            self._report_refusal(error)
            return {}

    @property
    def half_made(self) -> dict[str, Making]:
        """The makings begun and not finished by their ids, the one last worked on first."""
        open_ones = [(n, m) for n, m in self.makings.items() if m.is_begun and not m.finished]
        return dict(sorted(open_ones, key=lambda one: one[1].last_day, reverse=True))

    @property
    def runs(self) -> tuple[int, ...]:
        """The numbers of figures in the current making and those that follow. Of a batch with a trial the
        first making is the trial, the second all others."""
        runs = self.studio.brief.runs
        return runs[1:] if len(runs) > 1 and nth_of(self.in_hand)[1] > 1 else runs

    def minutes_by_start_values(self, step: Step) -> float:
        """Return the planned minutes of a step by the starting values, for all figures being made."""
        now, start = self.studio.bench.pace, self.base.pace
        slower = now.per_gram / start.per_gram * now.of_sort(step.sort)
        return step.minutes_of(self.runs[0]) / slower

    def choose_making(self, name: str) -> None:
        """Make another making of the open design the current one."""
        self._chosen = name
        self._use_bench()
        self.changed.emit()

    def make_another(self) -> None:
        """Begin one more making of the open design."""
        if not self.studio.design:
            return
        last = max((nth_of(name)[1] for name in self.of_design), default=1)
        name = making_id(self.studio.design, last + 1)
        # It is entered at once: another window that begins one as well takes the next number.
        if self._try_action(lambda: self.book.put_makings({name: Making()})):
            self.choose_making(name)

    def change_making(self, name: str, **changes: object) -> bool:
        """Change the fields of a making."""

        return self._try_action(lambda: self._change_in_book(name, **changes))

    def _change_in_book(self, name: str, **changes: object) -> None:
        before = self.book.making(name)
        kept = self.book.change_making(name, before, before.replaced(**changes))
        if name == self._making_of:
            self._making = kept

    def put_makings(self, makings: Mapping[str, Making]) -> bool:
        """Save whole makings, such as those from another database."""
        return self._try_action(lambda: self.book.put_makings(makings))

    def book_stuff(self, name: str, wanted: Mapping[str, float]) -> bool:
        """Deduct what a making used besides wool from the shelf, replacing an earlier deduction."""

        def book() -> None:
            before = self.book.making(name)
            base = self.book.bench()
            bench, taken = booked_off(put_back(base, before.booked), wanted)
            self.book.change_bench(base, bench)
            self.book.change_making(name, before, before.replaced(booked=taken))

        return self._try_action(book)

    def drop_making(self, name: str) -> bool:
        """Delete a making."""
        return self._try_action(lambda: self.book.drop_making(name))

    @property
    def making(self) -> Making:
        """The progress of the current making, from the database."""
        return self._kept_in_book(self.in_hand) if self.in_hand else Making()

    def _kept_in_book(self, name: str) -> Making:
        try:
            return self.book.making(name)
        except BenchBookError as error:
            self._report_refusal(error)
            return self._making if self._making_of == name else Making()

    @property
    def last_making(self) -> Making:
        """The progress as last loaded or saved here."""
        if self.in_hand != self._making_of:
            self.take_making()
        return self._making

    def take_making(self) -> Making:
        """Load the progress; later saves are compared with this state. What the book would not take is still
        the progress."""
        if self.in_hand in self._refused:
            self._making, making = self._refused[self.in_hand]
            self._making_of = self.in_hand
            return making
        self._making, self._making_of = self.making, self.in_hand
        return self._making

    def keep_making(self, making: Making) -> Making | None:
        """Save the progress, merged with what another window has written since it was loaded. Returns the
        merged progress, or None if it could not be saved: then it stays in hand, and is saved once it can
        be."""
        studio = self.studio
        if not studio.design:
            return None
        told: dict[str, object] = {"where": self._design_path() or making.where}
        if studio.figure is not None and studio.plan is not None and not making.finished:
            told |= {"figure": studio.figure.name, "height_mm": studio.plan.to_height_mm}
        before = self.last_making
        try:
            kept = self.book.change_making(self.in_hand, before, making.replaced(**told))
        except BenchBookError as error:
            self._refused[self.in_hand] = before, making.replaced(**told)
            self._report_refusal(error)
            return None
        self._refused.pop(self.in_hand, None)
        self._making, self._making_of = kept, self.in_hand
        if (kept.bench, kept.finished) != (before.bench, before.finished):
            self._use_bench()  # from here on it is planned by what it was begun with, or no more
        return kept

    def follow_making(self, mine: Making) -> Making:
        """Return the progress ``mine`` merged with what another window has written since."""
        before, self._making = self.last_making, self.making
        return merge_making(self._making, before, mine)

    def _find_design(self) -> None:
        """Find the design's entry. A copy of a file is another design even under the same name; the file that
        makings began from keeps them."""
        studio, home = self.studio, self.making.where
        if (
            studio.path is not None
            and home
            and home != self._design_path()
            and os.path.exists(home)
        ):
            studio.design = _local_id(studio.design, studio.path)
        if studio.design != self._reminded:
            self._reminded = studio.design
            wanted = [m.next_time for m in self.of_design.values() if m.next_time]
            if wanted:
                studio.refused.emit(tr("Last time you wanted: {what}", what=wanted[-1]))
        self._use_bench()
        making = self.making
        if making.is_begun and not making.finished and studio.plan is not None:
            steps = studio.plan.steps
            studio.selection.select_step(steps[place_in(steps, making)].key)
        self.changed.emit()

    def _design_path(self) -> str:
        """Return the path of the design's file, as stored with its makings."""
        return str(in_letters(str(self.studio.path or "")))

    def _copy_makings(self, before: str) -> None:
        """Copy the makings of a design to its copy, which has them in common until one of the two changes."""
        try:
            held = self._chosen if nth_of(self._chosen)[0] == before else before
            made = self.book.making(held)
        except BenchBookError as error:
            self._report_refusal(error)
        else:
            self._making, self._making_of = Making(), self.in_hand
            self.keep_making(made)

    def set_free(self, free: tuple[FreeTime, ...]) -> bool:
        """Save the maker's free times."""
        return self.put_bench(self.base.replaced(free=free))

    def set_weights(self, weights: Weights) -> bool:
        """Save how much the maker minds each kind of change in an order."""
        return self.put_bench(self.base.replaced(weights=weights))

    def set_tools(self, needles: tuple[int, ...], holder: int, glue: Glue, beginner: bool) -> bool:
        """Save the maker's needles, holder and glue, and whether the maker is a beginner."""
        found = self.base.replaced(needles=needles, holder=holder, glue=glue, beginner=beginner)
        return self.put_bench(found)

    def keep_niche(self, niche: Niche) -> bool:
        """Save a place that figures are made for, replacing one of the same name."""
        return self.put_bench(self.base.replaced(niches=(*self._other_niches(niche.name), niche)))

    def drop_niche(self, name: str) -> bool:
        """Delete a place."""
        return self.put_bench(self.base.replaced(niches=self._other_niches(name)))

    def _other_niches(self, name: str) -> tuple[Niche, ...]:
        return tuple(known for known in self.base.niches if known.name != name)

    def set_eyes(self, size: float, count: int) -> bool:
        """Save the number of eyes of a size."""
        return self.put_bench(with_shelved(self.base, f"eyes:{size:g}", left=count))

    def close(self) -> None:
        """Close the database, after a last try to write what it would not take."""
        self._watch.stop()
        with contextlib.suppress(BenchBookError):
            self._write_refused()
        self.book.close()


def _local_id(of: str, path: Path) -> str:
    """Return an id for what is at ``path``, of something that has the id ``of``."""
    return f"{of[:70]}-{hashlib.sha256(bytes(path.resolve())).hexdigest()[:8]}"

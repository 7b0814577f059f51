"""Opens a making off the interface thread: what was planned, and how it came out."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.bench import Bench, Making, with_wools_of
from bambola.core.bench.making import nth_of
from bambola.core.book.came_out import OffPlan, as_it_came, came_off
from bambola.core.book.costing import Cost
from bambola.core.book.kept import as_it_was_told, bench_then, design_then
from bambola.core.plan import Plan, make_plan
from bambola.core.solids import Placement, place
from bambola.core.wool.lessons import as_told_then
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.changes import REFUSALS
from bambola.desk.session.studio import EditorSession
from bambola.files import ExportError, write_made


@dataclass(frozen=True)
class OpenPage:
    """A making with its plan as it was told (if it can still be made), the bench that told it (None if it was
    begun before that was kept), its result and the differences."""

    name: str
    making: Making
    plan: Plan | None
    came: Placement | None
    off: tuple[OffPlan, ...]
    then: Bench | None = None


class BookReader(QObject):
    """Opens pages, and finds the picture of every making's figure."""

    opened = pyqtSignal(object)
    written = pyqtSignal(str)
    placed = pyqtSignal(str, object)
    """The figure of a making, as it was drawn: its id and the placement."""

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self._studio = studio
        self._background = Background("book")
        self._job: BackgroundJob | None = None
        self._plan: tuple[tuple[str, str, float | None], Plan] | None = None

    def open(self, name: str, making: Making) -> None:
        """Open the page of a making; ``opened`` delivers it, only for the newest request."""
        if self._job is not None:
            self._job.stop.set()
        bench, known = self._studio.bench, self._plan
        of = making.begun, making.bench, making.height_mm
        at_hand = known[1] if known and known[0] == of else None

        def read() -> OpenPage:
            document = design_then(making)
            if document is None:
                return OpenPage(name, making, None, None, ())
            brief = document.brief.for_run(nth_of(name)[1])
            brief = brief.at_height(making.height_mm) if making.height_mm else brief
            then = bench_then(making)
            by = as_told_then(bench, then) if then else bench
            plan = at_hand or as_it_was_told(
                make_plan(with_wools_of(document.figure, by), brief, by), making.kept
            )
            measured = making.reached_mm or making.sizes
            came = as_it_came(plan, making, by) if measured else None
            return OpenPage(name, making, plan, came, came_off(plan, making), then)

        def opened(page: OpenPage) -> None:
            if self._job is job:
                if page.plan is not None:
                    self._plan = of, page.plan
                self.opened.emit(page)

        def failed(error: Exception) -> None:
            if self._job is job and not isinstance(error, CalledOffError):
                if not isinstance(error, REFUSALS):
                    log_error(error)
                self.opened.emit(OpenPage(name, making, None, None, ()))

        job = self._job = self._background.do(read, opened, failed)

    def picture(self, name: str, making: Making) -> None:
        """Find the picture of a making's figure; ``placed`` delivers it."""

        def read() -> Placement | None:
            document = design_then(making)
            return place(document.figure) if document else None

        self._background.do(
            read,
            lambda placement: self.placed.emit(name, placement) if placement else None,
            lambda _: None,  # it stays without a picture
        )

    def write(self, page: OpenPage, cost: Cost, path: Path) -> None:
        """Write a page as a file off the interface thread; the studio reports errors."""
        plan, bench, words, refused = (
            page.plan,
            page.then or self._studio.bench,
            self._studio.words,
            self._studio.refused,
        )
        assert plan is not None

        def written() -> None:
            from bambola.core.export.made_page import made_pdf

            made = made_pdf(page.making, plan, page.came, page.off, cost, bench, words)
            write_made(path, made)

        def failed(error: Exception) -> None:
            if not isinstance(error, CalledOffError):
                refused.emit(str(error) if isinstance(error, ExportError) else log_error(error))

        self._background.do(written, lambda _: self.written.emit(str(path)), failed)

    def close(self) -> None:
        """Stop reading."""
        self._background.close()

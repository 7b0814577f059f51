"""The stations in the order of the work: here a new one is entered."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtWidgets import QStackedWidget, QWidget

from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.lesson import Lesson
from bambola.desk.session.settings import Settings
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.menus import (
    BOOK_MENU,
    MEASURE_MENU,
    ORDER_MENU,
    RESIZE_MENU,
    WIRE_MENU,
    WOOL_MENU,
)
from bambola.desk.stations.page import Page, StationMenu
from bambola.language import N_, tr


@dataclass(frozen=True, slots=True)
class SharedServices:
    """What the stations of one window have in common."""

    studio: EditorSession
    settings: Settings
    theme: Theme
    darkroom: RenderQueue
    bench_desk: BenchDesk
    true_size: TrueSize
    sittings: Sittings
    lesson: Lesson


@dataclass(frozen=True, slots=True)
class StationEntry:
    """A station: its words (on the path, and in the menu with their key), what makes its page, and its own
    menu, if it has one; and its page of the guide."""

    words: str
    make: Callable[[SharedServices], Page]
    menu: StationMenu | None
    guide: str

    @property
    def name(self) -> str:
        """Its words alone."""
        return tr(self.words).replace("&", "")


# A page is imported when it is made: what only one station needs is not loaded before the window is seen.
def _make_measure(s: SharedServices) -> Page:
    from bambola.desk.stations.measure.station import MeasureStation

    return MeasureStation(s.studio, s.theme, s.darkroom, s.settings)


def _make_resize(s: SharedServices) -> Page:
    from bambola.desk.running.worker_process import WorkerProcess
    from bambola.desk.session.height_desk import BEHIND, SWEEPING, HeightDesk
    from bambola.desk.stations.resize.station import ResizeStation

    process = WorkerProcess(SWEEPING, BEHIND) if s.studio.has_process else None
    heights = HeightDesk(s.studio, process)
    return ResizeStation(s.studio, s.theme, s.darkroom, heights, s.bench_desk)


def _make_face(s: SharedServices) -> Page:
    from bambola.desk.stations.face.station import FaceStation

    return FaceStation(s.studio, s.theme, s.darkroom, s.true_size, s.bench_desk)


def _make_wire(s: SharedServices) -> Page:
    from bambola.desk.stations.wire.station import WireStation

    return WireStation(s.studio, s.theme, s.darkroom, s.true_size)


def _make_wool(s: SharedServices) -> Page:
    from bambola.desk.stations.wool.station import WoolStation

    return WoolStation(s.studio, s.theme, s.darkroom, s.bench_desk, s.true_size)


def _make_order(s: SharedServices) -> Page:
    from bambola.desk.stations.order.station import OrderStation

    return OrderStation(
        s.studio, s.theme, s.darkroom, s.bench_desk, s.sittings, s.true_size, s.lesson
    )


def _make_book(s: SharedServices) -> Page:
    from bambola.desk.stations.book.station import BookStation

    return BookStation(s.studio, s.theme, s.darkroom, s.bench_desk)


STATIONS = (
    StationEntry(N_("M&easure"), _make_measure, MEASURE_MENU, "your-figure"),
    StationEntry(N_("&Resize"), _make_resize, RESIZE_MENU, "height"),
    StationEntry(N_("&Face"), _make_face, None, "face"),
    StationEntry(N_("&Wire"), _make_wire, WIRE_MENU, "wire"),
    StationEntry(N_("W&ool"), _make_wool, WOOL_MENU, "wool"),
    StationEntry(N_("&Order"), _make_order, ORDER_MENU, "order"),
    StationEntry(N_("&Book"), _make_book, BOOK_MENU, "selling"),
)
MEASURE, RESIZE, FACE, WIRE, WOOL, ORDER, BOOK = range(7)
"""Those that the window itself goes to."""


class Pages:
    """The pages of one window's stations, each made when it is first asked for.

    ``stack`` holds them from ``first`` on; ``joined`` is told of each that is made.
    """

    def __init__(
        self,
        shared: SharedServices,
        stack: QStackedWidget,
        first: int,
        joined: Callable[[Page], None],
    ) -> None:
        self._shared, self._stack, self._first, self._joined = shared, stack, first, joined
        self._made: dict[int, Page] = {}
        for _ in STATIONS:
            stack.addWidget(QWidget())

    def __getitem__(self, index: int) -> Page:
        return self._made[index] if index in self._made else self.make(index)

    @property
    def made(self) -> tuple[Page, ...]:
        """Those there are."""
        return tuple(self._made.values())

    def is_made(self, index: int) -> bool:
        """Return whether a station's page is there."""
        return index in self._made

    def make_next(self) -> bool:
        """Make one that is still missing; whether one was."""
        missing = next((i for i in range(len(STATIONS)) if i not in self._made), None)
        if missing is not None:
            self.make(missing)
        return missing is not None

    def make(self, index: int) -> Page:
        """Make a station's page."""
        page = self._made[index] = STATIONS[index].make(self._shared)
        at, shown = self._first + index, self._stack.currentIndex()
        empty = self._stack.widget(at)
        assert empty is not None
        self._stack.insertWidget(at, page)
        self._stack.removeWidget(empty)
        self._stack.setCurrentIndex(shown)
        empty.deleteLater()
        self._joined(page)
        return page

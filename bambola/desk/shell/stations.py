"""The stations in the order of the work: here a new one is entered."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from bambola.desk.kit.pictures import Darkroom
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.thread import ThreadStrip
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.sittings import Sittings
from bambola.desk.session.studio import Studio
from bambola.desk.stations.measure.station import MeasureStation
from bambola.desk.stations.order.station import OrderStation
from bambola.desk.stations.page import Page
from bambola.desk.stations.resize.station import ResizeStation
from bambola.desk.stations.wire.station import WireStation
from bambola.desk.stations.wool.station import WoolStation


@dataclass(frozen=True, slots=True)
class Shared:
    """What the stations of one window have in common."""

    studio: Studio
    theme: Theme
    darkroom: Darkroom
    bench_desk: BenchDesk
    true_size: TrueSize
    thread: ThreadStrip
    sittings: Sittings


@dataclass(frozen=True, slots=True)
class Station:
    """A station's words (on the path; with the key of its menu entry marked) and what makes its page."""

    words: str
    page: Callable[[Shared], Page]

    @property
    def name(self) -> str:
        """Its words alone."""
        return self.words.replace("&", "")


STATIONS = (
    Station("M&easure", lambda s: MeasureStation(s.studio, s.theme, s.darkroom)),
    Station("&Resize", lambda s: ResizeStation(s.studio, s.theme, s.darkroom)),
    Station("&Wire", lambda s: WireStation(s.studio, s.theme, s.darkroom, s.true_size)),
    Station(
        "W&ool", lambda s: WoolStation(s.studio, s.theme, s.darkroom, s.bench_desk, s.true_size)
    ),
    Station(
        "&Order",
        lambda s: OrderStation(s.studio, s.theme, s.darkroom, s.thread, s.bench_desk, s.sittings),
    ),
)
MEASURE, RESIZE, WIRE, WOOL, ORDER = range(5)
"""Those that the window itself goes to."""

"""The window without its menus: stations and files. It computes nothing itself."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PyQt6.QtCore import QChildEvent, QEvent, Qt
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QApplication,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Making, with_wools_of
from bambola.core.bench.making import nth_of
from bambola.core.book.kept import design_then
from bambola.core.figure import Document, Figure, Sight, Survey
from bambola.core.plan.reading.starting import start_from_pictures
from bambola.core.relief import Camera
from bambola.core.wool.splitting import SplitPlan
from bambola.demo import BADGER, load_demo
from bambola.desk.kit.flow import tab_before
from bambola.desk.kit.menu_action import MenuAction, presses_button
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import StyleFollower, Theme
from bambola.desk.kit.thread import ThreadStrip
from bambola.desk.kit.true_size import ScreenDialog, TrueSize
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.lesson import Lesson
from bambola.desk.session.settings import Settings
from bambola.desk.session.sitting_desk import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.files import FileDesk
from bambola.desk.shell.header import Header
from bambola.desk.shell.looks import Looks
from bambola.desk.shell.message import MessageStrip
from bambola.desk.shell.splash import keep_picture, usual_size
from bambola.desk.shell.stations import (
    BOOK,
    MEASURE,
    ORDER,
    RESIZE,
    STATIONS,
    WIRE,
    WOOL,
    Pages,
    SharedServices,
)
from bambola.desk.shell.welcome import Welcome
from bambola.desk.stations.measure.start import StartPage
from bambola.desk.stations.menus import PICTURE
from bambola.desk.stations.page import Page
from bambola.language import tr
from bambola.shipped import LESSONS
from bambola.store import Journal, new_design
from bambola.store.bench_book import BenchBook

if TYPE_CHECKING:
    from bambola.desk.shell.guide import Guide
    from bambola.desk.stations.book.station import BookStation
    from bambola.desk.stations.measure.station import MeasureStation
    from bambola.desk.stations.order.station import OrderStation
    from bambola.desk.stations.resize.station import ResizeStation
    from bambola.desk.stations.wire.station import WireStation
    from bambola.desk.stations.wool.station import WoolStation

_FIRST_STATION = 2  # of the pages: the welcome and the start page come before


class Frame(QMainWindow):
    """One window with one figure, the object its menus act on. ``menu_actions`` are all menu actions."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        settings: Settings,
        journal: Journal,
        book: BenchBook | None = None,
    ) -> None:
        super().__init__()
        self.menu_actions: Sequence[MenuAction] = ()
        self.studio, self.theme, self.settings, self.journal = studio, theme, settings, journal
        self.bench_desk = BenchDesk(studio, book)
        self.true_size = TrueSize(settings)
        self.darkroom = RenderQueue(studio.bench.colours)
        self.sittings = Sittings(self.bench_desk)
        self.lesson = Lesson(settings)
        self.looks = Looks(studio, theme, settings)
        self.files = FileDesk(self, studio, settings, journal, self.sittings)
        self._guide: Guide | None = None
        self.header = Header(tuple(station.name for station in STATIONS), studio, theme)
        self.message = MessageStrip(theme)
        self.thread_strip = ThreadStrip(studio, theme)
        self.start_page = StartPage(studio, theme, self.darkroom, settings)
        self.welcome = Welcome(theme)
        shared = SharedServices(
            studio,
            settings,
            theme,
            self.darkroom,
            self.bench_desk,
            self.true_size,
            self.sittings,
            self.lesson,
        )
        self.stack = QStackedWidget()
        for page in (self.welcome, self.start_page):
            self.stack.addWidget(page)
        self.pages = Pages(shared, self.stack, _FIRST_STATION, self._join_page)
        self.pages.make(RESIZE)  # where every figure is first seen
        self._compose()
        self.setAcceptDrops(True)
        self.setMinimumSize(860, 560)
        self.resize(usual_size())
        if settings.geometry is not None:
            self.restoreGeometry(settings.geometry)
        self._add_menus()

    def _add_menus(self) -> None:
        """Hook for a subclass to add its menus."""

    @property
    def measure_station(self) -> MeasureStation:
        """The station *Measure*."""
        return cast("MeasureStation", self.pages[MEASURE])

    @property
    def resize_station(self) -> ResizeStation:
        """The station *Resize*."""
        return cast("ResizeStation", self.pages[RESIZE])

    @property
    def wire_station(self) -> WireStation:
        """The station *Wire*."""
        return cast("WireStation", self.pages[WIRE])

    @property
    def wool_station(self) -> WoolStation:
        """The station *Wool*."""
        return cast("WoolStation", self.pages[WOOL])

    @property
    def order_station(self) -> OrderStation:
        """The station *Order*."""
        return cast("OrderStation", self.pages[ORDER])

    @property
    def book_station(self) -> BookStation:
        """The station *Book*."""
        return cast("BookStation", self.pages[BOOK])

    def _compose(self) -> None:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, self.theme.px(6))
        column.setSpacing(0)
        column.addWidget(self.header)
        column.addWidget(self.stack, 1)
        self._thread_row = QVBoxLayout()
        self._thread_row.setContentsMargins(
            self.theme.px(22), self.theme.px(2), self.theme.px(22), 0
        )
        self._thread_row.addWidget(self.thread_strip)
        column.addLayout(self._thread_row)
        self.setCentralWidget(page)
        self.message.float_over(page)
        for widget in (self.header, self.welcome, self.start_page, self.thread_strip, self.message):
            StyleFollower(widget, self.theme)

    def childEvent(self, event: QChildEvent | None) -> None:
        """Apply the theme's style sheet to new menus, boxes and dialogs; pages apply it themselves."""
        super().childEvent(event)
        child = event.child() if event is not None and event.polished() else None
        if isinstance(child, QWidget) and child is not self.centralWidget():
            StyleFollower(child, self.theme)

    def _join_page(self, page: Page) -> None:
        StyleFollower(page, self.theme)
        tab_before(self.thread_strip, self)
        page.true_size_wished.connect(self.at_true_size)
        page.lesson_asked.connect(self.learn)
        page.making_asked.connect(self.make_it)
        page.set_printed.connect(self.ask_print)
        page.book_asked.connect(self.open_page)
        if self.studio.plan is not None:
            # It was not there when this was told; what is there already takes it as said before.
            self.studio.plan_changed.emit()
            self.studio.selection.announce()

    def at_true_size(self, on: bool | None = None) -> None:
        """Show the current thing at true size, or as before (None toggles): strips and bundles in place, else
        the selected part on the screen."""
        if not self.pages[self.station].at_true_size(on) and on is not False:
            self.hold_here()

    def hold_here(self) -> None:
        """Show the selected part at true size on the screen, to hold the work against."""
        from bambola.desk.kit.hold_view import HoldView

        part = self.studio.selection.part
        HoldView(self, self.studio, self.theme, self.true_size, part).exec()

    def ask_print(self, heights: Sequence[float] = ()) -> None:
        """Open the packet with a preview, at further ``heights`` (mm) if given."""
        from bambola.desk.shell.packet_dialog import PacketDialog

        PacketDialog(self, self.studio, self.theme, self.settings, self.splits(), heights).exec()

    def splits(self) -> Mapping[str, SplitPlan]:
        """Return the splitting trees drawn at *Wool*."""
        return self.wool_station.splitter.trees() if self.pages.is_made(WOOL) else {}

    # Stations

    def go_to(self, index: int) -> None:
        """Go to a station."""
        if self.studio.plan is None:
            return
        self.stack.setCurrentWidget(self.pages[index])
        if not self.header.path.hasFocus():  # who walks the path by keys goes on there
            self.pages[index].take_keys()
        self.header.path.show_row(index)
        self.thread_strip.setVisible(self.pages[index].has_thread)
        self.header.path.setVisible(True)

    @property
    def station(self) -> int:
        """The index of the current station, or -1 before there is one."""
        return max(-1, self.stack.currentIndex() - _FIRST_STATION)

    def turn_to(self, view: Sight, camera: Camera) -> None:
        """Show the figure from another side at the current station."""
        if self.station < 0 or not self.pages[self.station].turn_to(view, camera):
            self.resize_station.table.turn_to(camera)

    def measure_screen(self) -> None:
        """Ask for the size of the screen, so that what is shown at actual size is."""
        ScreenDialog(self, self.theme, self.true_size).exec()

    def toggle_full_screen(self) -> None:
        """Fill the screen, or go back to a window."""
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def ask_find(self) -> None:
        """Ask for a part, a step, a wool or an action, and go there; a subclass knows the actions."""

    def go_to_question(self) -> None:
        """Go to the first open question."""
        self.go_to(RESIZE)
        self.resize_station.slips.show_open()

    def show_guide(self) -> None:
        """Open the guide at the page for the current station."""
        from bambola.desk.shell.guide import START, Guide

        self._guide = self._guide or Guide(self, self.theme)
        if self.station >= 0:
            page = self.pages[self.station].guide or STATIONS[self.station].guide
        else:
            page = START if self.stack.currentWidget() is self.welcome else "your-figure"
        self._guide.open(page)

    def report_fault(self) -> None:
        """Write everything needed to fix a fault into one file."""
        from bambola.desk.shell.help import ask_report

        ask_report(self, self.studio)

    def make_it(self) -> None:
        """Open *Make it*: one step at a time, in large type."""
        self.go_to(ORDER)
        self.order_station.show_make(True)

    def go_on_with(self, making: str) -> None:
        """Open the design of a figure half made, from its file or as the book keeps it, and go on at its
        step."""
        name, known = nth_of(making)[0], self.bench_desk.book.making(making)

        def go_on() -> None:
            self.bench_desk.choose_making(making)
            self.make_it()

        where = Path(known.where) if known.where else None
        if where is not None and where.is_file():
            self.files.open_path(where, then=go_on)
            return
        document = design_then(known)
        if document is None:
            told = tr(
                "The design of {figure} is gone, and the book has none of it.", figure=known.figure
            )
            self.message.say(told, serious=True)
        elif self.files.may_leave():
            self.files.opening.open_design(document.replaced(design=name), where, go_on)

    def open_page(self, making: str) -> None:
        """Open the page of a making in the book."""
        self.go_to(BOOK)
        self.book_station.select_making(making)

    def type_height(self) -> None:
        """Open the field for the height."""
        self.go_to(RESIZE)
        self.resize_station.table.type_height()

    def step_part(self, by: int) -> None:
        """Select the next or previous part."""
        plan = self.studio.plan
        if plan:
            ids = [part.id for part in plan.parts]
            at = ids.index(self.studio.selection.part) if self.studio.selection.part in ids else 0
            self.studio.selection.select_part(ids[(at + by) % len(ids)])

    def toggle_hold(self) -> None:
        """Hold the selected part at its made size, or let it scale."""
        if self.studio.selection.part:
            self.studio.hold(
                self.studio.selection.part, not self.studio.is_held(self.studio.selection.part)
            )

    # Files

    def learn(self, at: int = 0) -> None:
        """Open lesson number ``at`` and make it step by step; the first one starts the learning afresh."""
        if self.files.may_leave():
            self._take_shipped(LESSONS[at], partial(self._begin_lesson, at))

    def _begin_lesson(self, at: int) -> None:
        self.lesson.begin(afresh=at == 0)
        desk, plan = self.bench_desk, self.studio.plan
        made = desk.take_making()
        if made.finished:
            desk.make_another()
        elif plan is not None and made.at == plan.steps[-1].key:
            desk.keep_making(Making())  # made with a program that never said so: from the beginning
        if not desk.base.beginner and desk.put_bench(desk.base.replaced(beginner=True)):
            self.message.say(
                tr(
                    "Bambola takes you for a beginner: more of the small parts are built in place. "
                    "Order › Needles, glue and hands changes that."
                ),
                serious=False,
            )
        self.make_it()

    def open_demo(self, path: Path = BADGER) -> None:
        """Open a shipped figure, which is saved under a new name."""
        if self.files.may_leave():
            self._take_shipped(path, lambda: None)

    def _take_shipped(self, path: Path, then: Callable[[], None]) -> None:
        """Open a shipped figure in place of the present one, then call ``then``; wools missing on the shelf
        are replaced."""
        document, bench = load_demo(path), self.studio.bench
        figure = with_wools_of(document.figure, bench)
        if figure != document.figure:
            document = document.replaced(figure=figure)
            first = bench.wools[0].name
            told = tr("Wools missing from your shelf are shown as {wool}.", wool=first)
            self.message.say(told, serious=False)
        self.files.opening.open_design(document, path, then)

    def new_figure(self) -> None:
        """Begin a figure from a body plan or from pictures."""
        self.start_page.begin_anew()
        self.stack.setCurrentWidget(self.start_page)
        self.header.path.setVisible(False)
        self.thread_strip.setVisible(False)
        self.start_page.shelf.setFocus()

    def new_figure_from(self, picture: Path) -> None:
        """Begin a figure from a dropped or opened picture, after asking for its height."""
        self.new_figure()
        self.start_page.offer_picture(picture)

    def _leave_start(self) -> None:
        if self.studio.figure is None:
            self.stack.setCurrentIndex(0)
        else:
            self.go_to(max(0, self.header.path.current_row))

    def start_with(self, figure: Figure) -> None:
        """Open a new figure at *Measure*."""
        if self.files.may_leave():
            document = Document(design=new_design(figure), figure=figure)
            self.files.opening.open_design(document, None, lambda: self.go_to(MEASURE))

    def start_with_pictures(self, pictures: dict[Sight, Path], height: float) -> None:
        """Begin a figure from pictures of the original, ``height`` mm high."""
        if not self.files.may_leave():
            return
        figure = start_from_pictures(height, self.studio.bench, tr("New figure"), tr("Body"))
        design, survey = new_design(figure), Survey(height=height)
        self.studio.open_document(Document(design=design, figure=figure, survey=survey), None)
        self.go_to(MEASURE)
        self.measure_station.line.for_new = True
        for view, path in pictures.items():
            self.measure_station.sighting.read_picture(view, path)
        self.measure_station.board.turn_to(next(iter(pictures)))
        self.measure_station.go_to_step(PICTURE)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Press the focused button on Enter, as Space does."""
        if not presses_button(event):
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        mime = event.mimeData() if event else None
        if event and mime and any(url.isLocalFile() for url in mime.urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        mime = event.mimeData() if event else None
        files = [url.toLocalFile() for url in mime.urls() if url.isLocalFile()] if mime else []
        if files:
            self.files.open_path(Path(files[0]))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.thread_strip.updateGeometry()  # it gives way where the window is low

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        if not self.files.may_leave():
            event.ignore()
            return
        self.settings.geometry = self.saveGeometry()
        self.files.close()
        self.put_away()
        event.accept()

    def changeEvent(self, event: QEvent | None) -> None:
        super().changeEvent(event)
        if event and event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            self.files.look_at_disk()

    def come_forward(self, design: str, demo: bool = False) -> None:
        """Raise the window and open the design, or the demo, that a second start handed over."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.show()
        self.raise_()
        self.activateWindow()
        if QApplication.activeModalWidget() is not None:
            self.message.say(
                tr("Close the box that is open first; then open the design again."), True
            )
        elif demo:
            self.open_demo()
        elif design and Path(design) != self.studio.path:
            self.files.open_path(Path(design))

    def put_away(self) -> None:
        """Cancel background rendering and release devices and files, without waiting."""
        self.files.exports.close()
        for page in self.pages.made:
            page.close_down()
        self.start_page.close_down()
        self.bench_desk.close()
        self.studio.close()
        self.darkroom.close()

    def _keep_picture(self) -> None:
        """Cache the figure's picture for the next start with this design."""
        made = self.resize_station.table.picture
        if made is not None and self.studio.path is not None:
            keep_picture(self.studio.path, made)

    def _update_colours(self) -> None:
        self.darkroom.colours = self.studio.bench.colours

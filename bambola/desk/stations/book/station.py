"""The station *Book*: all figures made on a shelf, the selected one as planned and as it came out, and its
cost."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QMessageBox,
    QScrollArea,
    QStyle,
    QVBoxLayout,
    QWidget,
)

from bambola.core.bench import Making
from bambola.core.bench.making import nth_of
from bambola.core.book.document import MAX_BYTES, dump_book, load_book
from bambola.core.book.kept import design_then
from bambola.core.export.tables import makings_csv
from bambola.core.figure import Document, DocumentError
from bambola.desk.kit.file_dialogs import ask_open, ask_save
from bambola.desk.kit.flow import scroll_area
from bambola.desk.kit.pictures import RenderQueue
from bambola.desk.kit.theme import Theme, set_spacing
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.book.boards import ON_THE_TABLE, MadeBoards
from bambola.desk.stations.book.came_sheet import CameSheet
from bambola.desk.stations.book.fair_dialog import FairDialog, OfferedFigure
from bambola.desk.stations.book.made_view import MadeView
from bambola.desk.stations.book.money_slip import MoneySlip
from bambola.desk.stations.book.reading import BookReader, OpenPage
from bambola.desk.stations.page import Page
from bambola.files import ExportError, FileRefusedError, read_regular, write_made
from bambola.language import tr
from bambola.store.database import BenchBookError


class BookStation(Page):
    """The shelf on the left, the figure in the middle, its sheet and slip on the right."""

    has_thread = False

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, desk: BenchDesk
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.desk = studio, theme, desk
        self.reader = BookReader(studio)
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("find: a name, a day, a height"))
        self.search.setAccessibleName(tr("Find in the book"))
        self.search.setClearButtonEnabled(True)
        self.boards = MadeBoards(studio, theme, darkroom, desk, self.reader)
        self.view = MadeView(studio, theme, darkroom)
        self.sheet = CameSheet(studio, theme, desk)
        self.slip = MoneySlip(studio, theme, desk)
        self._in_hand = ON_THE_TABLE
        self._compose()
        self.boards.makings = desk.makings  # read while the window is at rest, where there are many
        self.search.textChanged.connect(lambda _: self._refresh_boards())
        self.boards.taken.connect(lambda _, key: self.select_making(key))
        self.reader.opened.connect(self._on_page_opened)
        self.view.part_taken.connect(self.sheet.show_part)
        self.sheet.another.connect(self.make_another)
        desk.changed.connect(self._on_makings_changed)
        for signal in (studio.plan_changed, studio.units_changed):
            signal.connect(self._on_planned)
        set_spacing(self.theme, self._row, (20, 4, 20, 8), gap=14)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _compose(self) -> None:
        self._row = QHBoxLayout(self)
        left = self._left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.search)
        shelf = self._shelf = QScrollArea()
        shelf.setAccessibleName(tr("Figures made"))
        shelf.setWidgetResizable(True)
        shelf.setFrameShape(QScrollArea.Shape.NoFrame)
        shelf.setWidget(self.boards)
        shelf.setFocusProxy(self.boards)
        column.addWidget(shelf, 1)
        papers = self._papers = QWidget()
        sheets = QVBoxLayout(papers)
        sheets.setContentsMargins(0, 0, 0, 0)
        sheets.addWidget(self.sheet)
        sheets.addWidget(self.slip)
        sheets.addStretch(1)
        self._side = scroll_area(papers)
        papers.installEventFilter(self)
        # Its fields come into view as they are gone to.
        self._side.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._row.addWidget(left)
        self._row.addWidget(self.view, 1)
        self._row.addWidget(self._side)

    def _restyle(self) -> None:
        self._fit_columns()

    def _fit_columns(self) -> None:
        px, wide = self.theme.px, self.width()
        self._left.setFixedWidth(min(px(300), max(px(150), round(wide * 0.24))))
        style = self.style()
        bar = 0 if style is None else style.pixelMetric(QStyle.PixelMetric.PM_ScrollBarExtent)
        least = self._papers.minimumSizeHint().width() + bar + 2
        self._side.setFixedWidth(max(least, min(px(400), round(wide * 0.34))))

    def resizeEvent(self, event: object) -> None:
        self._fit_columns()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Ask the splitter for room again: the papers may want more width at any time."""
        if watched is self._papers and event and event.type() == QEvent.Type.LayoutRequest:
            self._fit_columns()
        return super().eventFilter(watched, event)

    def showEvent(self, event: object) -> None:
        self._on_makings_changed()

    def take_keys(self) -> None:
        self.boards.setFocus()

    def close_down(self) -> None:
        """Stop reading."""
        self.reader.close()
        self.sheet.photos.close_down()

    # What is shown

    def _on_makings_changed(self) -> None:
        if self.isVisible():
            self._refresh_boards()
            self._open_selected()

    def _on_planned(self) -> None:
        self.boards.forget_table()
        self._on_makings_changed()

    def _refresh_boards(self) -> None:
        self.boards.show_makings(self.desk.makings, self.search.text())
        row = self.boards.rows.row_of(self._in_hand)
        if self.boards.rows.keys:
            self.boards.show_row(max(0, row))

    def select_making(self, key: str) -> None:
        """Select a making, or the open figure."""
        self._in_hand = key
        row = self.boards.rows.row_of(key)
        self.boards.show_row(row)
        box = self.boards.box(max(0, row))
        self._shelf.ensureVisible(0, round(box.center().y()), 0, round(box.height() / 2))
        self._open_selected()

    def _open_selected(self) -> None:
        if self._in_hand == ON_THE_TABLE or self._in_hand not in self.boards.makings:
            plan = self.studio.plan
            self.sheet.hide()
            self.view.show_page(OpenPage(ON_THE_TABLE, Making(), plan, None, ()))
            self.slip.show_plan(plan, None)
            self._fit_columns()
            return
        try:
            making = self.desk.book.making(self._in_hand)
        except BenchBookError as error:
            self.studio.refuse(error)
            return
        self.reader.open(self._in_hand, making)

    def _on_page_opened(self, page: OpenPage) -> None:
        if page.name != self._in_hand:
            return
        self.sheet.show()
        self.view.show_page(page)
        self.sheet.part = self.view.part
        self.sheet.show_page(page)
        self.slip.show_plan(page.plan, page)
        self._fit_columns()

    # What is done

    def make_another(self) -> None:
        """Begin one more making of the open design."""
        self.desk.make_another()
        self.making_asked.emit()

    def ask_fair(self) -> None:
        """Ask how many of which figures to make by a day."""
        FairDialog(self, self.studio, self.theme, self.offered()).exec()

    def offered(self) -> dict[str, OfferedFigure]:
        """Return the figures that could be made for a fair: the open one, and every design and height in the
        book, by its last making."""
        found: dict[str, OfferedFigure] = {}
        known: set[tuple[str, float]] = set()
        for name in self.boards.rows.keys:
            making = self.desk.book.making(name) if name != ON_THE_TABLE else Making()
            what = nth_of(name)[0], round(making.height_mm or 0.0, 1)
            document = design_then(making) if what not in known else None
            if document is not None and making.height_mm is not None:
                known.add(what)
                picture = self.boards.picture_of(name)
                found[name] = OfferedFigure(document, making.height_mm, making.price, picture)
        studio, plan = self.studio, self.studio.plan
        if studio.figure is None or plan is None:
            return found
        if (studio.design, round(plan.to_height_mm, 1)) in known:
            return found
        here = Document(figure=studio.figure, brief=studio.brief)
        picture, price = self.boards.picture_of(ON_THE_TABLE), self.slip.asked
        return {ON_THE_TABLE: OfferedFigure(here, plan.to_height_mm, price, picture), **found}

    def strike_out(self) -> None:
        """Delete the selected making."""
        name = self._in_hand
        making = self.boards.makings.get(name)
        if making is None:
            self.studio.refused.emit(tr("Select a making on the shelf first."))
            return
        sure = QMessageBox.question(
            self,
            tr("Delete"),
            tr("Delete {figure} from the book, with its hours and notes?", figure=making.figure),
        )
        if sure == QMessageBox.StandardButton.Yes:
            self._in_hand = ON_THE_TABLE
            self.desk.drop_making(name)

    def ask_page(self) -> None:
        """Ask for a file for the page of the selected making."""
        page, cost = self.slip.page, self.slip.cost()
        if page is None or page.plan is None or cost is None:
            self.studio.refused.emit(tr("Select a making on the shelf first."))
            return
        name = f"{page.making.figure or page.plan.figure}.pdf"
        path = ask_save(self, tr("Page as PDF"), name, tr("PDF (*.pdf)"))
        if path:
            self.reader.write(page, cost, Path(path))

    def ask_export(self) -> None:
        """Ask for a file for the whole book."""
        kinds = tr("Book as JSON (*.json);;Table for a spreadsheet (*.csv)")
        path = ask_save(self, tr("Export the book"), "book.json", kinds)
        if path:
            self.export_to(Path(path))

    def export_to(self, path: Path) -> None:
        """Write the whole book to a file: a table if its name says so, else JSON."""
        found = self.desk.makings
        try:
            if path.suffix.lower() == ".csv":
                write_made(path, makings_csv(found, self.studio.words).encode())
            else:
                whole = {name: self.desk.book.making(name) for name in found}
                write_made(path, dump_book(whole).encode())
        except (ExportError, BenchBookError) as error:
            self.studio.refuse(error)

    def ask_import(self) -> None:
        """Ask for a file of makings to import."""
        path = ask_open(self, tr("Import makings"), tr("Book as JSON (*.json)"))
        if path:
            self.import_from(Path(path))

    def import_from(self, path: Path) -> None:
        """Import the makings of a file; existing ones are replaced."""
        try:
            data = read_regular(path, MAX_BYTES, tr("a book of makings"))
            self.desk.put_makings(load_book(data, path.name))
        except (FileRefusedError, DocumentError) as error:
            self.studio.refuse(error)

"""Print: the packet as it will lie on paper, its pages chosen by their pictures; printed, or kept as PDF."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date
from pathlib import Path
from threading import Event

from PyQt6.QtCore import QSize, QSizeF, Qt, QTimer
from PyQt6.QtGui import QIcon, QPageLayout, QPageSize, QPainter, QPixmap
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter, QPrinterInfo
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.export.drawn import PaperPage
from bambola.core.export.packet import KIND_BY_ID, KINDS, PAPERS, Job, packet_pages
from bambola.core.export.packet.build import pdf_of, with_design
from bambola.core.export.packet.kinds import SHORT, WHOLE, WORK_SHEET
from bambola.core.export.packet.papers import Paper, label_sheets
from bambola.core.export.packet.sheet import number_pages, remove_number
from bambola.core.figure import dump_document
from bambola.core.marked import N_
from bambola.core.plan import make_plan
from bambola.core.wool.splitting import SplitPlan
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_save
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.together_dialog import SheetsView, keep_pdf, pdf_buffer
from bambola.desk.running.background import Background, CalledOffError
from bambola.desk.running.background import BackgroundJob as Running
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.for_others import ForOthers, PatternError
from bambola.language import current_catalogue, tr, trn
from bambola.translated import language_of

DOTS_PER_INCH = 300
"""A printer is given pages so fine: a line of a fifth of a millimetre is then two dots."""
_THUMB, _TELL_MS = 74, 100
_TOGETHER = ((N_("At length"), WHOLE), (N_("In short"), SHORT), (N_("Work sheet"), WORK_SHEET))
"""Kinds of pages that are usually printed together."""


class PacketDialog(FittedDialog):
    """Kinds of pages to tick on the left, the sheets as they will be on the right."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        settings: Settings,
        splits: Mapping[str, SplitPlan],
        heights: Sequence[float] = (),
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme, self.settings, self.splits = studio, theme, settings, splits
        self.setWindowTitle(tr("Print"))
        self._background = Background("packet")
        self._pages: list[PaperPage] = []
        self._laying: Running | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(_TELL_MS)
        self._timer.timeout.connect(lambda: self.progress.setValue(self._done))
        self._done = 0
        self._pdf = b""
        self.paper = QComboBox()
        self.paper.setAccessibleName(tr("Paper"))
        for paper in PAPERS.values():
            self.paper.addItem(paper.name, paper.id)
        known = self.paper.findData(settings.paper)
        self.paper.setCurrentIndex(max(0, known))
        self.paper.activated.connect(self._paper_chosen)
        self.labels = QComboBox()
        self.labels.setAccessibleName(tr("Labels"))
        self._offer_labels()
        self.labels.activated.connect(self._labels_chosen)
        self.together = QComboBox()
        self.together.setAccessibleName(tr("Which pages"))
        self.together.addItems([tr(words) for words, _ in _TOGETHER])
        self.together.setPlaceholderText(tr("as ticked"))
        self.together.activated.connect(self._together_chosen)
        self.kinds = QListWidget()
        self.kinds.setAccessibleName(tr("Pages"))
        self.kinds.setIconSize(QSize(theme.px(_THUMB), theme.px(round(_THUMB * 1.42))))
        self.kinds.setWordWrap(True)
        self.kinds.itemChanged.connect(self._save_ticks)
        self.kinds.currentRowChanged.connect(self._show_kind)
        self.at_length = QCheckBox(tr("Cards in full"))
        self.at_length.setToolTip(tr("Every action and check, not only the short version"))
        self.at_length.toggled.connect(lambda _: self._lay_out())
        self.others = ForOthers(settings, heights)
        self.others.changed.connect(self._lay_out)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.view = SheetsView(self, theme)
        self.document = self.view.sheets
        self.progress = QProgressBar()
        self.progress.setRange(0, len(KINDS))
        self.progress.setFormat(tr("laying out"))
        self.print_, self.save = QPushButton(tr("&Print…")), QPushButton(tr("Save as P&DF…"))
        self.close_ = QPushButton(tr("Close"))
        self.print_.clicked.connect(lambda _=False: self.ask_printer())
        self.save.clicked.connect(lambda _=False: self.ask_file())
        self.close_.clicked.connect(lambda _=False: self.reject())
        self._compose()
        self.set_size(theme, 980, 700)
        self.finished.connect(self._let_go)
        self._lay_out()

    def _compose(self) -> None:
        left = QVBoxLayout()
        left.addWidget(self.paper)
        left.addWidget(self.labels)
        left.addWidget(self.together)
        left.addWidget(self.kinds, 1)
        left.addWidget(self.at_length)
        left.addWidget(self.others)
        left.addWidget(self.told)
        right = QVBoxLayout()
        right.addWidget(self.view, 1)
        right.addWidget(self.progress)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        for button in (self.print_, self.save, self.close_):
            buttons.addWidget(button)
        right.addLayout(buttons)
        row = QHBoxLayout(self)
        row.addLayout(left, 0)
        row.addLayout(right, 1)
        for narrow in (self.kinds, self.told, self.others):
            narrow.setFixedWidth(self.theme.px(290))

    # Laying out

    def _make_job(self) -> Job | None:
        studio = self.studio
        if studio.plan is None or studio.figure is None:
            return None
        design = dump_document(studio.figure, studio.brief, studio.survey).encode()
        maker, licence, note = self.others.cover
        return Job(
            (studio.plan,),
            studio.figure,
            studio.bench,
            date.today(),
            self._chosen_paper,
            tuple(KIND_BY_ID),
            words=studio.words,
            splits=self.splits,
            maker=maker,
            licence=licence,
            note=note,
            labels=label_sheets(self._chosen_paper).get(str(self.labels.currentData())),
            at_length=self.at_length.isChecked(),
            design=(f"{studio.figure.id}.bambola.json", design),
        )

    def _lay_out(self) -> None:
        """Make all pages, off this thread; what is ticked is chosen from them."""
        job, brief = self._make_job(), self.studio.brief
        if job is None:
            return
        try:
            heights = self.others.other_heights(job.plan.to_height_mm, job.words)
        except PatternError as error:
            self.told.setText(str(error))
            return
        if self._laying is not None:
            self._laying.stop.set()  # what it was making is not wanted any more
        self.progress.show()
        self._enable_buttons(False)
        stop = Event()

        def go_on(done: int, of: int) -> None:
            if stop.is_set():
                raise CalledOffError
            self._done = done

        def made() -> list[PaperPage]:
            others = [make_plan(job.figure, brief.at_height(mm), job.bench) for mm in heights]
            plans = sorted((*job.plans, *others), key=lambda plan: plan.to_height_mm)
            return packet_pages(replace(job, plans=tuple(plans)), go_on)

        self._done = 0
        self._timer.start()
        self._laying = self._background.do(made, self._laid_out, self._show_failure, stop)

    def _laid_out(self, pages: list[PaperPage]) -> None:
        self._timer.stop()
        self.progress.hide()
        self._pages = pages
        self._fill_kinds()
        self._show_chosen()

    def _show_failure(self, error: Exception) -> None:
        if not isinstance(error, CalledOffError):
            self._timer.stop()
            self.progress.hide()
            self.told.setText(tr("This could not be laid out for printing ({error}).", error=error))

    def _fill_kinds(self) -> None:
        """A row for each kind that has pages, with a picture of its first."""
        kept = self.settings.left_out
        usual = KIND_BY_ID.keys() - WHOLE if kept is None else set(kept)
        unticked = self._unticked_kinds() or usual
        self.kinds.blockSignals(True)
        self.kinds.clear()
        pictures = self._page_thumbnails()
        for kind in KINDS:
            count = sum(page.kind == kind.id for page in self._pages)
            if not count:
                continue
            sheets = trn("{n} sheet", "{n} sheets", count)
            item = QListWidgetItem(f"{tr(kind.words)}\n{sheets}")
            item.setData(Qt.ItemDataRole.UserRole, kind.id)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            ticked = kind.id not in unticked
            item.setCheckState(Qt.CheckState.Checked if ticked else Qt.CheckState.Unchecked)
            if kind.id in pictures:
                item.setIcon(QIcon(pictures[kind.id]))
            self.kinds.addItem(item)
        self.kinds.blockSignals(False)
        self._tell_together()

    def _page_thumbnails(self) -> dict[str, QPixmap]:
        firsts: dict[str, PaperPage] = {}
        for page in self._pages:
            firsts.setdefault(page.kind, page)
        document = QPdfDocument(None)
        buffer = pdf_buffer(pdf_of(list(firsts.values()), "thumbs"))
        document.load(buffer)
        found = {}
        for i, (kind, page) in enumerate(firsts.items()):
            wide = self.theme.px(_THUMB)
            size = QSize(wide, round(wide * page.high / page.wide)) * 2
            image = document.render(i, size)
            sheet = QPixmap(image.size())
            sheet.fill(Qt.GlobalColor.white)
            painter = QPainter(sheet)
            painter.drawImage(0, 0, image)
            painter.setPen(self.theme.dyes.edge)
            painter.drawRect(0, 0, sheet.width() - 1, sheet.height() - 1)
            painter.end()
            found[kind] = sheet
        document.close()
        return found

    # What is chosen

    def _unticked_kinds(self) -> set[str]:
        rows = (self.kinds.item(i) for i in range(self.kinds.count()))
        return {
            str(item.data(Qt.ItemDataRole.UserRole))
            for item in rows
            if item is not None and item.checkState() == Qt.CheckState.Unchecked
        }

    def chosen(self) -> list[PaperPage]:
        """Return the pages that are ticked, numbered anew."""
        out = self._unticked_kinds()
        kept = [page for page in self._pages if page.kind not in out]
        plan = self.studio.plan
        return number_pages(
            [remove_number(page) for page in kept], plan.figure if plan else "", self.studio.words
        )

    def _save_ticks(self, item: QListWidgetItem) -> None:
        self.settings.left_out = sorted(self._unticked_kinds())
        self._tell_together()
        self._show_chosen()

    def _together_chosen(self, at: int) -> None:
        """Tick the kinds that are usually printed together."""
        self.kinds.blockSignals(True)
        for i in range(self.kinds.count()):
            item = self.kinds.item(i)
            assert item is not None
            wanted = item.data(Qt.ItemDataRole.UserRole) in _TOGETHER[at][1]
            item.setCheckState(Qt.CheckState.Checked if wanted else Qt.CheckState.Unchecked)
        self.kinds.blockSignals(False)
        self.settings.left_out = sorted(self._unticked_kinds())
        self._tell_together()
        self._show_chosen()

    def _tell_together(self) -> None:
        """Show which of them what is ticked is, if it is one."""
        shown, out = {page.kind for page in self._pages}, self._unticked_kinds()
        found = (i for i, (_, kinds) in enumerate(_TOGETHER) if out == shown - set(kinds))
        self.together.setCurrentIndex(next(found, -1))

    def _paper_chosen(self, _: int) -> None:
        self.settings.paper = str(self.paper.currentData())
        self._offer_labels()
        self._lay_out()

    def _offer_labels(self) -> None:
        """What labels for bags are printed on: plain paper, or a sheet of them in the size of the paper."""
        self.labels.clear()
        self.labels.addItem(tr("labels on plain paper"), "")
        for count in label_sheets(self._chosen_paper):
            self.labels.addItem(tr("sheets of {count} labels", count=count), count)
        self.labels.setCurrentIndex(max(0, self.labels.findData(self.settings.labels)))
        self.labels.setEnabled(self.labels.count() > 1)

    def _labels_chosen(self, _: int) -> None:
        self.settings.labels = str(self.labels.currentData())
        self._lay_out()

    @property
    def _chosen_paper(self) -> Paper:
        return PAPERS[str(self.paper.currentData())]

    def _show_chosen(self) -> None:
        pages = self.chosen()
        self._enable_buttons(bool(pages))
        if not pages:
            self.told.setText(tr("Tick at least one kind of page."))
            self.view.show_pdf(b"")
            return
        title, language = (
            tr("{figure}: packet", figure=self._figure_name()),
            language_of(current_catalogue()),
        )
        self._pdf = pdf_of(pages, title, self.settings.maker, language)
        self.view.show_pdf(self._pdf)
        self.told.setText(
            trn(
                "{n} sheet of {paper}",
                "{n} sheets of {paper}",
                len(pages),
                paper=self.paper.currentText(),
            )
        )

    def _figure_name(self) -> str:
        return self.studio.plan.figure if self.studio.plan else ""

    def _show_kind(self, row: int) -> None:
        """Turn to the first sheet of the kind in hand."""
        item = self.kinds.item(row)
        navigator = self.view.pageNavigator()
        if item is None or navigator is None:
            return
        kind = item.data(Qt.ItemDataRole.UserRole)
        at = next((i for i, page in enumerate(self.chosen()) if page.kind == kind), None)
        if at is not None:
            navigator.jump(at, navigator.currentLocation())

    def _enable_buttons(self, on: bool) -> None:
        self.print_.setEnabled(on)
        self.save.setEnabled(on)

    # Out of the window

    def ask_printer(self) -> None:
        """The system's own dialog, and there the sheets."""
        if not QPrinterInfo.availablePrinterNames():
            self.told.setText(tr("No printer is set up on this computer. Save it as PDF instead."))
            return
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        self.dress(printer)
        if QPrintDialog(printer, self).exec() == QDialog.DialogCode.Accepted:
            self.print_to(printer)

    def dress(self, printer: QPrinter) -> None:
        """Set a printer to the paper that is chosen, to its very edges."""
        paper = self._chosen_paper
        sheet = QSizeF(paper.wide, paper.high)
        size = QPageSize(sheet, QPageSize.Unit.Millimeter, paper.name)
        printer.setPageSize(size)
        printer.setFullPage(True)
        printer.setPageOrientation(QPageLayout.Orientation.Portrait)
        printer.setResolution(DOTS_PER_INCH)

    def print_to(self, printer: QPrinter) -> bool:
        """Put the sheets on a printer; whether it took them."""
        painter = QPainter()
        if not painter.begin(printer):
            self.told.setText(tr("The printer refused the pages. Save them as a PDF instead."))
            return False
        pages = self.chosen()
        per_mm = printer.resolution() / 25.4
        for i, page in enumerate(pages):
            if i:
                printer.newPage()
            size = QSize(round(page.wide * per_mm), round(page.high * per_mm))
            painter.drawImage(0, 0, self.document.render(i, size))
        painter.end()
        self.told.setText(trn("{n} sheet printed.", "{n} sheets printed.", len(pages)))
        return True

    def ask_file(self) -> None:
        """Ask where to, and keep the sheets there as PDF with the design within."""
        name = f"{self.studio.figure.id if self.studio.figure else 'packet'}.pdf"
        where = ask_save(self, tr("Save as PDF"), name, tr("PDF (*.pdf)"))
        if where:
            self.save_to(Path(where))

    def save_to(self, where: Path) -> bool:
        """Keep the sheets; whether they could be."""
        job = self._make_job()
        made = with_design(self._pdf, *job.design) if job and job.design else self._pdf
        kept, told = keep_pdf(where, made)
        self.told.setText(told)
        return kept

    def _let_go(self, _: int) -> None:
        self._timer.stop()
        self._background.close()
        self.view.show_pdf(b"")

"""A dialog for figures made at once, variants or sizes, and the resulting sheets."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from threading import Event

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, Qt
from PyQt6.QtGui import QPalette
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPdfWidgets import QPdfView
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.plan.counter.together import Asked, Together, make_together
from bambola.core.quantities import show_mass
from bambola.core.words import error_words
from bambola.desk.kit.buttons import lead_label
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.file_dialogs import ask_save
from bambola.desk.kit.theme import Theme
from bambola.desk.running.background import Background, BackgroundJob, CalledOffError
from bambola.desk.session.studio import EditorSession
from bambola.files import ExportError, write_made
from bambola.language import tr


def pdf_buffer(pdf: bytes) -> QBuffer:
    """Return a PDF as a device that Qt can read."""
    buffer = QBuffer()
    buffer.setData(QByteArray(pdf))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    return buffer


def keep_pdf(where: Path, pdf: bytes) -> tuple[bool, str]:
    """Save sheets as a file; return whether that worked, and a message."""
    try:
        write_made(where, pdf)
    except (ExportError, OSError) as error:
        return False, str(error)
    return True, tr("Saved as {name}.", name=where.name)


class SheetsView(QPdfView):
    """Shows one PDF, ``sheets``."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.sheets = QPdfDocument(self)
        self._buffer = QBuffer()
        self.setPageMode(QPdfView.PageMode.MultiPage)
        self.setZoomMode(QPdfView.ZoomMode.FitInView)
        self.setDocument(self.sheets)
        ground = self.palette()
        ground.setColor(QPalette.ColorRole.Dark, theme.dyes.shade)
        self.setPalette(ground)

    def show_pdf(self, pdf: bytes) -> None:
        """Show a PDF, or nothing."""
        self.sheets.close()
        if pdf:
            self._buffer = pdf_buffer(pdf)
            self.sheets.load(self._buffer)


class TogetherDialog(FittedDialog):
    """Figures to tick on the left; their common weigh-out, order and labels on the right."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        title: str,
        offered: Sequence[tuple[str, Asked]],
    ) -> None:
        """``offered`` are the choices with their labels."""
        super().__init__(parent)
        self.studio, self.theme, self.offered = studio, theme, tuple(offered)
        self.setWindowTitle(title)
        self._background = Background("together")
        self._making: BackgroundJob | None = None
        self._pdf = b""
        self.figures = QListWidget()
        self.figures.setAccessibleName(tr("Figures to make"))
        self.figures.setWordWrap(True)
        self._fill_list()
        self.figures.itemChanged.connect(lambda _: self.make())
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.view = SheetsView(self, theme)
        self.progress = QProgressBar()
        self.progress.setRange(0, 0)
        self.progress.setFormat(tr("laying out"))
        self.save, close = QPushButton(tr("Save as P&DF…")), QPushButton(tr("Close"))
        self.save.clicked.connect(lambda _=False: self.ask_file())
        close.clicked.connect(lambda _=False: self.reject())
        left = QVBoxLayout()
        left.addWidget(
            lead_label(
                tr("Steps that are the same are done for all of them at once. Tick what to make.")
            )
        )
        left.addWidget(self.figures, 1)
        left.addWidget(self.told)
        buttons = QHBoxLayout()
        buttons.addStretch(1)
        buttons.addWidget(self.save)
        buttons.addWidget(close)
        right = QVBoxLayout()
        right.addWidget(self.view, 1)
        right.addWidget(self.progress)
        right.addLayout(buttons)
        row = QHBoxLayout(self)
        row.addLayout(left, 0)
        row.addLayout(right, 1)
        self.figures.setFixedWidth(theme.px(270))
        self.told.setFixedWidth(theme.px(270))
        self.set_size(theme, 940, 680)
        self.finished.connect(self._let_go)
        self.make()

    def _fill_list(self) -> None:
        for called, _ in self.offered:
            item = QListWidgetItem(called)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked)
            self.figures.addItem(item)

    @property
    def ticked_choices(self) -> tuple[Asked, ...]:
        """The ticked choices."""
        items = [self.figures.item(i) for i in range(self.figures.count())]
        return tuple(
            asked
            for item, (_, asked) in zip(items, self.offered, strict=True)
            if item is not None and item.checkState() == Qt.CheckState.Checked
        )

    def make(self) -> None:
        """Plan the ticked figures off this thread; only the last request is laid out."""
        asked = self.ticked_choices
        if self._making is not None:
            self._making.stop.set()
        self.save.setEnabled(False)
        if not asked:
            self.progress.hide()
            self.view.show_pdf(b"")
            self.told.setText(tr("Tick at least one figure."))
            return
        bench, words, stop = self.studio.bench, self.studio.words, Event()
        self.progress.show()

        def made() -> tuple[Together, bytes]:
            from bambola.core.export.together_sheets import kits_pdf

            both = make_together(asked, bench)
            pdf = kits_pdf(both, bench, words, stop.is_set)
            if stop.is_set():
                raise CalledOffError
            return both, pdf

        self._making = self._background.do(made, self._show_result, self._show_failure, stop)

    def _show_result(self, made: tuple[Together, bytes]) -> None:
        both, self._pdf = made
        self.progress.hide()
        self.save.setEnabled(True)
        self.view.show_pdf(self._pdf)
        common = sum(len(act.figure_count) == len(both.plans) for act in both.acts)
        several = sum(1 < len(act.figure_count) < len(both.plans) for act in both.acts)
        weight = show_mass(sum(total.taken_g for total in both.wools), self.studio.units)
        told = [
            tr(
                "{weight} of wool, {steps} steps: {common} for all at once.",
                weight=weight,
                steps=len(both.acts),
                common=common,
            )
        ]
        if several:
            told.append(tr("{several} for some of them at once.", several=several))
        self.told.setText(" ".join(told))

    def _show_failure(self, error: Exception) -> None:
        if not isinstance(error, CalledOffError):
            self.progress.hide()
            self.view.show_pdf(b"")
            self.told.setText(error_words(error, self.studio.words))

    def ask_file(self) -> None:
        """Ask for a file name and save the sheets."""
        name = f"{self.studio.figure.id if self.studio.figure else 'figure'}-together.pdf"
        where = ask_save(self, tr("Save as PDF"), name, tr("PDF (*.pdf)"))
        if where:
            self.save_to(Path(where))

    def save_to(self, where: Path) -> bool:
        """Save the sheets; return whether that worked."""
        kept, told = keep_pdf(where, self._pdf)
        self.told.setText(told)
        return kept

    def _let_go(self, _: int) -> None:
        self._background.close()
        self.view.show_pdf(b"")

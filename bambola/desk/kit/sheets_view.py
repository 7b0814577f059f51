"""Sheets of paper as they will be printed, one below the other."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice
from PyQt6.QtGui import QPalette
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPdfWidgets import QPdfView
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.theme import Theme


def pdf_buffer(pdf: bytes) -> QBuffer:
    """A PDF as a device that Qt reads."""
    buffer = QBuffer()
    buffer.setData(QByteArray(pdf))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    return buffer


class SheetsView(QPdfView):
    """Shows one PDF; ``sheets`` is what it shows."""

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
        """Show these sheets; none for no PDF."""
        self.sheets.close()
        if pdf:
            self._buffer = pdf_buffer(pdf)
            self.sheets.load(self._buffer)

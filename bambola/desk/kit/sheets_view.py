"""Sheets of paper as they will be printed, one below the other."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice
from PyQt6.QtGui import QPalette
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPdfWidgets import QPdfView
from PyQt6.QtWidgets import QWidget

from bambola.desk.kit.theme import Theme
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
    return True, tr("Written to {name}.", name=where.name)


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

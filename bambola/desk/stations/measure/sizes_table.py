"""Sizes from a spreadsheet, as a file or as it was copied: they go into the parts they are named after."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox, QWidget

from bambola.core.facts import RefusedError
from bambola.core.plan.reading.sizes_table import FromTable, read_sizes, with_sizes
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.taking import edit_rebuilt
from bambola.files import FileRefusedError
from bambola.files.spreadsheet import table_text
from bambola.language import N_, tr

HEADS = (
    N_("part"), N_("name"), N_("length"), N_("height"), N_("width"), N_("depth"), N_("thickness"),
    N_("diameter"),
)  # fmt: skip
"""What columns are headed, in the maker's own words."""


def ask_table(parent: QWidget, studio: EditorSession) -> None:
    """Take the sizes of a file; where the clipboard holds a table, that is offered first."""
    clipboard = QApplication.clipboard()
    copied = clipboard.text() if clipboard is not None else ""
    if "\n" in copied and ("\t" in copied or ";" in copied):
        told = QMessageBox.question(
            parent, tr("Sizes from a table"), tr("Take the table that was copied? No opens a file.")
        )
        if told == QMessageBox.StandardButton.Yes:
            take_table(studio, copied)
            return
    kinds = tr("Tables (*.csv *.tsv *.txt *.ods)")
    path, _ = QFileDialog.getOpenFileName(parent, tr("Sizes from a table"), "", kinds)
    if not path:
        return
    try:
        take_table(studio, table_text(Path(path)))
    except FileRefusedError as error:
        studio.refuse(error)


def take_table(studio: EditorSession, text: str) -> FromTable | None:
    """Take the sizes of a table; what cannot be taken is told, and the rest is."""
    if studio.figure is None:
        return None
    try:
        heads = {tr(head).casefold(): head for head in HEADS}
        found = with_sizes(
            studio.figure, studio.survey, read_sizes(text, studio.units.length, heads)
        )
    except (RefusedError, ValueError) as error:
        studio.refuse(error)
        return None
    if found.taken and not edit_rebuilt(
        studio, tr("Sizes from a table"), found.figure, found.survey
    ):
        return None
    told = [tr("{n} sizes taken.", n=found.taken)]
    if found.unknown:
        told.append(tr("No such part: {names}.", names=", ".join(found.unknown)))
    if found.unfit:
        told.append(tr("Not of their shapes: {names}.", names="; ".join(found.unfit)))
    studio.refused.emit(" ".join(told))
    return found

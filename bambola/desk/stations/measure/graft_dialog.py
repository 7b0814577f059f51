"""Copies a part, with everything on it, from another design."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QWidget

from bambola.core.bench import with_wools_of
from bambola.core.figure import DocumentError, Figure
from bambola.core.figure.document import SUFFIX
from bambola.core.figure.graft import graft_part
from bambola.desk.session.studio import EditorSession
from bambola.language import tr
from bambola.store import open_design


def ask_graft(parent: QWidget, studio: EditorSession) -> None:
    """Ask for a design and one of its parts, and copy that onto the selected part."""
    if studio.figure is None or studio.selection.part is None:
        return
    folder = studio.path.parent if studio.path else Path.home()
    path, _ = QFileDialog.getOpenFileName(
        parent,
        tr("Copy a part from"),
        str(folder),
        tr("Bambola designs (*{suffix});;All files (*)", suffix=SUFFIX),
    )
    if not path:
        return
    try:
        source = open_design(Path(path), studio.bench).figure
    except DocumentError as error:
        studio.refuse(error)
        return
    names = [part.name for part in source.parts]
    name, taken = QInputDialog.getItem(
        parent,
        tr("Copy a part"),
        tr("Which part of {name}?", name=source.name),
        names,
        0,
        editable=False,
    )
    if taken and name in names:
        copy_part(studio, source, source.parts[names.index(name)].id)


def copy_part(studio: EditorSession, source: Figure, part: str) -> None:
    """Copy ``part`` of ``source`` onto the selected part, at its size there."""
    figure, onto = studio.figure, studio.selection.part
    if figure is None or onto is None:
        return
    try:
        new, copy = graft_part(figure, with_wools_of(source, studio.bench), part, onto)
    except ValueError as error:
        studio.refuse(error)
        return

    def then(well: bool) -> None:
        if well:
            studio.selection.take_part(copy)

    studio.edit(tr("Copy a part"), new, waits=False, then=then)

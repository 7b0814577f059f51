"""The hard core in the selected part."""

from __future__ import annotations

from PyQt6.QtWidgets import QInputDialog, QWidget

from bambola.core.figure.additions import core_of, with_core
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


def ask_core(parent: QWidget, studio: EditorSession) -> None:
    """Ask for the diameter of a ball of cork, wood or foam in the middle of the part; 0 removes it."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    had = core_of(figure, part)
    shown = show_length(had.size if had else figure.by_id[part].shape.smallest_mm / 2, studio.units)
    ask = tr(
        "A ball of cork, wood or foam in the middle of the {part:lower}: how thick is it? 0 takes it away.",
        part=figure.by_id[part].name,
    )
    text, given = QInputDialog.getText(parent, tr("A hard core"), ask, text=shown)
    if not given:
        return
    try:
        size = parse_length(text, studio.units.length) if text.strip() else 0.0
    except QuantityError as error:
        studio.refuse(error)
        return
    studio.edit_by(tr("A hard core"), lambda f: with_core(f, part, size, tr("Hard core")))

"""The furrows of the selected part: between toes, or down a back."""

from __future__ import annotations

from PyQt6.QtWidgets import QInputDialog, QWidget

from bambola.core.figure.additions import with_furrows
from bambola.desk.session.studio import EditorSession
from bambola.language import tr

_MOST = 8


def ask_furrows(parent: QWidget, studio: EditorSession) -> None:
    """Ask how many furrows are pulled into the part; 0 removes them."""
    figure, part = studio.figure, studio.selection.part
    if figure is None or part is None or part not in figure.by_id:
        return
    body = figure.by_id[part]
    ask = tr("Furrows pulled into the {part:lower} with thread, as between toes; 0 for none.",
             part=body.name)  # fmt: skip
    count, given = QInputDialog.getInt(parent, tr("Toes and furrows"), ask, body.furrows, 0, _MOST)
    if given:
        studio.edit_by(tr("Toes and furrows"), lambda f: with_furrows(f, part, count))

"""A list of parts: typed for a new figure, or changed for the one on the table.

What reads lists is loaded when one is asked for: the window begins without it.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from bambola.language import tr

if TYPE_CHECKING:
    from bambola.desk.shell.frame import Frame


def new_from_notes(window: Frame) -> None:
    """Begin a figure by typing or pasting a list of its parts."""
    from bambola.desk.stations.measure.notes_dialog import NotesDialog

    dialog = NotesDialog(window, window.studio, window.theme, window.darkroom)
    if dialog.exec() and dialog.figure is not None:
        window.start_with(dialog.figure)


def edit_as_list(window: Frame) -> None:
    """Show the figure on the table as a list; what is changed there is one step to undo."""
    from bambola.core.notes.writing import list_of
    from bambola.desk.stations.measure.notes_dialog import NotesDialog

    studio = window.studio
    if studio.figure is None:
        return
    text = list_of(studio.figure, studio.units.length)
    dialog = NotesDialog(window, studio, window.theme, window.darkroom, text, studio.figure)
    if dialog.exec() and dialog.figure is not None:
        studio.edit(tr("Change the list of parts"), dialog.figure)

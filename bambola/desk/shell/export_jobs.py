"""Writes exports off the interface thread."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import UTC, datetime
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.export.formats import ExportRefusedError, ExportRequest, Format
from bambola.core.wool.splitting import SplitPlan
from bambola.desk.running.background import Background
from bambola.desk.session.sittings import Sittings
from bambola.desk.session.studio import EditorSession
from bambola.files import write_made
from bambola.language import tr


class ExportDesk(QObject):
    """Writes one export after the other and reports when each is done."""

    done = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, studio: EditorSession, sittings: Sittings) -> None:
        super().__init__()
        self.studio, self.sittings = studio, sittings
        self._background = Background("exports")

    def start(
        self, form: Format, where: Path, splits: Mapping[str, SplitPlan] | None = None
    ) -> None:
        """Export the present plan to a file or folder, with the splitting trees found."""
        studio = self.studio
        if studio.plan is None or studio.figure is None:
            return
        asked = ExportRequest(
            studio.plan,
            studio.figure,
            studio.bench,
            self.sittings.first_day,
            datetime.now(UTC),
            studio.words,
            splits,
            self.sittings.calendar,
            self.sittings.desk.in_hand,
        )
        self._background.do(
            lambda: write_made(where, form.make(asked)),
            lambda _: self.done.emit(tr("Written to {name}.", name=where.name)),
            lambda error: self.failed.emit(
                str(error)
                if isinstance(error, OSError | ExportRefusedError)
                else tr(
                    "{name}: this could not be laid out ({error}).", name=where.name, error=error
                )
            ),
        )

    @property
    def is_idle(self) -> bool:
        """Whether every export is written."""
        return self._background.is_idle

    def close(self) -> None:
        """Accept no more exports; the one being written is finished."""
        self._background.close()

    def finish(self, seconds: float) -> None:
        """Close, and wait this long for the export being written."""
        self._background.finish(seconds)

"""Exports written off the interface thread."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import UTC, date, datetime
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.figure import Bench, Figure
from bambola.core.plan import Plan
from bambola.core.quantities import Units
from bambola.core.wool.splitting import SplitPlan
from bambola.desk.background import Background
from bambola.desk.studio import Studio


class ExportDesk(QObject):
    """Writes one export after the other and says when each is done."""

    done = pyqtSignal(str)
    failed = pyqtSignal(str)

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self.studio = studio
        self._background = Background("exports")

    def start(self, kind: str, where: Path, splits: Mapping[str, SplitPlan] | None = None) -> None:
        """Export the plan as it is now, as ``kind``, to a file or folder; with the splitting trees found."""
        studio = self.studio
        if studio.plan is None or studio.figure is None:
            return
        plan, figure, bench, units = studio.plan, studio.figure, studio.bench, studio.units

        self._background.do(
            lambda: write_export(kind, where, plan, figure, bench, units, splits),
            lambda _: self.done.emit(f"Written to {where.name}."),
            lambda error: self.failed.emit(
                str(error)
                if isinstance(error, OSError)
                else f"{where.name}: this could not be laid out ({error})."
            ),
        )

    @property
    def is_idle(self) -> bool:
        """Whether everything asked for is written."""
        return self._background.is_idle

    def close(self) -> None:
        """Take no more; what is being written is written to its end."""
        self._background.close()

    def finish(self, seconds: float) -> None:
        """Close, and give what is being written so long to be done."""
        self._background.finish(seconds)


def write_export(
    kind: str,
    where: Path,
    plan: Plan,
    figure: Figure,
    bench: Bench,
    units: Units,
    splits: Mapping[str, SplitPlan] | None,
) -> None:
    """Write one export. Raises OSError with one sentence for the maker."""
    # Loaded here so that the window need not wait for what only paper needs.
    from bambola.core.export.blanks import blank_svgs
    from bambola.core.export.cards import work_cards
    from bambola.core.export.ics import calendar_ics
    from bambola.core.export.json_plan import plan_json
    from bambola.core.export.pdf import work_sheet
    from bambola.core.export.strips import strip_svgs, strips_pdf
    from bambola.core.export.svg import outline_svg
    from bambola.core.export.tables import plan_tables
    from bambola.core.export.wool_sheets import wool_sheets
    from bambola.core.order.sittings import SittingError, calendar
    from bambola.files import ExportError, write_whole

    if kind == "json":
        write_whole(where, plan_json(plan).encode())
    elif kind == "pdf":
        write_whole(where, work_sheet(plan, figure, bench, units))
    elif kind == "strips":
        write_whole(where, strips_pdf(plan, units))
    elif kind == "cards":
        write_whole(where, work_cards(plan, bench, units))
    elif kind == "ics":
        try:
            found = calendar(plan.steps, bench.free, date.today())
        except SittingError as error:
            raise ExportError(str(error)) from None
        write_whole(where, calendar_ics(plan.figure, plan.steps, found, datetime.now(UTC)))
    elif kind == "wool":
        write_whole(where, wool_sheets(plan, bench, units, splits))
    elif kind == "csv":
        for name, text in plan_tables(plan).items():
            write_whole(where / name, text.encode())
    else:
        for view in ("front", "side", "top"):
            write_whole(where / f"{view}.svg", outline_svg(plan, view).encode())
        for name, text in (strip_svgs(plan.wires) | blank_svgs(plan, bench)).items():
            write_whole(where / name, text.encode())

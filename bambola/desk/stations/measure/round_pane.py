"""Lists of measures: of one part, or the round through all of them."""

from __future__ import annotations

import itertools

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget

from bambola.core.plan.reading.round import Effect, doubt_of_total, measures_by_effect
from bambola.core.quantities import show_mass
from bambola.desk.kit.flow import discard
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.running.timers import at_most_every, one_shot_timer, start_unless_running
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.rows import MeasureRow
from bambola.language import tr

_MOST_ROWS = 40
_AT_ONCE = 8
"""So many new rows are laid without a pause: more would hold the window."""


class MeasureList(QWidget):
    """Rows of measures. A caliper's reading goes to the current row, and the next becomes current."""

    in_hand = pyqtSignal(str, str)

    def __init__(self, studio: EditorSession, theme: Theme, whole_figure: bool) -> None:
        super().__init__()
        self.studio, self.theme, self.whole = studio, theme, whole_figure
        self.rows: list[MeasureRow] = []
        self._hand: tuple[str, str] | None = None
        self._to_lay: list[tuple[Effect, MeasureRow | None]] = []
        self._heaviest = 0.0
        self._head = QLabel()
        self._head.setWordWrap(True)
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(0)
        self._box.addWidget(self._head)
        self._rows_box = QVBoxLayout()
        self._rows_box.setSpacing(theme.px(1))
        self._box.addLayout(self._rows_box)
        self._soon = at_most_every(self, 0, self.refresh)
        self._more = at_most_every(self, 0, lambda: self._create_rows(_AT_ONCE))
        self._sight = one_shot_timer(self, 0)
        self._sight.timeout.connect(self._bring_into_sight)
        for signal in (
            studio.survey_changed,
            studio.units_changed,
            studio.figure_changed,
            studio.plan_changed,
            studio.selection.part_changed,
        ):
            signal.connect(self._create_more_rows)
        theme.changed.connect(self._create_more_rows)

    def _create_more_rows(self) -> None:
        self._more.stop()  # what is still to be laid may be of a figure that is gone
        if self.isVisible():
            start_unless_running(self._soon)

    def showEvent(self, event: object) -> None:
        start_unless_running(
            self._soon
        )  # it is seen first: what a doubt weighs is worked out after that

    def refresh(self) -> None:
        """Update all rows; the current measure stays current."""
        figure = self.studio.figure
        if figure is None:
            self._keep_rows(())
            return
        found = measures_by_effect(figure, self.studio.plan_as_made(), self.studio.survey)
        shown = (
            found if self.whole else tuple(e for e in found if e.part == self.studio.selection.part)
        )
        if not self.whole:
            order = {n: i for i, n in enumerate(self._measure_names())}
            shown = tuple(sorted(shown, key=lambda e: order[e.measure]))
        self._show_summary(found)
        self._heaviest = max((e.grams for e in found), default=0.0)
        focused = any(row.entry.hasFocus() for row in self.rows)
        self._keep_rows(shown[:_MOST_ROWS])
        self._create_rows(_AT_ONCE)
        if focused and self._hand is not None:
            self.bring(*self._hand)
            self._sight.start()

    def _keep_rows(self, shown: tuple[Effect, ...]) -> None:
        """Keep the rows still shown, in their new order, and queue the others."""
        rows = [*self.rows, *(row for _, row in self._to_lay if row)]
        had = {(row.effect.part, row.effect.measure): row for row in rows}
        wanted = [(effect.part, effect.measure) for effect in shown]
        gone = [row for key, row in had.items() if key not in wanted]
        if any(row.entry.hasFocus() for row in gone):
            self.setFocus()  # else it would fall from row to row, and each would come to hand
        for row in gone:
            discard(row)
        self._to_lay = []
        self.rows = []
        for effect, key in zip(shown, wanted, strict=True):
            if key in had and not self._to_lay:
                self._place_row(had.pop(key), effect)
            else:
                self._to_lay.append((effect, had.get(key)))

    def _create_rows(self, most: int) -> None:
        """Create queued rows, a limited number at a time."""
        made = 0
        while self._to_lay:
            effect, row = self._to_lay[0]
            if row is None:
                if made == most:
                    self._more.start()
                    return
                row = MeasureRow(self.studio, self.theme, effect, self.whole)
                row.in_hand.connect(self._take_in_hand)
                row.taken.connect(self._go_to_next)
                made += 1
            del self._to_lay[0]
            self._place_row(row, effect)
        # Keys go through the rows as they lie, not as they were made.
        stops = (stop for row in self.rows for stop in (row.entry, row.way, row.rule))
        for one, other in itertools.pairwise(stops):
            QWidget.setTabOrder(one, other)

    def _place_row(self, row: MeasureRow, effect: Effect) -> None:
        row.show_value(effect, self._heaviest)
        at = len(self.rows)
        item = self._rows_box.itemAt(at)
        if item is None or item.widget() is not row:
            self._rows_box.insertWidget(at, row)
        self.rows.append(row)

    def _measure_names(self) -> tuple[str, ...]:
        figure, selected = self.studio.figure, self.studio.selection.part
        assert figure is not None
        part = figure.by_id.get(selected or "")
        return part.shape.measure_names if part else ()

    def _show_summary(self, found: tuple[Effect, ...]) -> None:
        units = self.studio.units
        self._head.setVisible(self.whole)
        missing = sum(e.is_missing for e in found)
        total = show_mass(self.studio.plan_as_made().wool_g, units)
        doubt = show_mass(doubt_of_total(found), units)
        todo = (
            tr("{missing} of {n} measures are missing", missing=missing, n=len(found))
            if missing
            else tr("every measure is taken")
        )
        self._head.setText(
            tr(
                "{total} of wool, give or take {doubt}: {todo}. The weightiest come first.",
                total=total,
                doubt=doubt,
                todo=todo,
            )
        )
        set_role(self._head, "body")

    def _take_in_hand(self, part: str, measure: str) -> None:
        self._hand = (part, measure)
        if self.whole:
            self.studio.selection.select_part(part)
        self.in_hand.emit(part, measure)

    def bring(self, part: str, measure: str) -> None:
        """Make a measure the current one."""
        self._hand = (part, measure)
        self._create_rows(_MOST_ROWS)
        for row in self.rows:
            if (row.effect.part, row.effect.measure) == (part, measure):
                row.entry.setFocus()
                row.entry.selectAll()  # what is typed now takes the place of what is shown
                return

    def _bring_into_sight(self) -> None:
        """Scroll to the current row once the rows are laid out."""
        row, around = self.row_in_hand(), self.parentWidget()
        while around is not None and not isinstance(around, QScrollArea):
            around = around.parentWidget()
        if row is not None and around is not None:
            around.ensureWidgetVisible(row)

    def row_in_hand(self) -> MeasureRow | None:
        """Return the current row, or the first one."""
        for row in self.rows:
            if (row.effect.part, row.effect.measure) == self._hand:
                return row
        return self.rows[0] if self.rows else None

    def enter_reading(self, mm: float) -> None:
        """Put a caliper's reading into the current measure."""
        row = self.row_in_hand()
        if row is not None:
            self._hand = (row.effect.part, row.effect.measure)
            row.enter_reading(mm, "caliper")

    def _go_to_next(self) -> None:
        """Go to the next measure: in the round the next missing one, on a part the next row."""
        self._create_rows(_MOST_ROWS)
        here = [(r.effect.part, r.effect.measure) for r in self.rows]
        at = here.index(self._hand) if self._hand in here else -1
        after = [*self.rows[at + 1 :], *self.rows[: max(0, at)]]
        if self.whole:
            after = [r for r in after if r.effect.is_missing]
        if not after:
            return
        self._hand = (after[0].effect.part, after[0].effect.measure)
        self.refresh()
        self.bring(*self._hand)

"""One stroke a part: a row of parts with the next one highlighted, and the pictures to draw in."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QCloseEvent, QKeyEvent, QShowEvent
from PyQt6.QtWidgets import (
    QCompleter,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure.survey import Sight, Spot
from bambola.core.notes.kinds import names, normalise_word
from bambola.core.notes.reading import read_notes
from bambola.core.quantities import show_length
from bambola.core.strokes.building import DrawnFigure, taken_as
from bambola.core.strokes.document import PartStroke
from bambola.core.strokes.drawing import StrokedPicture, draw_figure
from bambola.core.strokes.grouping import outline_of_trace
from bambola.core.strokes.guiding import guide_for, second_looks
from bambola.core.words import error_words
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.dialog import FittedDialog
from bambola.desk.kit.flow import FlowLayout
from bambola.desk.kit.theme import Theme, set_role
from bambola.desk.kit.views import VIEW_WORDS
from bambola.desk.running.background import Background
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.measure.sighting import Sighting
from bambola.desk.stations.measure.strokes_picture import StrokesPicture
from bambola.language import tr
from bambola.shipped import body_plans


@dataclass
class PlannedStroke:
    """A stroke to draw: its part, its view, and the stroke once drawn. ``is_second`` marks a part's second
    stroke, in another view."""

    name: str
    view: Sight
    is_second: bool = False
    is_skipped: bool = False
    strokes: list[PartStroke] = field(default_factory=list)

    @property
    def is_done(self) -> bool:
        """Whether it is drawn or skipped."""
        return self.is_skipped or bool(self.strokes)


class StrokesDialog(FittedDialog):
    """Parts are drawn one after the other; ``found`` is the resulting figure so far."""

    def __init__(
        self,
        parent: QWidget,
        studio: EditorSession,
        theme: Theme,
        sighting: Sighting,
        parts: Sequence[str],
        drawn: Sequence[PartStroke] = (),
    ) -> None:
        super().__init__(parent)
        self.studio, self.theme = studio, theme
        self.setWindowTitle(tr("One stroke for each part"))
        self.found: DrawnFigure | None = None
        self.height_mm = studio.survey.height or studio.plan_as_made().from_height_mm
        self.pictures: dict[Sight, StrokesPicture] = {}
        self._stroked: dict[Sight, StrokedPicture] = {}
        self._background = Background("strokes")
        self._is_stale = False
        for framing in studio.survey.framings:
            laid = sighting.laid.get(framing.view)
            if laid is None:
                continue
            picture = StrokedPicture(framing, laid.taken.pixels, laid.taken.scale, laid.silhouette)
            self._stroked[framing.view] = picture
            scale = laid.shown.width() / laid.taken.width
            shown = StrokesPicture(theme, laid.shown, scale, tr(VIEW_WORDS[framing.view]))
            shown.drawn.connect(lambda points, view=framing.view: self.take_stroke(view, points))
            self.pictures[framing.view] = shown
        self.row = [self._plan_stroke(name) for name in parts]
        for stroke in drawn:
            own = next((each for each in self.row if each.name == stroke.name), None)
            if own is None:
                self.row.append(own := self._plan_stroke(stroke.name))
            own.strokes.append(stroke)
        waiting = (n for n, each in enumerate(self.row) if not each.is_done)
        self.at = next(waiting, len(self.row))
        self._build_widgets()
        self._compose()
        set_role(self.title, "headline")
        set_role(self.headline, "title")
        set_role(self.told, "body")
        theme.changed.connect(self._restyle)
        self._restyle()
        self.refresh()
        if drawn:
            self._build_figure()

    def _build_widgets(self) -> None:
        self.title, self.headline, self.told = QLabel(), QLabel(), QLabel()
        self.title.setText(tr("One stroke for each part"))
        for label in (self.headline, self.told):
            label.setWordWrap(True)
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("Another part"))
        known = sorted({called.one for some in names().values() for called in some})
        completer = QCompleter(known, self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.name.setCompleter(completer)
        self.name.returnPressed.connect(self.add_named)
        self.like = QPushButton(tr("Parts as in…"))
        menu = QMenu(self)
        for plan in body_plans():
            parts = [part.name for part in plan.figure.parents_first]
            menu.addAction(plan.figure.name, partial(self.offer, parts))
        self.like.setMenu(menu)
        self.back, self.skip = QPushButton(tr("Back")), QPushButton(tr("Skip"))
        self.take, self.leave = QPushButton(tr("Make the figure")), QPushButton(tr("Cancel"))
        self.back.clicked.connect(lambda _=False: self.go_back())
        self.skip.clicked.connect(lambda _=False: self.skip_part())
        show_as_next(self.take)
        self.take.clicked.connect(lambda _=False: self._accept_figure())
        self.leave.clicked.connect(self.reject)
        for button in (self.like, self.back, self.skip, self.take, self.leave):
            button.setAutoDefault(False)
        self._chips = QWidget()
        self._chip_row = FlowLayout(self._chips)

    def _compose(self) -> None:
        self._under: dict[Sight, QLabel] = {}
        add, board, foot = QHBoxLayout(), QHBoxLayout(), QHBoxLayout()
        label = QLabel(tr("another part"))
        label.setBuddy(self.name)
        add.addWidget(self.title)
        add.addStretch(1)
        for widget in (label, self.name, self.like):
            add.addWidget(widget)
        for view, picture in self.pictures.items():
            column = QVBoxLayout()
            column.addWidget(picture, 1)
            self._under[view] = under = QLabel(tr(VIEW_WORDS[view]))
            column.addWidget(under, 0, Qt.AlignmentFlag.AlignHCenter)
            board.addLayout(column, 1)
        foot.addWidget(self.told, 1)
        for button in (self.leave, self.back, self.skip, self.take):
            foot.addWidget(button)
        whole = QVBoxLayout(self)
        whole.addLayout(add)
        whole.addWidget(self._chips)
        whole.addWidget(self.headline)
        whole.setSpacing(self.theme.px(6))
        whole.addLayout(board, 1)
        whole.addLayout(foot)

    def _restyle(self) -> None:
        px = self.theme.px
        self.name.setFixedWidth(px(150))
        self.set_size(self.theme, 1180, 740)
        self._fill_chips()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._focus_current()

    # The row of parts

    def _plan_stroke(self, name: str) -> PlannedStroke:
        others = [each.name for each in getattr(self, "row", [])]
        return PlannedStroke(name, guide_for(name, others, self.pictures).view)

    @property
    def current(self) -> PlannedStroke | None:
        """The stroke to draw now."""
        return self.row[self.at] if self.at < len(self.row) else None

    def add_named(self) -> None:
        """Add the typed part, or several separated by commas, as the next to draw."""
        words = [word.strip() for word in self.name.text().split(",") if word.strip()]
        self.name.clear()
        for word in words:
            entries = read_notes(f"x 1\n{word}").entries
            name = entries[-1].name if entries else word
            self.row.append(self._plan_stroke(name[:1].upper() + name[1:]))
        self._go_on()

    def offer(self, names_: Sequence[str]) -> None:
        """Add parts of these names that are not in the row yet."""
        known = {normalise_word(each.name) for each in self.row}
        self.row += [
            self._plan_stroke(name) for name in names_ if normalise_word(name) not in known
        ]
        self._go_on()

    def take_stroke(self, view: Sight, points: Sequence[Spot]) -> None:
        """Accept a line drawn along the current part."""
        current = self.current
        if current is None:
            self.told.setText(tr("Name the part first, then draw along it."))
            self.name.setFocus()
            return
        kept = [tuple(point) for point in points][:: max(1, len(points) // 150)]
        kept.append(tuple(points[-1]))
        stroke = PartStroke.model_validate(
            {"view": view, "name": current.name, "points": list(dict.fromkeys(kept))}
        )
        current.strokes = [each for each in current.strokes if each.view != view]
        current.strokes.append(stroke)
        current.is_skipped = False
        self._go_on()
        self._build_figure()

    def skip_part(self) -> None:
        """Skip the current part."""
        if self.current is not None:
            self.current.is_skipped = not self.current.strokes
            self._go_on()

    def go_back(self) -> None:
        """Draw the last part again."""
        drawn = [n for n, each in enumerate(self.row[: self.at]) if each.is_done]
        self.go_to(drawn[-1] if drawn else 0)

    def go_to(self, n: int) -> None:
        """Make a part the current one."""
        self.at = n
        self.refresh()
        self._focus_current()

    def _go_on(self) -> None:
        waiting = [n for n, each in enumerate(self.row) if not each.is_done]
        later = [n for n in waiting if n >= self.at]
        self.at = (later or waiting or [len(self.row)])[0]
        self.refresh()
        self._focus_current()

    def _focus_current(self) -> None:
        current = self.current
        if current is None:
            (self.take if self.strokes else self.name).setFocus()
        elif current.view in self.pictures:
            self.pictures[current.view].setFocus()

    # Showing

    def refresh(self) -> None:
        """Show which parts are drawn, which is next, and how to draw it."""
        current = self.current
        self._fill_chips()
        if current is None:
            done = any(each.strokes for each in self.row)
            self.headline.setText(
                tr("All are drawn: make the figure, or name another part.")
                if done
                else tr("Name a part, such as “body”, and draw along it.")
            )
        else:
            others = [each.name for each in self.row]
            guide = guide_for(current.name, others, self.pictures)
            said = self.studio.say(guide.how)
            if current.is_second:
                said = tr("Once more, from the other side. {how}", how=said)
            elif guide.is_pair:
                said = tr("{how} One of the two is enough.", how=said)
            self.headline.setText(said)
        for view, picture in self.pictures.items():
            picture.is_wanted = current is not None and current.view == view
            picture.show_lines(
                self._lines_in_view(view),
                self._outlines_in_view(view),
                current.name if current else "",
            )
        self.take.setEnabled(any(each.strokes for each in self.row))
        self.skip.setEnabled(current is not None)
        self.back.setEnabled(any(each.is_done for each in self.row))
        self._describe_result()

    def _fill_chips(self) -> None:
        self._chip_row.clear()
        for n, each in enumerate(self.row):
            text = each.name if not each.is_second else tr("{name}, again", name=each.name)
            chip = QPushButton(f"{text} ✓" if each.strokes else text)
            chip.setAutoDefault(False)
            chip.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            if n == self.at or each.strokes:
                set_role(chip, "stroke", "current" if n == self.at else "drawn")
            else:
                set_role(chip, "stroke", "open")
            chip.clicked.connect(lambda _=False, n=n: self.go_to(n))
            self._chip_row.addWidget(chip)
        self._chips.setVisible(bool(self.row))

    @property
    def strokes(self) -> list[PartStroke]:
        """All strokes drawn so far."""
        return [stroke for each in self.row for stroke in each.strokes]

    def _lines_in_view(self, view: Sight) -> Mapping[str, list[Sequence[Spot]]]:
        found: dict[str, list[Sequence[Spot]]] = {}
        for stroke in self.strokes:
            if stroke.view == view:
                found.setdefault(stroke.name, []).append(stroke.points)
        return found

    def _outlines_in_view(self, view: Sight) -> Mapping[str, list[Sequence[Spot]]]:
        """Return the outlines found along strokes, in pixels of the file."""
        if self.found is None:
            return {}
        framing = self.found.survey.framing(view)
        drawn = {stroke.name for stroke in self.strokes}
        found: dict[str, list[Sequence[Spot]]] = {}
        for trace in self.found.survey.traces:
            name = self.found.figure.by_id[trace.part].name
            if framing is not None and trace.view == view and name in drawn:
                is_limb = self.found.figure.by_id[trace.part].shape.kind in ("limb", "rope")
                run = outline_of_trace(trace, is_limb).tolist()
                places = [framing.original(*framing.to_px(u, v)) for u, v in run]
                found.setdefault(name, []).append(places)
        return found

    def _describe_result(self) -> None:
        """Describe the result of the last stroke."""
        if not self._background.is_idle:
            self.told.setText(tr("Reading the widths…"))
            return
        last = next((s for s in reversed(self.strokes)), None)
        if self.found is None or last is None:
            self.told.setText(tr("S skips a part, Backspace draws the last one again."))
            return
        part = next((p for p in self.found.figure.parts if p.name == last.name), None)
        if part is None:
            return
        say, units = self.studio.say, self.studio.units
        sizes = " × ".join(show_length(mm, units) for mm in part.shape.measures().values())
        words = [f"{part.name}: {sizes}"]
        if part.pair:
            words.append(tr("a pair"))
        if part.parent:
            on = self.found.figure.by_id[part.parent].name
            words.append(tr("on the {part:lower}", part=on))
        taken = (say(taken_as(part, m)) for id, m in self.found.unseen if id == part.id)
        words += [told.removeprefix(f"{part.name}: ") for told in taken]
        self.told.setText(", ".join(words))

    # Reading

    def _build_figure(self) -> None:
        """Build the figure from all strokes so far; only the newest request counts."""
        if not self._background.is_idle:
            self._is_stale = True
            return
        self._is_stale = False
        pictures, strokes, bench = dict(self._stroked), self.strokes, self.studio.bench
        height, name = self.height_mm, self._figure_name()
        plans = [plan.figure for plan in body_plans()]
        if strokes:
            self._background.do(
                lambda: draw_figure(pictures, strokes, height, bench, plans, name),
                self._take_found,
                self._no_figure,
            )
        self._describe_result()

    def _figure_name(self) -> str:
        figure = self.studio.figure
        return figure.name if figure is not None else tr("New figure")

    def _take_found(self, found: DrawnFigure) -> None:
        self.found = found
        side = found.survey.framing("side")
        if side is not None and "side" in self._under:
            to = (
                tr("From the side, looking to the right")
                if side.flipped
                else tr("From the side, looking to the left")
            )
            self._under["side"].setText(to)
        if self._is_stale:
            self._build_figure()
        elif self.current is None:
            self._ask_second_looks()
        self.refresh()

    def _ask_second_looks(self) -> None:
        """After the last part, ask for a second view of large parts that one picture does not show fully."""
        assert self.found is not None
        asked = {each.name for each in self.row if each.is_second}
        for name, view in second_looks(self.found, self.pictures):
            if name not in asked and any(each.name == name for each in self.row):
                self.row.append(PlannedStroke(name, view, is_second=True))
        self._go_on()

    def _no_figure(self, error: Exception) -> None:
        if self._is_stale:
            self._build_figure()
            return
        self.refresh()
        if isinstance(error, ValueError):
            self.told.setText(error_words(error, self.studio.words))

    def _accept_figure(self) -> None:
        """Accept the figure once the last stroke is read."""
        if not self._background.is_idle:
            self.take.setEnabled(False)
            self.told.setText(tr("Reading the widths…"))
            self._background.do(lambda: None, lambda _: self._accept_figure(), lambda _: None)
            return
        if self.found is not None:
            self.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_S:
            self.skip_part()
        elif event.key() == Qt.Key.Key_Backspace:
            self.go_back()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            # In a field Return ends what is typed there, and never makes the figure by the way.
            event.accept()
            button = self.focusWidget()
            if isinstance(button, QPushButton):
                button.click()
        else:
            super().keyPressEvent(event)

    def done(self, result: int) -> None:
        self._background.close()
        super().done(result)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self._background.close()
        super().closeEvent(event)

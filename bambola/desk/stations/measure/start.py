"""The page to begin a figure: from a body plan with its proportions, or from pictures."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure, Sight
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.plan.reading.starting import start_from
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.relief import Camera
from bambola.core.resize import ResizeError
from bambola.core.solids import Placement, place
from bambola.demo import PICTURES
from bambola.desk.kit.buttons import show_as_next
from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.kit.flow import discard, scroll_area
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme, set_role, set_spacing
from bambola.desk.running.background import Background, BackgroundJob
from bambola.desk.running.timers import at_most_every, start_unless_running
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.language import tr
from bambola.shipped import body_plans, default_bench

LOOK = Camera(turn=28.0, tip=12.0)
"""From where the plans are seen."""

_LEAST = 118
"""So high (px before scaling) is a row at least: figures that are smaller are not told apart."""


def picture_of(plan: BodyPlan) -> Path:
    """Return the shipped picture of a body plan."""
    return PICTURES / "plans" / f"{plan.figure.id}.png"


def step_for(whole: Placement) -> float:
    """Return millimetres a pixel for a figure on the shelf."""
    return _largest_extent(whole) / 230


class PlanShelf(PaintedList):
    """The body plans on a shelf, one of them selected."""

    def __init__(self, theme: Theme, darkroom: RenderQueue) -> None:
        super().__init__(theme, tr("Body plans"), ListModel(self._plan_text))
        self.darkroom = darkroom
        self._placed: dict[int, Placement] = {}
        self.prints: dict[int, RenderResult] = {}
        self._shipped: dict[int, QPixmap] = {}
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self.redraw)

    @property
    def plans(self) -> tuple[BodyPlan, ...]:
        """The body plans, loaded on first use."""
        return body_plans()

    @property
    def pictured(self) -> dict[int, QPixmap]:
        """The pictures: rendered ones, and shipped ones for the rest."""
        return self._shipped | {i: made.pixmap for i, made in self.prints.items()}

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(640), self.theme.px(470))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(270), self.theme.px(_LEAST) * self._line_count())

    def resizeEvent(self, event: object) -> None:
        self.setMinimumHeight(self.theme.px(_LEAST) * self._line_count())

    def _column_count(self) -> int:
        return max(2, min(4, self.width() // self.theme.px(155)))

    def _line_count(self) -> int:
        return -(-len(self.plans) // self._column_count())

    def box(self, row: int) -> QRectF:
        columns = self._column_count()
        wide, high = self.width() / columns, self.height() / self._line_count()
        return QRectF((row % columns) * wide, (row // columns) * high, wide, high)

    def next_row(self, row: int, right: int, down: int) -> int:
        return row + right + down * self._column_count()

    def show_plan(self, i: int, figure: Figure) -> None:
        """Show a plan with its adjustments."""
        self._placed[i] = place(figure)
        self._request_picture(i)

    def showEvent(self, event: object) -> None:
        if not self.rows.rowCount():
            self.rows.set_keys([plan.figure.name for plan in self.plans])
            self.show_row(0)
        for i, plan in enumerate(self.plans):
            if i in self._shipped or i in self._placed:
                continue
            # What is shipped is of the usual wools; in others, or missing, it is cast.
            picture = QPixmap(str(picture_of(plan)))
            if picture.isNull() or not self._has_usual_wools():
                self._placed[i] = place(plan.figure)
                self._request_picture(i)
            else:
                self._shipped[i] = picture

    def _has_usual_wools(self) -> bool:
        now = self.darkroom.colours
        return all(now.get(wool.id) == wool.colour for wool in default_bench().wools)

    def _request_picture(self, i: int) -> None:
        whole = self._placed[i]
        self.darkroom.request(f"plan-{i}", RenderRequest(whole, LOOK, step_for(whole), 2))

    def _developed(self, name: str, made: RenderResult) -> None:
        if name.startswith("plan-"):
            self.prints[int(name[5:])] = made
            self.redraw()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self.cloth)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        d, px = self.theme.dyes, self.theme.px
        for i, plan in enumerate(self.plans):
            box = self.box(i).adjusted(px(6), px(6), -px(6), -px(6))
            if i == self.current_row:
                paint_ring(painter, box, self.theme, self.hasFocus())
            shelf = box.bottom() - px(30)
            painter.setPen(QPen(d.edge.darker(108), px(1.6)))
            painter.drawLine(
                QPointF(box.left() + px(14), shelf), QPointF(box.right() - px(14), shelf)
            )
            self._paint_figure(
                painter,
                i,
                QRectF(box.left(), box.top() + px(8), box.width(), shelf - box.top() - px(8)),
            )
            painter.setFont(self.theme.text(15, bold=i == self.current_row))
            painter.setPen(d.ink)
            words = QRectF(box.left(), shelf, box.width(), px(30))
            painter.drawText(words, Qt.AlignmentFlag.AlignCenter, plan.figure.name)

    def _paint_figure(self, painter: QPainter, i: int, box: QRectF) -> None:
        pixmap = self.pictured.get(i)
        if pixmap is None:
            return
        size = pixmap.size()
        share = min(box.width() * 0.86 / size.width(), box.height() / size.height())
        wide, high = size.width() * share, size.height() * share
        painter.drawPixmap(
            QRectF(box.center().x() - wide / 2, box.bottom() - high + 2, wide, high),
            pixmap,
            QRectF(pixmap.rect()),
        )

    def _plan_text(self, name: str) -> str:
        plan = next(plan for plan in self.plans if plan.figure.name == name)
        return f"{name}. {plan.told}"


def _largest_extent(placement: Placement) -> float:
    """Return the larger of a figure's height and breadth on the shelf, mm."""
    import numpy as np

    right, up, _ = LOOK.axes()
    ways = np.stack([-right, right, -up, up])
    left, most, low, high = np.max([c.reaches(ways) for c in placement.copies], axis=0)
    return float(max(left + most, low + high))


_SLIDER_STEPS = 100


class StartPage(QWidget):
    """Choose a plan, drag its proportions, give its height, and open it."""

    started = pyqtSignal(object)
    pictures_chosen = pyqtSignal(object, float)
    notes_asked = pyqtSignal()
    put_away = pyqtSignal()

    def __init__(
        self, studio: EditorSession, theme: Theme, darkroom: RenderQueue, settings: Settings
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.kept = studio, theme, settings
        self.shelf = PlanShelf(theme, darkroom)
        self._shelf_scrolled = scroll_area(self.shelf)
        self.sliders: dict[str, QSlider] = {}
        self._title, self._told = QLabel(), QLabel()
        self._told.setWordWrap(True)
        self._title.setWordWrap(True)
        self.height_ = QLineEdit()
        self.height_.setAccessibleName(tr("Finished height"))
        self.height_.editingFinished.connect(self._height_typed)
        self.start = QPushButton(tr("Put it on the table"))
        show_as_next(self.start)
        self.pictures = QPushButton(tr("From my own pictures…"))
        self.notes = QPushButton(tr("From my notes…"))
        self.back = QPushButton(tr("Back"))
        self.start.clicked.connect(self.begin)
        self.pictures.clicked.connect(self.ask_pictures)
        self.notes.clicked.connect(lambda _=False: self.notes_asked.emit())
        self.back.clicked.connect(self.put_away)
        self._slider_box = QVBoxLayout()
        high = QHBoxLayout()
        self._high = QLabel(tr("finished height"))
        high.addWidget(self._high)
        high.addWidget(self.height_)
        high.addStretch(1)
        right = self._right = QVBoxLayout()
        right.addWidget(self._title)
        right.addWidget(self._told)
        right.addLayout(high)
        sliders = QWidget()
        sliders.setLayout(self._slider_box)
        self._proportions = scroll_area(sliders)
        right.addWidget(self._proportions, 1)
        self._empty = QWidget()
        self._empty.hide()
        right.addWidget(self._empty, 1)
        for button in (self.start, self.notes, self.pictures, self.back):
            right.addWidget(button)
        self._side = QWidget()
        self._side.setLayout(right)
        row = self._row = QHBoxLayout(self)
        row.addWidget(self._shelf_scrolled, 1)
        row.addWidget(self._side)
        self._mm = 0.0
        self._given: Path | None = None
        self._background = Background("start")
        self._job: BackgroundJob | None = None
        self._soon = at_most_every(self, 60, self._adjust_height)
        self.shelf.taken.connect(lambda row, _: self._show_row(row))
        set_role(self._title, "headline")
        set_role(self._told, "body")
        set_role(self.height_, "amount")
        set_spacing(self.theme, self._row, (20, 6, 26, 14))
        set_spacing(self.theme, self._right, gap=8)
        theme.changed.connect(self._restyle)
        self._restyle()

    @property
    def plan(self) -> BodyPlan:
        """The selected body plan."""
        return self.shelf.plans[self.shelf.current_row]

    def showEvent(self, event: object) -> None:
        if not self._mm:
            self._take_plan()

    def _restyle(self) -> None:
        px = self.theme.px
        self._side.setFixedWidth(px(330))
        self.height_.setFixedWidth(px(110))

    def _show_row(self, row: int) -> None:
        box = self.shelf.box(row)
        self._shelf_scrolled.ensureVisible(0, round(box.center().y()), 0, round(box.height() / 2))
        self._take_plan()

    def _take_plan(self) -> None:
        plan = self.plan
        self._offer_beginnings(None)
        self._title.setText(plan.figure.name)
        self._told.setText(plan.told)
        self._mm = place(plan.figure).height
        self.height_.setText(show_length(self._mm, self.studio.units))
        while (item := self._slider_box.takeAt(0)) is not None:
            if widget := item.widget():
                discard(widget)
        self.sliders = {}
        for proportion in plan.proportions:
            label = QLabel(proportion.name)
            slider = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(-_SLIDER_STEPS, _SLIDER_STEPS)
            slider.setAccessibleName(proportion.name)
            slider.valueChanged.connect(lambda _: start_unless_running(self._soon))
            self._slider_box.addWidget(label)
            self._slider_box.addWidget(slider)
            self.sliders[proportion.id] = slider
        self._slider_box.addStretch(1)
        start_unless_running(self._soon)

    def settings(self) -> dict[str, float]:
        """Return the factor of every proportion."""
        found = {}
        for proportion in self.plan.proportions:
            share = self.sliders[proportion.id].value() / _SLIDER_STEPS
            end = proportion.high if share > 0 else proportion.low
            found[proportion.id] = float(end ** abs(share))
        return found

    def _adjust_height(self) -> None:
        at = self.shelf.current_row
        self._request_plan(lambda figure: self.shelf.show_plan(at, figure))

    def _request_plan(self, then: Callable[[Figure], None]) -> None:
        """Request the adjusted plan, or a message if it cannot have that height; the newest request
        counts."""
        if self._job is not None:
            self._job.stop.set()
        plan, mm, settings, bench = self.plan, self._mm, self.settings(), self.studio.bench
        self._job = self._background.do(
            lambda: start_from(plan, mm, settings, bench),
            then,
            lambda error: self.studio.refuse(error) if isinstance(error, ResizeError) else None,
        )

    def close_down(self) -> None:
        """Stop adjusting."""
        self._background.close()

    def _height_typed(self) -> None:
        try:
            mm = parse_length(self.height_.text(), self.studio.units.length)
            if not LEAST_MM <= mm <= 1_000_000:
                raise QuantityError(tr("A height must lie above 0 and up to 1000 m."))
        except QuantityError as error:
            self.studio.refuse(error)
            self.height_.setText(show_length(self._mm, self.studio.units))
            return
        self._mm = mm
        start_unless_running(self._soon)

    def begin(self) -> None:
        """Open the plan, unless the page is left meanwhile."""
        self._soon.stop()
        self._request_plan(lambda figure: self.started.emit(figure) if self.isVisible() else None)

    def begin_anew(self) -> None:
        """Drop an offered picture and show all choices."""
        if self._given is not None:
            self._take_plan()

    def offer_picture(self, path: Path) -> None:
        """Offer to begin with a dropped or opened picture, once its height is given."""
        self._title.setText(tr("A new figure from your picture"))
        self._told.setText(
            tr(
                "{name} will be its front. Type how high the finished figure is, then begin. A picture "
                "of its side can be added afterwards.",
                name=path.name,
            )
        )
        self._offer_beginnings(path)
        self.height_.setFocus()
        self.height_.selectAll()

    def _offer_beginnings(self, path: Path | None) -> None:
        """Show the choice to begin with a picture alone; or with a body plan or pictures."""
        self._given = path
        for widget in (self._proportions, self.start):
            widget.setVisible(path is None)
        self._empty.setVisible(path is not None)
        show_as_next(self.pictures, path is not None)
        self.pictures.setText(
            tr("Begin from this picture") if path else tr("From my own pictures…")
        )

    def ask_pictures(self) -> None:
        """Begin with the offered picture, or ask for pictures: first the front, then the side."""
        if self._given is not None:
            self._height_typed()
            self.pictures_chosen.emit({"front": self._given}, self._mm)
            return
        chosen: dict[Sight, Path] = {}
        for view, words in (
            ("front", tr("The figure from the front")),
            ("side", tr("The figure from its left side")),
        ):
            folder = self.kept.picture_folder
            path = PictureDialog.ask(self, words, folder)
            if path:
                self.kept.picture_folder = str(Path(path).parent)
                chosen[view] = Path(path)  # type: ignore[index]
        if chosen:
            self.pictures_chosen.emit(chosen, self._mm)

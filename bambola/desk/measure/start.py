"""Where a figure begins: a body plan with its proportions, or the maker's own pictures."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from bambola.core.figure import Figure, Sight
from bambola.core.figure.bodyplans import BodyPlan, body_plans
from bambola.core.plan.starting import start_from
from bambola.core.quantities import QuantityError, parse_length, show_length
from bambola.core.relief import Camera
from bambola.core.resize import ResizeError
from bambola.core.solids import Placement, place
from bambola.desk.measure.intake import FILTER
from bambola.desk.pictures import Darkroom, Print, Shot
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme
from bambola.desk.timers import at_most_every, nudge

_LOOK = Camera(turn=28.0, tip=12.0)
_SLIDER_STEPS = 100


class PlanShelf(QWidget):
    """The body plans standing on a shelf; one is in hand."""

    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme, darkroom: Darkroom) -> None:
        super().__init__()
        self.theme, self.darkroom, self.at = theme, darkroom, 0
        self._placed: dict[int, Placement] = {}
        self.prints: dict[int, Print] = {}
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Body plans")
        darkroom.developed.connect(self._developed)
        theme.changed.connect(self.update)

    @property
    def plans(self) -> tuple[BodyPlan, ...]:
        """The body plans; read when they are first looked at."""
        return body_plans()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(640), self.theme.px(470))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(320), self.theme.px(260))

    def _columns(self) -> int:
        return 3 if self.width() > self.theme.px(420) else 2

    def _box(self, i: int) -> QRectF:
        columns = self._columns()
        rows = -(-len(self.plans) // columns)
        wide, high = self.width() / columns, self.height() / rows
        return QRectF((i % columns) * wide, (i // columns) * high, wide, high)

    def show_plan(self, i: int, figure: Figure) -> None:
        """Show a plan as it is adjusted."""
        self._placed[i] = place(figure)
        self._wish(i)

    def showEvent(self, event: object) -> None:
        self._describe()
        for i, plan in enumerate(self.plans):
            if i not in self._placed:
                self._placed[i] = place(plan.figure)
                self._wish(i)

    def _wish(self, i: int) -> None:
        whole = self._placed[i]
        self.darkroom.wish(f"plan-{i}", Shot(whole, _LOOK, _extent(whole) / 230, 2))

    def _developed(self, name: str, made: Print) -> None:
        if name.startswith("plan-"):
            self.prints[int(name[5:])] = made
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        d, px = self.theme.dyes, self.theme.px
        for i, plan in enumerate(self.plans):
            box = self._box(i).adjusted(px(6), px(6), -px(6), -px(6))
            if i == self.at:
                painter.setPen(QPen(d.ink if self.hasFocus() else d.madder, px(2)))
                painter.setBrush(d.paper)
                painter.drawRoundedRect(box, px(14), px(14))
            shelf = box.bottom() - px(30)
            painter.setPen(QPen(d.edge.darker(108), px(1.6)))
            painter.drawLine(
                QPointF(box.left() + px(14), shelf), QPointF(box.right() - px(14), shelf)
            )
            self._paint_figure(painter, i, QRectF(box.left(), box.top() + px(8), box.width(),
                                                  shelf - box.top() - px(8)))  # fmt: skip
            painter.setFont(self.theme.text(15, bold=i == self.at))
            painter.setPen(d.ink)
            words = QRectF(box.left(), shelf, box.width(), px(30))
            painter.drawText(words, Qt.AlignmentFlag.AlignCenter, plan.figure.name)

    def _paint_figure(self, painter: QPainter, i: int, box: QRectF) -> None:
        made = self.prints.get(i)
        if made is None:
            return
        size = made.pixmap.size()
        share = min(box.width() * 0.86 / size.width(), box.height() / size.height())
        wide, high = size.width() * share, size.height() * share
        painter.drawPixmap(
            QRectF(box.center().x() - wide / 2, box.bottom() - high + 2, wide, high), made.pixmap,
            QRectF(made.pixmap.rect()),
        )  # fmt: skip

    def choose(self, i: int) -> None:
        """Take a plan in hand."""
        self.at = i % len(self.plans)
        self._describe()
        self.chosen.emit(self.at)
        self.update()

    def _describe(self) -> None:
        plan = self.plans[self.at]
        self.setAccessibleDescription(f"{plan.figure.name}. {plan.told}")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        for i in range(len(self.plans)):
            if self._box(i).contains(event.position()):
                self.choose(i)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        steps = {
            Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -self._columns(),
            Qt.Key.Key_Down: self._columns(),
        }  # fmt: skip
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.choose(self.at + step)

    def focusInEvent(self, event: object) -> None:
        self.update()

    def focusOutEvent(self, event: object) -> None:
        self.update()


def _extent(placement: Placement) -> float:
    """The larger of a figure's height and breadth as the shelf shows it, mm."""
    import numpy as np

    right, up, _ = _LOOK.axes()
    ways = np.stack([-right, right, -up, up])
    left, most, low, high = np.max([c.reaches(ways) for c in placement.copies], axis=0)
    return float(max(left + most, low + high))


class StartPage(QWidget):
    """Choose a plan, pull its proportions, say how high it is, and put it on the table."""

    started = pyqtSignal(object)
    pictures_chosen = pyqtSignal(object, float)
    put_away = pyqtSignal()

    def __init__(self, studio: Studio, theme: Theme, darkroom: Darkroom) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self.shelf = PlanShelf(theme, darkroom)
        self.sliders: dict[str, QSlider] = {}
        self._title, self._told = QLabel(), QLabel()
        self._told.setWordWrap(True)
        self.height_ = QLineEdit()
        self.height_.setAccessibleName("Finished height")
        self.height_.editingFinished.connect(self._height_typed)
        self.start = QPushButton("Put it on the table")
        self.pictures = QPushButton("From my own pictures…")
        self.back = QPushButton("Back")
        self.start.clicked.connect(self.begin)
        self.pictures.clicked.connect(self.ask_pictures)
        self.back.clicked.connect(self.put_away)
        self._slider_box = QVBoxLayout()
        high = QHBoxLayout()
        self._high = QLabel("finished height")
        high.addWidget(self._high)
        high.addWidget(self.height_)
        high.addStretch(1)
        right = self._right = QVBoxLayout()
        right.addWidget(self._title)
        right.addWidget(self._told)
        right.addLayout(high)
        sliders = QWidget()
        sliders.setLayout(self._slider_box)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(sliders)
        right.addWidget(scroll, 1)
        for button in (self.start, self.pictures, self.back):
            right.addWidget(button)
        self._side = QWidget()
        self._side.setLayout(right)
        row = self._row = QHBoxLayout(self)
        row.addWidget(self.shelf, 1)
        row.addWidget(self._side)
        self._mm = 0.0
        self._folder = Path.home()
        self._soon = at_most_every(self, 60, self._adjust)
        self.shelf.chosen.connect(lambda _: self._take_plan())
        theme.changed.connect(self._restyle)
        self._restyle()

    @property
    def plan(self) -> BodyPlan:
        """The body plan in hand."""
        return self.shelf.plans[self.shelf.at]

    def showEvent(self, event: object) -> None:
        if not self._mm:
            self._take_plan()

    def _restyle(self) -> None:
        px = self.theme.px
        self._row.setContentsMargins(px(20), px(6), px(26), px(14))
        self._side.setFixedWidth(px(330))
        self._title.setFont(self.theme.title(27))
        self._told.setFont(self.theme.text(15))
        self.height_.setFont(self.theme.text(17, bold=True))
        self.height_.setFixedWidth(px(110))
        self._right.setSpacing(px(8))

    def _take_plan(self) -> None:
        plan = self.plan
        self._title.setText(plan.figure.name)
        self._told.setText(plan.told)
        self._mm = place(plan.figure).height
        self.height_.setText(show_length(self._mm, self.studio.units))
        while (item := self._slider_box.takeAt(0)) is not None:
            if widget := item.widget():
                widget.setParent(None)
                widget.deleteLater()
        self.sliders = {}
        for proportion in plan.proportions:
            label = QLabel(proportion.name)
            slider = QSlider(Qt.Orientation.Horizontal)
            slider.setRange(-_SLIDER_STEPS, _SLIDER_STEPS)
            slider.setAccessibleName(proportion.name)
            slider.valueChanged.connect(lambda _: nudge(self._soon))
            self._slider_box.addWidget(label)
            self._slider_box.addWidget(slider)
            self.sliders[proportion.id] = slider
        self._slider_box.addStretch(1)
        nudge(self._soon)

    def settings(self) -> dict[str, float]:
        """The factor of every proportion as its slider stands."""
        found = {}
        for proportion in self.plan.proportions:
            share = self.sliders[proportion.id].value() / _SLIDER_STEPS
            end = proportion.high if share > 0 else proportion.low
            found[proportion.id] = float(end ** abs(share))
        return found

    def figure(self) -> Figure | None:
        """The plan as it is adjusted, or None (and a word) if it cannot be so high."""
        try:
            return start_from(self.plan, self._mm, self.settings(), self.studio.bench)
        except ResizeError as error:
            self.studio.refused.emit(str(error))
            return None

    def _adjust(self) -> None:
        figure = self.figure()
        if figure is not None:
            self.shelf.show_plan(self.shelf.at, figure)

    def _height_typed(self) -> None:
        try:
            mm = parse_length(self.height_.text(), self.studio.units.length)
            if not 0 < mm <= 1_000_000:
                raise QuantityError("A height must lie above 0 and up to 1000 m.")
        except QuantityError as error:
            self.studio.refused.emit(str(error))
            self.height_.setText(show_length(self._mm, self.studio.units))
            return
        self._mm = mm
        nudge(self._soon)

    def begin(self) -> None:
        """Put the plan on the table."""
        figure = self.figure()
        if figure is not None:
            self.started.emit(figure)

    def ask_pictures(self) -> None:
        """Ask for the pictures: the front first, then the side."""
        chosen: dict[Sight, Path] = {}
        for view, words in (
            ("front", "The figure from the front"),
            ("side", "The figure from its left side"),
        ):
            path, _ = QFileDialog.getOpenFileName(self, words, str(self._folder), FILTER)
            if path:
                self._folder = Path(path).parent
                chosen[view] = Path(path)  # type: ignore[index]
        if chosen:
            self.pictures_chosen.emit(chosen, self._mm)

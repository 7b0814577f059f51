"""Order: every step to read, with what holds it where it is."""

from __future__ import annotations

from html import escape

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListView,
    QScrollArea,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from bambola.core.order import Step
from bambola.core.relief import Camera
from bambola.desk.painters.beads import paint_bead
from bambola.desk.painters.marks import outline_of
from bambola.desk.pictures import Darkroom, Print, Shot
from bambola.desk.studio import Studio
from bambola.desk.theme import Theme
from bambola.desk.timers import once
from bambola.desk.widgets.thread import ThreadStrip, bead_colour

STEP_ROLE = Qt.ItemDataRole.UserRole


class OrderStation(QWidget):
    """The figure, the steps as beads on a hanging thread, and the reasons for the one in hand."""

    def __init__(
        self, studio: Studio, theme: Theme, darkroom: Darkroom, thread: ThreadStrip
    ) -> None:
        super().__init__()
        self.studio, self.theme, self.strip = studio, theme, thread
        self.model = StepModel(studio)
        self.list = QListView()
        self.list.setModel(self.model)
        self.list.setItemDelegate(StepDelegate(studio, theme))
        self.list.setAccessibleName("Steps")
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.figure = StepFigure(studio, theme, darkroom)
        self.reasons = Reasons(studio, theme)
        row = self._row = QHBoxLayout(self)
        row.addWidget(self.figure, 3)
        row.addWidget(self.list, 5)
        row.addWidget(self.reasons, 4)
        selection = self.list.selectionModel()
        assert selection is not None
        # Elsewhere the list only follows; it must not take another part in hand.
        selection.currentChanged.connect(
            lambda now, _: thread.walk_to(now.row(), select=self.isVisible())
        )
        thread.step_changed.connect(self._walked)
        studio.plan_changed.connect(self._plan_changed)
        theme.changed.connect(self._restyle)
        self._restyle()

    def _restyle(self) -> None:
        px = self.theme.px
        self._row.setContentsMargins(px(20), px(4), px(24), px(4))
        self._row.setSpacing(px(18))
        self.model.layoutChanged.emit()

    def _plan_changed(self) -> None:
        if self.model.refresh() and self.model.steps:
            self._walked(min(self.strip.at, len(self.model.steps) - 1))

    def _walked(self, index: int) -> None:
        if self.list.currentIndex().row() != index:
            here = self.model.index(index)
            self.list.setCurrentIndex(here)
            self.list.scrollTo(here, QListView.ScrollHint.PositionAtCenter)
        if 0 <= index < len(self.model.steps):
            self.reasons.show_step(self.model.steps[index])


class StepModel(QAbstractListModel):
    """The steps of the plan."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self.studio = studio
        self.steps: tuple[Step, ...] = ()

    def refresh(self) -> bool:
        """Take the plan's steps; whether the order itself changed."""
        new = self.studio.plan.steps if self.studio.plan else ()
        same = [s.key for s in new] == [s.key for s in self.steps]
        if same:
            self.steps = new
            self.dataChanged.emit(self.index(0), self.index(max(0, len(new) - 1)))
            return False
        self.beginResetModel()
        self.steps = new
        self.endResetModel()
        return True

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.steps)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid() or index.row() >= len(self.steps):
            return None
        step = self.steps[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return f"{step.n}  {step.text}"
        return step if role == STEP_ROLE else None


class StepDelegate(QStyledItemDelegate):
    """A bead on the thread and the step beside it, large enough to read from the table."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(200, self.theme.px(44))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        step = index.data(STEP_ROLE)
        if painter is None or not isinstance(step, Step):
            return
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        d, px = self.theme.dyes, self.theme.px
        box = QRectF(option.rect)
        here = bool(option.state & QStyle.StateFlag.State_Selected)
        if here:
            painter.setPen(
                QPen(d.madder if option.state & QStyle.StateFlag.State_HasFocus else d.edge, 1.4)
            )
            painter.setBrush(d.paper)
            painter.drawRoundedRect(box.adjusted(px(44), 2, -2, -2), px(8), px(8))
        x = box.left() + px(24)
        painter.setPen(QPen(d.madder, px(2)))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
        paint_bead(painter, QPointF(x, box.center().y()), px(12 if here else 9), step,
                   bead_colour(step, self.studio, self.theme), self.theme)  # fmt: skip
        self._words(painter, box.adjusted(px(54), 0, -px(12), 0), step, here)
        painter.restore()

    def _words(self, painter: QPainter, box: QRectF, step: Step, here: bool) -> None:
        d, px = self.theme.dyes, self.theme.px
        mid, left = Qt.AlignmentFlag.AlignVCenter, Qt.AlignmentFlag.AlignLeft
        minutes = "overnight" if step.kind == "wait" else f"{step.minutes:.0f} min"
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        wide = painter.fontMetrics().horizontalAdvance(minutes) + px(10)
        painter.drawText(box, mid | Qt.AlignmentFlag.AlignRight, minutes)
        painter.setFont(self.theme.text(14, bold=True))
        painter.setPen(d.madder)
        painter.drawText(
            QRectF(box.left(), box.top(), px(28), box.height()), mid | left, str(step.n)
        )
        painter.setFont(self.theme.text(16, bold=here))
        painter.setPen(d.ink)
        words = box.adjusted(px(30), 0, -wide, 0)
        told = painter.fontMetrics().elidedText(
            step.text, Qt.TextElideMode.ElideRight, int(words.width())
        )
        painter.drawText(words, mid | left, told)


class Reasons(QScrollArea):
    """Why the step in hand is where it is, what to check, and how to keep whole."""

    def __init__(self, studio: Studio, theme: Theme) -> None:
        super().__init__()
        self.studio, self.theme = studio, theme
        self._step: Step | None = None
        self.setWidgetResizable(True)
        self.setAccessibleName("About this step")
        self._words = QLabel()
        self._words.setWordWrap(True)
        self._words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self._words.setTextFormat(Qt.TextFormat.RichText)
        self._words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        page = QWidget()
        self._box = QVBoxLayout(page)
        self._box.addWidget(self._words)
        self.setWidget(page)
        theme.changed.connect(self._tell)
        studio.plan_changed.connect(self._tell)

    def show_step(self, step: Step) -> None:
        """Tell about ``step``."""
        self._step = step
        self._tell()

    def showEvent(self, event: object) -> None:
        self._tell()

    def _tell(self) -> None:
        step = self._step
        if step is None or not self.isVisible():
            return
        d, px = self.theme.dyes, self.theme.px
        self._words.setFont(self.theme.text(15))
        quiet, madder = d.quiet.name(), d.madder.name()
        head = f"font-family:'Fraunces SemiBold'; font-size:{px(20)}px;"
        told = [f'<div style="{head}">{step.n}. {escape(step.text)}</div>']
        facts = [
            f"needle {step.needle}" if step.needle else "",
            "leave it overnight" if step.kind == "wait" else f"{step.minutes:.0f} min",
        ]
        told.append(f"<p style='color:{quiet}'>{' · '.join(f for f in facts if f)}</p>")
        if step.checks:
            told.append(f"<p><b>Check</b><br>{'<br>'.join(step.checks)}</p>")
        if step.why:
            after = ", ".join(map(str, step.after))
            told.append(f"<p><b>Why here</b> <span style='color:{quiet}'>after {after}</span></p>")
            told += [f"<p>{why.text}</p>" for why in step.why]
        else:
            told.append(f"<p style='color:{quiet}'>Nothing has to come before it.</p>")
        told += [f"<p style='color:{madder}'>{care}</p>" for care in step.cautions]
        told += self._changes(quiet)
        self._words.setText("".join(told))

    def _changes(self, quiet: str) -> list[str]:
        """What is made otherwise than at the height the figure was made at."""
        plan = self.studio.plan
        if plan is None or not plan.changes:
            return []
        lines = "<br>".join(escape(change.text) for change in plan.changes)
        return [
            "<hr><p><b>What the new size changes</b></p>",
            f"<p style='color:{quiet}'>{lines}</p>",
        ]


class StepFigure(QWidget):
    """The figure at its new size with the part of the step in hand outlined."""

    def __init__(self, studio: Studio, theme: Theme, darkroom: Darkroom) -> None:
        super().__init__()
        self.studio, self.theme, self.darkroom = studio, theme, darkroom
        self._print: Print | None = None
        self._outline: tuple[str, QPixmap | None] | None = None
        self._settle = once(self, 160)
        self._settle.timeout.connect(self._wish)
        darkroom.developed.connect(self._developed)
        studio.plan_changed.connect(self._settle.start)
        studio.selection_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(240), 300)

    def showEvent(self, event: object) -> None:
        self._settle.start()

    def resizeEvent(self, event: object) -> None:
        self._settle.start()

    def _wish(self) -> None:
        plan = self.studio.plan
        if plan is None or not self.isVisible() or self.height() < 60:
            return
        placement = plan.solids.placement
        step = 1.16 * placement.height / self.height() / self.devicePixelRatioF()
        step = max(step, 1.5 * placement.height / max(60, self.width()) / 2.0)
        self.darkroom.wish("order", Shot(placement, Camera(turn=14, tip=3), step, 2))

    def _developed(self, name: str, made: Print) -> None:
        if name == "order":
            self._print, self._outline = made, None
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._print is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        pixmap = self._print.pixmap
        share = min(self.width() / pixmap.width(), (self.height() - 20) / pixmap.height())
        size = pixmap.width() * share, pixmap.height() * share
        box = QRectF((self.width() - size[0]) / 2, (self.height() - size[1]) / 2, *size)
        painter.drawPixmap(box, pixmap, QRectF(pixmap.rect()))
        part = self.studio.selected
        if part is None:
            return
        if self._outline is None or self._outline[0] != part:
            self._outline = (part, outline_of(self._print.picture, part, self.theme.dyes.madder, 2))
        line = self._outline[1]
        if line is not None:
            painter.drawPixmap(box, line, QRectF(line.rect()))

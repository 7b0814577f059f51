"""The current portion, of all that are to be weighed out."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPen

from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import Weighing, weighings
from bambola.core.quantities import Units, show_hand, show_mass
from bambola.core.wool import Portion
from bambola.core.wool.amounts import is_pinch, pinch_mm
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.painters.wool import paint_heap
from bambola.desk.kit.theme import Theme
from bambola.desk.session.bench_desk import BenchDesk
from bambola.desk.session.studio import EditorSession
from bambola.language import tr
from bambola.store.bench_book import Weighed


class WoolHand(QObject):
    """The portions of the open plan, the current one, and which are done."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession, desk: BenchDesk) -> None:
        super().__init__()
        self.studio, self.desk = studio, desk
        self._plan: Plan | None = None
        self._every: tuple[Weighing, ...] = ()
        self._done: dict[str, Weighed] | None = None
        studio.plan_changed.connect(self.changed)
        studio.selection.part_changed.connect(self._part_selected)
        studio.selection.portion_changed.connect(self.changed)
        desk.changed.connect(self._forget_done)

    def _forget_done(self) -> None:
        self._done = None
        self.changed.emit()

    @property
    def portions(self) -> tuple[Weighing, ...]:
        """All portions, colour by colour."""
        plan = self.studio.plan
        if plan is not self._plan:
            self._plan, self._every = plan, weighings(plan) if plan else ()
        return self._every

    @property
    def done(self) -> dict[str, Weighed]:
        """The weighed portions."""
        if self._done is None:
            self._done = self.desk.weighed
        return self._done

    @property
    def current(self) -> Weighing | None:
        """The current portion: the chosen one, or the first not yet weighed."""
        every = self.portions
        chosen = next((w for w in every if w.key == self.studio.selection.portion), None)
        return chosen or next(
            (w for w in every if w.key not in self.done), every[0] if every else None
        )

    @property
    def current_index(self) -> int:
        """The index of the current portion; 0 if there is none."""
        now = self.current
        return self.portions.index(now) if now else 0

    @property
    def twin_g(self) -> float | None:
        """The weight of the first of the pair, if the current portion is the second."""
        now = self.current
        twin = self.done.get(now.twin) if now and now.twin else None
        return twin.grams if twin else None

    def select_portion(self, key: str) -> None:
        """Make a portion the current one, and select its part."""
        if any(w.key == key for w in self.portions):
            self.studio.selection.select_portion(key)
            now = self.current
            if now is not None:
                self.studio.selection.select_part(now.part)

    def step(self, by: int) -> None:
        """Go to the next portion or the one before."""
        if self.portions:
            self.select_portion(
                self.portions[max(0, min(len(self.portions) - 1, self.current_index + by))].key
            )

    def next_undone(self) -> bool:
        """Go to the next portion that is not weighed yet; return False if all are."""
        every, at = self.portions, self.current_index
        for w in (*every[at:], *every[:at]):
            if w.key not in self.done:
                self.select_portion(w.key)
                return True
        self.changed.emit()
        return False

    def _part_selected(self) -> None:
        now = self.current
        if now is None or now.part == self.studio.selection.part:
            return
        mine = [w for w in self.portions if w.part == self.studio.selection.part]
        first = next((w for w in mine if w.key not in self.done), mine[0] if mine else None)
        if first is not None:
            self.studio.selection.select_portion(first.key)


def in_few_signs(portion: Portion, grams: float, units: Units) -> str:
    """Return the amount as short as possible: a weight; a lump and the number of parts to tear it into; or
    the size of a pinch."""
    tear = portion.tear
    if tear is None:
        return show_mass(grams, units)
    if is_pinch(portion):
        return tr("{across} pinch", across=pinch_across(portion, units))
    return f"{show_mass(tear.weigh_g, units)} ÷ {tear.parts}"


def pinch_across(portion: Portion, units: Units) -> str:
    """Return the diameter of a pinch."""
    return show_hand(pinch_mm(portion.take_g), units)


class PortionQueue:
    """The layout and painting of the queue."""

    def __init__(self, studio: EditorSession, theme: Theme, hand: WoolHand) -> None:
        self.studio, self.theme, self.hand = studio, theme, hand

    def cells(self, box: QRectF) -> list[tuple[int, QRectF]]:
        """Return the visible portions and their places, the current one a third along."""
        every, px = self.hand.portions, self.theme.px
        each = px(86)
        fit = max(1, int(box.width() // each))
        first = max(0, min(self.hand.current_index - fit // 3, len(every) - fit))
        left = box.left() + (box.width() - min(fit, len(every)) * each) / 2
        return [
            (i, QRectF(left + (i - first) * each, box.top(), each, box.height()))
            for i in range(first, min(first + fit, len(every)))
        ]

    def paint(self, painter: QPainter, box: QRectF, has_focus: bool) -> None:
        """Paint each portion as wool, with its name and its weight or target."""
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        painter.setPen(QPen(d.edge, 1))
        painter.drawLine(QPointF(box.left(), box.top()), QPointF(box.right(), box.top()))
        for i, cell in self.cells(box):
            w = self.hand.portions[i]
            done = self.hand.done.get(w.key)
            here = i == self.hand.current_index
            if here:
                ring = cell.adjusted(px(3), px(5), -px(3), 0)
                paint_ring(painter, ring, self.theme, has_focus)
            side = px(30)
            bead = QRectF(cell.center().x() - side / 2, cell.top() + px(9), side, side)
            painter.setOpacity(0.45 if done and not here else 1.0)
            paint_heap(
                painter, bead, self.studio.bench.wool_by_id[w.portion.wool].colour, self.theme
            )
            painter.setOpacity(1.0)
            painter.setFont(self.theme.text(12, bold=here))
            painter.setPen(d.ink if here else d.quiet)
            name = w.part_name + (f" {w.copy + 1}" if w.copies > 1 else "")
            line = QRectF(cell.left() + px(5), cell.top() + px(42), cell.width() - px(10), px(17))
            painter.drawText(
                line,
                Qt.AlignmentFlag.AlignCenter,
                painter.fontMetrics().elidedText(
                    name, Qt.TextElideMode.ElideRight, int(line.width())
                ),
            )
            painter.setFont(self.theme.text(13, bold=True))
            painter.setPen(d.lichen if done else d.madder)
            told = (
                f"✓ {show_mass(done.grams, units)}"
                if done
                else in_few_signs(w.portion, w.least_g, units)
            )
            painter.drawText(line.translated(0, px(18)), Qt.AlignmentFlag.AlignCenter, told)

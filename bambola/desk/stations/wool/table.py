"""The table as the maker will lay it: every portion at its loose size beside the finished part."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PyQt6.QtWidgets import QScrollArea

from bambola.core.plan import PartPlan, Plan
from bambola.core.plan.counter.weighing import Weighing, blanks_of
from bambola.core.quantities import show_length, show_mass
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.core.wool import Portion, portion_name
from bambola.core.wool.amounts import is_pinch
from bambola.desk.kit.lists import ListModel, PaintedList
from bambola.desk.kit.painted import paint_ring
from bambola.desk.kit.painters.wool import paint_arrow, paint_bundle, paint_heap
from bambola.desk.kit.pictures import RenderQueue, RenderRequest, RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool.hand import WoolHand, in_few_signs, pinch_across
from bambola.desk.stations.wool.laying import (
    PartThings,
    PlacedPortion,
    PortionLayout,
    Room,
    TableThing,
    fitting_scale,
    lay_out,
    path_in,
    seen_size,
    setting_of,
    thing_at,
)
from bambola.language import tr

LEAST_SCALE = 0.22
COMFORTABLE = 0.2
"""The longest bundle takes at least so much of the width; then the table is scrolled instead."""
_SHOT = "wool:"


class TableView(QScrollArea):
    """The cloth in a scroll area."""

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        hand: WoolHand,
        true_size: TrueSize,
    ) -> None:
        super().__init__()
        self.setAccessibleName(tr("Wool on the table"))
        self.cloth = Cloth(studio, theme, darkroom, hand, true_size)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.setWidget(self.cloth)
        self.setFocusProxy(self.cloth)
        hand.changed.connect(self._scroll_to_current)

    def set_true_size(self, true_size: bool) -> None:
        """Show it at 1:1, or as large as the room allows."""
        self.cloth.at_true_size = true_size
        self.cloth.relay()
        # Once the cloth has its new size, what is in hand is brought into sight.
        QTimer.singleShot(0, self._scroll_to_current)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        port = self.viewport()
        assert port is not None
        self.cloth.room_px = (port.width(), port.height())
        self.cloth.relay()

    def _scroll_to_current(self) -> None:
        box = self.cloth.box_in_hand() if self.isVisible() else None
        if box is not None:
            middle = box.center().toPoint()
            self.ensureVisible(
                middle.x(), middle.y(), round(box.width() / 2), round(box.height() / 2)
            )


class Cloth(PaintedList):
    """Bundles, blanks and heaps beside the parts they become, at one scale."""

    relaid = pyqtSignal()

    def __init__(
        self,
        studio: EditorSession,
        theme: Theme,
        darkroom: RenderQueue,
        hand: WoolHand,
        true_size: TrueSize,
    ) -> None:
        super().__init__(theme, tr("Wool on the table"), ListModel(self._describe_row))
        self.studio, self.darkroom, self.hand = studio, darkroom, hand
        self.true_size, self.at_true_size = true_size, False
        self.room_px = (800, 500)
        self.laid: tuple[PortionLayout, ...] = ()
        self.scale = 1.0
        self._plan: Plan | None = None
        self._settings: tuple[PartThings, ...] = ()
        self._alone: dict[str, Placement] = {}
        self._prints: dict[str, RenderResult] = {}
        darkroom.developed.connect(self._developed)
        hand.changed.connect(self.relay)
        studio.units_changed.connect(self.redraw)
        self.taken.connect(self._on_row_chosen)
        true_size.changed.connect(self.relay)
        theme.changed.connect(self.relay)

    # Laying

    def showEvent(self, event: object) -> None:
        self.relay()

    def relay(self) -> None:
        """Lay everything out again, if visible."""
        plan = self.studio.plan
        if plan is None or not self.isVisible():
            return
        if plan is not self._plan:
            self._plan = plan
            self._set_places(plan)
        room, (wide, tall) = self._make_room(), self.room_px
        true = self.true_size.px_per_mm(self)
        longest = max((t.size[0] for s in self._settings for t in s.things), default=1.0)
        least = min(true, max(LEAST_SCALE, COMFORTABLE * wide / longest))
        self.scale = (
            true
            if self.at_true_size
            else fitting_scale(self._settings, wide, tall, room, least, max(true, least))
        )
        widest = max((max(t.size[0] for t in s.things) for s in self._settings), default=0)
        need = max(wide, widest * self.scale * 1.6) if self.at_true_size else wide
        self.laid, high = lay_out(self._settings, need, self.scale, room)
        self.setMinimumSize(QSize(round(need) if need > wide else 0, round(high)))
        self._request_pictures()
        self.rows.set_keys([one.key for one in self._placed_portions()])
        self.show_row(self._row_in_hand())
        self.relaid.emit()

    def _make_room(self) -> Room:
        px = self.theme.px
        return Room(px(9), px(62), px(26), px(42), px(170))

    def _set_places(self, plan: Plan) -> None:
        blanks = blanks_of(plan, self.studio.bench)
        self._alone, self._prints, settings = {}, {}, []
        placement = plan.solids.placement
        for part in plan.parts:
            copies = placement.copies_of(part.id)
            if not copies:
                continue
            # A part lies by itself, upright in its own axes.
            alone = replace(
                placement, copies=(replace(copies[0], matrix=np.eye(4)),), fittings=(), nodes={}
            )
            self._alone[part.id] = alone
            settings.append(setting_of(part, blanks.get(part.id), seen_size(alone)))
        self._settings = tuple(settings)

    def _request_pictures(self) -> None:
        ratio = self.devicePixelRatioF()
        step = 1 / (self.scale * ratio)
        for part, placement in self._alone.items():
            made = self._prints.get(part)
            if made is None or abs(made.shot.step / step - 1) > 0.25:
                self.darkroom.request(_SHOT + part, RenderRequest(placement, Camera(), step, 2))

    def _developed(self, name: str, made: RenderResult) -> None:
        part = name.removeprefix(_SHOT)
        if name.startswith(_SHOT) and self._alone.get(part) is made.shot.placement:
            self._prints[part] = made
            self.redraw()

    def box_in_hand(self) -> QRectF | None:
        """Return the place of the selected part."""
        now = self.hand.current
        return next((p.box for p in self.laid if now and p.setting.part == now.part), None)

    # What is in hand

    def _placed_portions(self) -> list[PlacedPortion]:
        """Return the portions in the order of the layout."""
        return [
            PlacedPortion(place.setting.part, thing.portion, box)
            for place in self.laid
            for thing, box in zip(place.setting.things, place.boxes, strict=True)
            if thing.portion is not None
        ]

    def _portion_of(self, lying: PlacedPortion) -> Portion:
        # Of the plan that is laid, which may be of another figure than the one on the table.
        assert self._plan is not None
        return self._plan.part(lying.part).heaps[lying.index]

    def _row_in_hand(self) -> int:
        now = self.hand.current
        rows = enumerate(self._placed_portions())
        return next(
            (
                row
                for row, at in rows
                if now and at.part == now.part and self._portion_of(at) == now.portion
            ),
            -1,
        )

    def _find_weighing(self, key: str) -> Weighing | None:
        lying = next((one for one in self._placed_portions() if one.key == key), None)
        wanted = self._portion_of(lying) if lying else None
        return next(
            (
                w
                for w in self.hand.portions
                if lying and w.part == lying.part and w.portion == wanted
            ),
            None,
        )

    def _describe_row(self, key: str) -> str:
        one = self._find_weighing(key)
        if one is None:
            return ""
        name = self.studio.bench.wool_by_id[one.portion.wool].name
        return tr(
            "{title}, {name}: take {least}",
            title=self.studio.say(one.title),
            name=name,
            least=show_mass(one.least_g, self.studio.units),
        )

    def _on_row_chosen(self, _: int, key: str) -> None:
        one = self._find_weighing(key)
        if one is not None:
            self.hand.select_portion(one.key)

    def box(self, row: int) -> QRectF:
        lying = self._placed_portions()
        return lying[row].box if row < len(lying) else QRectF()

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        plan = self.studio.plan
        if plan is None or self._plan is not plan:
            return
        painter = QPainter(self.cloth)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for place in self.laid:
            self._paint_place(painter, place, plan.part(place.setting.part))

    def _paint_place(self, painter: QPainter, place: PortionLayout, part: PartPlan) -> None:
        now = self.hand.current
        here = now is not None and now.part == part.id
        if here:
            paint_ring(painter, place.box.adjusted(1, 1, -1, -1), self.theme, self.hasFocus())
        self._paint_head(painter, place.box, part)
        for thing, box in zip(place.setting.things, place.boxes, strict=True):
            if thing.portion is None:
                self._paint_part(painter, place, box, part)
                continue
            portion = part.heaps[thing.portion]
            self._paint_thing(painter, thing, box, portion)
            chosen = here and now is not None and now.portion == portion
            self._paint_grams(painter, place, box, part, portion, chosen)

    def _paint_head(self, painter: QPainter, box: QRectF, part: PartPlan) -> None:
        d, px = self.theme.dyes, self.theme.px
        line = QRectF(box.left() + px(12), box.top() + px(4), box.width() - px(24), px(22))
        count = f"{part.count} × " if part.count > 1 else ""
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.ink)
        told = painter.fontMetrics().elidedText(
            count + part.name, Qt.TextElideMode.ElideRight, int(line.width())
        )
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, told)
        used = painter.fontMetrics().horizontalAdvance(told + "  ")
        painter.setFont(self.theme.text(13))
        painter.setPen(d.quiet)
        rest = line.adjusted(used, 0, 0, 0)
        metrics = painter.fontMetrics()
        told = next(
            (t for t in self._size_texts(part) if metrics.horizontalAdvance(t) <= rest.width()), ""
        )
        painter.drawText(rest, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, told)

    def _size_texts(self, part: PartPlan) -> tuple[str, ...]:
        """Return the size to roll and the finished size, in a long and a short form."""
        core = next((p for p in part.portions if p.role == "core" and p.finished_mm), None)
        if core is None:
            return ()
        units = self.studio.units
        loose, done = (
            " × ".join(show_length(mm, units, with_unit=False) for mm in (s["along"], s["across"]))
            for s in (core.loose_mm, core.finished_mm)
        )
        size = {"loose": loose, "done": done, "unit": units.length}
        if core.form == "sheet":
            full, short, bare = (
                tr("lay {loose}, felt to {done} {unit}"),
                tr("lay {loose} to {done}"),
                tr("lay {loose}"),
            )
        else:
            full, short, bare = (
                tr("roll {loose}, felt to {done} {unit}"),
                tr("roll {loose} to {done}"),
                tr("roll {loose}"),
            )
        return (*(words.format(**size) for words in (full, short, bare)), loose)

    def _paint_thing(
        self, painter: QPainter, thing: TableThing, box: QRectF, portion: Portion
    ) -> None:
        colour = self.studio.bench.wool_by_id[portion.wool].colour
        if thing.kind != "blank" or thing.outline is None or thing.fold is None:
            paint_heap(painter, box, colour, self.theme)
            return
        d, px = self.theme.dyes, self.theme.px
        laid, fold = (
            path_in(run, thing.outline, box, self.scale) for run in (thing.outline, thing.fold)
        )
        painter.save()
        painter.setClipPath(laid)
        # Loose wool laid to the line, as wide as it is.
        paint_bundle(
            painter,
            box.adjusted(-box.width(), -box.height(), box.width(), box.height()),
            colour,
            True,
        )
        painter.restore()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(d.ink, px(1.2)))
        painter.drawPath(laid)
        painter.setPen(QPen(d.madder, px(1.4), Qt.PenStyle.DashLine))
        painter.drawPath(fold)

    def _paint_part(
        self, painter: QPainter, place: PortionLayout, box: QRectF, part: PartPlan
    ) -> None:
        px = self.theme.px
        if len(place.boxes) > 1:
            before = place.boxes[-2]
            y = box.center().y()
            start = max(before.right(), before.center().x() + px(30)) + px(6)
            end = min(box.left(), box.center().x() - px(28)) - px(6)
            if end - start > px(8):
                paint_arrow(painter, QPointF(start, y), QPointF(end, y), self.theme)
        made = self._prints.get(part.id)
        if made is not None:
            k = self.scale * made.picture.step
            rows, columns = made.picture.owner.shape
            target = QRectF(0, 0, columns * k, rows * k)
            target.moveCenter(box.center())
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawPixmap(target, made.pixmap, QRectF(made.pixmap.rect()))
        line = QRectF(box.center().x() - px(50), place.box.bottom() - px(40), px(100), px(20))
        painter.setFont(self.theme.text(13))
        painter.setPen(self.theme.dyes.quiet)
        words = tr("each") if part.count > 1 else tr("felted")
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_grams(
        self,
        painter: QPainter,
        place: PortionLayout,
        box: QRectF,
        part: PartPlan,
        portion: Portion,
        chosen: bool,
    ) -> None:
        d, px, units = self.theme.dyes, self.theme.px, self.studio.units
        done = self._mean_weighed(part, portion)
        line = QRectF(box.center().x() - px(42), place.box.bottom() - px(41), px(84), px(21))
        if chosen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(d.slip)
            painter.drawRoundedRect(line, px(10), px(10))
        painter.setFont(self.theme.text(15, bold=True))
        painter.setPen(d.lichen if done is not None and not self.theme.dark else d.madder)
        if portion.tear is not None:
            painter.setFont(self.theme.text(13, bold=True))
        told, role = (
            in_few_signs(portion, portion.take_g, units),
            self.studio.say(portion_name(portion)),
        )
        if is_pinch(portion):  # its neighbour is near: the word goes below
            told = pinch_across(portion, units)
            role = tr("{role}, a pinch", role=role)
        if done is not None:
            told = f"✓ {show_mass(done, units)}"
        painter.drawText(line, Qt.AlignmentFlag.AlignCenter, told)
        painter.setFont(self.theme.text(12))
        painter.setPen(d.quiet)
        under = line.translated(0, px(18))
        fitted = painter.fontMetrics().elidedText(
            role, Qt.TextElideMode.ElideRight, int(under.width())
        )
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, fitted)

    def _mean_weighed(self, part: PartPlan, portion: Portion) -> float | None:
        """Return the mean weight of the portion's copies, once all are weighed."""
        keys = [w.key for w in self.hand.portions if w.part == part.id and w.portion is portion]
        rows = [self.hand.done[key].grams for key in keys if key in self.hand.done]
        return sum(rows) / len(rows) if rows and len(rows) == len(keys) else None

    # Hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        found = thing_at(self.laid, event.position())
        plan = self.studio.plan
        if found is None or plan is None:
            return
        part, index = found
        heaps = plan.part(part).heaps
        mine = [w for w in self.hand.portions if w.part == part]
        wanted = [w for w in mine if index is not None and w.portion == heaps[index]] or mine
        if wanted:
            self.hand.select_portion(wanted[0].key)

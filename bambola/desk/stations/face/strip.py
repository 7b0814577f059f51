"""The strips of a face on the screen as printed, at true size if the screen is measured."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen

from bambola.core.face import Face, Mark
from bambola.core.quantities import show_length
from bambola.desk.kit.painted import Painted
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.true_size import TrueSize
from bambola.desk.session.studio import EditorSession
from bambola.language import tr


class StripView(Painted):
    """Three strips: from the crown, from the midline, round at the eyes."""

    def __init__(self, studio: EditorSession, theme: Theme, true_size: TrueSize) -> None:
        super().__init__(theme, tr("Strips of the face"))
        self.studio, self.true_size = studio, true_size
        self.face: Face | None = None
        self.mark = ""
        self.at_true_size = False

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(500), self.theme.px(190))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(300), self.theme.px(176))

    def show_face(self, face: Face | None, mark: str) -> None:
        """Show the strips of a face, with the current mark."""
        self.face, self.mark = face, mark
        self.show_changed()

    def set_true_size(self, on: bool) -> None:
        """Show them at true size, or as large as there is room."""
        self.at_true_size = on
        self.update()

    def describe(self) -> str:
        face = self.face
        if face is None:
            return ""
        long = show_length(face.strip_mm, self.studio.units)
        if face.is_head:
            return tr("From crown to chin {long} over the surface.", long=long)
        return tr("From crown to underside {long} over the surface.", long=long)

    def _strip_rows(self) -> list[tuple[str, float, list[tuple[Mark, float]]]]:
        face = self.face
        if face is None:
            return []
        told = face.named_marks
        rows = [
            (
                tr("crown to chin") if face.is_head else tr("crown to underside"),
                face.strip_mm,
                [(m, m.from_crown_mm) for m in told],
            )
        ]
        aside = [(m, m.from_midline_mm) for m in told if m.both]
        if aside:
            rows.append((tr("from the midline"), max(mm for _, mm in aside) + 4, aside))
        if face.thread is not None:
            thread, _ = face.thread
            by_id = {m.id: m for m in told}
            ticks = [(by_id[i], mm) for i, mm in thread.ticks if i in by_id]
            rows.append((tr("half a thread round"), thread.round_mm / 2, ticks))
        return rows

    def paintEvent(self, event: QPaintEvent | None) -> None:
        rows = self._strip_rows()
        if not rows:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, d = self.theme.px, self.theme.dyes
        left, room = px(150), self.width() - px(150) - px(16)
        per_mm = room / max(long for _, long, _ in rows)
        if self.at_true_size:
            per_mm = self.true_size.px_per_mm(self)
        apart = self.height() / len(rows)
        for i, (name, long, ticks) in enumerate(rows):
            top = i * apart + px(4)
            strip = QRectF(left, top, long * per_mm, px(22))
            painter.setFont(self.theme.text(14))
            painter.setPen(d.quiet)
            label = QRectF(0, top, left - px(10), px(22))
            painter.drawText(
                label, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, name
            )
            painter.setPen(QPen(d.edge, px(1.4)))
            painter.setBrush(d.paper)
            painter.drawRect(strip)
            self._paint_ticks(painter, strip, ticks, per_mm)

    def _paint_ticks(
        self, painter: QPainter, strip: QRectF, ticks: list[tuple[Mark, float]], per_mm: float
    ) -> None:
        px, d = self.theme.px, self.theme.dyes
        taken: list[tuple[float, float]] = []
        # The one in hand has its number whatever lies beside it.
        for mark, mm in sorted(ticks, key=lambda tick: (tick[0].id != self.mark, tick[1])):
            x, mine = strip.left() + mm * per_mm, mark.id == self.mark
            painter.setPen(QPen(d.madder if mine else d.woad, px(4 if mine else 2)))
            painter.drawLine(QPointF(x, strip.top()), QPointF(x, strip.bottom() + px(4)))
            text = show_length(mm, self.studio.units)
            font = self.theme.text(14, bold=mine)
            wide = QFontMetricsF(font).horizontalAdvance(text)
            low, high = x - wide / 2 - px(4), x + wide / 2 + px(4)
            if any(low < b and a < high for a, b in taken):
                continue
            taken.append((low, high))
            painter.setFont(font)
            painter.setPen(d.ink)
            painter.drawText(QPointF(x - wide / 2, strip.bottom() + px(19)), text)

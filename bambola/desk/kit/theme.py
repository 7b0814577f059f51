"""Colours, fonts and spacing: undyed wool for ground, ink for text, plant dyes for accents."""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from platformdirs import user_cache_path
from PyQt6.QtCore import QEvent, QObject, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PyQt6.QtWidgets import QApplication, QLayout, QWidget

from bambola.desk.kit.plain_text import PlainTextStyle


class Dyes(NamedTuple):
    """One set of colours."""

    ground: QColor
    shade: QColor
    paper: QColor
    edge: QColor
    rim: QColor
    ink: QColor
    quiet: QColor
    madder: QColor
    weld: QColor
    woad: QColor
    lichen: QColor
    slip: QColor
    on_dye: QColor
    tape: QColor
    tape_ink: QColor


def _load_dyes(*names: str) -> Dyes:
    return Dyes(*(QColor(name) for name in names))


LIGHT = _load_dyes(
    "#F3EDE2",
    "#E9E0D1",
    "#FFFBF2",
    "#DDD2BF",
    "#857B70",
    "#2E2A2C",
    "#6B635B",
    "#9C4232",
    "#A0750F",
    "#3F6475",
    "#5E6B40",
    "#FBEFC9",
    "#FFFBF2",
    "#E7C66F",
    "#4A3A12",
)
DARK = _load_dyes(
    "#241F20",
    "#2B2526",
    "#312B2B",
    "#4A4140",
    "#958983",
    "#F3EDE2",
    "#BDB1A5",
    "#EBA08E",
    "#E0B95A",
    "#94BDCF",
    "#B2C28A",
    "#463A1F",
    "#241F20",
    "#B08B35",
    "#1E180A",
)

_FACES = Path(__file__).parents[2] / "shipped" / "fonts"
TEXT_FACE = "Atkinson Hyperlegible Next"
TITLE_FACE = "Fraunces SemiBold"
BASE_PX = 15.0


class Theme(QObject):
    """The present look; announces when it changes."""

    sheet_changed = pyqtSignal()
    """Before ``changed``: who hears that finds the sheet laid on."""
    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.dark = False
        self.scale = 1.0
        self.sheet = ""
        """The style sheet of all widgets."""

    @property
    def dyes(self) -> Dyes:
        """The present colours."""
        return DARK if self.dark else LIGHT

    def px(self, size: float) -> int:
        """Return a length on screen that scales with the text."""
        return max(1, round(size * self.scale))

    def text(self, size: float = BASE_PX, bold: bool = False) -> QFont:
        """Return the text font at ``size`` px before scaling."""
        font = QFont(TEXT_FACE)
        font.setPixelSize(self.px(size))
        font.setWeight(QFont.Weight.Bold if bold else QFont.Weight.Normal)
        return font

    def title(self, size: float) -> QFont:
        """Return the title font at ``size`` px before scaling."""
        font = QFont(TITLE_FACE)
        font.setPixelSize(self.px(size))
        return font

    def set(self, dark: bool | None = None, scale: float | None = None) -> None:
        """Change the look: palette and font of the application, and the style sheet of visible widgets."""
        for laid in self.in_turns(dark, scale):
            laid()

    def in_turns(
        self, dark: bool | None = None, scale: float | None = None
    ) -> tuple[Callable[[], None], ...]:
        """Return the change of look as steps to do one after the other. Each visits every widget, so what is
        unchanged is not set again."""
        before = self.dark, self.scale, self.sheet
        self.dark = self.dark if dark is None else dark
        self.scale = self.scale if scale is None else scale
        self.sheet = _make_sheet(self)
        if self.sheet == before[2]:
            return ()
        is_first = not before[2]
        styled = (self._apply_style,) if is_first else ()
        sized = (self._apply_text_size,) if is_first or self.scale != before[1] else ()
        dyed = (self._apply_palette,) if is_first or self.dark != before[0] else ()
        return (*styled, *sized, *dyed, self.sheet_changed.emit, self.changed.emit)

    def _apply_style(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication) and not isinstance(app.style(), PlainTextStyle):
            app.setStyle(PlainTextStyle())

    def _apply_text_size(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setFont(self.text())

    def _apply_palette(self) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setPalette(_make_palette(self.dyes))


_TEXT_ROLES = {"small": 13, "note": 14, "body": 15, "large": 16, "huge": 18}
_BOLD_ROLES = {"strong": 15, "amount": 16, "figure": 18}
_TITLE_ROLES = {"subtitle": 16, "title": 20, "headline": 26, "display": 32}
"""The fonts of widgets by role: sizes in px before scaling."""


def set_role(widget: QWidget, role: str | None = None, tone: str | None = None) -> None:
    """Give a widget the font of a role (:data:`_TEXT_ROLES` and others) or the colour of a tone, such as
    "quiet" or "warning".

    Both are rules of the style sheet, so large text and dark need nothing of the widget.
    """
    for name, value in (("role", role), ("tone", tone)):
        if value is not None and widget.property(name) != value:
            widget.setProperty(name, value)
            if (style := widget.style()) is not None:
                style.unpolish(widget)
                style.polish(widget)


Margins = tuple[float, float, float, float]


class _Spacing(QObject):
    """Keeps a layout's margins and gaps in step with the size of the text."""

    def __init__(
        self, theme: Theme, layout: QLayout, margins: Margins | None, gap: float | None
    ) -> None:
        super().__init__(layout)
        self._theme, self._layout, self._margins, self._gap = theme, layout, margins, gap
        theme.changed.connect(self._apply)
        self._apply()

    def _apply(self) -> None:
        px = self._theme.px
        if self._margins is not None:
            self._layout.setContentsMargins(*(px(mm) if mm else 0 for mm in self._margins))
        if self._gap is not None:
            self._layout.setSpacing(px(self._gap))


def set_spacing(
    theme: Theme, layout: QLayout, margins: Margins | None = None, gap: float | None = None
) -> None:
    """Give a layout margins (left, top, right, bottom) and a gap, in px before scaling; they follow the
    size of the text."""
    _Spacing(theme, layout, margins, gap)


def _role_rules(theme: Theme) -> str:
    n, px = {name: getattr(theme.dyes, name).name() for name in theme.dyes._fields}, theme.px
    rules = [
        f'*[role="{role}"] {{ font-family: "{family}"; font-size: {px(size)}px; font-weight: {weight}; }}'
        for sizes, family, weight in (
            (_TEXT_ROLES, TEXT_FACE, 400),
            (_BOLD_ROLES, TEXT_FACE, 700),
            (_TITLE_ROLES, TITLE_FACE, 600),
        )
        for role, size in sizes.items()
    ]
    return (
        "\n".join(rules)
        + f"""
    *[tone="quiet"] {{ color: {n["quiet"]}; }}
    *[tone="warning"] {{ color: {n["madder"]}; }}
    *[role="card"] {{ background: {n["paper"]}; border: 1px solid {n["edge"]};
        border-radius: {px(14)}px; }}
    *[role="slip"] {{ background: {n["slip"]}; border: {px(1.6)}px solid {n["weld"]};
        border-radius: {px(10)}px; }}
    *[role="sheet"] {{ background: {n["paper"]}; border: 1px solid {n["edge"]};
        border-radius: {px(14)}px; }}
    *[role="sheet"] QComboBox {{ background: {n["ground"]}; border: {px(1.4)}px solid {n["rim"]};
        padding: {px(3)}px {px(8)}px; }}
    *[role="sheet"] QComboBox::drop-down {{ border: none; width: {px(22)}px; }}
    *[role="sheet"] QComboBox:focus {{ border: {px(2.6)}px solid {n["ink"]}; padding: {px(2)}px {px(7)}px; }}
    *[role="conditions"] QLineEdit, *[role="conditions"] QDoubleSpinBox, *[role="conditions"] QDateEdit {{
        background: {n["paper"]}; color: {n["ink"]}; border: {px(1.6)}px solid {n["rim"]};
        border-radius: {px(8)}px; padding: {px(3)}px {px(7)}px; }}
    *[role="conditions"] QLineEdit:focus, *[role="conditions"] QDoubleSpinBox:focus,
    *[role="conditions"] QDateEdit:focus {{ border-color: {n["ink"]}; }}
    *[role="conditions"] QComboBox {{ padding: {px(3)}px {px(7)}px; }}
    *[role="conditions"] QComboBox QLineEdit {{ border: none; padding: 0; }}
    *[role="conditions"] QDateEdit::drop-down {{ border: none; }}
    *[role="note-slip"] {{ background: {n["slip"]}; border-left: {px(4)}px solid {n["weld"]};
        border-radius: {px(8)}px; }}
    *[role="message"] {{ background: {n["paper"]}; border: {px(1.6)}px solid {n["lichen"]};
        border-radius: {px(8)}px; }}
    *[role="message"][tone="serious"] {{ border-color: {n["madder"]}; }}
    QPushButton[role="questions"] {{ color: {n["quiet"]}; background: {n["paper"]};
        border-color: {n["edge"]}; }}
    QPushButton[role="questions"][tone="open"] {{ color: {n["ink"]}; background: {n["slip"]};
        border-color: {n["weld"]}; }}
    QPushButton[role="questions"]:focus {{ border-color: {n["madder"]}; }}
    QPushButton[role="stroke"] {{ color: {n["ink"]}; border: {px(2)}px solid {n["edge"]}; }}
    QPushButton[role="stroke"][tone="drawn"] {{ border-color: {n["woad"]}; }}
    QPushButton[role="stroke"][tone="current"] {{ background: {n["madder"]}; color: {n["on_dye"]};
        border-color: {n["madder"]}; }}
    QPushButton[tone="take"] {{ background: {n["woad"]}; color: {n["on_dye"]}; }}
    QPushButton[tone="left"] {{ text-align: left; }}
    QPushButton[tone="late"] {{ color: {n["madder"]}; border-color: {n["madder"]}; }}
    QLineEdit[tone="bare"] {{ border-color: transparent; background: transparent; }}
    QLineEdit[tone="bare"]:focus {{ border-color: {n["madder"]}; }}
    QLineEdit[tone="faint"]:!focus {{ border-color: {n["edge"]}; }}
    QPlainTextEdit {{ background: {n["paper"]}; }}
    QTreeView {{ background: {n["paper"]}; color: {n["ink"]}; border: none; }}
    QTreeView::item {{ padding: {px(2)}px; border: none; }}
    QTreeView::item:selected {{ background: {n["slip"]}; color: {n["ink"]};
        border-bottom: {px(2)}px solid {n["madder"]}; }}
    *[role="banner"] {{ background: {n["slip"]}; color: {n["ink"]}; border-radius: {px(8)}px;
        padding: {px(6)}px; font-size: {px(16)}px; }}
    """
    )


class StyleFollower(QObject):
    """Keeps a widget and its children in the theme's style sheet: visible ones at once, others when they are
    next shown. Qt restyles every child of a styled widget, and the stations have hundreds."""

    def __init__(self, widget: QWidget, theme: Theme) -> None:
        super().__init__(widget)
        self._widget, self._theme, self._worn = widget, theme, ""
        widget.installEventFilter(self)
        theme.sheet_changed.connect(self._update_sheet)
        self._put_on()

    def _update_sheet(self) -> None:
        if self._widget.isVisible():
            self._put_on()

    def _put_on(self) -> None:
        if self._worn != self._theme.sheet:
            self._worn = self._theme.sheet
            self._widget.setStyleSheet(self._worn)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Style a widget that is about to be shown with the current style sheet."""
        if event is not None and event.type() == QEvent.Type.Show:
            self._put_on()
        return False


def load_faces() -> None:
    """Load the shipped fonts."""
    for file in sorted(_FACES.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(file))


def _make_palette(d: Dyes) -> QPalette:
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, d.ground),
        (QPalette.ColorRole.WindowText, d.ink),
        (QPalette.ColorRole.Base, d.paper),
        (QPalette.ColorRole.Text, d.ink),
        (QPalette.ColorRole.AlternateBase, d.shade),
        (QPalette.ColorRole.Button, d.paper),
        (QPalette.ColorRole.ButtonText, d.ink),
        (QPalette.ColorRole.Highlight, d.woad),
        (QPalette.ColorRole.HighlightedText, d.on_dye),
        (QPalette.ColorRole.ToolTipBase, d.paper),
        (QPalette.ColorRole.ToolTipText, d.ink),
        (QPalette.ColorRole.PlaceholderText, d.quiet),
        (QPalette.ColorRole.Link, d.woad),
        (QPalette.ColorRole.LinkVisited, d.woad),
    ):
        palette.setColor(role, colour)
    return palette


def cache_folder() -> Path:
    """Return the folder for files that can be made again."""
    return user_cache_path("bambola")


def _chevron_picture(theme: Theme) -> str:
    """Return a picture of a combo box's arrow in the theme's ink."""
    return _drawing_path("chevron", theme.dyes.woad, "M1 1 L5 6 L9 1", "10 7")


def _tick_picture(theme: Theme) -> str:
    """Return a picture of a tick in the text colour for dyes."""
    return _drawing_path("tick", theme.dyes.on_dye, "M3 8 L6.5 11.5 L12 4", "15 15")


def _drawing_path(name: str, colour: QColor, way: str, box: str) -> str:
    """Return the path of a small line drawing in a colour, since a style sheet takes pictures only from
    files."""
    path = cache_folder() / f"{name}-{colour.name()[1:]}.svg"
    drawn = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {box}"><path d="{way}" fill="none" '
        f'stroke="{colour.name()}" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"/></svg>'
    )
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        if not path.is_file() or path.read_text() != drawn:
            path.write_text(drawn)
    return path.as_posix()


_LARGE, _MOST_SIDE_PX = 1.6, 13
"""Where text is larger than this, the words of a button need its room more than its sides do. Judged."""


def _make_sheet(theme: Theme) -> str:
    d, px = theme.dyes, theme.px
    n = {name: getattr(d, name).name() for name in d._fields}
    side = min(px(13), _MOST_SIDE_PX) if theme.scale > _LARGE else px(13)
    return f"""
    QMenuBar {{ background: {n["ground"]}; color: {n["quiet"]}; padding: 2px {px(20)}px; }}
    QMenuBar::item {{ padding: {px(3)}px {px(9)}px; border-radius: {px(5)}px; background: transparent; }}
    QMenuBar::item:selected {{ background: {n["shade"]}; color: {n["ink"]}; }}
    QMenu {{ background: {n["paper"]}; color: {n["ink"]}; border: 1px solid {n["edge"]};
        padding: {px(5)}px; }}
    QMenu::item {{ padding: {px(5)}px {px(26)}px {px(5)}px {px(22)}px; border-radius: {px(5)}px; }}
    QMenu::item:selected {{ background: {n["shade"]}; }}
    QMenu::item:disabled {{ color: {n["quiet"]}; }}
    QMenu::separator {{ height: 1px; background: {n["edge"]}; margin: {px(4)}px {px(8)}px; }}
    QToolTip {{ background: {n["paper"]}; color: {n["ink"]};
        border: 1px solid {n["edge"]}; padding: {px(6)}px; }}
    QPushButton {{ background: {n["paper"]}; color: {n["woad"]}; border: {px(1.6)}px solid {n["woad"]};
        border-radius: {px(14)}px; padding: {px(4)}px {side}px; font-weight: 600; min-height: {px(18)}px; }}
    QPushButton:hover {{ background: {n["shade"]}; }}
    QPushButton:checked {{ background: {n["woad"]}; color: {n["on_dye"]}; }}
    QPushButton:focus {{ border: {px(2.6)}px solid {n["ink"]}; padding: {px(3)}px {side - px(1)}px; }}
    QPushButton[next="true"]:enabled {{ background: {n["madder"]}; color: {n["on_dye"]};
        border-color: {n["madder"]}; }}
    QPushButton[next="true"]:focus {{ border-color: {n["ink"]}; }}
    QPushButton:disabled {{ color: {n["quiet"]}; border-color: {n["edge"]}; }}
    QToolButton {{ background: transparent; border: {px(1.6)}px solid transparent; border-radius: {px(8)}px;
        padding: {px(3)}px; color: {n["ink"]}; }}
    QToolButton:hover {{ background: {n["shade"]}; }}
    QToolButton:checked {{ background: {n["paper"]}; border-color: {n["madder"]}; }}
    QToolButton:focus {{ border: {px(2.6)}px solid {n["ink"]}; padding: {px(2)}px; }}
    QSpinBox {{ background: {n["paper"]}; color: {n["ink"]}; border: {px(1.6)}px solid {n["woad"]};
        border-radius: {px(14)}px; padding: {px(3)}px {px(8)}px; font-weight: 600; min-width: {px(58)}px; }}
    QSpinBox:focus {{ border: {px(2.6)}px solid {n["ink"]}; padding: {px(2)}px {px(7)}px; }}
    QSpinBox::up-button, QSpinBox::down-button {{ width: 0; border: none; }}
    QHeaderView::section {{ background: {n["ground"]}; color: {n["quiet"]}; border: none;
        padding: {px(4)}px; font-weight: 600; }}
    QComboBox {{ background: {n["paper"]}; color: {n["ink"]}; border: {px(1.6)}px solid {n["rim"]};
        border-radius: {px(8)}px; padding: {px(3)}px {px(4)}px {px(3)}px {px(7)}px; min-height: {px(19)}px; }}
    QComboBox:hover {{ background: {n["shade"]}; }}
    QComboBox:focus {{ border: {px(2.6)}px solid {n["ink"]};
        padding: {px(2)}px {px(3)}px {px(2)}px {px(6)}px; }}
    QComboBox:disabled {{ color: {n["quiet"]}; }}
    QComboBox::drop-down {{ border: none; width: {px(14)}px; }}
    QComboBox::down-arrow {{ image: url({_chevron_picture(theme)}); width: {px(10)}px; height: {px(7)}px; }}
    QComboBox QAbstractItemView {{ background: {n["paper"]}; color: {n["ink"]}; border: 1px solid {n["edge"]};
        selection-background-color: {n["shade"]}; selection-color: {n["ink"]}; outline: none; }}
    QCheckBox, QRadioButton {{ color: {n["ink"]}; spacing: {px(8)}px; padding: {px(2)}px; }}
    QCheckBox::indicator, QListWidget::indicator, QTableView::indicator {{ width: {px(15)}px;
        height: {px(15)}px; border: {px(1.6)}px solid {n["woad"]}; border-radius: {px(5)}px;
        background: {n["paper"]}; }}
    QCheckBox::indicator:checked, QListWidget::indicator:checked, QTableView::indicator:checked {{
    image: url({_tick_picture(theme)}); background: {n["woad"]}; }}
    QCheckBox::indicator:focus {{ border: {px(2.6)}px solid {n["ink"]}; width: {px(13)}px;
        height: {px(13)}px; }}
    QCheckBox::indicator:disabled {{ border-color: {n["edge"]}; }}
    QGroupBox {{ background: {n["paper"]}; border: 1px solid {n["edge"]}; border-radius: {px(10)}px;
        margin-top: {px(26)}px; padding: {px(10)}px {px(6)}px {px(6)}px {px(6)}px; }}
    QGroupBox::title {{ subcontrol-origin: margin; subcontrol-position: top left; left: {px(4)}px;
        color: {n["ink"]}; font-weight: 600; }}
    QLineEdit {{ background: {n["paper"]}; color: {n["ink"]}; border: {px(1.6)}px solid {n["rim"]};
        placeholder-text-color: {n["quiet"]};
        border-radius: {px(4)}px; padding: {px(2)}px {px(6)}px; }}
    QLineEdit:focus {{ border: {px(2.6)}px solid {n["ink"]}; padding: {px(1)}px {px(5)}px; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
    QScrollBar:vertical {{ background: transparent; width: {px(9)}px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {n["rim"]}; border-radius: {px(4)}px;
        min-height: {px(30)}px; }}
    QScrollBar::handle:vertical:hover {{ background: {n["quiet"]}; }}
    QScrollBar:horizontal {{ background: transparent; height: {px(9)}px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {n["rim"]}; border-radius: {px(4)}px;
        min-width: {px(30)}px; }}
    QScrollBar::handle:horizontal:hover {{ background: {n["quiet"]}; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
        background: none; border: none; height: 0; width: 0; }}
    QAbstractScrollArea::corner {{ background: transparent; border: none; }}
    QDialogButtonBox {{ dialogbuttonbox-buttons-have-icons: 0; }}
    QListView {{ background: transparent; border: none; outline: none; }}
    {_role_rules(theme)}
    """

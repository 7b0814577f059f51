"""Starts the window: ``bambola-gui [FIGURE]``.

Slow modules are imported while the splash screen is up, not at the top of this one.
"""

from __future__ import annotations

import argparse
import ctypes
import gc
import os
import sys
import threading
from collections.abc import Sequence
from contextlib import suppress
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLibraryInfo, QLocale, Qt, QTimer, QTranslator
from PyQt6.QtWidgets import QApplication

from bambola.desk.kit.theme import Theme, load_faces
from bambola.desk.running.crash_log import log_uncaught_errors
from bambola.desk.session.settings import Settings
from bambola.desk.shell.single_instance import InstanceServer, hand_over
from bambola.desk.shell.splash import SHIPPED, SplashScreen, splash_for, wait_until_seen
from bambola.language import UnknownLanguageError, choose_language, current_catalogue, decimal, tr
from bambola.translated import language_of

if TYPE_CHECKING:
    from bambola.desk.shell.window import Window

_LAST_EXPORT_S = 60.0
"""How long an export may go on after its window has closed."""
DEMO = SHIPPED / "lamplighter-badger.bambola.json"


_TURN_S = 0.001
"""So long another thread keeps the interpreter once the window wants it. To show a box takes some hundred
turns: of the usual 5 ms each they would be half a second. Judged."""


def parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(
        prog="bambola-gui", description=tr("Resize a needle-felted figure.")
    )
    parser.add_argument("figure", nargs="?", type=Path, help=tr("a design to open"))
    parser.add_argument("--demo", action="store_true", help=tr("open the lamplighter badger"))
    parser.add_argument(
        "--screenshot",
        type=Path,
        metavar="PNG",
        help=tr("save a picture of the window once it is drawn, and end"),
    )
    parser.add_argument(
        "--language",
        metavar="LANGUAGE",
        help=tr("the language to speak, such as en, instead of the system’s"),
    )
    parser.add_argument(
        "--new-window",
        action="store_true",
        help=tr("open a window of its own, even where one is open"),
    )
    parser.add_argument(
        "--integrate",
        choices=("on", "off"),
        help=tr("put it into your menus, or take it out of them, and end"),
    )
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run the application until its window is closed."""
    choose_language()
    args = parser().parse_args(argv)
    try:
        choose_language(args.language or Settings().language)
    except UnknownLanguageError as error:
        print("bambola:", error, file=sys.stderr)
        return 2
    if args.integrate:
        return _integrate_menus(args.integrate == "on")
    design = args.figure or (DEMO if args.demo else None)
    alone = args.new_window or args.screenshot
    if not alone and hand_over(args.figure, args.demo):
        print(tr("Bambola is already open: that window has opened the design."))
        return 0
    app, theme, settings, splash = raise_splash(design)
    window = set_up(theme, settings)
    over = splash.hang_over(window)
    log_uncaught_errors(window.studio.refused.emit)
    if not alone:
        server = InstanceServer(window)
        server.asked.connect(window.come_forward)
        app.aboutToQuit.connect(server.close)
    if args.figure:
        window.files.open_path(args.figure)
    elif args.demo:
        window.open_demo()
    close_splash(over, window)
    if args.screenshot:
        _picture_and_end(window, args.screenshot)
    else:
        QTimer.singleShot(0, window.files.offer_recovery)
        make_the_rest(window)
    window.files.opening.holds_window = False
    code = app.exec()
    window.put_away()
    # The window is gone by now; only what is being written is still seen to its end.
    window.files.finish(_LAST_EXPORT_S)
    window.bench_desk.book.wait_for_disk()
    settings.sync()
    sys.stdout.flush()
    os._exit(code)  # threads that hang in a picture must not keep the process


def raise_splash(design: Path | None) -> tuple[QApplication, Theme, Settings, SplashScreen]:
    """Create the application in the maker's look, and show the design's last picture as a splash screen."""
    give_memory_back()
    sys.setswitchinterval(_TURN_S)
    app = QApplication(sys.argv[:1])
    calm_collector()
    app.setApplicationName("bambola")
    app.setDesktopFileName("org.bambola.Bambola")
    teach_toolkit(app)
    load_faces()
    settings, theme = Settings(), Theme()
    dark = settings.dark
    if dark is None:
        hints = app.styleHints()
        dark = bool(hints and hints.colorScheme().name == "Dark")
    theme.set(dark=dark, scale=settings.text_scale)
    splash = splash_for(design, theme, settings.geometry)
    splash.show()
    wait_until_seen(splash)
    return app, theme, settings, splash


def teach_toolkit(app: QApplication) -> None:
    """Translate Qt's own words, such as those of file dialogs."""
    language, here = QLocale(language_of(current_catalogue())), QLocale()
    # English runs from left to right wherever it is read: the system's own direction would scramble it.
    app.setLayoutDirection(language.textDirection())
    there = QLocale(language.language(), here.territory())
    if (there.language(), _writing_of(there)) != (language.language(), _writing_of(language)):
        there = language  # it is not spoken in that country
    if _writing_of(here) != _writing_of(there):
        QLocale.setDefault(there)
    translator = QTranslator(app)
    where = QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)
    if translator.load(language, "qtbase", "_", where):
        app.installTranslator(translator)


def _writing_of(locale: QLocale) -> tuple[object, str, str]:
    """Return a language's direction of writing, its zero digit, and its name for Monday."""
    return locale.textDirection(), locale.zeroDigit(), locale.dayName(1)


def set_up(theme: Theme, settings: Settings) -> Window:
    """Create the window with all its services."""
    # Plugins are not used, and looking for them costs a sixth of the start.
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

    from dataclasses import replace

    from bambola.desk.kit.icons import icon
    from bambola.desk.running.worker_process import WorkerProcess
    from bambola.desk.session.planner import PLANNING
    from bambola.desk.session.studio import EditorSession
    from bambola.desk.shell.window import Window
    from bambola.store import Journal
    from bambola.store.bench_book import bench_path
    from bambola.store.salvage import open_book

    studio = EditorSession(apart=WorkerProcess(PLANNING))
    studio.units = replace(settings.units, decimal=decimal(), wisp=tr("a wisp"))
    book, trouble = open_book(bench_path(), studio.bench)
    window = Window(studio, theme, settings, Journal(), book)
    if trouble:
        QTimer.singleShot(0, lambda: studio.refused.emit(trouble))
    window.setWindowIcon(icon("bambola", theme.dyes.madder))
    return window


_REST_MS = 150
"""How long the hand has between two pages. Judged."""
_COLLECT_MS = 2000
_COLLECT_FROM = 50_000
_TRIM_MS = 30_000
"""How often memory is looked through for what is free. Judged."""


_LARGE_BYTES = 1 << 20
_M_MMAP_THRESHOLD = -3  # malloc.h


def give_memory_back() -> None:
    """Make the C library return large freed blocks to the system, which it would otherwise keep once it has
    seen one of up to 32 MB."""
    with suppress(AttributeError, OSError):  # another C library
        ctypes.CDLL(None).mallopt(_M_MMAP_THRESHOLD, _LARGE_BYTES)


def trim_memory() -> None:
    """Return free memory between blocks in use as well: a sixth of all after hundreds of changes; it takes 6
    ms."""
    with suppress(AttributeError, OSError):
        ctypes.CDLL(None).malloc_trim(0)


def calm_collector() -> None:
    """Run the garbage collector less often, and on the interface thread only.

    Plans are many small values without cycles. A window freed on another thread would crash the program.
    """
    gc.disable()
    timer = QTimer(QApplication.instance())
    timer.setInterval(_COLLECT_MS)
    timer.timeout.connect(_collect_at_rest)
    timer.start()
    trimming = QTimer(QApplication.instance())
    trimming.setInterval(_TRIM_MS)
    trimming.timeout.connect(trim_memory)
    trimming.start()


def _collect_at_rest() -> None:
    """Collect garbage (a tenth of a second) only when no drag is going on."""
    pulled = QApplication.mouseButtons() != Qt.MouseButton.NoButton
    if gc.get_count()[0] > _COLLECT_FROM and not pulled:
        gc.collect()


def pass_over_loaded() -> None:
    """Exclude everything loaded so far from garbage collection, since it stays to the end."""
    gc.collect()
    gc.freeze()


def close_splash(splash: SplashScreen, window: Window) -> None:
    """Remove the splash screen once both figures are painted; at once if there is none, or one cannot be
    painted."""
    room, table = window.darkroom, window.resize_station.table

    def lift() -> None:
        room.developed.disconnect(developed)
        room.spoilt.disconnect(spoilt)
        splash.hide()
        splash.deleteLater()

    def developed(*_: object) -> None:
        if table.is_pictured:
            lift()

    def spoilt(*_: object) -> None:
        lift()

    room.developed.connect(developed)
    room.spoilt.connect(spoilt)
    if window.studio.plan is None or table.is_pictured:
        lift()


def make_the_rest(window: Window) -> None:
    """Create the remaining pages one at a time while nothing is rendered or dragged."""
    timer = QTimer(window)
    timer.setInterval(_REST_MS)

    def look() -> None:
        pulled = QApplication.mouseButtons() != Qt.MouseButton.NoButton
        if window.darkroom.is_idle and not pulled and not window.pages.make_next():
            timer.stop()
            pass_over_loaded()
            load_the_rest()

    timer.timeout.connect(look)
    timer.start()


_ASKED_FOR = (
    "bambola.desk.shell.packet_dialog",
    "bambola.desk.stations.resize.height_dialog",
    "bambola.desk.kit.together_dialog",
    "bambola.desk.kit.hold_view",
    "bambola.desk.shell.guide",
)
"""What the window loads only when it is asked for, and would be held by."""


def load_the_rest() -> None:
    """Import in the background what may be needed later."""
    load = threading.Thread(target=lambda: [*map(import_module, _ASKED_FOR)], daemon=True)
    load.start()


def _integrate_menus(wanted: bool) -> int:
    """Install the desktop files in the user's folders, or remove them; returns the exit code."""
    from bambola.shipped.menus import install_menus, refresh_desktop, remove_menus

    home = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
    try:
        install_menus(home, str(Path(sys.argv[0]).absolute())) if wanted else remove_menus(home)
    except OSError as error:
        print("bambola:", f"{error.filename}: {error.strerror}", file=sys.stderr)
        return 2
    refresh_desktop(home)
    print(tr("Bambola is in your menus.") if wanted else tr("Bambola is no longer in your menus."))
    return 0


def _picture_and_end(window: Window, path: Path) -> None:
    """Save the window as PNG once its pictures are finished, then quit."""
    timer = QTimer(window)
    timer.setInterval(300)
    waited = [0]

    def look() -> None:
        waited[0] += 1
        if (window.darkroom.is_idle and waited[0] > 2) or waited[0] > 60:
            timer.stop()
            window.grab().save(str(path))
            QApplication.exit(0)

    timer.timeout.connect(look)
    timer.start()


if __name__ == "__main__":
    sys.exit(main())

from __future__ import annotations

import gc
import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from hashlib import sha256
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QCoreApplication, QEvent, QSettings
from PyQt6.QtWidgets import QMessageBox
from pytestqt.qtbot import QtBot

from bambola.core.bench import Bench
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.survey import Sight
from bambola.core.plan.reading import proposing
from bambola.core.plan.reading.proposing import Proposal
from bambola.core.relief import Picture, stage_of
from bambola.core.sight import silhouette
from bambola.core.sight.blobs import DividedPicture
from bambola.core.sight.silhouette import Pixels
from bambola.core.solids import Detail
from bambola.desk.kit import pictures
from bambola.desk.kit.pictures import RenderQueue, RenderRequest
from bambola.desk.kit.theme import Theme, load_faces
from bambola.desk.session import bench_desk
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell import files
from bambola.desk.shell.stations import MEASURE
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from bambola.desk.stations.order import make_page
from bambola.desk.stations.resize import figure_table
from bambola.store import Journal
from tests.desk.outfits import Ask


@pytest.fixture(scope="session", autouse=True)
def pictures_made_once() -> Iterator[None]:
    """The same picture of the same figure is cast once in all tests: most open the same demo."""
    known: dict[tuple[object, ...], Picture] = {}
    cast, portrait = RenderQueue._cast_picture, pictures.portrait

    def kept(room: RenderQueue, shot: RenderRequest) -> Picture:
        if pictures.portrait is not portrait:  # a test has put something else in its place
            return cast(room, shot)
        # Coarse dots with hard edges of few facets do; how it looks is held against a sheet (test_relief).
        shot = replace(shot, smooth=1, step=2 * shot.step)
        key = (
            shot.placement.figure.model_dump_json(), shot.camera, shot.step, shot.smooth,
            tuple(sorted(room.colours.items())),
        )  # fmt: skip
        if key not in known:
            known[key] = cast(room, shot)
        return known[key]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(RenderQueue, "_cast_picture", kept)
        patch.setattr(pictures, "stage_of", lambda placement: stage_of(placement, Detail.UNION))
        yield


@pytest.fixture(scope="session", autouse=True)
def figures_cut_out_once() -> Iterator[None]:
    """The same picture with the same strokes is cut out once: most tests lay down the same heron."""
    known: dict[bytes, np.ndarray] = {}
    cut = silhouette._graph_cut

    def kept(small: Pixels, hints: Pixels, told: Callable[[float], None]) -> np.ndarray:
        key = sha256(small.tobytes() + hints.tobytes()).digest()
        if key not in known:
            known[key] = cut(small, hints, told)
        told(1.0)
        return known[key].copy()

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(silhouette, "_graph_cut", kept)
        yield


@pytest.fixture(scope="session", autouse=True)
def proposals_made_once() -> Iterator[None]:
    """The same pictures give the same proposal once: most tests of proposals begin with the same doll."""
    known: dict[object, Proposal] = {}
    propose = proposing.propose_figure

    def kept(
        views: dict[Sight, DividedPicture], height: float, bench: Bench, name: str,
        called: Callable[[str], str], told: Callable[[float], bool] = lambda share: True,
        plans: Sequence[BodyPlan] = (), way_is_told: bool = False,
    ) -> Proposal:  # fmt: skip
        labels = {
            view: sha256(one.regions.labels.tobytes()).digest() for view, one in views.items()
        }
        seen = tuple((view, one.mm, labels[view]) for view, one in views.items())
        among = tuple(plan.figure.id for plan in plans)
        key = (seen, height, name, among, way_is_told, bench.model_dump_json())
        if key not in known:
            known[key] = propose(views, height, bench, name, called, told, plans, way_is_told)
        told(1.0)
        return known[key]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(proposing, "propose_figure", kept)
        yield


@pytest.fixture(scope="session", autouse=True)
def rests_cut_short() -> Iterator[None]:
    """What waits for the hand to rest, or keeps watch, does so a tenth as long."""
    with pytest.MonkeyPatch.context() as patch:
        for module, name in (
            (files, "_JOURNAL_MS"), (bench_desk, "_WATCH_MS"), (make_page, "KEEP_MS"),
            (figure_table, "_REDRAW_MS"), (figure_table, "_SETTLE_MS"),
        ):  # fmt: skip
            patch.setattr(module, name, getattr(module, name) // 10)
        yield


@pytest.fixture
def new_window(qtbot: QtBot, tmp_path: Path) -> Iterator[Callable[[], Window]]:
    """Makes windows that share settings and journal, as one maker's windows do."""
    load_faces()
    made: list[Window] = []

    def make() -> Window:
        theme = Theme()
        theme.set(dark=False, scale=1.0)
        for other in made:
            other.settings.sync()
        settings = Settings(QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat))
        window = Window(EditorSession(), theme, settings, Journal(tmp_path / "journal"))
        window.resize(1280, 800)  # whatever the screen that is none says it has room for
        made.append(window)
        window.show()
        qtbot.waitExposed(window)
        return window

    yield make
    for window in made:
        window.studio.undo_stack.setClean()
        window.close()
        window.deleteLater()
    made.clear()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    _let_go()


_closed = itertools.count(1)


def _let_go() -> None:
    """Now and then, of several windows at once: looking through everything takes its time."""
    closed = next(_closed)
    if closed % 10 == 1:
        gc.collect()
    if closed == 1:
        gc.freeze()  # what one window has loaded stays: it is not to be looked through again


@pytest.fixture(scope="session", autouse=True)
def collected_here() -> None:
    """The garbage collector runs between tests only: on another thread it would let windows go there."""
    gc.disable()


@pytest.fixture
def window(new_window: Callable[[], Window], qtbot: QtBot) -> Window:
    """A window with the badger on the table and its pictures made."""
    window = new_window()
    window.open_demo()
    table = window.resize_station.table
    qtbot.waitUntil(lambda: table.is_pictured, timeout=20_000)
    return window


@pytest.fixture
def answers(monkeypatch: pytest.MonkeyPatch) -> list[QMessageBox.StandardButton]:
    """What the maker will press in the boxes to come; a box that was not expected fails the test."""
    waiting: list[QMessageBox.StandardButton] = []
    monkeypatch.setattr(QMessageBox, "exec", lambda self: waiting.pop(0))
    return waiting


@pytest.fixture
def ask(window: Window, monkeypatch: pytest.MonkeyPatch) -> Ask:
    """Open the dialog of a part's fur and clothes, use it, and take it unless ``use`` says no."""
    window.go_to(MEASURE)

    def opened(part: str, use: Callable[[OutfitDialog], object]) -> None:
        def run(dialog: OutfitDialog) -> int:
            dialog.show()
            taken = use(dialog) is not False
            dialog.hide()
            return int(taken)

        monkeypatch.setattr(OutfitDialog, "exec", run)
        window.studio.selection.select_part(part)
        window.actions_["outfit"].trigger()

    return opened

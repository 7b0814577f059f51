"""The loaded pictures and their silhouettes, found off the interface thread."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from threading import Event
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap

from bambola.core.facts import Fact
from bambola.core.figure import Framing, Sight
from bambola.desk.running.background import Background, CalledOffError
from bambola.desk.running.crash_log import log_error
from bambola.desk.session.studio import EditorSession
from bambola.files.limited import StoppedError
from bambola.files.picture_job import PictureError
from bambola.files.pictures import ReadPicture, read_picture
from bambola.language import part_name, tr

if TYPE_CHECKING:
    from bambola.core.figure.bodyplans import BodyPlan
    from bambola.core.plan.reading.checks import FramedSilhouette
    from bambola.core.plan.reading.proposing import Proposal
    from bambola.core.sight.silhouette import Silhouette

_SHOWN_PX = 1800
PARTS = "parts"
"""What is busy while parts are looked for."""


@dataclass
class LoadedPicture:
    """One picture: the file's contents, the displayed image, and the silhouette with the key it belongs
    to."""

    path: str
    taken: ReadPicture
    shown: QPixmap
    silhouette: Silhouette | None = None
    found_for: object = None
    stop: Event = field(default_factory=Event)


class Sighting(QObject):
    """Loads pictures and separates figures from backgrounds, following the studio's survey."""

    changed = pyqtSignal(str)
    progress = pyqtSignal(str, float)
    trouble = pyqtSignal(str)

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self.studio = studio
        self.laid: dict[Sight, LoadedPicture] = {}
        self._background = Background("sighting")
        self._reading: dict[str, tuple[str, Event]] = {}
        self._busy: dict[str, object] = {}
        self._fresh: set[str] = set()
        self._looking = Event()
        studio.survey_changed.connect(self._follow_framings)
        studio.figure_changed.connect(self._new_figure)
        self._follow_framings()

    # What there is

    @property
    def is_idle(self) -> bool:
        """Whether nothing is being read or separated."""
        return not self._reading and not self._busy

    def silhouette(self, view: Sight) -> Silhouette | None:
        """Return the silhouette of a view's picture, once found."""
        laid = self.laid.get(view)
        return laid.silhouette if laid else None

    def framed_silhouettes(self) -> dict[Sight, FramedSilhouette]:
        """Return every framed picture with its silhouette."""
        from bambola.core.plan.reading.checks import FramedSilhouette

        found: dict[Sight, FramedSilhouette] = {}
        for framing in self.studio.survey.framings:
            silhouette = self.silhouette(framing.view)
            if silhouette is not None and framing.mm_px:
                found[framing.view] = FramedSilhouette(framing, silhouette)
        return found

    # Bringing in

    def read_picture(self, view: Sight, path: Path) -> None:
        """Read the picture at ``path`` and use it for ``view``."""
        self._fresh.add(view)
        self._start_reading(view, str(path))

    def _start_reading(self, view: Sight, path: str) -> None:
        known = self._reading.get(view)
        if known is not None and known[0] == path:
            return
        if known is not None:
            known[1].set()
        stop = Event()
        self._reading[view] = (path, stop)
        self.progress.emit(view, 0.01)
        self._background.do(
            lambda: read_picture(Path(path), stop),
            lambda found: self._take_picture(view, stop, path, found),
            lambda error: self._no_picture(view, stop, error),
        )

    def _no_picture(self, view: Sight, stop: Event, error: Exception) -> None:
        if self._reading.get(view, ("", None))[1] is not stop:
            return
        del self._reading[view]
        self._fresh.discard(view)
        self.progress.emit(view, 1.0)
        if isinstance(error, PictureError):
            self.trouble.emit(str(error))
        elif isinstance(error, CalledOffError | StoppedError):
            self.trouble.emit(tr("Reading the {view} picture was cancelled.", view=view))
        else:
            self.trouble.emit(log_error(error))

    def _take_picture(self, view: Sight, stop: Event, path: str, found: ReadPicture) -> None:
        if self._reading.get(view, ("", None))[1] is not stop:
            return
        del self._reading[view]
        self.laid[view] = LoadedPicture(path, found, _screen_image(found.pixels))
        width, height = found.width, found.height
        self.studio.let_go()
        framing = self.studio.survey.framing(view)
        if view in self._fresh or framing is None:
            fresh = Framing(
                view=view,
                picture=path,
                width=width,
                height=height,
                ground=height * 0.95,
                midline=width / 2,
            )
            self.studio.edit(tr("Load a picture"), survey=self.studio.survey.framed(fresh))
        elif (framing.width, framing.height) != (width, height):
            self.laid.pop(view)
            self.trouble.emit(
                tr(
                    "{name}: this picture has {width} × {height} pixels, but the one you measured "
                    "had {width_2} × {height_2}; load the picture again.",
                    name=Path(path).name,
                    width=width,
                    height=height,
                    width_2=framing.width,
                    height_2=framing.height,
                )
            )
            return
        else:
            # Known by what the design calls it, wherever it was found.
            self.laid[view].path = framing.picture
        self._follow_framings()
        self.changed.emit(view)

    # Following the survey

    def _new_figure(self) -> None:
        self._looking.set()
        for laid in self.laid.values():
            laid.stop.set()
        for _, stop in self._reading.values():
            stop.set()
        self.laid.clear()
        self._reading.clear()
        self._fresh.clear()

    def _follow_framings(self) -> None:
        wanted = {framing.view: framing for framing in self.studio.survey.framings}
        for view in [
            view for view in self.laid if view not in wanted and view not in self._reading
        ]:
            self.laid.pop(view).stop.set()
            self.changed.emit(view)
        for view, framing in wanted.items():
            laid = self.laid.get(view)
            if laid is None or laid.path != framing.picture:
                if view not in self._reading:
                    self._start_reading(view, self._picture_path(framing.picture))
            elif _silhouette_key(framing) != laid.found_for:
                self._separate_view(view, laid, framing)

    def _picture_path(self, picture: str) -> str:
        """Return the path of a picture: as saved, or beside the design if it moved along with it."""
        path = Path(picture)
        beside = self.studio.path.parent / path.name if self.studio.path else None
        return (
            str(beside) if not path.exists() and beside is not None and beside.exists() else picture
        )

    def _separate_view(self, view: Sight, laid: LoadedPicture, framing: Framing) -> None:
        laid.stop.set()
        stop = laid.stop = Event()
        key = laid.found_for = _silhouette_key(framing)
        self._busy[view] = key
        taken, strokes, crop = laid.taken, framing.strokes, framing.crop_in_file

        def told(share: float) -> bool:
            self.progress.emit(view, share)
            return not stop.is_set()

        def work() -> Silhouette:
            from bambola.core.sight.silhouette import separate_silhouette

            return separate_silhouette(taken.pixels, strokes, crop, told, taken.scale)

        self._background.do(
            work,
            lambda found: self._take_silhouette(view, key, found),
            lambda error: self._no_silhouette(view, key, error),
        )

    def propose(
        self,
        plans: Sequence[BodyPlan],
        then: Callable[[Proposal], None],
        looks_left: bool | None = None,
    ) -> None:
        """Look for parts in the pictures, as in one of ``plans``; ``then`` gets the proposal. ``looks_left``
        is the direction of the side picture, if known."""
        if PARTS in self._busy:
            return
        stop = self._looking = Event()
        self._busy[PARTS] = stop
        seen = {
            view: (one.framing, one.silhouette) for view, one in self.framed_silhouettes().items()
        }
        taken = {view: self.laid[view].taken for view in seen}
        height = self.studio.survey.height or self.studio.plan_as_made().from_height_mm
        bench = self.studio.bench

        def told(share: float) -> bool:
            for view in seen:
                self.progress.emit(view, 0.01 + 0.98 * share)
            return not stop.is_set()

        def work() -> Proposal:
            from bambola.core.plan.reading.proposing import propose_figure
            from bambola.core.sight.framing import taken_apart
            from bambola.core.sight.silhouette import CancelledError

            views = {}
            for n, (view, (framing, silhouette)) in enumerate(seen.items()):
                if not told(0.3 * n / len(seen)):
                    raise CancelledError
                picture = taken[view]
                if view == "side" and looks_left is not None:
                    framing = framing.replaced(flipped=not looks_left)
                views[view] = taken_apart(framing, picture.pixels, silhouette, picture.scale)
            return propose_figure(
                views,
                height,
                bench,
                tr("New figure"),
                part_name,
                lambda s: told(0.3 + 0.7 * s),
                plans,
                way_is_told=looks_left is not None,
            )

        def done(found: Proposal | Exception) -> None:
            from bambola.core.sight.silhouette import CancelledError

            self._busy.pop(PARTS, None)
            for view in seen:
                self.progress.emit(view, 1.0)
            if isinstance(found, CancelledError | CalledOffError):
                self.trouble.emit(tr("Looking for the parts was cancelled."))
            elif isinstance(found, ValueError):
                self.studio.refuse(found)
            elif isinstance(found, Exception):
                self.trouble.emit(log_error(found))
            elif not stop.is_set():
                then(found)

        self._background.do(work, done, done)

    @property
    def looks_for_parts(self) -> bool:
        """Whether it is looking for parts."""
        return PARTS in self._busy

    def stop(self, view: Sight) -> None:
        """Cancel reading or separating a view, and looking for parts."""
        self._looking.set()
        if view in self._reading:
            self._reading[view][1].set()
        if view in self.laid:
            self.laid[view].stop.set()

    def _no_silhouette(self, view: Sight, key: object, error: Exception) -> None:
        from bambola.core.sight.silhouette import CancelledError

        if isinstance(error, CancelledError | CalledOffError):
            why = tr("Cutting out the figure was cancelled; you can draw its parts by hand.")
        else:
            why = log_error(error)
        self._take_silhouette(view, key, None, why)

    def _take_silhouette(
        self, view: Sight, key: object, found: Silhouette | None, why: str = ""
    ) -> None:
        if self._busy.get(view) != key:
            return
        del self._busy[view]
        self.progress.emit(view, 1.0)
        laid = self.laid.get(view)
        if laid is None or laid.found_for != key:
            return
        laid.silhouette = found
        if found is None:
            self.trouble.emit(why)
        elif found.is_empty:
            self.trouble.emit(
                tr(
                    "No figure was found in the {view} picture: mark it with a stroke or two, or draw its "
                    "parts by hand.",
                    view=view,
                )
            )
        elif view in self._fresh:
            self._tell_faults(view, found)
            self._frame_by(view, found)
        self._fresh.discard(view)
        self.changed.emit(view)

    def _tell_faults(self, view: Sight, found: Silhouette) -> None:
        """Tell what is wrong with a new picture, which is used all the same."""
        from bambola.core.sight.framing import are_swapped, told_of

        front, side = self.silhouette("front"), self.silhouette("side")
        if view in ("front", "side") and front and side and are_swapped(front, side):
            self.trouble.emit(self.studio.say(Fact("sight.swapped")))
        wrong = told_of(found)
        if wrong is not None:
            told = self.studio.say(wrong)
            self.trouble.emit(tr("The {view} picture: {told}.", view=view, told=told))

    def _frame_by(self, view: Sight, found: Silhouette) -> None:
        """Set ground line, midline and scale of a new picture from the figure in it."""
        from bambola.core.sight.framing import find_framing as laid_down

        self.studio.let_go()  # a change may be under way
        survey, framing = self.studio.survey, self.studio.survey.framing(view)
        if framing is None or self.studio.figure is None:
            return
        height = survey.height or self.studio.plan_as_made().from_height_mm
        other = next((f.mm_px for f in survey.framings if f.view == "front" and f.mm_px), None)
        framed = laid_down(framing, found, height, other)
        self.studio.edit(tr("Frame the picture"), survey=survey.framed(framed))

    def close(self) -> None:
        """Cancel everything and accept nothing more."""
        self._looking.set()
        for laid in self.laid.values():
            laid.stop.set()
        for _, stop in self._reading.values():
            stop.set()
        self._background.close()


def _silhouette_key(framing: Framing) -> object:
    """Return the key of everything a silhouette depends on."""
    return framing.picture, framing.strokes, framing.crop, framing.turn if framing.crop else 0.0


def _screen_image(pixels: NDArray[np.uint8]) -> QPixmap:
    """Return the image for the screen, reduced if it is huge."""
    height, width, _ = pixels.shape
    every = max(1, max(height, width) // _SHOWN_PX)
    small = np.ascontiguousarray(pixels[::every, ::every])
    rows, columns, _ = small.shape
    image = QImage(small.tobytes(), columns, rows, 3 * columns, QImage.Format.Format_RGB888)
    return QPixmap.fromImage(image.copy())

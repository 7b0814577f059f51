"""Renders figures off the interface thread; of the requests under one name only the newest is followed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap

from bambola.core.relief import Camera, Picture, Stage, portrait, stage_of
from bambola.core.solids import Placement
from bambola.desk.running.background import Background
from bambola.store import KeptPictures


@dataclass(frozen=True)
class RenderRequest:
    """A requested picture: its figure, view and fineness; with ``kept``, one cached by an earlier session
    will do, however fine it is."""

    placement: Placement
    camera: Camera
    step: float
    smooth: int
    kept: bool = False


@dataclass(frozen=True)
class RenderResult:
    """A finished picture with its pixmap."""

    shot: RenderRequest
    picture: Picture
    pixmap: QPixmap


def to_image(pixels: np.ndarray) -> QImage:
    """Return RGBA pixels (rows, columns, 4) as an image that owns its memory."""
    rows, columns, _ = pixels.shape
    data = np.ascontiguousarray(pixels).tobytes()
    return QImage(data, columns, rows, 4 * columns, QImage.Format.Format_RGBA8888).copy()


class RenderQueue(QObject):
    """Renders pictures one at a time in the background; a newer request replaces a waiting one. Each is
    delivered by ``developed``, or reported by ``spoilt`` with its error."""

    developed = pyqtSignal(str, object)
    spoilt = pyqtSignal(str, object)

    def __init__(self, colours: dict[str, str]) -> None:
        super().__init__()
        self.colours = colours
        self._background = Background("darkroom")
        self._waiting: dict[str, RenderRequest] = {}
        self._busy: set[str] = set()
        self._closed = False
        self._stages: list[tuple[Placement, Stage]] = []
        self._kept = KeptPictures()

    def request(self, name: str, shot: RenderRequest) -> None:
        """Request a picture under ``name``; it is delivered by :attr:`developed`."""
        if self._closed:
            return
        self._waiting[name] = shot
        self._start_next(name)

    def cache_picture(self, made: RenderResult) -> None:
        """Cache a picture for the next session."""
        figure, camera = made.shot.placement.figure, made.shot.camera
        colours = dict(self.colours)
        self._background.do(
            lambda: self._kept.add(figure, camera, colours, made.picture),
            lambda _: None,
            lambda _: None,  # without it the next start takes a little longer
        )

    @property
    def is_idle(self) -> bool:
        """Whether no picture is being rendered or waiting."""
        return not self._busy and not self._waiting

    def close(self) -> None:
        """Drop all requests and accept no more."""
        self._closed = True
        self._waiting.clear()
        self._background.close()

    def _start_next(self, name: str) -> None:
        if name in self._busy or name not in self._waiting:
            return
        shot = self._waiting.pop(name)
        self._busy.add(name)
        self._background.do(
            lambda: self._cast_picture(shot),
            lambda picture: self._finish_render(name, shot, picture),
            lambda error: self._report_failure(name, error),
        )

    def _finish_render(self, name: str, shot: RenderRequest, picture: Picture) -> None:
        self._busy.discard(name)
        self.developed.emit(name, _render_result(shot, picture))
        self._start_next(name)

    def _report_failure(self, name: str, error: Exception) -> None:
        """Report a failed picture: the one before stays, and the next request is followed."""
        self._busy.discard(name)
        self.spoilt.emit(name, error)
        self._start_next(name)

    def _cast_picture(self, shot: RenderRequest) -> Picture:
        if shot.kept:
            kept = self._kept.find(shot.placement.figure, shot.camera, self.colours)
            if kept is not None:
                return kept
        stage = next((s for p, s in self._stages if p is shot.placement), None)
        if stage is None:
            stage = stage_of(shot.placement)
            self._stages = [(shot.placement, stage), *self._stages[:3]]
        return portrait(stage, shot.camera, shot.step, self.colours, shot.smooth)


def _render_result(shot: RenderRequest, picture: Picture) -> RenderResult:
    return RenderResult(shot, picture, QPixmap.fromImage(to_image(picture.pixels)))

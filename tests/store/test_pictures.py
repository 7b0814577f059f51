"""Pictures kept from one start to the next."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.solids import place
from bambola.demo import TOAD, load_demo
from bambola.store import KeptPictures, caches
from tests.children import modules_of_room, output_of

COLOURS = {"core-batt": "#dddddd"}


def test_cached_picture_depends_on_figure_view_and_code(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    figure, camera = load_demo(TOAD).figure, Camera()
    picture = portrait(stage_of(place(figure)), camera, 1.0, COLOURS)
    kept = KeptPictures(tmp_path / "kept")
    assert kept.find(figure, camera, COLOURS) is None
    kept.add(figure, camera, COLOURS, picture)
    again = KeptPictures(tmp_path / "kept").find(load_demo(TOAD).figure, camera, dict(COLOURS))
    assert again is not None
    np.testing.assert_array_equal(again.pixels, picture.pixels)
    np.testing.assert_array_equal(again.owner, picture.owner)
    assert (again.parts, again.left, again.top, again.step) == (
        picture.parts, picture.left, picture.top, picture.step,
    )  # fmt: skip
    assert kept.find(figure.replaced(name="Another toad"), camera, COLOURS) is None
    assert kept.find(figure, Camera(turn=90.0), COLOURS) is None
    assert kept.find(figure, camera, {"core-batt": "#dddddc"}) is None
    monkeypatch.setattr(caches, "_code_of", lambda rooms: b"other code")
    assert kept.find(figure, camera, COLOURS) is None


@pytest.mark.parametrize(
    ("room", "rooms"), [("solids", caches._SOLID_ROOMS), ("relief", caches._PICTURE_ROOMS)]
)
def test_cache_key_covers_all_dependencies(room: str, rooms: tuple[str, ...]) -> None:
    """The folder of shapes was left out: after an upgrade old volumes were taken for new ones."""
    core = Path(caches.bambola.core.__path__[0])
    covered = {
        ".".join(p.relative_to(core).with_suffix("").parts) for p in caches.modules_of(rooms)
    }
    loaded = {
        name.removeprefix("bambola.core.") for name in output_of(modules_of_room, room).split()
    }
    # What words facts, what remembers and how values are made changes no number.
    left_out = {"facts", "memo", "frozen"} | {n for n in loaded if f"{n}.__init__" in covered}
    assert loaded - left_out <= covered, loaded - left_out - covered


def test_damaged_or_oversized_pictures_are_not_cached(
    tmp_path: Path,
) -> None:
    figure, camera = load_demo(TOAD).figure, Camera()
    picture = portrait(stage_of(place(figure)), camera, 2.0, COLOURS)
    kept = KeptPictures(tmp_path / "kept")
    kept.add(figure, camera, COLOURS, picture)
    (path,) = kept.folder.glob("*.npz")
    whole = path.read_bytes()
    for damage in (b"", whole[: len(whole) // 2], b"PK" + b"\0" * 100):
        path.write_bytes(damage)
        assert kept.find(figure, camera, COLOURS) is None
    # One whose owners are more than its parts would point beyond them.
    np.savez(
        path,
        pixels=picture.pixels,
        owner=picture.owner + np.int16(len(picture.parts)),
        told=np.frombuffer(b'[["body"], 0, 0, 1]', "u1"),
    )
    assert kept.find(figure, camera, COLOURS) is None
    (tmp_path / "file").write_text("no folder")
    nowhere = KeptPictures(tmp_path / "file" / "x")
    nowhere.add(figure, camera, COLOURS, picture)
    assert nowhere.find(figure, camera, COLOURS) is None

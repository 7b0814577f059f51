"""Damaged and hostile files: refused in words, and nothing that is open is lost."""

from __future__ import annotations

import io
import json
import os
import random
import threading
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from pytestqt.qtbot import QtBot

from bambola.core.figure import DocumentError
from bambola.core.relief import Camera
from bambola.demo import BADGER, HERON, PICTURES, TOAD
from bambola.desk.kit import pictures
from bambola.desk.running import crash_log
from bambola.desk.shell.window import Window
from bambola.files import pictures as intake
from bambola.files.limited import StoppedError
from bambola.files.picture_job import (
    PictureError,
    from_photograph,
    from_svg,
    self_contained,
)
from bambola.files.pictures import read_picture
from bambola.shipped import default_bench
from bambola.store import open_design
from tests.calm import helpers_worked_s
from tests.effort import tries

SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60" height="90"><rect x="20" y="10" width="20" '
    'height="70" fill="#844"/></svg>'
)


def encoded(kind: str) -> bytes:
    pixels = np.random.default_rng(2).integers(0, 255, (90, 70, 3), dtype=np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, kind)
    return buffer.getvalue()


def spoilt(data: bytes, rng: random.Random) -> bytes:
    """``data`` cut short, overwritten, stuffed or emptied."""
    at = rng.randrange(len(data))
    how = rng.randrange(5)
    if how == 0:
        return data[:at]
    if how == 1:
        junk = bytes(rng.randrange(256) for _ in range(rng.randrange(1, 40)))
        return data[:at] + junk + data[at + len(junk) :]
    if how == 2:
        return data[:at] + bytes(rng.randrange(64)) + data[at:]
    if how == 3:
        return bytes(rng.randrange(256) for _ in range(rng.randrange(400)))
    swapped = bytearray(data)
    for _ in range(12):
        swapped[rng.randrange(len(data))] ^= 1 << rng.randrange(8)
    return bytes(swapped)


@pytest.mark.usefixtures("qapp")
def test_two_hundred_damaged_pictures_are_read_or_refused_in_sentence() -> None:
    rng = random.Random(11)
    sources = [
        ("a.png", encoded("PNG")), ("a.jpg", encoded("JPEG")), ("a.webp", encoded("WEBP")),
        ("a.svg", SVG.encode()),
    ]  # fmt: skip
    refused = 0
    for i in range(200):
        name, data = sources[i % len(sources)]
        decode = from_svg if name == "a.svg" else from_photograph
        try:
            read = decode(spoilt(data, rng), name)
        except PictureError as error:
            refused += 1
            said = str(error)
            assert said.startswith(name) and said.endswith(".") and "\n" not in said
        else:
            assert read.mode == "RGB" and len(read.tobytes()) == 3 * read.width * read.height
    assert refused > 80


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("huge.png", None, "megapixels"),
        ("tiny.png", Image.new("RGB", (4, 4)), "too few"),
        ("text.png", b"not a picture", "use PNG, JPEG, WebP or SVG"),
        ("gone.png", "missing", "cannot be read"),
        ("empty.svg", b"<svg/>", "damaged or empty"),
        ("bomb.gif", b"GIF89a", "use PNG, JPEG, WebP or SVG"),
    ],
)
def test_pictures_that_cannot_be_measured_on_are_refused(
    tmp_path: Path, name: str, data: object, says: str
) -> None:
    path = tmp_path / name
    if data is None:
        Image.new("1", (20_000, 20_000)).save(path)
    elif isinstance(data, Image.Image):
        data.save(path)
    elif isinstance(data, bytes):
        path.write_bytes(data)
    with pytest.raises(PictureError, match=says):
        read_picture(path)


def test_picture_is_kept_no_finer_than_it_is_looked_at(tmp_path: Path) -> None:
    stripes = Image.new("RGB", (3000, 1500), (40, 40, 40))
    stripes.paste((200, 100, 40), (1500, 0, 3000, 1500))
    stripes.save(tmp_path / "large.png")
    taken = read_picture(tmp_path / "large.png")
    assert (taken.width, taken.height) == (3000, 1500) and taken.pixels.shape == (1000, 2000, 3)
    assert taken.scale == pytest.approx(2 / 3)
    assert taken.pixels[500, 990].tolist() == [40, 40, 40]
    assert taken.pixels[500, 1010].tolist() == [200, 100, 40]


def test_every_kind_of_picture_is_read_upright_and_over_white(tmp_path: Path) -> None:
    half = Image.new("RGBA", (60, 40), (200, 0, 0, 0))
    half.paste((10, 120, 10, 255), (0, 0, 30, 40))
    for kind in ("png", "webp"):
        path = tmp_path / f"half.{kind}"
        half.save(path, lossless=True) if kind == "webp" else half.save(path)
        pixels = read_picture(path).pixels
        assert pixels.shape == (40, 60, 3)
        assert pixels[20, 10] == pytest.approx([10, 120, 10], abs=2)
        assert pixels[20, 50] == pytest.approx([255, 255, 255], abs=1)
    turned = Image.new("RGB", (60, 40), (9, 9, 9))
    exif = turned.getexif()
    exif[0x0112] = 6
    turned.save(tmp_path / "turned.jpg", exif=exif)
    assert read_picture(tmp_path / "turned.jpg").pixels.shape == (60, 40, 3)
    (tmp_path / "drawn.svg").write_text(SVG)
    drawn = read_picture(tmp_path / "drawn.svg").pixels
    assert drawn.shape == (2000, 1333, 3) and drawn[1000, 666, 0] == 0x88


NESTED = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
    'width="60" height="60">'
    '<g id="a0"><rect width="9" height="9"/></g>'
    + "".join(
        f'<g id="a{i}">' + f'<use xlink:href="#a{i - 1}"/>' * 10 + "</g>" for i in range(1, 9)
    )
    + '<use xlink:href="#a8"/></svg>'
)


def test_picture_that_never_ends_is_ended(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "nested.svg"
    path.write_text(NESTED)
    monkeypatch.setattr(intake, "PATIENCE_S", 1.5)
    start = helpers_worked_s()
    with pytest.raises(PictureError, match="takes too long"):
        read_picture(path)
    assert helpers_worked_s() - start < 3
    monkeypatch.undo()
    stop = threading.Event()
    threading.Timer(0.3, stop.set).start()
    with pytest.raises(StoppedError):
        read_picture(path, stop)
    assert helpers_worked_s() - start < 6


def test_pipe_is_no_picture(tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "pipe.png")
    with pytest.raises(PictureError, match="a pipe"):
        read_picture(tmp_path / "pipe.png")


@pytest.mark.usefixtures("qapp")
def test_drawing_fetches_nothing() -> None:
    drawn = (
        '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">'
        '<image xlink:href="file:///etc/passwd"/><image href="/etc/passwd"/><image href="http://x/y.png"/>'
        '<use xlink:href="#mine"/><image href="data:image/png;base64,AA"/></svg>'
    )
    kept = self_contained(drawn.encode(), "a.svg").decode()
    assert "passwd" not in kept and "http://x" not in kept
    assert "#mine" in kept and "data:image" in kept
    used = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" '
    used += (
        'height="40"><defs><rect id="r" width="40" height="40"/></defs><use xlink:href="#r"/></svg>'
    )
    assert from_svg(used.encode(), "used.svg").getpixel((0, 0)) == (0, 0, 0)
    bomb = '<!DOCTYPE s [<!ENTITY a "' + "x" * 1000 + '">'
    bomb += "".join(f'<!ENTITY {chr(98 + i)} "{f"&{chr(97 + i)};" * 20}">' for i in range(8))
    with pytest.raises(PictureError, match="damaged"):
        self_contained(f"{bomb}]><svg>&i;</svg>".encode(), "bomb.svg")


def test_window_closes_at_once_while_picture_hangs(
    new_window: Callable[[], Window], qtbot: QtBot, tmp_path: Path
) -> None:
    window = new_window()
    window.open_demo(HERON)
    window.go_to(0)
    path = tmp_path / "nested.svg"
    path.write_text(NESTED)
    window.measure_station.sighting.read_picture("front", path)
    qtbot.wait(300)
    window.studio.undo_stack.setClean()
    start = time.monotonic()
    assert window.close() and time.monotonic() - start < 0.5


def hostile(raw: object, rng: random.Random) -> object:
    """A design with one of its values, anywhere, made into something it should not be."""
    nasty = [None, -1, 1e308, "", "x" * 3000, [], {}, [[[]]], True, "../../x", {"kind": "rope"}, 0]
    at, path = raw, []
    while isinstance(at, dict | list) and at and (len(path) < 2 or rng.random() < 0.8):
        key = rng.choice(list(at)) if isinstance(at, dict) else rng.randrange(len(at))
        path.append((at, key))
        at = at[key]  # type: ignore[index]
    holder, key = path[-1]
    if rng.random() < 0.2:
        del holder[key]  # type: ignore[index]
    else:
        holder[key] = rng.choice(nasty)  # type: ignore[index]
    return raw


def test_hostile_designs_are_opened_or_refused_in_sentence(tmp_path: Path) -> None:
    rng = random.Random(5)
    sources = [path.read_text() for path in (BADGER, HERON, TOAD)]
    path, refused = tmp_path / "hostile.bambola.json", 0
    for i in range(tries(2000)):
        text = sources[i % 3]
        if i % 2:
            path.write_bytes(spoilt(text.encode(), rng))
        else:
            path.write_text(json.dumps(hostile(json.loads(text), rng)))
        try:
            open_design(path, default_bench())
        except DocumentError as error:
            refused += 1
            assert "\n" not in str(error) and len(str(error)) < 1000
    assert refused > 0.6 * tries(2000)


def test_thread_error_is_reported_once(
    new_window: Callable[[], Window], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    window = new_window()
    monkeypatch.setattr(crash_log, "log_path", lambda: tmp_path / "mishaps.log")

    def spoil(*_: object) -> None:
        raise ZeroDivisionError("a picture thread stumbles")

    monkeypatch.setattr(pictures, "portrait", spoil)
    window.open_demo(HERON)
    qtbot.waitUntil(lambda: "hit an error" in window.message.text, timeout=20_000)
    monkeypatch.undo()
    window.resize_station.table.turn_to(Camera(turn=30.0))
    qtbot.waitUntil(lambda: window.resize_station.table.is_pictured, timeout=20_000)


def test_bad_file_does_not_lose_open_design(
    new_window: Callable[[], Window], qtbot: QtBot, tmp_path: Path
) -> None:
    window = new_window()
    window.open_demo(HERON)
    window.go_to(0)
    station = window.measure_station
    station.sighting.read_picture("side", PICTURES / "heron-side-plain.jpg")
    qtbot.waitUntil(lambda: station.sighting.silhouette("side") is not None, timeout=20_000)
    figure, survey = window.studio.figure, window.studio.survey
    bad = tmp_path / "bad.jpg"
    bad.write_bytes((PICTURES / "heron-side-plain.jpg").read_bytes()[:5000])
    with qtbot.waitSignal(station.sighting.trouble, timeout=10_000):
        station.sighting.read_picture("side", bad)
    assert window.studio.figure is figure and window.studio.survey == survey
    assert station.sighting.silhouette("side") is not None and "bad.jpg" in window.message.text
    design = tmp_path / "bad.bambola.json"
    design.write_text('{"bambola": 1')
    window.studio.undo_stack.setClean()
    assert not window.files.open_path(design)
    assert window.studio.figure is figure and window.studio.survey == survey

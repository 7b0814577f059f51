"""Pictures that are damaged, endless, huge or no pictures: read, or refused in a sentence, in time."""

from __future__ import annotations

import io
import os
import random
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PIL import Image

from bambola.files.picture_job import PictureError
from bambola.files.pictures import PATIENCE_S, read_picture
from tests.torture.tally import Tally

SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="90" '
    'height="90">{}</svg>'
)


def _photograph(rng: random.Random) -> tuple[str, bytes]:
    kind = rng.choice(["PNG", "JPEG", "WEBP"])
    out = io.BytesIO()
    Image.effect_noise((200, 160), 60).convert("RGB").save(out, kind)
    data = bytearray(out.getvalue())
    for _ in range(rng.choice([0, 1, 5, 50])):
        data[rng.randrange(len(data))] ^= 1 << rng.randrange(8)
    return f"a.{kind.lower()}", bytes(data[: rng.choice([len(data), rng.randrange(len(data))])])


def _drawing(rng: random.Random) -> tuple[str, bytes]:
    wild = [
        "".join(f'<rect x="{rng.random() * 90}" width="3" height="3"/>' for _ in range(20_000)),
        "".join(
            f'<g id="a{i}">' + f'<use xlink:href="#a{i - 1}"/>' * 10 + "</g>" for i in range(1, 7)
        ) + '<rect id="a0" width="9" height="9"/><use xlink:href="#a6"/>',
        '<image xlink:href="file:///dev/zero" width="9" height="9"/>',
        '<text x="9" y="40">Badger</text>', "<g>" * 3000, "",
    ]  # fmt: skip
    data = SVG.format(rng.choice(wild)).encode()
    if rng.random() < 0.4:
        at = rng.randrange(len(data))
        data = data[:at] + rng.randbytes(5) + data[at + 5 :]
    return "a.svg", data


def _no_file(rng: random.Random, folder: Path) -> Path:
    path = folder / "thing.png"
    kinds: list[Callable[[], object]] = [
        lambda: os.mkfifo(path), lambda: path.mkdir(), lambda: path.symlink_to(path), path.touch,
        lambda: path.symlink_to("/dev/zero"), lambda: path.symlink_to("/proc/self/mem"),
    ]  # fmt: skip
    rng.choice(kinds)()
    return path


def read(tally: Tally, count: int, seed: int) -> None:
    """Read hostile pictures, each by the program that the window starts for it."""
    for i in range(count):
        rng = random.Random(f"{seed}-{i}")
        with tempfile.TemporaryDirectory() as name:
            if i % 5 == 4:
                path = _no_file(rng, Path(name))
            else:
                called, data = _drawing(rng) if i % 5 == 3 else _photograph(rng)
                path = Path(name) / called
                path.write_bytes(data)
            tally.read(f"picture {seed}-{i}", partial(read_picture, path), PictureError, PATIENCE_S)

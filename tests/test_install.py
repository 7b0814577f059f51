"""Put into a user's menus, started from there with a design, and taken away without a trace."""

from __future__ import annotations

import shlex
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest

from bambola.demo import TOAD
from benchmarks.display import display

ROOT = Path(__file__).parents[1]
ENTRY = "share/applications/org.bambola.Bambola.desktop"


def install(prefix: Path, *more: str) -> str:
    venv = Path(sys.executable).parents[1]
    command = [sys.executable, str(ROOT / "scripts/install"), str(venv), str(prefix), *more]
    return subprocess.run(command, check=True, capture_output=True, text=True).stdout


def entry_of(prefix: Path) -> dict[str, str]:
    lines = (prefix / ENTRY).read_text(encoding="utf-8").splitlines()
    return dict(line.split("=", 1) for line in lines if "=" in line)


@pytest.fixture(scope="module")
def prefix(tmp_path_factory: pytest.TempPathFactory) -> Path:
    made = tmp_path_factory.mktemp("home") / "with a space"
    assert "in the menus" in install(made)
    return made


def test_pages_and_completion_tell_of_every_option(prefix: Path) -> None:
    options = {
        "bambola": "height",
        "bambola-gui": "new",
        "bambola-scale": "step",
        "bambola-caliper": "plain",
        "bambola-camera": "every",
    }
    for command, option in options.items():
        page = (prefix / f"share/man/man1/{command}.1").read_text(encoding="utf-8")
        assert page.startswith(".TH") and option in page
        for shell in ("bash-completion/completions/", "zsh/site-functions/_"):
            assert f"--{option}" in (prefix / f"share/{shell}{command}").read_text(encoding="utf-8")
    # Each completes by a function of its own: a shell that has loaded two would follow the later one.
    pages = (prefix / "share/bash-completion/completions").iterdir()
    functions = {page.read_text(encoding="utf-8").split("complete -o ")[-1] for page in pages}
    assert len({text.split("-F ")[1].split()[0] for text in functions}) == len(options)
    told = subprocess.run([prefix / "bin/bambola", "--version"], capture_output=True, text=True)
    assert told.stdout.startswith("Bambola ")


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="there is no X server here")
def test_a_design_is_opened_from_the_menu_entry_on_a_display(prefix: Path, tmp_path: Path) -> None:
    entry = entry_of(prefix)
    assert entry["MimeType"] == "application/x-bambola-design+json;"
    command = [str(TOAD) if word == "%f" else word for word in shlex.split(entry["Exec"])]
    shot = tmp_path / "seen.png"
    with display() as environment:
        for name in ("DATA", "CONFIG", "CACHE"):
            environment[f"XDG_{name}_HOME"] = str(tmp_path / name)
        command += ["--screenshot", str(shot)]
        subprocess.run(command, check=True, timeout=120, env=environment)
    assert shot.stat().st_size > 20_000 and time.time() - shot.stat().st_mtime < 300


def test_nothing_is_left_behind(tmp_path: Path) -> None:
    kept = tmp_path / "share/applications/other.desktop"
    kept.parent.mkdir(parents=True)
    kept.write_text("[Desktop Entry]")
    install(tmp_path)
    assert (tmp_path / ENTRY).is_file()
    assert "untouched" in install(tmp_path, "--remove")
    left = [p for p in tmp_path.rglob("*") if "bambola" in p.name.lower() and not p.is_dir()]
    assert left == [] and kept.is_file()

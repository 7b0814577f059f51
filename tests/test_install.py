"""Put into a user's menus, started from there with a design, and taken away without a trace."""

from __future__ import annotations

import argparse
import shlex
import shutil
import subprocess
import sys
import time
import zipfile
from pathlib import Path

import pytest

from bambola import cli
from bambola.demo import TOAD
from bambola.desk.shell import app
from bambola.devices import simulated_caliper, simulated_camera, simulated_scale
from bambola.shipped import menus
from benchmarks.display import display

ROOT = Path(__file__).parents[1]
COMMANDS = {
    "bambola": (cli.parser, "height"),
    "bambola-gui": (app.parser, "integrate"),
    "bambola-scale": (simulated_scale.parser, "step"),
    "bambola-caliper": (simulated_caliper.parser, "plain"),
    "bambola-camera": (simulated_camera.parser, "every"),
}


def entry_of(share: Path) -> dict[str, str]:
    lines = (share / menus.ENTRY).read_text(encoding="utf-8").splitlines()
    return dict(line.split("=", 1) for line in lines if "=" in line)


def install(*given: object) -> str:
    command = [sys.executable, ROOT / "scripts/install", *map(str, given)]
    return subprocess.run(command, check=True, capture_output=True, text=True).stdout


def everything(folder: Path) -> set[Path]:
    return {path.relative_to(folder) for path in folder.rglob("*")}


def test_pages_and_completion_tell_of_every_option() -> None:
    """They are shipped as they were made: ``make pages`` makes them anew."""

    def options(parser: argparse.ArgumentParser) -> set[str]:
        found = {o for action in parser._actions for o in action.option_strings if o[:2] == "--"}
        for action in parser._actions:
            if isinstance(action, argparse._SubParsersAction):
                found |= set().union(*map(options, action.choices.values()))
        return found

    for command, (parser, one) in COMMANDS.items():
        asked = options(parser())
        assert f"--{one}" in asked
        page = (menus.SHARE / f"man/man1/{command}.1").read_text(encoding="utf-8")
        told = page.replace("\\-", "-")
        for section in ("NAME", "FILES", "EXAMPLES", "EXIT STATUS"):
            assert f".SH {section}" in page
        assert not [each for each in asked - {"--help"} if each not in told]
        for shell in ("bash-completion/completions/", "zsh/site-functions/_"):
            text = (menus.SHARE / f"{shell}{command}").read_text(encoding="utf-8")
            assert not [each for each in asked if each not in text]
    # Each completes by a function of its own: a shell that has loaded two would follow the later one.
    pages = (menus.SHARE / "bash-completion/completions").iterdir()
    functions = {page.read_text(encoding="utf-8").split("complete -o ")[-1] for page in pages}
    assert len({text.split("-F ")[1].split()[0] for text in functions}) == len(COMMANDS)


def test_install_makes_and_removes_environment(
    tmp_path: Path,
) -> None:
    wheels, stage = tmp_path / "wheels", tmp_path / "stage"
    wheels.mkdir()
    with zipfile.ZipFile(wheels / "felt-1-py3-none-any.whl", "w") as file:
        file.writestr("felt.py", "WOOL = 1")
    kept = stage / "usr/share/applications/other.desktop"
    kept.parent.mkdir(parents=True)
    kept.write_text("[Desktop Entry]")
    before = everything(stage)
    install("/usr", "--destdir", stage, "--wheels", wheels)
    start = (stage / "usr/bin/bambola").read_text()
    home = stage / "usr/lib/bambola"
    assert start.startswith("#!/usr/lib/bambola/bin/python\n") and "bambola.cli" in start
    assert [*home.rglob("felt.py")] and "include-system-site-packages = true" in (
        home / "pyvenv.cfg"
    ).read_text()
    assert str(stage) not in start and entry_of(stage / "usr/share")["Exec"] == "bambola-gui %f"
    assert set(COMMANDS) == {each.name for each in (stage / "usr/bin").iterdir()}
    assert "untouched" in install("/usr", "--destdir", stage, "--remove")
    assert everything(stage) == before


def test_wheel_install_adds_and_removes_desktop_files(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data here"))
    monkeypatch.setattr(sys, "argv", [str(Path(sys.executable).parent / "bambola-gui")])
    assert app.main(["--integrate", "on"]) == 0
    assert shlex.split(entry_of(tmp_path / "data here")["Exec"]) == [sys.argv[0], "%f"]
    assert {*menus.shared_files()} <= everything(tmp_path / "data here")
    assert app.main(["--integrate", "off"]) == 0
    assert not [path for path in everything(tmp_path) if "ambola" in path.name]


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="there is no X server here")
def test_design_is_opened_from_menu_entry_on_display(tmp_path: Path) -> None:
    menus.install_menus(tmp_path / "with a space", str(Path(sys.executable).parent / "bambola-gui"))
    entry = entry_of(tmp_path / "with a space")
    assert entry["MimeType"] == "application/x-bambola-design+json;application/pdf;"
    command = [str(TOAD) if word == "%f" else word for word in shlex.split(entry["Exec"])]
    shot = tmp_path / "seen.png"
    with display() as environment:
        for name in ("DATA", "CONFIG", "CACHE"):
            environment[f"XDG_{name}_HOME"] = str(tmp_path / name)
        command += ["--screenshot", str(shot)]
        subprocess.run(command, check=True, timeout=120, env=environment)
    assert shot.stat().st_size > 20_000 and time.time() - shot.stat().st_mtime < 300

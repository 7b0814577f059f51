"""What may stand under a name, and what becomes of it when it is read or written."""

from __future__ import annotations

import os
import signal
import socket
import stat
import subprocess
from pathlib import Path

import pytest

from bambola.files import ExportError, FileRefusedError, read_regular, write_whole
from tests.children import command_of, killed_while_writing


def _fifo(path: Path) -> Path:
    os.mkfifo(path)
    return path


def _socket(path: Path) -> Path:
    socket.socket(socket.AF_UNIX).bind(str(path))
    return path


def _loop(path: Path) -> Path:
    path.symlink_to(path)
    return path


def _empty(path: Path) -> Path:
    path.touch()
    return path


def _large(path: Path) -> Path:
    with path.open("wb") as file:
        file.truncate(10**12)  # takes no room on the disk
    return path


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (_fifo, "a pipe"), (_socket, "No such device"), (_loop, "symbolic links"), (_empty, "nothing in it"),
        (_large, "over 1 MB"), (lambda path: path.parent, "a folder"),
        (lambda path: Path("/dev/zero"), "a device"), (lambda path: Path("/proc/self/maps"), "nothing"),
        (lambda path: Path("/proc/kmsg"), "cannot be read"), (lambda path: path, "No such file"),
        (lambda path: path.with_name("x" * 5000), "too long"), (lambda path: Path("a\0b"), "have this name"),
        (lambda path: path.with_name("a\nb\udcff"), "a b?: it cannot be read"),
    ],
)  # fmt: skip
def test_what_is_no_plain_file_is_refused_at_once(tmp_path: Path, make, says: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(FileRefusedError, match=says.replace("?", r"\?")) as refused:
        read_regular(make(tmp_path / "thing"), 1_000_000, "a design")
    said = str(refused.value)
    assert "\n" not in said and len(said) < 300 and said.encode()


def test_file_is_read_up_to_its_limit(tmp_path: Path) -> None:
    path = tmp_path / "whole"
    path.write_bytes(b"x" * 3_000_000)
    assert read_regular(path, 3_000_000, "a design") == b"x" * 3_000_000
    with pytest.raises(FileRefusedError):
        read_regular(path, 2_999_999, "a design")


def test_link_stays_link_and_permissions_stay_what_they_were(tmp_path: Path) -> None:
    (tmp_path / "real").mkdir()
    real, link = tmp_path / "real" / "design.json", tmp_path / "link.json"
    real.write_text("old")
    real.chmod(0o600)
    link.symlink_to(real)
    write_whole(link, b"new", keep_previous=True)
    assert link.is_symlink() and real.read_text() == "new"
    assert stat.S_IMODE(real.stat().st_mode) == 0o600
    kept = real.with_name("design.json~")
    assert kept.read_text() == "old" and stat.S_IMODE(kept.stat().st_mode) == 0o600
    fresh = tmp_path / "fresh"
    old = os.umask(0o027)
    try:
        write_whole(fresh, b"x")
    finally:
        os.umask(old)
    assert stat.S_IMODE(fresh.stat().st_mode) == 0o640
    assert sorted(p.name for p in tmp_path.iterdir()) == ["fresh", "link.json", "real"]


def test_where_second_names_are_refused_previous_version_is_copied(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_: object) -> None:
        raise PermissionError(1, "Operation not permitted")

    monkeypatch.setattr(os, "link", refuse)
    path = tmp_path / "design.json"
    for text in (b"1", b"2", b"3"):
        write_whole(path, text, keep_previous=True)
    assert path.read_bytes() == b"3" and (tmp_path / "design.json~").read_bytes() == b"2"
    assert len(list(tmp_path.iterdir())) == 2


def test_longest_names_can_be_saved_and_no_pipe_is_replaced(tmp_path: Path) -> None:
    longest = tmp_path / ("x" * 255)
    for text in (b"1", b"2"):
        write_whole(longest, text, keep_previous=True)
    assert longest.read_bytes() == b"2" and len(list(tmp_path.iterdir())) == 1
    os.mkfifo(tmp_path / "pipe")
    with pytest.raises(ExportError, match="not an ordinary file"):
        write_whole(tmp_path / "pipe", b"x")


@pytest.mark.parametrize("fails", ["write", "fsync", "replace"])
def test_full_disk_leaves_what_was_there(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, fails: str
) -> None:
    path = tmp_path / "design.json"
    write_whole(path, b"old")

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    if fails == "write":  # a device that is always full stands for the disk
        monkeypatch.setattr(os, "fdopen", lambda *_: Path("/dev/full").open("wb"))  # noqa: SIM115
    else:
        monkeypatch.setattr(os, fails, full)
    with pytest.raises(ExportError, match=r"No space left on device.*unchanged"):
        write_whole(path, b"new" * 100)
    monkeypatch.undo()
    assert path.read_bytes() == b"old" and len(list(tmp_path.iterdir())) == 1


@pytest.mark.parametrize("at", ["fsync", "link", "replace"])
def test_what_killed_writer_left_goes_with_next_writing(tmp_path: Path, at: str) -> None:
    path, others = tmp_path / "a.json", tmp_path / "b.json"
    path.write_bytes(b"old")
    for target in (path, others):
        target.write_bytes(b"old")
        command = command_of(killed_while_writing, str(target), at)
        assert subprocess.run(command, check=False, timeout=60).returncode == -signal.SIGKILL
        assert target.read_bytes() == b"old"
    left = {each.name for each in tmp_path.iterdir()}
    write_whole(path, b"newest")
    assert path.read_bytes() == b"newest"
    remaining = {each.name for each in tmp_path.iterdir()} - {"a.json", "b.json"}
    # What another file's writer has left stays until that is written.
    assert len(left) - 2 == 2 * len(remaining) > 0
    write_whole(others, b"newest")
    assert {each.name for each in tmp_path.iterdir()} == {"a.json", "b.json"}

"""Asks for files and folders; every dialog opens in the folder last chosen in any of them."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

_last_folder = ""


def ask_open(parent: QWidget, words: str, kinds: str, folder: str = "") -> str:
    """Ask for a file to open and return its path; an empty text for none. It opens in ``folder`` if one is
    given."""
    path, _ = QFileDialog.getOpenFileName(parent, words, folder or last_folder(), kinds)
    remember_folder(path)
    return path


def ask_save(parent: QWidget, words: str, name: str, kinds: str) -> str:
    """Ask where to save a file and return the path; an empty text for none. ``name`` is offered, in the last
    folder unless it names its own."""
    offered = name if Path(name).is_absolute() else str(Path(last_folder()) / name)
    path, _ = QFileDialog.getSaveFileName(parent, words, offered, kinds)
    remember_folder(path)
    return path


def ask_folder(parent: QWidget, words: str, folder: str = "") -> str:
    """Ask for a folder and return its path; an empty text for none."""
    path = QFileDialog.getExistingDirectory(parent, words, folder or last_folder())
    remember_folder(str(Path(path) / "x") if path else "")
    return path


def last_folder() -> str:
    """Return the folder last chosen; an empty text for none, or if it is gone."""
    return _last_folder if Path(_last_folder or "/nowhere").is_dir() else ""


def remember_folder(path: str) -> None:
    """Remember the folder of a chosen file."""
    global _last_folder
    if path:
        _last_folder = str(Path(path).parent)

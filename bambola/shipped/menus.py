"""What the desktop is told of Bambola: menu entry, icon, kind of file, manual pages, completion of commands.

Only what is shipped here is put into a folder such as ``/usr/share``, and removed from there. Nothing that
needs a package is imported: ``scripts/install`` reads this file by itself.
"""

from __future__ import annotations

import shutil
import subprocess
from collections.abc import Iterator
from pathlib import Path

SHARE = Path(__file__).parent / "share"
ENTRY = "applications/org.bambola.Bambola.desktop"
_STARTED = "Exec=bambola-gui %f"
_REFRESHED = (
    ("update-mime-database", "mime"),
    ("update-desktop-database", "applications"),
    ("gtk-update-icon-cache", "icons/hicolor"),
)


def shared_files() -> Iterator[Path]:
    """Return every file that the desktop is given, below the folder of what is shared."""
    return (path.relative_to(SHARE) for path in sorted(SHARE.rglob("*")) if path.is_file())


def install_menus(share: Path, command: str) -> None:
    """Put everything into a folder. The menu starts ``command``, a path or the name of one on the path."""
    for each in shared_files():
        target = share / each
        target.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(SHARE / each, target)
    entry = share / ENTRY
    text = entry.read_text(encoding="utf-8")
    quoted = f'"{command}"' if "/" in command else command
    entry.write_text(text.replace(_STARTED, f"Exec={quoted} %f"), encoding="utf-8")


def remove_menus(share: Path) -> None:
    """Take away what :func:`install_menus` puts there, and the folders that are empty then."""
    for each in shared_files():
        target = share / each
        target.unlink(missing_ok=True)
        for folder in target.parents:
            if folder == share or not folder.is_dir() or any(folder.iterdir()):
                break
            folder.rmdir()
    if not (
        share / "mime/packages"
    ).is_dir():  # what the desktop has gathered from these files alone
        shutil.rmtree(share / "mime", ignore_errors=True)
    for gathered in (share / "applications", share / "icons/hicolor"):
        if _is_gathered(gathered):
            shutil.rmtree(gathered, ignore_errors=True)


def _is_gathered(folder: Path) -> bool:
    """Return whether nothing is left in a folder but what the desktop has gathered."""
    return all(each.name in {"mimeinfo.cache", "icon-theme.cache"} for each in folder.glob("*"))


def refresh_desktop(share: Path) -> None:
    """Have the desktop look again, where it has the means."""
    for tool, folder in _REFRESHED:
        at = share / folder
        if shutil.which(tool) and at.is_dir():
            extra = ["--ignore-theme-index", "--force"] if tool == "gtk-update-icon-cache" else []
            subprocess.run([tool, *extra, at], check=False, capture_output=True)

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Document, DocumentError
from bambola.core.words import error_words
from bambola.files import ExportError
from bambola.store import Journal, open_design, save_design


@pytest.fixture
def saved(tmp_path: Path, badger: Document) -> Path:
    path = tmp_path / "badger.bambola.json"
    save_design(path, badger.figure, badger.brief)
    return path


def test_a_design_comes_back_as_it_was_saved(saved: Path, badger: Document, bench: Bench) -> None:
    assert open_design(saved, bench) == badger


def test_the_previous_version_is_kept(saved: Path, badger: Document, bench: Bench) -> None:
    save_design(saved, badger.figure, badger.brief.at(99))
    save_design(saved, badger.figure, badger.brief.at(77))
    assert open_design(saved, bench).brief.height == 77
    assert open_design(saved.with_name(saved.name + "~"), bench).brief.height == 99
    assert len(list(saved.parent.iterdir())) == 2


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda path: path.write_bytes(b"0" * 20_000_001), "20 MB"),
        (lambda path: path.unlink(), "cannot be read"),
        (lambda path: path.write_bytes(path.read_bytes()[:-300]), "damaged"),
        (
            lambda path: path.write_text(path.read_text().replace('"core-batt"', '"moss"', 1)),
            "no wool “moss”",
        ),
    ],
)
def test_what_cannot_be_opened_is_said_in_one_sentence(
    saved: Path, bench: Bench, spoil, says: str
) -> None:  # type: ignore[no-untyped-def]
    spoil(saved)
    with pytest.raises(DocumentError) as error:
        open_design(saved, bench)
    said = error_words(error.value)
    assert says in said and "\n" not in said


def test_a_folder_is_no_design(tmp_path: Path, bench: Bench) -> None:
    with pytest.raises(DocumentError, match="cannot be read"):
        open_design(tmp_path, bench)


def crashed(journal: Journal) -> Path:
    """End a journal as a crash does: its lock goes, its entry stays."""
    (entry,) = journal.folder.glob("*.json")
    assert journal._lock is not None
    journal._lock.close()
    return entry


def test_unsaved_work_is_offered_until_it_is_adopted_and_saved(
    tmp_path: Path, badger: Document, bench: Bench
) -> None:
    journal = Journal(tmp_path / "journal")
    journal.write(badger.figure, Brief(height=123), tmp_path / "mine.json", seen="abc")
    crashed(journal)
    for _ in range(2):  # looked at and let go, it waits for another time
        later = Journal(tmp_path / "journal")
        (found,) = later.left_behind(bench)
        assert found.path == tmp_path / "mine.json" and found.seen == "abc"
        assert found.document and found.document.brief.height == 123
        assert found.document.figure == badger.figure
        assert Journal(tmp_path / "journal").left_behind(bench) == []  # one window at a time
        found.let_go()
    (found,) = later.left_behind(bench)
    later.adopt(found)
    later.write(badger.figure, Brief(height=124), None)
    assert len(list(journal.folder.glob("*.json"))) == 1
    later.clear()
    assert not list(journal.folder.iterdir())


def test_the_work_of_a_running_window_is_left_alone(
    tmp_path: Path, badger: Document, bench: Bench
) -> None:
    mine = Journal(tmp_path / "journal")
    mine.write(badger.figure, badger.brief, None)
    assert mine.left_behind(bench) == []
    assert Journal(tmp_path / "journal").left_behind(bench) == []
    (entry,) = mine.folder.glob("*.json")
    assert entry.name.startswith(f"{os.getpid()}-")
    mine.clear()
    assert not list(mine.folder.iterdir())
    mine.end()
    mine.write(badger.figure, badger.brief, None)  # still on its way when the window closed
    assert not list(mine.folder.iterdir())


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda text: "", "nothing in it"),
        (lambda text: "[]", "damaged"),
        (lambda text: '{"path": null}', "damaged"),
        (lambda text: '{"document": 5}', "damaged"),
        (lambda text: text[: len(text) // 2], "damaged"),
        (lambda text: text.replace('bambola\\": 1', 'bambola\\": 9'), "version 9"),
        (lambda text: text.replace("core-batt", "moss"), "no wool “moss”"),
    ],
)
def test_work_that_cannot_be_taken_is_told_of_and_stays(
    tmp_path: Path, badger: Document, bench: Bench, spoil, says: str
) -> None:  # type: ignore[no-untyped-def]
    journal = Journal(tmp_path / "journal")
    journal.write(badger.figure, badger.brief, None)
    entry = crashed(journal)
    spoilt = spoil(entry.read_text())
    entry.write_text(spoilt)
    (found,) = Journal(tmp_path / "journal").left_behind(bench)
    assert found.document is None and says in found.trouble and "\n" not in found.trouble
    found.let_go()
    assert entry.read_text() == spoilt
    (found,) = Journal(tmp_path / "journal").left_behind(bench)
    found.throw_away()
    assert not list(journal.folder.iterdir())


def test_a_journal_that_cannot_be_written_says_so(badger: Document, bench: Bench) -> None:
    journal = Journal(Path("/proc/none"))
    with pytest.raises(ExportError, match="could not be made"):
        journal.write(badger.figure, badger.brief, None)
    journal.clear()
    assert journal.left_behind(bench) == []


def test_a_journal_entry_is_plain_json(tmp_path: Path, badger: Document) -> None:
    journal = Journal(tmp_path)
    journal.write(badger.figure, badger.brief, None)
    (entry,) = tmp_path.glob("*.json")
    kept = json.loads(entry.read_text())
    assert (
        kept["path"] is None
        and json.loads(kept["document"])["figure"]["id"] == "lamplighter-badger"
    )


def test_the_work_of_a_process_that_was_killed_is_found(tmp_path: Path, bench: Bench) -> None:
    code = (
        "import os, sys; from pathlib import Path; from bambola.store import Journal;"
        "from bambola.demo import load_demo; d = load_demo();"
        "j = Journal(Path(sys.argv[1])); j.write(d.figure, d.brief.at(111), None); os.kill(os.getpid(), 9)"
    )
    subprocess.run([sys.executable, "-c", code, str(tmp_path)], check=False, timeout=60)
    (found,) = Journal(tmp_path).left_behind(bench)
    assert found.document and found.document.brief.height == 111

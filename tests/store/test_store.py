from __future__ import annotations

import io
import json
import os
import signal
import subprocess
import zlib
from collections.abc import Callable
from pathlib import Path

import pytest
from pypdf import PdfWriter

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Document, DocumentError
from bambola.core.words import error_words
from bambola.files import ExportError, limited
from bambola.store import Journal, open_design, save_design
from bambola.store.designs import design_of
from tests.calm import helpers_worked_s
from tests.children import command_of, killed_with_work


@pytest.fixture
def saved(tmp_path: Path, badger: Document) -> Path:
    path = tmp_path / "badger.bambola.json"
    save_design(path, badger.figure, badger.brief)
    return path


def test_design_comes_back_as_it_was_saved(saved: Path, badger: Document, bench: Bench) -> None:
    assert open_design(saved, bench) == badger


def test_previous_version_is_kept(saved: Path, badger: Document, bench: Bench) -> None:
    save_design(saved, badger.figure, badger.brief.at_height(99))
    save_design(saved, badger.figure, badger.brief.at_height(77))
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
    saved: Path, bench: Bench, spoil: Callable[[Path], object], says: str
) -> None:
    spoil(saved)
    with pytest.raises(DocumentError) as error:
        open_design(saved, bench)
    said = error_words(error.value)
    assert says in said and "\n" not in said


def test_folder_is_no_design(tmp_path: Path, bench: Bench) -> None:
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


def test_work_of_running_window_is_left_alone(
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
        (lambda text: text.replace('bambola\\": 4', 'bambola\\": 9'), "version 9"),
        (lambda text: text.replace("core-batt", "moss"), "no wool “moss”"),
    ],
)
def test_work_that_cannot_be_taken_is_told_of_and_stays(
    tmp_path: Path, badger: Document, bench: Bench, spoil: Callable[[Path], object], says: str
) -> None:
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


def test_journal_that_cannot_be_written_says_so(badger: Document, bench: Bench) -> None:
    journal = Journal(Path("/proc/none"))
    with pytest.raises(ExportError, match="could not be made"):
        journal.write(badger.figure, badger.brief, None)
    journal.clear()
    assert journal.left_behind(bench) == []


def test_journal_entry_is_plain_json(tmp_path: Path, badger: Document) -> None:
    journal = Journal(tmp_path)
    journal.write(badger.figure, badger.brief, None)
    (entry,) = tmp_path.glob("*.json")
    kept = json.loads(entry.read_text())
    assert (
        kept["path"] is None
        and json.loads(kept["document"])["figure"]["id"] == "lamplighter-badger"
    )


def test_work_of_process_that_was_killed_is_found(tmp_path: Path, bench: Bench) -> None:
    command = command_of(killed_with_work, str(tmp_path))
    assert subprocess.run(command, check=False, timeout=60).returncode == -signal.SIGKILL
    (found,) = Journal(tmp_path).left_behind(bench)
    assert found.document and found.document.brief.height == 111


def pdf_with(filters: bytes, parameters: bytes, stream: bytes) -> bytes:
    """A PDF by hand, to which what stands in ``stream`` is attached."""
    objects = (
        b"<</Type /Catalog /Names <</EmbeddedFiles <</Names [(a.bambola.json) 2 0 R]>>>> /Pages 4 0 R>>",
        b"<</Type /Filespec /F (a.bambola.json) /EF <</F 3 0 R>>>>",
        b"<</Length %d /Filter %s /DecodeParms %s>>\nstream\n%s\nendstream"
        % (len(stream), filters, parameters, stream),
        b"<</Type /Pages /Kids [] /Count 0>>",
    )
    made, places = b"%PDF-1.7\n", []
    for n, told in enumerate(objects, 1):
        places.append(b"%010d 00000 n \n" % len(made))
        made += b"%d 0 obj\n%s\nendobj\n" % (n, told)
    table = b"xref\n0 5\n0000000000 65535 f \n" + b"".join(places)
    return made + table + b"trailer <</Size 5 /Root 1 0 R>>\nstartxref\n%d\n%%%%EOF" % len(made)


def locked() -> bytes:
    writer, out = PdfWriter(), io.BytesIO()
    writer.add_blank_page(9, 9)
    writer.add_attachment("a.bambola.json", b"{}")
    writer.encrypt("secret")
    writer.write(out)
    return out.getvalue()


@pytest.mark.parametrize(
    "pdf",
    [
        pdf_with(b"/FlateDecode", b"<</Predictor 15 /Columns 1>>", zlib.compress(bytes(140_000_000), 9)),
        pdf_with(b"/FlateDecode", b"<</Predictor 15 /Columns 1000000>>", zlib.compress(b"\2" * 10**8, 9)),
        pdf_with(b"[" + b"/FlateDecode " * 300 + b"]", b"null", zlib.compress(b"x")),
        pdf_with(b"/LZWDecode", b"null", bytes(5_000_000)),
        pdf_with(b"/Wondrous", b"null", b"x"),
        locked(),
        b"%PDF-1.4\n1 0 obj <</Root 1 0 R /Names 1 0 R /EmbeddedFiles 1 0 R /Kids [1 0 R]>> endobj\nxref\n"
        b"0 2\n0000000000 65535 f \n0000000009 00000 n \ntrailer <</Size 2 /Root 1 0 R /Prev 0>>\nstartxref\n"
        b"95\n%%EOF",
        b"%PDF-1.4 torn",
    ],
    ids=["predictor", "wide rows", "chain", "lzw", "odd filter", "locked", "itself", "torn"],
)  # fmt: skip
def test_pdf_made_to_harm_is_refused_in_sentence_in_time(pdf: bytes) -> None:
    """One of 144 kB held the window for 98 seconds, one of 14.6 MB took 1.5 GB; others were tracebacks."""
    begun = helpers_worked_s()
    with pytest.raises(DocumentError) as refused:
        design_of(pdf, "a.pdf")
    assert str(refused.value) == "a.pdf: This PDF cannot be read; it may be damaged or locked."
    assert helpers_worked_s() - begun < 6  # its patience ends after four and a half


def test_busy_machine_is_no_damaged_packet(monkeypatch: pytest.MonkeyPatch) -> None:
    pdf = pdf_with(b"/FlateDecode", b"null", zlib.compress(b"{}"))
    monkeypatch.setattr(limited, "BUSY", 0.0)
    with pytest.raises(DocumentError, match="too busy just now"):
        design_of(pdf, "a.pdf")
    monkeypatch.undo()
    assert design_of(pdf, "a.pdf") == b"{}"


def test_design_within_large_pdf_is_read() -> None:
    long = b'{"x": "' + b"y" * 14_600_000 + b'"}'
    assert design_of(pdf_with(b"/FlateDecode", b"null", zlib.compress(long)), "a.pdf") == long

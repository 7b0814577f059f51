"""The window in a language made by machine: every text is in brackets, and none is cut off."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Callable, Iterator
from gettext import NullTranslations
from pathlib import Path

import pytest
from babel.messages.catalog import Catalog
from babel.messages.mofile import read_mo, write_mo
from babel.messages.pofile import read_po
from PyQt6.QtCore import QLocale
from PyQt6.QtWidgets import QDialog, QLabel, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from bambola import language
from bambola.cli import main
from bambola.core.armature import PROPERTIES
from bambola.core.facts import Mm, fact
from bambola.core.quantities import Units, parse_length
from bambola.core.words import Words
from bambola.demo import BADGER, HERON, TOAD
from bambola.desk.kit.swatch import SwatchDialog
from bambola.desk.kit.together_dialog import TogetherDialog
from bambola.desk.kit.true_size import ScreenDialog, TrueSize
from bambola.desk.session import settings
from bambola.desk.shell import help
from bambola.desk.shell.packet_dialog import PacketDialog
from bambola.desk.shell.stations import FACE, RESIZE, STATIONS
from bambola.desk.shell.window import Window
from bambola.desk.stations.measure.outfit import OutfitDialog
from bambola.desk.stations.menus import STEPS
from bambola.desk.stations.order.tools import Minding, Tools
from bambola.desk.stations.order.ways_sheet import WaysSheet
from bambola.desk.stations.order.week import WeekDialog
from bambola.desk.stations.resize.height_dialog import HeightDialog
from bambola.language import CATALOGUES
from tests.children import direction, output_of
from tests.desk.reading import painted, texts_of
from tests.effort import some, thorough
from tests.pseudo import Pseudo


class Mirrored(NullTranslations):
    """English words in a language that is said to run from right to left."""

    def info(self) -> dict[str, str]:
        return {"language": "ar"}


class Careless(NullTranslations):
    """Translations that ask for slots that their sentences do not have."""

    def gettext(self, message: str) -> str:
        return "mind {wert}"

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return "{n} Dr{ähte"


SAME = {"Letter", "Legal", "Bambola", "OK", "Cancel", "Save"}
"""The name, sizes of paper, and the words of the toolkit, which has catalogues of its own."""
UNITS = r"\b(mm|cm|min|oz|ft|sq)\b"
DAY = r"\b(Mon|Tue|Wed|Thu|Fri|Sat|Sun) \d+ [A-Z][a-z]+\b|\b[A-Z][a-z]+day\b|\b\d+ [A-Z][a-z]{2} \d{4}\b"


@pytest.fixture
def spoken() -> Iterator[None]:
    """The language made by machine, before there is a window."""
    language.set_language(Pseudo())
    yield
    language.choose_language()


def names_of(window: Window) -> list[str]:
    """What people have named themselves: parts, wools, wires; the longest first."""
    figure, bench = window.studio.figure, window.studio.bench
    assert figure is not None
    found = {
        figure.name,
        *(part.name for part in figure.parts),
        *(mark.name for mark in figure.marks),
    }
    found |= {*(each.name for each in figure.fittings), *(wire.name for wire in figure.wires)}
    found |= {part.plural for part in figure.parts if part.plural}
    found |= {wool.name for wool in bench.wools} | {stock.name for stock in bench.wire_stock}
    return sorted((name.lower() for name in found), key=len, reverse=True)


def bare(text: str, names: list[str]) -> str:
    """What is left of ``text`` without what is said in the language, named by people, or a number."""
    while (less := re.sub(r"⟦[^⟦⟧]*⟧", "", text)) != text:
        text = less
    text = re.sub(DAY, "", text).lower()
    for name in (*names, *PROPERTIES):
        text = text.replace(name, "")
    return "".join(re.findall("[a-z]{2,}", re.sub(UNITS, "", text)))


def walked(window: Window, qtbot: QtBot) -> Iterator[str]:
    """Every text of every station and face, with each part in hand; cut-off ones end with …"""
    assert window.studio.figure is not None
    for at in some(range(len(STATIONS)), 4):
        with painted() as told:
            window.go_to(at)
            page = window.pages[at]
            show = getattr(page, "show_face", None) or getattr(page, "go_to_step", None)
            for face in range(len(getattr(page, "faces", STEPS)) if show else 1):
                if show:
                    show(face)
                for part in some(window.studio.figure.parts, 2):
                    window.studio.selection.select_part(part.id)
                    qtbot.wait(3)
                window.grab()
                yield from texts_of(window)
        yield from (f"painted: {text}" for text in told if not text.endswith("…"))


@thorough
@pytest.mark.parametrize("demo", [BADGER, HERON, TOAD])
def test_every_text_of_window_is_said_in_language(
    spoken: None, new_window: Callable[[], Window], qtbot: QtBot, demo: Path
) -> None:
    window = new_window()
    texts = set(texts_of(window))  # the welcome
    window.open_demo(demo)
    texts |= set(walked(window, qtbot))
    names = names_of(window)
    assert len(texts) > 400
    escaped = {t for t in texts if bare(t.partition(": ")[2], names)}
    assert not {t for t in escaped if t.partition(": ")[2] not in SAME}


def dialogs(window: Window) -> Iterator[QDialog]:
    """Each dialog that asks for something."""
    studio, theme = window.studio, window.theme
    assert studio.figure is not None
    yield OutfitDialog(window, studio, studio.figure.parts[-1].id)
    yield SwatchDialog(window, studio, studio.bench.wools[0].id)
    yield WeekDialog(window, theme, studio.bench.free)
    yield Minding(window, studio)
    yield Tools(window, studio.bench)
    yield WaysSheet(window, studio, window.theme, window.darkroom)
    yield ScreenDialog(window, theme, TrueSize(window.settings))
    yield PacketDialog(window, studio, theme, window.settings, {})
    assert studio.figure is not None
    studio.keep_variant(studio.figure.name)
    window.go_to(FACE)
    looks = window.pages[FACE].looks  # type: ignore[attr-defined]
    yield TogetherDialog(window, studio, theme, "", looks.variants())
    window.go_to(RESIZE)
    yield HeightDialog(
        window, studio, theme, window.darkroom, window.resize_station.heights, window.bench_desk
    )


def test_dialogs_are_said_in_it_and_wide_enough_for_it(spoken: None, window: Window) -> None:
    names = names_of(window)
    for dialog in dialogs(window):
        dialog.show()
        texts = {text.partition(": ")[2] for text in texts_of(dialog)}
        assert not {text for text in texts - SAME if bare(text, names)}, type(dialog).__name__
        assert not list(cut_off(dialog)), type(dialog).__name__
        dialog.close()


def cut_off(root: QWidget) -> Iterator[str]:
    """Labels and buttons that are narrower than their words."""
    for widget in root.findChildren(QWidget):
        if not isinstance(widget, QLabel | QPushButton) or not widget.isVisibleTo(root):
            continue
        wraps = isinstance(widget, QLabel) and widget.wordWrap()
        if not wraps and widget.width() < widget.sizeHint().width() - 1:
            yield f"{type(widget).__name__}: {widget.text()}"


@pytest.fixture
def german() -> Iterator[None]:
    language.set_language(language.catalogue_of("de"), ",")
    yield
    language.set_language(NullTranslations())


@thorough
@pytest.mark.parametrize("speaking", ["spoken", "german"])
def test_nothing_in_window_is_cut_off_by_longer_words(
    speaking: str, request: pytest.FixtureRequest, qtbot: QtBot
) -> None:
    request.getfixturevalue(speaking)
    window = request.getfixturevalue("window")
    for at in range(len(STATIONS)):
        window.go_to(at)
        qtbot.wait(30)
        assert not list(cut_off(window)), STATIONS[at].words


@pytest.mark.parametrize(
    "po", sorted(CATALOGUES.glob("*/LC_MESSAGES/*.po")), ids=lambda po: po.parts[-3]
)
def test_shipped_languages_are_complete_and_compiled(
    po: Path,
) -> None:
    with po.open("rb") as text, po.with_suffix(".mo").open("rb") as compiled:
        written, spoken = read_po(text, locale=po.parts[-3]), read_mo(compiled)
    for message in written:
        forms = message.string if isinstance(message.string, tuple) else (message.string,)
        assert all(forms), message.id
        first = message.id if isinstance(message.id, str) else message.id[0]
        known = spoken.get(first, message.context)
        assert not message.id or (known and [*known.string] == [*message.string]), message.id
    with (CATALOGUES / "bambola.pot").open("rb") as template:
        assert {(m.id, m.context) for m in read_po(template)} == {
            (m.id, m.context) for m in written
        }


def test_language_is_chosen_for_next_start_and_country_gives_rest(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.actions_["language_de"].trigger()
    assert "next start" in window.message.text and window.settings.language == "de"
    assert window.actions_["language_de"].isChecked()
    window.settings.language = "xx"  # that a later version spoke
    assert window.settings.language is None
    for country, length, paper in (("en_US", "in", "letter"), ("de_DE", "mm", "a4")):
        monkeypatch.setattr(settings, "QLocale", Countries(country))
        assert (window.settings.units.length, window.settings.paper) == (length, paper)


class Countries:
    """Stands for the system's country."""

    MeasurementSystem, territoryToCode = QLocale.MeasurementSystem, QLocale.territoryToCode

    def __init__(self, country: str) -> None:
        self.country = country

    def __call__(self) -> QLocale:
        return QLocale(self.country)


def test_command_speaks_no_language_that_it_does_not_know(
    capsys: pytest.CaptureFixture[str],
) -> None:
    assert main(["--language", "xx", "plan", str(BADGER)]) == 2
    assert capsys.readouterr().err == ("bambola: “xx” is not a language known here; use en, de.\n")


def test_catalogue_that_is_there_is_spoken_with_its_own_plurals(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    made = Catalog(locale="pl")
    made.add(("{n} row from the base, hair {hair}", "{n} rows from the base, hair {hair}"))
    many = made.get("{n} row from the base, hair {hair}")
    assert many is not None
    many.string = ("{n} rząd", "{n} rzędy", "{n} rzędów")
    made.add("{wool} of wool, about {minutes:.1f} h, {n} steps", "{wool} wełny, {n} kroków")
    folder = tmp_path / "pl" / "LC_MESSAGES"
    folder.mkdir(parents=True)
    with (folder / "bambola.mo").open("wb") as file:
        write_mo(file, made)
    monkeypatch.setattr(language, "CATALOGUES", tmp_path)
    monkeypatch.setenv("LANGUAGE", "")
    assert main(["--language", "pl", "plan", str(BADGER)]) == 0
    assert re.search(r"wełny, \d+ kroków", capsys.readouterr().out)
    words = Words(catalogue=language.current_catalogue())
    rows = [words.say(fact("wool.rows-base", n=n, hair=Mm(5.0))) for n in (1, 3, 5)]
    assert rows == ["1 rząd", "3 rzędy", "5 rzędów"]
    language.choose_language("en")


def test_bad_translation_slots_are_found(
    tmp_path: Path,
) -> None:
    (tmp_path / "xx.po").write_text(
        'msgid ""\nmsgstr "Content-Type: text/plain; charset=UTF-8\\n"\n\n'
        'msgid "not under {value}"\nmsgstr "mind {wert}"\n\n'
        'msgid "{n} wire"\nmsgid_plural "{n} wires"\nmsgstr[0] "ein Draht"\nmsgstr[1] "{n} Dr{ähte"\n\n'
        'msgid "Head"\nmsgstr "Kopf"\n'
    )  # fmt: skip
    check = Path(language.__file__).parents[1] / "scripts" / "check_catalogues.py"
    told = [sys.executable, str(check), str(tmp_path)]
    run = subprocess.run(told, capture_output=True, text=True, check=False)
    assert run.returncode == 3 and run.stdout.count("xx.po:4: ") == 2 and "xx.po:7: " in run.stdout
    language.set_language(Careless())
    for say in (Words(catalogue=Careless()), language):
        assert say.tr("not under {value}", value=3) == "not under 3"
        assert say.trn("{n} wire", "{n} wires", 4) == "4 wires"
    language.set_language(NullTranslations())


def test_numbers_are_written_and_read_as_in_makers_country(
    new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    language.set_language(NullTranslations(), ",")
    try:
        window = new_window()
        window.studio.set_units(Units(decimal=language.decimal()))
        window.open_demo()
        texts = "\n".join(walked(window, qtbot))
        assert len(re.findall(r"\d,\d", texts)) > 100
        assert not set(re.findall(r".*\d\.\d.*", re.sub(r"steel \d\.\d mm", "", texts)))
        assert window.studio.set_height(parse_length("210,5", "mm"))
        assert window.studio.plan is not None and window.studio.plan.to_height_mm == pytest.approx(
            210.5
        )
    finally:
        language.set_language(NullTranslations())


@pytest.mark.parametrize("asked", ["", "en"])
def test_english_runs_from_left_to_right_in_arabic_country(tmp_path: Path, asked: str) -> None:
    """“mm wide 83” was read there."""
    surroundings = {
        **os.environ,
        "LC_ALL": "ar_EG.UTF-8",
        "LANG": "ar_EG.UTF-8",
        "LANGUAGE": asked,
        "HOME": str(tmp_path),
    }
    assert output_of(direction, **surroundings) == "LeftToRight 83\n"


def test_numbers_keep_units_right_to_left(spoken: None) -> None:
    mirrored = Mirrored()
    language.set_language(mirrored)
    assert language.tr("{size} wide", size="83 mm") == "\u206883 mm\u2069 wide"
    assert language.tr("{name} wide", name="Head") == "Head wide"
    said = Words(catalogue=mirrored).tr("{size} wide", size=Mm(83.0))
    assert said == "\u206883 mm\u2069 wide"
    assert Words().tr("{size} wide", size=Mm(83.0)) == "83 mm wide"


def test_keys_are_told_in_language_spoken(
    german: None, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(help, "_show_dialog", lambda window, title, text: told.append(text))
    help.show_keys(QWidget(), ())
    assert "Bild auf, Bild ab" in told[0] and "Page Up" not in told[0]

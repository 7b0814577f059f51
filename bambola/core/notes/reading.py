"""A list of parts as a maker notes them, read line by line: how many, a name, sizes, and what else is told.

    otter, stands
    body 70 x 64 x 92
    2 arms 44 long 14
    tail 80 long 26 to 10
    shawl 10 thick, round neck

Words may stand in any order. A line that is not understood says why, and the others are read all the same.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from pathlib import Path
from typing import Literal, cast

from bambola.core.facts import Fact, Mm, fact
from bambola.core.frozen import frozen
from bambola.core.notes.kinds import Form, NamedKind, names, normalise_word
from bambola.core.quantities import MM_PER, LengthUnit

Role = Literal["", "length", "width", "depth", "height", "thickness", "girth", "to"]
Stance = Literal["standing", "sitting", "hanging"]
MOST_LINES, MOST_CHARACTERS = 400, 400
"""No list is longer, and no line. Judged: a design has at most 400 parts. See craft.md, 9."""
LEAST_MM, MOST_MM = 0.2, 5000.0
"""A size beyond these is a slip of the pen. Judged."""
MOST_EYE_MM = 100.0
"""No eye is larger. Judged."""
_ALIKE = 0.8
"""Names that agree by so much are offered where none is known. Judged."""


@frozen
class NotedSize:
    """One size of a line, mm, and the word that says which; empty without one."""

    mm: float
    role: Role = ""


@frozen
class Entry:
    """A line that was understood. ``kinds`` are what its name may mean, the usual meaning first, none where
    it is not known; ``likely`` are names that it may be then. ``count`` is None where none was written;
    ``on`` is the kind of what it is to sit on."""

    line: int
    text: str
    name: str
    kinds: tuple[str, ...]
    sizes: tuple[NotedSize, ...]
    count: int | None = None
    is_many: bool = False
    on: str = ""
    is_round: bool = False
    place: str = ""
    form: Form | None = None
    colour: str = ""
    firmness: Literal["soft", "medium", "firm"] | None = None
    side: Literal["", "left", "right"] = ""
    likely: tuple[str, ...] = ()

    @property
    def kind(self) -> str:
        """The usual meaning of its name; empty if unknown."""
        return self.kinds[0] if self.kinds else ""


@frozen
class Fault:
    """A line that was not understood, and why."""

    line: int
    text: str
    why: Fact


@frozen
class Notes:
    """The result of reading a list: the figure's name, stance and height (mm) if given, an entry for each
    part, and the lines that were not understood."""

    name: str
    stance: Stance | None
    height_mm: float | None
    entries: tuple[Entry, ...]
    faults: tuple[Fault, ...]


@cache
def _word_meanings() -> Mapping[str, Mapping[str, str]]:
    """Return the meanings of words, by section of the table."""
    found: dict[str, dict[str, str]] = {}
    section: dict[str, str] = {}
    for line in _TABLE.read_text(encoding="utf-8").splitlines():
        if line.startswith("["):
            section = found.setdefault(line.strip("[]"), {})
        elif line and not line.startswith("#"):
            meaning, words = line.split(" = ")
            section |= {normalise_word(word.replace("_", " ")): meaning for word in words.split()}
    return found


_TABLE = Path(__file__).with_name("words.txt")
_ROLES, _STANCES, _PLACES = (_word_meanings()[name] for name in ("roles", "stances", "places"))
_FORMS, _FIRMNESS, _COUNTS = (_word_meanings()[name] for name in ("forms", "firmness", "counts"))
_JOINING, _FILLERS, _COLUMNS = (
    _word_meanings()[name] for name in ("joining", "fillers", "columns")
)
_UNITS = cast("Mapping[str, LengthUnit]", _word_meanings()["units"])
COLOURS = {word: f"#{code}" for word, code in _word_meanings()["colours"].items()}
"""What words for colours mean, as ``#rrggbb``."""
_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?\s?[½¼¾]?|[½¼¾])"
_UNIT = r"(?:mm|cm|inches|inch|in(?![a-z])|zoll|\"|''|”|″)?"
_ONE = re.compile(rf"({_NUMBER})\s*({_UNIT})", re.IGNORECASE)
_SIZE = re.compile(
    rf"{_NUMBER}\s*{_UNIT}(?:\s*(?:x|×|\*|by|mal)\s*{_NUMBER}\s*{_UNIT})*", re.IGNORECASE
)
_TO = re.compile(
    rf"({_NUMBER}\s*{_UNIT})\s*(?:to|bis|->|→|–)\s*({_NUMBER}\s*{_UNIT})", re.IGNORECASE
)
_COUNT = re.compile(r"^(\d{1,2})\s*(?:x\s+|×\s*)?(?=[^\W\d_]{2,})", re.IGNORECASE)
_AFTER = re.compile(
    r"\(\s*(\d{1,2})\s*[x×]?\s*\)|(?<=[^\W\d_]{3})(?<!inch)(?<!zoll)\s*[x×]\s?(\d{1,2})\b(?!\s*[x×.,/\d])"
    r"|(?<=[^\W\d_])\s*:\s*(\d{1,2})\s*(?:,|$)",
    re.IGNORECASE,
)
"""A number behind a name: ``ears (2)``, ``ears x2``, ``legs: 4,``."""
_HALVES = {"½": 0.5, "¼": 0.25, "¾": 0.75}


def read_notes(text: str, unit: LengthUnit = "mm", colours: frozenset[str] = frozenset()) -> Notes:
    """Return the notes in ``text``; numbers without a unit are in ``unit``, ``colours`` are the words for
    wools."""
    name, stance, height = "", None, None
    entries: list[Entry] = []
    faults: list[Fault] = []
    for n, line in enumerate(_spelt_out(text.splitlines())[: MOST_LINES + 1], 1):
        told = re.sub(r"^\s*[-•*–]\s+", "", line).strip()
        if not told or told.startswith("#"):
            continue
        if n > MOST_LINES or len(told) > MOST_CHARACTERS:
            why = fact("notes.too-long", most=MOST_LINES, characters=MOST_CHARACTERS)
            faults.append(Fault(n, told[:60], why))
            continue
        if not entries and not name and (title := _read_title(told, unit)):
            name, stance, height = title
            continue
        found = _LineBeingRead(told, unit, colours).read(n)
        if isinstance(found, Fault):
            faults.append(found)
        else:
            entries.append(found)
    return Notes(name, stance, height, tuple(entries), tuple(faults))


def read_name(name: str, line: int) -> Entry:
    """Return the entry of a part given by its ``name`` alone."""
    found = _LineBeingRead(name, "mm", frozenset()).read(line)
    if isinstance(found, Fault):
        return Entry(line, name, name, (), ())
    return replace(found, name=name, sizes=(), form=None, place="", side="")


def _spelt_out(lines: list[str]) -> list[str]:
    """Return the lines of a list; for a table with a header, with the word for each number beside it."""
    for at, line in enumerate(lines):
        parted = max("\t;,", key=line.count)
        heads = [normalise_word(cell.strip().strip('"')) for cell in line.split(parted)]
        named = next((i for i, head in enumerate(heads) if _COLUMNS.get(head) == "name"), None)
        if named is None or not any(head.split(" ")[0] in _ROLES for head in heads):
            continue
        rows = [*lines[:at], ""]
        for row in lines[at + 1 :]:
            cells = [cell.strip().strip('"') for cell in row.split(parted)]
            rows.append(_row_as_line(heads, cells, named))
        return rows
    return lines


def _row_as_line(heads: list[str], cells: list[str], named: int) -> str:
    """Return a row of a table as a line: count, name, and each size with its word."""
    count = name = ""
    told: list[str] = []
    for i, (head, cell) in enumerate(zip(heads, cells, strict=False)):
        word, *unit = re.findall(r"[^\W\d_]+", head) or [""]
        if i == named:
            name = cell
        elif _COLUMNS.get(word) == "count":
            count = cell
        elif word in _ROLES and cell:
            told.append(f"{cell} {unit[0] if unit and unit[0] in _UNITS else ''} {word}")
        elif cell:
            told.append(cell)
    return " ".join(filter(None, (count, name, ", ".join(told))))


def _read_title(told: str, unit: LengthUnit) -> tuple[str, Stance | None, float | None] | None:
    """Return name, stance and height from a line that describes the figure; None for any other."""
    first, *rest = (piece.strip() for piece in re.split(r"[,;:\t]", told))
    known = _look_up(first)
    words = [normalise_word(word) for piece in (first, *rest) for word in piece.split()]
    stance = next((_STANCES[word] for word in words if word in _STANCES), None)
    sizes = list(_ONE.finditer(told))
    is_high = len(sizes) == 1 and any(_ROLES.get(word) == "height" for word in words)
    if known is not None and (sizes or stance is None):
        return None
    if sizes and not is_high:
        return None
    named = " ".join(
        word
        for word in re.sub(_ONE, " ", first).split()
        if normalise_word(word) not in _STANCES and normalise_word(word) not in _ROLES
    )
    height = _to_mm(sizes[0][1], sizes[0][2], unit) if is_high else None
    return named or first, stance, height  # type: ignore[return-value]


def _to_mm(number: str, told: str, unit: LengthUnit) -> float:
    """Return a written number in mm."""
    number = number.strip().replace(",", ".")
    value = 0.0
    for piece in re.findall(r"\d+/\d+|\d+(?:\.\d+)?|[½¼¾]", number):
        if piece in _HALVES:
            value += _HALVES[piece]
        elif "/" in piece:
            over, under = piece.split("/")
            value += float(over) / float(under) if float(under) else 0.0
        else:
            value += float(piece)
    return value * MM_PER[_UNITS.get(told.strip().casefold(), unit)]


def _look_up(words: str) -> NamedKind | None:
    """Return the usual kind of a name, if known."""
    return next(iter(names().get(normalise_word(words), ())), None)


@dataclass
class _LineBeingRead:
    """The state of reading one line: what is understood is removed from ``rest``."""

    rest: str
    unit: LengthUnit
    colours: frozenset[str]
    sizes: list[NotedSize] = field(default_factory=list)
    on: str = ""
    is_round: bool = False
    place: str = ""

    def read(self, n: int) -> Entry | Fault:
        """Read the line."""
        text = self.rest
        self.rest = re.sub(r"[\t;|]+", " , ", self.rest.replace("\xa0", " "))
        count = self._read_count()
        self._read_bearer()
        self._read_sizes()
        words = re.findall(r"[^\W_](?:[^\W_]|[-’'])*", self.rest)
        told: dict[str, str] = {}
        named: list[str] = []
        has_ended = False  # what follows "of" or "with" is another part's name
        for word in words:
            bare = normalise_word(word)
            kinds = {"form": _FORMS, "firm": _FIRMNESS, "place": _PLACES}
            what = next((key for key, known in kinds.items() if bare in known), "")
            if bare in _COUNTS and not named and count is None and bare not in _FILLERS:
                count = int(_COUNTS[bare])
            elif bare in self.colours:
                told.setdefault("colour", bare)
            elif bare in _FILLERS or bare in _ROLES:
                has_ended = has_ended or (bool(named) and _FILLERS.get(bare) == "after")
            elif what:
                told.setdefault(what, kinds[what][bare])
                told.setdefault(f"{what}-word", word)
            elif not has_ended:
                named.append(word)
        called, name = _longest_known_name(named, words)
        if called is None and not named:  # a word for a place may be all the name there is
            called = next(filter(None, map(_look_up, words)), None)
            name = called.one if called else told.get("form-word", "")
            told.pop("place", None)
        if not name:
            return Fault(n, text, Fact("notes.no-name"))
        bad = [size.mm for size in self.sizes if not LEAST_MM <= size.mm <= MOST_MM]
        if bad:
            return Fault(n, text, fact("notes.size", size=f"{bad[0]:g}", example=Mm(48.0)))
        if called and called.kind == "eye" and any(s.mm > MOST_EYE_MM for s in self.sizes):
            return Fault(n, text, fact("notes.size", size=f"{self.sizes[0].mm:g}", example=Mm(5.0)))
        if count is not None and not 1 <= count <= 60:
            return Fault(n, text, fact("notes.count", n=count))
        place = told.get("place", self.place)
        return Entry(
            n,
            text,
            called.one if called else name,
            _kinds_of(called) if called else (),
            tuple(self.sizes),
            count,
            called.is_many if called else False,
            self.on,
            self.is_round,
            "" if place in ("left", "right") else place,
            told.get("form"),  # type: ignore[arg-type]
            told.get("colour", ""),
            told.get("firm"),  # type: ignore[arg-type]
            place if place in ("left", "right") else "",  # type: ignore[arg-type]
            () if called else tuple(_likely_meanings(name)),
        )

    def _read_count(self) -> int | None:
        """Return the count before a name, if there is one."""
        behind = _AFTER.search(self.rest)
        if behind and (behind[1] or _ONE.search(self.rest, behind.end())):
            number = next(filter(None, behind.groups()))
            self.rest = self.rest[: behind.start()] + " " + self.rest[behind.end() :]
            return int(number)
        found = _COUNT.match(self.rest.strip())
        if not found:
            return None
        after = normalise_word(re.match(r"[^\W\d_]+", self.rest.strip()[found.end() :])[0])  # type: ignore[index]
        if after in _UNITS or after in _ROLES:
            return None
        self.rest = self.rest.strip()[found.end() :]
        return int(found[1])

    def _read_bearer(self) -> None:
        """Read the bearer: the longest known name after a word such as “on”."""
        words = list(re.finditer(r"[^\W\d_]+(?:-[^\W\d_]+)*", self.rest))
        for i, word in enumerate(words[:-1]):
            bare = normalise_word(word[0])
            if bare not in _JOINING:
                continue
            j = i + 1
            while j < len(words) - 1 and normalise_word(words[j][0]) in _FILLERS:
                j += 1
            for k in (j + 2, j + 1):
                name = " ".join(w[0] for w in words[j:k])
                bearer = _look_up(name) or _look_up(_to_singular(name))
                if bearer is not None and k <= len(words):
                    self.on, self.is_round = bearer.kind, _JOINING[bare] == "around"
                    self.rest = self.rest[: word.start()] + " " + self.rest[words[k - 1].end() :]
                    return
            if normalise_word(words[j][0]) in _PLACES:  # "on top"
                self.place = _PLACES[normalise_word(words[j][0])]
                self.rest = self.rest[: word.start()] + " " + self.rest[words[j].end() :]
                return

    def _read_sizes(self) -> None:
        """Read all sizes of the line, each with its word."""
        for found in _TO.finditer(self.rest):
            first, last = _ONE.match(found[1]), _ONE.match(found[2])
            if first and last:
                unit = first[2] or last[2]
                self.sizes += [NotedSize(_to_mm(first[1], unit, self.unit), "thickness"),
                               NotedSize(_to_mm(last[1], last[2] or unit, self.unit), "to")]  # fmt: skip
        self.rest = _TO.sub(" ", self.rest)
        told: list[NotedSize] = []
        spans: list[tuple[int, int]] = []
        taken = 0  # a word that told of the size before tells of no other
        for found in _SIZE.finditer(self.rest):
            ones = list(_ONE.finditer(found[0]))
            unit = next((one[2] for one in reversed(ones) if one[2]), "")
            role: Role = ""
            end = found.end()
            if len(ones) == 1:
                role, end = self._role_of_number(taken, found.start(), end)
                taken = end
            told += [NotedSize(_to_mm(one[1], one[2] or unit, self.unit), role) for one in ones]
            spans.append((found.start(), end))
        for start, end in reversed(spans):
            self.rest = self.rest[:start] + " " + self.rest[end:]
        self.sizes = told + self.sizes

    def _role_of_number(self, first: int, start: int, end: int) -> tuple[Role, int]:
        """Return which size a number is, by the word after it, else the one before it, from ``first`` on."""
        after = re.match(r"\s*([^\W\d_]+)", self.rest[end:])
        if after and (role := _ROLES.get(normalise_word(after[1]))):
            return role, end + after.end()  # type: ignore[return-value]
        before = re.search(r"([^\W\d_]+)\s*[:=]?\s*$", self.rest[first:start])
        if before and (role := _ROLES.get(normalise_word(before[1]))):
            return role, end  # type: ignore[return-value]
        return "", end


def _to_singular(name: str) -> str:
    """Return a German noun as it stands after a preposition: ``am Kopfe``, ``an den Armen``."""
    return re.sub(r"(?<=[a-zäöüß]{2})(en|es|e|n|s)$", "", name)


def _kinds_of(called: NamedKind) -> tuple[str, ...]:
    """Return all possible kinds of a name: as typed, as a singular or as a plural."""
    typed = called.many if called.is_many and called.many != called.one else called.one
    return tuple(
        dict.fromkeys((called.kind, *(each.kind for each in names()[normalise_word(typed)])))
    )


def _longest_known_name(words: list[str], every: list[str]) -> tuple[NamedKind | None, str]:
    """Return the longest known name among ``words`` with its kinds, or else all words."""
    for some in (every, words):
        for long in (3, 2, 1):
            for i in reversed(range(len(some) - long + 1)):  # the last word says what it is
                found = _look_up(" ".join(some[i : i + long]))
                if found is not None and (some is words or long > 1):
                    return found, found.one
    return None, " ".join(words[:4])


def _likely_meanings(name: str) -> Iterator[str]:
    """Yield what an unknown name may mean, the likeliest first."""
    known = names()
    for close in difflib.get_close_matches(normalise_word(name), known, 3, _ALIKE):
        yield known[close][0].one

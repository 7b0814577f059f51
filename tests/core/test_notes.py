"""A list of parts as a maker notes them, made into the figure meant."""

from __future__ import annotations

import random
from dataclasses import replace
from typing import Any

import pytest

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError
from bambola.core.figure import Brief, Figure
from bambola.core.notes.building import ListedFigure, colour_words, figure_of
from bambola.core.notes.kinds import KINDS, checked_kinds, names
from bambola.core.notes.reading import MOST_CHARACTERS, Notes, read_notes
from bambola.core.notes.writing import list_of, with_list
from bambola.core.plan import make_plan
from bambola.core.quantities import LengthUnit
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans
from tests.core.walker import Walker
from tests.effort import THOROUGH
from tests.said import said

LISTS: dict[str, tuple[str, str]] = {
    "otter": (
        """otter, stands
        body 70 x 64 x 92
        head 48
        2 ears 9 x 7
        2 arms 44 long 14
        2 feet 26 x 16 x 10
        tail 80 long 26 to 10
        shawl 10 thick, round neck
        eyes 5 mm black""",
        "Body, Head<Body, Ear<Head*, Arm<Body*, Foot<Body*, Tail<Body, Shawl<Body, Eye<Head*",
    ),
    "witch": (
        """witch
        dress 90 tall 70 wide black
        head 40 cream
        hat cone 60 tall 44 wide, black
        brim 70 x 70 x 5 black
        nose 16 long 8
        hair 44 x 44 x 26 rust
        arms 50 long 14
        hands 13
        boots 16 x 30 x 14
        broom 110 long 6""",
        "Dress, Head<Dress, Nose<Head, Hair<Head, Hat<Hair, Brim<Hair, Arm<Dress*, Hand<Arm*, "
        "Boot<Dress*, Broom<Hand",
    ),
    "camel": (
        """Kamel, steht
        Körper 110 x 50 x 55
        2 Höcker 34 x 34 x 30
        Hals 50 lang 24
        Kopf 34 x 40 x 32
        Schnauze 24 lang 18 bis 12
        4 Beine 70 lang 18
        4 Hufe 18 x 20 x 10
        Schwanz 40 lang 8
        2 Ohren 14 x 9
        Augen 4 schwarz""",
        "Körper, Höcker<Körper2, Hals<Körper, Kopf<Hals, Schnauze<Kopf, Bein<Körper*, Bein<Körper*, "
        "Huf<Bein*, Huf<Bein*, Schwanz<Körper, Ohr<Kopf*, Auge<Kopf*",
    ),
    "crab": (
        """crab
        body 80 x 60 x 34 red
        8 legs 40 long 7
        2 arms 34 long 9
        2 pincers 24 x 16 x 20
        2 eye stalks 14 long 5""",
        "Body, Leg<Body*4, Arm<Body*, Pincer<Arm*, Eye stalk<Body*",
    ),
    "jug": (
        """jug 60 x 60 x 80
        handle 60 long 9
        spout 26 long 16 to 8
        lid 44 x 44 x 10
        knob 10""",
        "Jug, Handle<Jug, Spout<Jug, Lid<Jug, Knob<Lid",
    ),
    "owl": (
        """owl
        body 68 x 60 x 80
        belly 44 x 18 x 54 white
        head 56
        2 face discs 26 x 24
        beak 12 long 8
        2 wings 56 x 30
        2 feet 20 x 26 x 8
        tail feathers 30 x 20
        2 tufts 16 long 8
        scarf 8 thick""",
        "Body, Belly<Body, Head<Body, Face disc<Head*, Beak<Head, Wing<Body*, Foot<Body*, "
        "Tail feathers<Body, Tuft<Head*, Scarf<Body",
    ),
    "dog": (
        """long dog
        body 140 x 46 x 48
        neck 26 long 26
        head 40 x 44 x 38
        snout 34 long 24 to 16
        nose 9
        2 ears 36 x 20
        2 front legs 34 long 16
        2 back legs 34 long 18
        4 paws 18 x 22 x 10
        tail 60 long 12 to 6""",
        "Body, Neck<Body, Head<Neck, Snout<Head, Nose<Snout, Ear<Head*, Front leg<Body*, Back leg<Body*, "
        "Paw<Front leg*, Paw<Back leg*, Tail<Body",
    ),
    "whale": (
        """whale
        body 140 x 60 x 64
        2 flukes 36 x 28
        2 flippers 40 x 22
        fin 18 x 20
        eyes 4""",
        "Body, Fluke<Body*, Flipper<Body*, Fin<Body, Eye<Body*",
    ),
    "snowman": (
        """snowman, 150 high
        - body 70
        - head 44
        - hat cone 30 tall 36 wide
        - nose cone 22 long 7 orange
        - 3 buttons 5
        - 2 arms 40 long 4
        - scarf 7 thick""",
        "Body, Head<Body, Hat<Head, Nose<Head, Button<Body3, Arm<Body*, Scarf<Body",
    ),
    "hedgehog": (
        """hedgehog sits
        body 60 x 56 x 70
        head 44
        snout 20 long 18 to 8
        nose 7
        12 spikes 12 x 6
        2 arms 26 long 10
        2 feet 22 x 14 x 8
        2 ears 12 x 10""",
        "Body, Head<Body, Snout<Head, Nose<Snout, Spike<Body12, Arm<Body*, Foot<Body*, Ear<Head*",
    ),
    "bunny in inches": (
        """bunny
        body 2" x 1.75" x 2 1/2"
        head 1 1/2"
        2 ears 2 in x 3/4 in
        2 arms 1¼" long ½"
        2 feet 1" x 3/4" x 1/2"
        bobtail 3/4\"""",
        "Body, Head<Body, Ear<Head*, Arm<Body*, Foot<Body*, Bobtail<Body",
    ),
    "mouse": (
        """Mouse, 9 cm tall
        body egg-shaped 5 cm high, 4 cm wide
        head 3cm
        big ears 2.2 x 2 cm
        muzzle 1.2 cm
        nose 4mm pink
        4 paws 8 mm
        tail 9 cm long, 4 mm thick, pink
        eyes 3 mm""",
        "Body, Head<Body, Ear<Head*, Muzzle<Head, Nose<Muzzle, Paw<Body*, Tail<Body, Eye<Head*",
    ),
    "unicorn": (
        """unicorn, on four legs
        body 100 x 45 x 48 white
        neck 40 x 28
        head 35 x 45 x 32
        mane 60 x 20 x 50 pink
        horn 28 long 8 gold
        ears 12 x 8
        legs: 4, 60 long 14
        4 hooves 16 x 16 x 8
        tail 60 long 14""",
        "Body, Neck<Body, Head<Neck, Mane<Neck, Horn<Head, Ear<Head*, Leg<Body*, Hoof<Leg*, Tail<Body",
    ),
    "squirrel": (
        """Squirrel
        Body - 55 wide, 50 deep, 75 tall
        Head - 42
        Ears (2) - 15 x 10
        Arms (2) - 30 long, 10 thick
        Thighs (2) - 30 x 25 x 35
        Feet (2) - 14 x 28 x 9
        Tail - 90 long, 30 thick
        Acorn - 12
        Cheeks 10""",
        "Body, Head<Body, Ear<Head*, Arm<Body*, Thigh<Body*, Foot<Body*, Tail<Body, Acorn<Arm, Cheek<Head*",
    ),
    "cat": (
        """Sitting cat
        body 60 wide 55 deep 80 high
        head 48 wide, 42 deep, 42 high
        ears - 16 high, 16 wide
        muzzle - 18 wide, 10 deep, 12 high
        nose - 5
        front legs 50 long 16 thick
        back paws 18 x 28 x 12
        tail 100 long, 14 thick, tapering to 6""",
        "Body, Head<Body, Ear<Head*, Muzzle<Head, Nose<Muzzle, Front leg<Body*, Back paw<Body*, Tail<Body",
    ),
    "toadstool": (
        """toadstool
        stem 4 cm x 2 cm
        mushroom cap 60 x 60 x 28 red
        5 spots 8 white""",
        "Stem, Mushroom cap<Stem, Spot<Mushroom cap5",
    ),
}
"""Lists of our own, with what is meant: each part, its bearer, ``*`` for a pair, how many in a row."""


def read(
    text: str, bench: Bench, unit: LengthUnit = "mm", **more: float
) -> tuple[Notes, ListedFigure]:
    notes = read_notes(text, unit, colour_words(bench))
    found = figure_of(notes, bench, [plan.figure for plan in body_plans()], **more)
    assert found is not None
    return notes, found


def summary(figure: Figure) -> set[str]:
    """Each part and eye as the table above has it; both of a pair may come of what bears them."""
    found = []
    for part in figure.parts:
        on = f"<{figure.by_id[part.parent].name}" if part.parent else ""
        bearer = figure.by_id[part.parent] if part.parent else None
        double = part.on == "both" and (part.pair or (bearer is not None and bearer.pair))
        row = str(part.row.count) if part.row else ""
        found.append(f"{part.name}{on}{'*' if double else ''}{row}")
    found += [
        f"{f.name}<{figure.by_id[f.part].name}{'*' if f.pair else ''}" for f in figure.fittings
    ]
    return set(found)


@pytest.mark.parametrize("name", LISTS)
def test_list_makes_figure_meant_and_it_can_be_made(name: str, bench: Bench) -> None:
    text, meant = LISTS[name]
    notes, found = read(text, bench)
    assert not notes.faults and not found.doubts
    assert summary(found.figure) == set(meant.split(", "))
    own = place(found.figure).height
    assert own == pytest.approx(found.height_mm * found.scale, rel=1e-3)
    # It plans, and its height can be asked for.
    plan = make_plan(found.figure, Brief().at_height(1.4 * own), bench)
    assert plan.to_height_mm == pytest.approx(1.4 * own, rel=0.02)
    assert Walker(plan, bench).walk() == ""


def test_eyes_are_never_the_root(bench: Bench) -> None:
    assert figure_of(read_notes("eyes 6 mm", "mm", colour_words(bench)), bench) is None
    _, found = read("eyes 6 mm\nhead 4", bench)
    assert [part.id for part in found.figure.parts] == ["head"]


def test_sizes_are_as_typed_in_any_order_and_unit(bench: Bench) -> None:
    for line, sizes in (
        ("head 54 x 52 x 50", (54, 52, 50)), ("head 5,4 cm x 5.2cm x 50 mm", (54, 52, 50)),
        ("50 high 54 wide 52 deep head", (54, 52, 50)), ('head 2" x 2" x 1 1/2"', (50.8, 50.8, 38.1)),
        ("Kopf 54 breit 52 tief 50 hoch", (54, 52, 50)), ("head; 48", (48, 48, 48)),
        ("one head: 48 mm", (48, 48, 48)),
    ):  # fmt: skip
        _, found = read(f"body 60\n{line}", bench)
        head = found.figure.parts[1].shape.measures()
        assert tuple(head.values()) == pytest.approx(sizes), line
    _, found = read("body 6\nhead 4", bench, "cm")
    assert found.figure.parts[0].shape.measures()["width"] == 60
    _, tapered = read("body 60\ntail 80 long 26 to 10", bench)
    joints = tapered.figure.by_id["tail"].shape.joints  # type: ignore[union-attr]
    assert (joints[0].diameter, joints[-1].diameter) == (26, 10)


def test_what_is_round_is_told_how_it_was_read(bench: Bench) -> None:
    for text, across in (("head 150 round", 150 / 3.14159), ("head 46 round", 46)):
        _, found = read(f"body 60\n{text}", bench)
        assert found.figure.by_id["head"].shape.measures()["width"] == pytest.approx(
            across, rel=1e-3
        )
        (doubt,) = found.doubts
        assert doubt.line == 2 and f"{across:.0f}" in said(doubt.what)


def test_words_bring_wool_firmness_place_and_bearer(bench: Bench) -> None:
    bow_line = "bow 20 x 12 on the back of the head, red"
    _, found = read(f"body 60 charcoal soft\nhead 40\n{bow_line}\nleft ear 14 x 9", bench)
    body, bow = found.figure.by_id["body"], found.figure.by_id["bow"]
    assert body.coat is not None and body.coat.wool == "charcoal" and body.firmness == "soft"
    assert (
        bow.parent == "head" and bow.seat.around == 180 and bow.coat and bow.coat.wool == "madder"
    )
    assert found.figure.by_id["ear"].on == "left"


def test_height_scales_all_that_was_typed(bench: Bench) -> None:
    text = LISTS["otter"][0]
    _, typed = read(text, bench)
    _, scaled = read(text, bench, height=74.0)
    assert scaled.height_mm == typed.height_mm and place(scaled.figure).height == pytest.approx(
        74, rel=1e-3
    )
    for one, other in zip(typed.figure.parts, scaled.figure.parts, strict=True):
        for name, mm in one.shape.measures().items():
            assert other.shape.measures()[name] == pytest.approx(mm * scaled.scale, rel=0.02), (
                one.id
            )


def test_missing_sizes_come_from_plan_and_are_told(bench: Bench) -> None:
    _, found = read(
        "body 58 x 50 x 78\nhead 48\nears\narms 70 long\nlegs\nfeet\nsnout\npaws\ntail\nnose 9",
        bench,
    )
    told = {one.line for one in found.taken}
    assert told == {3, 4, 5, 6, 7, 8, 9}
    like = next(plan.figure for plan in body_plans() if plan.figure.id == "upright-animal")
    ear, mine = like.by_id["ear"].shape.measures(), found.figure.by_id["ear"].shape.measures()
    wide = like.by_id["head"].shape.measures()["width"]
    assert mine["length"] == pytest.approx(ear["length"] * 48 / wide, rel=0.05)


def test_unknown_name_is_told_with_its_guess(bench: Bench) -> None:
    _, found = read("body 60\nlantrn 30 tall 14\nzqxw 20 x 8", bench)
    likely, other = (said(one.what) for one in found.doubts)
    assert "lantern" in likely and "zqxw" in other and len(found.figure.parts) == 3
    # One that is told its form is taken at its word.
    _, found = read("body 60\nzqxw 20 x 8, flat", bench)
    assert not found.doubts and found.figure.parts[1].shape.kind == "leaf"


def test_table_makes_parts(bench: Bench) -> None:
    for rows in (
        "Part;Number;Width cm;Depth cm;Height cm\nBody;1;7;6,4;9,2\nHead;1;4,8;;\nEars;2;0,7;;0,9",
        "name\tcount\twidth\tdepth\theight\nBody\t1\t70\t64\t92\nHead\t1\t48\nEars\t2\t7\t\t9",
        "Body\t70\t64\t92\nHead\t48\nEars\t9\t7",
    ):
        _, found = read(rows, bench)
        assert summary(found.figure) == {"Body", "Head<Body", "Ear<Head*"}, rows
        assert found.figure.by_id["body"].shape.measures() == {
            "width": 70,
            "depth": 64,
            "height": 92,
        }


def spoilt(text: str, rng: random.Random) -> str:
    """A list with something wrong: letters changed, numbers lost, lines torn, cut or doubled."""
    lines = text.splitlines()
    for _ in range(rng.randint(1, 4)):
        n = rng.randrange(len(lines))
        line = lines[n]
        at = rng.randrange(max(1, len(line)))
        lines[n] = rng.choice((
            line[:at] + rng.choice("äß§x9 .,;/\t\"'½-+()%€\u0000") + line[at:], line[:at] + line[at + 1 :],
            line[::-1], line.replace("4", ""), f"{line} {line}", "9999999 " + line, line.upper(),
            "x" * (MOST_CHARACTERS + 5), f"999 {line}", "1/0 " + line, line.replace(" x ", "xx"),
            "\u202e" + line,
        ))  # fmt: skip
    return "\n".join(lines)


def test_spoilt_lists_lose_no_line_and_break_nothing(bench: Bench) -> None:
    rng = random.Random(63)
    texts = [text for text, _ in LISTS.values()]
    plans = [plan.figure for plan in body_plans()]
    for _ in range(200 if THOROUGH else 60):
        text = spoilt(rng.choice(texts), rng)
        notes = read_notes(text, "mm", colour_words(bench))
        lines = {
            n
            for n, line in enumerate(text.splitlines(), 1)
            if line.strip() and not line.strip().startswith("#")
        }
        told = {entry.line for entry in notes.entries} | {fault.line for fault in notes.faults}
        assert len(lines - told) <= 1, text  # the first line may be the figure's name
        assert all(said(fault.why) for fault in notes.faults)
        found = figure_of(notes, bench, plans)
        if found is not None:
            assert place(found.figure).height > 0
            assert all(said(one.what) for one in (*found.taken, *found.doubts))


@pytest.mark.parametrize("wrong", [{"bearers": ("haed",)}, {"form": "bal"}, {"site": "tpo"}])
def test_kind_that_names_what_is_not_there_is_refused(wrong: dict[str, Any]) -> None:
    spoilt = {**KINDS, "snout": replace(KINDS["snout"], **wrong)}
    (name,) = (one if isinstance(one, str) else one[0] for one in wrong.values())
    with pytest.raises(ValueError, match=f"'snout', '.*', '{name}'"):
        checked_kinds(spoilt)


def test_every_name_is_known_in_singular_and_plural() -> None:
    assert len(KINDS) >= 95 and len(names()) > 700
    for name, called in names().items():
        entry = read_notes(f"body 60\n{name} 20").entries[-1]
        assert set(entry.kinds) & {one.kind for one in called}, name


def test_figure_as_list_can_be_taken_back_unchanged(bench: Bench) -> None:
    plans = [plan.figure for plan in body_plans()]
    figures = [load_demo(path).figure for path in (BADGER, HERON, TOAD)] + plans
    units: tuple[LengthUnit, ...] = ("mm", "in")
    for figure in figures:
        for unit in units:
            again = with_list(figure, list_of(figure, unit), bench, plans, unit)
            assert again == figure, (figure.id, unit)


def test_what_changed_list_tells_is_changed_and_nothing_else(bench: Bench) -> None:
    figure = load_demo(BADGER).figure
    plans = [plan.figure for plan in body_plans()]
    text = list_of(figure)
    longer = text.replace("33.23 long", "50 long").replace(
        "nose: 10.81 x 8.108 x 8.108", "nose: 12"
    )
    changed = with_list(figure, longer, bench, plans)
    assert changed.by_id["tail"].shape.measures()["length"] == pytest.approx(50)
    assert set(changed.by_id["nose"].shape.measures().values()) == {12.0}
    same = {part.id for part in figure.parts} - {"tail", "nose"}
    assert all(changed.by_id[id] == figure.by_id[id] for id in same)
    assert (changed.fittings, changed.wires, changed.marks) == (
        figure.fittings,
        figure.wires,
        figure.marks,
    )
    more = with_list(figure, text + "\n2 cheeks 9\nbell 8, on the tail\n", bench, plans)
    cheek, bell = more.by_id["cheek"], more.by_id["bell"]
    assert cheek.pair and cheek.parent == "head" and bell.parent == "tail"
    without = "\n".join(line for line in text.splitlines() if not line.startswith("nose"))
    assert "nose" not in with_list(figure, without, bench, plans).by_id
    with pytest.raises(RefusedError, match=r"notes\.bears"):
        headless = "\n".join(line for line in text.splitlines() if not line.startswith("snout"))
        with_list(figure, headless, bench, plans)

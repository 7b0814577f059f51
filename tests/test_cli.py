from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import cv2
import jsonschema
import pytest

from bambola.cli import main
from bambola.cli.schema import published_schema
from bambola.core.export.formats import FORMATS
from bambola.core.export.json_plan import heights_schema
from bambola.demo import BADGER, TOAD, load_demo, sample_shelf
from bambola.shipped import body_plans, default_bench, plan_names
from bambola.store.designs import open_design
from tests.core.test_notes import LISTS
from tests.core.test_proposing import FRONT, PX, SIDE, painted
from tests.effort import THOROUGH

COMMAND = Path(sys.executable).with_name("bambola")

pytestmark = pytest.mark.usefixtures("coarse_felt")


def run(capsys: pytest.CaptureFixture[str], *argv: str) -> tuple[int, str, str]:
    code = main(list(argv))
    out = capsys.readouterr()
    return code, out.out, out.err


def test_doubling_badger_on_command_line(capsys: pytest.CaptureFixture[str]) -> None:
    plans = [
        json.loads(run(capsys, "plan", str(BADGER), "--height", h, "--json")[1])
        for h in ("140mm", "28 cm")
    ]
    small, large = plans
    assert (small["to_height_mm"], large["to_height_mm"]) == pytest.approx((140, 280))
    tail = [next(p for p in plan["parts"] if p["id"] == "tail") for plan in plans]
    assert tail[1]["to_mm"]["length"] == pytest.approx(2 * tail[0]["to_mm"]["length"], rel=1e-4)
    code, text, _ = run(capsys, "plan", str(BADGER), "--height", "280", "--hold", "head", "--json")
    held = json.loads(text)
    head = next(p for p in held["parts"] if p["id"] == "head")
    assert (
        code == 0
        and head["to_mm"] == head["from_mm"]
        and held["to_height_mm"] == pytest.approx(280, abs=0.1)
    )


@pytest.mark.parametrize(
    ("argv", "says"),
    [
        (("plan", "nowhere.json"), "nowhere.json: it cannot be read"),
        (("plan", str(BADGER), "--height", "tall"), "--height: “tall”: cannot read"),
        (("plan", str(BADGER), "--height", "0"), "above 0"),
        (("plan", str(BADGER), "--height", "9" * 5000), "too long for a length"),
        (("plan", "/dev/zero"), "it is a device, not a design"),
        (("plan", "/proc/self/maps"), "nothing in it"),
        (("plan", str(BADGER), "--bench", "/dev"), "it is a folder, not a bench"),
        (("plan", str(BADGER), "--height", "9 m"), "it can be made from 21 mm to 1120 mm"),
        (("plan", str(BADGER), "--hold", "wing"), "there is no part “wing”"),
        (("step", str(BADGER), "0"), "made in steps 1 to"),
        (("step", str(BADGER), "2", "--svg", "/proc/none/a.svg"), "could not be written"),
        (("plan", str(BADGER), "--hold", "head.girth"), "no measure “girth”"),
        (("plan", str(BADGER), "--pdf", "/proc/none/sheet.pdf"), "could not be written"),
        (("plan", str(BADGER), "--csv", "/proc/none"), "cannot be made"),
    ],
)
def test_bad_input_is_one_line_and_code_two(
    capsys: pytest.CaptureFixture[str], argv: tuple[str, ...], says: str
) -> None:
    code, out, err = run(capsys, *argv)
    assert (
        code == 2
        and out == ""
        and says in err
        and err.count("\n") == 1
        and err.startswith("bambola: ")
    )


def test_damaged_file_and_bench_without_wool_are_named(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text('{"bambola": 1, "figure": {"id": "x"}}')
    assert "bad.json: figure › name: this field is missing." in run(capsys, "plan", str(bad))[2]
    bench = tmp_path / "bench.json"
    bench.write_text('{"wools": [{"id": "cream", "name": "Cream", "colour": "#ffffff"}]}')
    assert (
        "the bench has no wool “core-batt”"
        in run(capsys, "plan", str(BADGER), "--bench", str(bench))[2]
    )


def test_every_export_writes_its_files(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    for form in FORMATS:
        if form.id != "json":
            where = tmp_path / f"{form.id}{form.ending}"
            # Cards have a picture each: the figure of the fewest.
            design = TOAD if form.id == "cards" else BADGER
            assert run(capsys, "plan", str(design), f"--{form.id}", str(where))[0] == 0
    assert sorted({p.name for p in tmp_path.rglob("*") if p.is_file()}) == [
        "blank-ear.svg",
        "cards.pdf",
        "cutting.csv",
        "face-head.svg",
        "face-snout.svg",
        "front.svg",
        "ics.ics",
        "parts.csv",
        "pdf.pdf",
        "short.pdf",
        "side.svg",
        "steps.csv",
        "strips.pdf",
        "top.svg",
        "wire-arms.svg",
        "wire-legs.svg",
        "wire-spine.svg",
        "wires.csv",
        "wool.csv",
        "wool.pdf",
    ]
    assert "55 steps" in run(capsys, "plan", str(BADGER))[1]
    assert json.loads(run(capsys, "schema", "figure")[1])["title"] == "Document"


def test_heights_are_told_in_words_and_by_their_schema(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    shelf = tmp_path / "bench.json"
    shelf.write_text(sample_shelf(default_bench()).model_dump_json(), encoding="utf-8")
    asked = ["heights", str(TOAD), "--height", "90mm", "--bench", str(shelf), "--wool-on-shelf"]
    beside = ["--hours", "12", "--beside", "60mm", "--beside", "100mm"]
    data = json.loads(run(capsys, *asked, *beside, "--json")[1])
    jsonschema.validate(data, heights_schema())
    assert data["turns"] == sorted(data["turns"], key=lambda turn: turn["height_mm"])
    assert {"height_mm", "kind", "part", "text"} <= data["turns"][0].keys()
    assert data["best_mm"] == data["answer"]["together"][-1]["to_mm"] > 60
    assert [round(row["height_mm"]) for row in data["sizes"]["rows"]] == [60, 100]
    said = run(capsys, *asked, "--units", "in")[1]
    assert "the wool on the shelf: " in said and " in to " in said and " mm" not in said


HELD = [word for part in load_demo(TOAD).figure.parts for word in ("--hold", part.id)]


@pytest.mark.parametrize(
    ("asked", "told"),
    [
        (["--hours", "0"], "--hours: 0 is not allowed"),
        (["--eyes", "6"], "has none that come in sizes"),
        (["--size", "nose.width", "3mm"], "--size: there is no “nose.width”; use body."),
        (["--beside", "60mm"], "give two to 5 sizes"),
        (["--wool-on-shelf"], "name a bench file with --bench"),
        (["--ready", "soon"], "--ready: “soon” is not a day"),
        (["--grams", "0g"], "--grams: 0g is not allowed"),
        (["--cost", "dear"], "--cost"),
        (HELD, "holds its sizes: no other height can be met"),
    ],
)
def test_condition_that_cannot_be_is_refused_in_one_sentence(
    capsys: pytest.CaptureFixture[str], asked: list[str], told: str
) -> None:
    code, out, err = run(capsys, "heights", str(TOAD), *asked)
    assert (code, out) == (2, "") and told in err and err.count("\n") == 1


def test_what_is_printed_is_in_makers_units(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["plan", str(BADGER), "--height", "8.5", "--units", "in"]) == 0
    told = capsys.readouterr().out
    head, *rest = told.splitlines()
    assert "5½ in to 8½ in" in head and "oz of wool" in rest[0]
    # Wire is bought by its millimetres, and what is too little for ounces is weighed in grams.
    lengths = re.findall(r"([\d.]+) mm", told)
    assert set(lengths) == {"1.2", "1.5"}
    assert all(float(grams) < 2.84 for grams in re.findall(r"([\d.]+) g\b", told))
    assert " 0 oz" not in told and " 0 g" not in told
    assert main(["plan", str(BADGER), "--units", "ell"]) == 2
    assert capsys.readouterr().err.count("\n") == 1


def test_one_step_is_told_and_drawn(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    code, told, _ = run(capsys, "step", str(BADGER), "1", "--height", "220")
    assert code == 0 and told.startswith("1  Cut the wire “Spine”")
    assert "mark where it ends: 83 mm" in told and "Stop: length 81 mm to 85 mm" in told
    drawn, pixels = tmp_path / "one.svg", tmp_path / "one.png"
    assert run(capsys, "step", str(BADGER), "1", "--height", "220", "--svg", str(drawn))[0] == 0
    assert ">83 mm</text>" in drawn.read_text(encoding="utf-8")
    assert run(capsys, "step", str(BADGER), "1", "--png", str(pixels))[0] == 0
    assert pixels.read_bytes().startswith(b"\x89PNG")


def test_commands_page_names_every_export_and_no_other() -> None:
    page = (Path(__file__).parents[1] / "docs/commands.md").read_text(encoding="utf-8")
    section = page.split("## Exports", 1)[1].split("## ", 1)[0]
    rows = re.findall(r"^\| `--(\w+)(?: \w+)?` \| (.+?) \|$", section, re.M)
    assert dict(rows) == {form.id: form.told for form in FORMATS}


def test_plan_command_names_wools_and_ways(
    capsys: pytest.CaptureFixture[str],
) -> None:
    told = run(capsys, "plan", str(BADGER), "--height", "220")[1].splitlines()
    rows = {line.split()[1]: line for line in told if line[:2] in ("1 ", "2 ")}
    assert (
        "wrapped on its wire" in rows["Body"] and "take Core batt 29.1 g, Woad teal" in rows["Body"]
    )
    assert "made apart" in rows["Head"] and rows["Muffler"].endswith("bought")
    assert not any("core-batt" in line or "on wire" in line for line in told)
    wires = [line for line in told if "cut" in line and " of " in line and "soft steel" in line]
    assert len(wires) == 3 and all(line.endswith("mm") for line in wires)


def test_names_and_notes_in_letters_of_another_kind_are_printed(tmp_path: Path) -> None:
    other = os.fsdecode(b"t\xe9.bambola.json")
    shutil.copy(TOAD, tmp_path / other)
    argv = [
        other,
        "--pages",
        "cover",
        "--note",
        os.fsdecode(b"caf\xe9"),
        "-o",
        os.fsdecode(b"p\xe9.pdf"),
    ]
    done = subprocess.run([COMMAND, "packet", *argv], cwd=tmp_path, capture_output=True)
    assert (done.returncode, done.stderr) == (0, b"")
    assert (
        open_design(tmp_path / os.fsdecode(b"p\xe9.pdf"), default_bench()).figure.name
        == "Garden toad"
    )


@pytest.mark.parametrize("json_wanted", [False, True])
def test_terminal_of_few_letters_is_written_to(
    json_wanted: bool, capsys: pytest.CaptureFixture[str]
) -> None:
    command = [
        COMMAND,
        "plan",
        str(TOAD),
        *(["--json"] if json_wanted else []),
    ]
    environment = {**os.environ, "PYTHONIOENCODING": "ascii"}
    done = subprocess.run(command, capture_output=True, env=environment)
    assert (done.returncode, done.stderr) == (0, b"") and done.stdout.isascii()
    if json_wanted:
        assert json.loads(done.stdout) == json.loads(run(capsys, "plan", str(TOAD), "--json")[1])


def test_figure_is_drawn_from_file_of_strokes(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    made, sheet = tmp_path / "doll.bambola.json", tmp_path / "strokes.json"
    picture = tmp_path / "front.png"
    cv2.imwrite(str(picture), painted(FRONT)[..., ::-1])
    strokes = [
        {"view": "front", "name": name, "points": [[280, 560 - low * PX], [280, 560 - high * PX]]}
        for name, low, high in (("Body", 20, 80), ("Head", 76, 116))
    ]
    sheet.write_text(json.dumps({"strokes": strokes}))
    jsonschema.validate(json.loads(sheet.read_text()), published_schema("strokes"))
    own = ["measure", "--front", str(picture), "--height", "120mm", "-o", str(made)]
    code, out, _ = run(capsys, *own, "--strokes", str(sheet))
    assert code == 0 and out.endswith("doll: 2 parts.\n") and "Body: depth taken as" in out
    strokes[1]["view"] = "side"
    sheet.write_text(json.dumps({"strokes": strokes}))
    code, _, err = run(capsys, *own, "--strokes", str(sheet))
    assert code == 2 and "Stroke 2, Head: no picture is given of this view: side." in err


def test_figure_is_measured_from_its_pictures(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    made = tmp_path / "doll.bambola.json"
    pictures = []
    for view, rounds in (("front", FRONT), ("side", SIDE)):
        picture = tmp_path / f"{view}.png"
        cv2.imwrite(str(picture), painted(rounds)[..., ::-1])
        pictures += [f"--{view}", str(picture)]
    own = ["measure", "--height", "120mm", "-o", str(made)]
    like = () if THOROUGH else ("--like", "two-legged-doll")
    code, out, _ = run(capsys, *own, *pictures, *like)
    assert code == 0 and out.startswith("Proposed from the body plan: Two-legged doll.\n")
    assert plan_names() == sorted(plan.figure.id for plan in body_plans())
    code, out, _ = run(capsys, *own, *pictures, "--like", "none")
    # Two have no name, and are not made up: they are to be drawn.
    assert code == 0 and out.endswith("draw a stroke along each (--strokes).\ndoll: 4 parts.\n")
    code, out, _ = run(capsys, "plan", str(made), "--height", "240mm", "--json")
    assert code == 0
    plan = json.loads(out)
    assert plan["from_height_mm"] == pytest.approx(120, rel=0.05) and len(plan["parts"]) == 4
    code, _, told = run(capsys, *own)
    assert code == 2 and "at least one picture" in told
    blank = tmp_path / "blank.png"
    cv2.imwrite(str(blank), painted([]))
    code, _, told = run(capsys, *own, "--front", str(blank))
    assert code == 2 and "blank.png: no figure is seen in it" in told and told.count("\n") == 1
    far = [(u + 45, v * 0.6, wide * 0.6, tall * 0.6, colour) for u, v, wide, tall, colour in FRONT]
    near = [(u - 45, v * 0.6, wide * 0.6, tall * 0.6, colour) for u, v, wide, tall, colour in FRONT]
    for rounds, wrong in (([*far, *near], "more than one figure"), (None, "edge of the picture")):
        shown = painted(rounds) if rounds else painted(FRONT)[:, 220:]
        cv2.imwrite(str(blank), shown[..., ::-1])
        code, _, told = run(capsys, *own, "--front", str(blank))
        assert code == 2 and wrong in told


def test_list_of_parts_is_made_into_design(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    made, notes = tmp_path / "otter.bambola.json", tmp_path / "otter.txt"
    notes.write_text(LISTS["otter"][0] + "\nlantrn 30 tall 14\n", encoding="utf-8")
    code, out, _ = run(capsys, "begin", str(notes), "--height", "140mm", "-o", str(made))
    assert code == 0 and "Line 10" in out and "lantern" in out and "136 mm" in out
    assert len(open_design(made, default_bench()).figure.parts) == 8
    code, out, _ = run(capsys, "plan", str(made), "--json")
    assert code == 0 and json.loads(out)["to_height_mm"] == pytest.approx(140, rel=1e-3)
    notes.write_text("body 60\n60 60\nhead 0\n", encoding="utf-8")
    made.unlink()
    code, _, told = run(capsys, "begin", str(notes), "-o", str(made))
    assert code == 2 and "Line 2" in told and "Line 3" in told and not made.exists()
    table = tmp_path / "bunny.csv"
    table.write_text("part,width,height\nbody,2,2.5\nhead,1.5,1.5\n", encoding="utf-8")
    code, out, _ = run(
        capsys, "begin", str(table), "--units", "in", "--name", "Bunny", "-o", str(made)
    )
    assert code == 0 and "Bunny: 2 parts" in out
    body = open_design(made, default_bench()).figure.parts[0].shape.measures()
    assert body["width"] == pytest.approx(50.8)

"""Another pose, expression or colouring of one figure: what differs is planned, the made figure stays."""

from __future__ import annotations

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.face.expressions import EXPRESSION_BY_ID, posed_as, with_expression
from bambola.core.facts import Mm
from bambola.core.figure import Brief, dump_document, load_document
from bambola.core.figure.variants import Alteration, Shift, altered
from bambola.core.plan import make_plan
from bambola.core.plan.reading.asked import set_aside
from bambola.core.solids import place
from bambola.core.solids.meshes import mesh_of
from bambola.demo import BADGER, TOAD, load_demo
from bambola.shipped import default_bench
from tests.said import said


def test_sitting_badger_is_planned_as_it_sits(bench: Bench) -> None:
    badger = load_demo(BADGER).figure
    sits = posed_as(badger, Alteration(), "sitting")
    plan = make_plan(badger, Brief(height=200.0, altered=sits), bench)
    stands = make_plan(badger, Brief(height=200.0), bench)
    # Placed by itself: it is as high as was asked, its legs lie before it.
    figure = plan.resized.figure
    assert place(figure).height == pytest.approx(200.0, abs=0.01) and figure.stance == "sitting"
    leg = plan.solids.placement.copies_of("leg")[0]
    reach = leg.reach(np.array([0.0, -1.0, 0.0])) + leg.matrix[1, 3]
    assert reach > 0.5 * plan.part("leg").to_mm["length"]
    assert plan.scale > 1.1 * stands.scale  # less of it is height
    assert "crease:leg" in {step.key for step in plan.steps}
    bends = [{round(b.angle_deg, 1) for b in w.bends} for p in (plan, stands) for w in p.wires]
    assert bends[: len(plan.wires)] != bends[len(plan.wires) :]
    # What it was made as is the yardstick still.
    assert plan.from_height_mm == pytest.approx(140.0, abs=0.1)
    assert badger.pose == load_demo(BADGER).figure.pose


def test_lantern_below_ground_is_told(bench: Bench) -> None:
    badger = load_demo(BADGER).figure
    sits = posed_as(badger, Alteration(), "sitting")
    told = {
        pose: [n for n in make_plan(badger, Brief(height=200.0, altered=change), bench).notices
               if n.code.startswith("below-ground")]
        for pose, change in (("sits", sits), ("stands", Alteration()))
    }  # fmt: skip
    assert not told["stands"]
    (notice,) = told["sits"]
    assert notice.level == "note" and "Lantern would hang below the ground" in said(notice.title)
    # Its rods and glass, corner by corner: as far below the lowest felt as is told.
    plan = make_plan(badger, Brief(height=200.0, altered=sits), bench)
    placement = plan.solids.placement
    low = min(
        float((mesh_of(piece.shape).vertices @ p.matrix[2, :3] + piece.at * p.matrix[2, 2]).min())
        + float(p.matrix[2, 3])
        for p in placement.fittings if p.fitting.id == "lantern" for piece in p.fitting.pieces
    )  # fmt: skip
    deep = dict(notice.text.slots)["deep"]
    assert isinstance(deep, Mm) and deep.value == pytest.approx(placement.ground - low, abs=0.3)


@pytest.mark.parametrize("pose", ["waving", "holding"])
def test_arms_are_turned_on_sides_that_are_meant(pose: str, bench: Bench) -> None:
    badger = load_demo(BADGER).figure
    plan = make_plan(
        badger, Brief(height=180.0, altered=posed_as(badger, Alteration(), pose)), bench
    )
    plain = make_plan(badger, Brief(height=180.0), bench)
    moved = {}
    for a, b in zip(plan.solids.placement.copies, plain.solids.placement.copies, strict=True):
        if a.part.id == "paw":
            moved[a.side] = float(np.linalg.norm(a.matrix[:3, 3] - b.matrix[:3, 3]))
    assert moved["left"] > 10 and (moved["right"] > 10) == (pose == "holding")
    assert posed_as(badger, Alteration(), "as made").is_nothing


def test_happy_and_sad_toad_differ_by_their_marks_and_tilt(bench: Bench) -> None:
    toad = load_demo(TOAD).figure
    crown, heads = {}, {}
    for name in ("happy", "sad"):
        change = with_expression(toad, Alteration(), EXPRESSION_BY_ID[name])
        plan = make_plan(toad, Brief(height=95.0, altered=change), bench)
        face = next(f for f in plan.faces if f.part == "head")
        crown[name] = next(m.from_crown_mm for m in face.marks if m.about == "mouth")
        heads[name] = plan.solids.placement.copies_of("head")[0].matrix
        assert [s.key for s in plan.steps] == [
            s.key for s in make_plan(toad, Brief(height=95.0), bench).steps
        ]
    assert crown["sad"] > crown["happy"] + 2.0  # its mouth sits lower
    assert not np.allclose(heads["sad"][:3, :3], heads["happy"][:3, :3])
    back = with_expression(toad, with_expression(toad, Alteration(), EXPRESSION_BY_ID["sad"]), None)
    assert back.is_nothing


def test_variants_share_unaltered_parts(bench: Bench) -> None:
    badger = load_demo(BADGER).figure
    change = Alteration(colours={"woad": "madder"}, without=("cape", "muffler"))
    plan = make_plan(badger, Brief(height=180.0, altered=change), bench)
    assert not {"cape", "muffler"} & {p.id for p in plan.parts}
    assert "woad" not in {w.wool for w in plan.wools} or "woad" not in {
        part.coat.wool for part in badger.parts if part.coat
    }
    dyed = make_plan(
        badger, Brief(height=180.0, altered=Alteration(colours={"grey": "charcoal"})), bench
    )
    assert "grey" not in {p.wool for part in dyed.parts for p in part.portions}  # seams as well
    plain = make_plan(badger, Brief(height=180.0), bench)
    for part in plan.parts:
        assert part.to_mm == pytest.approx(plain.part(part.id).to_mm)
    assert altered(badger, Alteration(without=("fin",), shifts={"fin": Shift(along=0.1)})) == badger


def test_variants_are_saved_and_report_lost_parts() -> None:
    badger = load_demo(BADGER).figure
    sad = with_expression(badger, Alteration(), EXPRESSION_BY_ID["sad"])
    brief = Brief(height=180.0, altered=sad).kept_as("The sad one")
    brief = brief.replaced(altered=posed_as(badger, Alteration(), "waving"), height=150.0).kept_as(
        "Waves"
    )
    assert [v.name for v in brief.variants] == ["The sad one", "Waves"] and brief.variant == "Waves"
    again = brief.taking("The sad one")
    assert again.altered == sad and again.height == 180.0
    assert (
        again.taking("").altered.is_nothing and again.without_variant("The sad one").variant == ""
    )
    opened = load_document(dump_document(badger, again).encode(), "badger")
    assert opened.brief == again
    from bambola.core.figure.graft import without_part

    earless = without_part(badger, "ear")
    told = [said(t) for t in set_aside(earless, again, default_bench())]
    assert told == ["The variant “The sad one” changes “ear”, which no longer exists."]
    # A colour that the shelf does not have ended planning with a KeyError.
    odd = brief.replaced(altered=Alteration(colours={"woad": "mauve"})).kept_as("Odd")
    told = [said(t) for t in set_aside(badger, odd, default_bench())]
    assert told == ["The variant “Odd” uses the wool “mauve”, which is not on the shelf."]
    assert make_plan(badger, odd, default_bench()).wool_g > 0


def test_file_from_before_opens_as_it_was() -> None:
    old = load_demo(BADGER)
    assert old.brief.altered.is_nothing and old.brief.variants == ()
    text = dump_document(old.figure, old.brief)
    assert "altered" not in text and "variants" not in text

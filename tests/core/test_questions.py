"""What may be asked and answered: typed, read in one place, and told where it is not known."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from bambola.cli import main
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Document, dump_document, load_document
from bambola.core.figure.questions import (
    QUESTIONS,
    EyeSize,
    MetalAnswer,
    SizeAnswer,
    StockedAnswer,
    StoutestWire,
    TooThin,
    WeakJoin,
    WireGauge,
    question_of,
)
from bambola.core.order import CHOICES
from bambola.core.plan import make_plan
from bambola.core.plan.reading.asked import KNOWN, set_aside
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench
from tests.effort import THOROUGH
from tests.said import said


def test_question_is_written_and_read_same_and_knows_its_answers() -> None:
    for kind, question in QUESTIONS.items():
        one = question("left-arm")
        assert one.code == f"{kind}:left-arm" and question_of(one.code) == one
        assert all(one.read(str(answer)) is answer for answer in one.answers)
        assert one.read("nonsense") is None and one.read("") is None
    assert EyeSize("eye").read("7.50") == SizeAnswer.answer_for(7.5) and WireGauge("w").read(
        "1.2"
    ) == SizeAnswer.answer_for(1.2)
    assert WireGauge("w").read("-1") is None and TooThin("arm").read("7.5") is None
    assert StoutestWire("w").read("metal:soft copper") == MetalAnswer.answer_for("soft copper")
    assert (
        StoutestWire("w").read("metal:gold") is None
        and StoutestWire("w").read("stand") is StockedAnswer.STAND
    )
    assert question_of("join") is None and question_of("wings:left") is None
    assert TooThin("arm") != WeakJoin("arm")


def test_asked_questions_and_options_are_known() -> None:
    bench, asked = default_bench(), set()
    for demo in (BADGER, HERON, TOAD):
        document = load_demo(demo)
        made = make_plan(document.figure, Brief(), bench).from_height_mm
        for share in (0.3, 0.6, 1.5, 3.0, 6.0):
            for notice in make_plan(document.figure, Brief(height=made * share), bench).notices:
                if not notice.options:
                    continue
                question = question_of(notice.code)
                assert question is not None, notice.code
                asked.add(question.kind)
                for option in notice.options:
                    assert question.read(option.id) == option.id, (notice.code, option.id)
                    answered = Brief(height=made * share).answered(notice.code, option.id)
                    assert question.read(answered.answers[notice.code]) == option.id
                assert not list(set_aside(document.figure, answered, default_bench()))
    assert asked >= {"thin-limb", "join", "eye-size", "soft-centre"}


def test_every_choice_and_school_on_offer_is_known() -> None:
    assert {choice.id for choice in CHOICES} < set(KNOWN)
    assert all(choice.default in choice.schools for choice in CHOICES)


ODD = {
    "answers": {
        "thin-limb:leg": "paint it",
        "wings:left": "two",
        "join:horn": "peg",
        "gauge:spine": "thick",
    },
    "schools": {
        "face": "sideways",
        "hats": "on",
        "wire": "knots",
        "neck": "nails",
        "wire-stock": "gold",
    },
}


def test_unknown_answers_are_reported_and_kept(
    badger: Document, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    odd = badger.brief.replaced(**ODD)
    told = [said(one) for one in set_aside(badger.figure, odd, default_bench())]
    assert len(told) == 9
    for words in (
        "The answer “paint it” to “thin-limb:leg” is ignored; it may be thinner-wire",
        "The answer to “wings:left” is ignored: there is no such question.",
        "The answer to “join:horn” is ignored: “horn” no longer exists.",
        "The answer “thick” to “gauge:spine” is ignored; it may be a size in mm, as it is sold.",
        "The way “sideways” of making “face” is ignored; it may be before, eyes first and after.",
        "The way of making chosen for “hats” is ignored",
    ):
        assert any(one.startswith(words) for one in told), words
    assert all(one.endswith(".") and one.count(". ") == 0 for one in told)
    bench = default_bench()
    plain, strange = (
        make_plan(badger.figure, brief, bench)
        for brief in (badger.brief.replaced(answers={}, schools={}), odd)
    )
    assert (strange.steps, strange.wires, strange.parts) == (plain.steps, plain.wires, plain.parts)
    data = dump_document(badger.figure, odd)
    again = load_document(data.encode(), "odd").brief
    assert (again.answers, again.schools) == (ODD["answers"], ODD["schools"])
    path = tmp_path / "odd.bambola.json"
    path.write_text(data, encoding="utf-8")
    assert main(["plan", str(path), "--json"]) == 0
    out, err = capsys.readouterr()
    assert len(err.splitlines()) == 9 and json.loads(out)["steps"]


ASKED = {path.stem: load_demo(path) for path in (BADGER, HERON, TOAD)} | (
    {plan.figure.id: Document(figure=plan.figure) for plan in body_plans()} if THOROUGH else {}
)


@pytest.mark.parametrize("share", (0.25, 0.5, 1.0, 2.0, 4.0) if THOROUGH else (0.4, 2.0))
@pytest.mark.parametrize("name", ASKED)
def test_every_answer_that_is_offered_can_be_given(name: str, share: float, bench: Bench) -> None:
    document = ASKED[name]
    brief = document.brief.at_height(place(document.figure).height * share)
    for notice in make_plan(document.figure, brief, bench).notices:
        for option in notice.options:
            plan = make_plan(document.figure, brief.answered(notice.code, option.id), bench)
            (settled,) = (again for again in plan.notices if again.code == notice.code)
            assert settled.answer == option.id and not settled.is_open, (notice.code, option.id)
            assert said(settled.text) and "{" not in said(settled.text)
            assert plan.to_height_mm == pytest.approx(brief.height, abs=1e-3)

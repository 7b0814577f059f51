"""Finds splitting trees in the background; a new request ends an older one."""

from __future__ import annotations

import json

from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.facts import Fact, Grams, fact
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import split_wishes
from bambola.core.wool.splitting import SplitPlan
from bambola.desk.running.children import ChildProcess
from bambola.desk.session.studio import EditorSession
from bambola.desk.stations.wool import split_job
from bambola.desk.stations.wool.split_job import PLAN, WANTED
from bambola.language import tr

PATIENCE_S = 30.0
"""How long one run of the solver may take before the tree found is shown without proof."""


class Splitter(QObject):
    """The colour to split, and the state of its tree."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self.studio = studio
        self.wool = ""
        self.from_pack = False
        self._plan: Plan | None = None
        self._known: dict[tuple[str, float], SplitPlan | Fact | str] = {}
        self._settled: set[tuple[str, float]] = set()
        self._asked: tuple[str, float] | None = None
        self._process: ChildProcess | None = None

    @property
    def wools(self) -> list[str]:
        """The colours of the plan, the heaviest first."""
        plan = self.studio.plan
        return list(self._grams_by_wool(plan)) if plan else []

    def _grams_by_wool(self, plan: Plan) -> dict[str, float]:
        grams: dict[str, float] = {}
        for part in plan.parts:
            for p in part.portions:
                grams[p.wool] = grams.get(p.wool, 0.0) + p.grams * part.count
        return dict(sorted(grams.items(), key=lambda item: -item[1]))

    @property
    def hank_g(self) -> float:
        """The weight of the hank: exactly what is needed, or whole packs."""
        plan = self.studio.plan
        if plan is None or not self.wool:
            return 0.0
        whole = sum(w.grams * w.count for w in split_wishes(plan, self.wool, self.studio.bench))
        pack = self.studio.bench.wool_by_id[self.wool].pack_g
        return max(1, -(-whole // pack)) * pack if self.from_pack else whole

    def choose(self, wool: str, from_pack: bool | None = None) -> None:
        """Choose another colour, or whole packs."""
        self.wool = wool
        self.from_pack = self.from_pack if from_pack is None else from_pack
        self.find_tree()

    def find_tree(self) -> None:
        """Look for the tree of the chosen colour, unless it is known."""
        plan = self.studio.plan
        if plan is None:
            return
        if plan is not self._plan:
            self._plan, self._known = plan, {}
            self._settled.clear()
            self._end_process()
        if self.wool not in self.wools:
            self.wool = next(iter(self.wools), "")
        key = (self.wool, self.hank_g)
        if self.wool and key not in self._settled and key != self._asked:
            self._start_process(key)
        self.changed.emit()

    @property
    def found(self) -> SplitPlan | Fact | str | None:
        """The tree, the reason why there is none, or None while it is being looked for."""
        return self._known.get((self.wool, self.hank_g))

    def trees(self) -> dict[str, SplitPlan]:
        """Return the trees found for the open plan, by wool, for printing."""
        if self.studio.plan is not self._plan:
            return {}
        return {
            wool: found for (wool, _), found in self._known.items() if isinstance(found, SplitPlan)
        }

    @property
    def is_idle(self) -> bool:
        """Whether no search is running."""
        return self._process is None

    @property
    def is_settled(self) -> bool:
        """Whether the present tree is final."""
        return (self.wool, self.hank_g) in self._settled

    def _start_process(self, key: tuple[str, float]) -> None:
        self._end_process()
        assert self._plan is not None
        wishes = split_wishes(self._plan, key[0], self.studio.bench)
        question = {
            "wanted": WANTED.dump_python(wishes, mode="json"),
            "hank_g": key[1],
            "patience_s": PATIENCE_S,
        }
        process = ChildProcess(self)
        process.line_read.connect(lambda line: self._read_answer(line, key))
        process.ended.connect(lambda: self._on_process_ended(key))
        self._process, self._asked = process, key
        process.start(split_job.__name__)
        process.write(json.dumps(question).encode() + b"\n")

    def _read_answer(self, line: bytes, key: tuple[str, float]) -> None:
        answer = json.loads(line)
        if "refused" in answer:
            grams = {name: Grams(g) for name, g in answer["grams"].items()}
            self._known[key] = fact(answer["refused"], **grams)
            self._settled.add(key)
        else:
            self._known[key] = PLAN.validate_python(answer["plan"])
            if answer["final"]:
                self._settled.add(key)
        self.changed.emit()

    def _on_process_ended(self, key: tuple[str, float]) -> None:
        self._end_process()
        if key not in self._known:
            self._known[key] = tr(
                "No way to split it was found; choose the colour again to try once more."
            )
        self.changed.emit()

    def cancel(self) -> None:
        """End the search; the best tree so far stays, unproved."""
        key = self._asked
        self._end_process()
        if key is not None:
            self._known.setdefault(
                key, tr("The search was stopped before a way to split it was found.")
            )
            self._settled.add(key)
        self.changed.emit()

    def _end_process(self) -> None:
        process, self._process, self._asked = self._process, None, None
        if process is not None:
            process.end()

    def close(self) -> None:
        """End the search for good."""
        self._end_process()

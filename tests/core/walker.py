"""An independent reading of what every step needs and leaves: it goes through an order as a felter would,
with the piece in hand, and names the first card that asks for what is not there. See craft.md, 10."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

from bambola.core.bench import Bench
from bambola.core.methods import sheet_for
from bambola.core.order import Step
from bambola.core.order.keys import SECOND
from bambola.core.order.work import PartJob
from bambola.core.plan import Plan

LEAVES_A_FRINGE = {"shape.fringe", "shape.cut-roll", "flat.fringe"}
LEAVES_WIRE_BARE = {"wrap-limb.to"}
OVER_WIRE = {"in-place.round-wire", "join.over-wire"}


@dataclass
class Walker:
    """What lies on the pad after the steps walked so far."""

    plan: Plan
    bench: Bench
    done: set[str] = field(default_factory=set)
    fringed: set[str] = field(default_factory=set)
    bare: set[str] = field(default_factory=set)
    open_socket: str = ""
    attached: Counter[str] = field(default_factory=Counter)
    wet: set[str] = field(default_factory=set)

    def walk(self) -> str:
        """The first step that cannot be done and why; nothing where all can."""
        for step in self.plan.steps:
            fault = self._fault(step)
            if fault:
                return f"{step.n} {step.key}: {fault}"
            self._do(step)
        if self.bare:
            return f"the wire left bare by {sorted(self.bare)} is never used"
        for job in self.plan.work.parts:
            if job.parent and not job.left_out and self.attached[job.id] != 1:
                return f"{job.id} is attached {self.attached[job.id]} times"
        return f"the glue of {sorted(self.wet)} is never left alone" if self.wet else ""

    def _do(self, step: Step) -> None:
        self.open_socket = step.key.about if step.key.sort == "socket" else ""
        self.done.add(str(step.key))
        self._attach(step)
        if step.key.sort in ("core", "join", "dry"):
            told = {fact.kind for fact in sheet_for(self.plan, step, self.bench).card.how}
            job = self._job(step.key.about)
            if told & LEAVES_A_FRINGE:
                self.fringed.add(step.key.about)
            if told & LEAVES_WIRE_BARE and job is not None and not self._capped(job):
                self.bare.add(job.id)
            if job is not None and job.parent and (job.made == "on wire" or told & OVER_WIRE):
                self.bare -= {job.parent, job.parent + SECOND} if job.count == 2 else {job.parent}

    def _fault(self, step: Step) -> str:
        key = step.key
        if self.open_socket and key != f"fit:{self.open_socket}":
            return f"the socket of {self.open_socket} closes meanwhile"
        if "finish" in self.done and key.sort not in ("skin", "finish") and key != "check:stand":
            return "it is smoothed already"
        if "check:stand" in self.done:
            return "it was looked at for the last time"
        if "check:ground" in self.done or key != "check:ground":
            pass
        elif missing := [f for f in self.plan.work.feet if not self._is_on(f)]:
            return f"{missing} is not on yet"
        mixed = [wool for wool, _ in self.plan.work.mixes if f"mix:{wool}" not in self.done]
        if key.sort != "mix" and {p.wool for p, _ in self.plan.laid_by(step)} & set(mixed):
            return f"{mixed} is not mixed yet"
        look = getattr(self, f"_at_{key.sort}", None)
        job = self._job(key.about)
        pressed = {key.about} | ({str(job.parent)} if job and key.sort == "join" else set())
        if key.sort in ("coat", "inset", "face", "furrow", "fur", "blend", "join") and (
            wet := pressed & self.wet
        ):
            return f"the glue of {sorted(wet)} is wet"
        return look(step, job) if look is not None else ""

    def _attach(self, step: Step) -> None:
        """What is wound is attached when its wire is bound to the frame; all else by a step of its own."""
        job = self._job(step.key.about)
        if step.key.sort == "bend":
            wire = step.key.about
            self.attached.update(
                job.id for job in self.plan.work.parts
                if wire in job.wires[:1] and job.made == "on wire" and not self._has_step("join", job.id)
            )  # fmt: skip
        elif job is not None and (
            step.key.sort in ("join", "detail")
            or (step.key.sort == "core" and step.key.nth == 1 and job.made == "in place")
        ):
            self.attached[job.id] += 1
            if self._has_step("peg", job.id):
                self.wet.add(job.id)
        if step.key.sort == "dry":
            self.wet.discard(step.key.about)

    def _has_step(self, sort: str, part: str) -> bool:
        return any(s.key.sort == sort and s.key.about == part for s in self.plan.steps)

    # What each sort of step needs

    def _at_bend(self, step: Step, job: PartJob | None) -> str:
        wire = next(w for w in self.plan.wires if w.id == step.key.about)
        if f"cut:{wire.id}" not in self.done:
            return "it is not cut"
        for node in (s.a for s in wire.stretches if s.kind == "binding"):
            others = [
                w for w in self.plan.wires
                if w.id != wire.id and any(node in (s.a, s.b) for s in w.stretches if s.kind == "run")
            ]  # fmt: skip
            if not any(f"bend:{w.id}" in self.done for w in others):
                return f"there is nothing to bind it to at {node}"
        return ""

    def _at_tape(self, step: Step, job: PartJob | None) -> str:
        return self._bare_wires(step)

    def _at_core(self, step: Step, job: PartJob | None) -> str:
        assert job is not None
        n = step.key.nth
        if n > 1 and f"core:{job.id}:{n - 1}" not in self.done:
            return "the round before is missing"
        if job.made == "on wire":
            return self._bare_wires(step)
        if job.drawn and job.parent:
            if f"core:{job.parent}:1" not in self.done:
                return "there is no ball to draw it out of"
            skin = self._has_step("coat", job.parent) and self._is_coated(job.parent)
            return "its ball has its coat" if skin else ""
        if job.made == "in place" and job.parent:
            if not self._is_coated(job.parent):
                return f"{job.parent} has no skin to build on"
            return self._unmarked(job)
        return ""

    def _capped(self, limb: PartJob) -> bool:
        """Whether what goes over the limb's end is there already."""
        return any(
            self._is_firm(job) and f"core:{job.id}:1" in self.done
            for job in self.plan.work.parts
            if job.parent == limb.id and job.made == "on wire"
        )

    def _at_coat(self, step: Step, job: PartJob | None) -> str:
        assert job is not None
        if not self._is_firm(job):
            return "its core is not done"
        wound = [
            c.id for c in self.plan.work.parts
            if c.parent == job.id and c.made == "on wire" and not self._is_firm(c)
            and job.id not in c.over  # hair lies on a head that is done
            and not any(g.passes == c.id for g in self.plan.work.parts)  # clothes go on first, over its wire
        ]  # fmt: skip
        if wound and step.key.sort == "coat":
            return f"{wound} is still to be wound under it"
        return self._under_cloth(job)

    def _at_inset(self, step: Step, job: PartJob | None) -> str:
        return self._at_coat(step, job) or self._below(step, job)

    def _below(self, step: Step, job: PartJob | None) -> str:
        """Of places that overlap, the lower one lies there first."""
        assert job is not None
        kinds = {patch.id: "face" if patch.face else "inset" for patch in job.insets}
        mine = next(patch for patch in job.insets if patch.id == step.key.detail)
        below = [
            id for id in mine.over
            if not (mine.face and kinds[id] == "face") and self._has_step_key(f"{kinds[id]}:{job.id}:{id}")
            and f"{kinds[id]}:{job.id}:{id}" not in self.done
        ]  # fmt: skip
        return f"{below} would bury it" if below else ""

    def _has_step_key(self, key: str) -> bool:
        return any(step.key == key for step in self.plan.steps)

    def _at_join(self, step: Step, job: PartJob | None) -> str:
        assert job is not None and job.parent is not None
        if job.made != "bought" and not self._is_firm(job):
            return "it is not made"
        parent = self._job(job.parent)
        if parent is not None and not job.built_round and not self._is_firm(parent):
            return f"{job.parent} is not firm"
        if job.garment:
            return self._worn(job)
        if (
            any(s.key == f"pair:{job.id}" for s in self.plan.steps)
            and f"pair:{job.id}" not in self.done
        ):
            return "its two are not joined to each other"
        if job.is_pegged and f"peg:{job.id}" not in self.done:
            return "there is no hole for its peg"
        hangs = any(
            told.kind == "join.spread" for told in sheet_for(self.plan, step, self.bench).card.how
        )
        if hangs and job.id not in self.fringed:
            return "no card left it a fringe"
        if unmarked := self._unmarked(job):
            return unmarked
        return self._under_cloth(parent, job.id) if parent is not None else ""

    def _at_pair(self, step: Step, job: PartJob | None) -> str:
        return "" if job is not None and self._is_firm(job) else "there are no two yet"

    def _at_peg(self, step: Step, job: PartJob | None) -> str:
        if f"join:{step.key.about}" in self.done:
            return "it is joined already"
        assert job is not None
        bearer = self._job(str(job.parent))
        unmade = [j.id for j in (job, bearer) if j is not None and not self._is_firm(j)]
        return f"{unmade} is not made" if unmade else ""

    def _at_mark(self, step: Step, job: PartJob | None) -> str:
        if job is not None and not (self._is_firm(job) and self._is_coated(job.id)):
            return "there is no skin to mark yet"
        return (
            "fur hides it" if any(k.startswith(f"fur:{step.key.about}:") for k in self.done) else ""
        )

    def _at_socket(self, step: Step, job: PartJob | None) -> str:
        bearer = str(step.part)
        clay = f"pattern:{step.key.about}"
        if self._has_step_key(clay) and clay not in self.done:
            return "what is tried here is not made yet"
        if not self._is_coated(bearer):
            return "a coat would close it"
        marks = f"mark:{bearer}"
        is_asked = any(s.key == marks for s in self.plan.steps)
        return "no line says where" if is_asked and marks not in self.done else ""

    def _at_blend(self, step: Step, job: PartJob | None) -> str:
        assert job is not None
        if job.made == "apart" and f"join:{job.id}" not in self.done:
            return "it is not joined"
        bare = [p for p in (job.id, job.parent) if p and not self._is_coated(p)]
        if bare:
            return f"a coat of {bare} is still to bury it"
        return self._under_cloth(job)

    def _at_fit(self, step: Step, job: PartJob | None) -> str:
        socketed = any(s.key == f"socket:{step.key.about}" for s in self.plan.steps)
        if socketed and self.open_socket != step.key.about:
            return "no socket is open"
        marks = f"mark:{step.part}"
        by_line = next(f for f in self.plan.work.fittings if f.id == step.key.about).kind == "eye"
        return (
            "no line says where"
            if by_line and self._has_step_key(marks) and marks not in self.done
            else ""
        )

    def _at_face(self, step: Step, job: PartJob | None) -> str:
        assert job is not None
        if any(k.startswith(f"fur:{job.id}:") for k in self.done):
            return "fur hides it"
        if not self._is_coated(job.id) or not self._is_firm(job):
            return "there is no skin to lay it on"
        piece = next(p for p in job.insets if p.id == step.key.detail)
        eyes = [f.id for f in self.plan.work.fittings if f.part == job.id and f.kind == "eye"]
        about = piece.face in ("lid", "rim", "lash", "white", "pupil", "highlight")
        if about and any(f"fit:{eye}" not in self.done for eye in eyes):
            return "there is no eye yet"
        marks = f"mark:{job.id}"
        if any(s.key == marks for s in self.plan.steps) and marks not in self.done:
            return "no line says where"
        return self._under_cloth(job)

    def _at_fur(self, step: Step, job: PartJob | None) -> str:
        n, at = step.key.nth, step.key.place + "#" if step.key.place else ""
        if n > 1 and f"fur:{step.key.about}:{at}{n - 1}" not in self.done:
            return "the row below is missing"
        if job is not None and not self._is_firm(job):
            return "it is not shaped"
        if job is not None and (worn := self._under_cloth(job)):
            return worn
        if not self._is_coated(step.key.about):
            return "a coat would bury it"
        later = [
            f.id for f in self.plan.work.fittings
            if f.part == step.part and f.kind in ("eye", "nose") and f"fit:{f.id}" not in self.done
        ]  # fmt: skip
        later += [
            c.id for c in self.plan.work.parts
            if c.parent == step.part and c.made not in ("bought", "cut") and not self._is_on(c.id)
        ]  # fmt: skip
        return f"{later} is still to come through it" if later else ""

    def _worn(self, job: PartJob) -> str:
        """Whether clothing can be put on: over what is there, and past what is not."""
        assert job.parent is not None
        if job.built_round:
            return ""
        if not self._is_coated(job.parent):
            return "its bearer is bare"
        late = [p for p in job.over if not (self._is_on(p) and self._is_coated(p))]
        if late:
            return f"{late} belongs under it"
        past = job.passes if job.must_precede else None
        return f"{past} is in its way" if past and f"join:{past}" in self.done else ""

    def _unmarked(self, job: PartJob) -> str:
        """What belongs to a face is put where a line says, if any is drawn."""
        at = job.parent if job.face else None
        while at is not None:
            if any(s.key == f"mark:{at}" for s in self.plan.steps):
                return "" if f"mark:{at}" in self.done else "no line says where"
            bearer = self._job(at)
            at = bearer.parent if bearer else None
        return ""

    # What there is

    def _job(self, part: str) -> PartJob | None:
        return next((job for job in self.plan.work.parts if job.id == part), None)

    def _all_done(self, part: str, *sorts: str) -> bool:
        asked = [s.key for s in self.plan.steps if s.key.about == part and s.key.sort in sorts]
        return all(key in self.done for key in asked)

    def _is_firm(self, job: PartJob) -> bool:
        drawn = [other for other in self.plan.work.parts if other.drawn and other.parent == job.id]
        own = self._all_done(job.id, "core", "detail", "hard", "pattern")
        return own and all(self._is_firm(other) for other in drawn)

    def _is_coated(self, part: str) -> bool:
        return self._all_done(part, "coat", "inset")

    def _is_on(self, part: str) -> bool:
        job = self._job(part)
        return job is None or self._all_done(part, "core", "join", "blend")

    def _bare_wires(self, step: Step) -> str:
        base = step.part or step.key.about
        wires = [w.id for w in self.plan.wires_in(base)]
        loose = [
            w
            for w in wires
            if f"bend:{w}" not in self.done and any(s.key == f"bend:{w}" for s in self.plan.steps)
        ]
        return f"the wires {loose} are not bent" if loose else ""

    def _under_cloth(self, job: PartJob, joined: str = "") -> str:
        """What lies over a part; what goes on before something ``joined`` to it leaves that place free."""
        worn = [
            g.id for g in self.plan.work.parts
            if g.garment and not g.built_round and job.id in g.over and f"join:{g.id}" in self.done
            and joined not in (g.passes, *g.before)
        ]  # fmt: skip
        return f"{worn} lies over it" if worn else ""

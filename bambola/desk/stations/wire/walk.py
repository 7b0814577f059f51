"""The selection of the station *Wire*: a wire, a step of its walk, the bone under it."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from bambola.core.armature import CutStretch, CutWire, will_do
from bambola.core.figure import Figure
from bambola.core.figure.additions import with_node_at, with_strands
from bambola.core.figure.questions import SizeAnswer, WireGauge
from bambola.core.figure.variants import Alteration
from bambola.core.plan import BonePlan
from bambola.core.solids import place
from bambola.core.solids.edit import pose_limb
from bambola.desk.session.studio import EditorSession
from bambola.language import N_, tr

NODES = (
    N_("ankle"), N_("antler"), N_("arm"), N_("body"), N_("breast"), N_("chest"), N_("crown"), N_("elbow"),
    N_("head"), N_("heart"), N_("heel"), N_("hip"), N_("hips"), N_("knee"), N_("leg"), N_("nape"), N_("neck"),
    N_("neck bend"), N_("neck mid"), N_("neck root"), N_("palm"), N_("pelvis"), N_("rump"), N_("shoulder"),
    N_("shoulders"), N_("skull"), N_("toe"), N_("withers"), N_("wrist"),
)  # fmt: skip
"""What joints are mostly called; others are called as they are in the design."""


def node_words(node: str) -> str:
    """Return a node's id as a name: knee-l becomes left knee."""
    *words, last = node.split("-")
    name = tr(" ".join(words))
    if words and last in ("l", "left"):
        return tr("left {node}", node=name)
    if words and last in ("r", "right"):
        return tr("right {node}", node=name)
    return tr(" ".join([*words, last]))


class Walk(QObject):
    """A place on the numbered walk of one wire; announces when it changes."""

    changed = pyqtSignal()

    def __init__(self, studio: EditorSession) -> None:
        super().__init__()
        self.studio = studio
        studio.plan_changed.connect(self.changed)
        studio.selection.wire_changed.connect(self.changed)

    @property
    def wires(self) -> tuple[CutWire, ...]:
        """The wires over bones (pegs excluded)."""
        plan = self.studio.plan
        return tuple(w for w in plan.wires if w.id in plan.gauges) if plan else ()

    @property
    def wire(self) -> CutWire | None:
        """The selected wire; the first until another is chosen."""
        wires = self.wires
        return next(
            (w for w in wires if w.id == self.studio.selection.wire), wires[0] if wires else None
        )

    @property
    def runs(self) -> list[CutStretch]:
        """The runs of the selected wire, in walking order."""
        wire = self.wire
        return [s for s in wire.stretches if s.kind == "run"] if wire else []

    @property
    def step(self) -> int:
        """The index of the current run."""
        return max(0, min(self.studio.selection.run, len(self.runs) - 1))

    @property
    def run(self) -> CutStretch | None:
        """The current run."""
        runs = self.runs
        return runs[self.step] if runs else None

    @property
    def bone(self) -> BonePlan | None:
        """The bone under the current run."""
        plan, run = self.studio.plan, self.run
        if plan is None or run is None:
            return None
        return next((b for b in plan.bones if {b.a, b.b} == {run.a, run.b}), None)

    def select_wire(self, wire: str, step: int = 0) -> None:
        """Select a wire, and the part its run lies in."""
        self.studio.selection.select_wire(wire, step)
        bone = self.bone
        if bone is not None:
            self.studio.selection.select_part(bone.part)

    def walk(self, by: int) -> None:
        """Walk on along the wire, and from its end to the next wire."""
        wires, wire = self.wires, self.wire
        if wire is None:
            return
        step = self.step + by
        if 0 <= step < len(self.runs):
            self.select_wire(wire.id, step)
            return
        following = wires[(wires.index(wire) + (1 if by > 0 else -1)) % len(wires)]
        last = sum(s.kind == "run" for s in following.stretches) - 1
        self.select_wire(following.id, 0 if by > 0 else last)

    def next_wire(self, by: int) -> None:
        """Select the next or previous wire."""
        wires, wire = self.wires, self.wire
        if wire is not None:
            self.select_wire(wires[(wires.index(wire) + by) % len(wires)].id)

    # What can be changed about it

    def ask_strands(self, by: int) -> None:
        """Ask for more or fewer strands along the selected bone."""
        bone = self.bone
        if bone is not None and self.is_drawn():
            self.studio.edit_by(
                tr("Change the strands of a bone"),
                lambda figure: with_strands(figure, bone.a, bone.b, bone.strands_asked + by),
            )

    def slide_node(self, by: float) -> None:
        """Move the outer end of the selected bone, and its twin, along its part."""
        bone, figure = self.bone, self.studio.figure
        if bone is None or figure is None or not self.is_drawn():
            return
        along = next(node.along for node in figure.nodes if node.id == bone.b)
        self.studio.edit_by(
            tr("Move a joint"), lambda figure: with_node_at(figure, bone.b, round(along + by, 4))
        )

    def is_drawn(self) -> bool:
        """Return whether the selected bone is the figure's own; say so if it only leads through a join."""
        bone, figure = self.bone, self.studio.figure
        if bone is None or figure is None:
            return False
        drawn = any({b.a, b.b} == {bone.a, bone.b} for b in figure.bones)
        if not drawn:
            self.studio.refused.emit(
                tr(
                    "This bone leads wire through a join; draw it at Measure to change it by itself."
                )
            )
        return drawn

    def ask_gauge(self, by: int) -> None:
        """Choose stouter or thinner stock for the selected wire; 0 leaves it to the plan."""
        wire, sizes = self.wire, self.studio.bench.wire_sizes
        if wire is None:
            return
        if by == 0:
            self.studio.answer(WireGauge(wire.id).code, None)
            return
        at = min(range(len(sizes)), key=lambda i: abs(sizes[i] - wire.diameter_mm))
        at = max(0, min(len(sizes) - 1, at + by))
        self.studio.answer(WireGauge(wire.id).code, SizeAnswer.answer_for(sizes[at]))

    @property
    def steady_mm(self) -> float | None:
        """The stock that would make the selected wire as steady as before; None if that is no stouter."""
        plan, wire = self.studio.plan, self.wire
        gauge = plan.gauges.get(wire.id) if plan and wire else None
        if gauge is None or gauge.steady is None:
            return None
        sizes = self.studio.bench.wire_sizes
        size = will_do(gauge.steady, sizes) or sizes[-1]
        return size if size > gauge.diameter + 1e-9 else None

    def ask_steady(self) -> None:
        """Make the selected wire as steady as before."""
        wire, size = self.wire, self.steady_mm
        if wire is not None and size is not None:
            self.studio.answer(WireGauge(wire.id).code, SizeAnswer.answer_for(size))

    @property
    def gauge_is_chosen(self) -> bool:
        """Whether the maker chose the gauge of the selected wire."""
        wire = self.wire
        return wire is not None and WireGauge(wire.id).code in self.studio.brief.answers

    def choose_school(self, school: str) -> None:
        """Wire the skeleton by another school."""
        self.studio.school("wire", school)

    def choose_stock(self, stock: str | None) -> None:
        """Choose another metal, chenille stems, or what was drawn."""
        self.studio.school("wire-stock", stock)

    def pose(self, degrees: float, view: tuple[float, float, float], gesture: int = 0) -> None:
        """Bend the limb beyond the inner end of the selected bone, about the line of sight."""
        bone, plan = self.bone, self.studio.plan
        if bone is None or plan is None:
            return
        nodes = {node.id: node for node in plan.resized.figure.nodes}
        node = nodes[bone.b] if nodes[bone.b].part == bone.part else nodes[bone.a]
        now = plan.resized.was  # as it is posed, at the size it was made: that keeps its own pose
        here = place(now).nodes.get(bone.a)
        if here is None:
            return

        def turned(figure: Figure, change: Alteration) -> Alteration:
            new = pose_limb(now, bone.part, node.side, here, degrees, np.array(view))
            return change.replaced(pose=new.pose)

        self.studio.alter(tr("Pose a limb"), turned, gesture)

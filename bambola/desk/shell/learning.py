"""The lessons: a practice piece, then a first figure, each made in the make view."""

from __future__ import annotations

from typing import TYPE_CHECKING

from bambola.core.bench import Making
from bambola.language import tr
from bambola.shipped import LESSONS

if TYPE_CHECKING:
    from bambola.desk.shell.window import Window


def learn(window: Window, at: int = 0) -> None:
    """Put lesson number ``at`` on the table, and make it step by step; the first begins afresh."""
    if not window.files.may_leave():
        return
    window.lesson.begin(afresh=at == 0)
    desk = window.bench_desk
    window.take_shipped(LESSONS[at])
    plan = window.studio.plan
    done = desk.take_making().at
    if plan is not None and done and done == plan.steps[-1].key:
        desk.keep_making(Making())  # it was made before: from the beginning
    if not desk.base.beginner and desk.put_bench(desk.base.replaced(beginner=True)):
        window.message.say(
            tr(
                "You are taken to be new to it: more of the small parts are built in place. Order, Needles, "
                "glue and hands, changes that."
            ),
            serious=False,
        )
    window.make_it()

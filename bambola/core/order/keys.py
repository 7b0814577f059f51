"""Keys that identify a step: its sort of work, and the part or thing it is done to."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal, cast

if TYPE_CHECKING:
    from pydantic import GetCoreSchemaHandler
    from pydantic_core import CoreSchema

Sort = Literal[
    "cut", "bend", "tape", "hard", "core", "dry", "inset", "coat", "face", "furrow", "fur", "peg", "join",
    "pair", "blend", "crease", "mark", "socket", "fit", "wait", "detail", "check", "finish",
    "skin", "loop", "pattern", "mix",
]  # fmt: skip
SECOND = ".2"
"""What stands after the id of a part for the second of a pair that is made one at a time."""

AT = "#"
"""What stands between a place on a part and the row that lies there."""


class TaskKey(str):
    """The key of a step, such as ``core:head:1`` or ``fit:eye``. Designs and exports store it as text."""

    __slots__ = ()

    @classmethod
    def __get_pydantic_core_schema__(cls, _: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return handler(str)

    @property
    def sort(self) -> Sort:
        """The sort of work."""
        return cast(Sort, self.partition(":")[0])

    @property
    def about(self) -> str:
        """The part or thing it is done to; empty if it is the whole figure."""
        return self.partition(":")[2].partition(":")[0]

    @property
    def detail(self) -> str:
        """The patch, round or row; empty if there is only one."""
        return self.partition(":")[2].partition(":")[2]

    @property
    def nth(self) -> int:
        """The number of the round or row, from one."""
        return int(self.detail.rpartition(AT)[2] or 1)

    @property
    def place(self) -> str:
        """The place of the part that a row lies on; empty if that is all of the part."""
        return self.detail.rpartition(AT)[0]

    @property
    def of_first(self) -> TaskKey:
        """The same key for the first of a pair that is made one at a time."""
        return TaskKey(self.replace(SECOND, ""))

    def is_of(self, part: str, *sorts: Sort) -> bool:
        """Return whether it is work of these sorts on a part, or on the second of that pair."""
        return self.sort in sorts and self.about in (part, part + SECOND)


def key_of(sort: Sort, about: str = "", detail: str | int = "") -> TaskKey:
    """Return the key of a step."""
    return TaskKey(":".join(filter(None, (sort, about, str(detail)))))


LOOP, GROUND, STAND = key_of("loop"), key_of("check", "ground"), key_of("check", "stand")
FINISH, SKIN = key_of("finish"), key_of("skin")
"""Steps of the whole figure: its loop is sewn in, it is stood on its feet, at last it is held and looked at,
it is smoothed, and its skin is hardened."""

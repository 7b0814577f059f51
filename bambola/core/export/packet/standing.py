"""Small pictures of the figure as it stands after each step: a ghost of all, and what is joined over it."""

from __future__ import annotations

from PIL import Image

from bambola.core.bench import Bench
from bambola.core.export.felt import jpeg
from bambola.core.plan import Plan
from bambola.core.plan.counter.standing_after import standing_after
from bambola.core.relief import Camera, Growing
from bambola.core.solids import Placement

DOTS_PER_MM = 5.0
"""Of so small a picture no more can be told apart; a card that is drawn in no time is worth more. Judged."""
GHOST = 0.16


class StandingPictures:
    """The pictures of one plan, none larger than ``wide`` by ``high`` mm."""

    def __init__(self, plan: Plan, bench: Bench, wide: float, high: float) -> None:
        self.plan = plan
        whole = plan.solids.placement
        most = wide * DOTS_PER_MM, high * DOTS_PER_MM
        self._growing = Growing(whole, Camera(turn=14, tip=3), most, bench.colours)
        self._ghost = _faded(Image.fromarray(self._growing.picture(whole).pixels))
        share = min(wide / self._ghost.width, high / self._ghost.height)
        self.size = self._ghost.width * share, self._ghost.height * share
        self._known: dict[tuple[tuple[str, bool, int, int, int], ...], bytes] = {}

    def of(self, n: int) -> bytes:
        """The picture after step ``n`` as JPEG; where nothing new is seen, the one before."""
        shown = standing_after(self.plan, n).joined
        look = _look(shown) if shown else ()
        if look not in self._known:
            page = self._ghost.copy()
            if shown:
                page.alpha_composite(Image.fromarray(self._growing.picture(shown).pixels))
            self._known[look] = jpeg(page)
        return self._known[look]


def _look(shown: Placement) -> tuple[tuple[str, bool, int, int, int], ...]:
    fitted = len(shown.fittings)
    parts = (copy.part for copy in shown.copies)
    return tuple((p.id, p.coat is not None, len(p.furs), len(p.patches), fitted) for p in parts)


def _faded(picture: Image.Image) -> Image.Image:
    picture.putalpha(picture.getchannel("A").point(lambda a: round(a * GHOST)))
    return picture

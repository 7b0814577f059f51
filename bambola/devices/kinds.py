"""The kinds of measuring devices: what each measures in, its simulated stand-in, and its page in the docs."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from types import ModuleType
from typing import Final, Literal

from bambola.language import N_

DeviceKind = Literal["caliper", "scale"]


@dataclass(frozen=True, slots=True)
class Device:
    """One kind of device: the unit of its readings as :mod:`.protocol` gives them, a function that imports
    its simulator, which is wanted only when it is started, and its heading in ``docs/devices.md``."""

    title: str
    unit: Literal["mm", "g"]
    simulator: Callable[[], ModuleType]
    chapter: str


def _caliper() -> ModuleType:
    from bambola.devices import simulated_caliper

    return simulated_caliper


def _scale() -> ModuleType:
    from bambola.devices import simulated_scale

    return simulated_scale


DEVICES: Final[Mapping[DeviceKind, Device]] = {
    "caliper": Device(N_("Caliper"), "mm", _caliper, "The simulated caliper"),
    "scale": Device(N_("Scale"), "g", _scale, "The simulated scale"),
}

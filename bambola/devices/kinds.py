"""The kinds of measuring devices: what each measures in, its simulated stand-in, and its page in the docs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import ModuleType
from typing import Final, Literal

from bambola.devices import simulated_caliper, simulated_scale
from bambola.language import N_

DeviceKind = Literal["caliper", "scale"]


@dataclass(frozen=True, slots=True)
class Device:
    """One kind of device: the unit of its readings as :mod:`.protocol` gives them, the program that simulates
    it, and its heading in ``docs/devices.md``."""

    title: str
    unit: Literal["mm", "g"]
    simulator: ModuleType
    chapter: str


DEVICES: Final[Mapping[DeviceKind, Device]] = {
    "caliper": Device(N_("Caliper"), "mm", simulated_caliper, "The simulated caliper"),
    "scale": Device(N_("Scale"), "g", simulated_scale, "The simulated scale"),
}

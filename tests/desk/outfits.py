"""How the tests speak of the dialog for a part's fur, its clothes and what it is of."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QComboBox

from bambola.desk.stations.measure.outfit import OutfitDialog

Ask = Callable[[str, Callable[[OutfitDialog], object]], None]
"""Opens the dialog of the part of this id, and uses it so."""


def choose(box: QComboBox, data: object) -> None:
    """Take the choice that stands for ``data``."""
    box.setCurrentIndex(box.findData(data))

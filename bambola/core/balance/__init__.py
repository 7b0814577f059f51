"""Standing, hanging and joins: whether a figure holds itself up, and what would make it."""

from bambola.core.balance.joins import ALLOWED_KPA, JoinStress, join_for, join_stresses
from bambola.core.balance.standing import (
    WARN_DEG,
    Balance,
    Remedy,
    balance,
    contacts,
    footprints,
    loop_point,
    remedies,
)

"""Standing, hanging and joins: whether a figure holds itself up, and what would make it."""

from bambola.core.balance.hanging import loop_point
from bambola.core.balance.joins import ALLOWED_KPA, JoinStress, join_for, join_stresses
from bambola.core.balance.remedies import Remedy, remedies
from bambola.core.balance.standing import WARN_DEG, Balance, balance, contacts, footprints

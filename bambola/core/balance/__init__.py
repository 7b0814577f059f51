"""Standing and joins: does it hold itself up."""

from bambola.core.balance.joins import JoinStress, join_stresses
from bambola.core.balance.standing import WARN_DEG, Balance, balance, contacts

__all__ = ["WARN_DEG", "Balance", "JoinStress", "balance", "contacts", "join_stresses"]

"""The maker's files: designs opened and saved, and the journal of unsaved work."""

from bambola.store.designs import fingerprint, open_design, save_design
from bambola.store.journal import Journal

__all__ = ["Journal", "fingerprint", "open_design", "save_design"]

"""The maker's files: designs opened and saved, and the journal of unsaved work."""

from bambola.store.caches import KeptMeasures, KeptPictures
from bambola.store.designs import fingerprint, new_design, open_design, save_design
from bambola.store.journal import Journal

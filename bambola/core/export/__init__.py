"""The plan on paper and in other programs: JSON, CSV, SVG and PDF. Each format is imported from its own
module, so that nobody waits for another's library."""

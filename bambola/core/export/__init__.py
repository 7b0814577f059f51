"""The plan on paper and in other programs: JSON, CSV, SVG and PDF.

Each form is imported from its own module, so that nobody waits for the library of another.
"""

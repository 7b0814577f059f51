"""A figure from a maker's notes: a list of parts with sizes, read, built, and written back."""

"""Painting: tape, flags, dimensions, bundles, beads. Each function only draws what it is given."""

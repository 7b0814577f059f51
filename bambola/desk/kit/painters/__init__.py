"""Painting functions for tape, flags, dimensions, bundles and beads. Each only draws what it is given."""

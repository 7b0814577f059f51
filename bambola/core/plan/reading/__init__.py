"""What measuring a figure needs of a plan: a start, traced parts, checks, the guided round, the scale."""

"""What measuring needs of a plan: a start, traced parts, checks, the round, the scale."""

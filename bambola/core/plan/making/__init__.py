"""Figure, brief and bench to numbers."""

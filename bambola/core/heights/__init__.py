"""What the height decides: where something turns, what is available at which heights, and sizes compared."""

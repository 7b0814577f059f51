"""What a height decides: where something turns, what can be had at which heights, and sizes side by side."""

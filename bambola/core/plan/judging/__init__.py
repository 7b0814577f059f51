"""What the numbers mean: questions, notes and what a new size changes."""

"""What the numbers mean for the maker: questions, notes, and what a new size changes."""

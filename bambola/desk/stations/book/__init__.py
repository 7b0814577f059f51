"""The book: every figure made, what became of it and what it cost."""

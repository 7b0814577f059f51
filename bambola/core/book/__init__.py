"""The book: what makings cost and what became of them."""

"""The book of makings: what they cost and how they came out."""

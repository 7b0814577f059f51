"""The wool station: the table, the pan, the splitting tree, the shelf, and what is in hand."""

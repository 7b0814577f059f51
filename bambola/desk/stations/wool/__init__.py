"""The station *Wool*: the table, the pan, the splitting tree, the shelf, and the card of the selection."""

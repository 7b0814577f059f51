"""The station *Measure*: pictures, the board, the tools that work on it, and the cards."""

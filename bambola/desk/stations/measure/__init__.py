"""The measure station's pieces: pictures, the board, the hands that work on it, and the cards."""

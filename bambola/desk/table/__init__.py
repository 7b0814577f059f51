"""The table with the two figures: its layout, its painting and the hands on it."""

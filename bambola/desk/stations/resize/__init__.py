"""Resize: the table with the two figures and the tape, its layout, its painting and the hands on it."""

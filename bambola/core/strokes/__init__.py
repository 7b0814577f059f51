"""A figure from strokes: one line drawn along each part in its pictures."""

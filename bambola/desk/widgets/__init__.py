"""Pieces the stations are put together from."""

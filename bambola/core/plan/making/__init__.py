"""Computes a plan's numbers from figure, brief and bench."""

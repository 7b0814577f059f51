"""Bambola: resize a needle-felted figure and plan its wool, wire and making order."""

__version__ = "0.1.0"

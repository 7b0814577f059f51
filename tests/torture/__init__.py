"""Hostile files, pictures, kills and hands, many of them, as one command: ``make torture``."""

"""The station *Face*."""

"""The state behind the window: the open design, the maker's bench, settings."""

"""Tools for those who work on the project; each is run by itself."""

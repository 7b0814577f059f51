"""The window round the stations: actions, files, start and exit."""

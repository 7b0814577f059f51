"""The station *Order*: the long thread, the figure as it stands, and how the maker works."""

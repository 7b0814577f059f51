"""The window: a thin shell that shows the plan and passes on what the maker asks."""

"""The look, the painters, and pieces that stations are put together from; none of them knows a station."""

"""The look, the painters, and widgets shared by the stations; none of them knows a station."""

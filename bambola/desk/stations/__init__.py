"""The stations of the work, one page each."""

STATIONS = ("Measure", "Resize", "Wire", "Wool", "Order")

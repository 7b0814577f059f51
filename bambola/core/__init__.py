"""The computations of the craft, without interface, clock or network."""

"""The station *Wire*: the walk over the skeleton, the wires along the ruler, the figure on the ground."""

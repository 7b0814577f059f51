"""The station *Resize*: the table with the two figures and the tape; its layout, painting and input."""

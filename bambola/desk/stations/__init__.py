"""The stations of the work, one page each."""

"""The pages of a packet, one file for each kind."""

"""The sums of the craft. No interface, no clock, no network."""

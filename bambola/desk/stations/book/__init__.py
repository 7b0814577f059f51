"""The station *Book*: every figure made, how it came out and what it cost."""

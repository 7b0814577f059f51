"""Speed, measured and printed beside its limit: ``python -m benchmarks``."""

"""Faults on purpose: what `make faults` does to the application as it is served, and what it found (docs/faults.md)."""

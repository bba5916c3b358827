"""Marks: each kind in a file of its own, from data to drawing operations to SVG text."""

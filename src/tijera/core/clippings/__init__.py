"""Clippings: what they are made of, and how they become pixels. What is hidden can't come out."""

"""Tijera: take a clipping of the screen, trim it, place it at the width of its column, hand it over under its limit."""

__version__ = "0.1.0"

"""Rounds: an area that is taken at set times, with nobody there."""

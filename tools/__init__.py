"""Tools for those who work on Tijera; none of them is part of it."""

"""Bringing what is written under its limit with the least loss: ladder, solver, verdict."""

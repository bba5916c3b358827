"""Containers whose untouched members stay equal to the byte."""

"""The HTTP interface in Take: sources, live views, frames, cuts, long pages."""

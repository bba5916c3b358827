"""The HTTP interface when something leaves: weight, limit, arrival, hand-overs."""

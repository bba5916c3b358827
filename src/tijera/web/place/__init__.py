"""The HTTP interface in Place: destinations, their texts and grids, spots, placements."""

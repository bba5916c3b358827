"""Open Packaging Conventions: what the office formats of ECMA-376 share."""

"""The HTTP interface of what was done before: files found again, what happened, where a clipping stands."""

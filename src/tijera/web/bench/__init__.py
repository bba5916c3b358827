"""The HTTP interface about the bench as a whole: what lies on it, options, keys."""

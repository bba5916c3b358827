"""The HTTP interface in Trim: marks, sheets, edits."""

"""The HTTP interface about the rack: clippings and slips."""

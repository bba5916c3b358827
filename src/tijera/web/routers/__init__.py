"""One module a noun; paths stand under `/api/v1`."""

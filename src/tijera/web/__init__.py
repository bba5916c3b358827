"""The HTTP interface and the built front end."""

"""The way to a mail server."""

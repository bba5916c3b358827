"""The postbox: a mail server that ships, so that sending can be tried without one. It judges with its own code."""

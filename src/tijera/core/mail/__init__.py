"""Sending a message: addresses, what a server's answer means, when it is tried again. Sends nothing itself."""

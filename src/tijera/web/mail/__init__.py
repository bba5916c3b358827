"""The HTTP interface of sending: the mail server, recipients, messages that wait or went."""

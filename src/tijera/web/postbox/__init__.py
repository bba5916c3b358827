"""The postbox seen from outside: what arrived in its mailboxes, and how it behaves."""

"""What one request does, in terms of core and store. Transactions begin and end here."""

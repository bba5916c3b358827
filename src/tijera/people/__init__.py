"""Several people on one server: who they are, how they sign in, and whose data a request is about."""

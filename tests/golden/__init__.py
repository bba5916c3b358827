"""Golden dumps of written packages: readable text, rewritten only by `make golden` and a reviewed diff."""

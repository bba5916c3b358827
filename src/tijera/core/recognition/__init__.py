"""Words that a picture shows: what a recogniser reads, and which of them somebody looks for."""

"""What is kept: SQLite in WAL mode for facts, a folder of files by SHA-256 for bytes."""

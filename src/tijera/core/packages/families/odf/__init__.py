"""OpenDocument: what its text documents and spreadsheets share (ISO/IEC 26300, ODF 1.2)."""

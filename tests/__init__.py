"""All tests: core (mirrors `src/tijera`), reference (against the outside), browser (the real interface)."""

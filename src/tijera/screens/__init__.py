"""Real screens behind the interface of every source."""

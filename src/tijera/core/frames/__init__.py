"""What a source showed at one moment, and what every source of frames can do."""
